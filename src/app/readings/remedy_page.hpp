#pragma once
#include "app/readings/page.hpp"
#include "core/remedy/remedy.hpp"

class QCheckBox;
class QComboBox;
class QLineEdit;
class QPushButton;

namespace undisona {

class ClashesPage;
class SweepView;
class ToleranceView;

/// Which excitation meets which mode, and what moves it out of the way: changes that do it, each a click away from
/// being a take; what each word of the model is worth to it; one word over a range.
class RemedyPage : public PartedPage {
    Q_OBJECT
public:
    RemedyPage(Session&, QWidget* parent);
    void showClashes() { showPart(0); }
    void showRemedy() { showPart(1); }
    void find(); ///< as the words above say

signals:
    void massMapWanted(); ///< where a kilogram does most
    void springMapWanted();

private:
    void fill() override;
    void fillPart(int part) override;
    void select() override;
    void hideEvent(QHideEvent*) override;
    QWidget* makeQuestion();
    void fillProposals(const Remedy&);
    void fillWords(const Remedy&);
    void fillPromises();
    void preview(int proposal);
    void take();
    std::optional<RemedyOrder> order(); ///< nothing where a word cannot be read, which is said
    int modeAsked() const;

    QComboBox* way_;
    QLineEdit *hertz_, *most_, *notOn_, *sections_;
    QCheckBox *masses_, *props_, *struts_, *said_;
    QPushButton *find_, *take_, *everyWord_;
    QLabel *answer_, *promises_, *wordsAbove_;
    ReadingTable *table_, *words_;
    SweepView* sweep_;
    ToleranceView* tolerances_;
    ClashesPage* clashes_;
    std::optional<Remedy> shown_;
    int chosen_ = -1;
};

} // namespace undisona
