#pragma once
#include "app/ledger/group_summary.hpp"

#include <QRectF>

#include <set>

namespace undisona {

/// A run of text on one line of a sentence.
struct LaidWord {
    QRectF box;
    QString text;
    QString field; ///< empty for plain words
};

struct LaidSentence {
    SentencePtr sentence;
    QRectF box;
    std::vector<LaidWord> words;
    bool leftOut = false; ///< by a sentence of the group Ask
    bool selected = false;
    QRectF tick; ///< the box that switches it off
    QRectF more; ///< adds a detail; empty unless selected and there are some
    std::vector<std::pair<QRectF, Finding>> findings;
};

/// Whether a take without it may be of use: of joints, supports and added mass.
bool mayBeTriedWithout(const Sentence&);

/// What the program takes for joined by itself; a click takes it apart.
struct LaidAssumption {
    QRectF box;
    QString text;
    std::string first, second; ///< names of the two parts; empty where it cannot be taken apart here
};

struct LaidGroup {
    Group group;
    GroupSummary summary;
    QRectF head, add, fold;
    bool folded = false;
    std::vector<LaidSentence> sentences;
    std::vector<LaidAssumption> assumptions{};
};

/// Places every group, sentence and word for a given width. Pure: no painting, no input.
struct LedgerLayout {
    std::vector<LaidGroup> groups;
    double height = 0.0, line = 0.0; ///< of a line of the font

    /// Sentences that are as they were `before` are only shifted.
    static LedgerLayout make(const Session&, double width, const std::string& selected, const std::set<Group>& folded,
                             const LedgerLayout& before);
    const LaidSentence* sentence(std::string_view id) const;
    const LaidWord* word(std::string_view id, const QString& field) const;
};

} // namespace undisona
