#pragma once
#include "core/modal/recovered_strains.hpp"
#include "core/system/assemble.hpp"

#include <set>

namespace undisona {

/// What the pieces of one kind bring to the error of some modes: energies, to be divided by the eigenvalue.
struct ErrorEnergies {
    Eigen::MatrixXd signedSum; ///< pieces x modes; above 0 where the frequency is too high
    Eigen::RowVectorXd gross;  ///< by mode, what of it and against it there is
    Eigen::RowVectorXd blind;  ///< by mode, strain energy of the pieces whose error cannot be told
    Eigen::RowVectorXd stored; ///< by mode, that of all; of solids alone
    Eigen::RowVectorXd thin;   ///< by mode, that of bodies with one through their thickness; of solids alone
};

/// The pieces of sheet, ready for any modes of a mesh.
class SheetErrors {
public:
    SheetErrors(const Structure&, const FrameMesh&, const System&, Workers&);
    /// Shapes of unit modal mass, unknowns x modes.
    ErrorEnergies of(const Eigen::MatrixXd& shapes, const Eigen::VectorXd& lambda);

private:
    void fit(const Eigen::MatrixXd& shapes);
    std::array<int, 2> endsOf(std::size_t shell, std::size_t side) const;
    void findEnds();
    bool endsFreely(std::size_t shell, std::size_t side) const;
    Eigen::RowVectorXd layerEnergy(std::size_t shell, std::size_t side, Eigen::Index modes) const;

    const Structure& structure_;
    const FrameMesh& mesh_;
    const System& system_;
    Workers& workers_;
    std::vector<ShellInside> insides_; ///< by piece
    RecoveredStrains membrane_, bending_;
    std::set<std::pair<int, int>> ends_; ///< sides of one piece alone, the lesser node first
};

/// The pieces of solids.
class SolidErrors {
public:
    SolidErrors(const Structure&, const FrameMesh&, const System&, Workers&);
    ErrorEnergies of(const Eigen::MatrixXd& shapes, const Eigen::VectorXd& lambda);

private:
    void findBlind();

    const Structure& structure_;
    const FrameMesh& mesh_;
    const System& system_;
    Workers& workers_;
    RecoveredStrains strains_;
    std::vector<char> blind_; ///< by piece
    std::vector<char> thin_;  ///< by solid: one through its thickness
};

// Between the components of strains at places (components x modes) and the rows of values that are fitted.
void putRow(Eigen::MatrixXd& values, Eigen::Index row, Eigen::Index first, const Eigen::MatrixXd& components);
Eigen::MatrixXd takeRow(const Eigen::MatrixXd& values, Eigen::Index row, Eigen::Index first, Eigen::Index count,
                        Eigen::Index modes);

} // namespace undisona
