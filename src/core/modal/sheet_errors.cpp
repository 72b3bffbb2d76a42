// What pieces of sheet bring to the error of a mode.
#include "core/modal/error_energies.hpp"
#include "core/modal/plane_strains.hpp"
#include "core/modal/strain_samples.hpp"

#include <map>

namespace undisona {

SheetErrors::SheetErrors(const Structure& structure, const FrameMesh& mesh, const System& system, Workers& workers)
    : structure_(structure), mesh_(mesh), system_(system), workers_(workers), insides_(mesh.shells.size()),
      membrane_(sheetSamples(mesh, system, true), workers), bending_(sheetSamples(mesh, system, false), workers)
{
    workers_.forEach(insides_.size(), [&](std::size_t at) { insides_[at] = insideOf(system_.shells[at].element); });
    findEnds();
}

void SheetErrors::fit(const Eigen::MatrixXd& shapes)
{
    const Eigen::Index modes = shapes.cols();
    std::vector<RecoveredStrains::Values> membrane(mesh_.shells.size()), bending(mesh_.shells.size());
    workers_.forEach(mesh_.shells.size(), [&](std::size_t at) {
        const ShellEquations& shell = system_.shells[at];
        const Eigen::MatrixXd motions = system_.ownMotion(mesh_.shells[at], shell, shapes);
        const auto turn = planeToGlobal(shell.axes);
        const auto fill = [&](const ShellPlaces& places, Eigen::MatrixXd* ofMembrane, Eigen::MatrixXd* ofBending) {
            const auto strains = strainsAt(shell.element, insides_[at], motions, places.parameters);
            const auto rows = Eigen::Index(strains.size());
            if (ofMembrane) ofMembrane->resize(rows, 6 * modes);
            if (ofBending) ofBending->resize(rows, 9 * modes);
            for (Eigen::Index row = 0; row < rows; ++row) {
                const auto& own = strains[static_cast<std::size_t>(row)];
                if (ofMembrane) putRow(*ofMembrane, row, 0, turn * own.membrane);
                if (!ofBending) continue;
                putRow(*ofBending, row, 0, turn * own.curvature);
                putRow(*ofBending, row, 6, shell.axes.leftCols<2>() * own.shear);
            }
        };
        fill(coarsePlaces(shell.element), &membrane[at].at, bending_.wantsMorePlaces(at) ? &bending[at].more : nullptr);
        fill(middlePlace(shell.element), nullptr, &bending[at].at);
    });
    membrane_.fit(membrane, workers_);
    bending_.fit(bending, workers_);
}

ErrorEnergies SheetErrors::of(const Eigen::MatrixXd& shapes, const Eigen::VectorXd& lambda)
{
    fit(shapes);
    const Eigen::Index modes = shapes.cols();
    Eigen::MatrixXd errors(Eigen::Index(mesh_.shells.size()), modes), gross = errors;
    workers_.forEach(mesh_.shells.size(), [&](std::size_t at) {
        const ShellEquations& shell = system_.shells[at];
        const Eigen::MatrixXd motions = system_.ownMotion(mesh_.shells[at], shell, shapes);
        const ShellPlaces fine = finePlaces(shell.element);
        const auto own = strainsAt(shell.element, insides_[at], motions, fine.parameters);
        const auto global = globalPlaces(mesh_, at, fine);
        const Eigen::MatrixXd smoothMembrane = membrane_.at(at, global, fine.corners),
                              smoothBending = bending_.at(at, global, fine.corners);
        const auto slopes = bending_.slopesAt(at, fine.corners, 6 * modes);
        const auto ofMass = strainsAt(shell.element, insides_[at], motions, fine.parameters, StrainsOf::displacements);
        const auto turn = globalToPlane(shell.axes);
        Eigen::RowVectorXd energy = drillingEnergy(shell.element, insides_[at], motions),
                           beside = Eigen::RowVectorXd::Zero(modes);
        for (std::size_t place = 0; place < own.size(); ++place) {
            const auto row = Eigen::Index(place);
            const double thickness = fine.thickness[place];
            const ShellStrains smooth{turn * takeRow(smoothMembrane, row, 0, 6, modes),
                                      turn * takeRow(smoothBending, row, 0, 6, modes),
                                      shell.axes.leftCols<2>().transpose() * takeRow(smoothBending, row, 6, 3, modes)};
            const auto less = [&](const ShellStrains& one, const ShellStrains& other) {
                return ShellStrains{one.membrane - other.membrane, one.curvature - other.curvature,
                                    one.shear - other.shear};
            };
            energy += fine.weights[place] * energyPerArea(shell.element, less(smooth, own[place]), thickness);
            ShellStrains forces = forcesOf(shell.element, smooth, thickness);
            const Eigen::Matrix<double, 3, 6> toMoments =
                std::pow(thickness, 3) / 12.0 * shell.element.elasticity.bending * turn;
            // The shear forces that balance the moments.
            forces.shear.setZero();
            for (Eigen::Index along = 0; along < 2; ++along) {
                Eigen::MatrixXd slope = Eigen::MatrixXd::Zero(6, modes);
                for (std::size_t axis = 0; axis < 3; ++axis)
                    slope += shell.axes(Eigen::Index(axis), along) * takeRow(slopes[axis], row, 0, 6, modes);
                const Eigen::MatrixXd moment = toMoments * slope;
                forces.shear.row(along) += moment.row(along);
                forces.shear.row(1 - along) += moment.row(2);
            }
            const ShellStrains beyond = less(own[place], ofMass[place]);
            beside += fine.weights[place] * ((forces.membrane.array() * beyond.membrane.array()).colwise().sum() +
                                             (forces.curvature.array() * beyond.curvature.array()).colwise().sum() +
                                             (forces.shear.array() * beyond.shear.array()).colwise().sum())
                                                .matrix();
        }
        for (std::size_t side = 0; side < mesh_.shells[at].corners(); ++side)
            if (endsFreely(at, side)) energy += layerEnergy(at, side, modes);
        if (structure_.discretised.lumped) {
            const Eigen::MatrixXd more = consistentMass(shell.element) - lumpedMass(shell.element);
            beside +=
                ((motions.array() * (more * motions).array()).colwise().sum() / 2.0).matrix() * lambda.asDiagonal();
        }
        errors.row(Eigen::Index(at)) = energy + beside;
        gross.row(Eigen::Index(at)) = energy + beside.cwiseAbs();
    });
    return {errors, gross.colwise().sum(), Eigen::RowVectorXd::Zero(modes)};
}

std::array<int, 2> SheetErrors::endsOf(std::size_t at, std::size_t side) const
{
    const MeshShell& shell = mesh_.shells[at];
    return {shell.nodes[side], shell.nodes[(side + 1) % shell.corners()]};
}

void SheetErrors::findEnds()
{
    std::map<std::pair<int, int>, int> uses;
    for (std::size_t at = 0; at < mesh_.shells.size(); ++at)
        for (std::size_t side = 0; side < mesh_.shells[at].corners(); ++side) {
            const auto [one, other] = endsOf(at, side);
            ++uses[std::minmax(one, other)];
        }
    for (const auto& [ends, count] : uses)
        if (count == 1) ends_.insert(ends);
}

/// Whether the sheet ends at a side and may turn about what is square to it there.
bool SheetErrors::endsFreely(std::size_t at, std::size_t side) const
{
    const auto [one, other] = endsOf(at, side);
    if (!ends_.contains(std::minmax(one, other))) return false;
    const auto place = [&](int node) { return mesh_.nodes[static_cast<std::size_t>(node)].place; };
    const Eigen::Vector3d across = (place(other) - place(one)).cross(system_.shells[at].axes.col(2)).normalized();
    for (const int node : {one, other}) {
        const auto& motion = system_.motions.nodes[static_cast<std::size_t>(node)];
        const Eigen::RowVectorXd turns = across.transpose() * motion.basis.bottomRows<3>();
        if (turns.size() == 0 || turns.cwiseAbs().maxCoeff() < 1e-6) return false;
    }
    return true;
}

/// Energy that a mesh of larger pieces than the sheet is thick does not let go along an edge that ends freely: the
/// twisting moment falls to nothing within a layer of width l = t / sqrt(12 k), which lets go M2 l / (D (1 - nu))
/// per length (Mindlin's plate; Haeggblad and Bathe, Specifications of boundary conditions for Reissner-Mindlin
/// plate bending finite elements, 1990); pieces of linear turns and depth h take 1 / sqrt(1 + h2 / 12 l2) of it, by
/// their recurrence.
Eigen::RowVectorXd SheetErrors::layerEnergy(std::size_t at, std::size_t side, Eigen::Index modes) const
{
    const ShellEquations& shell = system_.shells[at];
    const auto corners = Eigen::Index(mesh_.shells[at].corners());
    Eigen::MatrixXd half = Eigen::MatrixXd::Zero(1, corners);
    half(0, Eigen::Index(side)) = half(0, (Eigen::Index(side) + 1) % corners) = 0.5;
    const auto [one, other] = endsOf(at, side);
    const Eigen::Vector3d first = mesh_.nodes[static_cast<std::size_t>(one)].place,
                          second = mesh_.nodes[static_cast<std::size_t>(other)].place;
    const Eigen::Vector3d s = (second - first).normalized(), n = s.cross(shell.axes.col(2));
    const double length = (second - first).norm(),
                 depth = 2.0 * shell.element.area() / length / (corners == 4 ? 2.0 : 1.0);
    const double t = (shell.element.thickness[side] + shell.element.thickness[(side + 1) % std::size_t(corners)]) / 2.0;
    const double twisting = shell.element.elasticity.bending(2, 2) * t * t * t / 12.0; // N m, D (1 - nu) / 2
    const double layer = std::sqrt(twisting / (5.0 / 6.0 * t * shell.element.elasticity.shear.trace() / 2.0));
    const Eigen::MatrixXd bending = bending_.at(at, {(first + second) / 2.0}, half);
    const Eigen::MatrixXd moment = std::pow(t, 3) / 12.0 * shell.element.elasticity.bending *
                                   globalToPlane(shell.axes) * takeRow(bending, 0, 0, 6, modes);
    const Eigen::Vector2d own(s.dot(shell.axes.col(0)), s.dot(shell.axes.col(1))),
        ownN(n.dot(shell.axes.col(0)), n.dot(shell.axes.col(1)));
    const Eigen::RowVectorXd twist = own.x() * ownN.x() * moment.row(0) + own.y() * ownN.y() * moment.row(1) +
                                     (own.x() * ownN.y() + own.y() * ownN.x()) * moment.row(2);
    const double kept = 1.0 - 1.0 / std::sqrt(1.0 + depth * depth / (12.0 * layer * layer));
    return length * layer * kept / (2.0 * twisting) * twist.cwiseAbs2();
}

} // namespace undisona
