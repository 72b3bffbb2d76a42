// What a solid element is strained by and where to look at it.
#include "core/elements/solid_field.hpp"

namespace undisona {

using namespace solids;

namespace {

template <class F>
SolidPlaces placesAt(F, const SolidElement& element, const std::vector<Place>& rule)
{
    const auto nodes = placesOf<F::nodes>(element);
    const auto corners = static_cast<Eigen::Index>(cornersOf(element.kind));
    SolidPlaces list;
    list.corners.resize(static_cast<Eigen::Index>(rule.size()), corners);
    for (const auto& [at, weight] : rule) {
        const auto shapes = F::at(at);
        const auto row = static_cast<Eigen::Index>(list.places.size());
        list.parameters.push_back(at);
        list.places.emplace_back(shapes.value.transpose() * nodes);
        list.weights.push_back(weight * Eigen::Matrix3d(shapes.slope.transpose() * nodes).determinant());
        if (corners == 4)
            list.corners.row(row) << 1.0 - at.sum(), at.x(), at.y(), at.z();
        else if (corners == 6)
            list.corners.row(row) = wedge6(at).value.transpose();
        else
            list.corners.row(row) = brick8(at).value.transpose();
    }
    return list;
}

} // namespace

Eigen::MatrixXd strainsAt(const SolidElement& element, const Eigen::MatrixXd& motions,
                          const std::vector<Eigen::Vector3d>& places, StrainsOf which)
{
    return ofFamily(element.kind, [&](auto family) {
        using F = decltype(family);
        const bool plain = which == StrainsOf::displacements;
        const bool projects = !plain && ProjectedDivergence<F>::isWanted(element);
        const StrainField<F> field(element, projects);
        std::optional<ProjectedDivergence<F>> divergence;
        if (projects) divergence.emplace(field);
        std::optional<EnhancedStrains> enhanced;
        Eigen::MatrixXd inner; // 9 x 24
        if constexpr (F::nodes == 8) {
            enhanced.emplace(field, elasticityOf(element));
            inner = enhanced->byNodes();
        }
        Eigen::MatrixXd rows(6 * static_cast<Eigen::Index>(places.size()), motions.rows());
        for (std::size_t at = 0; at < places.size(); ++at) {
            const auto point = plain ? field.plainAt(places[at]) : field.at(places[at]);
            auto own = rows.middleRows<6>(6 * static_cast<Eigen::Index>(at));
            own = point.strain;
            if constexpr (F::nodes == 8)
                if (!plain) own += enhanced->at(point.at, point.dv) * inner;
            if (projects) {
                const Eigen::RowVectorXd excess =
                    (divergence->at(field, places[at]) - own.topRows<3>().colwise().sum()) / 3.0;
                own.topRows<3>().rowwise() += excess;
            }
        }
        return Eigen::MatrixXd(rows * motions);
    });
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
    return ofFamily(kind, [](auto family) { return Eigen::Vector3d(decltype(family)::middle()); });
}

SolidPlaces bestPlaces(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) {
        using F = decltype(family);
        std::vector<Place> rule{{F::middle(), 1.0}};
        if constexpr (F::nodes == 10) rule = tetrahedronRule(false);
        if constexpr (F::nodes == 20) rule = cubeRule(2);
        if constexpr (F::nodes == 15) {
            rule.clear();
            for (const auto& [z, weight] : line(2))
                for (const auto& [r, s] :
                     {std::array{1.0 / 6.0, 1.0 / 6.0}, {2.0 / 3.0, 1.0 / 6.0}, {1.0 / 6.0, 2.0 / 3.0}})
                    rule.push_back({{r, s, z}, weight / 6.0});
        }
        return placesAt(family, element, rule);
    });
}

SolidPlaces finePlaces(const SolidElement& element)
{
    return ofFamily(element.kind, [&](auto family) { return placesAt(family, element, decltype(family)::rule(true)); });
}

} // namespace undisona
