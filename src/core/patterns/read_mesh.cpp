// Parts that come as meshes from files, and points at their nodes.
#include "core/base/number_text.hpp"
#include "core/elements/solid.hpp"
#include "core/model/free_names.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/picks/part_rule.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/kept_answers.hpp"
#include "core/shapes/kept_shape.hpp"

#include <fmt/format.h>

#include <filesystem>

namespace undisona {

namespace {

/// Cells of a file that a sentence means, looked through once.
struct MeshPart {
    std::vector<int> cells; ///< of sheet, or of solids
    double stamp = 0.0;
    std::string problem, remedy; ///< why there are none
    std::size_t inverted = 0;    ///< cells that are turned inside out or have no extent
    int first = 0;               ///< number of the first of these in the file
    int firstNode = 0;           ///< one of its nodes
    std::vector<char> used;      ///< by node: whether it belongs to one of the cells
};

bool isSound(const MeshFile& file, const MeshFile::Cell& cell)
{
    const auto place = [&](std::size_t node) { return file.nodes[static_cast<std::size_t>(cell.nodes[node])]; };
    if (!cell.sheet) {
        SolidElement element{cell.kind, {}, 1.0, 0.0, 1.0};
        for (std::size_t node = 0; node < cell.count(); ++node)
            element.node.push_back(place(node));
        return jacobianRatio(element) > 1e-9;
    }
    const std::size_t count = cell.count();
    Eigen::Vector3d normal = Eigen::Vector3d::Zero();
    double longest = 0.0;
    for (std::size_t at = 0; at < count; ++at) {
        normal += place(at).cross(place((at + 1) % count));
        longest = std::max(longest, (place((at + 1) % count) - place(at)).norm());
    }
    if (!(normal.norm() > 1e-9 * longest * longest)) return false;
    for (std::size_t at = 0; at < count; ++at)
        if ((place((at + 1) % count) - place(at))
                .cross(place((at + 2) % count) - place((at + 1) % count))
                .dot(normal) <= 0.0)
            return false;
    return true;
}

std::string groupsOf(const MeshFile& file)
{
    std::string list;
    std::size_t said = 0;
    for (const auto& group : file.groups)
        if (++said <= 8) list += fmt::format("{}\"{} = {}\"", list.empty() ? "" : ", ", group.array, group.value);
    return said > 8 ? list + " …" : list;
}

MeshPart partOf(const MeshFile& file, bool sheet, const std::string& where)
{
    MeshPart part;
    part.stamp = newStamp();
    std::vector<int> among;
    if (where.empty()) {
        among.resize(file.cells.size());
        for (std::size_t at = 0; at < among.size(); ++at)
            among[at] = static_cast<int>(at);
    } else {
        const auto equals = where.find('=');
        const std::string array(trimmed(where.substr(0, equals))),
            value(equals == std::string::npos ? "" : trimmed(std::string_view(where).substr(equals + 1)));
        const auto group = std::find_if(file.groups.begin(), file.groups.end(),
                                        [&](const auto& own) { return own.array == array && own.value == value; });
        if (group == file.groups.end()) {
            part.problem = fmt::format("there are no cells with \"{}\"", where);
            part.remedy = file.groups.empty() ? "The file tells no groups of cells apart; leave the words out."
                                              : fmt::format("There are {}.", groupsOf(file));
            return part;
        }
        among = group->cells;
    }
    part.used.resize(file.nodes.size(), 0);
    for (const int at : among) {
        const auto& cell = file.cells[static_cast<std::size_t>(at)];
        if (cell.sheet != sheet) continue;
        part.cells.push_back(at);
        for (std::size_t node = 0; node < cell.count(); ++node)
            part.used[static_cast<std::size_t>(cell.nodes[node])] = 1;
        if (isSound(file, cell)) continue;
        if (part.inverted++ > 0) continue;
        part.first = cell.number;
        part.firstNode = cell.nodes[0];
    }
    if (part.cells.empty()) {
        part.problem = fmt::format("there are no cells of {}{}", sheet ? "sheet" : "solids",
                                   where.empty() ? "" : fmt::format(" with \"{}\"", where));
        part.remedy = fmt::format("Take the {} instead.", sheet ? "solids" : "sheet");
    }
    return part;
}

/// Kept from one edit to the next, so that the same cells have the same stamp.
std::shared_ptr<const MeshPart> keptPart(const MeshFile& file, bool sheet, const std::string& where)
{
    static KeptAnswers<std::shared_ptr<const MeshPart>> lately(24);
    std::vector<double> key{file.stamp, sheet ? 1.0 : 0.0};
    key.insert(key.end(), where.begin(), where.end());
    if (auto known = lately.find(key)) return *known;
    auto part = std::make_shared<const MeshPart>(partOf(file, sheet, where));
    lately.keep(std::move(key), part);
    return part;
}

/// The groups of nodes that the file marks become points: "held of Hull".
void addGroupsOfNodes(FrameBuilder& builder, const PlacedMesh& mesh, const MeshPart& part)
{
    constexpr std::size_t most = 5000; // more points than anybody would name
    for (const auto& group : mesh.file->nodeGroups) {
        std::vector<int> own;
        for (const int node : group.nodes)
            if (part.used[static_cast<std::size_t>(node)]) own.push_back(node);
        if (own.size() > most) {
            builder.findings.push_back(noteAt(
                builder.sentence(),
                fmt::format("the {} nodes of the group \"{}\" are too many to be points", own.size(), group.name),
                "Name an edge or a face that they lie on instead."));
            continue;
        }
        for (std::size_t at = 0; at < own.size(); ++at)
            builder.addPoint(own.size() == 1 ? fmt::format("{}.{}", builder.groupName(), group.name)
                                             : fmt::format("{}.{}.{}", builder.groupName(), group.name, at + 1),
                             mesh.place(own[at]), true, group.name);
    }
}

/// Of those cells of sheet, where the file gives all of them the same one; else 0.
double evenThickness(const MeshFile& file, const std::vector<int>& cells)
{
    double thickness = 0.0;
    for (const int at : cells) {
        const auto& cell = file.cells[static_cast<std::size_t>(at)];
        if (!cell.sheet) continue;
        if (thickness > 0.0 && cell.thickness != thickness) return 0.0;
        thickness = cell.thickness;
    }
    return thickness;
}

} // namespace

void addMeshPart(FrameBuilder& builder, const Sentence& sentence)
{
    const std::string path = sentence.text("file");
    const auto file = MeshFile::read(path);
    const std::string shown = std::filesystem::path(path).filename().string();
    if (!file->problem.empty()) return builder.complain(fmt::format("{}: {}", shown, file->problem), file->remedy);
    const bool isSheet = sentence.text("of") == "sheet";
    const auto part = keptPart(*file, isSheet, sentence.has("cells") ? sentence.text("cells") : "");
    if (!part->problem.empty()) return builder.complain(fmt::format("{}: {}", shown, part->problem), part->remedy);
    const std::string& name = builder.groupName();
    const auto length = readQuantity("1 " + sentence.text("unit"), QuantityKind::length, NumberStyle::file);
    PlacedMesh mesh{file, {part, &part->cells}, part->stamp, std::get<Quantity>(length).si};
    for (const auto& remark : file->remarks) { // once, at the first part of the file
        const auto known = [&](const Finding& finding) { return finding.what == fmt::format("{}: {}", shown, remark); };
        if (std::none_of(builder.findings.begin(), builder.findings.end(), known))
            builder.findings.push_back(noteAt(sentence.id, fmt::format("{}: {}", shown, remark)));
    }
    if (part->inverted > 0)
        builder.complain(fmt::format("{}: {} cell{} turned inside out or flat, the first is number {}, at {}", name,
                                     part->inverted, part->inverted == 1 ? " is" : "s are", part->first,
                                     placeText(mesh.place(part->firstNode))),
                         part->inverted == part->cells.size()
                             ? "Write the file anew with the nodes of a cell in the order that the VTU format has."
                             : "Mend them where the mesh was made.");
    Eigen::Vector3d low = Eigen::Vector3d::Constant(1e300), high = -low;
    for (std::size_t node = 0; node < part->used.size(); ++node)
        if (part->used[node]) {
            low = low.cwiseMin(mesh.place(static_cast<int>(node)));
            high = high.cwiseMax(mesh.place(static_cast<int>(node)));
        }
    const double longest = (high - low).maxCoeff();
    if (longest > 200.0 || longest < 1e-3)
        builder.findings.push_back(
            warningAt(sentence.id, fmt::format("{} is {:.3g} m long: are its lengths in another unit?", name, longest),
                      "A VTU file does not say its unit; name it in the sentence."));
    if (isSheet && !sentence.has("thickness"))
        return builder.complain(fmt::format("{} is sheet and has no thickness yet", name), "Say how thick it is.");
    if (!isSheet && sentence.has("thickness"))
        return builder.complain(fmt::format("{} is a solid and has no thickness of sheet", name),
                                "Take the thickness away.");
    if (isSheet) {
        Sheet sheet{name, sentence.id, sentence.number("thickness"), 0.0};
        sheet.mesh = mesh;
        builder.addSheet(std::move(sheet));
    } else {
        builder.addSolid(
            {name, sentence.id, 0.0, std::make_shared<const SolidShape>(SolidShape{mesh}), false, std::nullopt});
    }
    addGroupsOfNodes(builder, mesh, *part);
}

void addNodePoint(FrameBuilder& builder, const Sentence& sentence)
{
    const auto parts = builder.where("part");
    const auto at = builder.place("at");
    if (!parts || !at) return;
    std::optional<Eigen::Vector3d> best;
    const auto look = [&](const PlacedMesh& mesh) {
        for (const int which : *mesh.cells) {
            const auto& cell = mesh.file->cells[static_cast<std::size_t>(which)];
            for (std::size_t node = 0; node < cell.count(); ++node)
                if (const Eigen::Vector3d place = mesh.place(cell.nodes[node]);
                    !best || (place - *at).norm() < (*best - *at).norm() - 1e-9)
                    best = place;
        }
    };
    for (const int sheet : parts->sheets)
        if (const auto& mesh = builder.frame.sheets[static_cast<std::size_t>(sheet)].mesh) look(*mesh);
    for (const int solid : parts->solids)
        if (const auto mesh = placedMesh(*builder.frame.solids[static_cast<std::size_t>(solid)].shape)) look(*mesh);
    if (!best)
        return builder.complain(fmt::format("\"{}\" does not come as a mesh", sentence.text("part")),
                                "Name a part from a mesh file; on a drawn one a point may lie anywhere.");
    builder.addPoint(sentence.text("name"), *best, false);
}

std::vector<Sentence> importedSentences(const Model& model, const MeshFile& file, const std::string& path)
{
    FreeNames names(model);
    const std::string stem = std::filesystem::path(path).stem().string();
    std::vector<Sentence> sentences;
    const auto add = [&](const std::string& wanted, bool sheet, const std::string& cells, const std::vector<int>& of) {
        Sentence sentence = newSentence(*kindNamed("mesh-part"), names.id());
        sentence.values["name"] = names.like(wanted);
        sentence.values["of"] = std::string(sheet ? "sheet" : "solids");
        sentence.values["file"] = path;
        if (!cells.empty()) sentence.values["cells"] = cells;
        if (const double thickness = sheet ? evenThickness(file, of) : 0.0; thickness > 0.0)
            sentence.values["thickness"] = quantityIn(thickness, QuantityKind::length, "m");
        sentences.push_back(std::move(sentence));
    };
    const auto has = [&](const std::vector<int>& cells, bool sheet) {
        return std::any_of(cells.begin(), cells.end(),
                           [&](int cell) { return file.cells[static_cast<std::size_t>(cell)].sheet == sheet; });
    };
    // By the first array that parts all cells, the one with names before others.
    constexpr std::size_t most = 200;
    std::vector<std::string> arrays;
    for (const auto& group : file.groups)
        if (arrays.empty() || arrays.back() != group.array) arrays.push_back(group.array);
    std::string chosen;
    for (const auto& array : arrays) {
        std::size_t groups = 0, cells = 0;
        bool named = false;
        for (const auto& group : file.groups)
            if (group.array == array) {
                ++groups;
                cells += group.cells.size();
                named = named || !readPlainNumber(group.value);
            }
        if (cells != file.cells.size() || groups > most || (groups < 2 && !named)) continue;
        if (chosen.empty() || named) chosen = array;
        if (named) break;
    }
    for (const auto& group : file.groups) {
        if (group.array != chosen) continue;
        const bool plain = readPlainNumber(group.value).has_value();
        for (const bool sheet : {true, false})
            if (has(group.cells, sheet))
                add(plain ? fmt::format("{} {}", group.array, group.value) : group.value, sheet,
                    fmt::format("{} = {}", group.array, group.value), group.cells);
    }
    if (!chosen.empty()) return sentences;
    std::vector<int> all(file.cells.size());
    for (std::size_t at = 0; at < all.size(); ++at)
        all[at] = static_cast<int>(at);
    for (const bool sheet : {true, false})
        if (has(all, sheet)) add(stem, sheet, {}, all);
    return sentences;
}

} // namespace undisona
