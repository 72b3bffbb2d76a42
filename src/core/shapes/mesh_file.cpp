#include "core/shapes/mesh_file.hpp"

#include "core/base/archive.hpp"
#include "core/base/helper_process.hpp"
#include "core/shapes/kept_shape.hpp"
#include "core/base/lately_read.hpp"

#include <fmt/format.h>

namespace undisona {

inline auto fields(MeshFile::Cell& cell)
{
    return named("sheet kind nodes number thickness", cell.sheet, cell.kind, cell.nodes, cell.number, cell.thickness);
}
inline auto fields(MeshFile::CellGroup& group)
{
    return named("array value cells", group.array, group.value, group.cells);
}
inline auto fields(MeshFile::NodeGroup& group)
{
    return named("name nodes", group.name, group.nodes);
}
inline auto fields(MeshFile& file)
{
    return named("nodes cells groups nodeGroups remarks problem remedy", file.nodes, file.cells, file.groups,
                 file.nodeGroups, file.remarks, file.problem, file.remedy);
}

PlacedMesh moved(PlacedMesh mesh, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    mesh.turn = turn * mesh.turn;
    mesh.shift = turn * mesh.shift + shift;
    return mesh;
}

std::string MeshFile::packed(const MeshFile& file)
{
    ByteWriter out;
    out.put(file);
    return out.bytes();
}

std::shared_ptr<const MeshFile> MeshFile::read(const std::string& path, const Progress* progress)
{
    static LatelyRead<MeshFile> lately(6);
    const auto file = lately.at(path, [&] {
        constexpr double longest = 600.0; // s
        const HelperAnswer answer = askHelper({"read-mesh", path}, longest, progress);
        auto made = std::make_shared<MeshFile>();
        made->problem = answer.problem;
        if (made->problem.empty()) {
            try {
                ByteReader(answer.bytes).get(*made);
            } catch (const ArchiveError& error) {
                *made = {};
                made->problem = error.what();
            }
        }
        if (!made->problem.empty() && made->remedy.empty()) {
            made->problem = fmt::format("the mesh could not be read: {}", made->problem);
            made->remedy = "Write it anew where it was made.";
        }
        made->stamp = newStamp();
        return std::pair{std::shared_ptr<const MeshFile>(made), !(progress && progress->stopped())};
    });
    if (file) return file;
    auto none = std::make_shared<MeshFile>();
    none->problem = fmt::format("the file {} is not there or cannot be read", path);
    none->remedy = "Put it back, or name the place where it is now.";
    return none;
}

} // namespace undisona
