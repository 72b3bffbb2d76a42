#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class Plot;

/// Which excitation meets which mode, how far the others keep, and free windows of speed.
class ClashesPage : public Page {
    Q_OBJECT
public:
    ClashesPage(Session&, QWidget* parent);

private:
    void fill() override;
    void select() override;
    void explain();
    void fillSpeedPlot();
    ReadingTable* table_;
    QLabel *head_, *why_;
    Plot* plot_;
};

} // namespace undisona
