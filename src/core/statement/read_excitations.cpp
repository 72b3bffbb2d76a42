#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

class ExcitationReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        for (const auto& sentence : model.activeIn(Group::excitation)) {
            sentence_ = sentence.get();
            Excitation excitation;
            excitation.name = sentence->text("name");
            excitation.sentence = sentence->id;
            excitation.margin = sentence->number("margin");
            const std::string& kind = sentence->kind->key;
            excitation.turns = kind == "running-speed" || kind == "speed-range";
            if (kind == "running-speed")
                excitation.low = excitation.high = sentence->number("speed");
            else if (kind == "fixed-frequency")
                excitation.low = excitation.high = sentence->number("frequency");
            else {
                excitation.low = sentence->number("low");
                excitation.high = sentence->number("high");
            }
            if (excitation.high < excitation.low) {
                complain(fmt::format("{} ends below where it begins", excitation.name), "Swap the two.");
                continue;
            }
            if (excitation.turns) excitation.orders = sentence->orders("orders").values;
            const std::string entry = sentence->has("entry") ? sentence->text("entry") : "in a way unknown";
            if (entry == "through the base") excitation.entry = Entry::base;
            if (entry == "as a force") excitation.entry = Entry::force;
            if (entry == "as a moment") excitation.entry = Entry::moment;
            excitation.along = translations("along");
            if (excitation.entry == Entry::force || excitation.entry == Entry::moment) {
                if (!sentence->has("points")) {
                    complain(fmt::format("{} enters at points that are not named", excitation.name),
                             "Name the points, or leave the way in unknown.");
                    continue;
                }
                excitation.points = points("points");
            }
            structure_.excitations.push_back(std::move(excitation));
        }
    }
};

} // namespace

void readExcitations(const Model& model, Structure& structure, Findings& findings)
{
    ExcitationReader(structure, findings).read(model);
}

std::vector<Excitation> readExcitations(const Model& model, const Frame& frame, Findings& findings)
{
    Structure structure;
    structure.frame = frame;
    readExcitations(model, structure, findings);
    return structure.excitations;
}

} // namespace undisona
