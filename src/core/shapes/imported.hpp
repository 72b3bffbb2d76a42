#pragma once
#include "core/model/model.hpp"

namespace undisona {

struct MeshFile;
struct ShapeFile;

/// A sentence for every body of the file that was read from the path, with names and ids that the model does not have
/// yet.
std::vector<Sentence> importedSentences(const Model&, const ShapeFile&, const std::string& path);
/// The same for the parts of a mesh: its groups of cells, or its sheet and its solids.
std::vector<Sentence> importedSentences(const Model&, const MeshFile&, const std::string& path);

/// Whether a file of that name is read as a mesh.
bool isMeshFile(const std::string& path);

} // namespace undisona
