#pragma once
#include "core/base/finding.hpp"
#include "core/numerics/block_lanczos.hpp"
#include "core/numerics/cholesky.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

/// Proof that no mode is missing: eigenvalues below a frequency counted by inertia.
struct CountCheck {
    double belowHz = 0.0;
    std::int64_t expected = -1; ///< -1: the count could not be made
    std::int64_t found = 0;
    std::string method = "negative pivots of K - sigma M";
    bool proven = false;
};

/// Eigenpairs in ascending order, shapes of unit modal mass.
struct Extraction {
    Eigen::VectorXd lambda;        ///< (rad/s)2; exactly 0 for rigid motions
    Eigen::MatrixXd shapes;        ///< unknowns x modes
    Eigen::VectorXd acceptedError; ///< rho of the definition: an exact eigenvalue lies within rho |lambda - sigma|
    Eigen::VectorXd residual;      ///< norm(K phi - lambda M phi) / norm(K phi); 0 for rigid motions
    Eigen::VectorXd floor;         ///< what double precision can reach of it: 10 eps norm(K) norm(phi) / norm(K phi)
    Eigen::Index rigid = 0;        ///< leading modes that are rigid motions of a part
    Eigen::Index mechanisms = 0;   ///< next ones that cost no energy and are not rigid
    double nextLambda = 0.0;       ///< a Ritz value above the last mode, 0 if none is known
    bool all = false;              ///< every finite eigenpair of the system is here
};

/// Finds the lowest modes of K phi = lambda M phi and can go on for more without starting again.
class ModeExtractor {
public:
    /// Factorises K - sigma M. Findings tell of a direction that has neither stiffness nor mass.
    static Result<std::unique_ptr<ModeExtractor>> prepare(const System&, Progress&);

    using Listener = std::function<void(const std::vector<double>& convergedHz)>;
    /// The `count` lowest modes, rigid ones first, with every neighbour within 1e-6 of the last; fewer if
    /// there are no more or the run was stopped.
    Extraction lowest(Eigen::Index count, const Listener& listener = {});
    /// Every mode up to the frequency, at most `most`.
    Extraction upTo(double hertz, Eigen::Index most, const Listener& listener = {});

    /// Counts eigenvalues between the last mode and the next Ritz value.
    CountCheck count(const Extraction&) const;

    double shift() const { return -shiftUp_; }

private:
    ModeExtractor(const System&, Progress&);
    bool factorise(double shiftUp);
    void chooseShift();
    Extraction gather(Eigen::Index wanted);
    Extraction dense();
    Extraction finished(Eigen::VectorXd lambda, Eigen::MatrixXd shapes, Eigen::Index wanted, bool complete);
    void certify(Extraction&) const;
    Eigen::Index convergedCount();
    /// The wanted ones of the lowest eigenvalues, the rest of the last one's group and a few beyond.
    Eigen::MatrixXd convergedVectors(Eigen::Index wanted);
    void repair(Extraction&, Eigen::Index wanted, const Listener&);
    double hertzOf(double theta) const;
    std::vector<double> convergedHertz();

    const System& system_;
    Progress& progress_;
    SparseSymmetric shifted_;
    std::unique_ptr<Cholesky> factor_;
    double shiftUp_ = 0.0;  ///< -sigma
    Eigen::MatrixXd rigid_; ///< exact rigid motions, M-orthonormal
    ShiftedPencil pencil_;
    std::vector<std::unique_ptr<BlockLanczos>> rounds_; ///< the later ones look for what the first ones missed
};

/// The motions of each connected part as a rigid body that its supports and springs allow: translations x y z
/// first, then turns about the principal axes through the part's mass centre; M-orthonormal, largest
/// translation or turn positive. Motions without mass are left out.
Eigen::MatrixXd rigidModes(const System&);

} // namespace undisona
