// Modes in motion as other programs read them.
#include "core/io/gltf.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

using namespace undisona;

namespace {

/// A file taken apart.
struct Glb {
    nlohmann::json scene;
    std::string binary;

    explicit Glb(const std::string& bytes)
    {
        EXPECT_EQ(bytes.substr(0, 4), "glTF");
        EXPECT_EQ(word(bytes, 4), 2u);
        EXPECT_EQ(word(bytes, 8), bytes.size());
        const std::size_t length = word(bytes, 12);
        EXPECT_EQ(bytes.substr(16, 4), "JSON");
        scene = nlohmann::json::parse(bytes.substr(20, length));
        EXPECT_EQ(bytes.substr(24 + length, 4), std::string("BIN\0", 4));
        binary = bytes.substr(28 + length);
        EXPECT_EQ(word(bytes, 20 + length), binary.size());
        EXPECT_EQ(scene["buffers"][0]["byteLength"].get<std::size_t>(), binary.size());
    }
    static std::size_t word(const std::string& bytes, std::size_t at)
    {
        std::uint32_t value = 0;
        std::memcpy(&value, bytes.data() + at, 4);
        return value;
    }
    template <class T>
    std::vector<T> values(std::size_t accessor) const
    {
        const auto& own = scene["accessors"][accessor];
        const auto& view = scene["bufferViews"][own["bufferView"].get<std::size_t>()];
        const std::size_t count = own["count"].get<std::size_t>() * (own["type"] == "VEC3" ? 3 : 1);
        EXPECT_EQ(view["byteLength"].get<std::size_t>(), count * sizeof(T));
        EXPECT_LE(view["byteOffset"].get<std::size_t>() + count * sizeof(T), binary.size());
        EXPECT_EQ(view["byteOffset"].get<std::size_t>() % 4, 0u);
        std::vector<T> list(count);
        std::memcpy(list.data(), binary.data() + view["byteOffset"].get<std::size_t>(), count * sizeof(T));
        return list;
    }
};

} // namespace

TEST(Gltf, HasTheShapeAndEveryModeAsAnAnimation)
{
    auto said = steel();
    said.say("plate", {{"name", "Deck"}, {"length", "2 m"}, {"width", "1 m"}, {"thickness", "10 mm"}})
        .say("run", {{"name", "Post"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, 1.5 m"}, {"section", "tube 60.3x4 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Deck"}, {"directions", "all"}})
        .say("call-mode", {{"mode", "Post: first bending in x, in step"}, {"name", "none is called so"}})
        .say("lowest", {{"count", "3"}});
    const auto solution = said.solvedUnjudged();
    const Glb file(modesGlb(*solution));
    const auto& mesh = file.scene["meshes"][0];
    const auto& primitive = mesh["primitives"][0];
    const auto place = file.values<float>(primitive["attributes"]["POSITION"]);
    const auto triangles = file.values<std::uint32_t>(primitive["indices"]);
    EXPECT_EQ(triangles.size() % 3, 0u);
    EXPECT_LT(*std::max_element(triangles.begin(), triangles.end()), place.size() / 3);
    // The box of what is drawn: the deck with its thickness, and the post on it.
    const auto& bounds = file.scene["accessors"][primitive["attributes"]["POSITION"].get<std::size_t>()];
    EXPECT_NEAR(bounds["max"][0].get<double>(), 2.0, 0.01);
    EXPECT_NEAR(bounds["max"][2].get<double>(), 1.5, 0.01);
    EXPECT_NEAR(bounds["min"][2].get<double>(), -0.005, 1e-4);

    ASSERT_EQ(primitive["targets"].size(), solution->modes.size());
    EXPECT_EQ(file.scene["animations"].size(), solution->modes.size());
    EXPECT_EQ(mesh["weights"].size(), solution->modes.size());
    double span = 0.0;
    for (int axis = 0; axis < 3; ++axis)
        span = std::hypot(span, bounds["max"][axis].get<double>() - bounds["min"][axis].get<double>());
    for (std::size_t mode = 0; mode < solution->modes.size(); ++mode) {
        const auto moves = file.values<float>(primitive["targets"][mode]["POSITION"]);
        ASSERT_EQ(moves.size(), place.size());
        double most = 0.0;
        for (std::size_t at = 0; at < moves.size(); at += 3)
            most = std::max(most, std::hypot(double(moves[at]), double(moves[at + 1]), double(moves[at + 2])));
        EXPECT_NEAR(most, span / 12.0, 1e-4 * most);
        // At the deck's far corner, as the mode has it there.
        const int corner = solution->structure->frame.pointNamed("Deck.3");
        const Eigen::Vector3d at = solution->mesh.nodes[static_cast<std::size_t>(corner)].place,
                              own = solution->motion(corner, mode).head<3>();
        double largest = 0.0;
        for (std::size_t node = 0; node < solution->mesh.nodes.size(); ++node)
            largest = std::max(largest, solution->motion(static_cast<int>(node), mode).head<3>().norm());
        for (std::size_t vertex = 0; vertex < place.size(); vertex += 3)
            if ((Eigen::Vector3d(place[vertex], place[vertex + 1], place[vertex + 2]) - at).norm() < 0.006)
                EXPECT_NEAR(moves[vertex + 2] / most, own.z() / largest, 0.02) << solution->modes[mode].name;
        const auto& animation = file.scene["animations"][mode];
        EXPECT_THAT(animation["name"].get<std::string>(), testing::HasSubstr(solution->modes[mode].name));
        const auto weights = file.values<float>(animation["samplers"][0]["output"]);
        const auto times = file.values<float>(animation["samplers"][0]["input"]);
        ASSERT_EQ(weights.size(), times.size() * solution->modes.size());
        for (std::size_t step = 0; step < times.size(); ++step)
            for (std::size_t other = 0; other < solution->modes.size(); ++other)
                EXPECT_NEAR(weights[step * solution->modes.size() + other],
                            other == mode ? std::sin(2.0 * pi * times[step]) : 0.0, 1e-6);
    }
}

TEST(Gltf, IsPlayedByAPageThatNeedsNothingElse)
{
    auto said = steel();
    said.say("run", {{"name", "Post"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, 1.5 m"}, {"section", "tube 60.3x4 mm"}})
        .say("hold", {{"where", "Post.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "2"}});
    const std::string page = motionPage(*said.solvedUnjudged(), "a <post> & its modes");
    EXPECT_THAT(page, testing::HasSubstr("a &lt;post&gt; &amp; its modes"));
    EXPECT_THAT(page, testing::Not(testing::HasSubstr("http")));
    EXPECT_THAT(page, testing::Not(testing::HasSubstr(" src=")));
    EXPECT_THAT(page, testing::HasSubstr("Z2xURgIAAA")) << "the file itself, as letters";
    SaidModel nothing = steel();
    nothing.say("point", {{"name", "a"}, {"at", "0, 0, 0 m"}})
        .say("mass", {{"mass", "3 kg"}, {"points", "a"}})
        .say("hold", {{"where", "a"}, {"directions", "x y z"}, {"kz", "5 N/mm"}})
        .say("lowest", {{"count", "1"}});
    EXPECT_TRUE(modesGlb(*nothing.solvedUnjudged()).empty());
}
