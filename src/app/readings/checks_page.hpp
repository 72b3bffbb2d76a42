#pragma once
#include "app/readings/page.hpp"

namespace undisona {

/// What is wrong or odd, with what would mend it, and the figures of the run.
class ChecksPage : public Page {
    Q_OBJECT
public:
    ChecksPage(Session&, QWidget* parent);

private:
    void fill() override;
    void offer(const Finding*); ///< buttons for what would mend it; for none, the first finding that can be mended
    ReadingTable* table_;
    QWidget* cures_;
    std::vector<Cure> offered_;
    QLabel* figures_ = nullptr;
    QLabel* words_;
    Findings shownFindings_;
};

} // namespace undisona
