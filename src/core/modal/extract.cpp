#include "core/modal/extract.hpp"

#include "core/numerics/inertia.hpp"

#include <numeric>

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double tolerance = 1e-9;     // of a Ritz pair, so that the polished mode is accepted at 1e-8
constexpr double sameFrequency = 1e-6; // relative; modes nearer than this are one group
constexpr Eigen::Index blockSize = 8;
constexpr Eigen::Index denseLimit = 2500;

double toHertz(double lambda)
{
    return std::sqrt(std::max(0.0, lambda)) / (2.0 * std::numbers::pi);
}

/// Unknowns that belong to the same body: joined by an element, a spring or a node, even where the entry of the
/// matrix happens to be zero.
std::vector<std::vector<Eigen::Index>> partsOf(const System& system)
{
    std::vector<int> leader(static_cast<std::size_t>(system.size()));
    std::iota(leader.begin(), leader.end(), 0);
    const auto root = [&](int at) {
        while (leader[static_cast<std::size_t>(at)] != at)
            at = leader[static_cast<std::size_t>(at)] =
                leader[static_cast<std::size_t>(leader[static_cast<std::size_t>(at)])];
        return at;
    };
    const auto join = [&](const std::vector<int>& unknowns) {
        for (const int unknown : unknowns) {
            const int a = root(unknowns.front()), b = root(unknown);
            leader[static_cast<std::size_t>(std::max(a, b))] = std::min(a, b);
        }
    };
    for (const auto& part : system.parts)
        join(part.unknowns);
    for (const auto& node : system.motions.nodes)
        join(node.unknowns);
    std::map<int, std::vector<Eigen::Index>> members;
    for (int at = 0; at < static_cast<int>(system.size()); ++at)
        members[root(at)].push_back(at);
    std::vector<std::vector<Eigen::Index>> parts;
    for (auto& [first, list] : members)
        parts.push_back(std::move(list));
    return parts;
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

Eigen::Matrix<double, 6, 6> strainedDirections(const System& system, const Eigen::MatrixXd& motions)
{
    const Eigen::MatrixXd unit = motions * unitSizes(motions).asDiagonal();
    StrainedDirections directions;
    for (const auto& element : system.elements) {
        const Eigen::MatrixXd own = element.toOwn * unit(element.unknowns, Eigen::all);
        if (own.isZero(0.0)) continue;
        const auto ways = memberStrains(element.element.length);
        for (int way = 0; way < 6; ++way)
            directions.add(ways.row(way), own);
    }
    for (const auto& part : system.parts) { // springs and beds: the eigenvectors of their stiffness
        if (part.kind == PartKind::member || part.stiffness.size() == 0) continue;
        const Eigen::MatrixXd own = unit(part.unknowns, Eigen::all);
        const Eigen::VectorXd root = part.stiffness.diagonal().cwiseMax(0.0).cwiseSqrt();
        const Eigen::VectorXd inverse = root.unaryExpr([](double size) { return size > 0.0 ? 1.0 / size : 0.0; });
        const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(inverse.asDiagonal() * part.stiffness *
                                                                   inverse.asDiagonal());
        for (Eigen::Index at = 0; at < root.size(); ++at)
            if (eigen.eigenvalues()[at] > 1e-9)
                directions.add((eigen.eigenvectors().col(at).array() * root.array()).matrix().transpose(), own);
    }
    return directions.sum();
}

/// Columns of `motions` turned so that x' M x is the identity; those without mass, and those that are nothing
/// beside the largest, are dropped.
Eigen::MatrixXd massOrthonormal(const System& system, const Eigen::MatrixXd& motions)
{
    Eigen::MatrixXd kept(motions.rows(), 0);
    const double largest = motions.size() > 0 ? motions.cwiseAbs().maxCoeff() : 0.0;
    for (Eigen::Index k = 0; k < motions.cols(); ++k) {
        Eigen::VectorXd x = motions.col(k);
        if (!(x.cwiseAbs().maxCoeff() > 1e-9 * largest)) continue;
        const double before = std::sqrt(std::max(0.0, x.dot((system.mass * x).col(0))));
        for (int pass = 0; pass < 2 && kept.cols() > 0; ++pass)
            x -= kept * (kept.transpose() * (system.mass * x)).eval();
        const double size = std::sqrt(std::max(0.0, x.dot((system.mass * x).col(0))));
        if (!(size > 1e-9 * before) || before == 0.0) continue;
        kept.conservativeResize(Eigen::NoChange, kept.cols() + 1);
        kept.col(kept.cols() - 1) = x / size;
    }
    return kept;
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

Eigen::MatrixXd rigidModes(const System& system)
{
    const Eigen::MatrixXd aboutOrigin = system.rigidMotions(Eigen::Vector3d::Zero());
    Eigen::MatrixXd all(system.size(), 0);
    for (const auto& part : partsOf(system)) {
        Eigen::MatrixXd own = Eigen::MatrixXd::Zero(system.size(), 6);
        for (const auto at : part)
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
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, 6, 6>> eigen(strainedDirections(system, own));
        Eigen::Index nullity = 0;
        while (nullity < 6 && eigen.eigenvalues()[nullity] < 1e-9)
            ++nullity;
        Eigen::MatrixXd motions;
        if (nullity == 6)
            motions = principalTurns(system, own);
        else
            motions = own * (unitSizes(own).asDiagonal() * eigen.eigenvectors().leftCols(nullity));
        motions = massOrthonormal(system, motions);
        const Eigen::Index before = all.cols();
        all.conservativeResize(Eigen::NoChange, before + motions.cols());
        all.rightCols(motions.cols()) = motions;
    }
    for (Eigen::Index k = 0; k < all.cols(); ++k) {
        Eigen::Index largest = 0;
        all.col(k).cwiseAbs().maxCoeff(&largest);
        if (all(largest, k) < 0.0) all.col(k) *= -1.0;
    }
    return all;
}

ModeExtractor::ModeExtractor(const System& system, Progress& progress) : system_(system), progress_(progress) {}

Result<std::unique_ptr<ModeExtractor>> ModeExtractor::prepare(const System& system, Progress& progress)
{
    if (system.size() == 0)
        return errorAt({}, "nothing can move: every direction of every point is held",
                       "Free some of them, or add members.");
    std::unique_ptr<ModeExtractor> extractor(new ModeExtractor(system, progress));
    progress.stage("factorise");
    extractor->rigid_ = rigidModes(system);
    extractor->pencil_ = {system.size(), [&system](const Eigen::MatrixXd& x) { return system.mass * x; },
                          [own = extractor.get()](const Eigen::MatrixXd& x) { return own->factor_->solve(x); }};
    extractor->chooseShift();
    if (extractor->factor_) return extractor;
    // Neither stiffness nor mass somewhere: say where.
    std::int64_t at = -1;
    Cholesky::factorise(extractor->shifted_, &at);
    std::string where = "the structure";
    if (at >= 0) {
        const auto& unknown = system.motions.unknowns[static_cast<std::size_t>(at)];
        where =
            fmt::format("{} ({} along {:.2g}, {:.2g}, {:.2g})", unknown.where, unknown.rotation ? "turning" : "moving",
                        unknown.direction.x(), unknown.direction.y(), unknown.direction.z());
    }
    return Finding{Severity::error,
                   fmt::format("{} can move freely and has no mass there, so that it has no frequency", where),
                   "Hold it, tie it, give it mass, or take back a release.",
                   {},
                   where};
}

bool ModeExtractor::factorise(double shiftUp)
{
    shiftUp_ = shiftUp;
    shifted_ = sum(system_.stiffness, shiftUp, system_.mass);
    factor_ = Cholesky::factorise(shifted_);
    return factor_ != nullptr;
}

void ModeExtractor::chooseShift()
{
    if (rigid_.cols() == 0 && factorise(0.0) && factor_->reciprocalCondition() > 1e-18) return;
    // A small shift first; a few inverse iterations clear of the rigid motions then tell the scale of the
    // lowest elastic eigenvalue, and a third of that makes a well-conditioned shift.
    double largest = 0.0;
    for (Eigen::Index at = 0; at < system_.size(); ++at)
        if (system_.mass.diagonal(at) > 0.0)
            largest = std::max(largest, system_.stiffness.diagonal(at) / system_.mass.diagonal(at));
    double first = std::max(1e-9 * largest, 1e-12);
    for (int attempt = 0; attempt < 8 && !factorise(first); ++attempt)
        first *= 100.0;
    if (!factor_) return;
    for (int round = 0; round < 3; ++round) {
        BlockLanczos probe(pencil_, blockSize, rigid_);
        for (int step = 0; step < 4 && !probe.exhausted(); ++step)
            probe.step();
        const RitzPairs pairs = probe.pairs(1);
        if (pairs.theta.size() == 0) return;
        const double lambda = 1.0 / pairs.theta[0] - shiftUp_;
        if (!(lambda > 1e-6 * shiftUp_)) return; // a mechanism: the present shift is as good as any
        if (lambda > 0.1 * shiftUp_ && lambda < 1e4 * shiftUp_ && round > 0) return;
        if (!factorise(lambda / 3.0)) {
            factorise(first);
            return;
        }
    }
}

double ModeExtractor::hertzOf(double theta) const
{
    return toHertz(1.0 / theta - shiftUp_);
}

std::vector<double> ModeExtractor::convergedHertz()
{
    std::vector<double> hertz(static_cast<std::size_t>(rigid_.cols()), 0.0);
    for (auto& round : rounds_) {
        const Eigen::Index count = round->converged(tolerance);
        const RitzPairs pairs = round->pairs(count);
        for (Eigen::Index at = 0; at < pairs.theta.size(); ++at)
            hertz.push_back(hertzOf(pairs.theta[at]));
    }
    std::sort(hertz.begin(), hertz.end());
    return hertz;
}

Eigen::Index ModeExtractor::convergedCount()
{
    Eigen::Index count = 0;
    for (auto& round : rounds_)
        count += round->converged(tolerance);
    return count;
}

Eigen::MatrixXd ModeExtractor::convergedVectors(Eigen::Index wanted)
{
    std::vector<RitzPairs> found;
    std::vector<std::array<Eigen::Index, 2>> order; // round, column; largest theta first
    for (auto& round : rounds_) {
        found.push_back(round->pairs(round->converged(tolerance)));
        for (Eigen::Index column = 0; column < found.back().theta.size(); ++column)
            order.push_back({static_cast<Eigen::Index>(found.size()) - 1, column});
    }
    const auto theta = [&](const std::array<Eigen::Index, 2>& at) {
        return found[static_cast<std::size_t>(at[0])].theta[at[1]];
    };
    std::stable_sort(order.begin(), order.end(), [&](const auto& a, const auto& b) { return theta(a) > theta(b); });
    auto kept = static_cast<std::size_t>(std::max<Eigen::Index>(0, wanted));
    if (kept > 0 && kept < order.size()) { // the whole group of the last one, and a block more
        const double last = theta(order[kept - 1]);
        while (kept < order.size() && theta(order[kept]) > last * (1.0 - 1e-4))
            ++kept;
    }
    order.resize(std::min(order.size(), kept + blockSize));
    Eigen::MatrixXd all(system_.size(), static_cast<Eigen::Index>(order.size()));
    for (std::size_t at = 0; at < order.size(); ++at)
        all.col(static_cast<Eigen::Index>(at)) =
            found[static_cast<std::size_t>(order[at][0])].vectors.col(order[at][1]);
    return all;
}

Extraction ModeExtractor::gather(Eigen::Index wanted)
{
    const bool complete =
        std::all_of(rounds_.begin(), rounds_.end(),
                    [](const auto& round) {
                        return round->exhausted() && round->converged(tolerance) == round->dimension();
                    }) &&
        convergedCount() <= wanted - rigid_.cols() + blockSize;
    const Eigen::MatrixXd x = convergedVectors(wanted - rigid_.cols());
    const Eigen::Index columns = x.cols();
    Eigen::VectorXd lambda(columns);
    Eigen::MatrixXd shapes(system_.size(), columns);
    if (columns > 0) {
        // Once more through A, which also takes away any part in the null space of M; then Rayleigh-Ritz.
        const Eigen::MatrixXd right = system_.mass * x;
        Eigen::MatrixXd y = factor_->solve(right);
        if (rigid_.cols() > 0) y -= rigid_ * (rigid_.transpose() * (system_.mass * y)).eval();
        const Eigen::ArrayXd sizes = (y.array() * right.array()).colwise().sum().abs().sqrt().transpose();
        y = y * sizes.inverse().matrix().asDiagonal();
        const Eigen::MatrixXd mass = y.transpose() * (system_.mass * y), energy = y.transpose() * (shifted_ * y);
        const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen((mass + mass.transpose()) / 2.0,
                                                                              (energy + energy.transpose()) / 2.0);
        for (Eigen::Index at = 0; at < columns; ++at) {
            const double theta = eigen.eigenvalues()[columns - 1 - at];
            lambda[at] = 1.0 / theta - shiftUp_;
            shapes.col(at) = y * eigen.eigenvectors().col(columns - 1 - at) / std::sqrt(theta);
        }
    }
    return finished(lambda, shapes, wanted, complete);
}

Extraction ModeExtractor::dense()
{
    const Eigen::Index n = system_.size();
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(n, n);
    // A shift midway (in the logarithm) between the lowest and the highest eigenvalue spreads the rounding evenly:
    // both ends keep about as many digits as the root of their ratio leaves.
    BlockLanczos probe(pencil_, blockSize, rigid_);
    for (int step = 0; step < 3 && !probe.exhausted(); ++step)
        probe.step();
    const RitzPairs lowest = probe.pairs(1);
    double low = lowest.theta.size() > 0 ? 1.0 / lowest.theta[0] - shiftUp_ : 0.0, high = 0.0;
    for (Eigen::Index at = 0; at < n; ++at)
        if (system_.mass.diagonal(at) > 0.0)
            high = std::max(high, system_.stiffness.diagonal(at) / system_.mass.diagonal(at));
    low = std::max(low, 1e-14 * high);
    const double shift = high > 0.0 ? std::sqrt(low * high) : shiftUp_;
    const Eigen::MatrixXd mass = system_.mass * identity,
                          shifted = sum(system_.stiffness, shift, system_.mass) * identity;
    // The rank of M, free of units: eigenvalues of D^-1/2 M D^-1/2.
    Eigen::VectorXd scale(n);
    for (Eigen::Index at = 0; at < n; ++at)
        scale[at] = mass(at, at) > 0.0 ? 1.0 / std::sqrt(mass(at, at)) : 0.0;
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> rankOf(scale.asDiagonal() * mass * scale.asDiagonal(),
                                                                Eigen::EigenvaluesOnly);
    const Eigen::Index rank = (rankOf.eigenvalues().array() > 1e-12).count();
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen(mass, shifted);
    const Eigen::Index rigid = rigid_.cols(), elastic = std::max<Eigen::Index>(0, rank - rigid);
    Eigen::VectorXd lambda(elastic);
    Eigen::MatrixXd shapes(n, elastic);
    for (Eigen::Index at = 0; at < elastic; ++at) { // the rigid motions have the largest theta
        const double theta = eigen.eigenvalues()[n - 1 - rigid - at];
        lambda[at] = 1.0 / theta - shift;
        shapes.col(at) = eigen.eigenvectors().col(n - 1 - rigid - at) / std::sqrt(theta);
    }
    return finished(lambda, shapes, rank, true);
}

Extraction ModeExtractor::finished(Eigen::VectorXd lambda, Eigen::MatrixXd shapes, Eigen::Index wanted, bool complete)
{
    const Eigen::Index columns = lambda.size(), rigid = rigid_.cols();
    const Eigen::Index elastic = std::clamp<Eigen::Index>(wanted - rigid, 0, columns);
    Eigen::Index kept = elastic; // neighbours of the last one belong to its group
    while (kept > 0 && kept < columns && lambda[kept] <= lambda[elastic - 1] * std::pow(1.0 + sameFrequency, 2))
        ++kept;
    Extraction extraction;
    extraction.rigid = rigid;
    extraction.nextLambda = kept < columns ? lambda[kept] : 0.0;
    extraction.all = complete && kept == columns;
    extraction.lambda.resize(rigid + kept);
    extraction.lambda << Eigen::VectorXd::Zero(rigid), lambda.head(kept);
    extraction.shapes.resize(system_.size(), rigid + kept);
    extraction.shapes << rigid_, shapes.leftCols(kept);
    certify(extraction);
    return extraction;
}

void ModeExtractor::certify(Extraction& extraction) const
{
    const Eigen::MatrixXd stiff = system_.stiffness * extraction.shapes, massive = system_.mass * extraction.shapes;
    const Eigen::MatrixXd image = factor_->solve(massive);
    const Eigen::Index total = extraction.lambda.size();
    const double normK = system_.stiffness.norm();
    constexpr double eps = 2.220446049250313e-16;
    extraction.acceptedError.resize(total);
    extraction.residual.setZero(total);
    extraction.floor.setZero(total);
    Eigen::Index firstElastic = total;
    for (Eigen::Index at = total - 1; at >= extraction.rigid; --at) {
        const double noise = 1e3 * eps * normK * extraction.shapes.col(at).squaredNorm();
        if (extraction.lambda[at] > noise) firstElastic = at;
    }
    // Motions that cost no energy and are not rigid: below what rounding leaves of K, and far below the rest.
    extraction.mechanisms = 0;
    for (Eigen::Index at = extraction.rigid; at < firstElastic; ++at) {
        if (firstElastic < total && extraction.lambda[at] > 1e-10 * extraction.lambda[firstElastic]) break;
        extraction.lambda[at] = 0.0;
        ++extraction.mechanisms;
    }
    for (Eigen::Index at = 0; at < total; ++at) {
        const double own = extraction.lambda[at] + shiftUp_;
        const Eigen::VectorXd error = image.col(at) - extraction.shapes.col(at) / own;
        extraction.acceptedError[at] = own * std::sqrt(std::max(0.0, error.dot((system_.mass * error).col(0))));
        if (at < extraction.rigid + extraction.mechanisms) continue;
        const double force = stiff.col(at).norm();
        extraction.residual[at] = (stiff.col(at) - extraction.lambda[at] * massive.col(at)).norm() / force;
        extraction.floor[at] = 10.0 * eps * normK * extraction.shapes.col(at).norm() / force;
    }
}

Extraction ModeExtractor::lowest(Eigen::Index wanted, const Listener& listener)
{
    progress_.stage("modes");
    if (2 * wanted > system_.size() && system_.size() <= denseLimit) {
        Extraction all = dense();
        return wanted >= all.lambda.size()
                   ? all
                   : finished(all.lambda.tail(all.lambda.size() - all.rigid),
                              all.shapes.rightCols(all.lambda.size() - all.rigid), wanted, true);
    }
    if (rounds_.empty()) rounds_.push_back(std::make_unique<BlockLanczos>(pencil_, blockSize, rigid_));
    const Eigen::Index elastic = std::max<Eigen::Index>(0, wanted - rigid_.cols());
    // One more than wanted, so that the place of the next mode is known too.
    while (!rounds_.back()->exhausted() && !progress_.stopped() && convergedCount() <= elastic) {
        do // nothing to look for while there are fewer directions than modes wanted
            rounds_.back()->step();
        while (!rounds_.back()->exhausted() && !progress_.stopped() && rounds_.size() == 1 &&
               rounds_.back()->dimension() < elastic);
        progress_.fraction(std::min(1.0, double(convergedCount()) / double(elastic + 1)));
        if (listener) listener(convergedHertz());
    }
    if (rounds_.back()->exhausted() && convergedCount() < elastic && system_.size() <= denseLimit) return dense();
    Extraction extraction = gather(wanted);
    if (!progress_.stopped()) repair(extraction, wanted, listener);
    return extraction;
}

void ModeExtractor::repair(Extraction& extraction, Eigen::Index wanted, const Listener& listener)
{
    // Copies of a repeated frequency beyond the block size, or modes that the start had no part in: look again
    // beside everything found, until the count agrees.
    for (std::uint64_t attempt = 1; attempt < 60 && !progress_.stopped(); ++attempt) {
        if (extraction.all || extraction.lambda.size() == 0) return;
        const CountCheck check = count(extraction);
        if (check.expected < 0 || check.expected <= check.found) return;
        progress_.stage("modes");
        Eigen::MatrixXd known = convergedVectors(system_.size());
        known.conservativeResize(Eigen::NoChange, known.cols() + rigid_.cols());
        known.rightCols(rigid_.cols()) = rigid_;
        const double highest = extraction.lambda[extraction.lambda.size() - 1];
        rounds_.push_back(std::make_unique<BlockLanczos>(pencil_, blockSize, known, 20011 + 7919 * attempt));
        auto& lanczos = *rounds_.back();
        while (!lanczos.exhausted() && !progress_.stopped()) {
            lanczos.step();
            if (listener) listener(convergedHertz());
            const Eigen::Index done = lanczos.converged(tolerance);
            if (done > 0 && 1.0 / lanczos.pairs(done).theta[done - 1] - shiftUp_ > highest) break;
        }
        extraction = gather(wanted);
    }
}

Extraction ModeExtractor::upTo(double hertz, Eigen::Index most, const Listener& listener)
{
    Eigen::Index wanted = std::min<Eigen::Index>(most, rigid_.cols() + 8);
    while (true) {
        Extraction extraction = lowest(wanted, listener);
        const Eigen::Index found = extraction.lambda.size();
        const bool beyond = found > 0 && toHertz(extraction.lambda[found - 1]) > hertz;
        if (!beyond && wanted < most && !extraction.all && !progress_.stopped() && found >= wanted) {
            wanted = std::min(most, wanted + std::max<Eigen::Index>(8, wanted / 2));
            continue;
        }
        Eigen::Index kept = found;
        while (kept > 0 && toHertz(extraction.lambda[kept - 1]) > hertz)
            --kept;
        if (kept == found) return extraction;
        extraction.nextLambda = extraction.lambda[kept];
        extraction.all = false;
        extraction.lambda.conservativeResize(kept);
        extraction.shapes.conservativeResize(Eigen::NoChange, kept);
        extraction.acceptedError.conservativeResize(kept);
        extraction.residual.conservativeResize(kept);
        extraction.floor.conservativeResize(kept);
        return extraction;
    }
}

CountCheck ModeExtractor::count(const Extraction& extraction) const
{
    CountCheck check;
    check.found = extraction.lambda.size();
    if (extraction.lambda.size() == 0) return check;
    const double last = extraction.lambda[extraction.lambda.size() - 1];
    double at = last * (1.0 + 1e-4) * (1.0 + 1e-4);
    if (extraction.nextLambda > last) at = std::min(at, (last + extraction.nextLambda) / 2.0);
    if (last <= 0.0) at = extraction.nextLambda > 0.0 ? extraction.nextLambda / 2.0 : shiftUp_ * 1e-3;
    check.belowHz = toHertz(at);
    progress_.stage("count");
    if (const auto expected = negativeEigenvalues(sum(system_.stiffness, -at, system_.mass)))
        check.expected = *expected;
    check.proven = check.expected == check.found;
    return check;
}

} // namespace undisona
