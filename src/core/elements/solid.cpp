#include "core/elements/solid.hpp"
#include "core/elements/solid_field.hpp"

namespace undisona {

using namespace solids;

namespace {

/// Integral of the product of the polynomials, nodes x nodes; m3.
Eigen::MatrixXd products(const SolidElement& element)
{
    const Family& family = familyOf(element.kind);
    const auto places = placesOf(element);
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(family.nodes, family.nodes);
    for (const auto& [at, weight] : family.rule(true)) {
        const auto shapes = family.at(at);
        const double dv = weight * Eigen::Matrix3d(shapes.slope.transpose() * places).determinant();
        sum += (dv * shapes.value).lazyProduct(shapes.value.transpose());
    }
    return sum;
}

} // namespace

std::size_t nodesOf(SolidKind kind)
{
    return static_cast<std::size_t>(familyOf(kind).nodes);
}

std::size_t cornersOf(SolidKind kind)
{
    return static_cast<std::size_t>(familyOf(kind).corners);
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
    const bool projects = ProjectedDivergence::isWanted(element);
    const Elasticity d = elasticityOf(element, projects ? plainBulkOf(element) : bulkOf(element));
    const StrainField field(element, projects);
    Eigen::MatrixXd k = field.stiffness(d);
    if (projects) k += (bulkOf(element) - plainBulkOf(element)) * ProjectedDivergence(field).square();
    if (element.kind == SolidKind::brick8) k -= EnhancedStrains(field, d).relief();
    return (k + k.transpose()) / 2.0;
}

Eigen::MatrixXd consistentMass(const SolidElement& element)
{
    const auto sum = products(element);
    const Eigen::Matrix3d acting = element.acts.value_or(Eigen::Matrix3d::Identity());
    Eigen::MatrixXd mass = Eigen::MatrixXd::Zero(3 * sum.rows(), 3 * sum.rows());
    for (Eigen::Index i = 0; i < sum.rows(); ++i)
        for (Eigen::Index j = 0; j < sum.rows(); ++j)
            mass.block<3, 3>(3 * i, 3 * j) = element.density * sum(i, j) * acting;
    return mass;
}

Eigen::MatrixXd lumpedMass(const SolidElement& element)
{
    const auto sum = products(element);
    const double scale = element.density * sum.sum() / sum.trace();
    const Eigen::Vector3d acting = element.acts.value_or(Eigen::Matrix3d::Identity()).diagonal();
    Eigen::VectorXd diagonal(3 * sum.rows());
    for (Eigen::Index i = 0; i < sum.rows(); ++i)
        diagonal.segment<3>(3 * i) = scale * sum(i, i) * acting;
    return diagonal.asDiagonal();
}

double volumeOf(const SolidElement& element)
{
    return products(element).sum();
}

double jacobianRatio(const SolidElement& element)
{
    const Family& family = familyOf(element.kind);
    const auto places = placesOf(element);
    std::vector<Three> corners;
    if (family.corners == 4)
        corners = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    else if (family.corners == 6)
        corners = {{0, 0, -1}, {1, 0, -1}, {0, 1, -1}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}};
    else
        for (const auto& corner : cubeCorner)
            corners.emplace_back(corner[0], corner[1], corner[2]);
    corners.push_back(family.middle);
    double least = 1e300, most = -1e300;
    for (const auto& at : corners) {
        const double j = Eigen::Matrix3d(family.at(at).slope.transpose() * places).determinant();
        least = std::min(least, j);
        most = std::max(most, j);
    }
    return most > 0.0 ? least / most : -1.0;
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
