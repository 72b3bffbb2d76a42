#pragma once
#include "app/score/note_painter.hpp"
#include "app/score/score_axis.hpp"
#include "app/session/painted_items.hpp"
#include "app/session/session.hpp"

namespace undisona {

/// The frequency axis under everything: a stave for each take, a note for each mode, a band for each
/// excitation order.
class ScoreView : public QWidget, public PaintedItems {
    Q_OBJECT
public:
    ScoreView(Session&, QWidget* parent = nullptr);

    std::vector<PaintedItem> paintedItems() const override;
    QWidget* paintedWidget() override { return this; }
    QSize sizeHint() const override { return {1000, 208}; }
    QSize minimumSizeHint() const override { return {400, 120}; }

    void setUnit(AxisUnit);
    void setLogarithmic(bool);
    const ScoreAxis& axis() const { return axis_; }
    void showAll();          ///< the range that holds every mode and band
    void showWhatMatters();  ///< without modes far above all that shakes
    int modesBeyond() const; ///< of the shown stave, above the range
    /// Note heights show how strongly the excitation drives each mode; empty for effective mass.
    void setHeightsBy(const QString& excitation);
    const QString& heightsBy() const { return heightsBy_; }
    /// Where the numbers of notes are written, and what.
    const std::vector<std::pair<QRectF, QString>>& labels() const { return labels_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void leaveEvent(QEvent*) override;
    bool event(QEvent*) override;

private:
    struct Note {
        std::size_t stave;
        int mode;
        QPointF centre;
        double base; ///< y of the stave's line
        NoteLook look;
        double radius;
        bool faint;
        const ClashPair* worst = nullptr; ///< the worst verdict of this mode, if it is clash or close
        std::array<double, 4> range{};    ///< Hz: its worst ends, and those of nine of ten; zeros where none is known
    };
    struct Band {
        std::string sentence;
        QString name;
        double order, low, high, margin;
        double left, right, outerLeft, outerRight;
        bool turns;
    };
    void layOut();
    void layOutNotes(std::size_t stave, double top, double height);
    void paintTried(QPainter&) const;
    void paintBands(QPainter&) const;
    void paintStave(QPainter&, std::size_t) const;
    void paintPairs(QPainter&) const;
    void paintAxis(QPainter&) const;
    void paintLabels(QPainter&) const;
    const Note* noteAt(const QPointF&) const;
    const Band* bandAt(const QPointF&) const;
    QString noteWords(const Note&) const;
    QString bandWords(const Band&) const;
    void dragBand(double pixel);
    void refresh();

    Session& session_;
    ScoreAxis axis_;
    bool fitted_ = true; ///< the range follows the model,
    bool all_ = false;   ///< with every mode in it
    QString heightsBy_;
    std::vector<Note> notes_;
    std::vector<Band> bands_;
    std::vector<QRectF> staveRooms_;
    std::size_t firstStave_ = 0;
    std::vector<std::pair<QRectF, QString>> labels_; ///< of notes, laid out so that none collide
    struct Drag {
        enum class What { none, pan, band } what = What::none;
        QPointF from;
        double hertz = 0.0;
        std::string sentence;
        double order = 1.0, low = 0.0, high = 0.0;
        bool moved = false;
    } drag_;
    int serial_ = 0;
};

} // namespace undisona
