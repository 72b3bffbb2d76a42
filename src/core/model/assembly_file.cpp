#include "core/model/assembly_file.hpp"

#include "core/base/lately_read.hpp"
#include "core/model/document_io.hpp"

#include <algorithm>
#include <filesystem>

namespace undisona {

namespace {

/// What loads and shakes a structure and what is asked of it is said where it is solved.
Model takenFrom(Model model)
{
    for (const auto& sentence : model.sentences()) {
        const Group group = sentence->kind->group;
        if (group == Group::loads || group == Group::excitation ||
            (group == Group::ask && !sentence->kind->has(Touch::mesh)))
            model = model.removed(sentence->id);
    }
    return model;
}

void gather(const Model& model, std::vector<std::string>& files)
{
    for (const auto& sentence : model.activeIn(Group::shape)) {
        if (!placesAssembly(*sentence)) continue;
        const std::string path = sentence->text("file");
        if (std::find(files.begin(), files.end(), path) != files.end()) continue;
        files.push_back(path);
        gather(assemblyFile(path)->model, files);
    }
}

} // namespace

bool placesAssembly(const Sentence& sentence)
{
    return sentence.kind->key.starts_with("assembly");
}

std::shared_ptr<const AssemblyFile> assemblyFile(const std::string& path)
{
    static LatelyRead<AssemblyFile> files(64);
    const auto found = files.at(path, [&] {
        const auto document = readDocumentFile(path);
        auto file = std::make_shared<AssemblyFile>();
        if (document)
            file->model = takenFrom(document->model);
        else
            file->findings = document.findings();
        return std::pair(std::shared_ptr<const AssemblyFile>(std::move(file)), true);
    });
    if (found) return found;
    return std::make_shared<const AssemblyFile>(
        AssemblyFile{{},
                     {errorAt({}, "there is no file " + std::filesystem::path(path).filename().string(),
                              "Name one that is there, or bring it back to " +
                                  std::filesystem::path(path).parent_path().string() + ".")}});
}

std::vector<std::string> assemblyFilesOf(const Model& model)
{
    std::vector<std::string> files;
    gather(model, files);
    return files;
}

} // namespace undisona
