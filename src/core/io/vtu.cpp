#include "core/base/number_text.hpp"
#include "core/io/export.hpp"
#include "core/io/vtu.hpp"

#include <set>

namespace undisona {

namespace {

/// The format's number for a kind of cell. Their nodes stand in the order that ours have, but for wedges of six nodes,
/// whose first triangle the format has run the other way round.
const char* cellType(SolidKind kind)
{
    switch (kind) {
    case SolidKind::brick8:
        return "12\n";
    case SolidKind::brick20:
        return "25\n";
    case SolidKind::wedge6:
        return "13\n";
    case SolidKind::wedge15:
        return "26\n";
    case SolidKind::tetrahedron10:
        break;
    }
    return "24\n";
}

/// Nodes that a support takes a direction from.
std::set<int> heldNodes(const Solution& solution)
{
    std::set<int> held;
    for (const auto& hold : solution.structure->holds) {
        const std::vector<int> nodes = solution.mesh.nodesOf(hold.on, hold.at);
        held.insert(nodes.begin(), nodes.end());
    }
    return held;
}

/// A name between quotes of markup.
std::string inMarkup(const std::string& name)
{
    std::string text;
    for (const char letter : name)
        text += letter == '&'   ? std::string("&amp;")
                : letter == '<' ? std::string("&lt;")
                : letter == '"' ? std::string("&quot;")
                                : std::string(1, letter);
    return text;
}

} // namespace

std::string meshVtu(const Solution& solution, const std::vector<NodeField>& fields)
{
    const auto& mesh = solution.mesh;
    const auto& frame = solution.structure->frame;
    std::string out = "<?xml version=\"1.0\"?>\n<VTKFile type=\"UnstructuredGrid\" version=\"0.1\" "
                      "byte_order=\"LittleEndian\">\n<UnstructuredGrid>\n";
    out += fmt::format("<FieldData>\n<Array type=\"String\" Name=\"part\" NumberOfTuples=\"{}\" format=\"ascii\">\n",
                       frame.parts());
    for (std::size_t part = 0; part < frame.parts(); ++part) {
        for (const char letter : frame.partName(static_cast<int>(part)))
            out += fmt::format("{} ", static_cast<int>(static_cast<unsigned char>(letter)));
        out += "0\n";
    }
    out += "</Array>\n</FieldData>\n";
    out += fmt::format("<Piece NumberOfPoints=\"{}\" NumberOfCells=\"{}\">\n", mesh.nodes.size(),
                       mesh.elements.size() + mesh.shells.size() + mesh.solids.size());
    out += "<Points>\n<DataArray type=\"Float64\" Name=\"Points\" NumberOfComponents=\"3\" format=\"ascii\">\n";
    for (const auto& node : mesh.nodes)
        out += fmt::format("{} {} {}\n", shortest(node.place.x()), shortest(node.place.y()), shortest(node.place.z()));
    out += "</DataArray>\n</Points>\n<Cells>\n<DataArray type=\"Int64\" Name=\"connectivity\" format=\"ascii\">\n";
    for (const auto& element : mesh.elements)
        out += fmt::format("{} {}\n", element.nodes[0], element.nodes[1]);
    for (const auto& shell : mesh.shells)
        out += shell.corners() == 4
                   ? fmt::format("{} {} {} {}\n", shell.nodes[0], shell.nodes[1], shell.nodes[2], shell.nodes[3])
                   : fmt::format("{} {} {}\n", shell.nodes[0], shell.nodes[1], shell.nodes[2]);
    for (const auto& solid : mesh.solids) {
        constexpr std::array<std::size_t, 6> wedge{0, 2, 1, 3, 5, 4};
        for (std::size_t node = 0; node < solid.count(); ++node)
            out += fmt::format("{} ", solid.nodes[solid.kind == SolidKind::wedge6 ? wedge[node] : node]);
        out += "\n";
    }
    out += "</DataArray>\n<DataArray type=\"Int64\" Name=\"offsets\" format=\"ascii\">\n";
    for (std::size_t at = 1; at <= mesh.elements.size(); ++at)
        out += fmt::format("{}\n", 2 * at);
    std::size_t end = 2 * mesh.elements.size();
    for (const auto& shell : mesh.shells)
        out += fmt::format("{}\n", end += shell.corners());
    for (const auto& solid : mesh.solids)
        out += fmt::format("{}\n", end += solid.count());
    out += "</DataArray>\n<DataArray type=\"UInt8\" Name=\"types\" format=\"ascii\">\n";
    for (std::size_t at = 0; at < mesh.elements.size(); ++at)
        out += "3\n";
    for (const auto& shell : mesh.shells)
        out += shell.corners() == 4 ? "9\n" : "5\n";
    for (const auto& solid : mesh.solids)
        out += cellType(solid.kind);
    out += "</DataArray>\n</Cells>\n<PointData>\n";
    for (const auto& field : fields) {
        out += fmt::format("<DataArray type=\"Float64\" Name=\"{}\" NumberOfComponents=\"{}\" format=\"ascii\">\n",
                           inMarkup(field.name), field.values.rows());
        for (Eigen::Index node = 0; node < field.values.cols(); ++node)
            for (Eigen::Index component = 0; component < field.values.rows(); ++component)
                out += shortest(field.values(component, node)) + (component + 1 < field.values.rows() ? " " : "\n");
        out += "</DataArray>\n";
    }
    const auto held = heldNodes(solution);
    out += "<DataArray type=\"UInt8\" Name=\"held\" format=\"ascii\">\n";
    for (std::size_t node = 0; node < mesh.nodes.size(); ++node)
        out += held.contains(static_cast<int>(node)) ? "1\n" : "0\n";
    out += "</DataArray>\n";
    out += "</PointData>\n<CellData>\n<DataArray type=\"Int64\" Name=\"member\" format=\"ascii\">\n";
    for (const auto& element : mesh.elements)
        out += fmt::format("{}\n", element.member);
    for (std::size_t at = 0; at < mesh.shells.size() + mesh.solids.size(); ++at)
        out += "-1\n";
    out += "</DataArray>\n<DataArray type=\"Int64\" Name=\"sheet\" format=\"ascii\">\n";
    for (std::size_t at = 0; at < mesh.elements.size(); ++at)
        out += "-1\n";
    for (const auto& shell : mesh.shells)
        out += fmt::format("{}\n", shell.sheet);
    for (std::size_t at = 0; at < mesh.solids.size(); ++at)
        out += "-1\n";
    out += "</DataArray>\n<DataArray type=\"Int64\" Name=\"solid\" format=\"ascii\">\n";
    for (std::size_t at = 0; at < mesh.elements.size() + mesh.shells.size(); ++at)
        out += "-1\n";
    for (const auto& solid : mesh.solids)
        out += fmt::format("{}\n", solid.solid);
    out += "</DataArray>\n<DataArray type=\"Float64\" Name=\"thickness\" format=\"ascii\">\n";
    for (std::size_t at = 0; at < mesh.elements.size(); ++at)
        out += "0\n";
    for (const auto& shell : mesh.shells) {
        Eigen::Vector3d middle = Eigen::Vector3d::Zero();
        for (std::size_t corner = 0; corner < shell.corners(); ++corner)
            middle += mesh.nodes[static_cast<std::size_t>(shell.nodes[corner])].place / double(shell.corners());
        out += shortest(frame.sheets[static_cast<std::size_t>(shell.sheet)].thicknessAt(middle)) + "\n";
    }
    for (std::size_t at = 0; at < mesh.solids.size(); ++at)
        out += "0\n";
    out += "</DataArray>\n<DataArray type=\"Int64\" Name=\"part\" format=\"ascii\">\n";
    for (std::size_t at = 0; at < mesh.elements.size(); ++at)
        out += "-1\n";
    for (const auto& shell : mesh.shells)
        out += fmt::format("{}\n", shell.sheet);
    for (const auto& solid : mesh.solids)
        out += fmt::format("{}\n", frame.partOfSolid(solid.solid));
    return out + "</DataArray>\n</CellData>\n</Piece>\n</UnstructuredGrid>\n</VTKFile>\n";
}

std::string solutionVtu(const Solution& solution)
{
    std::vector<NodeField> fields;
    const auto nodes = static_cast<Eigen::Index>(solution.mesh.nodes.size());
    for (std::size_t which = 0; which < solution.shapesWritten(); ++which) {
        Eigen::MatrixXd motions(6, nodes);
        for (Eigen::Index node = 0; node < nodes; ++node)
            motions.col(node) = solution.motionWritten(static_cast<int>(node), which);
        const std::string name = which < solution.modes.size()
                                     ? fmt::format("mode {} {:.6g} Hz", which + 1, solution.modes[which].frequency)
                                     : fmt::format("residual vector {}", which - solution.modes.size() + 1);
        fields.push_back({name + " translation", motions.topRows<3>()});
        fields.push_back({name + " rotation", motions.bottomRows<3>()});
    }
    return meshVtu(solution, fields);
}

} // namespace undisona
