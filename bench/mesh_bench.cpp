// How fast sheet and solids are meshed, at three sizes each, and that time grows with the number of elements.
#include "core/model/document_io.hpp"
#include "core/geometry/joined_faces.hpp"
#include "core/modal/solve.hpp"
#include "core/mesh/mesh_quality.hpp"

#include <fmt/format.h>

#include <chrono>

using namespace undisona;

namespace {

double secondsOf(const std::function<void()>& work)
{
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

void measure(const char* example, const char* what, std::vector<double> sizes)
{
    const auto document = readDocumentFile(std::string(EXAMPLES) + "/" + example + ".undisona.json");
    if (!document) return;
    double build = 0.0;
    Structure structure;
    build = secondsOf([&] { structure = buildStructure(document->model).structure; });
    fmt::print("{}: {} faces joined in {:.0f} ms\n", example, structure.frame.faces->faces.size(), 1e3 * build);
    for (const double size : sizes) {
        SheetSizes all(structure.sheets.size() + structure.solids.size(), size);
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

} // namespace

int main()
{
    measure("vent-housing", "pieces of sheet", {0.020, 0.010, 0.005});
    measure("fog-bell", "tetrahedra", {0.024, 0.012, 0.008});
    return 0;
}
