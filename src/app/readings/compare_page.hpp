#pragma once
#include "app/readings/page.hpp"

namespace undisona {

/// The staves beside each other, mode by mode.
class ComparePage : public Page {
    Q_OBJECT
public:
    ComparePage(Session&, QWidget* parent);

private:
    void fill() override;
    void fillIntervals();
    void select() override;
    QLabel* words_;
    ReadingTable* table_;
};

} // namespace undisona
