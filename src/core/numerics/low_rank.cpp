#include "core/numerics/low_rank.hpp"

#include "core/numerics/dense_eigen.hpp"

#include <cstring>

namespace undisona {

namespace {

/// The columns that are relations.
Eigen::MatrixXd relationsOf(const LowRank& apart)
{
    std::vector<Eigen::Index> which;
    for (Eigen::Index at = 0; at < apart.count(); ++at)
        if (apart.columns[static_cast<std::size_t>(at)].compliance == 0.0) which.push_back(at);
    return apart.dense()(Eigen::all, which);
}

} // namespace

Eigen::MatrixXd LowRank::dense() const
{
    Eigen::MatrixXd all = Eigen::MatrixXd::Zero(size, count());
    for (Eigen::Index at = 0; at < count(); ++at) {
        const Column& column = columns[static_cast<std::size_t>(at)];
        for (std::size_t entry = 0; entry < column.row.size(); ++entry)
            all(column.row[entry], at) = column.value[entry];
    }
    return all;
}

Eigen::MatrixXd LowRank::times(const Eigen::Ref<const Eigen::MatrixXd>& x) const
{
    Eigen::MatrixXd products = Eigen::MatrixXd::Zero(count(), x.cols());
    for (Eigen::Index at = 0; at < count(); ++at) {
        const Column& column = columns[static_cast<std::size_t>(at)];
        for (std::size_t entry = 0; entry < column.row.size(); ++entry)
            products.row(at) += column.value[entry] * x.row(column.row[entry]);
    }
    return products;
}

void LowRank::addProduct(const Eigen::MatrixXd& x, Eigen::MatrixXd& product) const
{
    const Eigen::MatrixXd along = times(x);
    for (Eigen::Index at = 0; at < count(); ++at) {
        const Column& column = columns[static_cast<std::size_t>(at)];
        if (column.compliance == 0.0) continue;
        for (std::size_t entry = 0; entry < column.row.size(); ++entry)
            product.row(column.row[entry]) += column.value[entry] / column.compliance * along.row(at);
    }
}

void LowRank::balance(Eigen::MatrixXd& forces) const
{
    const Eigen::MatrixXd rows = relationsOf(*this);
    if (rows.cols() == 0) return;
    const Eigen::LLT<Eigen::MatrixXd> gram(Eigen::MatrixXd(rows.transpose() * rows));
    forces -= rows * gram.solve(rows.transpose() * forces);
}

Eigen::MatrixXd LowRank::left() const
{
    const Eigen::HouseholderQR<Eigen::MatrixXd> qr(relationsOf(*this));
    const Eigen::Index free = size - qr.cols();
    Eigen::MatrixXd rest = Eigen::MatrixXd::Zero(size, free);
    rest.bottomRows(free).setIdentity();
    rest.applyOnTheLeft(qr.householderQ());
    return rest;
}

std::uint64_t LowRank::key() const
{
    std::uint64_t hash = 14695981039346656037ULL; // FNV-1a (Fowler, Noll, Vo 1991), a word at a time
    const auto mix = [&](const auto& value) {
        std::uint64_t word = 0;
        std::memcpy(&word, &value, sizeof value);
        hash = (hash ^ word) * 1099511628211ULL;
    };
    for (const auto& column : columns) {
        mix(column.compliance);
        for (std::size_t entry = 0; entry < column.row.size(); ++entry) {
            mix(column.row[entry]);
            mix(column.value[entry]);
        }
    }
    return hash;
}

BorderedSolve::BorderedSolve(const LowRank* apart, Solve solve, const std::vector<std::int64_t>& held)
    : apart_(apart), solve_(std::move(solve))
{
    if (!apart_ || apart_->empty()) return;
    columns_ = apart_->dense();
    for (const auto at : held)
        columns_.row(at).setZero();
    answers_ = solve_(columns_);
    Eigen::MatrixXd corner = columns_.transpose() * answers_;
    corner = ((corner + corner.transpose()) / 2.0).eval();
    std::int64_t relations = 0, stiff = 0;
    for (Eigen::Index at = 0; at < corner.rows(); ++at) {
        const double compliance = apart_->columns[static_cast<std::size_t>(at)].compliance;
        corner(at, at) += compliance;
        relations += compliance == 0.0;
        stiff += compliance > 0.0;
    }
    corner_.compute(corner);
    // In([A U; U' -C]) = In(A) + In(-S) = In(A + U C^-1 U') + In(-C), with S = C + U' A^-1 U; each relation takes a
    // positive and a negative eigenvalue with it.
    const Eigen::VectorXd size = corner.cwiseAbs().rowwise().maxCoeff().cwiseMax(1e-300).cwiseSqrt().cwiseInverse();
    const DenseEigen eigen = denseEigen(size.asDiagonal() * corner * size.asDiagonal());
    more_ = (eigen.values.array() > 0.0).count() - stiff - relations;
}

Eigen::MatrixXd BorderedSolve::operator()(const Eigen::MatrixXd& right) const
{
    Eigen::MatrixXd answer = solve_(right);
    if (!apart_ || apart_->empty()) return answer;
    answer -= answers_ * corner_.solve(columns_.transpose() * answer);
    return answer;
}

} // namespace undisona
