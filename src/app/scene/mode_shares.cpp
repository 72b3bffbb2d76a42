#include "app/scene/mode_shares.hpp"

#include "core/surface/part_surface.hpp"
#include "core/surface/member_surface.hpp"
#include "core/modal/energy_density.hpp"
#include "core/remedy/frequency_slopes.hpp"

namespace undisona {

namespace {

/// A figure of the pieces at the vertices of the faces: the mean of those about each node on its sheet or solid.
std::vector<double> atVertices(const PartSurface& surface, const FrameMesh& mesh, const std::vector<double>& ofShells,
                               const std::vector<double>& ofSolids)
{
    std::map<std::pair<int, int>, std::array<double, 2>> atNode; // by owner and node: weighted figure, weight
    const auto add = [&](int owner, int node, double weight, double figure) {
        auto& [sum, all] = atNode[{owner, node}];
        sum += weight * figure;
        all += weight;
    };
    for (std::size_t at = 0; at < ofShells.size(); ++at) {
        const MeshShell& shell = mesh.shells[at];
        for (std::size_t corner = 0; corner < shell.corners(); ++corner)
            add(shell.face, shell.nodes[corner], mesh.area(shell), ofShells[at]);
    }
    for (std::size_t at = 0; at < ofSolids.size(); ++at) {
        const MeshSolid& solid = mesh.solids[at];
        for (std::size_t node = 0; node < solid.count(); ++node)
            add(-1 - solid.solid, solid.nodes[node], 1.0, ofSolids[at]);
    }
    std::vector<double> figures;
    for (std::size_t vertex = 0; vertex < surface.node.size(); ++vertex) {
        const auto at = atNode.find({surface.owner[vertex], surface.node[vertex]});
        figures.push_back(at == atNode.end() ? 0.0 : std::sqrt(at->second[0] / at->second[1]));
    }
    return figures;
}

/// The share of the strain energy by member, and by part.
void addEnergies(const Solution& solution, Eigen::Index mode, ModeShares& shares)
{
    const auto& energies = solution.energies;
    for (std::size_t row = 0; row < energies.rows.size(); ++row) {
        const auto& own = energies.rows[row];
        const double strain = energies.strain(static_cast<Eigen::Index>(row), mode);
        if (own.kind == PartKind::member)
            shares.members[static_cast<std::size_t>(own.owner)] += strain;
        else if (own.kind == PartKind::sheet)
            shares.parts[static_cast<std::size_t>(own.owner)] += strain;
        else if (own.kind == PartKind::solid)
            shares.parts[static_cast<std::size_t>(solution.structure->frame.partOfSolid(own.owner))] += strain;
    }
}

/// A piece's error per area or volume, about.
std::vector<double> errorDensity(const Solution& solution, Eigen::Index mode, bool ofSolids)
{
    const FrameMesh& mesh = solution.mesh;
    std::vector<double> list;
    const std::size_t first = ofSolids ? mesh.shells.size() : 0,
                      count = ofSolids ? mesh.solids.size() : mesh.shells.size();
    for (std::size_t at = 0; at < count; ++at) {
        const auto row = static_cast<Eigen::Index>(first + at);
        const double error =
            row < solution.pieceErrors.rows() ? std::abs(double(solution.pieceErrors(row, mode))) : 0.0;
        const double room =
            ofSolids ? volumeOf(solidOf(*solution.structure, mesh, mesh.solids[at])) : mesh.area(mesh.shells[at]);
        list.push_back(std::isnan(error) ? 0.0 : error / room);
    }
    return list;
}

/// What a kilogram or a newton per metre does in each place.
void addSlopes(const Solution& solution, std::size_t mode, bool ofMass, const PartSurface& surface,
               const MemberSurface& members, ModeShares& shares)
{
    const Eigen::VectorXd slopes = ofMass ? slopesOfMass(solution, mode) : slopesOfSpring(solution, mode);
    for (const int node : surface.node)
        shares.vertices.push_back(std::abs(slopes[node]));
    const auto group = groupOf(solution, mode);
    std::vector<Eigen::Matrix<double, 6, Eigen::Dynamic>> motions;
    for (const std::size_t one : group)
        motions.push_back(stationMotions(members, solution, one));
    Eigen::Matrix3Xd here(3, static_cast<Eigen::Index>(group.size()));
    for (Eigen::Index station = 0; station < motions.front().cols(); ++station) {
        for (std::size_t at = 0; at < group.size(); ++at)
            here.col(static_cast<Eigen::Index>(at)) = motions[at].col(station).head<3>();
        const double hertz = solution.modes[mode].frequency;
        shares.stations.push_back(std::abs(ofMass ? slopeOfMass(here, hertz) : slopeOfSpring(here, hertz)));
    }
}

/// The equivalent stress at the vertices and along the members.
void addStresses(const Solution& solution, Eigen::Index mode, const StressReading& stresses, const PartSurface& surface,
                 const MemberSurface& members, ModeShares& shares)
{
    std::map<std::array<int, 2>, double> at;
    for (std::size_t row = 0; row < stresses.places.size(); ++row)
        at[stresses.places[row]] = double(stresses.atPlaces(static_cast<Eigen::Index>(row), mode));
    for (const auto& solid : solution.mesh.solids) { // between the corners
        const auto sides = sidesOf(solid.kind);
        const std::size_t corners = cornersOf(solid.kind);
        for (std::size_t side = 0; side < sides.size() && solid.count() > corners; ++side) {
            const auto ofCorner = [&](std::size_t end) {
                return at[{-1 - solid.solid, solid.nodes[static_cast<std::size_t>(sides[side][end])]}];
            };
            at.try_emplace({-1 - solid.solid, solid.nodes[corners + side]}, (ofCorner(0) + ofCorner(1)) / 2.0);
        }
    }
    for (std::size_t vertex = 0; vertex < surface.node.size(); ++vertex) {
        const auto found = at.find({surface.owner[vertex], surface.node[vertex]});
        shares.vertices.push_back(found == at.end() ? 0.0 : found->second);
    }
    for (const auto& station : members.stations) {
        const auto first = 2 * static_cast<Eigen::Index>(station.element);
        shares.stations.push_back((1.0 - station.share) * double(stresses.atEnds(first, mode)) +
                                  station.share * double(stresses.atEnds(first + 1, mode)));
    }
}

/// How large elements are: the roots of their areas and volumes, the length of members' pieces, m.
void addSizes(const Solution& solution, const PartSurface& surface, const MemberSurface& members, ModeShares& shares)
{
    const FrameMesh& mesh = solution.mesh;
    std::vector<double> ofShells, ofSolids; // squared: what is read at the vertices is the root
    for (const auto& shell : mesh.shells)
        ofShells.push_back(mesh.area(shell));
    for (const auto& solid : mesh.solids)
        ofSolids.push_back(std::pow(volumeOf(solidOf(*solution.structure, mesh, solid)), 2.0 / 3.0));
    shares.vertices = atVertices(surface, mesh, ofShells, ofSolids);
    for (const auto& station : members.stations) {
        const MeshElement& element = mesh.elements[static_cast<std::size_t>(station.element)];
        const auto placeOf = [&](int end) -> const Eigen::Vector3d& {
            return mesh.nodes[static_cast<std::size_t>(element.nodes[static_cast<std::size_t>(end)])].place;
        };
        shares.stations.push_back((placeOf(1) - placeOf(0)).norm());
    }
}

} // namespace

std::optional<ToldBy> toldBy(Colouring colouring)
{
    switch (colouring) {
    case Colouring::material:
        return ToldBy::material;
    case Colouring::section:
        return ToldBy::section;
    case Colouring::thickness:
        return ToldBy::thickness;
    case Colouring::part:
        return ToldBy::part;
    case Colouring::subAssembly:
        return ToldBy::subAssembly;
    default:
        return std::nullopt;
    }
}

ModeShares modeShares(const Solution& solution, int number, Colouring colouring, const PartSurface& surface,
                      const MemberSurface& members, const StressReading* stresses)
{
    const Frame& frame = solution.structure->frame;
    const auto mode = static_cast<Eigen::Index>(number - 1);
    ModeShares shares{std::vector<double>(frame.members.size(), 0.0), std::vector<double>(frame.parts(), 0.0), {}, {}};
    if (mode < 0 || mode >= solution.shapes.cols()) return shares;
    const auto most = [](const std::vector<double>& list) {
        return list.empty() ? 0.0 : *std::max_element(list.begin(), list.end());
    };
    if (colouring == Colouring::energy) addEnergies(solution, mode, shares);
    if (colouring == Colouring::massSlope || colouring == Colouring::springSlope)
        addSlopes(solution, static_cast<std::size_t>(mode), colouring == Colouring::massSlope, surface, members,
                  shares);
    if (colouring == Colouring::stress && stresses && stresses->atEnds.cols() == solution.shapes.cols())
        addStresses(solution, mode, *stresses, surface, members, shares);
    if (colouring == Colouring::elementSize) addSizes(solution, surface, members, shares);
    if (colouring == Colouring::meshError)
        shares.vertices =
            atVertices(surface, solution.mesh, errorDensity(solution, mode, false), errorDensity(solution, mode, true));
    if (colouring == Colouring::energyDensity) {
        const EnergyDensity density =
            energyDensity(*solution.structure, solution.mesh, *solution.system, solution.shapes.col(mode));
        shares.vertices = atVertices(surface, solution.mesh, density.shells, density.solids);
        addEnergies(solution, mode, shares); // members: as strongly as the most strained sheet, by their length
        for (std::size_t at = 0; at < shares.members.size(); ++at)
            shares.members[at] = std::sqrt(shares.members[at] / frame.length(frame.members[at]));
        const double ofMembers = most(shares.members), scale = shares.vertices.empty() ? 1.0 : most(shares.vertices);
        for (double& share : shares.members)
            share *= ofMembers > 0.0 ? scale / ofMembers : 0.0;
        std::fill(shares.parts.begin(), shares.parts.end(), 0.0);
    }
    shares.most =
        std::max({shares.most, most(shares.members), most(shares.parts), most(shares.vertices), most(shares.stations)});
    return shares;
}

} // namespace undisona
