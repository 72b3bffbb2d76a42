#pragma once
#include "core/geometry/frame.hpp"
#include "core/model/material.hpp"
#include "core/model/model.hpp"

#include <optional>
#include <set>

namespace undisona {

using Mask3 = std::array<bool, 3>;

/// What a member is beside its shape.
struct MemberProperties {
    std::shared_ptr<const Material> material;
    std::array<Eigen::Vector3d, 2> offset{Eigen::Vector3d::Zero(),
                                          Eigen::Vector3d::Zero()}; ///< m, global, from the points
    std::array<bool, 12> released{};        ///< member axes: x y z rx ry rz of the first end, then of the second
    std::array<double, 12> releaseSpring{}; ///< N/m or N m/rad; 0 is free
    std::string releaseSentence;
    bool rod = false; ///< carries force along itself alone
};

/// What a sheet is beside its shape.
struct SheetProperties {
    std::shared_ptr<const Material> material;
    Eigen::Vector3d grain = Eigen::Vector3d::Zero(); ///< its direction; zero: x, or y where x is square to the sheet
    bool membrane = false;                           ///< carries forces in its own plane alone
};

/// What a solid is beside its shape.
struct SolidProperties {
    std::shared_ptr<const Material> material;
    Eigen::Vector3d grain = Eigen::Vector3d::UnitX(); ///< its direction
    BodyElements elements = BodyElements::byShape;
    long through = 0; ///< elements through its thickness, at least; 0: as their size has it
    std::string elementsSentence;
};

/// Two parts that touch and are not joined, as Frame::partName counts them.
using PartPair = std::array<int, 2>;

/// Stiffness to ground at a point, rigid or elastic, in axes of its own (columns of `axes`, global); or rigid along an
/// edge of sheets.
struct Hold {
    int point; ///< -1: along the edge, or on the face
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
    std::array<bool, 6> rigid{};
    std::array<double, 6> elastic{}; ///< N/m, N m/rad
    std::string sentence;
    int edge = -1;
    int face = -1; ///< of solids
};

struct Tie {
    int leader, follower;
    std::string sentence;
};

struct Spring {
    int from, to;
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
    std::array<double, 6> stiffness{};
    std::string sentence;
};

struct Bed {
    int member;
    std::array<double, 3> stiffness{}; ///< N/m per m, global x y z
    std::string sentence;
};

struct AreaBed {
    int sheet;
    std::array<double, 3> stiffness{}; ///< N/m per m2, global x y z
    std::string sentence;
};

struct EdgeBed {
    int edge;
    std::array<double, 3> stiffness{}; ///< N/m per m, global x y z
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

struct LineMass {
    int member;
    double perLength; ///< kg/m
    Mask3 acts{true, true, true};
    std::string sentence;
};

struct AreaMass {
    int sheet;
    double perArea; ///< kg/m2
    Mask3 acts{true, true, true};
    std::string sentence;
};

struct EdgeMass {
    int edge;
    double perLength; ///< kg/m
    Mask3 acts{true, true, true};
    std::string sentence;
};

/// Spread over the outer face of a solid.
struct FaceMass {
    int face;
    double perArea; ///< kg/m2
    Mask3 acts{true, true, true};
    std::string sentence;
};

struct FaceBed {
    int face;
    std::array<double, 3> stiffness{}; ///< N/m per m2, global x y z
    std::string sentence;
};

/// Where elements are smaller.
struct LocalSize {
    double size; ///< m
    std::vector<int> edges;
    std::vector<Eigen::Vector3d> places;
    std::string sentence;
    std::vector<int> faces{}; ///< their edges stand in `edges`
};

enum class Entry { unknown, base, force, moment };

/// A source of vibration; frequencies in Hz.
struct Excitation {
    std::string name, sentence;
    bool turns = false;           ///< has orders of a speed
    double low = 0.0, high = 0.0; ///< equal for one speed or frequency
    std::vector<double> orders{1.0};
    double margin = 0.0;
    Entry entry = Entry::unknown;
    std::vector<int> points;
    Mask3 along{true, true, true};
};

/// Loads that vectors are made from.
struct LoadPatterns {
    enum class From { base, weight, force } from = From::base;
    Mask3 directions{true, true, false};
    std::vector<int> points; ///< where unit forces act
    std::string sentence;    ///< that asks; empty where a caller does
};

struct Ask {
    enum class Until { count, frequency, massShare, band, nearest, all, ritz } until = Until::count;
    long count = 12;                    ///< asked for, or the largest number
    double frequency = 0.0;             ///< Hz: the limit, the upper end of a band, or what the modes are nearest to
    double from = 0.0;                  ///< Hz, the lower end of a band
    double share = 0.0;                 ///< 0: none; Ritz vectors may aim at one too
    std::array<double, 3> shareAlong{}; ///< in place of it along x, y, z; 0: as it is
    bool ofMovable = false; ///< the share is one of the movable mass, not of the total
    Mask3 directions{true, true, false}; ///< of the share
    LoadPatterns ritz;                   ///< what Ritz vectors are made from
    std::string sentence;                ///< that asks; empty where a caller does, or nobody

