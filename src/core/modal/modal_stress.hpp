#pragma once
#include "core/elements/section_stress.hpp"
#include "core/modal/solution.hpp"
#include "core/system/static_loads.hpp"

namespace undisona {

/// The largest stress of a member, sheet or solid in a mode, and where it is.
struct PartStress {
    OwnerKind of = OwnerKind::member;
    int owner = -1;
    std::string name, sentence;
    Stress most;                                     ///< each its own largest, Pa
    Eigen::Vector3d place = Eigen::Vector3d::Zero(); ///< of the largest equivalent one, m
    std::string where;                               ///< of sheet "above" or "below" its middle face
    /// By how much the most stressed piece by itself differs at its corners from the smoother field, a share of the
    /// most.
    double jump = 0.0;
    SectionForces forces; ///< of a member, each the largest magnitude along it
    bool known = true;    ///< false where nothing is known of the section's fibres
    double bears = 0.0;   ///< the equivalent stress that its material bears, of static states, Pa; 0: not stated

    double share() const { return bears > 0.0 ? most.equivalent / bears : 0.0; } ///< of that
};

/// Stress of one mode of unit modal mass, so that it goes with the motion: Pa, N, N m each per m sqrt(kg).
struct ModalStress {
    int mode = 0;
    std::vector<PartStress> parts; ///< the most stressed first
};

/// With the equivalent stress over the structure, for colours.
struct StressReading {
    std::vector<ModalStress> modes;
    /// Of what it stands at: face of sheet, or -1 - solid; node. Empty where the figures would be too many to keep.
    std::vector<std::array<int, 2>> places;
    Eigen::MatrixXf atPlaces; ///< places x modes, Pa
    Eigen::MatrixXf atEnds;   ///< both ends of the mesh's elements in turn x modes, Pa
};

/// Of every mode of a solution; none of rigid motions and mechanisms. Sheet: of the middle face's strains and
/// curvatures at top and bottom, of a stack at both faces of every layer. Solids and sheet: the smoother field through
/// strains where they are best (Barlow 1976), at the nodes, within one face or solid each (recovered_strains.hpp).
/// Members: the end forces of their elements, K q - lambda M q, with what is spread along them.
StressReading stressReading(const Solution&, Progress&);
/// Of static states, whose motions their loads make, and what elements of members carry so (endForces, 12 each x
/// states): Pa, N, N m as they are, `mode` the number of the state.
StressReading stressReading(const Structure&, const FrameMesh&, const System&, const StaticLoads&,
                            const Eigen::MatrixXd& motions, const Eigen::MatrixXd& ends, Progress&);

/// The largest equivalent stress of what stands at each node, of one mode or state as the reading has it; 0 where it
/// has none.
Eigen::VectorXd equivalentAtNodes(const FrameMesh&, const StressReading&, Eigen::Index mode);

/// How strongly a mode moves: one figure of it, all others go with it.
struct ModalScale {
    enum class By { displacement, velocity, acceleration, energy, stress } by = By::displacement;
    double value = 1e-3; ///< m, m/s, m/s2, J, Pa: amplitudes; the energy of the whole motion
    int point = -1;      ///< of the frame: the displacement, velocity or acceleration there; -1: the largest
};

/// What a mode comes to at a scale.
struct ScaledMode {
    double factor = 0.0;                                           ///< of the motion of unit modal mass, m sqrt(kg)
    double displacement = 0.0, velocity = 0.0, acceleration = 0.0; ///< the largest anywhere, amplitudes
    Eigen::Vector3d place = Eigen::Vector3d::Zero();               ///< where that is, m
    double atPoint = 0.0;                                          ///< displacement of the point that is named, m
    double energy = 0.0;                                           ///< J, E = (omega factor)2 / 2
    double stress = 0.0;                                           ///< the largest equivalent one, Pa
};

/// A message where it cannot be: a point that does not move, a motion without stress.
Result<ScaledMode> scaled(const Solution&, const ModalStress&, const ModalScale&);

} // namespace undisona
