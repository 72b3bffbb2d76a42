#pragma once
#include "core/assess/modified_modes.hpp"
#include "core/model/free_names.hpp"
#include "core/remedy/frequency_slopes.hpp"
#include "core/remedy/remedy.hpp"

namespace undisona {

/// What all that looks for remedies reads.
struct RemedyCase {
    const Model& model;
    const Solution& solution;
    const System& system; ///< with its matrices
    const RemedyOrder& order;
    std::vector<std::size_t> moved; ///< modes that are to move, from 0
    double mostMass;                ///< kg
    std::vector<bool> barred;       ///< by node: nothing may be put there

    double lambda() const { return solution.modes[moved.front()].lambda; }
    double hertz() const { return solution.modes[moved.front()].frequency; }
    /// The unit load that moves a node along a direction, on the unknowns.
    Eigen::VectorXd loadAt(int node, const Eigen::Vector3d& direction) const;
};

/// What a change adds to the equations in a basis' coordinates.
struct Added {
    Eigen::MatrixXd stiffness, mass;
};

/// A kind of change in one place, in any of several amounts.
struct Candidate {
    std::string kind, place;
    std::string sentence{};      ///< id of the one that says it, of what is said already
    std::vector<double> amounts; ///< from least to most, numerically ascending or not
    bool steps = false;          ///< these alone: sections of a list; else anything between
    QuantityKind quantity = QuantityKind::number;
    double promise = 0.0; ///< how far the first-order effect of the most of it takes lambda, as a share of it
    /// The loads whose static answers tell what it does beyond the modes; unknowns x loads.
    Eigen::MatrixXd loads{};
    std::function<Added(const ModifiedModes&, double amount)> add{};
    /// Makes `add` exact at an amount where it lies between others; true where that changes what it says by much.
    std::function<bool(const ModifiedModes&, double amount)> learn{};
    /// Called before another basis is used: forgets what it made for the one before. May be empty, as `learn` may.
    std::function<void()> forget{};
    std::function<double(double amount)> adds{}; ///< kg
    std::function<std::string(double amount)> amountWords{};
    std::function<Cure(double amount)> say{};
};

/// A mass at a place, a spring from there to ground, a strut between two places where the line is free: the few that
/// promise most of each.
std::vector<Candidate> massCandidates(const RemedyCase&);
std::vector<Candidate> propCandidates(const RemedyCase&);
std::vector<Candidate> strutCandidates(const RemedyCase&);
/// Another thickness, size, stiffness or mass that the model says, by what the words are worth.
std::vector<Candidate> wordCandidates(const RemedyCase&, const std::vector<WordSlope>&, Progress&);
/// Another section of a list for what has one.
std::vector<Candidate> sectionCandidates(const RemedyCase&, Progress&);

/// Names a node in statements: its point's name, or a new point that comes before them.
std::string placedName(const RemedyCase&, int node, std::vector<Statement>& statements);
std::string placeWords(const RemedyCase&, int node);

/// The nearest number of so many significant digits that lies no less far in a direction (up or down).
double roundedOn(double amount, bool up, int digits);

/// The model's equations on the solution's mesh, where they have the same unknowns; null where they have not. `moved`:
/// whether nodes lie elsewhere.
std::shared_ptr<const System> alikeSystem(const RemedyCase&, const Model&, Progress&, bool* moved = nullptr);

/// What another system adds in the basis' coordinates.
Added addedBy(const ModifiedModes&, const System& other, const System& own);

} // namespace undisona
