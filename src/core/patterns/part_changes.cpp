// Sentences that change parts which others have made: moved, turned, of a thickness that runs out.
#include "core/patterns/frame_builder.hpp"
#include "core/picks/sentence_reader.hpp"

#include <fmt/format.h>

namespace undisona {

void movePart(FrameBuilder& builder, const Sentence& sentence)
{
    const auto parts = builder.where("what");
    if (!parts) return;
    Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
    motion.translation() = asVector(sentence.vector("step"));
    builder.moveParts(*parts, motion);
}

void turnPart(FrameBuilder& builder, const Sentence& sentence)
{
    const auto parts = builder.where("what");
    const auto through = builder.place("through");
    if (!parts || !through) return;
    const Eigen::Vector3d axis = Eigen::Vector3d::Unit(sentence.text("axis")[0] - 'x');
    Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
    motion.translate(*through).rotate(Eigen::AngleAxisd(sentence.number("angle"), axis)).translate(-*through);
    builder.moveParts(*parts, motion);
}

void taperSheet(FrameBuilder& builder, const Sentence& sentence)
{
    const auto sheets = builder.where("sheet");
    const auto from = builder.place("from"), to = builder.place("to");
    if (!sheets || !from || !to) return;
    if ((*to - *from).norm() < 1e-6)
        return builder.complain("the thickness changes between two places that are the same",
                                "Give two places apart, such as the two ends of the sheet.");
    for (const int index : sheets->sheets)
        builder.frame.sheets[static_cast<std::size_t>(index)].taper =
            Sheet::Taper{{*from, *to}, {sentence.number("first"), sentence.number("last")}};
}

} // namespace undisona
