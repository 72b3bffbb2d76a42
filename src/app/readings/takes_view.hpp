#pragma once
#include "app/readings/page.hpp"

class QLineEdit;
class QPushButton;

namespace undisona {

/// Which take came from which, when and why, and what was changed on the way.
class TakesView : public QWidget {
    Q_OBJECT
public:
    TakesView(Session&, QWidget* parent);
    void fill();

private:
    void choose(int row); ///< of the tree
    void keepWords();     ///< name and note as they stand in the fields
    Session& session_;
    QLabel *above_, *changes_;
    ReadingTable* table_;
    QWidget* words_;
    QLineEdit *name_, *note_;
    QPushButton *use_, *remove_;
    std::vector<QString> ids_; ///< by row; empty: the live model
    QString chosen_;
};

} // namespace undisona
