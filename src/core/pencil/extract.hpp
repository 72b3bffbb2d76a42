#pragma once
#include "core/base/finding.hpp"
#include "core/numerics/block_lanczos.hpp"
#include "core/numerics/shifted_factor.hpp"
#include "core/numerics/symmetric_product.hpp"
#include "core/pencil/kept_runs.hpp"
#include "core/pencil/mode_listener.hpp"
#include "core/pencil/run_estimate.hpp"

namespace undisona {

/// Which modes a run is to find, from the lowest up. Modes within 1e-6 of the last one's frequency come along.
struct ModeRequest {
    Eigen::Index most = 1;                                 ///< no more than so many
    double upTo = std::numeric_limits<double>::infinity(); ///< Hz, and none above
    /// Given the work of the watched loads (unknowns x loads) on the modes so far (ascending, unit modal mass; modes x
    /// loads), how many of them suffice; 0: go on. May be empty.
    std::function<Eigen::Index(const Eigen::MatrixXd& work)> enough;
    Eigen::MatrixXd watched;
    bool prove = true;       ///< count by inertia, and look for what is missing
    double tolerance = 1e-8; ///< a mode is taken when its accepted error and its residual are below, or at their floor
    /// Where a caller keeps runs, the count may lie a few modes higher than the last one, or at an earlier run's place.
    bool countElsewhere = true;
    /// Nothing will be asked after this: where no runs are kept, the factor is given back before the count, which then
    /// needs no more memory than the modes did.
    bool last = false;
};

/// Finds the lowest modes of K phi = lambda M phi and can go on for more without starting again.
class ModeExtractor {
public:
    /// Factorises K, free motions held in place at as many unknowns; or takes its factor from
    /// an earlier run. Findings tell of a direction that has neither stiffness nor mass.
    /// A run for about so many modes that would not fit into the memory that is free is refused with its figures.
    static Result<std::unique_ptr<ModeExtractor>> prepare(const Pencil&, Progress&, KeptRuns* = nullptr,
                                                          Eigen::Index modes = 1);

    /// The lowest modes, rigid ones first, as far as the request goes; fewer if there are no more or the run was
    /// stopped. Called again, it goes on from what it has.
    Extraction find(const ModeRequest&, const ModeListener& listener = {});

    /// Load-dependent Ritz vectors (Wilson, Yuan and Dickens 1982): from the static answers to the loads (unknowns x
    /// patterns, N or N m) on, each block K^-1 M times the one before, M-orthogonalised twice; what is new to less than
    /// 1e-10 is dropped; a Rayleigh-Ritz step at the end. Rigid motions come first, as modes. The others are no modes:
    /// `lambda` are Ritz values, the errors say how far off they are, nothing is counted.
    Extraction loadDependent(const Eigen::MatrixXd& loads, const ModeRequest&);

    /// K^-1 times loads, clear of the rigid motions; a small shift takes its place where a mechanism forbids it.
    Eigen::MatrixXd staticAnswer(const Eigen::MatrixXd& loads);

    double shift() const { return -shiftUp_; }
    Eigen::Index rigidMotions() const { return rigid_.cols(); }
    const std::shared_ptr<const Analysis>& analysis() const { return analysis_; } ///< of K and M together

private:
    ModeExtractor(const Pencil&, Progress&, KeptRuns*);
    SparseSymmetric together() const; ///< K in the pattern of K and M
    bool factorise();
    bool factorise(double shiftUp);
    bool hasFactor();     ///< made anew where it was given back; false when that was stopped
    bool factoriseHeld(); ///< without a shift
    void chooseShift();
    bool shiftBelow(const Eigen::VectorXd& thetas); ///< nearer to them; false where the shift stays as it is
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;
    Eigen::MatrixXd solveWhole(const Eigen::MatrixXd& right) const;
    Extraction findFew(const ModeRequest&, const ModeListener&);
    Extraction findMany(const ModeRequest&, Eigen::Index wanted, const ModeListener&); ///< from shift to shift upwards
    std::unique_ptr<BlockLanczos> firstRound();
    /// From the modes of an earlier run, where the mass has changed by little rank.
    std::unique_ptr<BlockLanczos> resumed();
    bool movesFreely(); ///< whether a motion beside the rigid ones costs no more than rounding leaves of K
    Extraction gather(Eigen::Index wanted);
    Extraction dense();
    struct Pairs {
        Eigen::VectorXd lambda; ///< ascending
        Eigen::MatrixXd shapes;
    };
    Pairs ritz(Eigen::MatrixXd space, const Eigen::VectorXd& theta) const;
    Extraction finished(Pairs, Eigen::Index wanted, bool complete);
    void remember(Pairs);
    double ritzTolerance() const; ///< of a Ritz pair, so that its mode is taken
    void limitDimension(const ModeRequest&);
    double largestRatio() const; ///< of stiffness to mass on the diagonals: above the highest eigenvalue's order
    Eigen::Index convergedCount();
    Eigen::MatrixXd watchedWork(const ModeRequest&); ///< on the rigid motions and all that has converged
    /// How large the basis shall be before the next look at what has converged.
    Eigen::Index nextLook(Eigen::Index fewest) const;
    /// The wanted ones of the lowest eigenvalues, the rest of the last one's group and a few beyond.
    RitzPairs convergedPairs(Eigen::Index wanted);
    /// How many modes the request comes to, once that many and one more have converged.
    std::optional<Eigen::Index> settled(const ModeRequest&, Eigen::Index& lookedAt);
    /// The wanted modes with their count; what the count misses is looked for.
    Extraction proven(const ModeRequest&, Eigen::Index wanted, const ModeListener&);
    /// The leading modes that the request comes to.
    Extraction cut(Extraction, const ModeRequest&) const;
    Extraction counted(Extraction, const ModeRequest&);
    Extraction recorded(Extraction); ///< with the figures of the run
    RunRecord recordSoFar() const;
    CountCheck count(const Extraction&, const ModeRequest&);
    /// The count at an earlier run's place, from its factor.
    std::optional<CountCheck> updatedCount(const Extraction&);
    double withMargin(double at, const Extraction&, std::int64_t& found) const;
    double hertzOf(double theta) const;
    std::vector<double> convergedHertz();
    void tell(const ModeListener&);
    Extraction onTheirWay(); ///< what has converged, by the recurrence alone

    const Pencil pencil_;
    Progress& progress_;
    const bool keeps_; ///< the caller keeps what runs leave behind
    std::shared_ptr<KeptRun> kept_;
    std::shared_ptr<const Analysis> analysis_;
    std::shared_ptr<const SignedFactor> factor_;
    mutable BorderedSolve bordered_;                   ///< by the factor, with what is apart
    mutable const SignedFactor* borderedBy_ = nullptr; ///< the factor that it was made with
    double shiftUp_ = 0.0;                             ///< -sigma
    std::vector<std::int64_t> held_;
    const Eigen::MatrixXd& rigid_; ///< the pencil's free motions
    Eigen::MatrixXd massRigid_;    ///< M times them
    RunRecord record_;
    std::vector<double> convergedLambda_;        ///< of all that the last gathering found, ascending
    static constexpr Eigen::Index blockSize = 8; ///< right-hand sides that a solve takes at a time
    ShiftedPencil shifted_;
    Pace pace_;
    Eigen::Index handedOut_ = 0;                        ///< modes that had converged when they were last told of
    bool begun_ = false;                                ///< something has been asked for
    double tolerance_ = 1e-8;                           ///< of what is asked for
    std::vector<std::unique_ptr<BlockLanczos>> rounds_; ///< the later ones look for what the first ones missed
};

} // namespace undisona
