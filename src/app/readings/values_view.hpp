#pragma once
#include "app/readings/page.hpp"

class QPushButton;

namespace undisona {

/// How much the places that are kept in view move in the mode that is shown.
class ValuesView : public QWidget {
    Q_OBJECT
public:
    ValuesView(Session&, QWidget* parent);
    void fill();

private:
    Session& session_;
    QLabel* words_;
    ReadingTable* table_;
    QPushButton* drop_;
    int chosen_ = -1;
};

} // namespace undisona
