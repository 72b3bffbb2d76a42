#pragma once
#include "core/base/progress.hpp"
#include "core/elements/member.hpp"
#include "core/elements/shell.hpp"
#include "core/elements/solid.hpp"
#include "core/numerics/low_rank.hpp"
#include "core/numerics/sparse.hpp"
#include "core/system/motion_map.hpp"

#include <memory>
#include <mutex>

namespace undisona {

/// What a contribution to the equations is: the structure's own, what is attached to it, or what the forces of a static
/// state add.
enum class PartKind { member, sheet, solid, pointMass, spreadMass, spring, support, bed, tension };

/// What the number in Part::owner counts.
enum class OwnerKind { member, sheet, solid, edge, point };

/// One contribution to the equations, in the unknowns it touches; empty matrices stand for zero.
struct Part {
    PartKind kind = PartKind::member;
    std::string sentence;
    OwnerKind of = OwnerKind::member;
    int owner = -1; ///< index of such a one; of a spring between points the first
    std::vector<int> unknowns;
    Eigen::MatrixXd stiffness{}, mass{};
    /// Of sheet, or of a solid whose nodes shift freely: the element of System::shells or System::solids from which its
    /// matrices are made when they are wanted; -1: they stand here.
    int piece = -1;
    int tensioned = -1;           ///< the same, of what a state adds to a solid
    std::vector<int> held{};      ///< the held unknowns that its mass touches
    Eigen::MatrixXd massToHeld{}; ///< unknowns x held: the forces on the free ones when the held ones accelerate

    bool isStiff() const { return piece >= 0 || tensioned >= 0 || stiffness.size() > 0; }
    bool isHeavy() const { return piece >= 0 || mass.size() > 0; }
};

/// An element of a member with the way from the unknowns to its own: own = toOwn * q + heldToOwn * s.
struct ElementEquations {
    MemberElement element;
    Eigen::Matrix3d axes; ///< columns: x, axis 1, axis 2, global
    std::vector<int> unknowns, held;
    Eigen::Matrix<double, 12, Eigen::Dynamic> toOwn, heldToOwn{12, 0};
};

/// A piece of sheet: its corners' motions are those of the middle face under its nodes.
struct ShellEquations {
    ShellElement element;
    Eigen::Matrix3d axes;         ///< columns: x, y, normal, global
    std::array<double, 4> arms{}; ///< from each node along the normal to the middle plane of a warped piece, m
    std::array<int, 4> nodes{-1, -1, -1, -1};

    /// Motions of the corners in its own axes for the six global motions of each node, one after the other.
    Eigen::MatrixXd toOwn() const;
};

struct Prestress;

/// The equations K q = lambda M q with every support and rigid tie eliminated.
struct System {
    MotionMap motions;
    SparseSymmetric stiffness, mass;
    LowRank apart; ///< what of the stiffness would fill it
    std::vector<Part> parts;
    std::vector<ElementEquations> elements; ///< beside mesh.elements
    std::vector<ShellEquations> shells;     ///< beside mesh.shells
    std::vector<SolidElement> solids;       ///< beside mesh.solids
    bool lumped = false;                    ///< the mass
    std::shared_ptr<const Prestress> state; ///< what the structure is held with; null: nothing

    /// How the base's motion drives the free unknowns, for the six rigid motions about the origin.
    Eigen::MatrixXd baseLoad; ///< b = M_ff r_f + M_fs r_s, n x 6; kg, kg m
    struct BaseAnswer {
        Eigen::MatrixXd motion;            ///< M_ff^-1 b, n x 6: the motion whose inertia is the load
        Matrix6 movable = Matrix6::Zero(); ///< b' M_ff^-1 b; kg, kg m, kg m2 by block
    };
    /// Found when it is first asked for, and kept; by any thread.
    const BaseAnswer& baseAnswer() const;
    struct AnsweredOnce {
        std::once_flag asked;
        BaseAnswer answer;
    };
    std::shared_ptr<AnsweredOnce> answeredOnce = std::make_shared<AnsweredOnce>();

    Eigen::Index size() const { return static_cast<Eigen::Index>(motions.unknowns.size()); }
    /// The loads of unit base accelerations in the six directions about a point, n x 6 (Clough and Penzien, Dynamics of
    /// Structures, 1993, ch. 26: with the mass that couples the free unknowns to the supports).
    Eigen::MatrixXd baseLoads(const Eigen::Vector3d& about) const;
    /// Motion of a node (ux uy uz rx ry rz, global) for values of the unknowns.
    Vector6 motionOf(int node, const Eigen::Ref<const Eigen::VectorXd>& q) const;
    /// Displacements of a piece of a solid's nodes for each column of q, one after the other.
    Eigen::MatrixXd ownMotion(const MeshSolid&, const Eigen::MatrixXd& q) const;
    /// Of a part; what it does not hold itself is made in `room`. Nothing stands for zero.
    const Eigen::MatrixXd& stiffnessOf(const Part&, Eigen::MatrixXd& room) const;
    const Eigen::MatrixXd& massOf(const Part&, Eigen::MatrixXd& room) const;
    /// Motions of a piece of sheet's corners in its own axes, for each column of q.
    Eigen::MatrixXd ownMotion(const MeshShell&, const ShellEquations&, const Eigen::MatrixXd& q) const;
};

/// An element of a member as its own, without added mass, and its axes.
struct OwnMember {
    MemberElement element;
    Eigen::Matrix3d axes; ///< columns: x, axis 1, axis 2, global
};
OwnMember memberOf(const Structure&, const FrameMesh&, const MeshElement&);

/// A piece of sheet as its own element, without added mass.
ShellEquations shellOf(const Structure&, const FrameMesh&, const MeshShell&);

/// A piece of a solid as its own element, without added mass.
SolidElement solidOf(const Structure&, const FrameMesh&, const MeshSolid&);

/// What the mesh's motions follow from, without the matrices.
System kinematicsOf(const Structure&, const FrameMesh&);

System assemble(const Structure&, const FrameMesh&, Progress&);

} // namespace undisona