    // Beside what is asked for, how it is found.
    double tolerance = 1e-8;              ///< of the accepted error and the residual
    bool prove = true;                    ///< count by inertia, so that none is missed
    bool meshErrors = true;               ///< estimate how far off the mesh leaves each mode
    std::optional<LoadPatterns> residual; ///< residual vectors for these loads are wanted too
    bool lumped = false;
    long elements = 0; ///< 0: by itself
    double sheetSizes = 1.0; ///< factor of the sizes that are proposed for sheet
    std::optional<Eigen::Vector3d> reference;
    struct Refine {
        double within;      ///< largest relative error of a frequency by the mesh
        double below = 0.0; ///< Hz, of the modes that count; 0: all that are found
        std::string sentence;
    };
    std::optional<Refine> refine; ///< the mesh until the modes are so near

    /// Modes away from the low end, with none below them computed.
    bool inside() const { return (until == Until::band && from > 0.0) || until == Until::nearest; }
    double target(int direction) const
    {
        const double own = shareAlong[static_cast<std::size_t>(direction)];
        return own > 0.0 ? own : share;
    }
    bool byCaller = false; ///< in place of the model's own ask
};

struct HandCheck {
    int point;
    bool moment;
    int direction;
    std::string sentence;
};

/// Everything the model says, with every name resolved to an index: what the equations are made from.
struct Structure {
    Frame frame;
    std::vector<MemberProperties> members; ///< beside frame.members
    std::vector<SheetProperties> sheets;   ///< beside frame.sheets
    std::vector<SolidProperties> solids;   ///< beside frame.solids
    double materialMassFactor = 1.0;
    std::vector<Hold> holds;
    std::vector<Tie> ties;
    std::vector<Spring> springs;
    std::vector<Bed> beds;
    std::vector<AreaBed> areaBeds;
    std::vector<EdgeBed> edgeBeds;
    std::vector<PointMass> pointMasses;
    std::vector<LineMass> lineMasses;
    std::vector<AreaMass> areaMasses;
    std::vector<EdgeMass> edgeMasses;
    std::vector<FaceMass> faceMasses;
    std::vector<FaceBed> faceBeds;
    std::vector<PartPair> apart;
    std::vector<LocalSize> localSizes;
    std::vector<Excitation> excitations;
    Ask ask;
    std::vector<HandCheck> handChecks;
    std::set<std::string> leftOut; ///< ids of the masses and supports that this run goes without
};

struct StructureAndFindings {
    Structure structure;
    Findings findings;
};

/// Always gives what could be resolved, so that it can be drawn; solve only when the findings hold no error.
StructureAndFindings buildStructure(const Model&);

/// The excitations alone, for when only they have changed.
std::vector<Excitation> readExcitations(const Model&, const Frame&, Findings&);

} // namespace undisona
