#pragma once
#include "app/readings/page.hpp"

#include <QCheckBox>
#include <QLineEdit>

namespace undisona {

/// The modes of the shown stave, a row each, with what tells the one in view from the others and the proof below.
class ModesPage : public Page {
    Q_OBJECT
public:
    ModesPage(Session&, QWidget* parent);
    ReadingTable& table() { return *table_; }
    void startNaming(); ///< the keys go to the name of the mode in view

private:
    void fill() override;
    void select() override;
    void tellOfShown();
    QString foldWords(const Solution&) const;

    ReadingTable* table_;
    QCheckBox* fold_;
    QLineEdit* name_; ///< of the mode in view
    QLabel *about_, *proof_;
    std::vector<int> listed_; ///< numbers of the modes in the table
};

} // namespace undisona
