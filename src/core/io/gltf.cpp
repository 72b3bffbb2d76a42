#include "core/io/gltf.hpp"

#include "core/base/number_text.hpp"
#include "core/surface/member_surface.hpp"
#include "core/surface/part_surface.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <numbers>

namespace undisona {

namespace {

using Json = nlohmann::ordered_json;

/// Members, sheets and solids as one surface.
struct Drawn {
    PartSurface parts;
    MemberSurface members;
    std::vector<float> place; ///< 3 per vertex, m
    std::vector<std::uint32_t> triangles;
};

Drawn drawnOf(const Solution& solution)
{
    const Structure& structure = *solution.structure;
    Drawn drawn{partSurface(structure, solution.mesh, Eigen::Vector3d::Zero(), true),
                memberSurface(structure, solution.mesh, true, 2),
                {},
                {}};
    drawn.place = drawn.parts.place;
    const auto first = static_cast<std::uint32_t>(drawn.parts.node.size());
    for (std::size_t at = 0; at < drawn.members.place.size(); ++at)
        drawn.place.push_back(drawn.members.place[at] +
                              static_cast<float>(drawn.members.origin[static_cast<Eigen::Index>(at % 3)]));
    for (const auto corner : drawn.parts.triangles)
        drawn.triangles.push_back(static_cast<std::uint32_t>(corner));
    for (const auto corner : drawn.members.cells)
        drawn.triangles.push_back(first + static_cast<std::uint32_t>(corner));
    return drawn;
}

/// Displacements of all vertices in a mode, 3 per vertex: u + theta x arm.
std::vector<float> motionOf(const Solution& solution, const Drawn& drawn, std::size_t mode, double factor)
{
    std::vector<float> moves;
    const auto put = [&](const Vector6& motion, const float* arm) {
        const Eigen::Vector3d own =
            factor * (motion.head<3>() + motion.tail<3>().cross(Eigen::Vector3d(arm[0], arm[1], arm[2])));
        for (int axis = 0; axis < 3; ++axis)
            moves.push_back(static_cast<float>(own[axis]));
    };
    std::vector<Vector6> ofNodes;
    for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node)
        ofNodes.push_back(solution.motion(static_cast<int>(node), mode));
    for (std::size_t vertex = 0; vertex < drawn.parts.node.size(); ++vertex)
        put(ofNodes[static_cast<std::size_t>(drawn.parts.node[vertex])], &drawn.parts.arm[3 * vertex]);
    if (drawn.members.stations.empty()) return moves;
    const auto ofStations = stationMotions(drawn.members, solution, mode);
    for (std::size_t vertex = 0; vertex < drawn.members.station.size(); ++vertex)
        put(ofStations.col(drawn.members.station[vertex]), &drawn.members.arm[3 * vertex]);
    return moves;
}

/// The binary chunk with its views and accessors.
class Buffer {
public:
    /// Index of the accessor.
    template <class T>
    std::size_t put(const std::vector<T>& values, int components, bool ofIndices = false)
    {
        constexpr int floats = 5126, unsignedInts = 5125, arrayBuffer = 34962, elementBuffer = 34963;
        Json view = {{"buffer", 0}, {"byteOffset", bytes_.size()}, {"byteLength", values.size() * sizeof(T)}};
        if (ofIndices)
            view["target"] = elementBuffer;
        else if (components == 3)
            view["target"] = arrayBuffer;
        views_.push_back(view);
        bytes_.append(reinterpret_cast<const char*>(values.data()), values.size() * sizeof(T));
        Json accessor = {{"bufferView", views_.size() - 1},
                         {"componentType", std::is_same_v<T, float> ? floats : unsignedInts},
                         {"count", values.size() / static_cast<std::size_t>(components)},
                         {"type", components == 3 ? "VEC3" : "SCALAR"}};
        if (!ofIndices) { // the format asks for them of places and times
            Json low = Json::array(), high = Json::array();
            for (int component = 0; component < components; ++component) {
                T least = values[static_cast<std::size_t>(component)], most = least;
                for (auto at = static_cast<std::size_t>(component); at < values.size();
                     at += static_cast<std::size_t>(components)) {
                    least = std::min(least, values[at]);
                    most = std::max(most, values[at]);
                }
                low.push_back(least);
                high.push_back(most);
            }
            accessor["min"] = low;
            accessor["max"] = high;
        }
        accessors_.push_back(accessor);
        return accessors_.size() - 1;
    }
    std::string bytes_;
    Json views_ = Json::array(), accessors_ = Json::array();
};

std::string littleEndian(std::uint32_t value)
{
    std::string bytes;
    for (int at = 0; at < 4; ++at)
        bytes += static_cast<char>(value >> (8 * at) & 0xffu);
    return bytes;
}

std::string padded(std::string bytes, char with)
{
    while (bytes.size() % 4 != 0)
        bytes += with;
    return bytes;
}

} // namespace

