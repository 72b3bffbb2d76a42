#pragma once
#include <nlohmann/json.hpp>

#include <string>
#include <vector>

/// What the command line wrote for one model, read back with no code of the program's own.
struct WrittenSystem {
    int size = 0;
    std::vector<double> k, m; ///< dense, by columns
    struct Unknown {
        bool rotation;
        double direction[3], place[3];
        double base[6]; ///< its value in unit motions of the base about the origin
    };
    std::vector<Unknown> unknowns, held;
    std::vector<double> toHeld; ///< mass between them, unknowns x held, by columns
    nlohmann::json modes; ///< the JSON of "modes"
    std::string errors;   ///< of standard error
};

/// Runs the command line on a model file; throws std::runtime_error with its words when it fails.
WrittenSystem runCommandLine(const std::string& modelPath, const std::string& options = "");

/// Everything that is wrong with the modes, computed again with dense LAPACK: errors, orthogonality, inertia,
/// participation, sums, clashes. Empty if nothing is.
std::vector<std::string> faultsOf(const WrittenSystem&);

/// Writes 50 different models of members into a folder; returns their paths.
std::vector<std::string> generateModels(const std::string& folder);
