#pragma once
#include "core/numerics/workers.hpp"

#include <Eigen/Dense>

namespace undisona {

/// Where a piece of a mesh says how it is strained, and what it belongs to.
struct StrainSamples {
    int region = 0;           ///< pieces of one are fitted to each other: strains may jump between two
    std::vector<int> corners; ///< nodes
    /// Of the polynomials: 1 linear, 2 of the second order, 3 with the products that the second-order brick has too.
    int order = 1;
    Eigen::Vector3d normal = Eigen::Vector3d::Zero(); ///< of a piece of sheet: fitted in its plane; zero: in space
    std::vector<Eigen::Vector3d> places;              ///< where strains are best, m
    std::vector<Eigen::Vector3d> morePlaces;          ///< in place of those where they lie on one line; may be empty
};

/// A smoother field of strains than the pieces have: about each corner a polynomial is fitted to the strains at the
/// best places of the pieces round it (superconvergent patch recovery: Zienkiewicz and Zhu 1992), and within a piece
/// the polynomials of its corners are blended by the part that each corner has there (Blacker and Belytschko 1994).
class RecoveredStrains {
public:
    RecoveredStrains(std::vector<StrainSamples>, Workers&);

    /// Whether some fit wants a piece's strains at its further places.
    bool wantsMorePlaces(std::size_t which) const { return wantsMore_[which] != 0; }

    /// Fits to columns of values, places x columns by piece.
    struct Values {
        Eigen::MatrixXd at, more;
    };
    void fit(const std::vector<Values>&, Workers&);

    /// The fitted field within a piece, places x columns; `parts`: places x corners.
    Eigen::MatrixXd at(std::size_t piece, const std::vector<Eigen::Vector3d>& places,
                       const Eigen::MatrixXd& parts) const;

    /// The same at one of a piece's corners, of all columns: its own polynomial there.
    Eigen::RowVectorXd atCorner(std::size_t piece, std::size_t corner, const Eigen::Vector3d& place) const;

    /// Of the first columns of a linear field their derivatives by x, y and z there, each places x columns; of sheet
    /// those along it.
    std::array<Eigen::MatrixXd, 3> slopesAt(std::size_t piece, const Eigen::MatrixXd& parts,
                                            Eigen::Index columns) const;

private:
    struct Patch {
        std::vector<int> pieces;
        Eigen::Vector3d centre;
        Eigen::Matrix3d toOwn; ///< of a place less the centre to coordinates of about 1
        int order;
        bool flat;
        bool more;               ///< fitted to the further places
        std::vector<int> terms;  ///< that the places tell apart
        Eigen::MatrixXd inverse; ///< of the sum of their products
        Eigen::MatrixXd factors; ///< terms x columns
    };
    static constexpr int mostTerms = 17;
    using Terms = Eigen::Matrix<double, Eigen::Dynamic, 1, Eigen::ColMajor, mostTerms, 1>; ///< without an allocation
    static Terms allTermsOf(const Patch&, const Eigen::Vector3d& place);
    static Terms termsOf(const Patch& patch, const Eigen::Vector3d& place)
    {
        const Terms all = allTermsOf(patch, place);
        return patch.terms.size() == std::size_t(all.size()) ? all : Terms(all(patch.terms));
    }
    const std::vector<Eigen::Vector3d>& placesOf(const Patch&, int piece) const;
    void prepare(std::size_t patch);
    bool solvable(Patch&) const;

    std::vector<StrainSamples> pieces_;
    std::vector<char> wantsMore_; ///< by piece
    std::vector<Patch> patches_;
    std::vector<std::vector<int>> patchOfCorner_; ///< by piece and corner
    std::vector<std::vector<int>> around_;        ///< pieces round each patch's corner
};

} // namespace undisona
