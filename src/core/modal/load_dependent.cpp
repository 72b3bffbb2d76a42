#include "core/modal/extract.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/dense_eigen.hpp"

namespace undisona {

namespace {

/// The columns of `block` that are new beside `basis`, both M-orthonormal in the end.
Eigen::MatrixXd newDirections(const System& system, const Eigen::MatrixXd& basis, const Eigen::MatrixXd& block)
{
    constexpr double least = 1e-10;
    Eigen::MatrixXd kept(block.rows(), 0);
    for (Eigen::Index at = 0; at < block.cols(); ++at) {
        Eigen::VectorXd x = block.col(at);
        const auto size = [&] { return std::sqrt(std::max(0.0, x.dot((system.mass * x).col(0)))); };
        const double before = size();
        if (!(before > 0.0)) continue;
        double after = before;
        for (int pass = 0; pass < 2; ++pass) {
            const Eigen::VectorXd massive = system.mass * x;
            x -= basis * (basis.transpose() * massive).eval();
            if (kept.cols() > 0) x -= kept * (kept.transpose() * massive).eval();
            after = size();
        }
        if (!(after > least * before)) continue;
        kept.conservativeResize(Eigen::NoChange, kept.cols() + 1);
        kept.rightCols(1) = x / after;
    }
    return kept;
}

} // namespace

Extraction ModeExtractor::loadDependent(const Eigen::MatrixXd& loads, const ModeRequest& request)
{
    progress_.stage("Ritz vectors");
    chooseBlasThreads(system_.size());
    Eigen::MatrixXd basis = rigid_;
    Eigen::MatrixXd block = solve(loads);
    while (!progress_.stopped() && basis.cols() < request.most) {
        block = newDirections(system_, basis, block);
        if (block.cols() == 0) break; // nothing new: the loads reach no further
        const Eigen::Index before = basis.cols(), taken = std::min(block.cols(), request.most - before);
        basis.conservativeResize(Eigen::NoChange, before + taken);
        basis.rightCols(taken) = block.leftCols(taken);
        progress_.fraction(double(basis.cols()) / double(request.most));
        // The mass that takes part depends on the space alone, not on the vectors in it.
        if (request.enough && request.enough(basis) > 0) break;
        block = solve(system_.mass * block);
    }
    const Eigen::Index rigid = rigid_.cols();
    const Eigen::MatrixXd elastic = basis.rightCols(basis.cols() - rigid);
    const Eigen::MatrixXd energy = elastic.transpose() * (system_.stiffness * elastic);
    const DenseEigen eigen = denseEigen((energy + energy.transpose()) / 2.0);
    Extraction extraction;
    extraction.ritz = true;
    extraction.rigid = rigid;
    extraction.lambda.resize(basis.cols());
    extraction.lambda << Eigen::VectorXd::Zero(rigid), eigen.values;
    extraction.shapes.resize(system_.size(), basis.cols());
    extraction.shapes << rigid_, elastic * eigen.vectors;
    certify(system_, pencil_.solveShifted, -shiftUp_, extraction);
    return recorded(std::move(extraction));
}

} // namespace undisona
