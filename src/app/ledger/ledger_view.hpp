#pragma once
#include "app/ledger/ledger_layout.hpp"
#include "app/session/painted_items.hpp"

#include <QAbstractScrollArea>

namespace undisona {

class WordEditor;
class TableEditor;

/// The model as sentences that are their own editor.
class LedgerView : public QAbstractScrollArea, public PaintedItems {
    Q_OBJECT
public:
    LedgerView(Session&, QWidget* parent = nullptr);

    std::vector<PaintedItem> paintedItems() const override;
    QWidget* paintedWidget() override { return this; }
    QSize sizeHint() const override { return {318, 500}; }
    QSize minimumSizeHint() const override { return {220, 120}; }

    void addTo(Group);             ///< opens the chooser
    void add(const SentenceKind&); ///< below the selected sentence, its first word open
    void addBelow();
    void duplicateSelected();
    void removeSelected();
    void switchSelected();
    void moveSelected(int by);
    void openWord(const std::string& sentence, const QString& field);
    void showSentence(const std::string& id);

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    bool viewportEvent(QEvent*) override;
    void focusInEvent(QFocusEvent*) override;
    void focusOutEvent(QFocusEvent*) override;

private:
    void layOut();
    void paintGroup(QPainter&, const LaidGroup&) const;
    void paintSentence(QPainter&, const LaidSentence&) const;
    void pressed(const QPointF&, Qt::KeyboardModifiers);
    void moved(const QPointF&, bool dragging);
    void released(const QPointF&);
    void offerDetails(const LaidSentence&);
    void keepTakeWithout(const std::string& id); ///< the model without a sentence, as a take beside it
    void offerApart(const LaidAssumption&);
    void takeApart(const LaidAssumption&);
    Model apart(const LaidAssumption&, std::string& id) const; ///< the model with its parts not joined
    void leaveWord(int direction);
    void stepSelection(int by);
    double offset() const;
    QString nextField(const Sentence&, const QString& from, int direction) const;
    void announceRemoval(const Sentence&);

    Session& session_;
    LedgerLayout layout_;
    std::set<Group> folded_;
    WordEditor* editor_;
    TableEditor* table_;
    std::string dragged_, hovered_, lastWordSentence_;
    QString lastWordField_;
    QPointF pressedAt_;
    double dropLine_ = -1.0;
    std::size_t dropIndex_ = 0;
};

} // namespace undisona
