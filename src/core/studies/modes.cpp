#include "core/studies/modes.hpp"

#include "core/base/memory.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/studies/results_file.hpp"

namespace undisona {

namespace {

Result<ModesAnswer> found(const Model& model, const ModesOrder& order, const StudyRun& with)
{
    if (!order.results.empty()) {
        with.progress.stage("reading kept results");
        auto kept = keptModes(order.results, model);
        if (!kept) return kept.findings();
        if (!*kept) return Findings{};
        return std::move(**kept);
    }
    RunListener listener;
    if (with.partly)
        listener = {[&](const std::vector<double>& hertz) { with.partly(frequenciesOnTheWay, bytesOf(hertz)); },
                    [&](const FoundModes& modes) { with.partly(modesOnTheWay, bytesOfFound(modes)); }};
    forgetPeakMemory(); // of the runs before this one
    const auto solution = solve(model, with.progress, {.beside = order.beside, .kept = &with.kept}, listener);
    if (!solution) return solution.findings();
    return answerOf(**solution);
}

/// Whether everything in it is of one number of modes, so that it may be read without a further look.
bool fits(const Solution& solution)
{
    const auto modes = static_cast<Eigen::Index>(solution.modes.size());
    const auto rows = static_cast<Eigen::Index>(solution.energies.rows.size());
    const auto isOr = [](const auto& matrix, Eigen::Index high, Eigen::Index wide) {
        return matrix.size() == 0 || (matrix.rows() == high && matrix.cols() == wide);
    };
    for (Eigen::Index at = 0; at < modes; ++at)
        if (solution.modes[static_cast<std::size_t>(at)].number != at + 1) return false;
    for (const auto* shares : {&solution.energies.strain, &solution.energies.kinetic, &solution.energies.axial,
                               &solution.energies.twisting, &solution.energies.bending})
        if (!isOr(*shares, rows, modes)) return false;
    const Frame& frame = solution.structure->frame;
    const auto most = [&](OwnerKind of) {
        return of == OwnerKind::member  ? frame.members.size()
               : of == OwnerKind::sheet ? frame.sheets.size()
               : of == OwnerKind::solid ? frame.solids.size()
               : of == OwnerKind::point ? frame.points.size()
               : frame.faces            ? frame.faces->edges.size()
                                        : 0;
    };
    for (const auto& row : solution.energies.rows)
        if (row.owner < -1 || row.owner >= static_cast<int>(most(row.of))) return false;
    return isOr(solution.participation.factor, modes, 6) && isOr(solution.participation.effective, modes, 6) &&
           (solution.pieceErrors.size() == 0 || solution.pieceErrors.cols() == modes) &&
           (solution.residual.shapes.size() == 0 ||
            solution.residual.shapes.cols() == static_cast<Eigen::Index>(solution.residual.lambda.size()));
}

} // namespace

const ModesStudy& modesStudy()
{
    static const ModesStudy study{"modes", "natural frequencies and mode shapes", modesNeed(), found};
    return study;
}

ModesAnswer answerOf(const Solution& solution)
{
    return {planOf(solution.mesh), placesKey(solution.mesh), solution};
}

std::uint64_t placesKey(const FrameMesh& mesh)
{
    double largest = 1e-300;
    for (const auto& node : mesh.nodes)
        largest = std::max(largest, node.place.cwiseAbs().maxCoeff());
    // Places that are round numbers do not stand where rounding turns.
    constexpr double aside = 0.381966;
    std::uint64_t key = 14695981039346656037u; // Fowler, Noll and Vo's hash, 1991
    for (const auto& node : mesh.nodes)
        for (const double along : node.place)
            key = (key ^ static_cast<std::uint64_t>(std::llround(1e6 * along / largest + aside))) * 1099511628211u;
    return key;
}

Result<std::shared_ptr<const Solution>> modesFor(const Model& model, const std::optional<ModesAnswer>& own,
                                                 const StudyRun& with)
{
    return own ? solutionOf(model, Result<ModesAnswer>(*own)) : solve(model, with.progress, {.kept = &with.kept});
}

Result<std::shared_ptr<const Solution>> solutionOf(const Model& model, Result<ModesAnswer> answer, bool atRest)
{
    if (!answer) return answer.findings();
    auto built = buildStructure(model);
    if (hasError(built.findings)) return built.findings;
    auto solution = std::make_shared<Solution>(std::move(answer->found));
    solution->key = solveKey(model);
    if (atRest && AtRest(built.structure).isHeldOtherwise())
        solution->structure = std::make_shared<const Structure>(AtRest(built.structure).structure());
    else
        solution->structure = std::make_shared<const Structure>(std::move(built.structure));
    if (answer->plan.splits.size() != solution->structure->members.size() ||
        answer->plan.sizes.ofPart.size() != solution->structure->sheets.size() + solution->structure->solids.size())
        throw ArchiveError("the answer is of another model");
    solution->mesh = meshOf(*solution->structure, answer->plan.splits, answer->plan.sizes);
    solution->mass = massSummary(*solution->structure, solution->mesh);
    solution->system = std::make_shared<const System>(kinematicsOf(*solution->structure, solution->mesh));
    if (solution->shapes.rows() != solution->system->size() ||
        solution->shapes.cols() != static_cast<Eigen::Index>(solution->modes.size()))
        throw ArchiveError("the answer is of another model");
    if (!fits(*solution)) throw ArchiveError("parts of the answer are of different sizes");
    if (placesKey(solution->mesh) != answer->places) throw ArchiveError("the answer is of another mesh");
    return std::shared_ptr<const Solution>(std::move(solution));
}

std::string bytesOfFound(const FoundModes& found)
{
    ByteWriter out;
    out.put(FoundHead{found.mass, found.extraction.check.proven});
    out.put(found.plan);
    out.put(found.extraction);
    return out.bytes();
}

FoundModes foundFrom(std::string_view bytes)
{
    FoundHead head;
    FoundModes found;
    ByteReader in(bytes);
    in.get(head);
    in.get(found.plan);
    in.get(found.extraction);
    found.mass = std::move(head.mass);
    return found;
}

FoundHead headOfFound(std::string_view bytes)
{
    FoundHead head;
    ByteReader(bytes).get(head);
    return head;
}

} // namespace undisona
