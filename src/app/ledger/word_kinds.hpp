#pragma once
#include "app/session/session.hpp"

namespace undisona {

inline QString q(const std::string& text)
{
    return QString::fromStdString(text);
}

/// What may be chosen for a word: the text that is taken, and what is shown of it where that is more.
struct WordOffer {
    QString text, shown{};
};
std::vector<WordOffer> offersFor(const Session&, const Sentence&, const Field&);

/// How a word of a sentence was understood, for the line below it; empty where there is nothing to say.
QString understoodAs(const Session&, const Sentence&, const Field&, const Value&);

/// The path of a file that is named from the document's folder, or as a whole; with no name, that folder.
QString wholePath(const Session&, const QString& file);

} // namespace undisona
