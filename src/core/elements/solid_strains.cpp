// What a solid element is strained by and where to look at it.
#include "core/elements/solid_field.hpp"

namespace undisona {

using namespace solids;

namespace {

SolidPlaces placesAt(const SolidElement& element, const std::vector<Place>& rule)
{
    const Family& family = familyOf(element.kind);
    const auto nodes = placesOf(element);
    SolidPlaces list;
    list.corners.resize(static_cast<Eigen::Index>(rule.size()), family.corners);
    for (const auto& [at, weight] : rule) {
        const auto shapes = family.at(at);
        const auto row = static_cast<Eigen::Index>(list.places.size());
        list.parameters.push_back(at);
        list.places.emplace_back(shapes.value.transpose() * nodes);
        list.weights.push_back(weight * Eigen::Matrix3d(shapes.slope.transpose() * nodes).determinant());
        if (family.corners == 4)
            list.corners.row(row) << 1.0 - at.sum(), at.x(), at.y(), at.z();
        else
            list.corners.row(row) = (family.corners == 6 ? wedge6(at) : brick8(at)).value.transpose();
    }
    return list;
}

} // namespace

Eigen::MatrixXd strainsAt(const SolidElement& element, const Eigen::MatrixXd& motions,
                          const std::vector<Eigen::Vector3d>& places, StrainsOf which)
{
    const bool plain = which == StrainsOf::displacements;
    const bool projects = !plain && ProjectedDivergence::isWanted(element);
    const StrainField field(element, projects);
    std::optional<ProjectedDivergence> divergence;
    if (projects) divergence.emplace(field);
    std::optional<EnhancedStrains> enhanced;
    Eigen::MatrixXd inner; // 9 x 24
    if (!plain && element.kind == SolidKind::brick8) {
        enhanced.emplace(field, elasticityOf(element));
        inner = enhanced->byNodes();
    }
    Eigen::MatrixXd rows(6 * static_cast<Eigen::Index>(places.size()), motions.rows());
    for (std::size_t at = 0; at < places.size(); ++at) {
        const auto point = plain ? field.plainAt(places[at]) : field.at(places[at]);
        auto own = rows.middleRows<6>(6 * static_cast<Eigen::Index>(at));
        own = point.strain;
        if (enhanced) own += enhanced->at(point.at, point.dv) * inner;
        if (divergence) {
            const Eigen::RowVectorXd excess = (divergence->at(places[at]) - own.topRows<3>().colwise().sum()) / 3.0;
            own.topRows<3>().rowwise() += excess;
        }
    }
    return rows * motions;
}

Eigen::Matrix<double, 6, 6> elasticityOf(const SolidElement& element)
{
    return elasticityOf(element, bulkOf(element));
}

Eigen::RowVectorXd energyPerVolume(const SolidElement& element, const Eigen::Matrix<double, 6, Eigen::Dynamic>& strains)
{
    return (strains.array() * (elasticityOf(element) * strains).array()).colwise().sum() / 2.0;
}

Eigen::Vector3d middleOf(SolidKind kind)
{
    return familyOf(kind).middle;
}

SolidPlaces bestPlaces(const SolidElement& element)
{
    std::vector<Place> rule{{middleOf(element.kind), 1.0}};
    if (element.kind == SolidKind::tetrahedron10) rule = tetrahedronRule(false);
    if (element.kind == SolidKind::brick20) rule = cubeRule(2);
    if (element.kind == SolidKind::wedge15) {
        rule.clear();
        for (const auto& [z, weight] : line(2))
            for (const auto& [r, s] :
                 {std::array{1.0 / 6.0, 1.0 / 6.0}, {2.0 / 3.0, 1.0 / 6.0}, {1.0 / 6.0, 2.0 / 3.0}})
                rule.push_back({{r, s, z}, weight / 6.0});
    }
    return placesAt(element, rule);
}

SolidPlaces finePlaces(const SolidElement& element)
{
    return placesAt(element, familyOf(element.kind).rule(true));
}

Eigen::VectorXd expansionForces(const SolidElement& element)
{
    const SolidPlaces places = finePlaces(element);
    const Eigen::MatrixXd strains =
        strainsAt(element, Eigen::MatrixXd::Identity(element.unknowns(), element.unknowns()), places.parameters);
    Eigen::Matrix<double, 6, 1> one;
    one << 1.0, 1.0, 1.0, 0.0, 0.0, 0.0;
    const Eigen::Matrix<double, 6, 1> stress = elasticityOf(element) * one;
    Eigen::VectorXd forces = Eigen::VectorXd::Zero(element.unknowns());
    for (std::size_t at = 0; at < places.weights.size(); ++at)
        forces += places.weights[at] * (strains.middleRows<6>(6 * Eigen::Index(at)).transpose() * stress);
    return forces;
}

Eigen::VectorXd nodeVolumes(const SolidElement& element)
{
    const Family& family = familyOf(element.kind);
    const ByNode<3> nodes = placesOf(element);
    Eigen::VectorXd volumes = Eigen::VectorXd::Zero(nodes.rows());
    for (const auto& [at, weight] : family.rule(true)) {
        const Shapes shapes = family.at(at);
        volumes += weight * (shapes.slope.transpose() * nodes).determinant() * shapes.value;
    }
    return volumes;
}

} // namespace undisona
