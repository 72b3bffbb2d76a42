// Solids taken simpler than they were drawn: without their small features, or as sheet.
#include "core/base/number_text.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/picks/part_rule.hpp"
#include "core/shapes/mid_face.hpp"
#include "core/shapes/small_features.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

const char* nameOf(SmallFeature::Kind kind, bool several)
{
    switch (kind) {
    case SmallFeature::Kind::round:
        return several ? "rounds" : "round";
    case SmallFeature::Kind::hole:
        return several ? "holes" : "hole";
    case SmallFeature::Kind::mark:
        break;
    }
    return several ? "marks" : "mark";
}

/// "12 rounds of 1 to 2 mm, a hole of 4 mm at 0.1, 0, 0 m"
std::string listOf(const std::vector<SmallFeature>& features)
{
    std::string text;
    for (const auto kind : {SmallFeature::Kind::round, SmallFeature::Kind::hole, SmallFeature::Kind::mark}) {
        double least = 1e300, most = 0.0;
        std::string places;
        std::size_t count = 0;
        constexpr std::size_t listed = 6;
        for (const auto& feature : features) {
            if (feature.kind != kind) continue;
            least = std::min(least, feature.size);
            most = std::max(most, feature.size);
            if (++count <= listed) places += (places.empty() ? "" : "; ") + placeText(feature.place);
        }
        if (count == 0) continue;
        const std::string size = most - least < 1e-3 * most
                                     ? fmt::format("{:.3g} mm", 1e3 * most)
                                     : fmt::format("{:.3g} to {:.3g} mm", 1e3 * least, 1e3 * most);
        text += fmt::format("{}{} {} of {} at {}{}", text.empty() ? "" : ", ", count, nameOf(kind, count > 1), size,
                            places, count > listed ? " …" : "");
    }
    return text;
}

/// The places in "0.1 0 0 m, 0.2 0 0 m"; nothing, and a finding, where one is none.
std::optional<std::vector<Eigen::Vector3d>> placesIn(FrameBuilder& builder, const std::string& text)
{
    std::vector<Eigen::Vector3d> places;
    for (const auto& term : splitAt(text, ",;")) {
        const auto read = nearestTo("feature nearest to " + std::string(trimmed(term)), "feature");
        if (!read.place) {
            builder.complain(fmt::format("\"{}\" is no place", trimmed(term)),
                             "Give each as three coordinates with a unit, such as 0.1 0 0 m.");
            return std::nullopt;
        }
        places.push_back(*read.place);
    }
    return places;
}

} // namespace

void leaveOutSmall(FrameBuilder& builder, const Sentence& sentence)
{
    const auto solids = builder.where("solids");
    if (!solids) return;
    const std::string what = sentence.text("what");
    const bool all = what == "rounds, holes and marks";
    SmallFeatureRule rule{
        all || what == "rounds", all || what == "holes", all || what == "marks", sentence.number("size"), {}};
    if (sentence.has("keep")) {
        auto places = placesIn(builder, sentence.text("keep"));
        if (!places) return;
        rule.keep = std::move(*places);
    }
    for (const int which : solids->solids) {
        Solid& solid = builder.frame.solids[static_cast<std::size_t>(which)];
        if (placedMesh(*solid.shape)) {
            builder.complain(fmt::format("{} comes as a mesh, from which nothing can be left out", solid.name),
                             "Import it as a shape instead.");
            continue;
        }
        const WithoutFeatures without = withoutSmall(*solid.shape, rule);
        if (!without.gone.empty())
            builder.findings.push_back(
                noteAt(sentence.id, fmt::format("left out of {}: {}", solid.name, listOf(without.gone)),
                       "Switch the sentence off to have all back, or name the place of one to keep."));
        if (!without.stayed.empty())
            builder.findings.push_back(warningAt(sentence.id,
                                                 fmt::format("still on {}, as the faces about cannot close over: {}",
                                                             solid.name, listOf(without.stayed)),
                                                 "Take them away where the part was drawn, or leave them."));
        if (without.gone.empty() && without.stayed.empty())
            builder.findings.push_back(
                noteAt(sentence.id, fmt::format("{} has no {} smaller than {:.3g} mm{}", solid.name,
                                                all ? "rounds, holes or marks" : what, 1e3 * rule.below,
                                                without.asked.empty() ? "" : " beside those that are kept")));
        if (without.shape) solid.shape = std::make_shared<const SolidShape>(SolidShape{*without.shape});
    }
}

void takeMidFace(FrameBuilder& builder, const Sentence& sentence)
{
    const auto solids = builder.where("solid");
    if (!solids) return;
    for (const int which : solids->solids) {
        const Solid& solid = builder.frame.solids[static_cast<std::size_t>(which)];
        if (placedMesh(*solid.shape)) {
            builder.complain(fmt::format("{} comes as a mesh and cannot be taken as sheet", solid.name),
                             "Import it as a shape instead.");
            continue;
        }
        const MidFace mid = midFaceOf(*solid.shape);
        if (!mid.faces) {
            builder.complain(fmt::format("{} cannot be taken as sheet: {}", solid.name, mid.why),
                             "Leave it a solid, or leave out its small features first.");
            continue;
        }
        Sheet sheet{solid.name, sentence.id, mid.thickness,
                    sentence.has("size") ? sentence.number("size") : solid.size};
        sheet.kept.push_back({*mid.faces});
        sheet.colour = solid.colour;
        builder.replaceBySheet(which, std::move(sheet));
    }
}

} // namespace undisona
