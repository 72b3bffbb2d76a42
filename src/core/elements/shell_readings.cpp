// What is read of a shell's motions: strains, forces, energies.
#include "core/elements/membrane.hpp"
#include "core/elements/shell_work.hpp"

namespace undisona {

using namespace shell_work;

ShellInside insideOf(const ShellElement& element)
{
    ShellInside inside;
    if (element.membrane) return inside;
    const Eigen::Index count = element.unknowns() / 2;
    const MembraneStiffness membrane(element);
    inside.spin = membrane.spin.head(count);
    const bool inFaceItself = element.corner.size() == 4;
    if (element.elasticity.couples()) {
        const auto inner = CoupledStiffness(element).inner;
        inside.inner = inFaceItself ? inner.leftCols(count) : inner.rightCols(count);
        inside.across = inFaceItself ? inner.rightCols(count) : inner.leftCols(count);
        return inside;
    }
    if (inFaceItself) {
        inside.inner = innerByOuter(membrane.both());
        inside.spin += membrane.spin.tail<2>() * inside.inner;
    } else {
        const PlateStiffness plate(element);
        inside.inner = innerByOuter(plate.bending + plate.shear);
    }
    return inside;
}

std::vector<ShellStrains> strainsAt(const ShellElement& element, const ShellInside& inside,
                                    const Eigen::MatrixXd& motions, const std::vector<Eigen::Vector2d>& places,
                                    StrainsOf which)
{
    if (element.membrane) return strainsOfMembrane(element, motions, places, which);
    const Interpolation own(element);
    const Eigen::Index count = element.unknowns() / 2;
    Eigen::MatrixXd face = Eigen::MatrixXd::Zero(count + 2, motions.cols()), out = face;
    face.topRows(count) = halfOf(motions, inFace);
    out.topRows(count) = halfOf(motions, outOfFace);
    if (which == StrainsOf::stiffness &&
        inside.inner.size() > 0) { // what the element has inside has no part in the mass
        Eigen::MatrixXd& half = element.corner.size() == 4 ? face : out;
        half.bottomRows<2>() = inside.inner * half.topRows(count);
        if (inside.across.size() > 0)
            half.bottomRows<2>() += inside.across * (element.corner.size() == 4 ? out : face).topRows(count);
    }
    const auto strains = strainsOfSlopes();
    const Plate plate(element);
    std::vector<ShellStrains> list;
    for (const auto& place : places) {
        const double r = place.x(), s = place.y();
        const Jacobian inverse = own.jacobian(r, s).inverse();
        const Strip shear =
            which == StrainsOf::stiffness ? plate.shear(inverse, r, s) : linkedShear(own, inverse, r, s);
        list.push_back({strains * (Membrane(own, inverse, r, s).slopes * face), plate.curvature(inverse, r, s) * out,
                        shear * out});
    }
    return list;
}

ShellStrains forcesOf(const ShellElement& element, const ShellStrains& strains, double t)
{
    const PlaneElasticity& own = element.elasticity;
    return {t * own.plane * strains.membrane + t * t * own.coupling * strains.curvature,
            t * t * t / 12.0 * own.bending * strains.curvature + t * t * own.coupling * strains.membrane,
            shearCorrection * t * element.elasticity.shear * strains.shear};
}

Eigen::RowVectorXd drillingEnergy(const ShellElement& element, const ShellInside& inside,
                                  const Eigen::MatrixXd& motions)
{
    if (element.membrane) return Eigen::RowVectorXd::Zero(motions.cols());
    return (inside.spin * halfOf(motions, inFace)).cwiseAbs2() / 2.0;
}

Eigen::Vector2d middleOf(const ShellElement& element)
{
    if (element.corner.size() == 4) return {0.0, 0.0};
    return {1.0 / 3.0, 1.0 / 3.0};
}

namespace {
ShellPlaces placesAt(const ShellElement& element, const std::vector<Place>& rule)
{
    const Interpolation own(element);
    ShellPlaces list;
    list.corners.resize(static_cast<Eigen::Index>(rule.size()), static_cast<Eigen::Index>(own.corners()));
    for (const auto& [r, s, weight] : rule) {
        const auto row = static_cast<Eigen::Index>(list.places.size());
        list.places.emplace_back(0.0, 0.0);
        for (std::size_t i = 0; i < own.corners(); ++i) {
            list.corners(row, static_cast<Eigen::Index>(i)) = own.corner(i, r, s).value;
            list.places.back() += own.corner(i, r, s).value * element.corner[i];
        }
        list.parameters.emplace_back(r, s);
        list.weights.push_back(weight * own.jacobian(r, s).determinant());
        list.thickness.push_back(own.thickness(r, s));
    }
    return list;
}
} // namespace

ShellPlaces middlePlace(const ShellElement& element)
{
    const Eigen::Vector2d middle = middleOf(element);
    return placesAt(element, {{middle.x(), middle.y(), element.corner.size() == 4 ? 4.0 : 0.5}});
}

ShellPlaces coarsePlaces(const ShellElement& element)
{
    if (element.corner.size() == 4) return placesAt(element, squareRule(2));
    constexpr double a = 1.0 / 6.0, b = 2.0 / 3.0;
    return placesAt(element, {{a, a, a}, {b, a, a}, {a, b, a}});
}

ShellPlaces finePlaces(const ShellElement& element)
{
    return placesAt(element, Interpolation(element).fine());
}

ExpansionForces expansionForces(const ShellElement& element)
{
    const ShellPlaces places = finePlaces(element);
    const auto strains =
        strainsAt(element, insideOf(element), Eigen::MatrixXd::Identity(element.unknowns(), element.unknowns()),
                  places.parameters);
    ExpansionForces forces{Eigen::VectorXd::Zero(element.unknowns()), Eigen::VectorXd::Zero(element.unknowns())};
    const PlaneElasticity& own = element.elasticity;
    const Eigen::Vector3d one(1.0, 1.0, 0.0);
    for (std::size_t at = 0; at < strains.size(); ++at) {
        const double t = places.thickness[at], da = places.weights[at];
        forces.evenly += da * (strains[at].membrane.transpose() * (t * own.plane * one) +
                               strains[at].curvature.transpose() * (t * t * own.coupling * one));
        forces.across += da * (strains[at].membrane.transpose() * (t * own.coupling * one) +
                               strains[at].curvature.transpose() * (t * t / 12.0 * own.bending * one));
    }
    return forces;
}

Eigen::RowVectorXd energyPerArea(const ShellElement& element, const ShellStrains& strains, double t)
{
    const auto work = [](const auto& d, const auto& e) {
        return Eigen::RowVectorXd((e.array() * (d * e).array()).colwise().sum());
    };
    const PlaneElasticity& own = element.elasticity;
    Eigen::RowVectorXd twice = t * work(own.plane, strains.membrane) +
                               t * t * t / 12.0 * work(own.bending, strains.curvature) +
                               shearCorrection * t * work(own.shear, strains.shear);
    if (own.couples())
        twice += 2.0 * t * t *
                 (strains.membrane.array() * (own.coupling * strains.curvature).array()).colwise().sum().matrix();
    return twice / 2.0;
}

namespace {

ShellEnergy coupledEnergy(const ShellElement& element, const PlateStiffness& plate, const Eigen::MatrixXd& face,
                          const Eigen::MatrixXd& out)
{
    const Eigen::Index half = face.rows();
    const CoupledStiffness coupled(element);
    Eigen::MatrixXd both(2 * half, face.cols());
    both << face, out;
    const Eigen::MatrixXd inner = coupled.inner * both;
    const bool inFaceItself = element.corner.size() == 4;
    Eigen::MatrixXd allFace = Eigen::MatrixXd::Zero(half + 2, face.cols()), allOut = allFace;
    allFace.topRows(half) = face;
    allOut.topRows(half) = out;
    (inFaceItself ? allFace : allOut).bottomRows<2>() = inner;
    const auto work = [](const Eigen::MatrixXd& one, const Square& k, const Eigen::MatrixXd& other) {
        return Eigen::RowVectorXd((one.array() * (k * other).array()).colwise().sum() / 2.0);
    };
    const Eigen::RowVectorXd shared = work(allFace, couplingStiffness(element), allOut);
    return {work(allFace, MembraneStiffness(element).both(), allFace) + shared,
            work(allOut, plate.bending, allOut) + shared, work(allOut, plate.shear, allOut)};
}

} // namespace

ShellEnergy strainEnergy(const ShellElement& element, const Eigen::MatrixXd& motions)
{
    if (element.membrane) {
        const Eigen::RowVectorXd own = (motions.array() * (stiffness(element) * motions).array()).colwise().sum() / 2.0;
        return {own, Eigen::RowVectorXd::Zero(own.size()), Eigen::RowVectorXd::Zero(own.size())};
    }
    const PlateStiffness plate(element);
    const Eigen::MatrixXd face = halfOf(motions, inFace), out = halfOf(motions, outOfFace);
    if (element.elasticity.couples()) return coupledEnergy(element, plate, face, out);
    Eigen::MatrixXd all = Eigen::MatrixXd::Zero(out.rows() + 2, out.cols());
    all.topRows(out.rows()) = out;
    if (element.corner.size() == 3) all.bottomRows<2>() = innerByOuter(plate.bending + plate.shear) * out;
    const auto half = [](const Square& k, const Eigen::MatrixXd& d) {
        return Eigen::RowVectorXd((d.array() * (k * d).array()).colwise().sum() / 2.0);
    };
    return {half(membraneStiffness(element), face), half(plate.bending, all), half(plate.shear, all)};
}

} // namespace undisona
