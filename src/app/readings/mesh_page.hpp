#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class Plot;
class SettlingView;

/// How sheet and solids are meshed: sizes, the histogram of shapes, the worst elements; and how the frequencies settle
/// on other meshes.
class MeshPage : public PartedPage {
    Q_OBJECT
public:
    MeshPage(Session&, QWidget* parent);
    void showSettling() { showPart(1); }

private:
    void fill() override;
    void fillPart(int part) override;
    void select() override;
    QLabel* words_;
    SettlingView* settling_;
    Plot* plot_;
    ReadingTable* table_;
};

} // namespace undisona
