#pragma once
#include "core/studies/study.hpp"

namespace undisona {

/// What the window and the engine's own process say to each other over the engine's standard streams. Every message is
/// a head of 24 bytes (mark, kind, number of the order, length of the body) and its body; both are the same program on
/// the same machine, so numbers go as they lie in memory.
enum class MessageKind : std::uint32_t {
    hello,  ///< engine, once: its version, as text
    order,  ///< window: StudyOrder, under a number of its own
    stop,   ///< window: end what is going on, and what waits, with what there is
    stage,  ///< engine: StageWord
    partly, ///< engine: PartlyWord, what an order has found so far
    done,   ///< engine: the study's answer, the last message of an order
};

/// What the engine calls itself at the beginning: window and engine must be of one build.
const char* engineVersion();

struct Message {
    MessageKind kind;
    std::uint64_t order = 0; ///< the number that the order came with; 0: of none
    std::string body;
};

std::string framed(MessageKind, std::uint64_t order = 0, std::string_view body = {});
/// Its head alone, before a body of so many bytes.
std::string headOf(MessageKind, std::uint64_t order, std::uint64_t length);

/// Puts messages together from the pieces that a stream brings.
class MessageReader {
public:
    void feed(std::string_view piece) { bytes_.append(piece); }
    std::optional<Message> next();
    bool broken() const { return broken_; } ///< something else than messages came; nothing more is read

private:
    std::string bytes_;
    std::size_t at_ = 0;
    bool broken_ = false;
};

/// A study of a document's live model.
struct StudyOrder {
    std::string study;    ///< Study::key
    std::string document; ///< as JSON text
    std::string options;  ///< bytes, as the study has them
};
inline auto fields(StudyOrder& of)
{
    return named("study document options", of.study, of.document, of.options);
}

struct StageWord {
    std::string stage;
    double fraction = -1.0;
};
inline auto fields(StageWord& of)
{
    return named("stage fraction", of.stage, of.fraction);
}

struct PartlyWord {
    std::string what; ///< as the study has it
    std::string bytes;
};
inline auto fields(PartlyWord& of)
{
    return named("what bytes", of.what, of.bytes);
}

} // namespace undisona
