#pragma once
#include "app/session/search_dialog.hpp"
#include "app/session/session.hpp"

#include <QLabel>

namespace undisona {

/// "What do you want to say?": the kinds of sentence, each with a drawing and as it reads with example words; in families
/// of what they do, those used lately first; found by any word of theirs, or by what the trade also calls them.
class SentenceChooser : public SearchDialog {
    Q_OBJECT
public:
    /// Offers the group's own kinds first.
    SentenceChooser(Group group, QWidget* parent);
    const SentenceKind* chosen() const { return chosen_; }

    /// What to say to somebody who looks for a force; empty if the text asks for none.

private:
    void fill() override;
    void choose() override;
    void addHeading(const QString&);
    void addKind(const SentenceKind&);

    Group group_;
    QLabel* help_;
    const SentenceKind* chosen_ = nullptr;
};

} // namespace undisona
