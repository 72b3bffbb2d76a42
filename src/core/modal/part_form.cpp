#include "core/modal/part_form.hpp"

#include "core/shapes/flat_face.hpp"

namespace undisona {

namespace {

bool isRectangle(const Outline& outline)
{
    if (outline.corners.size() != 4) return false;
    for (std::size_t at = 0; at < 4; ++at) {
        const Eigen::Vector2d in = outline.corners[(at + 1) % 4].at - outline.corners[at].at,
                              out = outline.corners[(at + 2) % 4].at - outline.corners[(at + 1) % 4].at;
        if (outline.corners[at].bow != 0.0 || std::abs(in.dot(out)) > 1e-6 * in.norm() * out.norm()) return false;
    }
    return true;
}

/// The panel's axes, turned in its plane until x and y run along the rectangle's sides.
Eigen::Matrix3d alongSides(const FlatPanel& panel)
{
    Eigen::Vector2d side = (panel.outline.corners[1].at - panel.outline.corners[0].at).normalized();
    if (std::abs(side.x()) < std::abs(side.y())) side = {side.y(), -side.x()};
    if (side.x() < 0.0) side = -side;
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    turn.topLeftCorner<2, 2>() << side.x(), -side.y(), side.y(), side.x();
    return panel.axes * turn;
}

std::optional<FlatPanel> onlyFlatPanelOf(const Sheet& sheet)
{
    if (!sheet.turned.empty() || !sheet.crowns.empty()) return std::nullopt;
    if (sheet.flat.size() == 1 && sheet.kept.empty()) return sheet.flat[0];
    if (sheet.flat.empty() && sheet.kept.size() == 1) return flatPanelOf(sheet.kept[0]);
    return std::nullopt;
}

/// A piece of a part's face.
struct Facet {
    Eigen::Vector3d middle, normal; ///< the normal as long as its area, m2
};

std::vector<Facet> facetsOf(const Frame& frame, const FrameMesh& mesh, int part)
{
    std::vector<Facet> facets;
    const auto add = [&](const std::array<int, 4>& corners, std::size_t count) {
        const auto place = [&](std::size_t corner) -> const Eigen::Vector3d& {
            return mesh.nodes[static_cast<std::size_t>(corners[corner])].place;
        };
        Facet facet{Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero()};
        for (std::size_t corner = 0; corner < count; ++corner)
            facet.middle += place(corner) / double(count);
        const std::size_t last = count - 1;
        facet.normal = count == 3 ? 0.5 * (place(1) - place(0)).cross(place(2) - place(0))
                                  : 0.5 * (place(2) - place(0)).cross(place(last) - place(1));
        facets.push_back(facet);
    };
    for (const auto& shell : mesh.shells)
        if (shell.sheet == part) add({shell.nodes[0], shell.nodes[1], shell.nodes[2], shell.nodes[3]}, shell.corners());
    for (const auto& outer : mesh.outer)
        if (frame.partOfSolid(outer.solid) == part) add(outer.corners, outer.count());
    return facets;
}

/// The axis that every normal meets, by least squares over the linear complex of the normals (Pottmann and Randrup,
/// Rotational and helical surface approximation for reverse engineering, 1998); none where some miss it.
std::optional<PartForm> turnedForm(const std::vector<Facet>& facets)
{
    if (facets.size() < 12) return std::nullopt;
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();
    double area = 0.0, size = 0.0;
    for (const Facet& facet : facets) {
        centre += facet.normal.norm() * facet.middle;
        area += facet.normal.norm();
    }
    if (!(area > 0.0)) return std::nullopt;
    centre /= area;
    for (const Facet& facet : facets)
        size = std::max(size, (facet.middle - centre).norm());
    Eigen::Matrix3d moments = Eigen::Matrix3d::Zero(), mixed = moments, normals = moments;
    for (const Facet& facet : facets) {
        const double weight = facet.normal.norm() / area;
        if (weight == 0.0) continue;
        const Eigen::Vector3d normal = facet.normal.normalized(),
                              moment = ((facet.middle - centre) / size).cross(normal);
        moments += weight * moment * moment.transpose();
        mixed += weight * moment * normal.transpose();
        normals += weight * normal * normal.transpose();
    }
    // Directions that no normal has, along a cylinder, say nothing of where the axis lies.
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> spread(normals);
    Eigen::Matrix3d inverse = Eigen::Matrix3d::Zero();
    for (int at = 0; at < 3; ++at)
        if (spread.eigenvalues()[at] > 1e-3)
            inverse +=
                spread.eigenvectors().col(at) * spread.eigenvectors().col(at).transpose() / spread.eigenvalues()[at];
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> complex(
        Eigen::Matrix3d(moments - mixed * inverse * mixed.transpose()));
    const Eigen::Vector3d axis = complex.eigenvectors().col(0), about = -inverse * mixed.transpose() * axis;
    const Eigen::Vector3d origin = centre + size * axis.cross(about);
    // Of what the normals have across the axis, nothing may pass beside it.
    double beside = 0.0, across = 0.0;
    std::vector<double> turns;
    const Eigen::Vector3d x = axis.unitOrthogonal(), y = axis.cross(x);
    for (const Facet& facet : facets) {
        const Eigen::Vector3d arm = facet.middle - origin;
        beside += std::pow(axis.dot(arm.cross(facet.normal)), 2);
        across +=
            (facet.normal - facet.normal.dot(axis) * axis).squaredNorm() * (arm - arm.dot(axis) * axis).squaredNorm();
        turns.push_back(std::atan2(arm.dot(y), arm.dot(x)));
    }
    if (!(beside < 1e-3 * across) || across < 1e-12 * area * area * size * size) return std::nullopt;
    std::sort(turns.begin(), turns.end());
    double gap = turns.front() + 2.0 * std::numbers::pi - turns.back();
    for (std::size_t at = 1; at < turns.size(); ++at)
        gap = std::max(gap, turns[at] - turns[at - 1]);
    constexpr double widest = 1.1; // rad: six elements round
    if (gap > widest) return std::nullopt;
    PartForm form{PartForm::Kind::turned, {}, origin};
    form.axes << x, y, axis;
    return form;
}

std::optional<PartForm> formOf(const Frame& frame, const FrameMesh& mesh, int part)
{
    if (static_cast<std::size_t>(part) < frame.sheets.size())
        if (const auto panel = onlyFlatPanelOf(frame.sheets[static_cast<std::size_t>(part)])) {
            if (panel->outline.isCircle()) return PartForm{PartForm::Kind::disc, panel->axes, panel->origin};
            if (!isRectangle(panel->outline)) return std::nullopt;
            return PartForm{PartForm::Kind::rectangle, alongSides(*panel), panel->origin};
        }
    return turnedForm(facetsOf(frame, mesh, part));
}

} // namespace

std::optional<FormedPart> formedPart(const Frame& frame, const FrameMesh& mesh, int part)
{
    const auto form = formOf(frame, mesh, part);
    if (!form) return std::nullopt;
    std::set<int> nodes;
    for (const auto& shell : mesh.shells)
        if (shell.sheet == part)
            nodes.insert(shell.nodes.begin(), shell.nodes.begin() + static_cast<long>(shell.corners()));
    for (const auto& outer : mesh.outer)
        if (frame.partOfSolid(outer.solid) == part)
            for (std::size_t corner = 0; corner < outer.count(); ++corner) {
                nodes.insert(outer.corners[corner]);
                if (outer.curved()) nodes.insert(outer.middles[corner]);
            }
    return FormedPart{*form, std::move(nodes)};
}

} // namespace undisona