std::string modesGlb(const Solution& solution, std::size_t most)
{
    const Drawn drawn = drawnOf(solution);
    if (drawn.triangles.empty()) return {};
    Eigen::Vector3d low = Eigen::Vector3d::Constant(1e300), high = -low;
    for (std::size_t at = 0; at < drawn.place.size(); ++at) {
        const auto axis = static_cast<Eigen::Index>(at % 3);
        low[axis] = std::min(low[axis], double(drawn.place[at]));
        high[axis] = std::max(high[axis], double(drawn.place[at]));
    }
    const double reach = (high - low).norm() / 12.0;
    Buffer buffer;
    Json primitive;
    primitive["attributes"]["POSITION"] = buffer.put(drawn.place, 3);
    primitive["indices"] = buffer.put(drawn.triangles, 1, true);
    primitive["material"] = 0;
    primitive["targets"] = Json::array();
    Json names = Json::array();
    for (std::size_t mode = 0; mode < solution.modes.size() && names.size() < most; ++mode) {
        const Mode& own = solution.modes[mode];
        if (own.rigid || own.mechanism) continue;
        std::vector<float> moves = motionOf(solution, drawn, mode, 1.0);
        float largest = 1e-30F;
        for (std::size_t at = 0; at < moves.size(); at += 3)
            largest = std::max(largest, std::hypot(moves[at], moves[at + 1], moves[at + 2]));
        for (float& value : moves)
            value *= static_cast<float>(reach) / largest;
        Json target;
        target["POSITION"] = buffer.put(moves, 3);
        primitive["targets"].push_back(target);
        names.push_back(fmt::format("{} {}: {} Hz, {}", own.ritz ? "Vector" : "Mode", own.number,
                                    rounded(own.frequency, 4), own.calledBy(solution.structure->modeNames)));
    }
    // One turn a second, each mode by itself.
    constexpr int steps = 32;
    Json animations = Json::array();
    if (!names.empty()) {
        std::vector<float> times;
        for (int step = 0; step <= steps; ++step)
            times.push_back(static_cast<float>(step) / steps);
        const std::size_t time = buffer.put(times, 1);
        for (std::size_t mode = 0; mode < names.size(); ++mode) {
            std::vector<float> weights(static_cast<std::size_t>(steps + 1) * names.size(), 0.0F);
            for (int step = 0; step <= steps; ++step)
                weights[static_cast<std::size_t>(step) * names.size() + mode] =
                    static_cast<float>(std::sin(2.0 * std::numbers::pi * step / steps));
            Json sampler = {{"input", time}, {"output", buffer.put(weights, 1)}, {"interpolation", "LINEAR"}};
            Json target = {{"node", 0}, {"path", "weights"}};
            Json channel = {{"sampler", 0}, {"target", target}};
            animations.push_back(
                {{"name", names[mode]}, {"samplers", Json::array({sampler})}, {"channels", Json::array({channel})}});
        }
    }
    const double half = std::sqrt(0.5);
    Json mesh = {{"primitives", Json::array({primitive})}};
    if (names.empty())
        mesh["primitives"][0].erase("targets"); // the format knows no empty lists
    else
        mesh["weights"] = std::vector<double>(names.size(), 0.0);
    mesh["extras"]["targetNames"] = names;
    Json node = {{"mesh", 0}, {"rotation", std::vector<double>{-half, 0.0, 0.0, half}}}; // z up becomes y up
    Json material = {{"doubleSided", true}};
    material["pbrMetallicRoughness"] = {{"baseColorFactor", std::vector<double>{0.42, 0.36, 0.55, 1.0}},
                                        {"metallicFactor", 0.1},
                                        {"roughnessFactor", 0.7}};
    Json scene;
    scene["asset"] = {{"version", "2.0"}, {"generator", "Undisona"}};
    scene["scene"] = 0;
    scene["scenes"][0]["nodes"] = std::vector<int>{0};
    scene["nodes"] = Json::array({node});
    scene["meshes"] = Json::array({mesh});
    scene["materials"] = Json::array({material});
    scene["buffers"][0]["byteLength"] = padded(buffer.bytes_, '\0').size();
    scene["bufferViews"] = buffer.views_;
    scene["accessors"] = buffer.accessors_;
    if (!names.empty()) scene["animations"] = animations;
    const std::string json = padded(scene.dump(), ' '), data = padded(buffer.bytes_, '\0');
    return "glTF" + littleEndian(2) + littleEndian(static_cast<std::uint32_t>(28 + json.size() + data.size())) +
           littleEndian(static_cast<std::uint32_t>(json.size())) + "JSON" + json +
           littleEndian(static_cast<std::uint32_t>(data.size())) + std::string("BIN\0", 4) + data;
}

} // namespace undisona
