#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

class SupportReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::supports,
                 {{"hold", &SupportReader::held},
                  {"ground-spring", &SupportReader::onSprings},
                  {"bed", &SupportReader::bed}});
    }

private:
    void held() { hold("where", true); }
    void onSprings() { hold("points", false); }
    void bed() { spread(Attachment::Effect::stiffness, sentence_->number("stiffness"), translations("directions")); }

    void hold(std::string_view key, bool mayBeRigid)
    {
        Hold hold{Target::point, 0, axes(), {}, sixStiffnesses(), sentence_->id};
        for (std::size_t direction = 0; direction < 6; ++direction)
            hold.rigid[direction] = mayBeRigid &&
                                    sentence_->directions("directions").has(static_cast<int>(direction)) &&
                                    hold.elastic[direction] == 0.0;
        if (!mayBeRigid && hold.elastic == std::array<double, 6>{})
            return complain("the springs to ground have no stiffness yet", "Add one, such as \"1 kN/mm along z\".");
        const Picked picked = where(key);
        if (!(picked.kinds() & (partTargets | Target::edge | Target::face)).none() &&
            hold.elastic != std::array<double, 6>{})
            return complain("springs to ground stand on points alone",
                            "Name points, or bed what is named on a stiffness of its own.");
        for (const Target target : everyTarget)
            for (const int at : picked.of(target)) {
                hold.on = target;
                hold.at = at;
                structure_.holds.push_back(hold);
            }
    }
};

} // namespace

void readSupports(const Model& model, Structure& structure, Findings& findings)
{
    SupportReader(structure, findings).read(model);
}

} // namespace undisona
