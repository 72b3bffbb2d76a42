#pragma once
#include "core/modal/solve.hpp"

#include <optional>
#include <string>
#include <string_view>

namespace undisona {

/// What the window and the engine's own process say to each other over the engine's standard streams. Every message is
/// a head of 16 bytes (mark, kind, length of the body) and its body; both are the same program on the same machine, so
/// numbers go as they lie in memory.
enum class MessageKind : std::uint32_t {
    hello,       ///< engine, once: its version, as text
    run,         ///< window: a document whose live model is to be solved, as JSON text
    runOnMesh,   ///< window: MeshOrder, the same on a mesh that the window has chosen
    estimate,    ///< window: a document as for a run, to be told what one would cost
    stop,        ///< window: end the run with what it has
    stage,       ///< engine: StageWord
    frequencies, ///< engine: those that have converged, Hz
    modes,       ///< engine: FoundModes
    estimated,   ///< engine: EstimateAnswer
    done,        ///< engine: RunAnswer, the last message of a run
};

/// What the engine calls itself at the beginning: window and engine must be of one build.
const char* engineVersion();

struct Message {
    MessageKind kind;
    std::string body;
};

std::string framed(MessageKind, const std::string& body = {});

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

struct StageWord {
    std::string stage;
    double fraction = -1.0;
};

struct MeshOrder {
    std::string document; ///< as for a run
    MeshPlan plan;
};

/// A finding when a run would be refused; else in words.
struct EstimateAnswer {
    std::string words;
    Findings refused;
};

// Bodies. Reading throws ArchiveError (base/archive.hpp) where the bytes cannot be meant.

std::string bodyOf(const StageWord&);
std::string bodyOf(const MeshOrder&);
std::string bodyOf(const std::vector<double>& hertz);
std::string bodyOf(const FoundModes&);
std::string bodyOf(const EstimateAnswer&);
/// The answer of a run; what follows from the model at no cost (structure, mesh, motions) stays behind.
std::string bodyOf(const Result<std::shared_ptr<const Solution>>&);

MeshOrder meshOrderFrom(std::string_view body);
StageWord stageFrom(std::string_view body);
std::vector<double> frequenciesFrom(std::string_view body);
FoundModes modesFrom(std::string_view body);
/// The little of them that is looked at while the run goes on; the rest is not read.
struct FoundHead {
    MassSoFar mass;
    bool proven = false;
};
FoundHead headOfModes(std::string_view body);
EstimateAnswer estimateFrom(std::string_view body);
/// The solution of this very model; its system holds motions and elements, no matrices.
Result<std::shared_ptr<const Solution>> answerFrom(std::string_view body, const Model&);

} // namespace undisona
