#include "core/patterns/frame_builder.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Names and places of a mast's points: level 0 is the foot, corner 1 the first.
struct MastPlan {
    std::string name;
    Eigen::Vector3d foot;
    int corners;
    long bays;
    double bottom, top, height;

    Eigen::Vector3d corner(long level, int which) const
    {
        const double share = double(level) / double(bays);
        const double width = bottom + share * (top - bottom);
        const double half = std::numbers::pi / corners;
        const double angle = 2.0 * half * which + (corners == 3 ? std::numbers::pi / 2 : half);
        const double radius = width / 2.0 / std::sin(half);
        return foot + Eigen::Vector3d(radius * std::cos(angle), radius * std::sin(angle), share * height);
    }
};

} // namespace

void addLatticeMast(FrameBuilder& builder, const Sentence& sentence)
{
    MastPlan plan{builder.groupName(),      Eigen::Vector3d::Zero(),   sentence.text("plan") == "square" ? 4 : 3,
                  sentence.count("bays"),   sentence.number("bottom"), sentence.number("top"),
                  sentence.number("height")};
    if (sentence.has("at")) {
        const auto at = builder.place("at");
        if (!at) return;
        plan.foot = *at;
    }
    const auto legs = builder.style(sentence.text("legs")), braces = builder.style(sentence.text("braces")),
               rings = builder.style(sentence.text("rings"));
    const std::string bracing = sentence.text("bracing");
    const auto around = [&](int corner) { return static_cast<std::size_t>((corner + 1) % plan.corners); };

    std::vector<std::vector<int>> levels;
    for (long level = 0; level <= plan.bays; ++level) {
        auto& points = levels.emplace_back();
        for (int corner = 0; corner < plan.corners; ++corner)
            points.push_back(builder.addPoint(fmt::format("{}.{}.{}", plan.name, level, corner + 1),
                                              plan.corner(level, corner), true,
                                              level == 0           ? "feet"
                                              : level == plan.bays ? "head"
                                                                   : "joints"));
    }
    for (long bay = 1; bay <= plan.bays; ++bay) {
        const auto &below = levels[static_cast<std::size_t>(bay - 1)], &above = levels[static_cast<std::size_t>(bay)];
        for (int corner = 0; corner < plan.corners; ++corner) {
            const auto here = static_cast<std::size_t>(corner), next = around(corner);
            const auto label = [&](const char* part) {
                return fmt::format("{}.{}.{}.{}", plan.name, part, bay, corner + 1);
            };
            builder.addMember(label("leg"), below[here], above[here], legs, "legs");
            if (bracing == "chevrons") {
                const Eigen::Vector3d middle = (plan.corner(bay, corner) + plan.corner(bay, corner + 1)) / 2.0;
                const int mid =
                    builder.addPoint(fmt::format("{}.m.{}.{}", plan.name, bay, corner + 1), middle, true, "joints");
                builder.addMember(label("brace-a"), below[here], mid, braces, "braces");
                builder.addMember(label("brace-b"), below[next], mid, braces, "braces");
                builder.addMember(label("ring-a"), above[here], mid, rings, "rings");
                builder.addMember(label("ring-b"), mid, above[next], rings, "rings");
                continue;
            }
            builder.addMember(label("ring"), above[here], above[next], rings, "rings");
            const bool rising = bracing == "crosses" || (bracing == "zigzags" && bay % 2 == 1);
            const bool falling = bracing == "crosses" || (bracing == "zigzags" && bay % 2 == 0);
            if (rising) builder.addMember(label("brace-a"), below[here], above[next], braces, "braces");
            if (falling) builder.addMember(label("brace-b"), below[next], above[here], braces, "braces");
        }
    }
}

} // namespace undisona
