#include "core/modal/rigid_modes.hpp"

#include "core/base/joined_sets.hpp"
#include "core/numerics/mass_orthonormal.hpp"
#include "core/system/base_motion.hpp"

namespace undisona {

namespace {

/// Unknowns that belong to the same body: joined by an element, a spring or a node, even where the entry of the
/// matrix happens to be zero.
struct Body {
    std::vector<Eigen::Index> unknowns;
    std::vector<std::size_t> elements, parts; ///< of the system, that strain it
    std::vector<std::size_t> followers;       ///< of the system's relations that stand apart
};
std::vector<Body> bodiesOf(const System& system)
{
    JoinedSets sets(static_cast<std::size_t>(system.size()));
    const auto join = [&](const std::vector<int>& unknowns) {
        for (const int unknown : unknowns)
            sets.join(unknowns.front(), unknown);
    };
    for (const auto& part : system.parts)
        join(part.unknowns);
    for (const auto& node : system.motions.nodes)
        join(node.unknowns);
    for (const auto& apart : system.motions.apart)
        for (const auto& [unknown, weight] : apart.weights)
            sets.join(apart.follower, unknown);
    std::map<int, Body> byLowest;
    for (int at = 0; at < static_cast<int>(system.size()); ++at)
        byLowest[sets.of(at)].unknowns.push_back(at);
    for (std::size_t at = 0; at < system.elements.size(); ++at)
        if (const auto& unknowns = system.elements[at].unknowns; !unknowns.empty())
            byLowest[sets.of(unknowns.front())].elements.push_back(at);
    for (std::size_t at = 0; at < system.parts.size(); ++at)
        if (const auto& part = system.parts[at]; !part.unknowns.empty() && part.isStiff())
            byLowest[sets.of(part.unknowns.front())].parts.push_back(at);
    for (std::size_t at = 0; at < system.motions.apart.size(); ++at)
        byLowest[sets.of(system.motions.apart[at].follower)].followers.push_back(at);
    std::vector<Body> bodies;
    for (auto& [first, body] : byLowest)
        bodies.push_back(std::move(body));
    return bodies;
}

/// One over the largest entry of each column, so that shifts and turns are alike in size.
Eigen::VectorXd unitSizes(const Eigen::MatrixXd& motions)
{
    return motions.cwiseAbs().colwise().maxCoeff().transpose().unaryExpr(
        [](double size) { return size > 0.0 ? 1.0 / size : 1.0; });
}

/// A sum over ways to strain: vanishes on the combinations of six motions that strain nothing, and is of order
/// one on all others, however soft or slender the strained part is.
class StrainedDirections {
public:
    /// One way to strain, as weights on some unknowns' motions. What cancels to 1e-10 counts as nothing.
    void add(const Eigen::RowVectorXd& weights, const Eigen::MatrixXd& motions)
    {
        const Eigen::RowVectorXd strain = weights * motions;
        if (strain.norm() > 1e-10 * (weights.cwiseAbs() * motions.cwiseAbs()).norm())
            sum_ += strain.transpose() * strain / strain.squaredNorm();
    }
    /// The ways to strain a part by its stiffness: what of six motions costs energy, against the rounding of it.
    void addPart(const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& motions)
    {
        const Eigen::Matrix<double, 6, 6> energy = motions.transpose() * (stiffness * motions);
        const double terms = (motions.cwiseAbs().array() * (stiffness.cwiseAbs() * motions.cwiseAbs()).array())
                                 .colwise()
                                 .sum()
                                 .maxCoeff();
        if (!(energy.diagonal().maxCoeff() > 1e-11 * terms)) return; // as of nearly every piece of sheet or solid
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, 6, 6>> eigen(
            Eigen::Matrix6d((energy + energy.transpose()) / 2.0));
        for (int at = 0; at < 6; ++at)
            if (eigen.eigenvalues()[at] > 1e-11 * terms)
                sum_ += eigen.eigenvectors().col(at) * eigen.eigenvectors().col(at).transpose();
    }
    const Eigen::Matrix<double, 6, 6>& sum() const { return sum_; }

private:
    Eigen::Matrix<double, 6, 6> sum_ = Eigen::Matrix<double, 6, 6>::Zero();
};

/// The six ways to strain a member of the length: stretch, twist, and in each plane bend and shear.
Eigen::Matrix<double, 6, 12> memberStrains(double length)
{
    Eigen::Matrix<double, 6, 12> ways = Eigen::Matrix<double, 6, 12>::Zero();
    ways(0, 0) = ways(1, 3) = -1.0;
    ways(0, 6) = ways(1, 9) = 1.0;
    const int shift[2] = {1, 2}, turn[2] = {5, 4};
    for (int plane = 0; plane < 2; ++plane) {
        const double sign = plane == 0 ? 1.0 : -1.0; // turn = sign * slope
        ways(2 + plane, turn[plane]) = -1.0;
        ways(2 + plane, 6 + turn[plane]) = 1.0;
        ways(4 + plane, shift[plane]) = -1.0 / length;
        ways(4 + plane, 6 + shift[plane]) = 1.0 / length;
        ways(4 + plane, turn[plane]) = ways(4 + plane, 6 + turn[plane]) = -sign / 2.0;
    }
    return ways;
}

Eigen::Matrix<double, 6, 6> strainedDirections(const System& system, const Body& body, const Eigen::MatrixXd& motions)
{
    const Eigen::MatrixXd unit = motions * unitSizes(motions).asDiagonal();
    StrainedDirections directions;
    for (const std::size_t at : body.elements) {
        const auto& element = system.elements[at];
        const Eigen::MatrixXd own = element.toOwn * unit(element.unknowns, Eigen::all);
        if (own.isZero(0.0)) continue;
        const auto ways = memberStrains(element.element.length);
        for (int way = 0; way < 6; ++way)
            directions.add(ways.row(way), own);
    }
    Eigen::MatrixXd room;
    for (const std::size_t at : body.parts) { // springs, beds, pieces of sheet and solids
        const auto& part = system.parts[at];
        if (part.kind == PartKind::member) continue;
        if (part.piece >= 0 && part.held.empty()) continue; // all its corners go along, which strains nothing
        directions.addPart(system.stiffnessOf(part, room), unit(part.unknowns, Eigen::all));
    }
    for (const std::size_t at : body.followers) { // some of which go with what is held, and so does the follower
        std::vector<int> unknowns;
        Eigen::RowVectorXd weights(Eigen::Index(system.motions.apart[at].weights.size()));
        for (const auto& [unknown, weight] : system.motions.apart[at].weights) {
            weights[Eigen::Index(unknowns.size())] = weight;
            unknowns.push_back(unknown);
        }
        directions.add(weights, unit(unknowns, Eigen::all));
    }
    return directions.sum();
}

/// Columns of `motions` turned so that x' M x is the identity; those without mass, and those that are nothing
/// beside `largest`, of which they are sums, are dropped: what supports leave of six motions may be fewer.
RigidModes massOrthonormal(const System& system, const Eigen::MatrixXd& motions, double largest)
{
    double heaviest = 0.0;
    for (Eigen::Index at = 0; at < system.size(); ++at)
        heaviest = std::max(heaviest, system.mass.diagonal(at));
    std::vector<Eigen::Index> real, massive;
    for (Eigen::Index k = 0; k < motions.cols(); ++k) {
        const Eigen::VectorXd motion = motions.col(k);
        const double size = motion.cwiseAbs().maxCoeff();
        if (!(size > 1e-9 * largest)) continue;
        real.push_back(k);
        constexpr double rounding = 1e-24; // of a mass that the motion does not move at all
        if (motion.dot((system.mass * motion).col(0)) > rounding * heaviest * size * size) massive.push_back(k);
    }
    RigidModes modes{newDirections(system.mass, Eigen::MatrixXd(motions.rows(), 0), motions(Eigen::all, massive), 1e-9),
                     std::nullopt};
    if (modes.motions.cols() == static_cast<Eigen::Index>(real.size())) return modes;
    const Eigen::MatrixXd possible = motions(Eigen::all, real) * unitSizes(motions(Eigen::all, real)).asDiagonal();
    Eigen::ColPivHouseholderQR<Eigen::MatrixXd> independent(possible);
    independent.setThreshold(1e-9);
    if (modes.motions.cols() >= independent.rank()) return modes;
    const Eigen::MatrixXd basis =
        independent.householderQ() * Eigen::MatrixXd::Identity(possible.rows(), independent.rank());
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(basis.transpose() * (system.mass * basis));
    Eigen::Index most = 0;
    (basis * eigen.eigenvectors().col(0)).cwiseAbs().maxCoeff(&most);
    modes.massless = most;
    return modes;
}

/// Turns the rotation columns of a free part to its principal axes.
Eigen::MatrixXd principalTurns(const System& system, const Eigen::MatrixXd& about)
{
    Eigen::MatrixXd turned = about;
    const Eigen::Matrix3d inertia = about.rightCols(3).transpose() * (system.mass * about.rightCols(3));
    Eigen::Matrix3d offDiagonal = inertia;
    offDiagonal.diagonal().setZero();
    if (offDiagonal.norm() < 1e-12 * inertia.norm()) return turned;
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> eigen(inertia);
    turned.rightCols(3) = about.rightCols(3) * eigen.eigenvectors();
    return turned;
}

} // namespace

RigidModes rigidModes(const System& system)
{
    RigidModes modes{Eigen::MatrixXd(system.size(), 0), std::nullopt};
    if (system.parts.empty()) return modes; // bare matrices: what moves is not known
    const Eigen::MatrixXd aboutOrigin = rigidOf(system.motions.unknowns);
    Eigen::MatrixXd& all = modes.motions;
    for (const auto& body : bodiesOf(system)) {
        if (all.cols() > mostRigidMotions) break;
        Eigen::MatrixXd own = Eigen::MatrixXd::Zero(system.size(), 6);
        for (const auto at : body.unknowns)
            own.row(at) = aboutOrigin.row(at);
        // The part's mass centre: where turning and shifting do not couple.
        const Eigen::Matrix<double, 6, 6> mass = own.transpose() * (system.mass * own);
        const double total = mass(0, 0);
        Eigen::Vector3d centre = Eigen::Vector3d::Zero();
        if (total > 0.0) centre = Eigen::Vector3d(mass(1, 5), mass(2, 3), mass(0, 4)) / total;
        for (int axis = 0; axis < 3; ++axis) {
            const Eigen::Vector3d back = centre.cross(Eigen::Vector3d::Unit(axis));
            own.col(3 + axis) += own.leftCols(3) * back;
        }
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, 6, 6>> eigen(strainedDirections(system, body, own));
        Eigen::Index nullity = 0;
        while (nullity < 6 && eigen.eigenvalues()[nullity] < 1e-9)
            ++nullity;
        Eigen::MatrixXd motions;
        if (nullity == 6)
            motions = principalTurns(system, own);
        else
            motions = own * (unitSizes(own).asDiagonal() * eigen.eigenvectors().leftCols(nullity));
        const RigidModes found = massOrthonormal(system, motions, nullity == 6 ? own.cwiseAbs().maxCoeff() : 1.0);
        if (!modes.massless) modes.massless = found.massless;
        const Eigen::Index before = all.cols();
        all.conservativeResize(Eigen::NoChange, before + found.motions.cols());
        all.rightCols(found.motions.cols()) = found.motions;
    }
    for (Eigen::Index k = 0; k < all.cols(); ++k) {
        Eigen::Index largest = 0;
        all.col(k).cwiseAbs().maxCoeff(&largest);
        if (all(largest, k) < 0.0) all.col(k) *= -1.0;
    }
    return modes;
}

std::vector<std::int64_t> determinateUnknowns(const System& system, const Eigen::MatrixXd& rigid)
{
    std::vector<std::int64_t> held;
    if (rigid.cols() == 0) return held;
    // Turns count as what they move at the reach of the whole.
    Eigen::Vector3d low = Eigen::Vector3d::Constant(1e300), high = -low;
    for (const auto& unknown : system.motions.unknowns) {
        low = low.cwiseMin(unknown.place);
        high = high.cwiseMax(unknown.place);
    }
    const double reach = std::max(1e-9, (high - low).norm());
    for (const auto& body : bodiesOf(system)) {
        const auto& part = body.unknowns;
        std::vector<Eigen::Index> columns;
        for (Eigen::Index k = 0; k < rigid.cols(); ++k)
            if (!rigid(part, k).isZero(0.0)) columns.push_back(k);
        if (columns.empty()) continue;
        Eigen::MatrixXd rows = rigid(part, columns).transpose(); // motions x unknowns
        for (std::size_t at = 0; at < part.size(); ++at)
            if (system.motions.unknowns[static_cast<std::size_t>(part[at])].rotation)
                rows.col(static_cast<Eigen::Index>(at)) *= reach;
        const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr(rows);
        for (Eigen::Index k = 0; k < qr.rank(); ++k)
            held.push_back(part[static_cast<std::size_t>(qr.colsPermutation().indices()[k])]);
    }
    return held;
}

} // namespace undisona
