#include "core/modal/certify.hpp"

#include "core/numerics/blas_threads.hpp"

#include <limits>

namespace undisona {

namespace {

constexpr double sameFrequency = 1e-6; // relative; modes nearer than this are one group
constexpr double eps = 2.220446049250313e-16;

/// From K and M times the shapes.
void residualsFrom(const Eigen::MatrixXd& stiff, const Eigen::MatrixXd& massive, double normK, Extraction& extraction)
{
    extraction.residual.setZero(extraction.lambda.size());
    extraction.floor.setZero(extraction.lambda.size());
    for (Eigen::Index at = extraction.rigid + extraction.mechanisms; at < extraction.lambda.size(); ++at) {
        const double force = stiff.col(at).norm();
        extraction.residual[at] = (stiff.col(at) - extraction.lambda[at] * massive.col(at)).norm() / force;
        extraction.floor[at] = 10.0 * eps * normK * extraction.shapes.col(at).norm() / force;
    }
}

} // namespace

void certify(const System& system, const std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>& solveShifted,
             double sigma, Extraction& extraction)
{
    chooseBlasThreads(system.size());
    const Eigen::MatrixXd stiff = system.stiffness * extraction.shapes, massive = system.mass * extraction.shapes;
    const Eigen::MatrixXd image = solveShifted(massive);
    const Eigen::Index total = extraction.lambda.size();
    const double normK = system.stiffness.norm();
    extraction.acceptedError.resize(total);
    Eigen::Index firstElastic = total;
    for (Eigen::Index at = total - 1; at >= extraction.rigid; --at) {
        if (!costsNothing(extraction.lambda[at], extraction.shapes.col(at), normK)) firstElastic = at;
    }
    // Motions that cost no energy and are not rigid: below what rounding leaves of K, and far below the rest.
    extraction.mechanisms = 0;
    for (Eigen::Index at = extraction.rigid; at < firstElastic; ++at) {
        if (firstElastic < total && extraction.lambda[at] > 1e-10 * extraction.lambda[firstElastic]) break;
        extraction.lambda[at] = 0.0;
        ++extraction.mechanisms;
    }
    Eigen::ArrayXd own = extraction.lambda.array() - sigma;
    own = (own == 0.0).select(1.0, own); // rigid motions without a shift: see below
    const Eigen::MatrixXd error = image - extraction.shapes * own.inverse().matrix().asDiagonal();
    extraction.acceptedError =
        own.abs() * (error.array() * (system.mass * error).array()).colwise().sum().transpose().max(0.0).sqrt();
    const Eigen::Index still = extraction.rigid + extraction.mechanisms;
    for (Eigen::Index at = 0; at < extraction.rigid && sigma == 0.0; ++at) {
        const double energy = std::abs(extraction.shapes.col(at).dot(stiff.col(at)));
        const double elastic = still < total ? extraction.lambda[still] : extraction.nextLambda;
        extraction.acceptedError[at] = elastic > 0.0 ? energy / elastic : 0.0;
    }
    residualsFrom(stiff, massive, normK, extraction);
}

bool costsNothing(double lambda, const Eigen::Ref<const Eigen::VectorXd>& shape, double normK)
{
    return lambda <= 1e3 * eps * normK * shape.squaredNorm();
}

void measureResiduals(const System& system, Extraction& extraction)
{
    residualsFrom(system.stiffness * extraction.shapes, system.mass * extraction.shapes, system.stiffness.norm(),
                  extraction);
}

Extraction leading(Extraction extraction, Eigen::Index kept)
{
    const Eigen::Index found = extraction.lambda.size();
    kept = std::min(kept, found);
    while (kept > 0 && kept < found && // the whole group of the last one
           extraction.lambda[kept] <= extraction.lambda[kept - 1] * std::pow(1.0 + sameFrequency, 2))
        ++kept;
    if (kept == found) return extraction;
    extraction.nextLambda = extraction.lambda[kept];
    extraction.all = false;
    for (auto* values : {&extraction.lambda, &extraction.acceptedError, &extraction.residual, &extraction.floor})
        values->conservativeResize(kept);
    extraction.shapes.conservativeResize(Eigen::NoChange, kept);
    return extraction;
}

double orthogonalityLoss(const System& system, const Eigen::MatrixXd& shapes)
{
    if (shapes.cols() == 0) return 0.0;
    chooseBlasThreads(system.size());
    Eigen::MatrixXd gram = shapes.transpose() * (system.mass * shapes);
    gram.diagonal().array() -= 1.0;
    return gram.cwiseAbs().maxCoeff();
}

Certificate certificateOf(const Extraction& extraction)
{
    const auto largest = [](const Eigen::VectorXd& values) { return values.size() > 0 ? values.maxCoeff() : 0.0; };
    return certificateOf(CertificateFigures{.check = extraction.check,
                                            .record = extraction.record,
                                            .modes = extraction.lambda.size(),
                                            .unknowns = extraction.shapes.rows(),
                                            .all = extraction.all,
                                            .ritz = extraction.ritz,
                                            .acceptedError = largest(extraction.acceptedError),
                                            .residual = largest(extraction.residual)});
}

} // namespace undisona
