#include "core/modal/missing_mass.hpp"

#include "core/numerics/dense_eigen.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/pencil/bordered.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

namespace {

struct GaussRule {
    std::vector<double> hertz, mass; ///< ascending frequencies, with the effective mass at each
};

GaussRule ruleOf(const Eigen::MatrixXd& projected, double shift, double mass)
{
    const DenseEigen eigen = denseEigen(projected);
    GaussRule rule;
    for (Eigen::Index at = eigen.values.size(); at-- > 0;) { // the largest theta is the lowest frequency
        if (!(eigen.values[at] > 1e-12 * eigen.values.maxCoeff())) continue;
        rule.hertz.push_back(toHertz(std::max(0.0, 1.0 / eigen.values[at] + shift)));
        rule.mass.push_back(mass * std::pow(eigen.vectors(0, at), 2));
    }
    return rule;
}

/// The frequency at which the sum reaches so much.
double reachedAt(const GaussRule& rule, double wanted)
{
    double sum = 0.0;
    for (std::size_t at = 0; at < rule.hertz.size(); ++at) {
        sum += rule.mass[at];
        if (sum >= wanted) return rule.hertz[at];
    }
    return rule.hertz.empty() ? 0.0 : rule.hertz.back();
}

} // namespace

std::optional<MissingMass> missingMass(const System& system, ModeExtractor& extractor, const Eigen::MatrixXd& shapes,
                                       int direction, double wanted)
{
    constexpr Eigen::Index steps = 14;
    Eigen::MatrixXd basis(system.size(), 0);
    Eigen::MatrixXd projected = Eigen::MatrixXd::Zero(steps, steps);
    Eigen::VectorXd x = system.baseAnswer().motion.col(direction);
    const auto clear = [&] {
        for (int pass = 0; pass < 2; ++pass) {
            const Eigen::VectorXd massive = system.mass * x;
            x -= shapes * (shapes.transpose() * massive).eval();
            if (basis.cols() > 0) x -= basis * (basis.transpose() * massive).eval();
        }
    };
    const auto size = [&] { return std::sqrt(std::max(0.0, x.dot((system.mass * x).col(0)))); };
    clear();
    const double rest = std::pow(size(), 2);
    if (!(rest > wanted)) return std::nullopt;
    Eigen::Index made = 0;
    for (; made < steps; ++made) {
        const double norm = size();
        if (made > 0) {
            if (!(norm > 1e-10 * projected(0, 0))) break;
            projected(made, made - 1) = projected(made - 1, made) = norm;
        }
        x /= norm;
        basis.conservativeResize(Eigen::NoChange, made + 1);
        basis.col(made) = x;
        const Eigen::VectorXd massive = system.mass * x;
        const Eigen::VectorXd image = extractor.staticAnswer(massive);
        projected(made, made) = massive.dot(image);
        x = image;
        clear();
    }
    if (made < 2) return std::nullopt;
    const GaussRule last = ruleOf(projected.topLeftCorner(made, made), extractor.shift(), rest),
                    before = ruleOf(projected.topLeftCorner(made - 1, made - 1), extractor.shift(), rest);
    MissingMass missing;
    missing.direction = direction;
    missing.lowHz = reachedAt(last, 0.05 * wanted);
    missing.highHz = reachedAt(last, wanted);
    missing.spreadHz = std::abs(missing.highHz - reachedAt(before, wanted));
    const auto count =
        ShiftedFactor::factorise(extractor.analysis(), system.stiffness, toLambda(missing.highHz * (1.0 + 1e-6)),
                                 system.mass, {.keepFactor = !system.apart.empty()});
    if (count) missing.modesBelow = negativeOf(matricesOf(system), *count);
    return missing;
}

} // namespace undisona
