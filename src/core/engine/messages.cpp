#include "core/engine/messages.hpp"

#include "core/base/archive.hpp"

namespace undisona {

inline auto fields(Statement& of)
{
    return std::tie(of.kind, of.sentence, of.row, of.words);
}
inline auto fields(Cure& of)
{
    return std::tie(of.words, of.statements);
}
inline auto fields(Finding& of)
{
    return std::tie(of.severity, of.what, of.remedy, of.sentence, of.place, of.mode, of.cures);
}
inline auto fields(StageWord& of)
{
    return std::tie(of.stage, of.fraction);
}
inline auto fields(EstimateAnswer& of)
{
    return std::tie(of.words, of.refused);
}
inline auto fields(CountCheck& of)
{
    return std::tie(of.aboveHz, of.belowHz, of.expected, of.found, of.before, of.method, of.proven, of.shown,
                    of.lastHz, of.cutHz);
}
inline auto fields(RunRecord& of)
{
    return std::tie(of.shifts, of.held, of.factorisations, of.blockSolves, of.restarts, of.block, of.lookedAgain,
                    of.factorEntries, of.orthogonality, of.countGrowth, of.keptFactor, of.keptModes, of.countByUpdate);
}
inline auto fields(Extraction& of)
{
    return std::tie(of.lambda, of.shapes, of.acceptedError, of.residual, of.floor, of.rigid, of.mechanisms,
                    of.nextLambda, of.all, of.ritz, of.cutShort, of.check, of.record);
}
inline auto fields(ResidualVectors& of)
{
    return std::tie(of.lambda, of.shapes, of.loads, of.staticError);
}
inline auto fields(MassSoFar& of)
{
    return std::tie(of.hertz, of.sums);
}
inline auto fields(FoundHead& of)
{
    return std::tie(of.mass, of.proven);
}
inline auto fields(SizeField::Source& of)
{
    return std::tie(of.place, of.size, of.growth);
}
inline auto fields(MeshSizes& of)
{
    return std::tie(of.ofPart, of.places, of.ofStated);
}
inline auto fields(MeshPlan& of)
{
    return std::tie(of.splits, of.sizes);
}
inline auto fields(MeshOrder& of)
{
    return std::tie(of.document, of.plan);
}
inline auto fields(Mode& of)
{
    return std::tie(of.number, of.group, of.lambda, of.frequency, of.rigid, of.mechanism, of.ritz, of.acceptedError,
                    of.residual, of.floor, of.meshError, of.meshErrorEither, of.name);
}
inline auto fields(Participation& of)
{
    return std::tie(of.reference, of.total, of.movable, of.factor, of.effective);
}
inline auto fields(EnergyRow& of)
{
    return std::tie(of.kind, of.sentence, of.of, of.owner, of.name);
}
inline auto fields(Energies& of)
{
    return std::tie(of.rows, of.strain, of.kinetic, of.axial, of.twisting, of.bending);
}
inline auto fields(HandEstimate& of)
{
    return std::tie(of.sentence, of.deflection, of.stiffness, of.mass, of.frequency, of.nearestMode);
}

namespace {

/// Stands for a value of any type while members are counted.
struct Anything {
    template <class T>
    operator T() const; // never called
};

/// How many members an aggregate has: as many values as it can begin with.
template <class T, class... Values>
consteval std::size_t memberCount()
{
    if constexpr (requires { T{Values{}..., Anything{}}; })
        return memberCount<T, Values..., Anything>();
    else
        return sizeof...(Values);
}

template <class... T>
consteval bool allNamed()
{
    return ((std::tuple_size_v<decltype(fields(std::declval<T&>()))> == memberCount<T>()) && ...);
}
// A member that is added to one of these and not to its fields above would be left behind without a word.
static_assert(allNamed<Statement, Cure, Finding, StageWord, EstimateAnswer, CountCheck, RunRecord, Extraction,
                       ResidualVectors, MassSoFar, FoundHead, SizeField::Source, MeshSizes, MeshPlan, MeshOrder, Mode,
                       Participation, EnergyRow, Energies, HandEstimate>());

/// A solution without what follows from the model.
struct SolutionBody {
    MeshPlan plan;
    Solution found;
};
auto fields(SolutionBody& of)
{
    Solution& s = of.found;
    return std::tie(of.plan, s.shapes, s.modes, s.pieceErrors, s.shift, s.allModes, s.ritz, s.residual, s.participation,
                    s.energies, s.count, s.record, s.handChecks, s.findings, s.timings, s.peakMemoryMb, s.stopped);
}

template <class T>
std::string bytesOf(const T& value)
{
    ByteWriter out;
    out.put(value);
    return out.bytes();
}

template <class T>
T valueFrom(std::string_view body)
{
    T value;
    ByteReader in(body);
    in.get(value);
    if (!in.atEnd()) throw ArchiveError("a message is longer than what it says");
    return value;
}

struct Head {
    std::uint32_t mark = 0x4e554431; // "1DUN"
    MessageKind kind = MessageKind::hello;
    std::uint64_t length = 0;
};
static_assert(sizeof(Head) == 16);

} // namespace

const char* engineVersion()
{
    return "undisona " UNDISONA_VERSION ", messages 5";
}

std::string framed(MessageKind kind, const std::string& body)
{
    const Head head{.kind = kind, .length = body.size()};
    std::string message(reinterpret_cast<const char*>(&head), sizeof head);
    return message += body;
}

std::optional<Message> MessageReader::next()
{
    Head head;
    if (broken_ || bytes_.size() - at_ < sizeof head) return std::nullopt;
    std::memcpy(&head, bytes_.data() + at_, sizeof head);
    if (head.mark != Head{}.mark || head.kind > MessageKind::done || head.length > (std::uint64_t(1) << 40)) {
        broken_ = true;
        return std::nullopt;
    }
    if (bytes_.size() - at_ - sizeof head < head.length) return std::nullopt;
    Message message{head.kind, bytes_.substr(at_ + sizeof head, head.length)};
    at_ += sizeof head + head.length;
    if (at_ > bytes_.size() / 2) {
        bytes_.erase(0, at_);
        at_ = 0;
    }
    return message;
}

std::string bodyOf(const StageWord& word)
{
    return bytesOf(word);
}
std::string bodyOf(const MeshOrder& order)
{
    return bytesOf(order);
}
std::string bodyOf(const std::vector<double>& hertz)
{
    return bytesOf(hertz);
}
std::string bodyOf(const FoundModes& found)
{
    ByteWriter out;
    out.put(FoundHead{found.mass, found.extraction.check.proven});
    out.put(found.plan);
    out.put(found.extraction);
    return out.bytes();
}
std::string bodyOf(const EstimateAnswer& answer)
{
    return bytesOf(answer);
}

std::string bodyOf(const Result<std::shared_ptr<const Solution>>& answer)
{
    ByteWriter out;
    out.put(bool(answer));
    if (!answer) {
        out.put(answer.findings());
        return out.bytes();
    }
    const Solution& solution = **answer;
    SolutionBody body{planOf(solution.mesh), solution};
    out.put(body);
    return out.bytes();
}

StageWord stageFrom(std::string_view body)
{
    return valueFrom<StageWord>(body);
}
MeshOrder meshOrderFrom(std::string_view body)
{
    return valueFrom<MeshOrder>(body);
}
std::vector<double> frequenciesFrom(std::string_view body)
{
    return valueFrom<std::vector<double>>(body);
}
FoundModes modesFrom(std::string_view body)
{
    FoundHead head;
    FoundModes found;
    ByteReader in(body);
    in.get(head);
    in.get(found.plan);
    in.get(found.extraction);
    found.mass = std::move(head.mass);
    return found;
}
FoundHead headOfModes(std::string_view body)
{
    FoundHead head;
    ByteReader(body).get(head);
    return head;
}
EstimateAnswer estimateFrom(std::string_view body)
{
    return valueFrom<EstimateAnswer>(body);
}

Result<std::shared_ptr<const Solution>> answerFrom(std::string_view body, const Model& model)
{
    ByteReader in(body);
    bool solved = false;
    in.get(solved);
    if (!solved) {
        Findings findings;
        in.get(findings);
        return findings;
    }
    SolutionBody read;
    in.get(read);
    auto built = buildStructure(model);
    if (hasError(built.findings)) return built.findings;
    auto solution = std::make_shared<Solution>(std::move(read.found));
    solution->key = solveKey(model);
    solution->structure = std::make_shared<const Structure>(std::move(built.structure));
    if (read.plan.splits.size() != solution->structure->members.size() ||
        read.plan.sizes.ofPart.size() != solution->structure->sheets.size() + solution->structure->solids.size())
        throw ArchiveError("the answer is of another model");
    solution->mesh = meshOf(*solution->structure, read.plan.splits, read.plan.sizes);
    solution->mass = massSummary(*solution->structure, solution->mesh);
    solution->system = std::make_shared<const System>(kinematicsOf(*solution->structure, solution->mesh));
    if (solution->shapes.rows() != solution->system->size() ||
        solution->shapes.cols() != static_cast<Eigen::Index>(solution->modes.size()))
        throw ArchiveError("the answer is of another model");
    return std::shared_ptr<const Solution>(std::move(solution));
}

} // namespace undisona
