// A line of unequal members, askew in space: states of constant strain hold it in balance at every inner node.
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

const Eigen::Vector3d barAxis = Eigen::Vector3d(2, -1, 3).normalized();
const Eigen::Vector3d besideIt = barAxis.cross(Eigen::Vector3d::UnitZ()).normalized();

/// Free, of a round bar, with points at uneven places.
std::shared_ptr<const Solution> askew()
{
    SaidModel said;
    std::string points, members;
    const std::vector<double> places{0.0, 0.31, 0.52, 1.4, 1.55};
    for (std::size_t at = 0; at < places.size(); ++at) {
        const Eigen::Vector3d place = places[at] * barAxis + Eigen::Vector3d(0.2, 0.1, -0.4);
        const std::string name = std::string(1, static_cast<char>('a' + at));
        said.say("point",
                 {{"name", name}, {"at", metres(place.x()) + ", " + metres(place.y()) + ", " + metres(place.z())}});
    }
    for (std::size_t at = 0; at + 1 < places.size(); ++at) // some run against the line
        members +=
            fmt::format("m{}|{}|{}\n", at, static_cast<char>('a' + at + at % 2), static_cast<char>('b' + at - at % 2));
    said.say("members", {{"rows", members}, {"section", "round 40 mm"}, {"elements", "2"}});
    return said.material("200 GPa", "0.3", "8000 kg/m3").say("lowest", {{"count", "8"}}).solved();
}

/// The forces that a motion asks for at each unknown, and how large they are where the ends are pushed.
void expectInnerBalance(const Solution& solution, const std::function<Vector6(double)>& motion, const char* state)
{
    const auto& unknowns = solution.system->motions.unknowns;
    const Eigen::Vector3d start = solution.structure->frame.points.front().place;
    Eigen::VectorXd q(solution.system->size());
    for (Eigen::Index at = 0; at < q.size(); ++at) {
        const auto& unknown = unknowns[static_cast<std::size_t>(at)];
        const Vector6 here = motion((unknown.place - start).dot(barAxis));
        q[at] = unknown.direction.dot(unknown.rotation ? here.tail<3>() : here.head<3>());
    }
    const Eigen::VectorXd force = solution.system->stiffness * q;
    double ends = 0.0, inside = 0.0;
    for (Eigen::Index at = 0; at < q.size(); ++at) {
        const double s = (unknowns[static_cast<std::size_t>(at)].place - start).dot(barAxis);
        (s < 1e-9 || s > 1.55 - 1e-9 ? ends : inside) += std::abs(force[at]);
    }
    EXPECT_GT(ends, 0.0) << state;
    EXPECT_LT(inside, 1e-9 * ends) << state;
}

Vector6 shiftAndTurn(const Eigen::Vector3d& shift, const Eigen::Vector3d& turn)
{
    Vector6 motion;
    motion << shift, turn;
    return motion;
}

} // namespace

TEST(Patch, ConstantStretchTwistCurvatureAndShearNeedNoForceInside)
{
    const auto solution = askew();
    const Eigen::Vector3d zero = Eigen::Vector3d::Zero();
    expectInnerBalance(
        *solution, [&](double s) { return shiftAndTurn(1e-3 * s * barAxis, zero); }, "stretch");
    expectInnerBalance(
        *solution, [&](double s) { return shiftAndTurn(zero, 1e-3 * s * barAxis); }, "twist");
    const Eigen::Vector3d axis = barAxis.cross(besideIt);
    expectInnerBalance(
        *solution, [&](double s) { return shiftAndTurn(0.5e-3 * s * s * besideIt, 1e-3 * s * axis); }, "curvature");
    // A force at the end: the moment falls to nothing along the line, the shear force is constant.
    const auto& section = *solution->structure->frame.members[0].section;
    const double ei = 200e9 * section.i1, shear = 200e9 / 2.6 * section.shearArea(0, 0.3), load = 1.0, end = 1.55;
    expectInnerBalance(
        *solution,
        [&](double s) {
            const double bending = load / ei * (end * s * s / 2 - s * s * s / 6),
                         turn = load / ei * (end * s - s * s / 2);
            return shiftAndTurn((bending + load / shear * s) * besideIt, turn * axis);
        },
        "shear");
}
