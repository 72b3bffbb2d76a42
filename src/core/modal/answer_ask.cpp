#include "core/modal/answer_ask.hpp"

#include "core/modal/pencil_of.hpp"
#include "core/pencil/interior.hpp"

#include <fmt/format.h>

namespace undisona {

bool targetReached(const Participation& participation, const Ask& ask, Eigen::Index modes)
{
    if (modes < 1) return false;
    for (int direction = 0; direction < 3; ++direction) {
        if (!ask.directions[static_cast<std::size_t>(direction)]) continue;
        if (participation.movable[direction] <= 1e-12 * participation.total[direction]) continue;
        if (participation.sumFor(ask, modes - 1, direction) < ask.target(direction)) return false;
    }
    return true;
}

Eigen::MatrixXd loadsOf(const LoadPatterns& patterns, const System& system)
{
    std::vector<Eigen::VectorXd> loads;
    for (int direction = 0; direction < 3; ++direction) {
        if (!patterns.directions[static_cast<std::size_t>(direction)]) continue;
        if (patterns.from != LoadPatterns::From::force) { // weight along a direction is a base acceleration along it
            loads.push_back(system.baseLoad.col(direction));
            continue;
        }
        for (const int point : patterns.points) {
            const auto& motion = system.motions.nodes[static_cast<std::size_t>(point)];
            Eigen::VectorXd load = Eigen::VectorXd::Zero(system.size());
            for (std::size_t at = 0; at < motion.unknowns.size(); ++at)
                load[motion.unknowns[at]] += motion.basis(direction, static_cast<Eigen::Index>(at));
            loads.push_back(std::move(load));
        }
    }
    Eigen::MatrixXd all(system.size(), static_cast<Eigen::Index>(loads.size()));
    for (std::size_t at = 0; at < loads.size(); ++at)
        all.col(static_cast<Eigen::Index>(at)) = loads[at];
    return all;
}

namespace {

/// How many modes suffice for the targets, by the work of the base accelerations' loads on them; 0: all do not.
Eigen::Index sufficient(const Ask& ask, const Participation& whole, const Eigen::MatrixXd& work)
{
    Participation participation = whole;
    participation.effective = work.cwiseAbs2();
    Eigen::Index modes = work.rows();
    if (!targetReached(participation, ask, modes)) return 0;
    while (modes > 1 && targetReached(participation, ask, modes - 1))
        --modes;
    return modes;
}

std::vector<MissingMass> missingOf(const Ask& ask, const System& system, const MassSummary& mass,
                                   ModeExtractor& extractor, const Eigen::MatrixXd& shapes)
{
    std::vector<MissingMass> missing;
    const auto participation = participationOf(system, shapes, mass, ask.reference.value_or(mass.centre));
    for (int direction = 0; direction < 3; ++direction) {
        if (!ask.directions[static_cast<std::size_t>(direction)]) continue;
        const double whole = ask.ofMovable ? participation.movable[direction] : participation.total[direction];
        const double wanted = ask.target(direction) * whole - participation.effective.col(direction).sum();
        if (!(wanted > 1e-9 * whole)) continue;
        if (auto found = missingMass(system, extractor, shapes, direction, wanted)) {
            found->share = wanted / whole;
            missing.push_back(*found);
        }
    }
    return missing;
}

Result<Answer> findLowest(const Ask& ask, const System& system, const MassSummary& mass, Progress& progress,
                          const ModeListener& listener, KeptRuns* kept, bool prove)
{
    progress.stage("factorise");
    const auto pencil = pencilOf(system);
    if (!pencil) return pencil.findings();
    auto prepared = ModeExtractor::prepare(*pencil, progress, kept, ask.count);
    if (!prepared) return prepared.findings();
    ModeExtractor& extractor = **prepared;
    ModeRequest request{.most = extractor.rigidMotions() + ask.count, // which are no answer: they come in addition
                        .prove = prove && ask.prove,
                        .tolerance = ask.tolerance,
                        .last = ask.until != Ask::Until::massShare && !ask.residual};
    if (ask.until == Ask::Until::all) {
        constexpr Eigen::Index most = 2500;
        if (system.size() > most)
            return errorAt(ask.sentence,
                           fmt::format("every mode of {} unknowns is too many; {} can be asked", system.size(), most),
                           "Ask for all modes up to a frequency, or in a band.");
        request.most = system.size();
    }
    if (ask.until == Ask::Until::frequency) request.upTo = ask.frequency;
    const bool aims =
        ask.until == Ask::Until::massShare ||
        (ask.until == Ask::Until::ritz && (ask.share > 0.0 || ask.shareAlong != decltype(ask.shareAlong){}));
    const Eigen::Vector3d reference = ask.reference.value_or(mass.centre);
    Participation whole; // which costs a solve with the mass
    if (aims) {
        whole = participationOf(system, Eigen::MatrixXd(system.size(), 0), mass, reference);
        request.enough = [&](const Eigen::MatrixXd& work) { return sufficient(ask, whole, work); };
        request.watched = system.baseLoad.leftCols<3>();
    }
    Answer answer;
    answer.extraction = ask.until == Ask::Until::ritz ? extractor.loadDependent(loadsOf(ask.ritz, system), request)
                                                      : extractor.find(request, listener);
    answer.shift = extractor.shift();
    if (ask.until == Ask::Until::massShare && prove && !progress.stopped() && !answer.extraction.all &&
        sufficient(ask, whole, answer.extraction.shapes.transpose() * request.watched) == 0)
        answer.missing = missingOf(ask, system, mass, extractor, answer.extraction.shapes);
    if (ask.residual && prove && !progress.stopped() && !answer.extraction.ritz)
        answer.residual = residualVectors(*pencil, extractor, answer.extraction, loadsOf(*ask.residual, system));
    return answer;
}

Result<Answer> findInside(const Ask& ask, const System& system, Progress& progress, const ModeListener& listener)
{
    const auto pencil = pencilOf(system); // refuses what moves without mass
    if (!pencil) return pencil.findings();
    InteriorExtractor extractor(matricesOf(system), progress, nullptr, ask.tolerance);
    auto extraction = ask.until == Ask::Until::band ? extractor.band(ask.from, ask.frequency, ask.count, listener)
                                                    : extractor.nearest(ask.frequency, ask.count, listener);
    if (!extraction) return extraction.findings();
    Answer answer{std::move(*extraction), extractor.shift(), {}, {}};
    if (!ask.residual || progress.stopped()) return answer;
    auto prepared = ModeExtractor::prepare(*pencil, progress, nullptr, ask.count); // for the static answers
    if (!prepared) return prepared.findings();
    answer.residual = residualVectors(*pencil, **prepared, answer.extraction, loadsOf(*ask.residual, system));
    return answer;
}

} // namespace

Result<Answer> answerAsk(const Ask& ask, const System& system, const MassSummary& mass, Progress& progress,
                         const ModeListener& listener, KeptRuns* kept, bool prove)
{
    return ask.inside() ? findInside(ask, system, progress, listener)
                        : findLowest(ask, system, mass, progress, listener, kept, prove);
}

} // namespace undisona
