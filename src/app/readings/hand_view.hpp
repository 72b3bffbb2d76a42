#pragma once
#include "app/readings/page.hpp"
#include "core/assess/by_hand.hpp"

class QPushButton;

namespace undisona {

class ReadingTable;

/// Estimates by hand beside the modes.
class HandView : public QWidget {
    Q_OBJECT
public:
    HandView(Session&, QWidget* parent);
    void fill();

private:
    void tell(int key); ///< where a row comes from
    Session& session_;
    QLabel *words_, *from_;
    QPushButton* run_;
    ReadingTable* table_;
    std::vector<HandComparison> rows_;
};

} // namespace undisona
