#pragma once
#include "core/base/file_writer.hpp"
#include "core/model/model.hpp"

#include <string>
#include <string_view>

namespace undisona {

/// The newest version of the file format that this program writes; it reads all versions up to it.
inline constexpr int formatVersion = 2;

/// What becomes of a word that cannot be read as its field has it: an error with its line, or kept as it was typed, so
/// that its sentence is in error (unreadWords) and can be mended.
enum class WrongWords { refused, kept };

/// Reads a document from JSON text. Every error names file, line and key; all errors of the file are given,
/// not the first alone. Names that sentences use are checked later, against the geometry.
Result<Document> readDocument(std::string_view text, const std::string& file, WrongWords = WrongWords::refused);

/// The document with the files that it names beside `folder` under whole paths, or the other way round.
Document withWholePaths(Document, const std::string& folder);
Document withPathsFrom(Document, const std::string& folder);

/// Reads a file, and makes the paths in it whole; a finding when it cannot be opened, is not text, or is larger than
/// 200 MB.
Result<Document> readDocumentFile(const std::string& path, WrongWords = WrongWords::refused);

/// Writes the document; reading the text back and writing again gives the same bytes.
std::string writeDocument(const Document&);

/// The files of shapes and meshes that the model and its takes name, each once.
std::vector<std::string> filesOf(const Document&);

/// Files that lie in its folder or below are named from there, so that both can be moved together. Written as
/// `writeWholeFile` does, so that a crash loses neither; not over a file that the document names.
std::optional<Finding> writeDocumentFile(const Document&, const std::string& path, WriteRules = {});

/// The JSON Schema (draft 2020-12) of the document, made from the table of sentence kinds.
std::string documentSchema();

} // namespace undisona
