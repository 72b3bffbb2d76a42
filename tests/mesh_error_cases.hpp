#pragma once
#include "tests/said_model.hpp"

namespace undisona {

/// A model whose mesh error is known from a run in much smaller elements.
struct MeshErrorCase {
    std::string name;
    SaidModel (*said)(const Words& size); ///< {} for the sizes that are proposed
    double finer;                         ///< by how much smaller the elements of the known answer are
    int rate;                             ///< of the error by their size, so that what is left of it there can be told
    bool slow = false;
};
const std::vector<MeshErrorCase>& meshErrorCases();
inline std::ostream& operator<<(std::ostream& out, const MeshErrorCase& one)
{
    return out << one.name;
}

/// What is estimated beside what is true.
struct MeshErrorReport {
    struct One {
        double hertz, truth, estimate, either;
        /// Half to twice the true one, or the true one within what it may be off either way.
        bool isGood() const;
        double share() const; ///< of the true one that the estimate reaches at most
    };
    std::vector<One> modes; ///< without rigid ones and those that have no estimate
    std::size_t pieces = 0;
    long untold = 0; ///< modes without an estimate

    double good() const; ///< share of the modes
    double least() const;
};
MeshErrorReport reportOf(const MeshErrorCase&);

} // namespace undisona
