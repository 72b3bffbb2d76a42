// How fast sheet and solids are meshed, at three sizes each, and that time grows with the number of elements.
#include "bench/seconds_of.hpp"
#include "core/base/file_writer.hpp"
#include "core/mesh/mesh_quality.hpp"
#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/shape_file.hpp"

#include <fmt/format.h>

#include <filesystem>

using namespace undisona;

namespace {

void measure(const char* example, const char* what, std::vector<double> sizes)
{
    const auto document = readDocumentFile(std::string(EXAMPLES) + "/" + example + ".undisona.json");
    if (!document) return;
    double build = 0.0;
    Structure structure;
    build = secondsOf([&] { structure = buildStructure(document->model).structure; });
    fmt::print("{}: {} faces joined in {:.0f} ms\n", example, structure.frame.faces->faces.size(), 1e3 * build);
    for (const double size : sizes) {
        const MeshSizes all{std::vector<double>(structure.sheets.size() + structure.solids.size(), size)};
        FrameMesh mesh;
        const double seconds = secondsOf([&] { mesh = meshOf(structure, Splits(structure.members.size(), 1), all); });
        const std::size_t elements = mesh.shells.size() + mesh.solids.size();
        double worst = 1.0;
        if (!mesh.shells.empty()) {
            const MeshQuality quality = qualityOf(mesh);
            worst = quality.shells[quality.worst[0]].shape;
        }
        for (const auto& solid : mesh.solids) {
            SolidElement own{solid.kind, {}, 1.0, 0.0, 1.0};
            for (std::size_t node = 0; node < solid.count(); ++node)
                own.node.push_back(mesh.nodes[static_cast<std::size_t>(solid.nodes[node])].place);
            worst = std::min(worst, jacobianRatio(own));
        }
        fmt::print("  {:4.1f} mm: {:7} {} in {:6.2f} s, {:7.0f} a second; worst {:.2f} of 1\n", 1e3 * size, elements,
                   what, seconds, double(elements) / seconds, worst);
        std::fflush(stdout);
    }
}

/// A block with so many bores each way, written as STEP and read back: the way to its first picture.
void import(int across)
{
    SolidForm form{Eigen::Vector3d::Zero(), Eigen::Matrix3d::Identity(), {}, {}, false, 0.02};
    const double side = 0.03 * across;
    form.profile = polygon({{0, 0}, {side, 0}, {side, side}, {0, side}});
    for (int x = 0; x < across; ++x)
        for (int y = 0; y < across; ++y)
            form.holes.push_back(circleAbout({0.03 * (x + 0.5), 0.03 * (y + 0.5)}, 0.008));
    Frame frame;
    frame.solids.push_back({"Block", "b", 0.0, std::make_shared<const SolidShape>(SolidShape{form}), false});
    const std::string path = (std::filesystem::temp_directory_path() / "undisona-bench.step").string();
    writeWholeFile(path, *stepText(frame));
    std::shared_ptr<const ShapeFile> file;
    const double read = secondsOf([&] { file = ShapeFile::read(path); });
    Model model;
    for (auto& sentence : importedSentences(model, *file, path))
        model = model.inserted(std::move(sentence));
    Sentence steel = newSentence(*kindNamed("material"), "m");
    steel.values["what"] = std::string("everything");
    model = model.inserted(std::move(steel));
    Structure structure;
    const double build = secondsOf([&] { structure = buildStructure(model).structure; });
    FrameMesh mesh;
    const double drawn = secondsOf([&] { mesh = coarseMesh(structure); });
    fmt::print("STEP file of {} faces: read {:.2f} s, joined {:.2f} s, meshed to be drawn {:.2f} s ({} elements)\n",
               structure.frame.faces->faces.size(), read, build, drawn, mesh.solids.size());
    std::fflush(stdout);
    std::filesystem::remove(path);
}

} // namespace

int main()
{
    measure("vent-housing", "pieces of sheet", {0.020, 0.010, 0.005});
    measure("fog-bell", "tetrahedra", {0.024, 0.012, 0.008});
    measure("davit-arm", "tetrahedra", {0.034, 0.020, 0.012});
    for (const int across : {5, 11, 22})
        import(across);
    return 0;
}
