#include "app/session/own_materials.hpp"

#include "core/model/material.hpp"

#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>

namespace undisona {

namespace {

QString materialFile()
{
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/own-materials.undisona.json";
}

bool isMaterial(const SentencePtr& sentence)
{
    return sentence->kind->key == "own-material";
}

/// A file that is there but does not read is never written over.
std::optional<Finding> rewrite(const std::function<Model(const Model&)>& change)
{
    Document document;
    document.name = "own materials";
    if (QFileInfo::exists(materialFile())) {
        auto read = readDocumentFile(materialFile().toStdString());
        if (!read) return read.findings().front();
        document = std::move(*read);
    }
    document.model = change(document.model);
    QDir().mkpath(QFileInfo(materialFile()).path());
    return writeDocumentFile(document, materialFile().toStdString());
}

Model without(const Model& model, const std::string& name)
{
    Model left = model;
    for (const auto& sentence : model.sentences())
        if (isMaterial(sentence) && sentence->text("name") == name) left = left.removed(sentence->id);
    return left;
}

} // namespace

std::vector<SentencePtr> keptMaterials()
{
    std::vector<SentencePtr> kept;
    if (!QFileInfo::exists(materialFile())) return kept;
    const auto read = readDocumentFile(materialFile().toStdString());
    if (!read) return kept;
    for (const auto& sentence : read->model.sentences())
        if (isMaterial(sentence)) kept.push_back(sentence);
    std::sort(kept.begin(), kept.end(), [](const auto& a, const auto& b) { return a->text("name") < b->text("name"); });
    return kept;
}

SentencePtr keptMaterial(const QString& name)
{
    for (const auto& kept : keptMaterials())
        if (kept->text("name") == name.toStdString()) return kept;
    return nullptr;
}

std::optional<Finding> keepMaterial(const Sentence& sentence)
{
    return rewrite([&](const Model& model) {
        Model left = without(model, sentence.text("name"));
        Sentence kept = sentence;
        kept.id = left.freeId();
        kept.on = true;
        return left.inserted(kept);
    });
}

std::optional<Finding> forgetMaterial(const QString& name)
{
    return rewrite([&](const Model& model) { return without(model, name.toStdString()); });
}

Model withKeptMaterial(const Model& model, const QString& name)
{
    const std::string plain = name.toStdString();
    if (libraryMaterial(plain)) return model;
    for (const auto& sentence : model.sentences())
        if (isMaterial(sentence) && sentence->text("name") == plain) return model;
    const auto kept = keptMaterial(name);
    if (!kept) return model;
    Sentence said = *kept;
    said.id = model.freeId();
    return model.inserted(said, 0);
}

} // namespace undisona
