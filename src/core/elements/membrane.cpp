#include "core/elements/membrane.hpp"

namespace undisona {

namespace {

using Strip = Eigen::Matrix<double, 3, Eigen::Dynamic>;

/// Strains at a place by the corners' shifts, two by two, and by what is inside.
struct Field {
    Strip outer, inner; ///< 3 x 2 corners, 3 x 4 or 3 x 0
    double area;        ///< of the parameters' unit there, m2
    double thickness;   ///< m
};

Strip strainsBy(const Eigen::MatrixXd& slopes) ///< rows x, y
{
    Strip strains = Strip::Zero(3, 2 * slopes.cols());
    for (Eigen::Index i = 0; i < slopes.cols(); ++i) {
        strains(0, 2 * i) = strains(2, 2 * i + 1) = slopes(0, i);
        strains(1, 2 * i + 1) = strains(2, 2 * i) = slopes(1, i);
    }
    return strains;
}

Eigen::Matrix2d jacobian(const ShellElement& element, const Eigen::MatrixXd& byParameters)
{
    Eigen::Matrix2d sum = Eigen::Matrix2d::Zero();
    for (Eigen::Index i = 0; i < byParameters.cols(); ++i)
        sum += byParameters.col(i) * element.corner[static_cast<std::size_t>(i)].transpose();
    return sum;
}

/// Slopes of the corners' shapes by the two parameters, and their values.
Eigen::MatrixXd slopesOf(std::size_t corners, double r, double s, Eigen::VectorXd& values)
{
    const auto count = static_cast<Eigen::Index>(corners);
    Eigen::MatrixXd slopes(2, count);
    values.resize(count);
    if (corners == 3) {
        slopes << -1, 1, 0, -1, 0, 1;
        values << 1.0 - r - s, r, s;
        return slopes;
    }
    constexpr double signR[4] = {-1, 1, 1, -1}, signS[4] = {-1, -1, 1, 1};
    for (Eigen::Index i = 0; i < 4; ++i) {
        slopes.col(i) << signR[i] * (1.0 + signS[i] * s) / 4.0, signS[i] * (1.0 + signR[i] * r) / 4.0;
        values[i] = (1.0 + signR[i] * r) * (1.0 + signS[i] * s) / 4.0;
    }
    return slopes;
}

Field fieldAt(const ShellElement& element, double r, double s)
{
    Eigen::VectorXd values;
    const Eigen::MatrixXd slopes = slopesOf(element.corner.size(), r, s, values);
    const Eigen::Matrix2d j = jacobian(element, slopes);
    Field field{strainsBy(j.inverse() * slopes), Strip(3, 0), j.determinant(), 0.0};
    for (Eigen::Index i = 0; i < values.size(); ++i)
        field.thickness += values[i] * element.thickness[static_cast<std::size_t>(i)];
    if (element.corner.size() == 3) return field;
    Eigen::VectorXd ignored;
    const Eigen::Matrix2d middle = jacobian(element, slopesOf(4, 0.0, 0.0, ignored));
    const Eigen::Matrix2d inside = Eigen::Vector2d(-2.0 * r, -2.0 * s).asDiagonal();
    field.inner = middle.determinant() / field.area * strainsBy(middle.inverse() * inside);
    return field;
}

struct Place {
    double r, s, weight;
};
std::vector<Place> ruleOf(const ShellElement& element)
{
    if (element.corner.size() == 3) return {{1.0 / 3.0, 1.0 / 3.0, 0.5}};
    const double at = 1.0 / std::sqrt(3.0);
    return {{-at, -at, 1.0}, {at, -at, 1.0}, {at, at, 1.0}, {-at, at, 1.0}};
}

/// Stiffness by the corners' shifts, and what is inside by them.
struct Condensed {
    Eigen::MatrixXd stiffness, inner;
};
Condensed condensed(const ShellElement& element)
{
    const auto count = 2 * static_cast<Eigen::Index>(element.corner.size());
    Eigen::MatrixXd outer = Eigen::MatrixXd::Zero(count, count), mixed, inner;
    for (const auto& [r, s, weight] : ruleOf(element)) {
        const Field field = fieldAt(element, r, s);
        const Eigen::Matrix3d d = weight * field.area * field.thickness * element.elasticity.plane;
        if (mixed.size() == 0) {
            mixed.setZero(field.inner.cols(), count);
            inner.setZero(field.inner.cols(), field.inner.cols());
        }
        outer += field.outer.transpose() * d * field.outer;
        mixed += field.inner.transpose() * d * field.outer;
        inner += field.inner.transpose() * d * field.inner;
    }
    if (inner.size() == 0) return {outer, Eigen::MatrixXd(0, count)};
    const Eigen::MatrixXd by = -inner.ldlt().solve(mixed);
    return {outer + mixed.transpose() * by, by};
}

Eigen::MatrixXd shiftsOf(const ShellElement& element, const Eigen::MatrixXd& motions)
{
    const auto corners = static_cast<Eigen::Index>(element.corner.size());
    Eigen::MatrixXd shifts(2 * corners, motions.cols());
    for (Eigen::Index i = 0; i < corners; ++i)
        shifts.middleRows<2>(2 * i) = motions.middleRows<2>(6 * i);
    return shifts;
}

} // namespace

Eigen::MatrixXd stiffnessOfMembrane(const ShellElement& element)
{
    const Eigen::MatrixXd own = condensed(element).stiffness;
    const auto corners = static_cast<Eigen::Index>(element.corner.size());
    Eigen::MatrixXd k = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    for (Eigen::Index i = 0; i < corners; ++i)
        for (Eigen::Index j = 0; j < corners; ++j)
            k.block<2, 2>(6 * i, 6 * j) = own.block<2, 2>(2 * i, 2 * j);
    return k;
}

std::vector<ShellStrains> strainsOfMembrane(const ShellElement& element, const Eigen::MatrixXd& motions,
                                            const std::vector<Eigen::Vector2d>& places, StrainsOf which)
{
    const Eigen::MatrixXd shifts = shiftsOf(element, motions);
    Eigen::MatrixXd inside = condensed(element).inner * shifts;
    if (which == StrainsOf::displacements) inside.setZero(); // the mass knows nothing of them
    std::vector<ShellStrains> list;
    for (const auto& place : places) {
        const Field field = fieldAt(element, place.x(), place.y());
        list.push_back({field.outer * shifts + field.inner * inside, Eigen::MatrixXd::Zero(3, motions.cols()),
                        Eigen::MatrixXd::Zero(2, motions.cols())});
    }
    return list;
}

} // namespace undisona
