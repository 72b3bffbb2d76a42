#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"
#include "core/picks/pick.hpp"

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
    /// What a field names of what is meant by it.
    Picked where(std::string_view key);
    std::vector<int> points(std::string_view key) { return where(key).points; }
    /// A point by name, or coordinates; nothing, and a finding, where it is neither.
    std::optional<Eigen::Vector3d> place(std::string_view key);
    /// The directions named, every one where none is.
    std::array<bool, 3> translations(std::string_view key) const;

    Findings& findings_;
    const Sentence* sentence_ = nullptr;

private:
    Picked accepted(Picked, const std::string& why); ///< what is wrong with it is found
    const Frame& frame_;
};

} // namespace undisona
