#pragma once
#include <memory>

namespace undisona {

struct KernelShape;

/// A shape that the CAD kernel holds as it is: read from a file, or made from another one.
struct KeptShape {
    std::shared_ptr<const KernelShape> shape; ///< in metres
    double stamp = 0.0;                       ///< tells it from every other shape that was kept
    double scale = 1.0;
};

double newStamp();

} // namespace undisona
