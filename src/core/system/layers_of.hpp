#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// A layer of a piece of sheet.
struct SheetLayer {
    Eigen::Matrix3d plane; ///< stresses xx yy xy by strains in the piece's axes, N/m2
    double from, to;       ///< heights above the middle face, shares of the thickness: -0.5 ... 0.5
};

/// From below up; of what is one through its thickness that.
std::vector<SheetLayer> layersOf(const Structure&, const ShellEquations&, int sheet);

} // namespace undisona
