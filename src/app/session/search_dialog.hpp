#pragma once
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

namespace undisona {

/// A line to type in above a list of what fits: arrows walk the list while the line has the keys, Enter or a click
/// chooses.
class SearchDialog : public QDialog {
    Q_OBJECT
public:
    SearchDialog(const QString& title, const QString& prompt, QWidget* parent);

protected:
    bool eventFilter(QObject*, QEvent*) override;
    virtual void fill() = 0; ///< the list anew, from the line's text
    virtual void choose() = 0;

    QLineEdit* line_;
    QListWidget* list_;
    QVBoxLayout* column_;
};

} // namespace undisona
