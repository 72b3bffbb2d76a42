#pragma once
#include "core/pencil/extract.hpp"
#include "core/pencil/residual_vectors.hpp"
#include "core/system/assemble.hpp"
#include "core/system/rigid_mass.hpp"

namespace undisona {

/// Participation of the modes in the six directions about a reference point: phi' (M_ff r_f + M_fs r_s), with modes of
/// unit modal mass (Clough and Penzien, Dynamics of Structures, 1993, ch. 26). Rows are modes; columns x y z rx ry rz.
struct Participation {
    Eigen::Vector3d reference = Eigen::Vector3d::Zero();
    Vector6 total = Vector6::Zero();   ///< r' M r over all unknowns; kg, kg m2
    Vector6 movable = Vector6::Zero(); ///< b' M_ff^-1 b, the sum over all modes
    Eigen::MatrixXd factor;            ///< sqrt(kg), sqrt(kg) m
    Eigen::MatrixXd effective;         ///< factor squared; kg, kg m2

    double ofMovable(Eigen::Index mode, int direction) const; ///< 0 where nothing can move
    double ofTotal(Eigen::Index mode, int direction) const;
    double sumOfMovable(Eigen::Index mode, int direction) const; ///< up to and with the mode
    double sumOfTotal(Eigen::Index mode, int direction) const;
    /// Of the mass that the ask's targets count of: the total unless it says the movable.
    double sumFor(const Ask& ask, Eigen::Index mode, int direction) const
    {
        return ask.ofMovable ? sumOfMovable(mode, direction) : sumOfTotal(mode, direction);
    }
};

/// One member, spring, support or added mass in the energy reading.
struct EnergyRow {
    PartKind kind;
    std::string sentence;
    OwnerKind of = OwnerKind::member;
    int owner = -1;   ///< index of such a one
    std::string name; ///< of the owner; of an edge, of the sheet that has it
};

/// Shares of each mode's energy, rows x modes; strain and kinetic shares add up to 1 over the rows.
struct Energies {
    std::vector<EnergyRow> rows;
    Eigen::MatrixXd strain, kinetic;
    Eigen::MatrixXd axial, twisting, bending; ///< parts of the strain share; shear is within bending
};

struct Mode {
    int number = 0;         ///< from 1
    int group = 0;          ///< modes of the same frequency share it; from 1
    double lambda = 0.0;    ///< (rad/s)2
    double frequency = 0.0; ///< Hz
    bool rigid = false;
    bool mechanism = false;
    bool ritz = false; ///< no mode: a Ritz vector, its frequency a Ritz value
    double acceptedError = 0.0, residual = 0.0, floor = 0.0;
    /// Estimated relative error of the frequency, positive when it is too high; no number where there is no estimate.
    double meshError = 0.0;
    double meshErrorEither = 0.0;  ///< by how much that may be off either way
    std::string part;              ///< that moves, in words; empty where it is most of the structure
    std::string motion;            ///< how, in words
    std::string name;              ///< both
    bool local = false;            ///< of a part that is little of the mass, and carries little
    std::array<bool, 6> matters{}; ///< one of the few that carry most of what is carried in a direction
    std::string noMass;            ///< why it carries none along x, y and z; empty where it does

    /// The name that the model gives to it, or else its own.
    const std::string& calledBy(const ModeNames& names) const
    {
        const auto given = names.find(name);
        return given == names.end() || given->second.empty() ? name : given->second;
    }

    bool judged() const { return !std::isnan(meshError); }
    /// Between what the frequency lies without the estimated error, Hz; from the computed one on.
    double lowEnd() const
    {
        return judged() ? frequency / (1.0 + std::max(0.0, meshError) + meshErrorEither) : frequency;
    }
    double highEnd() const
    {
        return judged() ? frequency / std::max(0.1, 1.0 + std::min(0.0, meshError) - meshErrorEither) : frequency;
    }
};

/// "0.12 %", "-0.3 ± 0.1 %" or "no estimate".
std::string meshErrorText(const Mode&);

struct HandEstimate {
    std::string sentence;
    double deflection = 0.0; ///< m/N or rad/(N m)
    double stiffness = 0.0;  ///< N/m or N m/rad
    double mass = 0.0;       ///< the mass it was set against: the mode's own generalised mass at the point
    double frequency = 0.0;  ///< sqrt(k/m)/2 pi, Hz
    int nearestMode = 0;     ///< the mode that moves most there in that direction
};

/// Everything that one run found, and the proof of it. Belongs to exactly one model.
struct Solution {
    std::uint64_t key = 0; ///< solveKey of its model
    std::shared_ptr<const Structure> structure;
    FrameMesh mesh;
    std::shared_ptr<const System> system;
    Eigen::MatrixXd shapes; ///< unknowns x modes, unit modal mass
    std::vector<Mode> modes;
    Eigen::MatrixXf pieceErrors; ///< of the pieces of sheet, then of solids, to each mode's frequency; pieces x modes
    double shift = 0.0;          ///< sigma of the extraction, (rad/s)2
    bool allModes = false;
    bool ritz = false;        ///< Ritz vectors, not modes
    ResidualVectors residual; ///< where they were asked for
    Participation participation;
    Energies energies;
    CountCheck count;
    RunRecord record;
    MassSummary mass;
    std::vector<HandEstimate> handChecks;
    Findings findings;
    std::map<std::string, double> timings;
    double peakMemoryMb = 0.0;
    bool stopped = false;

    /// Motion of a node (ux uy uz rx ry rz) in a mode of unit modal mass.
    Vector6 motion(int node, std::size_t mode) const
    {
        return system->motionOf(node, shapes.col(static_cast<Eigen::Index>(mode)));
    }
    /// The modes and, after them, the residual vectors: what is written of each node's motion.
    std::size_t shapesWritten() const { return modes.size() + static_cast<std::size_t>(residual.lambda.size()); }
    Vector6 motionWritten(int node, std::size_t which) const
    {
        return which < modes.size()
                   ? motion(node, which)
                   : system->motionOf(node, residual.shapes.col(static_cast<Eigen::Index>(which - modes.size())));
    }
};

Certificate certificateOf(const Solution&);

} // namespace undisona
