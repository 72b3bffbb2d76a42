#pragma once
#include "app/session/autosave.hpp"

#include <QDialog>

#include <functional>

class QListWidget;
class QPushButton;

namespace undisona {

/// The unsaved work that windows that are gone left behind: bring one back, delete one, or leave all for later. To close
/// the dialog deletes nothing.
class RecoverDialog : public QDialog {
    Q_OBJECT
public:
    RecoverDialog(std::shared_ptr<std::vector<LeftBehind>>, QWidget* parent, std::function<void(LeftBehind)> bringBack);

private:
    void fill();
    void select();
    void removeChosen();

    std::shared_ptr<std::vector<LeftBehind>> left_;
    QListWidget* list_;
    QPushButton *bring_, *remove_;
};

} // namespace undisona
