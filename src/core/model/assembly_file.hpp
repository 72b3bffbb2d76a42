#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"

#include <memory>
#include <string>
#include <vector>

namespace undisona {

/// A model that others take as a sub-assembly.
struct AssemblyFile {
    Model model;       ///< of its live model what it says of shape, material, joints, supports, masses and sizes
    Findings findings; ///< why it cannot be read
};

/// Whether such a sentence places the model of another file.
bool placesAssembly(const Sentence&);

/// The file as it stands now, kept until it changes.
std::shared_ptr<const AssemblyFile> assemblyFile(const std::string& path);

/// Files of sub-assemblies and of those that they take in turn, each once.
std::vector<std::string> assemblyFilesOf(const Model&);

} // namespace undisona
