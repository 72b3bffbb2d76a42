#pragma once
#include "core/model/material.hpp"
#include "core/model/mode_names.hpp"
#include "core/shapes/frame.hpp"
#include "core/statement/ask.hpp"
#include "core/statement/attachment.hpp"
#include "core/statement/excitation.hpp"
#include "core/statement/load.hpp"

#include <set>

namespace undisona {

/// What a part is made of.
struct MadeOf {
    std::shared_ptr<const Material> material;
    double massFactor = 1.0; ///< by which its mass counts
    /// As it was put together, where `material` is that of a static state in which it is warmer; else null.
    std::shared_ptr<const Material> cold{};

    double density() const { return massFactor * material->density; } ///< kg/m3, as it counts
};

/// What a member is beside its shape.
struct MemberProperties : MadeOf {
    std::array<Eigen::Vector3d, 2> offset{Eigen::Vector3d::Zero(),
                                          Eigen::Vector3d::Zero()}; ///< m, global, from the points
    std::array<bool, 12> released{};        ///< member axes: x y z rx ry rz of the first end, then of the second
    std::array<double, 12> releaseSpring{}; ///< N/m or N m/rad; 0 is free
    std::string releaseSentence;
    bool rod = false; ///< carries force along itself alone
};

/// What a sheet is beside its shape.
struct SheetProperties : MadeOf {
    Eigen::Vector3d grain = Eigen::Vector3d::Zero(); ///< its direction; zero: x, or y where x is square to the sheet
    bool membrane = false;                           ///< carries forces in its own plane alone
};

/// What a solid is beside its shape.
struct SolidProperties : MadeOf {
    Eigen::Vector3d grain = Eigen::Vector3d::UnitX(); ///< its direction
    BodyElements elements = BodyElements::byShape;
    long through = 0; ///< elements through its thickness, at least; 0: as their size has it
    std::string elementsSentence;
};

/// Two parts that touch and are not joined, as Frame::partName counts them.
using PartPair = std::array<int, 2>;

/// An axis about which directions turn: x outwards from it, y round it, z along it.
struct AxisAbout {
    Eigen::Vector3d along, through; ///< unit; m

    /// Nothing on the axis itself, where no way leads outwards.
    std::optional<Eigen::Matrix3d> axesAt(const Eigen::Vector3d& place) const
    {
        const Eigen::Vector3d arm = place - through, outwards = arm - arm.dot(along) * along;
        if (outwards.norm() < 1e-9 * (1.0 + arm.norm())) return std::nullopt;
        Eigen::Matrix3d axes;
        axes << outwards.normalized(), along.cross(outwards.normalized()), along;
        return axes;
    }
};

/// Stiffness to ground at a point, rigid or elastic, in axes of its own (columns of `axes`, global); or rigid, of every
/// node of something else.
struct Hold {
    Target on;
    int at; ///< of the frame's points, members, sheets or solids, or of the edges or faces
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
    std::array<bool, 6> rigid{};
    std::array<double, 6> elastic{}; ///< N/m, N m/rad
    std::string sentence;
    std::optional<AxisAbout> about{}; ///< in place of `axes`, of what is no point
    bool alongEdge = false;           ///< x along the edge, z square to its surface
    bool alsoAtRest = true;           ///< false: it gives way to what is slow

    int point() const { return on == Target::point ? at : -1; } ///< -1: of something else
};

/// What only pushes along a direction, once a gap is closed, at a point or all over something else: a support, or
/// another point that is pushed back.
struct Contact {
    int point;              ///< -1: it pushes all over something
    Eigen::Vector3d pushes; ///< unit
    double gap = 0.0;       ///< m
    double stiffness = 0.0; ///< N/m, of all that it pushes; 0: nothing gives way
    double grip = 0.0;      ///< N/m, of all, sideways, of motions about a state in which it bears
    std::string sentence;
    int other = -1;               ///< the point that is pushed back; -1: the ground
    std::optional<bool> stated{}; ///< whether it bears, whatever the loads, where no state says otherwise
    bool shifts = false;          ///< a support that holds both ways, and goes where states shift it (AtRest)
    /// Force sideways that it holds at rest for one that it pushes with; beyond that it slides. 0: none.
    double friction = 0.0;
    /// In place of a point: a member, an edge, a sheet or a face, each piece of which bears or does not by itself.
    std::optional<std::pair<Target, int>> over{};
    bool perExtent = false; ///< its stiffness is N/m per m or m2 of that
    std::string name{};     ///< of what it pushes
};

/// What moves with a point as a rigid body would, in all directions or in some, global ones.
struct Tie {
    int leader;
    Target on;
    int at; ///< of the frame's points, members, sheets or solids, or of the edges or faces
    std::array<bool, 6> directions{true, true, true, true, true, true};
    std::string sentence;

