#pragma once
#include "core/patterns/frame_builder.hpp"
#include "core/statement/structure.hpp"

namespace undisona {

/// The structures of the files that a model places as sub-assemblies, each as it is by itself.
using Assemblies = std::map<std::string, std::shared_ptr<const Structure>, std::less<>>; ///< by sentence

/// Reads them, and those that they place in turn. `above`: the files through which the model was come to. What is the
/// matter in a file is said under the sentence that places it, with the files in between.
Assemblies readAssemblies(const Model&, const std::vector<std::string>& above, Findings&);

AssemblyFrames framesOf(const Assemblies&);

/// What their parts are made of; before the model's own materials are read.
void takeOverMaterials(const Assemblies&, Structure&);

/// All else that they say, for each place where they stand in the structure's frame.
void takeOverJointsAndLoads(const Assemblies&, Structure&, Findings&);

/// What a model says, which was come to through those files.
StructureAndFindings buildStructure(const Model&, const std::vector<std::string>& above);

} // namespace undisona
