#include "core/vtu/read_vtu.hpp"

#include <fmt/format.h>

#include <vtkCellData.h>
#include <vtkCellTypes.h>
#include <vtkDataArray.h>
#include <vtkFieldData.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkObjectFactory.h>
#include <vtkOutputWindow.h>
#include <vtkPointData.h>
#include <vtkStringArray.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

#include <fstream>
#include <map>
#include <optional>
#include <set>

namespace undisona {

namespace {

/// What the library has to complain of.
class Complaints : public vtkOutputWindow {
public:
    static Complaints* New();
    vtkTypeMacro(Complaints, vtkOutputWindow) void DisplayText(const char* text) override
    {
        if (first.empty() && text) first = text;
    }
    std::string first;
};
vtkStandardNewMacro(Complaints)

    /// One line of it, without the place in the library's source.
    std::string shortened(const std::string& text)
{
    std::string line = text.substr(text.find("): ") == std::string::npos ? 0 : text.find("): ") + 3);
    constexpr std::size_t most = 160;
    line.resize(std::min({line.size(), line.find('\n'), most}));
    return line;
}

constexpr int pairsOfTetrahedron[6][2]{{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}};

class GridReader {
public:
    explicit GridReader(vtkUnstructuredGrid& grid) : grid_(grid), thickness_(grid.GetCellData()->GetArray("thickness"))
    {
    }

    MeshFile read()
    {
        for (vtkIdType at = 0; at < grid_.GetNumberOfPoints(); ++at) {
            Eigen::Vector3d place;
            grid_.GetPoint(at, place.data());
            if (!place.allFinite()) return refused(fmt::format("node {} has a coordinate that is no number", at + 1));
            file_.nodes.push_back(place);
        }
        for (vtkIdType at = 0; at < grid_.GetNumberOfCells(); ++at)
            if (!take(at)) return std::move(file_);
        if (!unknown_.empty()) {
            std::string list;
            for (const auto& [type, count] : unknown_)
                list += fmt::format("{}{} of the type {} ({})", list.empty() ? "" : ", ", count, type, nameOf(type));
            return refused(fmt::format("it has cells that are not known here: {}", list),
                           "Known are triangles, quadrilaterals, tetrahedra of 4 and 10 nodes, bricks of 8 and 20, "
                           "wedges of 6 and 15. Write the mesh anew with these.");
        }
        if (file_.cells.empty())
            return refused("it has no cells of sheet or solids", "Write the mesh with its cells, not its nodes alone.");
        turnWedges();
        remark();
        takeCellGroups();
        takeNodeGroups();
        return std::move(file_);
    }

private:
    MeshFile refused(std::string problem, std::string remedy = "Write it anew where it was made.")
    {
        MeshFile none;
        none.problem = std::move(problem);
        none.remedy = std::move(remedy);
        return none;
    }

    static std::string nameOf(int type)
    {
        switch (type) {
        case VTK_PYRAMID:
            return "pyramids";
        case VTK_POLYHEDRON:
            return "polyhedra";
        case VTK_POLYGON:
            return "polygons";
        case VTK_TRIQUADRATIC_HEXAHEDRON:
            return "bricks of 27 nodes";
        default:
            const char* name = vtkCellTypes::GetClassNameFromTypeId(type);
            return name ? name : "no type of the format";
        }
    }

    void add(bool sheet, SolidKind kind, const std::vector<int>& nodes, vtkIdType number)
    {
        MeshFile::Cell cell{
            sheet, kind, {}, static_cast<int>(number) + 1, thickness_ ? thickness_->GetComponent(number, 0) : 0.0};
        cell.nodes.fill(-1);
        std::copy(nodes.begin(), nodes.end(), cell.nodes.begin());
        file_.cells.push_back(cell);
    }

    int middle(int one, int other)
    {
        const auto [at, isNew] = middles_.emplace(std::minmax(one, other), int(file_.nodes.size()));
        if (isNew)
            file_.nodes.push_back(
                (file_.nodes[static_cast<std::size_t>(one)] + file_.nodes[static_cast<std::size_t>(other)]) / 2.0);
        return at->second;
    }

