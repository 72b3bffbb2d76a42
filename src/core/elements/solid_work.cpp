#include "core/elements/solid_work.hpp"

#include "core/elements/solid_field.hpp"

namespace undisona {

using namespace solids;

namespace {

Eigen::RowVectorXd squares(const Eigen::MatrixXd& motions, const Eigen::MatrixXd& matrix)
{
    return (motions.array() * (matrix * motions).array()).colwise().sum();
}

} // namespace

Eigen::RowVectorXd strainWork(const SolidElement& element, const Eigen::MatrixXd& motions)
{
    const bool projects = ProjectedDivergence::isWanted(element);
    const Elasticity d = elasticityOf(element, projects ? plainBulkOf(element) : bulkOf(element));
    const StrainField field(element, projects);
    Eigen::RowVectorXd work = field.work(d, motions);
    if (projects)
        work += (bulkOf(element) - plainBulkOf(element)) * squares(motions, ProjectedDivergence(field).square());
    if (element.kind == SolidKind::brick8) work -= squares(motions, EnhancedStrains(field, d).relief());
    return work;
}

Eigen::RowVectorXd massWork(const SolidElement& element, const Eigen::MatrixXd& motions, bool lumped)
{
    return squares(motions, lumped ? lumpedMass(element) : consistentMass(element));
}

} // namespace undisona
