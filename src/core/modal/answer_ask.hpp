#pragma once
#include "core/modal/missing_mass.hpp"
#include "core/modal/participation.hpp"
#include "core/pencil/residual_vectors.hpp"

namespace undisona {

struct Answer {
    Extraction extraction;
    double shift = 0.0;               ///< the last one used, (rad/s)2
    std::vector<MissingMass> missing; ///< of each direction that did not reach its target and can
    ResidualVectors residual;         ///< where they are asked for
};

/// The modes, or the Ritz vectors, that an ask comes to. Without `prove` nothing is counted.
Result<Answer> answerAsk(const Ask&, const System&, const MassSummary&, Progress&, const ModeListener&, KeptRuns*,
                         bool prove);

/// Whether the effective masses of the first modes reach the target in each asked direction.
bool targetReached(const Participation&, const Ask&, Eigen::Index modes);

/// Loads of unit acceleration of the base, of the weight, or of unit forces, unknowns x patterns; N or N m.
Eigen::MatrixXd loadsOf(const LoadPatterns&, const System&);

} // namespace undisona
