#include "core/geometry/sentence_reader.hpp"

#include "core/geometry/pick.hpp"

#include <fmt/format.h>

namespace undisona {

void SentenceReader::complain(std::string what, std::string remedy)
{
    findings_.push_back(errorAt(sentence_->id, std::move(what), std::move(remedy)));
}

Picked SentenceReader::taken(Picked picked)
{
    if (!picked.problem.empty())
        findings_.push_back({picked.onlyCountDiffers ? Severity::warning : Severity::error,
                             picked.problem,
                             picked.remedy,
                             sentence_->id,
                             {}});
    return picked;
}

std::vector<int> SentenceReader::points(std::string_view key)
{
    const Picked picked = taken(pickPoints(frame_, sentence_->text(key)));
    if (picked.edges.size() + picked.faces.size() > 0)
        complain(fmt::format("\"{}\" means edges or faces, but points are needed here", sentence_->text(key)),
                 "Name points, such as the corners of a plate.");
    return picked.indices;
}

std::vector<int> SentenceReader::members(std::string_view key)
{
    const Picked picked = taken(pickMembers(frame_, sentence_->text(key)));
    if (picked.indices.empty() && !picked.sheets.empty())
        complain(fmt::format("\"{}\" means sheet, but members are needed here", sentence_->text(key)),
                 "Name members, or use the sentence of the same sense for sheet.");
    return picked.indices;
}

Picked SentenceReader::pointsAndEdges(std::string_view key)
{
    return taken(pickPoints(frame_, sentence_->text(key)));
}

Picked SentenceReader::parts(std::string_view key)
{
    return taken(pickMembers(frame_, sentence_->text(key)));
}

std::vector<int> SentenceReader::sheets(std::string_view key)
{
    const Picked picked = parts(key);
    if (picked.sheets.empty() && !picked.indices.empty())
        complain(fmt::format("\"{}\" means members, but sheet is needed here", sentence_->text(key)),
                 "Name a plate, a disc or another sheet.");
    return picked.sheets;
}

std::optional<Eigen::Vector3d> SentenceReader::place(std::string_view key)
{
    const auto read = readVector(sentence_->text(key), QuantityKind::length, NumberStyle::file);
    if (const auto* vector = std::get_if<Vector>(&read)) return asVector(vector->si);
    const auto picked = points(key);
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
