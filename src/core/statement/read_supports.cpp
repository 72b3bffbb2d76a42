#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

#include <functional>

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
                  {"bed", &SupportReader::bed},
                  {"rests-on", &SupportReader::restsOn}});
    }

private:
    void held()
    {
        forItsPurpose([this] { hold("where", true); });
    }
    void onSprings()
    {
        forItsPurpose([this] { hold("points", false); });
    }
    void bed()
    {
        forItsPurpose([this] {
            spread(Attachment::Effect::stiffness, sentence_->number("stiffness"), translations("directions"));
        });
    }

    /// What the reading adds holds when the sentence says.
    void forItsPurpose(const std::function<void()>& reading)
    {
        const auto holds = static_cast<long>(structure_.holds.size()),
                   attachments = static_cast<long>(structure_.attachments.size());
        reading();
        if (!sentence_->has("when")) return;
        const bool atRest = sentence_->text("when") == "at rest, not in vibration";
        const auto part = [&](auto& all, long first, auto& atRestAlone) {
            for (auto own = all.begin() + first; own != all.end(); ++own) {
                own->alsoAtRest = atRest;
                if (atRest) atRestAlone.push_back(*own);
            }
            if (atRest) all.erase(all.begin() + first, all.end());
        };
        part(structure_.holds, holds, structure_.atRestAlone.holds);
        part(structure_.attachments, attachments, structure_.atRestAlone.attachments);
    }

    void restsOn()
    {
        const Eigen::Vector3d way = asVector(sentence_->vector("direction"));
        if (!(way.norm() > 0.0)) return complain("the direction is nothing", "Give one, such as 0, 0, 1.");
        const auto said = [&](const char* key) { return sentence_->has(key) ? sentence_->number(key) : 0.0; };
        const bool both = sentence_->has("sides") && sentence_->text("sides") == "from both sides";
        const Picked picked = where("points");
        const bool perExtent = sentence_->has("stiffness") &&
                               std::get<Quantity>(sentence_->value("stiffness")).kind != QuantityKind::stiffness;
        if (sentence_->has("friction") && picked.points.size() < picked.size())
            return complain("friction at rest is settled at points alone",
                            "Name points, or hold sideways what bears, or say a grip in vibration.");
        for (const Target target : everyTarget)
            for (std::size_t which = 0; which < picked.of(target).size(); ++which) {
                const int at = picked.of(target)[which];
                Contact contact{.point = target == Target::point ? at : -1,
                                .pushes = way.normalized(),
                                .gap = said("gap"),
                                .stiffness = said("stiffness"),
                                .grip = said("grip"),
                                .sentence = sentence_->id,
                                .friction = said("friction")};
                if (target != Target::point) {
                    contact.over = {target, at};
                    contact.perExtent = perExtent;
                }
                contact.name = nameOf(target, at, picked, which);
                structure_.contacts.push_back(contact);
                if (!both) continue;
                contact.pushes = -contact.pushes;
                structure_.contacts.push_back(std::move(contact));
            }
    }

    /// Of what a sentence picked: by its own name where it has one, else as the sentence calls it.
    std::string nameOf(Target target, int at, const Picked& picked, std::size_t which) const
    {
        const auto index = static_cast<std::size_t>(at);
        if (target == Target::point) return structure_.frame.points[index].name;
        if (target == Target::member) return structure_.frame.members[index].name;
        if (target == Target::sheet) return structure_.frame.sheets[index].name;
        const std::string said = sentence_->text("points");
        return picked.of(target).size() == 1 ? said : fmt::format("{} ({})", said, which + 1);
    }

    void hold(std::string_view key, bool mayBeRigid)
    {
        Hold hold{.on = Target::point, .at = 0, .axes = axes(), .elastic = sixStiffnesses(), .sentence = sentence_->id};
        if (sentence_->has("about")) {
            const Eigen::Vector3d along = asVector(sentence_->vector("about"));
            if (!(along.norm() > 0.0)) return complain("the axis has no direction", "Give one, such as 0, 0, 1.");
            if (sentence_->has("x-towards") || sentence_->has("y-near"))
                return complain("directions of its own and an axis to turn about are said together",
                                "Leave one of them out.");
            hold.about = AxisAbout{along.normalized(), Eigen::Vector3d::Zero()};
            if (sentence_->has("through")) hold.about->through = asVector(sentence_->vector("through"));
        }
        hold.alongEdge = mayBeRigid && sentence_->has("follow");
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
        if (hold.alongEdge && picked.kinds() != Targets(Target::edge))
            return complain("edges alone have a direction to follow", "Name edges, or leave it out.");
        if (hold.alongEdge && hold.about)
            return complain("an axis to turn about and an edge to follow are said together", "Leave one of them out.");
        for (const Target target : everyTarget)
            for (const int at : picked.of(target)) {
                hold.on = target;
                hold.at = at;
                structure_.holds.push_back(hold);
                if (target != Target::point || !hold.about) continue;
                const FramePoint& point = structure_.frame.points[static_cast<std::size_t>(at)];
                const auto own = hold.about->axesAt(point.place);
                if (!own)
                    return complain(fmt::format("{} lies on the axis, from which no way leads outwards", point.name),
                                    "Hold it in a sentence of its own, or move the axis.");
                structure_.holds.back().axes = *own;
                structure_.holds.back().about.reset();
            }
    }
};

} // namespace

void readSupports(const Model& model, Structure& structure, Findings& findings)
{
    SupportReader(structure, findings).read(model);
}

} // namespace undisona
