// Bodies and faces from files.
#include "core/model/free_names.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/shape_file.hpp"

#include <fmt/format.h>

#include <filesystem>

namespace undisona {

void addImported(FrameBuilder& builder, const Sentence& sentence)
{
    const std::string path = sentence.text("file");
    const auto file = ShapeFile::read(path);
    const std::string shown = std::filesystem::path(path).filename().string();
    if (!file->problem.empty()) return builder.complain(fmt::format("{}: {}", shown, file->problem), file->remedy);
    const auto which = static_cast<std::size_t>(sentence.count("body")) - 1;
    if (which >= file->bodies.size())
        return builder.complain(fmt::format("{} has {} {}, so none with the number {}", shown, file->bodies.size(),
                                            file->bodies.size() == 1 ? "body" : "bodies", which + 1),
                                "Name another number, or import the file anew.");
    const ShapeFile::Body& body = file->bodies[which];
    const std::string& name = builder.groupName();
    if (!body.faulty.empty())
        builder.findings.push_back(warningAt(sentence.id, fmt::format("{}: {}", name, body.faulty),
                                             "If it cannot be meshed, mend it where it was drawn."));
    for (const auto& line : body.mended)
        builder.findings.push_back(noteAt(sentence.id, fmt::format("{} was mended when it was read: {}", name, line)));
    const double scale = sentence.has("scale") ? sentence.number("scale") : 1.0;
    const double longest = scale * (body.high - body.low).maxCoeff();
    if (longest > 200.0 || longest < 1e-3)
        builder.findings.push_back(
            warningAt(sentence.id, fmt::format("{} is {:.3g} m long: was it drawn in another unit?", name, longest),
                      "State how many times as large it is, such as 0.001."));
    const double size = sentence.has("size") ? sentence.number("size") : 0.0;
    if (body.solid) {
        if (sentence.has("thickness"))
            return builder.complain(fmt::format("{} is a solid and has no thickness of sheet", name),
                                    "Take the thickness away.");
        Solid solid{name, sentence.id, size, nullptr, false};
        solid.colour = body.colour;
        solid.shape = std::make_shared<const SolidShape>(SolidShape{KeptShape{body.shape, body.stamp, scale}});
        return builder.addSolid(std::move(solid));
    }
    if (!sentence.has("thickness"))
        return builder.complain(fmt::format("{} is sheet and has no thickness yet", name), "Say how thick it is.");
    Sheet sheet{name, sentence.id, sentence.number("thickness"), size};
    sheet.colour = body.colour;
    sheet.kept.push_back({{body.shape, body.stamp, scale}});
    builder.addSheet(std::move(sheet));
}

bool isMeshFile(const std::string& path)
{
    std::string ending = std::filesystem::path(path).extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
    return ending == ".vtu";
}

std::vector<Sentence> importedSentences(const Model& model, const ShapeFile& file, const std::string& path)
{
    FreeNames names(model);
    std::vector<Sentence> sentences;
    for (std::size_t at = 0; at < file.bodies.size(); ++at) {
        std::string name = file.bodies[at].name;
        if (name.find_first_not_of(" \"") == std::string::npos) name = std::filesystem::path(path).stem().string();
        Sentence sentence = newSentence(*kindNamed("imported"), names.id());
        sentence.values["name"] = names.like(name);
        sentence.values["body"] = static_cast<long>(at + 1);
        sentence.values["file"] = path;
        sentences.push_back(std::move(sentence));
    }
    return sentences;
}

} // namespace undisona
