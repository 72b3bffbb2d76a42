#include "core/model/document_io.hpp"
#include "core/units/display.hpp"

#include <nlohmann/json.hpp>

namespace undisona {

namespace {

using Json = nlohmann::ordered_json;

Json schemaOf(const Field& field)
{
    Json node;
    switch (field.type) {
    case FieldType::count:
        node["type"] = "integer";
        if (field.least) node["minimum"] = static_cast<long>(*field.least);
        if (field.most) node["maximum"] = static_cast<long>(*field.most);
        break;
    case FieldType::choice:
        node["enum"] = field.choices;
        break;
    case FieldType::table: {
        node["type"] = "array";
        Json row{{"type", "array"}, {"minItems", cellsNeeded(field)}, {"maxItems", field.columns.size()}};
        for (const auto& column : field.columns)
            row["prefixItems"].push_back(schemaOf(column));
        node["items"] = row;
        break;
    }
    default:
        node["type"] = "string";
    }
    std::string meaning = field.label;
    if (field.type == FieldType::where) meaning += ": " + wordsOf(field.targets);
    if (field.type == FieldType::quantity || field.type == FieldType::vector) {
        meaning += ": " + describe(field.kind);
        for (const QuantityKind kind : field.otherKinds)
            meaning += " or " + describe(kind);
        meaning += std::string(field.type == FieldType::vector ? " three times" : "") + ", with its unit, such as \"" +
                   field.fallback + "\"";
    } else if (!field.fallback.empty())
        meaning += ", such as \"" + field.fallback + "\"";
    node["description"] = meaning;
    return node;
}

Json schemaOf(const SentenceKind& kind)
{
    Json properties{{"id", {{"type", "string"}, {"minLength", 1}}},
                    {"kind", {{"const", kind.key}}},
                    {"on", {{"type", "boolean"}, {"default", true}}}};
    Json required = Json::array({"id", "kind"});
    for (const auto& field : kind.fields) {
        properties[field.key] = schemaOf(field);
        if (!field.optional) required.push_back(field.key);
    }
    return {{"type", "object"},         {"title", kind.title},  {"description", kind.help},
            {"properties", properties}, {"required", required}, {"additionalProperties", false}};
}

} // namespace

std::string documentSchema()
{
    Json groups = Json::object(), kinds = Json::object();
    for (std::size_t which = 0; which < groupCount; ++which) {
        Json any = Json::array();
        for (const auto& kind : sentenceKinds()) {
            if (kind.group != static_cast<Group>(which)) continue;
            kinds[kind.key] = schemaOf(kind);
            any.push_back({{"$ref", "#/$defs/" + kind.key}});
        }
        groups[std::string(groupKeys[which])] = {{"type", "array"}, {"items", {{"oneOf", any}}}};
    }
    kinds["model"] = {{"type", "object"}, {"properties", groups}, {"additionalProperties", false}};
    const Json take{
        {"type", "object"},
        {"properties",
         {{"id", {{"type", "string"}}},
          {"name", {{"type", "string"}}},
          {"from", {{"type", "string"}, {"description", "the id of the take before it that it was made from"}}},
          {"kept", {{"type", "string"}, {"description", "when, UTC: 2031-05-04T13:20:11Z"}}},
          {"note", {{"type", "string"}}},
          {"model", {{"$ref", "#/$defs/model"}}}}},
        {"required", {"id", "name", "model"}},
        {"additionalProperties", false}};
    const Json schema{
        {"$schema", "https://json-schema.org/draft/2020-12/schema"},
        {"title", "Undisona model"},
        {"type", "object"},
        {"properties",
         {{"format", {{"const", "undisona"}}},
          {"version", {{"const", formatVersion}}},
          {"name", {{"type", "string"}}},
          {"units", {{"enum", DisplayUnits::names()}}},
          {"model", {{"$ref", "#/$defs/model"}}},
          {"from", {{"type", "string"}, {"description", "the id of the take that the model was made from"}}},
          {"takes", {{"type", "array"}, {"items", take}}}}},
        {"required", {"format", "version", "model"}},
        {"additionalProperties", false},
        {"$defs", kinds}};
    return schema.dump(2) + "\n";
}

} // namespace undisona
