#include "core/pencil/certify.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/pencil/hertz.hpp"

#include <limits>

namespace undisona {

namespace {

constexpr double eps = 2.220446049250313e-16;

/// As many shapes at a time as one solve takes, so that their images never stand beside all of them.
constexpr Eigen::Index atATime = 8;

void eachFew(Eigen::Index total, const std::function<void(Eigen::Index begin, Eigen::Index count)>& work)
{
    for (Eigen::Index begin = 0; begin < total; begin += atATime)
        work(begin, std::min(atATime, total - begin));
}

/// Of some shapes, from K and M times them; what relations hold is no residual.
void residualsFrom(const Pencil& pencil, const Eigen::MatrixXd& stiff, const Eigen::MatrixXd& massive, double normK,
                   Eigen::Index begin, Extraction& extraction)
{
    const Eigen::Index still = extraction.rigid + extraction.mechanisms;
    Eigen::MatrixXd rest = stiff - massive * extraction.lambda.segment(begin, stiff.cols()).asDiagonal();
    if (pencil.hasApart()) pencil.apart->balance(rest);
    for (Eigen::Index at = std::max(still, begin); at < begin + stiff.cols(); ++at) {
        const double force = stiff.col(at - begin).norm();
        extraction.residual[at] = rest.col(at - begin).norm() / force;
        extraction.floor[at] = 10.0 * eps * normK * extraction.shapes.col(at).norm() / force;
    }
}

} // namespace

void certify(const Pencil& pencil, const std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>& solveShifted,
             double sigma, Extraction& extraction)
{
    chooseBlasThreads(pencil.size());
    const Eigen::Index total = extraction.lambda.size();
    const double normK = pencil.stiffness.norm();
    extraction.acceptedError.resize(total);
    const ZeroEnergy strains(pencil);
    Eigen::Index firstElastic = total;
    for (Eigen::Index at = total - 1; at >= extraction.rigid; --at) {
        if (!strains.costsNothing(extraction.lambda[at], extraction.shapes.col(at))) firstElastic = at;
    }
    // Motions that cost no energy and are not rigid: what rounding leaves, and far below the rest.
    extraction.mechanisms = 0;
    for (Eigen::Index at = extraction.rigid; at < firstElastic; ++at) {
        if (firstElastic < total && extraction.lambda[at] > 1e-6 * extraction.lambda[firstElastic]) break;
        extraction.lambda[at] = 0.0;
        ++extraction.mechanisms;
    }
    const Eigen::Index still = extraction.rigid + extraction.mechanisms;
    const double elastic = still < total ? extraction.lambda[still] : extraction.nextLambda;
    Eigen::ArrayXd own = extraction.lambda.array() - sigma;
    own = (own == 0.0).select(1.0, own); // rigid motions without a shift: see below
    extraction.residual.setZero(total);
    extraction.floor.setZero(total);
    eachFew(total, [&](Eigen::Index begin, Eigen::Index count) {
        const auto shapes = extraction.shapes.middleCols(begin, count);
        const Eigen::MatrixXd massive = pencil.mass * shapes;
        const Eigen::ArrayXd distance = own.segment(begin, count);
        {
            Eigen::MatrixXd error = solveShifted(massive);
            error -= shapes * distance.inverse().matrix().asDiagonal();
            extraction.acceptedError.segment(begin, count) =
                distance.abs() *
                (error.array() * (pencil.mass * error).array()).colwise().sum().transpose().max(0.0).sqrt();
        }
        const Eigen::MatrixXd stiff = pencil.stiffnessTimes(shapes);
        for (Eigen::Index at = begin; at < std::min(begin + count, extraction.rigid) && sigma == 0.0; ++at) {
            const double energy = std::abs(shapes.col(at - begin).dot(stiff.col(at - begin)));
            extraction.acceptedError[at] = elastic > 0.0 ? energy / elastic : 0.0;
        }
        residualsFrom(pencil, stiff, massive, normK, begin, extraction);
    });
}

void measureResiduals(const Pencil& pencil, Extraction& extraction)
{
    const double normK = pencil.stiffness.norm();
    extraction.residual.setZero(extraction.lambda.size());
    extraction.floor.setZero(extraction.lambda.size());
    eachFew(extraction.lambda.size(), [&](Eigen::Index begin, Eigen::Index count) {
        const Eigen::MatrixXd shapes = extraction.shapes.middleCols(begin, count);
        residualsFrom(pencil, pencil.stiffnessTimes(shapes), pencil.mass * shapes, normK, begin, extraction);
    });
}

Extraction leading(Extraction extraction, Eigen::Index kept)
{
    const Eigen::Index found = extraction.lambda.size();
    kept = std::min(kept, found);
    while (kept > 0 && kept < found && sameGroup(extraction.lambda[kept - 1], extraction.lambda[kept]))
        ++kept;
    if (kept == found) return extraction;
    extraction.nextLambda = extraction.lambda[kept];
    extraction.all = false;
    for (auto* values : {&extraction.lambda, &extraction.acceptedError, &extraction.residual, &extraction.floor})
        values->conservativeResize(kept);
    extraction.shapes.conservativeResize(Eigen::NoChange, kept);
    return extraction;
}

double orthogonalityLoss(const Pencil& pencil, const Eigen::MatrixXd& shapes)
{
    if (shapes.cols() == 0) return 0.0;
    chooseBlasThreads(pencil.size());
    Eigen::MatrixXd gram(shapes.cols(), shapes.cols());
    eachFew(shapes.cols(), [&](Eigen::Index begin, Eigen::Index count) {
        gram.middleCols(begin, count) = shapes.transpose() * (pencil.mass * shapes.middleCols(begin, count));
    });
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
