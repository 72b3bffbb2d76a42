#pragma once
#include "core/pencil/extract.hpp"

namespace undisona {

/// Modes away from the low end of the spectrum, none below them computed: shifts inside the spectrum, each with an
/// LDL' factorisation that counts as it is made (spectrum slicing: Ericsson and Ruhe 1980; Grimes, Lewis and
/// Simon 1994). Rigid motions are ordinary eigenvectors here.
class InteriorExtractor {
public:
    /// An analysis of the pattern of K and M together may be handed in.
    InteriorExtractor(const Pencil&, Progress&, std::shared_ptr<const Analysis> = nullptr, double tolerance = 1e-8);

    /// Every mode from the one frequency to the other, Hz, 0 < low < high; the lowest `most` of them if there are
    /// more. The count between the ends is part of the result. A finding when no shift there can be factorised.
    Result<Extraction> band(double low, double high, Eigen::Index most, const ModeListener& listener = {});

    /// The `count` modes nearest to a frequency > 0, with neighbours within 1e-6 of the farthest.
    Result<Extraction> nearest(double hertz, Eigen::Index count, const ModeListener& listener = {});

    /// Goes on upwards from modes that are known to be all below `known.check.belowHz`, from shift to shift, each of
    /// which counts what lies below it: until so many modes in all, or every mode up to a frequency, have been found.
    /// Each shift takes about `perShift` modes; the known ones stay as they are.
    Extraction upwards(Extraction known, Eigen::Index wanted, double upToHz, Eigen::Index perShift,
                       const ModeListener& listener = {});

    double shift() const { return sigma_; } ///< the last one used

private:
    struct Pairs {
        Eigen::VectorXd lambda;
        Eigen::MatrixXd shapes;
    };
    bool factoriseNear(double sigma, double nudge);
    std::optional<std::int64_t> countBelow(double lambda);
    /// Goes on at the present shift until `enough` of what has converged, or nothing is left. Every eigenvalue nearer
    /// to the shift than `reach` has converged, but for copies beyond the block size.
    Pairs around(const std::function<bool(const Eigen::VectorXd& lambda, double reach)>& enough);
    Pairs polished(const Eigen::MatrixXd& vectors) const;
    /// The eigenpairs in [low, high), of which there are `expected`; looks again for those that are missing.
    void slice(double low, double high, std::int64_t expected, std::vector<Pairs>& into);
    Extraction gathered(const std::vector<Pairs>&, double low, double high, std::int64_t before);
    /// Says what has converged: in earlier rounds, and in this one.
    void hear(BlockLanczos&, Eigen::Index converged);
    Extraction joined(const std::vector<Pairs>&) const; ///< ascending

    const Pencil pencil_;
    Progress& progress_;
    ModeListener listener_;
    double tolerance_; ///< of a Ritz pair
    double sigma_ = 0.0;
    std::shared_ptr<const Analysis> analysis_;
    std::unique_ptr<ShiftedFactor> factor_;
    BorderedSolve solve_; ///< by it, with what is apart
    RunRecord record_;
    Eigen::MatrixXd locked_; ///< what a first look at the present shift found
    std::vector<double> heard_;
    const std::vector<Pairs>* earlier_ = nullptr; ///< found in earlier slices; null where they are told of elsewhere
    std::array<double, 2> window_{}; ///< lambda from and to which is looked now: what lies outside is not told of
    Pace pace_;
    std::uint64_t seed_ = 20011;
};

} // namespace undisona
