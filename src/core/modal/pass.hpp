#pragma once
#include "core/modal/answer_ask.hpp"
#include "core/modal/solve.hpp"

namespace undisona {

/// One pass over one mesh: from equations to modes.
struct Pass {
    FrameMesh mesh;
    std::shared_ptr<const System> system;
    double shift = 0.0; ///< the last one used
    Extraction extraction;
    std::vector<int> groups; ///< of each mode
    std::vector<MissingMass> missing;
    ResidualVectors residual;
    MassSummary mass;
};

/// A pass as far as its equations.
Pass equationsOf(const Structure&, const MeshPlan&, Progress&);

/// Groups the modes of a pass and gives their shapes the signs and turns that do not depend on the mesh.
void settle(const Structure&, Pass&);

/// A whole pass under an ask, which may be another than the structure's. Findings tell why there is none.
Result<Pass> runPass(const Structure&, const Ask&, const MeshPlan&, Progress&, const RunListener&, KeptRuns*,
                     bool prove = true);

/// The rest of a pass whose equations stand.
Result<Pass> runPass(const Structure&, const Ask&, Pass equations, Progress&, const RunListener&, KeptRuns*,
                     bool prove = true);

} // namespace undisona
