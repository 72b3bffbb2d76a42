#include "core/pencil/extract.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/numerics/mass_orthonormal.hpp"

namespace undisona {

Extraction ModeExtractor::loadDependent(const Eigen::MatrixXd& loads, const ModeRequest& request)
{
    progress_.stage("Ritz vectors");
    chooseBlasThreads(pencil_.size());
    Eigen::MatrixXd basis = rigid_;
    Eigen::MatrixXd block = solve(loads);
    while (!progress_.stopped() && basis.cols() < request.most) {
        block = newDirections(pencil_.mass, basis, block, 1e-10);
        if (block.cols() == 0) break; // nothing new: the loads reach no further
        const Eigen::Index before = basis.cols(), taken = std::min(block.cols(), request.most - before);
        basis.conservativeResize(Eigen::NoChange, before + taken);
        basis.rightCols(taken) = block.leftCols(taken);
        progress_.fraction(double(basis.cols()) / double(request.most));
        // The mass that takes part depends on the space alone, not on the vectors in it.
        if (request.enough && request.enough(basis.transpose() * request.watched) > 0) break;
        block = solve(pencil_.mass * block);
    }
    const Eigen::Index rigid = rigid_.cols();
    const Eigen::MatrixXd elastic = basis.rightCols(basis.cols() - rigid);
    const Eigen::MatrixXd energy = elastic.transpose() * pencil_.stiffnessTimes(elastic);
    const DenseEigen eigen = denseEigen((energy + energy.transpose()) / 2.0);
    Extraction extraction;
    extraction.ritz = true;
    extraction.rigid = rigid;
    extraction.lambda.resize(basis.cols());
    extraction.lambda << Eigen::VectorXd::Zero(rigid), eigen.values;
    extraction.shapes.resize(pencil_.size(), basis.cols());
    extraction.shapes << rigid_, elastic * eigen.vectors;
    certify(pencil_, shifted_.solveShifted, -shiftUp_, extraction);
    return recorded(std::move(extraction));
}

} // namespace undisona
