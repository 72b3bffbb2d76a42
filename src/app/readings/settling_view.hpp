#pragma once
#include "app/readings/page.hpp"

class QPushButton;

namespace undisona {

class Plot;

/// How the frequencies settle as the mesh gets finer: a plot over the number of unknowns and a table.
class SettlingView : public QWidget {
    Q_OBJECT
public:
    SettlingView(Session&, QWidget* parent);
    void fill();
    void select();

private:
    void fillPlot(const Settling&);
    void fillTable(const Settling&);
    Session& session_;
    QLabel* words_;
    QPushButton* run_;
    Plot* plot_;
    ReadingTable* table_;
};

} // namespace undisona