    /// False where the file is refused.
    bool take(vtkIdType at)
    {
        vtkNew<vtkIdList> ids;
        grid_.GetCellPoints(at, ids);
        std::vector<int> nodes;
        for (vtkIdType node = 0; node < ids->GetNumberOfIds(); ++node) {
            const vtkIdType id = ids->GetId(node);
            if (id < 0 || id >= grid_.GetNumberOfPoints()) {
                file_ = refused(fmt::format("cell {} names the node {}, and there are {}", at + 1, id + 1,
                                            grid_.GetNumberOfPoints()));
                return false;
            }
            nodes.push_back(static_cast<int>(id));
        }
        const int type = grid_.GetCellType(at);
        static const std::map<int, std::size_t> sizes{{VTK_TRIANGLE, 3},
                                                      {VTK_QUAD, 4},
                                                      {VTK_QUADRATIC_TRIANGLE, 6},
                                                      {VTK_QUADRATIC_QUAD, 8},
                                                      {VTK_TETRA, 4},
                                                      {VTK_HEXAHEDRON, 8},
                                                      {VTK_WEDGE, 6},
                                                      {VTK_QUADRATIC_TETRA, 10},
                                                      {VTK_QUADRATIC_HEXAHEDRON, 20},
                                                      {VTK_QUADRATIC_WEDGE, 15}};
        if (const auto size = sizes.find(type); size != sizes.end() && size->second != nodes.size()) {
            file_ =
                refused(fmt::format("cell {} has {} nodes, and its type has {}", at + 1, nodes.size(), size->second));
            return false;
        }
        const auto part = [&](std::initializer_list<std::initializer_list<int>> pieces) {
            for (const auto& piece : pieces) {
                std::vector<int> own;
                for (const int node : piece)
                    own.push_back(nodes[static_cast<std::size_t>(node)]);
                add(true, {}, own, at);
            }
            ++parted_;
        };
        switch (type) {
        case VTK_EMPTY_CELL:
        case VTK_VERTEX:
        case VTK_POLY_VERTEX:
            break; // a place, which makes no element
        case VTK_LINE:
        case VTK_POLY_LINE:
        case VTK_QUADRATIC_EDGE:
            ++lines_;
            break;
        case VTK_TRIANGLE:
        case VTK_QUAD:
            add(true, {}, nodes, at);
            break;
        case VTK_QUADRATIC_TRIANGLE:
            part({{0, 3, 5}, {3, 1, 4}, {5, 4, 2}, {3, 4, 5}});
            break;
        case VTK_QUADRATIC_QUAD:
            part({{0, 4, 7}, {4, 1, 5}, {5, 2, 6}, {6, 3, 7}, {4, 5, 6, 7}});
            break;
        case VTK_TETRA:
            for (const auto& pair : pairsOfTetrahedron)
                nodes.push_back(middle(nodes[std::size_t(pair[0])], nodes[std::size_t(pair[1])]));
            add(false, SolidKind::tetrahedron10, nodes, at);
            ++raised_;
            break;
        case VTK_QUADRATIC_TETRA:
            add(false, SolidKind::tetrahedron10, nodes, at);
            break;
        case VTK_HEXAHEDRON:
            add(false, SolidKind::brick8, nodes, at);
            break;
        case VTK_QUADRATIC_HEXAHEDRON:
            add(false, SolidKind::brick20, nodes, at);
            break;
        case VTK_WEDGE: // the format has its first triangle run the other way round
            add(false, SolidKind::wedge6, {nodes[0], nodes[2], nodes[1], nodes[3], nodes[5], nodes[4]}, at);
            break;
        case VTK_QUADRATIC_WEDGE:
            add(false, SolidKind::wedge15, nodes, at);
            break;
        default:
            ++unknown_[type];
        }
        return true;
    }

    /// Some programs write wedges of six nodes the other way round, all of them.
    void turnWedges()
    {
        std::vector<MeshFile::Cell*> wedges;
        std::size_t inverted = 0;
        for (auto& cell : file_.cells) {
            if (cell.sheet || cell.kind != SolidKind::wedge6) continue;
            wedges.push_back(&cell);
            const auto place = [&](std::size_t node) {
                return file_.nodes[static_cast<std::size_t>(cell.nodes[node])];
            };
            inverted += (place(1) - place(0)).cross(place(2) - place(0)).dot(place(3) - place(0)) < 0.0;
        }
        if (wedges.empty() || inverted < wedges.size()) return;
        for (auto* cell : wedges) {
            std::swap(cell->nodes[1], cell->nodes[2]);
            std::swap(cell->nodes[4], cell->nodes[5]);
        }
        file_.remarks.push_back(
            "all wedges of 6 nodes run the other way round than the format has them, and were taken "
            "so");
    }

    void remark()
    {
        std::vector<char> used(file_.nodes.size(), 0);
        for (const auto& cell : file_.cells)
            for (std::size_t node = 0; node < cell.count(); ++node)
                used[static_cast<std::size_t>(cell.nodes[node])] = 1;
        const auto unused = std::count(used.begin(), used.end(), 0);
        if (unused > 0)
            file_.remarks.push_back(
                fmt::format("{} node{} of the file belong{} to no cell of sheet or solids and {} left "
                            "out, the first is number {}",
                            unused, unused == 1 ? "" : "s", unused == 1 ? "s" : "", unused == 1 ? "is" : "are",
                            std::find(used.begin(), used.end(), 0) - used.begin() + 1));
        if (lines_ > 0)
            file_.remarks.push_back(fmt::format("{} line{} left out, as a member wants a section: draw members at its "
                                                "nodes",
                                                lines_, lines_ == 1 ? " is" : "s are"));
        if (raised_ > 0)
            file_.remarks.push_back(fmt::format(
                "{} tetrahedra of 4 nodes, which are far too stiff, get nodes in the middle of their straight "
                "sides",
                raised_));
        if (parted_ > 0)
            file_.remarks.push_back(
                fmt::format("{} cells of sheet of the second order are parted at their nodes", parted_));
    }