    bool isRigid() const { return directions == std::array<bool, 6>{true, true, true, true, true, true}; }
    /// The leading one, and the one that follows where it is a point.
    std::vector<int> points() const
    {
        return on == Target::point ? std::vector<int>{leader, at} : std::vector<int>{leader};
    }
};

/// A point that follows the mean motion of what is named, which it does not stiffen.
struct MeanMotion {
    int point;
    std::vector<std::pair<Target, int>> of; ///< which of the frame's, or of the edges or faces
    std::string sentence;
};

/// Two parts, or several on a side, that are joined where their surfaces face each other, whatever meshes they have:
/// one moves with the other, or springs are spread between them.
struct SurfaceJoint {
    using Side = std::vector<std::pair<Target, int>>; ///< which of the frame's sheets or solids, or of the faces
    Side one, other;
    std::vector<int> edges{}; ///< that follow the other side; then the one has nothing else
    /// A member that does: where it lies along the other side all of its nodes, else its section at its ends and
    /// where it passes through.
    struct Line {
        int member;
        bool lies;
        std::vector<double> passes{}; ///< shares of its length at which it goes through the other side
    };
    std::vector<Line> members{};
    bool hinged = false;                    ///< of edges and members: they do not turn with it
    bool slides = false;                    ///< of edges: they move along themselves freely; of surfaces: on each other
    std::optional<double> hingeStiffness{}; ///< of hinged edges, N m/rad per m, about the edge
    std::optional<double> reach{}; ///< m, between the surfaces; where it is not said, half more than the least gap
    struct Springs {
        double across, along; ///< N/m3, or N/m2 of edges; square to the other side's surface and along it
        bool inAll = false;   ///< N/m, shared over all that faces each other

        /// Per area or per length, of so much of it (m2, m).
        Springs over(double extent) const
        {
            return inAll && extent > 0.0 ? Springs{across / extent, along / extent} : *this;
        }
    };
    std::optional<Springs> springs{}; ///< without them one side moves with the other
    std::string sentence;

    bool hasLines() const { return !edges.empty() || !members.empty(); }
};

struct Spring {
    int from, to;
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
    /// Along and about the axes, of what moves at `to` against `from`: N/m, N/rad, N m/rad; symmetric.
    Eigen::Matrix<double, 6, 6> stiffness = Eigen::Matrix<double, 6, 6>::Zero();
    std::string sentence;
};

struct PointMass {
    int point;
    double mass;                                       ///< kg
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();  ///< from the point, m
    Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero(); ///< about its own centre, global axes, kg m2
    Mask3 acts{true, true, true};
    std::string sentence;
};

/// Where elements are smaller.
struct LocalSize {
    double size; ///< m
    std::vector<int> edges;
    std::vector<Eigen::Vector3d> places;
    std::string sentence;
    std::vector<int> faces{};                       ///< their edges stand in `edges`
    std::vector<int> members{}, sheets{}, solids{}; ///< as a whole
};

/// What a scale or a drawing says of the mass of parts, beside what the model has.
struct Weighed {
    std::vector<std::pair<Target, int>> what; ///< members, sheets, solids, points; empty: all there is
    double mass;                              ///< kg
    std::string source;                       ///< who says so; may be empty
    std::string sentence;
    std::string called; ///< what was weighed, in words
};

struct HandCheck {
    int point;
    bool moment;
    int direction;
    std::string sentence;
};

/// How the structure becomes equations, as far as the model says it.
struct Discretisation {
    bool lumped = false;          ///< the mass; else it is consistent
    long elements = 0;            ///< of each member that states none itself; 0: as many as its modes want
    double sheetSizes = 1.0;      ///< factor of the sizes that are proposed for sheet
    Mask3 acts{true, true, true}; ///< global directions in which mass acts; without rotary inertia where not in all

    bool allMassActs() const { return acts == Mask3{true, true, true}; }
};

/// Everything the model says, with every name resolved to an index: what the equations are made from.
struct Structure {
    Frame frame;
    std::vector<MemberProperties> members;                                            ///< beside frame.members
    std::vector<SheetProperties> sheets;                                              ///< beside frame.sheets
    std::vector<SolidProperties> solids;                                              ///< beside frame.solids
    std::map<std::string, std::shared_ptr<const Material>, std::less<>> ownMaterials; ///< by name
    std::vector<Hold> holds;
    std::vector<Contact> contacts;
    std::vector<Tie> ties;
    std::vector<MeanMotion> means;
    std::vector<SurfaceJoint> surfaceJoints;
    std::set<int> carried; ///< points that a joint carries on a part's surface: no nodes of what they lie on
    std::vector<Spring> springs;
    std::vector<PointMass> pointMasses;
    std::vector<Attachment> attachments;
    std::vector<PartPair> apart;
    std::vector<LocalSize> localSizes;
    std::vector<Load> loads;
    std::vector<StaticState> staticStates; ///< every one that loads tell of, then those made of others
    int aboutState = -1;                   ///< which of them modes are about; none
    std::vector<Excitation> excitations;
    Discretisation discretised;
    Ask ask;
    std::vector<HandCheck> handChecks;
    ModeNames modeNames;
    std::vector<Weighed> weighed;
    std::set<std::string> leftOut; ///< ids of the masses and supports that this run goes without
    /// What holds at rest alone, and gives no stiffness to a motion: those above are of vibration.
    struct {
        std::vector<Hold> holds;
        std::vector<Attachment> attachments;
    } atRestAlone;
};

struct StructureAndFindings {
    Structure structure;
    Findings findings;
};

/// Always gives what could be resolved, so that it can be drawn; solve only when the findings hold no error.
StructureAndFindings buildStructure(const Model&);

/// As it is held at rest: with what holds then alone, without what holds in vibration alone; supports that a state
/// shifts are contacts that hold both ways, behind all others. The structure must outlive it.
class AtRest {
public:
    explicit AtRest(const Structure&);
    const Structure& structure() const { return own_ ? *own_ : whole_; }
    bool isHeldOtherwise() const { return own_.has_value(); }

private:
    const Structure& whole_;
    std::optional<Structure> own_;
};

/// The excitations alone, for when only they have changed.
std::vector<Excitation> readExcitations(const Model&, const Frame&, Findings&);

} // namespace undisona
