#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class Plot;

/// How much mass takes part, by mode and direction, and in sum.
class MassPage : public Page {
    Q_OBJECT
public:
    MassPage(Session&, QWidget* parent);

private:
    void fill() override;
    void fillSoFar();
    void select() override;
    QLabel *words_, *remark_;
    Plot* plot_;
    ReadingTable* table_;
};

} // namespace undisona
