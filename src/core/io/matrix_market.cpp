#include "core/base/number_text.hpp"
#include "core/io/export.hpp"

namespace undisona {

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
