#include "core/modal/recovered_strains.hpp"

#include <algorithm>
#include <map>

namespace undisona {

namespace {
constexpr double leastShare = 0.02; // of a term that the others do not make up: with less it is left out

std::size_t termCount(int order, bool flat)
{
    if (flat) return order == 1 ? 3 : 6;
    return order == 1 ? 4 : order == 2 ? 10 : 17;
}
} // namespace

RecoveredStrains::Terms RecoveredStrains::allTermsOf(const Patch& patch, const Eigen::Vector3d& place)
{
    const Eigen::Vector3d p = patch.toOwn * (place - patch.centre);
    const double x = p.x(), y = p.y(), z = p.z();
    Terms terms(static_cast<Eigen::Index>(termCount(patch.order, patch.flat)));
    if (patch.flat) {
        terms.head<3>() << 1.0, x, y;
        if (patch.order > 1) terms.tail<3>() << x * x, x * y, y * y;
        return terms;
    }
    terms.head<4>() << 1.0, x, y, z;
    if (patch.order > 1) terms.segment<6>(4) << x * x, y * y, z * z, x * y, y * z, z * x;
    if (patch.order > 2)
        terms.segment<7>(10) << x * y * z, x * x * y, x * x * z, y * y * x, y * y * z, z * z * x, z * z * y;
    return terms;
}

const std::vector<Eigen::Vector3d>& RecoveredStrains::placesOf(const Patch& patch, int piece) const
{
    const auto& own = pieces_[static_cast<std::size_t>(piece)];
    return patch.more ? own.morePlaces : own.places;
}

RecoveredStrains::RecoveredStrains(std::vector<StrainSamples> pieces, Workers& workers)
    : pieces_(std::move(pieces)), wantsMore_(pieces_.size(), 0)
{
    std::map<std::pair<int, int>, int> patchAt; // by region and node
    for (std::size_t piece = 0; piece < pieces_.size(); ++piece) {
        patchOfCorner_.emplace_back();
        for (const int node : pieces_[piece].corners) {
            const auto [at, isNew] = patchAt.emplace(std::pair(pieces_[piece].region, node), int(around_.size()));
            if (isNew) around_.emplace_back();
            around_[static_cast<std::size_t>(at->second)].push_back(static_cast<int>(piece));
            patchOfCorner_.back().push_back(at->second);
        }
    }
    patches_.resize(around_.size());
    workers.forEach(patches_.size(), [&](std::size_t patch) { prepare(patch); });
    for (const Patch& patch : patches_)
        if (patch.more)
            for (const int piece : patch.pieces)
                wantsMore_[static_cast<std::size_t>(piece)] = 1;
}

/// Takes pieces from further around until the polynomial is known.
void RecoveredStrains::prepare(std::size_t index)
{
    Patch& patch = patches_[index];
    patch.pieces = around_[index];
    patch.order = 0;
    for (const int piece : patch.pieces)
        patch.order = std::max(patch.order, pieces_[static_cast<std::size_t>(piece)].order);
    patch.flat = !pieces_[static_cast<std::size_t>(patch.pieces[0])].normal.isZero();
    patch.more = false;
    for (int ring = 0; ring < 3; ++ring) {
        if (ring > 0) {
            std::vector<int> wider;
            for (const int piece : patch.pieces)
                for (const int corner : patchOfCorner_[static_cast<std::size_t>(piece)])
                    wider.insert(wider.end(), around_[static_cast<std::size_t>(corner)].begin(),
                                 around_[static_cast<std::size_t>(corner)].end());
            std::sort(wider.begin(), wider.end());
            wider.erase(std::unique(wider.begin(), wider.end()), wider.end());
            if (wider.size() == patch.pieces.size()) break;
            patch.pieces = std::move(wider);
        }
        if (solvable(patch)) return;
    }
    if (pieces_[static_cast<std::size_t>(patch.pieces[0])].morePlaces.empty()) return;
    patch.more = true;
    solvable(patch);
}

/// The patch's coordinates and the inverse of its terms; whether each of them is known.
bool RecoveredStrains::solvable(Patch& patch) const
{
    std::size_t count = 0;
    Eigen::Vector3d normal = Eigen::Vector3d::Zero();
    patch.centre.setZero();
    for (const int piece : patch.pieces) {
        normal += pieces_[static_cast<std::size_t>(piece)].normal;
        for (const auto& place : placesOf(patch, piece)) {
            patch.centre += place;
            ++count;
        }
    }
    patch.centre /= double(count);
    Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
    for (const int piece : patch.pieces)
        for (const auto& place : placesOf(patch, piece))
            spread += (place - patch.centre) * (place - patch.centre).transpose() / double(count);
    if (patch.flat) { // the normal last
        const Eigen::Vector3d n = normal.normalized();
        const Eigen::Matrix3d across = Eigen::Matrix3d::Identity() - n * n.transpose();
        spread = Eigen::Matrix3d(across * spread * across);
    }
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
    const double widest = std::sqrt(std::max(axes.eigenvalues()[2], 1e-300));
    for (int axis = 0; axis < 3; ++axis) // from the widest on
        patch.toOwn.row(axis) = axes.eigenvectors().col(2 - axis).transpose() /
                                std::max(std::sqrt(std::max(axes.eigenvalues()[2 - axis], 0.0)), 1e-3 * widest);
    const auto all = Eigen::Index(termCount(patch.order, patch.flat));
    Eigen::MatrixXd rows(Eigen::Index(count), all);
    Eigen::Index row = 0;
    for (const int piece : patch.pieces)
        for (const auto& place : placesOf(patch, piece))
            rows.row(row++) = allTermsOf(patch, place).transpose();
    // From the lowest on, those that are no sum of others: two levels through a thickness tell no square from 1.
    patch.terms.clear();
    Eigen::MatrixXd apart(rows.rows(), 0);
    for (Eigen::Index term = 0; term < all && 1.3 * double(patch.terms.size()) < double(count); ++term) {
        Eigen::VectorXd own = rows.col(term);
        for (int twice = 0; twice < 2; ++twice)
            own -= apart * (apart.transpose() * own);
        if (own.norm() < leastShare * rows.col(term).norm()) continue;
        apart.conservativeResize(Eigen::NoChange, apart.cols() + 1);
        apart.rightCols<1>() = own.normalized();
        patch.terms.push_back(int(term));
    }
    const Eigen::MatrixXd known = rows(Eigen::all, patch.terms);
    patch.inverse =
        Eigen::MatrixXd(known.transpose() * known).ldlt().solve(Eigen::MatrixXd::Identity(known.cols(), known.cols()));
    const Eigen::Index dimension = patch.flat ? 2 : 3;
    return Eigen::Index(patch.terms.size()) > dimension && patch.terms[std::size_t(dimension)] == dimension &&
           double(count) > 1.3 * double(all);
}

void RecoveredStrains::fit(const std::vector<Values>& values, Workers& workers)
{
    workers.forEach(patches_.size(), [&](std::size_t index) {
        Patch& patch = patches_[index];
        Eigen::Index columns = 0, rows = 0;
        const auto valuesOf = [&](int piece) -> const Eigen::MatrixXd& {
            const auto& own = values[static_cast<std::size_t>(piece)];
            return patch.more ? own.more : own.at;
        };
        for (const int piece : patch.pieces) {
            rows += valuesOf(piece).rows();
            columns = valuesOf(piece).cols();
        }
        Eigen::MatrixXd terms(patch.inverse.rows(), rows), all(rows, columns);
        Eigen::Index row = 0;
        for (const int piece : patch.pieces) {
            const auto& own = valuesOf(piece);
            all.middleRows(row, own.rows()) = own;
            for (const auto& place : placesOf(patch, piece))
                terms.col(row++) = termsOf(patch, place);
        }
        patch.factors.noalias() = (patch.inverse * terms) * all;
    });
}

Eigen::MatrixXd RecoveredStrains::at(std::size_t piece, const std::vector<Eigen::Vector3d>& places,
                                     const Eigen::MatrixXd& parts) const
{
    Eigen::MatrixXd sum;
    const auto& corners = patchOfCorner_[piece];
    for (std::size_t corner = 0; corner < corners.size(); ++corner) {
        const Patch& patch = patches_[static_cast<std::size_t>(corners[corner])];
        Eigen::MatrixXd terms(Eigen::Index(places.size()), patch.inverse.rows());
        for (std::size_t at = 0; at < places.size(); ++at)
            terms.row(Eigen::Index(at)) =
                parts(Eigen::Index(at), Eigen::Index(corner)) * termsOf(patch, places[at]).transpose();
        if (corner == 0)
            sum.noalias() = terms * patch.factors;
        else
            sum.noalias() += terms * patch.factors;
    }
    return sum;
}

Eigen::RowVectorXd RecoveredStrains::atCorner(std::size_t piece, std::size_t corner, const Eigen::Vector3d& place) const
{
    const Patch& patch = patches_[static_cast<std::size_t>(patchOfCorner_[piece][corner])];
    return termsOf(patch, place).transpose() * patch.factors;
}

std::array<Eigen::MatrixXd, 3> RecoveredStrains::slopesAt(std::size_t piece, const Eigen::MatrixXd& parts,
                                                          Eigen::Index columns) const
{
    std::array<Eigen::MatrixXd, 3> sums;
    const auto& corners = patchOfCorner_[piece];
    for (std::size_t corner = 0; corner < corners.size(); ++corner) {
        const Patch& patch = patches_[static_cast<std::size_t>(corners[corner])];
        for (std::size_t axis = 0; axis < 3; ++axis) {
            Eigen::RowVectorXd slope = Eigen::RowVectorXd::Zero(columns);
            for (std::size_t term = 1; term < patch.terms.size(); ++term) // x, y and z are the terms after 1
                slope += patch.toOwn(patch.terms[term] - 1, Eigen::Index(axis)) *
                         patch.factors.row(Eigen::Index(term)).head(columns);
            if (corner == 0)
                sums[axis] = parts.col(0) * slope;
            else
                sums[axis].noalias() += parts.col(Eigen::Index(corner)) * slope;
        }
    }
    return sums;
}

} // namespace undisona
