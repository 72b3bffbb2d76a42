#pragma once
#include "app/readings/page.hpp"

class QPushButton;

namespace undisona {

/// How much the places that are kept in view move in the mode or the static state that is shown, and the stress there.
class ValuesView : public QWidget {
    Q_OBJECT
public:
    /// `name` begins those of what is in it.
    ValuesView(Session&, const QString& name, QWidget* parent);
    void fill();

private:
    void fillState();
    void put(const std::vector<std::vector<ReadingTable::Cell>>&, const std::vector<int>& keys);

    Session& session_;
    QLabel* words_;
    ReadingTable* table_;
    QPushButton* drop_;
    int chosen_ = -1;
};

} // namespace undisona
