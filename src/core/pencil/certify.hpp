#pragma once
#include "core/pencil/pencil.hpp"
#include "core/pencil/certificate.hpp"
#include "core/pencil/count_check.hpp"

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
    bool all = false;              ///< every finite eigenpair of the pencil is here
    bool ritz = false;             ///< beyond the rigid ones these are Ritz vectors, not modes
    bool cutShort = false;         ///< a stop came before all that was asked had been counted; a part may be proven
    CountCheck check;              ///< between the last mode and the next Ritz value
    RunRecord record;              ///< how it was found
};

/// Fills in the errors that `sigma` with its solve bounds, and tells motions without energy (mechanisms) from modes;
/// `extraction.rigid` must be set. Of a rigid motion the error is its energy over that of the first elastic mode.
void certify(const Pencil&, const std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>& solveShifted, double sigma,
             Extraction&);

/// Fills in the plain residuals and their floors alone.
void measureResiduals(const Pencil&, Extraction&);

/// The largest |phi_i' M phi_j| of two modes, and | phi_i' M phi_i - 1 |.
double orthogonalityLoss(const Pencil&, const Eigen::MatrixXd& shapes);

/// The first `kept` modes with every neighbour within 1e-6 of the last; errors are cut along.
Extraction leading(Extraction, Eigen::Index kept);

Certificate certificateOf(const Extraction&);

} // namespace undisona