    /// The whole numbers of an array; nothing where it has others.
    static std::optional<std::vector<long>> numbers(vtkDataArray* array)
    {
        if (!array || array->GetNumberOfComponents() != 1) return std::nullopt;
        std::vector<long> list;
        for (vtkIdType at = 0; at < array->GetNumberOfTuples(); ++at) {
            const double value = array->GetComponent(at, 0);
            if (!(std::abs(value) < 1e9) || value != std::floor(value)) return std::nullopt;
            list.push_back(static_cast<long>(value));
        }
        return list;
    }

    vtkStringArray* namesOf(const std::string& array) const
    {
        return vtkStringArray::SafeDownCast(grid_.GetFieldData()->GetAbstractArray(array.c_str()));
    }

    static std::string nameIn(vtkStringArray* names, long value)
    {
        if (names && value >= 0 && value < names->GetNumberOfValues()) return names->GetValue(value);
        return std::to_string(value);
    }

    void takeCellGroups()
    {
        constexpr std::size_t most = 500; // of one array; more tell cells apart, not groups
        std::vector<std::vector<int>> cellsOf(static_cast<std::size_t>(grid_.GetNumberOfCells()));
        for (std::size_t cell = 0; cell < file_.cells.size(); ++cell)
            cellsOf[static_cast<std::size_t>(file_.cells[cell].number - 1)].push_back(static_cast<int>(cell));
        for (int at = 0; at < grid_.GetCellData()->GetNumberOfArrays(); ++at) {
            const char* said = grid_.GetCellData()->GetArrayName(at);
            const auto values = numbers(grid_.GetCellData()->GetArray(at));
            if (!said || !values) continue;
            std::map<long, std::vector<int>> groups;
            for (std::size_t number = 0; number < values->size() && groups.size() <= most; ++number)
                if (!cellsOf[number].empty()) {
                    auto& group = groups[(*values)[number]];
                    group.insert(group.end(), cellsOf[number].begin(), cellsOf[number].end());
                }
            if (groups.size() > most) continue;
            vtkStringArray* names = namesOf(said);
            for (auto& [value, cells] : groups)
                if (!names || value >= 0) file_.groups.push_back({said, nameIn(names, value), std::move(cells)});
        }
    }

    void takeNodeGroups()
    {
        for (int at = 0; at < grid_.GetPointData()->GetNumberOfArrays(); ++at) {
            const char* said = grid_.GetPointData()->GetArrayName(at);
            const auto values = numbers(grid_.GetPointData()->GetArray(at));
            if (!said || !values) continue;
            vtkStringArray* names = namesOf(said);
            const std::set<long> found(values->begin(), values->end());
            if (!names && found != std::set<long>{0, 1}) continue;
            std::map<std::string, std::vector<int>> groups;
            for (std::size_t node = 0; node < values->size(); ++node)
                if (names ? (*values)[node] >= 0 : (*values)[node] == 1)
                    groups[names ? nameIn(names, (*values)[node]) : said].push_back(static_cast<int>(node));
            for (auto& [name, nodes] : groups)
                file_.nodeGroups.push_back({name, std::move(nodes)});
        }
    }

    vtkUnstructuredGrid& grid_;
    vtkDataArray* thickness_; ///< null where the file has none
    MeshFile file_;
    std::map<std::pair<int, int>, int> middles_;
    std::map<int, long> unknown_;
    long lines_ = 0, raised_ = 0, parted_ = 0;
};

} // namespace

MeshFile readVtu(const std::string& path)
{
    MeshFile none;
    none.remedy = "Write it anew where it was made, as a VTU file.";
    std::ifstream stream(path, std::ios::binary | std::ios::ate);
    if (!stream) {
        none.problem = "it is not there or cannot be read";
        return none;
    }
    if (stream.tellg() == std::streampos(0)) {
        none.problem = "it is empty";
        return none;
    }
    vtkNew<Complaints> complaints;
    vtkOutputWindow::SetInstance(complaints);
    vtkNew<vtkXMLUnstructuredGridReader> reader;
    if (!reader->CanReadFile(path.c_str())) {
        none.problem = "it is no VTU file, or its first lines are cut short";
        return none;
    }
    reader->SetFileName(path.c_str());
    reader->Update();
    if (!complaints->first.empty()) {
        none.problem = fmt::format("it is cut short or not well formed ({})", shortened(complaints->first));
        return none;
    }
    return GridReader(*reader->GetOutput()).read();
}

} // namespace undisona
