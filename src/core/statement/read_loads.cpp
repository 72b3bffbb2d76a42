#include "core/statement/read_groups.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/number_text.hpp"
#include "core/model/states.hpp"
#include "core/statement/statement_reader.hpp"
#include "core/statement/warmed.hpp"
#include "core/units/unit.hpp"

#include <fmt/format.h>

#include <numbers>

namespace undisona {

namespace {

class LoadReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::loads,
                 {{"own-weight", &LoadReader::ownWeight},
                  {"force", &LoadReader::force},
                  {"moment", &LoadReader::moment},
                  {"pressure", &LoadReader::pressure},
                  {"pretension", &LoadReader::pretension},
                  {"warming", &LoadReader::warming},
                  {"shift", &LoadReader::shift},
                  {"spin", &LoadReader::spin}});
        makeStates();
        readEach(*this, model, Group::loads, {{"combined-state", &LoadReader::combined}});
        readEach(*this, model, Group::loads, {{"bears-as-said", &LoadReader::bears}});
        checkWarmth();
        readEach(*this, model, Group::ask, {{"about-state", &LoadReader::about}});
    }

private:
    void ownWeight()
    {
        const Eigen::Vector3d way = sentence_->has("direction") ? direction() : -Eigen::Vector3d::UnitZ();
        const double factor = sentence_->has("factor") ? sentence_->number("factor") : 1.0;
        add({Load::Kind::weight, Target::point, -1, factor * standardGravity * way});
    }

    void force()
    {
        const Picked picked = where("where");
        const auto extent = sharedExtent(picked);
        if (!extent || *extent <= 0.0) return;
        const Eigen::Vector3d load = sentence_->number("load") / *extent * direction();
        for (const Target target : everyTarget)
            for (const int at : picked.of(target))
                add({Load::Kind::force, target, at, load});
    }

    void moment()
    {
        const auto at = points("points");
        for (const int point : at)
            add({Load::Kind::moment, Target::point, point,
                 sentence_->number("moment") / double(at.size()) * direction()});
    }

    void pressure()
    {
        const Picked picked = where("where");
        const bool below = sentence_->has("side") && sentence_->text("side") == "below";
        const double amount = sentence_->number("pressure");
        for (const int sheet : picked.sheets)
            add({Load::Kind::pressure, Target::sheet, sheet, Eigen::Vector3d::Zero(), below ? -amount : amount});
        if (below && !picked.faces.empty())
            complain("a body's face has one side alone, and \"from below\" is said",
                     "Leave the side away; less than nothing sucks.");
        for (const int face : picked.faces)
            add({Load::Kind::pressure, Target::face, face, Eigen::Vector3d::Zero(), amount});
    }

    void pretension()
    {
        const double force = sentence_->number("force");
        std::set<std::string> tooTight; // one of each material
        for (const int member : where("members").members) {
            add({Load::Kind::pretension, Target::member, member, Eigen::Vector3d::Zero(), force});
            const FrameMember& shape = structure_.frame.members[static_cast<std::size_t>(member)];
            const auto& material = structure_.members[static_cast<std::size_t>(member)].material;
            if (!material || !shape.section || !(material->strength > 0.0)) continue;
            const double stress = std::abs(force) / shape.section->area;
            if (stress <= material->strength || !tooTight.insert(material->name).second) continue;
            findings_.push_back(
                warningAt(sentence_->id,
                          fmt::format("{} has a stress of {:.4g} MPa by its pretension alone, and {} bears {:.4g} MPa",
                                      shape.name, 1e-6 * stress, material->name, 1e-6 * material->strength),
                          fmt::format("Draw it by no more than {:.3g} kN, or take a larger section.",
                                      1e-3 * material->strength * shape.section->area)));
        }
    }

    void warming()
    {
        const Picked picked = where("where");
        const double across = sentence_->has("across") ? sentence_->number("across") : 0.0;
        if (across != 0.0 && picked.sheets.size() < picked.size())
            complain("only sheet has an upper side that can be warmer than the lower one",
                     "Name sheets alone, or leave that away.");
        std::set<std::string> without;
        const auto take = [&](Target target, const std::vector<int>& all, const auto& madeOf) {
            for (const int at : all) {
                const auto& material = madeOf[static_cast<std::size_t>(at)].material;
                if (material && material->expansion == 0.0) without.insert(material->name);
                add({Load::Kind::warming, target, at, Eigen::Vector3d::Zero(), sentence_->number("by"),
                     target == Target::sheet ? across : 0.0});
            }
        };
        take(Target::member, picked.members, structure_.members);
        take(Target::sheet, picked.sheets, structure_.sheets);
        take(Target::solid, picked.solids, structure_.solids);
        if (!without.empty())
            complain(fmt::format("it is not known how much {} expands", someOf({without.begin(), without.end()})),
                     "Add its expansion to the sentence of that material, such as 12e-6 1/K.");
    }

    /// What is shifted must be held, or it does not come along.
    void shift()
    {
        const Eigen::Vector3d by = asVector(sentence_->vector("by"));
        for (const int point : points("points")) {
            Eigen::Vector3d left = by;
            for (const auto* holds : {&structure_.holds, &structure_.atRestAlone.holds})
                for (const auto& hold : *holds)
                    for (std::size_t way = 0; way < 3; ++way)
                        if (hold.point() == point && hold.rigid[way] &&
                            (hold.alsoAtRest || holds != &structure_.holds)) {
                            const Eigen::Vector3d along = hold.axes.col(static_cast<Eigen::Index>(way));
                            left -= left.dot(along) * along;
                        }
            if (left.norm() > 1e-6 * by.norm())
                return complain(fmt::format("{} is not held rigidly the way it is to be shifted",
                                            structure_.frame.points[static_cast<std::size_t>(point)].name),
                                "Hold it there, or shift it only along what is held.");
            add({Load::Kind::shift, Target::point, point, by});
        }
    }

    void spin()
    {
        Load load{Load::Kind::spin, Target::point, -1, direction(),
                  2.0 * std::numbers::pi * sentence_->number("speed")};
        load.place = asVector(sentence_->vector("through"));
        const auto [low, high] = structure_.frame.box();
        const Eigen::Vector3d middle = (low + high) / 2.0 - load.place, along = load.vector;
        if (!structure_.frame.empty() &&
            (middle - middle.dot(along) * along).norm() > 10.0 * (1e-3 + structure_.frame.span()))
            complain("the axis of the spin lies far from all that spins",
                     "Give a point of the axis that it turns about.");
        add(std::move(load));
    }

    Eigen::Vector3d direction()
    {
        const Eigen::Vector3d way = asVector(sentence_->vector("direction"));
        if (way.norm() > 0.0) return way.normalized();
        complain("the direction is nothing", "Give one, such as 0, 0, -1.");
        return Eigen::Vector3d::Zero();
    }

    void add(Load load)
    {
        load.sentence = sentence_->id;
        structure_.loads.push_back(std::move(load));
        statesOf_.push_back(statesSaid());
        for (const auto& name : statesOf_.back())
            if (std::find(names_.begin(), names_.end(), name) == names_.end()) names_.push_back(name);
    }

    /// Those that the sentence names.
    std::vector<std::string> statesSaid() const
    {
        std::vector<std::string> states;
        if (sentence_->has("state"))
            for (const auto& piece : splitAt(sentence_->text("state"), ","))
                if (const std::string name(trimmed(piece)); !name.empty()) states.push_back(name);
        return states;
    }

    /// A load that names no state belongs to all.
    void makeStates()
    {
        if (names_.empty() && !structure_.loads.empty()) names_.push_back(unnamedState);
        for (const auto& name : names_) {
            StaticState state{name, std::vector<double>(structure_.loads.size(), 0.0)};
            for (std::size_t at = 0; at < structure_.loads.size(); ++at) {
                const auto& states = statesOf_[at];
                if (states.empty() || std::find(states.begin(), states.end(), name) != states.end())
                    state.factors[at] = 1.0;
            }
            structure_.staticStates.push_back(std::move(state));
        }
    }

    int stateNamed(const std::string& name)
    {
        for (std::size_t at = 0; at < structure_.staticStates.size(); ++at)
            if (structure_.staticStates[at].name == name) return static_cast<int>(at);
        std::vector<std::string> known;
        for (const auto& state : structure_.staticStates)
            known.push_back("\"" + state.name + "\"");
        complain(fmt::format("there is no static state \"{}\"", name),
                 known.empty() ? "No load makes one: add a sentence to the group Loads."
                               : fmt::format("There {} {}.", known.size() == 1 ? "is" : "are", fmt::join(known, ", ")));
        return -1;
    }

    void combined()
    {
        StaticState state{sentence_->text("name"), std::vector<double>(structure_.loads.size(), 0.0), sentence_->id};
        for (const auto& other : structure_.staticStates)
            if (other.name == state.name)
                return complain(fmt::format("there are two static states called \"{}\"", state.name),
                                "Give one of them another name.");
        double most = 0.0;
        for (const auto& row : *sentence_->table("rows").rows) {
            const int of = stateNamed(textOf(row[0]));
            if (of < 0) return;
            const double factor = std::get<Quantity>(row[1]).si;
            const auto& factors = structure_.staticStates[static_cast<std::size_t>(of)].factors;
            for (std::size_t at = 0; at < factors.size(); ++at)
                state.factors[at] += factor * factors[at];
            most = std::max(most, std::abs(factor));
        }
        if (most == 0.0) return complain("the state is made of nothing", "Add a line: a state, and how many times.");
        // Where others name states, a load that names none belongs to every one once, so also to what is made of
        // several.
        const auto isEmpty = [](const auto& states) { return states.empty(); };
        const bool namesAny = !std::all_of(statesOf_.begin(), statesOf_.end(), isEmpty);
        for (std::size_t at = 0; at < state.factors.size(); ++at)
            if (namesAny && statesOf_[at].empty()) state.factors[at] = 1.0;
        structure_.staticStates.push_back(std::move(state));
    }

    void bears()
    {
        const Picked named = where("points");
        const bool how = sentence_->text("how") == "bears whatever the loads";
        std::vector<int> states;
        for (const auto& name : statesSaid()) {
            states.push_back(stateNamed(name));
            if (states.back() < 0) return;
        }
        bool any = false;
        for (std::size_t contact = 0; contact < structure_.contacts.size(); ++contact) {
            Contact& own = structure_.contacts[contact];
            const auto isNamed = [&](Target target, int at) {
                const auto& all = named.of(target);
                return std::find(all.begin(), all.end(), at) != all.end();
            };
            if (own.over ? !isNamed(own.over->first, own.over->second)
                         : !isNamed(Target::point, own.point) && !isNamed(Target::point, own.other))
                continue;
            any = true;
            if (states.empty()) own.stated = how;
            for (const int state : states)
                structure_.staticStates[static_cast<std::size_t>(state)].bears[static_cast<int>(contact)] = how;
        }
        if (!any && named.size() > 0)
            complain("nothing bears on one side alone there",
                     "Name points, edges or faces of a support that only pushes, or of a rope, a strut or a stop.");
    }

    void about()
    {
        if (structure_.aboutState >= 0)
            return complain("modes are asked for about two static states", "Keep one of the two sentences on.");
        structure_.aboutState = stateNamed(sentence_->text("state"));
        warm(structure_, structure_.aboutState);
    }

    /// Warmer than what is said of a material goes.
    void checkWarmth()
    {
        for (const auto& [name, by] : warmerThanStated(structure_))
            findings_.push_back(warningAt(
                {},
                fmt::format("{} is {:.4g} K {} in a static state, and its stiffness is not stated so far: it is "
                            "taken as at the last that is",
                            name, std::abs(by), by > 0.0 ? "warmer" : "colder"),
                "Add a sentence that says what it keeps there."));
    }

    std::vector<std::string> names_;                 ///< of states, as loads name them
    std::vector<std::vector<std::string>> statesOf_; ///< of each load
};

} // namespace

void readLoads(const Model& model, Structure& structure, Findings& findings)
{
    LoadReader(structure, findings).read(model);
}

} // namespace undisona
