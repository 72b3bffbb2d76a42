#include "core/base/decompositions.hpp"

namespace Eigen {
UNDISONA_DECOMPOSITIONS()
} // namespace Eigen
