#include "app/scene/drawn_members.hpp"

namespace undisona {

namespace {

SentencePtr lastShape(const Model& model, std::string_view kind)
{
    SentencePtr last;
    for (const auto& sentence : model.group(Group::shape))
        if (sentence->kind->key == kind && sentence->on) last = sentence;
    return last;
}

std::string freeName(const std::string& letter, const std::set<std::string>& taken, std::size_t first)
{
    while (taken.contains(letter + std::to_string(first)))
        ++first;
    return letter + std::to_string(first);
}

Model withRow(const Model& model, const Sentence& table, Row row)
{
    std::vector<Row> rows = *table.table("rows").rows;
    rows.push_back(std::move(row));
    return model.replaced(table.with("rows", Table{std::make_shared<const std::vector<Row>>(std::move(rows))}));
}

std::set<std::string> groupNames(const Frame& frame)
{
    std::set<std::string> names;
    for (const auto& [name, group] : frame.groups)
        names.insert(name);
    return names;
}

} // namespace

Quantity drawnLength(double metres)
{
    return quantityIn(std::round(metres * 1e6) / 1e6 + 0.0, QuantityKind::length, "m");
}

DrawnPoint withDrawnPoint(const Model& before, const Frame& frame, const Eigen::Vector3d& place)
{
    std::set<std::string> taken;
    for (const auto& point : frame.points) {
        if ((point.place - place).norm() < 1e-6 * std::max(1.0, frame.span())) return {before, point.name};
        taken.insert(point.name);
    }
    Model model = before;
    SentencePtr table = lastShape(model, "points");
    if (!table) { // before the members, which use them
        std::size_t index = 0;
        const auto& shape = model.group(Group::shape);
        while (index < shape.size() && shape[index]->kind->key != "members")
            ++index;
        Sentence fresh = newSentence(*kindNamed("points"), model.freeId()).with("rows", Table{});
        model = model.inserted(fresh, index);
        table = model.sentence(fresh.id);
    }
    for (const auto& row : *table->table("rows").rows)
        taken.insert(textOf(row[0]));
    const std::string name = freeName("p", taken, frame.points.size() + 1);
    return {withRow(model, *table, {name, drawnLength(place.x()), drawnLength(place.y()), drawnLength(place.z())}),
            name};
}

Model withDrawnMember(const Model& before, const Frame& frame, const std::string& from, const std::string& to)
{
    Model model = before;
    SentencePtr into = lastShape(model, "members");
    if (!into) {
        Sentence fresh =
            newSentence(*kindNamed("members"), model.freeId())
                .with("name", frame.groups.contains("Frame") ? freeName("Frame ", groupNames(frame), 2) : "Frame");
        model = model.inserted(fresh.with("rows", Table{}));
        into = model.sentence(fresh.id);
    }
    std::set<std::string> taken;
    for (const auto& member : frame.members)
        taken.insert(member.name);
    const auto& rows = *into->table("rows").rows;
    for (const auto& row : rows) {
        taken.insert(textOf(row[0]));
        const std::string a = textOf(row[1]), b = textOf(row[2]);
        if ((a == from && b == to) || (a == to && b == from)) return before; // it is there already
    }
    return withRow(model, *into, {freeName("m", taken, rows.size() + 1), from, to});
}

} // namespace undisona
