// What pieces of solids bring to the error of a mode.
#include "core/modal/error_energies.hpp"
#include "core/modal/strain_samples.hpp"
#include "core/shapes/given_faces.hpp"

namespace undisona {

namespace {
using Six = Eigen::Matrix<double, 6, 1>; // strains at a place
/// The smoother field still misses some of what is steep beside held faces and inner edges: over bars, plates, tubes,
/// an angle and a ball the energy so found is between 0.4 and 1.2 times the true one.
constexpr double unseenByTetrahedra = 1.35;
/// Fewer through the thickness, and what happens at a body's edges is not seen; 20-node bricks and 15-node wedges.
constexpr long leastThrough = 2, leastThroughLinear = 3;
/// By how much a side may turn, rad, before the polynomials of such bricks no longer follow.
constexpr double mostTurn = 0.05;
} // namespace

void putRow(Eigen::MatrixXd& values, Eigen::Index row, Eigen::Index first, const Eigen::MatrixXd& components)
{
    const Eigen::Index modes = components.cols();
    for (Eigen::Index component = 0; component < components.rows(); ++component)
        values.row(row).segment((first + component) * modes, modes) = components.row(component);
}

Eigen::MatrixXd takeRow(const Eigen::MatrixXd& values, Eigen::Index row, Eigen::Index first, Eigen::Index count,
                        Eigen::Index modes)
{
    Eigen::MatrixXd components(count, modes);
    for (Eigen::Index component = 0; component < count; ++component)
        components.row(component) = values.row(row).segment((first + component) * modes, modes);
    return components;
}

SolidErrors::SolidErrors(const Structure& structure, const FrameMesh& mesh, const System& system, Workers& workers)
    : structure_(structure), mesh_(mesh), system_(system), workers_(workers),
      strains_(solidSamples(mesh, system), workers), blind_(mesh.solids.size(), 0),
      thin_(structure.frame.solids.size(), 0)
{
    findBlind();
}

/// Bricks and wedges of thin and of curved bodies.
void SolidErrors::findBlind()
{
    for (std::size_t body = 0; body < mesh_.bodies.size(); ++body) {
        const BodyPlan& plan = mesh_.bodies[body];
        // Nothing says how thick a body is that comes as a mesh.
        const bool given = structure_.frame.faces->given && body >= structure_.frame.faces->given->firstSolid;
        if (given || (plan.layered() && plan.through() < (plan.linear ? leastThroughLinear : leastThrough)))
            thin_[static_cast<std::size_t>(structure_.frame.faces->solids[body].solid)] = 1;
    }
    for (std::size_t at = 0; at < mesh_.solids.size(); ++at) {
        const MeshSolid& solid = mesh_.solids[at];
        if (solid.kind == SolidKind::tetrahedron10) continue;
        blind_[at] = thin_[static_cast<std::size_t>(solid.solid)];
        const std::size_t corners = cornersOf(solid.kind);
        const auto sides = sidesOf(solid.kind);
        for (std::size_t side = 0; side < sides.size() && corners + side < solid.count(); ++side) {
            const auto place = [&](int node) {
                return mesh_.nodes[static_cast<std::size_t>(solid.nodes[static_cast<std::size_t>(node)])].place;
            };
            const Eigen::Vector3d one = place(sides[side][0]), other = place(sides[side][1]);
            const double rise = (place(int(corners + side)) - (one + other) / 2.0).norm();
            if (8.0 * rise > mostTurn * (other - one).norm()) blind_[at] = 1;
        }
    }
}

ErrorEnergies SolidErrors::of(const Eigen::MatrixXd& shapes, const Eigen::VectorXd& lambda)
{
    const Eigen::Index modes = shapes.cols();
    std::vector<RecoveredStrains::Values> values(mesh_.solids.size());
    workers_.forEach(mesh_.solids.size(), [&](std::size_t at) {
        const SolidElement& element = system_.solids[at];
        const auto best = bestPlaces(element).parameters;
        const Eigen::MatrixXd strains = strainsAt(element, system_.ownMotion(mesh_.solids[at], shapes), best);
        values[at].at.resize(Eigen::Index(best.size()), 6 * modes);
        for (Eigen::Index row = 0; row < values[at].at.rows(); ++row)
            putRow(values[at].at, row, 0, strains.middleRows<6>(6 * row));
    });
    strains_.fit(values, workers_);
    Eigen::MatrixXd errors(Eigen::Index(mesh_.solids.size()), modes), gross = errors;
    std::vector<Eigen::RowVectorXd> stored(mesh_.solids.size(), Eigen::RowVectorXd::Zero(modes));
    workers_.forEach(mesh_.solids.size(), [&](std::size_t at) {
        const SolidElement& element = system_.solids[at];
        const SolidPlaces fine = finePlaces(element);
        const Eigen::MatrixXd motions = system_.ownMotion(mesh_.solids[at], shapes);
        // Of tetrahedra that project nothing the strains of stiffness and mass are the same.
        const bool same = element.kind == SolidKind::tetrahedron10 && (element.grained || element.poisson <= 0.45);
        const Eigen::MatrixXd own = strainsAt(element, motions, fine.parameters),
                              smooth = strains_.at(at, fine.places, fine.corners);
        const Eigen::MatrixXd ofMass =
            same ? Eigen::MatrixXd() : strainsAt(element, motions, fine.parameters, StrainsOf::displacements);
        const Eigen::Matrix<double, 6, 6> elasticity = elasticityOf(element);
        Eigen::RowVectorXd energy = Eigen::RowVectorXd::Zero(modes), beside = energy;
        for (Eigen::Index mode = 0; mode < modes; ++mode)
            for (Eigen::Index place = 0; place < Eigen::Index(fine.places.size()); ++place) {
                const double weight = fine.weights[std::size_t(place)];
                const Six ownHere = own.col(mode).segment<6>(6 * place);
                Six smoothHere;
                for (Eigen::Index component = 0; component < 6; ++component)
                    smoothHere[component] = smooth(place, component * modes + mode);
                const Six apart = smoothHere - ownHere;
                energy[mode] += weight * apart.dot(elasticity * apart) / 2.0;
                stored[at][mode] += weight * ownHere.dot(elasticity * ownHere) / 2.0;
                if (!same)
                    beside[mode] +=
                        weight * (elasticity * smoothHere).dot(ownHere - Six(ofMass.col(mode).segment<6>(6 * place)));
            }
        if (element.kind == SolidKind::tetrahedron10) energy *= unseenByTetrahedra;
        if (structure_.discretised.lumped) {
            const Eigen::MatrixXd more = consistentMass(element) - lumpedMass(element);
            beside +=
                ((motions.array() * (more * motions).array()).colwise().sum() / 2.0).matrix() * lambda.asDiagonal();
        }
        errors.row(Eigen::Index(at)) = energy + beside;
        gross.row(Eigen::Index(at)) =
            beside.isZero() ? Eigen::RowVectorXd::Zero(modes) : Eigen::RowVectorXd(energy + beside.cwiseAbs());
    });
    Eigen::RowVectorXd blind = Eigen::RowVectorXd::Zero(modes), all = blind, thin = blind;
    for (std::size_t at = 0; at < stored.size(); ++at) {
        all += stored[at];
        if (blind_[at]) blind += stored[at];
        if (thin_[static_cast<std::size_t>(mesh_.solids[at].solid)]) thin += stored[at];
    }
    return {errors, gross.colwise().sum(), blind, all, thin};
}

} // namespace undisona
