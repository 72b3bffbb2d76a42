#include "core/base/memory.hpp"
#include "core/base/number_text.hpp"
#include "core/io/export.hpp"
#include "core/system/base_motion.hpp"

#include <charconv>
#include <fstream>
#include <sstream>

namespace undisona {

namespace {

Finding problemAt(const std::string& path, std::int64_t line, std::string what, std::string remedy = {})
{
    return Finding{Severity::error,
                   std::move(what),
                   std::move(remedy),
                   {},
                   line > 0 ? fmt::format("{}, line {}", path, line) : path};
}

/// The next line of a file; of one that is longer than any of numbers only its beginning, and `tooLong`.
struct Lines {
    std::ifstream stream;
    std::vector<char> room = std::vector<char>(1 << 12);
    bool tooLong = false;

    bool next(std::string& line)
    {
        stream.getline(room.data(), static_cast<std::streamsize>(room.size()));
        tooLong = stream.fail() && stream.gcount() + 1 == static_cast<std::streamsize>(room.size());
        line.assign(room.data());
        return !stream.fail();
    }
};

/// What an entry takes while a matrix is put together, and a row, bytes.
constexpr double entryBytes = 90.0, rowBytes = 40.0;

} // namespace

Result<SparseSymmetric> readMatrixMarket(const std::string& path)
{
    Lines lines{std::ifstream(path)};
    if (!lines.stream)
        return problemAt(path, 0, "this file cannot be opened", "Check its name and that it may be read.");
    std::string line, banner, object, format, field, symmetry;
    std::int64_t at = 1;
    lines.next(line);
    std::istringstream(lowered(line)) >> banner >> object >> format >> field >> symmetry;
    if (banner != "%%matrixmarket" || object != "matrix" || format != "coordinate" ||
        (field != "real" && field != "integer") || (symmetry != "symmetric" && symmetry != "general"))
        return problemAt(path, 1, "this is not a Matrix Market file of real coordinates",
                         "It begins with \"%%MatrixMarket matrix coordinate real symmetric\".");
    do
        ++at;
    while (lines.next(line) && (line.empty() || line[0] == '%'));
    std::int64_t rows = -1, columns = -1, entries = -1;
    std::istringstream(line) >> rows >> columns >> entries;
    if (rows < 1 || columns < 1 || entries < 0)
        return problemAt(path, at, "the sizes are missing", "Write rows, columns and entries, as in \"12 12 40\".");
    if (rows != columns) return problemAt(path, at, fmt::format("the matrix is {} by {}, not square", rows, columns));
    if (rows > 100'000'000) return problemAt(path, at, fmt::format("{} rows are more than can be solved here", rows));
    if (const double needs = 1e-6 * (entryBytes * double(entries) + rowBytes * double(rows)),
        free = availableMegabytes();
        needs > free)
        return problemAt(path, at,
                         fmt::format("{} entries in {} rows need about {:.0f} MB, and {:.0f} MB are free", entries,
                                     rows, needs, free),
                         "Read it on a machine with more memory, or condense it to fewer unknowns where it was made.");
    SparseAssembler assembler(rows);
    std::vector<std::array<double, 3>> upper; // of a general matrix, to be compared
    double largest = 0.0;
    bool below = false, above = false; // the diagonal
    constexpr double most = 1e60;      // of anything that is built, in any unit; its square still is a number
    for (std::int64_t count = 0; count < entries;) {
        if (!lines.next(line) && !lines.tooLong)
            return problemAt(path, at, fmt::format("the file ends after {} of {} entries", count, entries),
                             "It was cut short, or the number of entries is wrong.");
        ++at;
        if (lines.tooLong)
            return problemAt(path, at, "this line is longer than a row, a column and a number",
                             "Write each entry on a line of its own.");
        if (line.empty() || line[0] == '%') continue;
        std::int64_t i = 0, j = 0;
        std::string text;
        std::istringstream(line) >> i >> j >> text;
        double value = 0.0;
        const auto read = std::from_chars(text.data(), text.data() + text.size(), value);
        if (text.empty() || read.ec != std::errc() || read.ptr != text.data() + text.size() || !std::isfinite(value))
            return problemAt(path, at, fmt::format("\"{}\" is not a row, a column and a finite number", line));
        if (i < 1 || j < 1 || i > rows || j > rows)
            return problemAt(path, at, fmt::format("row {}, column {} lies outside of {} by {}", i, j, rows, rows));
        if (std::abs(value) > most)
            return problemAt(path, at, fmt::format("{} is more than any structure has", text), "Check the exponent.");
        largest = std::max(largest, std::abs(value));
        ++count;
        below = below || i > j;
        above = above || i < j;
        if (symmetry == "symmetric" && below && above)
            return problemAt(path, at, "a symmetric file gives one side of the diagonal alone, and this one gives both",
                             "Leave one side out, or write \"general\" in its first line.");
        if (symmetry == "general" && i < j) {
            upper.push_back({double(j), double(i), value});
            continue;
        }
        assembler.add({static_cast<int>(std::max(i, j) - 1), static_cast<int>(std::min(i, j) - 1)},
                      i == j ? Eigen::MatrixXd(Eigen::Matrix2d{{value, 0.0}, {0.0, 0.0}})
                             : Eigen::MatrixXd(Eigen::Matrix2d{{0.0, value}, {value, 0.0}}));
    }
    while (lines.next(line) || lines.tooLong) {
        ++at;
        if (!trimmed(line).empty() && line[0] != '%')
            return problemAt(path, at, fmt::format("the file goes on after its {} entries", entries),
                             "The number of entries in its head is wrong.");
        if (lines.tooLong) break;
    }
    SparseSymmetric matrix = assembler.finish();
    if (symmetry == "symmetric") return matrix;
    SparseAssembler mirrored(rows); // what stands above the diagonal, laid below it
    for (const auto& [i, j, value] : upper)
        mirrored.add({static_cast<int>(i) - 1, static_cast<int>(j) - 1},
                     Eigen::MatrixXd(Eigen::Matrix2d{{0.0, value}, {value, 0.0}}));
    const SparseSymmetric difference = sum(matrix, -1.0, mirrored.finish());
    for (std::int64_t column = 0; column < rows; ++column)
        for (auto entry = difference.columnStart[static_cast<std::size_t>(column)];
             entry < difference.columnStart[static_cast<std::size_t>(column) + 1]; ++entry)
            if (const auto row = difference.row[static_cast<std::size_t>(entry)];
                row != column && std::abs(difference.value[static_cast<std::size_t>(entry)]) > 1e-12 * largest)
                return problemAt(
                    path, 0,
                    fmt::format("the matrix is not symmetric: entries {0}, {1} and {1}, {0} differ by {2:.3g}", row + 1,
                                column + 1, difference.value[static_cast<std::size_t>(entry)]),
                    "Stiffness and mass of a structure are symmetric.");
    return matrix;
}

SparseSymmetric exportedStiffness(const System& system)
{
    SparseSymmetric own = system.stiffness;
    for (const auto& column : system.apart.columns)
        if (column.compliance < 0.0)
            own.value[static_cast<std::size_t>(own.columnStart[static_cast<std::size_t>(column.row.front())])] +=
                1.0 / column.compliance;
    return own;
}

std::string relationsMarket(const System& system)
{
    const auto& relations = system.motions.apart;
    std::size_t entries = 0;
    for (const auto& relation : relations)
        entries += relation.weights.size();
    std::string out =
        fmt::format("%%MatrixMarket matrix coordinate real general\n% relations: motions q have U' q = 0\n"
                    "{} {} {}\n",
                    system.size(), relations.size(), entries);
    for (std::size_t at = 0; at < relations.size(); ++at)
        for (const auto& [unknown, weight] : relations[at].weights)
            out += fmt::format("{} {} {}\n", unknown + 1, at + 1, shortest(weight));
    return out;
}

std::string heldMassMarket(const System& system)
{
    const auto entries = heldMassOf(system);
    std::string out = "%%MatrixMarket matrix coordinate real general\n% mass between the free unknowns (rows in "
                      "unknowns.csv) and the held ones (columns, rows in held.csv); kg, kg m, kg m2\n";
    out += fmt::format("{} {} {}\n", system.size(), system.motions.held.size(), entries.size());
    for (const auto& [row, column, value] : entries)
        out += fmt::format("{} {} {}\n", row + 1, column + 1, shortest(value));
    return out;
}

std::string matrixMarket(const SparseSymmetric& matrix, const std::string& comment)
{
    std::string out = "%%MatrixMarket matrix coordinate real symmetric\n% " + comment + "\n";
    out += fmt::format("{} {} {}\n", matrix.size, matrix.size, matrix.value.size());
    for (std::int64_t column = 0; column < matrix.size; ++column)
        for (auto at = matrix.columnStart[static_cast<std::size_t>(column)];
             at < matrix.columnStart[static_cast<std::size_t>(column) + 1]; ++at)
            out += fmt::format("{} {} {}\n", matrix.row[static_cast<std::size_t>(at)] + 1, column + 1,
                               shortest(matrix.value[static_cast<std::size_t>(at)]));
    return out;
}

} // namespace undisona
