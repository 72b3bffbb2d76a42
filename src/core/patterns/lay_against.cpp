// A part moved and turned so that a flat face of it lies on one of another part.
#include "core/patterns/frame_builder.hpp"
#include "core/shapes/flat_place.hpp"

#include <fmt/format.h>

namespace undisona {

void layAgainst(FrameBuilder& builder, const Sentence& sentence)
{
    const auto own = builder.place("own"), place = builder.place("place");
    const auto parts = builder.where("what"), others = builder.where("other");
    if (!own || !place || !parts || !others) return;
    std::string failure;
    const auto from = flatPlace(builder.frame, parts->sheets, parts->solids, *own, failure),
               onto = flatPlace(builder.frame, others->sheets, others->solids, *place, failure);
    if (!failure.empty()) return builder.complain(fmt::format("the faces could not be found: {}", failure));
    for (const auto& [found, key] : {std::pair(&from, "what"), {&onto, "other"}})
        if (!*found)
            return builder.complain(fmt::format("{} has no flat face there", sentence.text(key)),
                                    "Name a place on a flat face of sheet or a solid.");
    Eigen::Quaterniond turn = Eigen::Quaterniond::FromTwoVectors(from->outward, -onto->outward);
    if (sentence.has("angle")) turn = Eigen::AngleAxisd(sentence.number("angle"), onto->outward) * turn;
    Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
    motion.translate(onto->place).rotate(turn).translate(-from->place);
    builder.moveParts(*parts, motion);
}

} // namespace undisona
