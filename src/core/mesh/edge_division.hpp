#pragma once
#include "core/mesh/size_field.hpp"
#include "core/mesh/sweep_plan.hpp"

#include <numbers>

namespace undisona {

/// Elements of solids have curved sides: one that is as long as the size asked may turn by so much, since a parabola
/// through the arc keeps its area to 0.02 %.
inline constexpr double curvedTurn = std::numbers::pi / 6.0;

/// Into how many parts each edge is divided, and where: by the sizes of the faces beside it, the turn of curved ones,
/// and what must agree: opposite sides of faces that are mapped, the two rims of rings, both ends of sweeps.
class EdgeDivision {
public:
    /// `turns`: by which the turn of an arc that one element may cover is multiplied.
    EdgeDivision(const JoinedFaces&, const std::vector<double>& sizeOfFace, const SizeField&, const SweepPlan&,
                 double turns = 1.0);

    long parts(int edge) const { return parts_[static_cast<std::size_t>(edge)]; }
    /// Where the part with this number ends, 0...1 of the edge's length.
    double shareOf(int edge, long part) const;
    /// The four sides of a face as runs of the uses of its loop; empty where it is not one to be mapped.
    const std::vector<std::vector<int>>& sidesOf(int face) const { return sides_[static_cast<std::size_t>(face)]; }
    long partsOfSide(int face, std::size_t side) const;
    /// A flat ring between two circles about one centre, whose rims have the same number of parts.
    bool isRing(int face) const { return ring_[static_cast<std::size_t>(face)]; }
    /// Elements between the rims of a ring, and between opposite sides of a face that is mapped.
    long leastAcross(int face) const { return across_[static_cast<std::size_t>(face)]; }
    /// Sizes with what short edges and small arcs ask for; the stated ones where none do.
    const SizeField& field() const { return own_.empty() ? field_ : own_; }

private:
    bool isPlane(int face) const;
    double turnOf(const FaceEdge&, int face, bool plane) const;
    void divide(const SizeField&);
    void grade(std::size_t edge, double& wanted, const SizeField&);
    bool isGraded(int face) const;
    void findSides();
    void findRings();
    void bindSweeps(const SweepPlan&);
    void gradeShortEdges();
    void partAcross();
    void narrowGaps(std::size_t face, std::vector<SizeField::Source>&) const;
    void match();
    bool matchSides();
    bool matchBound();
    void gradeBound();

    /// Edges with the same parts: each follows its class's first one, the same way or against it.
    struct Bond {
        int first;
        bool against;
    };
    Bond bondOf(int edge) const;
    void bind(int one, int other, bool against);

    const JoinedFaces& faces_;
    const std::vector<double>& sizes_;
    const SizeField& field_;
    double turns_;
    std::vector<char> curved_; ///< by face: elements of second order alone lie on it
    SizeField own_;
    std::vector<long> parts_;                          ///< by edge
    std::vector<std::vector<double>> grading_;         ///< by edge: parts up to each of its even pieces; empty: even
    std::vector<std::vector<std::vector<int>>> sides_; ///< by face, empty or four
    std::vector<char> ring_;                           ///< by face
    std::vector<char> followed_;                       ///< by face: 1 meshed by a sweep, 2 also with curved sides
    std::vector<char> quadratic_;                      ///< by face: a sweep makes second-order bricks from it
    std::vector<long> across_;                         ///< by face
    std::vector<Bond> bonds_;                          ///< by edge
    std::vector<long> atLeast_;                        ///< by edge: parts that a sweep asks of its rails
    std::vector<char> even_;                           ///< by edge: has even parts, whatever the sizes
};

} // namespace undisona
