#pragma once
#include "core/model/model.hpp"

namespace undisona {

struct ShapeFile;

/// A sentence for every body of the file that was read from the path, with names and ids that the model does not have
/// yet.
std::vector<Sentence> importedSentences(const Model&, const ShapeFile&, const std::string& path);

} // namespace undisona
