#pragma once
#include "core/numerics/sparse.hpp"

#include <memory>

namespace undisona {

/// CHOLMOD as it comes (supernodal, METIS), analysis, factor and solves its own: the unit that the engine is measured
/// in.
class CholmodReference {
public:
    explicit CholmodReference(const SparseSymmetric&);
    ~CholmodReference();
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;

private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

} // namespace undisona
