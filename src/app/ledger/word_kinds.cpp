// What each type of word offers and how it is understood: a row of the table below for each.
#include "app/ledger/word_kinds.hpp"

#include "app/session/own_materials.hpp"
#include "core/base/number_text.hpp"
#include "core/model/assembly_file.hpp"
#include "core/model/material.hpp"
#include "core/model/meant_targets.hpp"
#include "core/model/section_text.hpp"
#include "core/picks/pick.hpp"

#include <fmt/format.h>

#include <QDir>
#include <QFileInfo>

namespace undisona {

namespace {

/// A word as it is open: in which sentence, of which field.
struct OpenWord {
    const Session& session;
    const Sentence& sentence;
    const Field& field;
};

using Offers = std::vector<WordOffer>;

/// Names of what sentences of a kind make.
void addNames(Offers& offers, const OpenWord& word, std::string_view kind)
{
    for (const auto& sentence : word.session.model().sentences())
        if (sentence->kind->key == kind) offers.push_back({q(sentence->text("name"))});
}

/// What a pick may be begun with: everything, what sentences made, and what has a role in it.
std::vector<std::string> placesToName(const Frame& frame, Targets wanted)
{
    std::vector<std::string> offers;
    if (!(wanted & partTargets).none() || frame.points.size() < 2) offers.emplace_back("everything");
    for (const auto& [name, group] : frame.groups) {
        const bool role = name.find(" of ") != std::string::npos;
        const std::string quoted = quotedName(name);
        const auto counted = [&](const std::vector<int>& list) { return fmt::format("{} {}", list.size(), name); };
        const bool members = wanted.has(Target::member) && !group.members.empty();
        if (wanted.has(Target::edge) && !group.sheets.empty()) offers.push_back("edges of " + quoted);
        if (wanted.has(Target::face) && !group.solids.empty()) offers.push_back("faces of " + quoted);
        if (members && role)
            offers.push_back(counted(group.members));
        else if (members || (wanted.has(Target::sheet) && !group.sheets.empty()) ||
                 (wanted.has(Target::solid) && !group.solids.empty()))
            offers.push_back(quoted);
        if (wanted.has(Target::point) && !group.points.empty())
            offers.push_back(role ? counted(group.points) : "points of " + quoted);
    }
    if (wanted.has(Target::point)) {
        offers.emplace_back("lowest points");
        offers.emplace_back("highest points");
    }
    return offers;
}

Offers someOf(std::initializer_list<const char*> texts)
{
    Offers offers;
    for (const char* text : texts)
        offers.push_back({text});
    return offers;
}

Offers ofDirections(const OpenWord&)
{
    return someOf({"x y z", "all", "x", "y", "z", "x y", "rx ry rz"});
}

Offers ofTranslations(const OpenWord&)
{
    return someOf({"x y", "x y z", "x", "y", "z"});
}

Offers ofChoice(const OpenWord& word)
{
    Offers offers;
    for (const auto& choice : word.field.choices)
        offers.push_back({q(choice)});
    return offers;
}

Offers ofMaterial(const OpenWord& word)
{
    Offers offers;
    addNames(offers, word, "own-material");
    addNames(offers, word, "orthotropic");
    const auto named = [&](const QString& name) {
        return std::any_of(offers.begin(), offers.end(), [&](const WordOffer& one) { return one.text == name; });
    };
    for (const auto& kept : keptMaterials())
        if (const QString name = q(kept->text("name")); !named(name) && !libraryMaterial(name.toStdString()))
            offers.push_back({name, QObject::tr("%1   (kept by you)").arg(name)});
    for (const auto& material : materialLibrary())
        offers.push_back({q(material.name)});
    return offers;
}

Offers ofSection(const OpenWord& word)
{
    Offers offers;
    addNames(offers, word, "section");
    addNames(offers, word, "given-section");
    for (const auto& form : sectionForms())
        offers.push_back({q(form.example), q(form.example + "   " + form.sizes)});
    return offers;
}

Offers ofWhere(const OpenWord& word)
{
    Offers offers;
    for (const auto& place : placesToName(word.session.structure().frame, meantTargets(word.sentence, word.field)))
        offers.push_back({q(place)});
    return offers;
}

/// What lies beside the document and could be meant.
Offers ofFile(const OpenWord& word)
{
    const QStringList endings = placesAssembly(word.sentence)            ? QStringList{"*.undisona.json"}
                                : word.sentence.kind->key == "mesh-part" ? QStringList{"*.vtu"}
                                                                         : QStringList{"*.step", "*.stp", "*.brep"};
    const QFileInfo own(word.session.path());
    constexpr int most = 40;
    Offers offers;
    const auto files = QDir(wholePath(word.session, {})).entryInfoList(endings, QDir::Files, QDir::Name);
    for (const auto& file : files.mid(0, most))
        if (file != own) offers.push_back({file.fileName()});
    return offers;
}

QString asQuantity(const OpenWord& word, const Value& value)
{
    const auto& quantity = std::get<Quantity>(value);
    if (quantity.kind == QuantityKind::frequency)
        return QString("= %1 Hz = %2 rpm").arg(q(rounded(quantity.si, 4)), q(rounded(60.0 * quantity.si, 4)));
    const QString words =
        "= " + q(quantity.kind == QuantityKind::number ? rounded(quantity.si, 5)
                                                       : word.session.units().text(quantity.si, quantity.kind, 5));
    return word.field.otherKinds.empty() ? words : words + ", " + q(describe(quantity.kind));
}

QString asVector(const OpenWord& word, const Value& value)
{
    const DisplayUnits units = word.session.units();
    QString text = "= ";
    for (std::size_t axis = 0; axis < 3; ++axis)
        text += (axis ? ", " : "") + q(rounded(units.value(std::get<Vector>(value).si[axis], word.field.kind), 5));
    return text + " " + q(units.unit(word.field.kind));
}

QString asWhere(const OpenWord& word, const Value& value)
{
    const Targets meant = meantTargets(word.sentence, word.field);
    const auto picked = pick(word.session.structure().frame, std::get<std::string>(value), meant);
    if (!picked.problem.empty()) return "▲ " + q(picked.problem);
    QStringList found;
    for (const Target target : everyTarget)
        if (const std::size_t count = picked.of(target).size(); count > 0)
            found << QString("%1 %2%3").arg(count).arg(q(std::string(nounOf(target))), count == 1 ? "" : "s");
    return QObject::tr("= %1; click in the scene to add or take away").arg(found.join(", "));
}

/// Constants in millimetres or inches, in which sections are thought of.
QString asSection(const OpenWord& word, const Value& value)
{
    const auto read = readSection(std::get<std::string>(value), NumberStyle::file);
    const auto* section = std::get_if<Section>(&read);
    if (!section) return {};
    const DisplayUnits units(word.session.units().name().starts_with("m") ? "mm kg N" : "in lb lbf");
    return QString("area %1, Iy %2, Iz %3, J %4")
        .arg(q(units.text(section->area, QuantityKind::area, 4)),
             q(units.text(section->iy, QuantityKind::secondMoment, 4)),
             q(units.text(section->iz, QuantityKind::secondMoment, 4)),
             q(units.text(section->torsion, QuantityKind::secondMoment, 4)));
}

QString asMaterial(const OpenWord& word, const Value& value)
{
    const DisplayUnits units = word.session.units();
    const auto& name = std::get<std::string>(value);
    const auto words = [&](double modulus, double density, const QString& source) {
        return QObject::tr("E %1, density %2; %3")
            .arg(q(units.text(modulus, QuantityKind::stress)), q(units.text(density, QuantityKind::density)), source);
    };
    if (const auto material = libraryMaterial(name))
        return words(material->modulus, material->density, q(material->source));
    for (const auto& sentence : word.session.model().sentences())
        if ((sentence->kind->key == "own-material" || sentence->kind->key == "orthotropic") &&
            sentence->text("name") == name)
            return words(sentence->number("modulus"), sentence->number("density"), QObject::tr("of this model"));
    if (const auto kept = keptMaterial(q(name)))
        return words(kept->number("modulus"), kept->number("density"), QObject::tr("kept by you; joins this model"));
    return {};
}

QString asFile(const OpenWord& word, const Value& value)
{
    const QString path = wholePath(word.session, q(std::get<std::string>(value)));
    return QFileInfo(path).isFile() ? "= " + path : QObject::tr("▲ there is no file %1").arg(path);
}

struct WordKind {
    FieldType type;
    Offers (*offers)(const OpenWord&);
    QString (*understood)(const OpenWord&, const Value&);
};

constexpr WordKind wordKinds[] = {
    {FieldType::quantity, nullptr, asQuantity},
    {FieldType::vector, nullptr, asVector},
    {FieldType::choice, ofChoice, nullptr},
    {FieldType::where, ofWhere, asWhere},
    {FieldType::section, ofSection, asSection},
    {FieldType::material, ofMaterial, asMaterial},
    {FieldType::directions, ofDirections, nullptr},
    {FieldType::translations, ofTranslations, nullptr},
    {FieldType::file, ofFile, asFile},
};

const WordKind* wordKind(FieldType type)
{
    for (const auto& kind : wordKinds)
        if (kind.type == type) return &kind;
    return nullptr;
}

} // namespace

std::vector<WordOffer> offersFor(const Session& session, const Sentence& sentence, const Field& field)
{
    const WordKind* kind = wordKind(field.type);
    return kind && kind->offers ? kind->offers({session, sentence, field}) : Offers{};
}

QString understoodAs(const Session& session, const Sentence& sentence, const Field& field, const Value& value)
{
    const WordKind* kind = wordKind(field.type);
    return kind && kind->understood ? kind->understood({session, sentence, field}, value) : QString();
}

QString wholePath(const Session& session, const QString& file)
{
    const QDir folder = session.path().isEmpty() ? QDir::current() : QFileInfo(session.path()).absoluteDir();
    return QDir::cleanPath(folder.absoluteFilePath(file));
}

} // namespace undisona
