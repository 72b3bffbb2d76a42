#pragma once
#include "core/model/target.hpp"
#include "core/shapes/frame.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// What a sentence means by the words that say where, resolved against the frame.
///
/// A pick is a list of terms set apart by commas or "and", with an optional "except ...". A term is
///   everything | all points | all members | all sheets | all solids
///   the name of a point, a member, a sheet, a solid or a Shape sentence (in "quotes" if it holds a comma)
///   feet of Mast | legs of Mast | points of Mast | members of Mast | sheets of Copy | ...   (roles of patterns)
///   points at z = 0 m | lowest points [of Mast] | highest points [of Mast]
///   nearest to (1.2, 0, 3 m)
///   members along z | members with section brace | members 3 m long   (each also "... in Mast")
///   edges and faces by rules of theirs (see edge_rules.hpp, face_rules.hpp)
/// and may end in a range (see place_range.hpp): "points of Mast between z = 0 m and 16 m".
/// A number before a rule, as in "4 feet of Mast", is how many it found when it was made.
struct Picked {
    // Indices of the frame's points, members, sheets, solids, and of its edges and faces; ascending, no repeats.
    std::vector<int> points, members, edges, sheets, faces, solids;
    std::string problem; ///< empty if all is well; what is found may still be of use then
    std::string remedy;
    bool onlyCountDiffers = false;

    std::vector<int>& of(Target);
    const std::vector<int>& of(Target) const;
    std::size_t size() const;
    Targets kinds() const; ///< of which there are some
};

/// Of the targets meant: a name that stands for several things means those of them, parts before their points.
Picked pick(const Frame&, std::string_view text, Targets meant);

/// "More like this": rules that find the given point or member together with others, widest last. Each is a
/// pick with its count in front, such as "4 points at z = 0 m"; rules that find nothing else are left out.
std::vector<std::string> rulesLikePoint(const Frame&, int point);
std::vector<std::string> rulesLikeMember(const Frame&, int member);
std::vector<std::string> rulesLikeEdge(const Frame&, int edge);
std::vector<std::string> rulesLikeFace(const Frame&, int face);

/// The name, in quotes if it would not read as one term.
std::string quotedName(std::string_view name);

} // namespace undisona
