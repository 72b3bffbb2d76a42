#pragma once
#include "app/session/session.hpp"

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

namespace undisona {

/// "What do you want to say?": the kinds of sentence, found by any word of theirs.
class SentenceChooser : public QDialog {
    Q_OBJECT
public:
    /// Offers the group's own kinds first.
    SentenceChooser(Group group, QWidget* parent);
    const SentenceKind* chosen() const { return chosen_; }

    /// What to say to somebody who looks for a force; empty if the text asks for none.
    static QString aboutForces(const QString& text);

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void fill();
    void choose();

    Group group_;
    QLineEdit* line_;
    QListWidget* list_;
    QLabel* help_;
    const SentenceKind* chosen_ = nullptr;
};

} // namespace undisona
