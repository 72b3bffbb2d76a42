#pragma once
#include "app/readings/page.hpp"
#include "app/session/painted_items.hpp"

namespace undisona {

/// How alike every mode of one stave is to every mode of another: a field a pair, the fuller the more alike.
class MatrixField : public QWidget, public PaintedItems {
    Q_OBJECT
public:
    MatrixField(Session&, QWidget* parent);
    void show(const Eigen::MatrixXd& assurance, std::vector<ModePair> pairs); ///< rows: modes of the first
    void choose(int row, int column);
    std::array<int, 2> chosen() const { return chosen_; } ///< from 0; -1: none
    std::vector<PaintedItem> paintedItems() const override;
    QWidget* paintedWidget() override { return this; }
    QSize minimumSizeHint() const override { return {160, 160}; }

signals:
    void chose(int row, int column);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    bool event(QEvent*) override;

private:
    double side() const; ///< of a field, pixels
    QRectF fieldAt(int row, int column) const;
    std::array<int, 2> at(const QPointF&) const;
    bool isPair(int row, int column) const;
    Session& session_;
    Eigen::MatrixXd assurance_;
    std::vector<ModePair> pairs_;
    std::array<int, 2> chosen_{-1, -1};
};

/// That field with what it says in words: modes that changed places, mixtures, and the pair that is chosen.
class MatrixView : public QWidget {
    Q_OBJECT
public:
    MatrixView(Session&, QWidget* parent);
    /// Of the live model and the stave that it is compared with; empty where either is not solved.
    void fill(const Stave* now, const Stave* before);
    void select();

private:
    void tell(int row, int column);
    Session& session_;
    QLabel *words_, *pair_;
    MatrixField* field_;
    std::array<std::shared_ptr<const Solution>, 2> of_;
    std::array<QString, 2> names_;
    std::array<ModeNames, 2> modeNames_;
    Eigen::MatrixXd assurance_;
};

} // namespace undisona
