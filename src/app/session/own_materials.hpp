#pragma once
#include "core/model/document_io.hpp"

#include <QString>

namespace undisona {

/// Materials that the user keeps for every model; each is an "own-material" sentence. They live in a file of
/// their own beside the settings, in the format of a model.
std::vector<SentencePtr> keptMaterials(); ///< by name; empty when there is no file or it cannot be read
SentencePtr keptMaterial(const QString& name);

/// Keeps the sentence, in place of one with the same name. The finding says why it could not be written.
std::optional<Finding> keepMaterial(const Sentence&);
std::optional<Finding> forgetMaterial(const QString& name);

/// The model with the kept material said in it, if it names one that neither the model nor the library has.
Model withKeptMaterial(const Model&, const QString& name);

} // namespace undisona
