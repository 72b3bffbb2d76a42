#pragma once
#include "core/model/document_io.hpp"
#include "core/units/display.hpp"

namespace undisona {

enum ExitCode { good = 0, modelError = 1, wrongUsage = 2 };

/// Says them on standard error, those that are alike as one.
void report(const Findings&);
/// Says what is wrong with the command, and is its exit code.
int refuse(const std::string& what);

/// A model with the files that were read for it, which nothing may be written over.
struct LoadedModel {
    Document document;
    Model model;
    DisplayUnits units;
    std::vector<std::string> inputs;
};

/// The live model of a file, or the take or state with the name; nothing where that has been reported.
std::optional<LoadedModel> loadModel(const std::string& path, const std::string& take, int& code);

/// To a file, or to standard output where its path is empty.
int writeOut(const std::string& text, const std::string& path, const std::vector<std::string>& inputs);

} // namespace undisona
