#include "core/elements/solid.hpp"
#include "core/elements/solid_field.hpp"

namespace undisona {

using namespace solids;

namespace {

template <class F>
Eigen::MatrixXd stiffnessOf(F, const SolidElement& element)
{
    const bool projects = ProjectedDivergence<F>::isWanted(element);
    const Elasticity d = elasticityOf(element, projects ? plainBulkOf(element) : bulkOf(element));
    const StrainField<F> field(element, projects);
    Eigen::MatrixXd k = field.stiffness(d);
    if (projects) k += (bulkOf(element) - plainBulkOf(element)) * ProjectedDivergence<F>(field).square();
    if constexpr (F::nodes == 8) k -= EnhancedStrains(field, d).relief();
    return (k + k.transpose()) / 2.0;
}

/// Integral of the product of the polynomials, nodes x nodes; m3.
template <class F>
Eigen::Matrix<double, F::nodes, F::nodes> products(F, const SolidElement& element)
{
    constexpr int nodes = F::nodes;
    const auto places = placesOf<nodes>(element);
    Eigen::Matrix<double, nodes, nodes> sum = Eigen::Matrix<double, nodes, nodes>::Zero();
    for (const auto& [at, weight] : F::rule(true)) {
        const auto shapes = F::at(at);
        const double dv = weight * Eigen::Matrix3d(shapes.slope.transpose() * places).determinant();
        sum.noalias() += dv * shapes.value * shapes.value.transpose();
    }
    return sum;
}

} // namespace

std::size_t nodesOf(SolidKind kind)
{
    return ofFamily(kind, [](auto family) { return static_cast<std::size_t>(decltype(family)::nodes); });
}

std::size_t cornersOf(SolidKind kind)
{
    if (kind == SolidKind::tetrahedron10) return 4;
    return kind == SolidKind::wedge6 || kind == SolidKind::wedge15 ? 6 : 8;
}

std::vector<std::array<int, 4>> facesOf(SolidKind kind)
{
    if (kind == SolidKind::tetrahedron10) return {{0, 2, 1, -1}, {0, 1, 3, -1}, {1, 2, 3, -1}, {2, 0, 3, -1}};
    if (cornersOf(kind) == 6) return {{0, 2, 1, -1}, {3, 4, 5, -1}, {0, 1, 4, 3}, {1, 2, 5, 4}, {2, 0, 3, 5}};
    return {{0, 3, 2, 1}, {4, 5, 6, 7}, {0, 1, 5, 4}, {1, 2, 6, 5}, {2, 3, 7, 6}, {3, 0, 4, 7}};
}

std::vector<std::array<int, 2>> sidesOf(SolidKind kind)
{
    if (kind == SolidKind::tetrahedron10) return {{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}};
    if (cornersOf(kind) == 6) return {{0, 1}, {1, 2}, {2, 0}, {3, 4}, {4, 5}, {5, 3}, {0, 3}, {1, 4}, {2, 5}};
    return {{0, 1}, {1, 2}, {2, 3}, {3, 0}, {4, 5}, {5, 6}, {6, 7}, {7, 4}, {0, 4}, {1, 5}, {2, 6}, {3, 7}};
}

Eigen::MatrixXd stiffness(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) { return stiffnessOf(family, element); });
}

Eigen::MatrixXd consistentMass(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) {
        const auto sum = products(family, element);
        const Eigen::Matrix3d acting = element.acts.value_or(Eigen::Matrix3d::Identity());
        Eigen::MatrixXd mass = Eigen::MatrixXd::Zero(3 * sum.rows(), 3 * sum.rows());
        for (Eigen::Index i = 0; i < sum.rows(); ++i)
            for (Eigen::Index j = 0; j < sum.rows(); ++j)
                mass.block<3, 3>(3 * i, 3 * j) = element.density * sum(i, j) * acting;
        return mass;
    });
}

Eigen::MatrixXd lumpedMass(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) {
        const auto sum = products(family, element);
        const double scale = element.density * sum.sum() / sum.trace();
        const Eigen::Vector3d acting = element.acts.value_or(Eigen::Matrix3d::Identity()).diagonal();
        Eigen::VectorXd diagonal(3 * sum.rows());
        for (Eigen::Index i = 0; i < sum.rows(); ++i)
            diagonal.segment<3>(3 * i) = scale * sum(i, i) * acting;
        return Eigen::MatrixXd(diagonal.asDiagonal());
    });
}

double volumeOf(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) { return products(family, element).sum(); });
}

double jacobianRatio(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) {
        using F = decltype(family);
        const auto places = placesOf<F::nodes>(element);
        std::vector<Three> corners;
        if constexpr (F::nodes == 10)
            corners = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
        else if constexpr (F::nodes == 6 || F::nodes == 15)
            corners = {{0, 0, -1}, {1, 0, -1}, {0, 1, -1}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}};
        else
            for (const auto& corner : cubeCorner)
                corners.emplace_back(corner[0], corner[1], corner[2]);
        corners.push_back(F::middle());
        double least = 1e300, most = -1e300;
        for (const auto& at : corners) {
            const double j = Eigen::Matrix3d(F::at(at).slope.transpose() * places).determinant();
            least = std::min(least, j);
            most = std::max(most, j);
        }
        return most > 0.0 ? least / most : -1.0;
    });
}

std::optional<Elasticity> grainElasticity(const Material& material, const Eigen::Vector3d& along)
{
    const Grain& grain = *material.grain;
    Elasticity flexibility = Elasticity::Zero();
    const double back = -material.poisson / material.modulus;
    flexibility.diagonal() << 1.0 / material.modulus, 1.0 / grain.across, 1.0 / grain.across, 1.0 / grain.shear,
        1.0 / grain.rolling, 1.0 / grain.shear;
    flexibility(0, 1) = flexibility(1, 0) = flexibility(0, 2) = flexibility(2, 0) = back;
    flexibility(1, 2) = flexibility(2, 1) = -grain.poissonAcross / grain.across;
    const Eigen::LLT<Elasticity> parts(flexibility);
    if (parts.info() != Eigen::Success) return std::nullopt;
    const Three x = along.normalized(), aside = std::abs(x.z()) < 0.9 ? Three::UnitZ() : Three::UnitX();
    Eigen::Matrix3d axes;
    axes.col(0) = x;
    axes.col(1) = aside.cross(x).normalized();
    axes.col(2) = x.cross(axes.col(1));
    const Elasticity turn = strainTurn(axes.transpose()); // of global strains by own ones
    const Elasticity own = turn.inverse();
    return Elasticity(own.transpose() * parts.solve(Elasticity::Identity()) * own);
}

} // namespace undisona
