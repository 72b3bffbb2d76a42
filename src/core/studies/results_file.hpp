#pragma once
#include "core/base/file_writer.hpp"
#include "core/studies/modes.hpp"

namespace undisona {

// A results file keeps what runs have found, so that it is shown again without solving, and read by other programs:
// HDF5 1.10, laid out as docs/file-formats.md says. Each run stands under the lastingKey of its model, and is read by
// itself.

/// What a results file says of a run of its before that is read.
struct RunInFile {
    std::uint64_t key = 0;
    std::string name;    ///< of the take
    std::string found;   ///< when, UTC: "2031-05-04T13:20:11Z"
    std::string program; ///< and by which
    std::int64_t modes = 0, nodes = 0;
    double lowest = 0.0, highest = 0.0; ///< Hz; 0 without modes
};

/// Everything that is kept in it, by name; nothing of the shapes is read.
Result<std::vector<RunInFile>> runsIn(const std::string& path);

/// What it keeps of this model; nothing where it keeps none of it. Findings where it cannot be read.
Result<std::optional<ModesAnswer>> keptModes(const std::string& path, const Model&);

/// A run to be kept.
struct RunToKeep {
    std::string name;
    const Model* model = nullptr;
    std::shared_ptr<const Solution> solution; ///< null: as the file before has it, if it does
};

/// Writes them to a file, whole or not at all; those without a solution are taken over from what lies there. The file
/// before stays where a finding says why not.
std::optional<Finding> keepResults(const std::string& path, const std::vector<RunToKeep>&, const Progress&,
                                   const WriteRules& = {});

/// "mast.results.h5" beside "mast.undisona.json".
std::string resultsBeside(const std::string& modelPath);

} // namespace undisona
