#include "core/modal/part_shape.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// A place on the sheet in coordinates of its form, and what it moves across the sheet.
struct Across {
    double first, second, motion;
};

std::string counted(long number, const char* one, const char* many)
{
    return fmt::format("{} {}", number, number == 1 ? one : many);
}

/// Changes of sign along a row of values; those below a fifteenth of the largest are taken for zero.
long signChanges(const std::vector<double>& values)
{
    double most = 0.0;
    for (const double value : values)
        most = std::max(most, std::abs(value));
    long changes = 0;
    double last = 0.0;
    for (const double value : values) {
        if (std::abs(value) < most / 15.0) continue;
        if (last * value < 0.0) ++changes;
        last = value;
    }
    return changes;
}

/// Empty cells take the mean of those beside them.
void fillEmpty(Eigen::MatrixXd& grid, Eigen::MatrixXd known)
{
    for (Eigen::Index round = 0; round < grid.rows() && known.minCoeff() <= 0.0; ++round) {
        const Eigen::MatrixXd before = grid, told = known;
        for (Eigen::Index i = 0; i < grid.rows(); ++i)
            for (Eigen::Index j = 0; j < grid.cols(); ++j) {
                if (told(i, j) > 0.0) continue;
                double sum = 0.0, count = 0.0;
                for (const auto& [di, dj] : {std::pair(-1, 0), {1, 0}, {0, -1}, {0, 1}}) {
                    const Eigen::Index a = i + di, b = j + dj;
                    if (a < 0 || b < 0 || a >= grid.rows() || b >= grid.cols() || told(a, b) <= 0.0) continue;
                    sum += before(a, b);
                    count += 1.0;
                }
                if (count == 0.0) continue;
                grid(i, j) = sum / count;
                known(i, j) = 1.0;
            }
    }
}

/// Means of the motion in cells of a grid over both coordinates.
Eigen::MatrixXd onGrid(const std::vector<Across>& places, std::array<double, 2> low, std::array<double, 2> high,
                       int size)
{
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(size, size), count = sum;
    for (const auto& [first, second, motion] : places) {
        const auto cell = [&](double value, std::size_t axis) {
            return std::clamp(static_cast<int>((value - low[axis]) / std::max(high[axis] - low[axis], 1e-300) * size),
                              0, size - 1);
        };
        sum(cell(first, 0), cell(second, 1)) += motion;
        count(cell(first, 0), cell(second, 1)) += 1.0;
    }
    for (Eigen::Index i = 0; i < size; ++i)
        for (Eigen::Index j = 0; j < size; ++j)
            if (count(i, j) > 0.0) sum(i, j) /= count(i, j);
    fillEmpty(sum, count);
    return sum;
}

/// Columns that span the same, ordered by how often they wave, so that a mixture of two shapes of one frequency comes
/// apart into them: the eigenvectors of their second differences.
Eigen::MatrixXd byWaves(const Eigen::MatrixXd& columns)
{
    const Eigen::Index n = columns.rows();
    const Eigen::MatrixXd bends =
        columns.topRows(n - 2) - 2.0 * columns.middleRows(1, n - 2) + columns.bottomRows(n - 2);
    const Eigen::MatrixXd gram = bends.transpose() * bends;
    return columns * Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(gram).eigenvectors();
}

/// A product of one shape along each side, positive at their ends, by how often each changes its sign; with the sign it
/// has in the motion and its share of that.
struct Product {
    std::array<long, 2> changes;
    bool negative;
    double share;
};

