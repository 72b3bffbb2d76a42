#include "core/picks/sentence_reader.hpp"

#include "core/model/meant_targets.hpp"

#include <fmt/format.h>

namespace undisona {

void SentenceReader::complain(std::string what, std::string remedy)
{
    findings_.push_back(errorAt(sentence_->id, std::move(what), std::move(remedy)));
}

Picked SentenceReader::where(std::string_view key)
{
    const Field& field = *sentence_->kind->field(key);
    return accepted(pick(frame_, sentence_->text(key), meantTargets(*sentence_, field)), whyMeant(*sentence_, field));
}

Picked SentenceReader::accepted(Picked picked, const std::string& why)
{
    if (!picked.problem.empty())
        findings_.push_back({picked.onlyCountDiffers ? Severity::warning : Severity::error,
                             picked.problem,
                             why.empty() || picked.onlyCountDiffers ? picked.remedy : why + " " + picked.remedy,
                             sentence_->id,
                             {}});
    return picked;
}

std::optional<Eigen::Vector3d> SentenceReader::place(std::string_view key)
{
    const auto read = readVector(sentence_->text(key), QuantityKind::length, NumberStyle::file);
    if (const auto* vector = std::get_if<Vector>(&read)) return asVector(vector->si);
    const auto picked = accepted(pick(frame_, sentence_->text(key), Target::point), {}).points;
    if (picked.size() == 1) return frame_.points[static_cast<std::size_t>(picked[0])].place;
    if (picked.size() > 1) complain("one place is needed here, but several points are named");
    return std::nullopt;
}

std::array<bool, 3> SentenceReader::translations(std::string_view key) const
{
    if (!sentence_->has(key)) return {true, true, true};
    const Directions directions = sentence_->directions(key);
    return {directions.has(0), directions.has(1), directions.has(2)};
}

} // namespace undisona
