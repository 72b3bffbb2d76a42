#include "core/model/called.hpp"

#include "core/model/grammar.hpp"

namespace undisona {

std::string called(const Sentence& sentence)
{
    for (const char* key : {"name", "label"})
        if (sentence.kind->field(key) && sentence.has(key)) return sentence.text(key);
    return wordsOf(sentence);
}

} // namespace undisona
