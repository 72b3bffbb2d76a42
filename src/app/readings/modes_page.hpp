#pragma once
#include "app/readings/page.hpp"

namespace undisona {

/// The modes of the shown stave, a row each, with the proof below them.
class ModesPage : public Page {
    Q_OBJECT
public:
    ModesPage(Session&, QWidget* parent);
    ReadingTable& table() { return *table_; }

private:
    void fill() override;
    void select() override;
    ReadingTable* table_;
    QLabel* proof_;
};

} // namespace undisona
