#pragma once
#include "core/base/finding.hpp"
#include "core/modal/count_check.hpp"
#include "core/numerics/block_lanczos.hpp"
#include "core/numerics/cholesky.hpp"
#include "core/numerics/indefinite_factor.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

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
    CountCheck check;              ///< between the last mode and the next Ritz value
};

/// Fills in the errors that `sigma` with its solve bounds, and tells motions without energy (mechanisms) from modes;
/// `extraction.rigid` must be set.
void certify(const System&, const std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>& solveShifted, double sigma,
             Extraction&);

/// The first `kept` modes with every neighbour within 1e-6 of the last; errors are cut along.
Extraction leading(Extraction, Eigen::Index kept);

/// Which modes a run is to find, from the lowest up. Modes within 1e-6 of the last one's frequency come along.
struct ModeRequest {
    Eigen::Index most = 1;                                 ///< no more than so many
    double upTo = std::numeric_limits<double>::infinity(); ///< Hz, and none above
    /// Given the modes so far (ascending, unit modal mass), how many of them suffice; 0: go on. May be empty.
    std::function<Eigen::Index(const Eigen::MatrixXd& shapes)> enough;
    bool prove = true; ///< count by inertia, and look for what is missing
};

/// Finds the lowest modes of K phi = lambda M phi and can go on for more without starting again.
class ModeExtractor {
public:
    /// Factorises K - sigma M. Findings tell of a direction that has neither stiffness nor mass.
    static Result<std::unique_ptr<ModeExtractor>> prepare(const System&, Progress&);

    using Listener = std::function<void(const std::vector<double>& convergedHz)>;
    /// The lowest modes, rigid ones first, as far as the request goes; fewer if there are no more or the run was
    /// stopped. Called again, it goes on from what it has.
    Extraction find(const ModeRequest&, const Listener& listener = {});

    double shift() const { return -shiftUp_; }

private:
    ModeExtractor(const System&, Progress&);
    bool factorise(double shiftUp);
    void chooseShift();
    bool movesFreely(); ///< bare matrices: whether a motion costs no more than rounding leaves of K
    Extraction gather(Eigen::Index wanted);
    Extraction dense();
    Extraction finished(Eigen::VectorXd lambda, Eigen::MatrixXd shapes, Eigen::Index wanted, bool complete);
    Eigen::Index convergedCount();
    /// The wanted ones of the lowest eigenvalues, the rest of the last one's group and a few beyond.
    Eigen::MatrixXd convergedVectors(Eigen::Index wanted);
    /// How many modes the request comes to, once that many and one more have converged.
    std::optional<Eigen::Index> settled(const ModeRequest&, Eigen::Index& lookedAt);
    /// The wanted modes with their count; what the count misses is looked for.
    Extraction proven(const ModeRequest&, Eigen::Index wanted, const Listener&);
    /// The leading modes that the request comes to.
    Extraction cut(Extraction, const ModeRequest&) const;
    CountCheck count(const Extraction&) const;
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

} // namespace undisona
