// From the modes of an earlier run on the same stiffness to the first block of this one.
#include "core/pencil/extract.hpp"

namespace undisona {

void ModeExtractor::remember(Pairs pairs)
{
    constexpr double exact = 1e-8; // what the next run takes for modes must be ones
    if (!keeps_ || tolerance_ > exact || held_.size() != static_cast<std::size_t>(rigid_.cols()) || shiftUp_ != 0.0)
        return;
    kept_->mass = std::make_shared<const SparseSymmetric>(pencil_.mass);
    kept_->lambda = std::move(pairs.lambda);
    kept_->shapes = std::move(pairs.shapes);
}

std::unique_ptr<BlockLanczos> ModeExtractor::firstRound()
{
    if (auto round = resumed()) return round;
    return std::make_unique<BlockLanczos>(shifted_, blockSize, rigid_);
}

std::unique_ptr<BlockLanczos> ModeExtractor::resumed()
{
    if (!record_.keptFactor || !kept_->mass || kept_->lambda.size() < 2 || kept_->mass->size != pencil_.mass.size)
        return nullptr;
    constexpr Eigen::Index mostRank = 24;
    const auto change = changeOf(*kept_->mass, pencil_.mass, mostRank);
    if (!change) return nullptr;
    // A = K^-1 M keeps the old modes X within span(X, K^-1 dM): A X = X / lambda + K^-1 (dM X), all of it clear of the
    // new rigid motions.
    const auto clear = [&](Eigen::MatrixXd x) {
        if (rigid_.cols() > 0) x -= rigid_ * (massRigid_.transpose() * x).eval();
        return x;
    };
    Eigen::MatrixXd space = clear(kept_->shapes);
    Eigen::MatrixXd image = space * kept_->lambda.cwiseInverse().asDiagonal(), beyond;
    if (change->columns.cols() > 0) {
        beyond = solve(change->columns);
        image.noalias() +=
            beyond * (change->weights.asDiagonal() * (change->columns.transpose() * kept_->shapes).eval()).eval();
    } else {
        beyond = Eigen::MatrixXd::Zero(pencil_.size(), blockSize); // filled up from chance
    }
    const Eigen::MatrixXd gram = space.transpose() * (pencil_.mass * space);
    const Eigen::LLT<Eigen::MatrixXd> factor(Eigen::MatrixXd((gram + gram.transpose()) / 2.0));
    if (factor.info() != Eigen::Success) return nullptr;
    factor.matrixU().solveInPlace<Eigen::OnTheRight>(space);
    factor.matrixU().solveInPlace<Eigen::OnTheRight>(image);
    record_.keptModes = kept_->lambda.size();
    return std::make_unique<BlockLanczos>(shifted_, space, image, std::move(beyond), rigid_);
}

} // namespace undisona
