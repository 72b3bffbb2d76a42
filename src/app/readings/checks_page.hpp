#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class HandView;

/// What is wrong or odd, with what would mend it, and the figures of the run; and estimates by hand.
class ChecksPage : public PartedPage {
    Q_OBJECT
public:
    ChecksPage(Session&, QWidget* parent);

private:
    void fill() override;
    void fillPart(int part) override;
    HandView* hand_;
    void offer(const Finding*); ///< buttons for what would mend it; for none, the first finding that can be mended
    ReadingTable* table_;
    QWidget* cures_;
    std::vector<Cure> offered_;
    QLabel* figures_ = nullptr;
    QLabel* words_;
    Findings shownFindings_;
};

} // namespace undisona
