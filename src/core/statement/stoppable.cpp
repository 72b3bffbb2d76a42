#include "core/statement/stoppable.hpp"

#include "core/shapes/kernel_stop.hpp"

namespace undisona {

StructureAndFindings buildStructure(const Model& model, const Progress& progress)
{
    const StopScope scope(&progress);
    try {
        return buildStructure(model);
    } catch (const BuildingStopped&) {
        return {{}, {errorAt({}, "stopped while the parts were made", "Solve again.")}};
    }
}

} // namespace undisona
