#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class MatrixView;
class TakesView;

/// The staves beside each other, mode by mode or every mode against every other; and which take came from which.
class ComparePage : public PartedPage {
    Q_OBJECT
public:
    ComparePage(Session&, QWidget* parent);

private:
    void fill() override;
    void fillPart(int part) override;
    void fillModes();
    void fillIntervals();
    void select() override;
    std::size_t other() const; ///< the stave that the live model is compared with; not less than there are if none
    QLabel* words_;
    ReadingTable* table_;
    MatrixView* matrix_;
    TakesView* takes_;
};

} // namespace undisona
