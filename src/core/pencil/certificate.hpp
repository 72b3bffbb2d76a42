#pragma once
#include "core/pencil/count_check.hpp"

#include <cstdint>
#include <map>
#include <string>
#include <vector>

namespace undisona {

/// How a run found its modes: the figures behind its proof.
struct RunRecord {
    std::vector<double> shifts; ///< sigma of each factorisation that was solved with, (rad/s)2
    long held = 0;              ///< unknowns at which free parts were held in place
    long factorisations = 0;    ///< numeric ones, counts included
    long blockSolves = 0;       ///< blocks of right-hand sides sent through a factor by the iteration
    long restarts = 0;
    long block = 0;             ///< right-hand sides in one block
    long lookedAgain = 0;       ///< times the count found modes missing and they were looked for
    double factorEntries = 0.0; ///< stored numbers of the largest factor
    double orthogonality = 0.0; ///< largest | phi_i' M phi_j |, i other than j, and | phi_i' M phi_i - 1 |
    double countGrowth = 0.0;   ///< of the factor that counted; see signed_factor.hpp
    bool keptFactor = false;    ///< the factor of K was taken over from an earlier run
    long keptModes = 0;         ///< modes of an earlier run that the iteration began with
    bool countByUpdate = false; ///< the count was carried over from an earlier factor (Haynsworth 1968)
};

/// What a certificate is written from.
struct CertificateFigures {
    const CountCheck& check;
    const RunRecord& record;
    std::int64_t modes = 0, unknowns = 0;
    bool all = false;                           ///< every mode there is
    bool ritz = false;                          ///< Ritz vectors, which are not counted
    double acceptedError = 0.0, residual = 0.0; ///< the largest
    std::map<std::string, double> seconds;      ///< by stage; may be empty
    double peakMegabytes = 0.0;                 ///< 0: not known
    long residualVectors = 0, residualLoads = 0;
    double staticError = 0.0; ///< with them
};

/// A proof in plain words with the figures behind it.
struct Certificate {
    struct Line {
        std::string what, figures;
    };
    std::string words; ///< "All 34 modes below 62.1 Hz were found: 34 counted, 34 computed."
    std::vector<Line> lines;
};

Certificate certificateOf(const CertificateFigures&);

} // namespace undisona
