#include "tests/said_model.hpp"

#include "core/base/number_text.hpp"

namespace undisona {

SaidModel& SaidModel::say(const std::string& kindKey, const Words& values)
{
    const auto* kind = kindNamed(kindKey);
    if (!kind) {
        ADD_FAILURE() << "no kind of sentence " << kindKey;
        return *this;
    }
    Sentence sentence = newSentence(*kind, model_.freeId());
    for (const auto& [key, text] : values) {
        const Field* field = kind->field(key);
        if (!field) {
            ADD_FAILURE() << kindKey << " has no " << key;
            continue;
        }
        if (field->type == FieldType::table) {
            std::vector<Row> rows;
            for (const auto& line : splitAt(text, "\n")) {
                Row row;
                const auto cells = splitAt(line, "|");
                for (std::size_t column = 0; column < cells.size(); ++column) {
                    const auto value =
                        std::get<Value>(readValue(field->columns[column], cells[column], NumberStyle::file));
                    if (const auto* quantity = std::get_if<Quantity>(&value))
                        row.emplace_back(*quantity);
                    else
                        row.emplace_back(std::get<std::string>(value));
                }
                for (std::size_t column = row.size(); column < field->columns.size(); ++column)
                    row.push_back(usualCell(field->columns[column]));
                rows.push_back(row);
            }
            sentence = sentence.with(key, Table{std::make_shared<const std::vector<Row>>(rows)});
            continue;
        }
        const auto read = readValue(*field, text, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read))
            ADD_FAILURE() << kindKey << "." << key << ": " << problem->what;
        else
            sentence = sentence.with(key, std::get<Value>(read));
    }
    model_ = model_.inserted(sentence);
    return *this;
}

SaidModel& SaidModel::material(const std::string& modulus, const std::string& poisson, const std::string& density)
{
    say("own-material", {{"name", "m"}, {"modulus", modulus}, {"poisson", poisson}, {"density", density}});
    return say("material", {{"what", "everything"}, {"material", "m"}});
}

std::string SaidModel::problems() const
{
    std::string all;
    for (const auto& finding : findings())
        if (finding.severity != Severity::note) all += oneLine(finding) + "\n";
    return all;
}

std::shared_ptr<const Solution> SaidModel::solvedAs(bool judged) const
{
    Progress progress;
    auto solution = solve(model_, progress, {.meshErrors = judged});
    for (const auto& finding : solution.findings())
        ADD_FAILURE() << oneLine(finding);
    return solution ? *solution : std::make_shared<const Solution>();
}

std::shared_ptr<const Solution> SaidModel::solvedUnjudged() const
{
    const auto sentences = model_.sentences();
    return solvedAs(std::any_of(sentences.begin(), sentences.end(), [](const SentencePtr& one) {
        const auto& fields = one->kind->fields;
        return std::any_of(fields.begin(), fields.end(), [](const Field& field) { return field.type == FieldType::section; });
    }));
}

std::vector<double> SaidModel::frequencies() const
{
    std::vector<double> list;
    const auto solution = solvedUnjudged();
    for (const auto& mode : solution->modes)
        if (!mode.rigid && !mode.mechanism) list.push_back(mode.frequency);
    return list;
}

std::string metres(double value)
{
    return shortest(value) + " m";
}

SaidModel steel()
{
    SaidModel said;
    return said.material("200 GPa", "0.3", "8000 kg/m3");
}

SaidModel straightBeam(double length, double height, double width, int elements)
{
    SaidModel model;
    model.say("run", {{"name", "Beam"},
                      {"from", "0, 0, 0 m"},
                      {"to", shortest(length) + ", 0, 0 m"},
                      {"parts", "1"},
                      {"section", "rectangle " + shortest(height) + "x" + shortest(width) + " m"},
                      {"elements", std::to_string(elements)}});
    model.material("200 GPa", "0.3", "8000 kg/m3");
    return model;
}

} // namespace undisona
