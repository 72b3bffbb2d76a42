#pragma once
#include "core/base/finding.hpp"
#include "core/geometry/frame.hpp"
#include "core/model/model.hpp"

#include <optional>

namespace undisona {

inline Eigen::Vector3d asVector(const std::array<double, 3>& values)
{
    return {values[0], values[1], values[2]};
}

/// What a sentence names, resolved against the frame; what is wrong goes to the findings under the sentence's id. The
/// one that is read is put in `sentence_`.
class SentenceReader {
public:
    SentenceReader(const Frame& frame, Findings& findings) : findings_(findings), frame_(frame) {}

protected:
    void complain(std::string what, std::string remedy = {});
    std::vector<int> points(std::string_view key);
    std::vector<int> members(std::string_view key);
    /// Points and edges of sheets, or members and sheets.
    struct Picked pointsAndEdges(std::string_view key);
    struct Picked parts(std::string_view key);
    std::vector<int> sheets(std::string_view key);
    /// A point by name, or coordinates; nothing, and a finding, where it is neither.
    std::optional<Eigen::Vector3d> place(std::string_view key);
    /// The directions named, every one where none is.
    std::array<bool, 3> translations(std::string_view key) const;

    Findings& findings_;
    const Sentence* sentence_ = nullptr;

private:
    struct Picked taken(struct Picked);
    const Frame& frame_;
};

} // namespace undisona