/// The products that a motion over a rectangle is made of, the largest first: one, or the two or three of a mode whose
/// frequency several shapes share.
std::vector<Product> productsOf(const Eigen::MatrixXd& grid)
{
    constexpr double alike = 0.4; // of the largest singular value
    const Eigen::JacobiSVD<Eigen::MatrixXd> parts(grid, Eigen::ComputeThinU | Eigen::ComputeThinV);
    const auto& values = parts.singularValues();
    Eigen::Index count = 1;
    while (count < std::min<Eigen::Index>(3, values.size()) && values[count] > alike * values[0])
        ++count;
    Eigen::MatrixXd along = byWaves(parts.matrixU().leftCols(count)), wide = byWaves(parts.matrixV().leftCols(count));
    for (auto* columns : {&along, &wide})
        for (Eigen::Index at = 0; at < count; ++at)
            if ((*columns)(columns->rows() - 1, at) < 0.0) columns->col(at) *= -1.0;
    const Eigen::MatrixXd factors = along.transpose() * grid * wide;
    std::vector<Product> products;
    const auto changes = [](const Eigen::VectorXd& column) {
        return signChanges({column.data(), column.data() + column.size()});
    };
    for (Eigen::Index i = 0; i < count; ++i)
        for (Eigen::Index j = 0; j < count; ++j)
            products.push_back({{changes(along.col(i)), changes(wide.col(j))},
                                factors(i, j) < 0.0,
                                factors(i, j) * factors(i, j) / grid.squaredNorm()});
    std::sort(products.begin(), products.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    while (products.size() > 1 && products.back().share < 0.2)
        products.pop_back();
    return products;
}

/// Which number of waves round takes most of the motion, and how its amplitude runs along the second coordinate.
struct Round {
    long waves = 0;
    std::vector<double> along;
    double share = 0.0;
};
Round wavesRound(const std::vector<Across>& places, double low, double high, int rows)
{
    // No more than the nodes can tell apart: on twenty-six of them two waves and twenty-four are the same.
    std::set<long> turns;
    for (const auto& place : places)
        turns.insert(std::lround(1e4 * place.first));
    const long most = std::min(24L, (static_cast<long>(turns.size()) - 1) / 2);
    Round best;
    double whole = 0.0;
    for (const auto& place : places)
        whole += place.motion * place.motion;
    for (long n = 0; n <= most; ++n) {
        // The phase is that of the strongest row; the amplitudes of the others are taken in it.
        std::vector<Eigen::Vector2d> sums(static_cast<std::size_t>(rows), Eigen::Vector2d::Zero());
        std::vector<double> counts(static_cast<std::size_t>(rows), 0.0);
        for (const auto& [turn, along, motion] : places) {
            const auto row = static_cast<std::size_t>(
                std::clamp((along - low) / std::max(high - low, 1e-300) * rows, 0.0, rows - 1.0));
            sums[row] += motion * Eigen::Vector2d(std::cos(double(n) * turn), std::sin(double(n) * turn));
            counts[row] += 1.0;
        }
        double share = 0.0, strongest = 0.0;
        Eigen::Vector2d phase = Eigen::Vector2d::UnitX();
        for (std::size_t row = 0; row < sums.size(); ++row) {
            if (counts[row] == 0.0) continue;
            const Eigen::Vector2d amplitude = sums[row] * (n == 0 ? 1.0 : 2.0) / counts[row];
            share += counts[row] * amplitude.squaredNorm() * (n == 0 ? 1.0 : 0.5);
            if (amplitude.norm() > strongest) {
                strongest = amplitude.norm();
                phase = amplitude.normalized();
            }
        }
        if (share <= 1.02 * best.share) continue;
        best = {n, {}, share};
        for (std::size_t row = 0; row < sums.size(); ++row)
            if (counts[row] > 0.0) best.along.push_back(sums[row].dot(phase) / counts[row]);
    }
    if (whole > 0.0) best.share /= whole;
    return best;
}

/// Whether a rectangle's motion dies away towards each of its sides.
bool restsAllRound(const std::vector<Across>& places, const std::array<double, 2>& low,
                   const std::array<double, 2>& high)
{
    double most = 0.0, atSides = 0.0;
    for (const auto& place : places) {
        const double motion = std::abs(place.motion);
        most = std::max(most, motion);
        for (std::size_t axis = 0; axis < 2; ++axis) {
            const double own = axis == 0 ? place.first : place.second, slack = 1e-6 * (high[axis] - low[axis]);
            if (own < low[axis] + slack || own > high[axis] - slack) atSides = std::max(atSides, motion);
        }
    }
    return atSides < 0.02 * most;
}

/// Half-waves where all sides rest; nodal lines, and what they mean, where some move: across the longer side first.
std::string plateName(std::vector<Product> products, bool rests, double length, double width)
{
    constexpr double asLong = 1.01;
    const bool wider = width > asLong * length, square = !wider && length < asLong * width;
    if (wider && !rests)
        for (auto& product : products)
            std::swap(product.changes[0], product.changes[1]);
    // Of two shapes that are each other turned by a right angle the sum and the difference are two modes.
    const bool turned = products.size() == 2 && products[0].changes[0] == products[1].changes[1] &&
                        products[0].changes[1] == products[1].changes[0];
    if (turned && products[0].changes < products[1].changes) std::swap(products[0], products[1]);
    const char* between = !turned ? " and " : products[0].negative == products[1].negative ? " plus " : " less ";
    std::string all;
    for (const auto& product : products)
        all += (all.empty() ? "" : between) +
               (rests ? fmt::format("{} by {}", product.changes[0] + 1, product.changes[1] + 1)
                      : fmt::format("{} by {}", product.changes[0], product.changes[1]));
    if (rests) return all + " half-waves";
    if (products.size() > 1) return all + " nodal lines";
    const auto [along, wide] = products[0].changes;
    if (wide == 1 && (along == 1 || !square))
        return "twisting, " + all + " nodal lines"; // each strip across turns one way
    if (wide == 0 || along == 0) {
        const long lines = along + wide;
        return fmt::format("bending {}{}", wide == 0 ? "lengthwise" : "crosswise",
                           lines == 0 ? "" : ", " + counted(lines, "nodal line", "nodal lines"));
    }
    return all + " nodal lines";
}

/// The motion of nodes across the form, in its coordinates.
struct Moved {
    std::vector<Across> places;
    std::array<double, 2> low{1e300, 1e300}, high{-1e300, -1e300};
    double across = 0.0, all = 0.0; ///< sums of squares
};

Moved movedAcross(const PartForm& form, const FrameMesh& mesh, const std::set<int>& nodes,
                  const std::vector<Eigen::Vector3d>& motion)
{
    Moved moved;
    for (const int node : nodes) {
        const Eigen::Vector3d own =
            form.axes.transpose() * (mesh.nodes[static_cast<std::size_t>(node)].place - form.origin);
        const Eigen::Vector3d moves = form.axes.transpose() * motion[static_cast<std::size_t>(node)];
        const double reach = own.head<2>().norm(), turn = std::atan2(own.y(), own.x());
        if (form.kind != PartForm::Kind::rectangle && reach < 1e-9) continue;
        Across place{own.x(), own.y(), moves.z()};
        if (form.kind == PartForm::Kind::disc) place = {turn, reach, moves.z()};
        if (form.kind == PartForm::Kind::turned) place = {turn, own.z(), moves.head<2>().dot(own.head<2>()) / reach};
        moved.low = {std::min(moved.low[0], place.first), std::min(moved.low[1], place.second)};
        moved.high = {std::max(moved.high[0], place.first), std::max(moved.high[1], place.second)};
        moved.across += place.motion * place.motion;
        moved.all += moves.squaredNorm();
        moved.places.push_back(place);
    }
    return moved;
}

std::string rectangleName(const Moved& moved)
{
    const auto& [places, low, high, across, all] = moved;
    if (places.size() < 9 || across < 0.6 * all) return {};
    const int size = std::clamp(static_cast<int>(std::sqrt(double(places.size())) * 0.8), 4, 48);
    return plateName(productsOf(onGrid(places, low, high, size)), restsAllRound(places, low, high), high[0] - low[0],
                     high[1] - low[1]);
}

std::string discName(const Moved& moved)
{
    if (moved.places.size() < 9 || moved.across < 0.6 * moved.all) return {};
    const Round round = wavesRound(moved.places, moved.low[1], moved.high[1], 14);
    if (round.share < 0.5) return {};
    const long changes = signChanges(round.along);
    if (round.waves == 0 && changes == 0) return "dishing";
    return counted(round.waves, "nodal diameter", "nodal diameters") +
           (changes > 0 ? ", " + counted(changes, "circle", "circles") : "");
}

std::string turnedName(const Moved& moved, bool slender)
{
    // A shell of many waves round moves along itself as well, by about 1/n of what it moves across.
    if (moved.places.size() < 9 || moved.across < 0.35 * moved.all) return {};
    const Round round = wavesRound(moved.places, moved.low[1], moved.high[1], 14);
    if (round.share < 0.5 || (round.waves == 1 && slender)) return {}; // that is its bending
    const long changes = signChanges(round.along);
    if (round.waves == 0) return changes == 0 ? "breathing" : fmt::format("breathing in {} half-waves", changes + 1);
    return counted(round.waves, "wave", "waves") + " round, " + counted(changes + 1, "half-wave", "half-waves") +
           " along";
}

} // namespace

std::string partShape(const FormedPart& part, const FrameMesh& mesh, const std::vector<Eigen::Vector3d>& motion)
{
    PartForm form = part.form;
    const Moved moved = movedAcross(form, mesh, part.nodes, motion);
    if (form.kind == PartForm::Kind::rectangle) return rectangleName(moved);
    if (form.kind == PartForm::Kind::disc) return discName(moved);
    double reach = 0.0;
    for (const int node : part.nodes) {
        const Eigen::Vector3d arm = mesh.nodes[static_cast<std::size_t>(node)].place - form.origin;
        reach = std::max(reach, arm.cross(form.axes.col(2)).norm());
    }
    const double length = moved.high[1] - moved.low[1];
    const std::string name = turnedName(moved, length > 6.0 * reach);
    if (!name.empty() || length > 0.6 * reach) return name;
    form.kind = PartForm::Kind::disc; // a wheel, a flange
    return discName(movedAcross(form, mesh, part.nodes, motion));
}

} // namespace undisona
