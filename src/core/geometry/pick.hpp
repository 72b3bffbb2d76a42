#pragma once
#include "core/geometry/frame.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// Which points or members a sentence means, resolved against the frame.
///
/// A pick is a list of terms set apart by commas or "and", with an optional "except ...". A term is
///   everything | the name of a point, member or Shape sentence (in "quotes" if it holds a comma)
///   feet of Mast | legs of Mast | points of Mast | members of Mast | ...   (roles of patterns)
///   points at z = 0 m | lowest points [of Mast] | highest points [of Mast]
///   nearest to (1.2, 0, 3 m)
///   members along z | members with section brace | members 3 m long   (each also "... in Mast")
/// A number before a rule, as in "4 feet of Mast", is how many it found when it was made.
struct Picked {
    std::vector<int> indices; ///< of points or members; ascending, no repeats
    std::vector<int> edges;   ///< of sheets, where points are picked
    std::vector<int> sheets;  ///< where members are picked
    std::vector<int> solids;  ///< where members are picked
    std::vector<int> faces;   ///< of solids, where points are picked
    std::string problem;      ///< empty if all is well; `indices` may still be of use then
    std::string remedy;
    bool onlyCountDiffers = false;
    std::size_t size() const { return indices.size() + edges.size() + sheets.size() + solids.size() + faces.size(); }
};

Picked pickPoints(const Frame&, std::string_view text);
Picked pickMembers(const Frame&, std::string_view text);

/// "More like this": rules that find the given point or member together with others, widest last. Each is a
/// pick with its count in front, such as "4 points at z = 0 m"; rules that find nothing else are left out.
std::vector<std::string> rulesLikePoint(const Frame&, int point);
std::vector<std::string> rulesLikeMember(const Frame&, int member);
std::vector<std::string> rulesLikeEdge(const Frame&, int edge);
std::vector<std::string> rulesLikeFace(const Frame&, int face);

/// The name, in quotes if it would not read as one term.
std::string quotedName(std::string_view name);

} // namespace undisona
