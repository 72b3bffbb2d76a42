#include "tests/chance_models.hpp"

#include "core/base/number_text.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

#include <random>

namespace undisona {

namespace {

class Chance {
public:
    explicit Chance(unsigned number) : engine_(number * 2654435761u + 17u) {}

    int below(int count) { return static_cast<int>(engine_() % static_cast<unsigned>(count)); }
    bool with(double chance) { return double(engine_() % 10000u) < 1e4 * chance; }
    template <class T>
    T oneOf(std::initializer_list<T> list)
    {
        return *(list.begin() + below(static_cast<int>(list.size())));
    }
    std::string oneOf(std::initializer_list<const char*> list)
    {
        return *(list.begin() + below(static_cast<int>(list.size())));
    }
    std::string someOf(std::vector<std::string> list, int most)
    {
        std::string all;
        for (int count = 1 + below(std::min<int>(most, static_cast<int>(list.size()))); count > 0; --count) {
            const auto at = list.begin() + below(static_cast<int>(list.size()));
            all += (all.empty() ? "" : ", ") + *at;
            list.erase(at);
        }
        return all;
    }
    std::string directions()
    {
        std::string all;
        for (const char* direction : {"x", "y", "z", "rx", "ry", "rz"})
            if (with(0.5)) all += (all.empty() ? "" : " ") + std::string(direction);
        return all.empty() ? "x y z" : all;
    }
    double place() { return oneOf({0.0, 0.0, 1.0, 0.5, 2.0, -1.0, 0.01 * double(below(400) - 200)}); }

private:
    std::mt19937 engine_;
};

class Maker {
public:
    Maker(ChanceFamily family, unsigned number) : family_(family), chance_(number), beside_(number + 70001u) {}

    SaidModel made()
    {
        if (family_ == ChanceFamily::frame)
            frame();
        else if (family_ == ChanceFamily::sheet)
            sheet();
        else
            solid();
        if (family_ != ChanceFamily::frame && beside_.with(0.4)) lid();
        if (family_ != ChanceFamily::frame && beside_.with(0.3)) post();
        joints();
        supports();
        masses();
        asks();
        return std::move(said_);
    }

private:
    void frame()
    {
        const int count = 2 + chance_.below(6);
        std::string rows, members;
        std::set<std::array<double, 3>> taken;
        for (int at = 0; at < count; ++at) {
            std::array<double, 3> place{chance_.place(), chance_.place(), chance_.place()};
            if (!taken.insert(place).second) { // now and then two points lie at one place
                if (!chance_.with(0.2)) place[0] += 0.7 + 0.1 * at;
            }
            names_.push_back(std::string(1, static_cast<char>('a' + at)));
            rows += fmt::format("{}{}|{:g} m|{:g} m|{:g} m", rows.empty() ? "" : "\n", names_.back(), place[0],
                                place[1], place[2]);
        }
        for (int at = 0; at + 1 < count; ++at)
            members_.push_back("m" + std::to_string(at)),
                members += fmt::format("{}{}|{}|{}", at ? "\n" : "", members_.back(), names_[std::size_t(at)],
                                       names_[std::size_t(at) + 1]);
        for (int more = chance_.below(4); more > 0; --more) {
            const auto one = names_[std::size_t(chance_.below(count))],
                       other = names_[std::size_t(chance_.below(count))];
            if (one == other) continue;
            members_.push_back("x" + std::to_string(more));
            members += fmt::format("\n{}|{}|{}", members_.back(), one, other);
        }
        said_.say("points", {{"rows", rows}})
            .say("members",
                 {{"name", "Frame"},
                  {"rows", members},
                  {"section", chance_.oneOf({"tube 60.3x4 mm", "round 16 mm", "angle 50x50x5 mm",
                                             "channel 80x45x6x8 mm", "I 160x82x5x7.4 mm", "box 100x100x5 mm"})}})
            .say("material");
        wholes_ = names_;
        if (chance_.with(0.3))
            said_.say("release", {{"ends", chance_.oneOf({"both ends", "the first end", "the second end"})},
                                  {"members", chance_.with(0.5) ? "Frame" : chance_.someOf(members_, 1)},
                                  {"directions", chance_.oneOf({"ry rz", "rx", "rz", "x", "ry rz rx"})}});
        if (chance_.with(0.3)) {
            Words words{{"members", chance_.with(0.5) ? "Frame" : chance_.someOf(members_, 1)},
                        {"offset", fmt::format("{}, {}, {} mm", chance_.oneOf({"0", "30"}), chance_.oneOf({"0", "-50"}),
                                               chance_.oneOf({"0", "75", "1000"}))}};
            if (chance_.with(0.3)) words["far"] = "0, 10, 20 mm";
            said_.say("offset", words);
        }
        if (chance_.with(0.2)) said_.say("rods", {{"members", chance_.someOf(members_, 1)}});
        if (chance_.with(0.2))
            said_.say(
                "bed",
                {{"where", "Frame"}, {"stiffness", "10 kN/m2"}, {"directions", chance_.oneOf({"z", "x y z", "x"})}});
    }

    /// One or two plates, the second standing on the first, with places of their own to hold and tie.
    void sheet()
    {
        said_.say("plate", {{"name", "Deck"},
                            {"length", "0.6 m"},
                            {"width", "0.4 m"},
                            {"thickness", chance_.oneOf({"2 mm", "8 mm"})},
                            {"size", "0.1 m"}});
        if (chance_.with(0.5))
            said_.say("plate", {{"name", "Wall"},
                                {"length", "0.6 m"},
                                {"width", "0.3 m"},
                                {"towards", "0, 0, 1"},
                                {"at", "0, 0.2, 0 m"},
                                {"thickness", "4 mm"},
                                {"size", "0.1 m"}});
        said_.say("points", {{"rows", "t|0.3 m|0.2 m|0.5 m"}});
        names_ = {"Deck.1", "Deck.2", "Deck.3", "Deck.4", "t"};
        wholes_ = {"edges at x = 0 m", "edges at y = 0 m", "edges of Deck",         "Deck.1, Deck.2",
                   "Deck.1",           "Deck.3, Deck.4",   "Deck.2, Deck.3, Deck.4"};
        said_.say("material");
        if (chance_.with(0.2)) said_.say("mass-spread", {{"where", "Deck"}, {"mass", "20 kg/m2"}});
        if (chance_.with(0.2)) said_.say("bed", {{"where", "Deck"}, {"stiffness", "1 MN/m3"}, {"directions", "z"}});
    }

    void solid()
    {
        said_.say("solid-box", {{"name", "Block"}, {"x", "0.6 m"}, {"y", "0.4 m"}, {"z", "0.1 m"}, {"size", "0.2 m"}});
        if (chance_.with(0.6))
            said_.say("solid-elements", {{"what", "Block"},
                                         {"elements", chance_.oneOf({"tetrahedra", "20-node bricks", "8-node bricks"})},
                                         {"through", "2"}});
        corners();
        wholes_ = {"faces at x = 0 m of Block", "faces at z = 0 m of Block", "p, q", "p", "r, s", "q, r, s"};
        said_.say("material");
        if (chance_.with(0.2))
            said_.say("bed", {{"where", "faces at z = 0 m of Block"}, {"stiffness", "10 MN/m3"}, {"directions", "z"}});
    }

    /// A second part that lies on the first one or a little above it, joined by their surfaces or an edge.
    void lid()
    {
        const bool plate = beside_.with(0.5);
        const double below = family_ == ChanceFamily::solid ? 0.1 : 0.0;
        const double gap =
            plate && family_ == ChanceFamily::sheet ? beside_.oneOf({0.001, 0.02}) : beside_.oneOf({0.0, 0.001, 0.02});
        Words words{{"name", "Lid"},
                    {plate ? "length" : "x", beside_.oneOf({"0.3 m", "0.9 m"})},
                    {plate ? "width" : "y", beside_.oneOf({"0.2 m", "0.4 m"})},
                    {plate ? "thickness" : "z", beside_.oneOf({"6 mm", "50 mm"})},
                    {"at", fmt::format("{}, {}, {} m", beside_.oneOf({"0.1", "0"}), beside_.oneOf({"0.05", "0"}),
                                       shortest(below + gap))},
                    {"size", beside_.oneOf({"0.07 m", "0.15 m"})}};
        said_.say(plate ? "plate" : "solid-box", words);
        wholes_.push_back("Lid");
        const char* first = family_ == ChanceFamily::solid ? "Block" : "Deck";
        Words joint{{"what", "Lid"}, {"other", first}};
        if (beside_.with(0.3)) std::swap(joint["what"], joint["other"]);
        if (plate && gap > 0.0 && beside_.with(0.3)) {
            joint = {{"what", "edges of Lid"}, {"other", first}};
            if (beside_.with(0.5)) joint["turning"] = "hinged";
            joints_.emplace_back("join", joint);
        } else if (beside_.with(0.5)) {
            joints_.emplace_back("join", joint);
        } else {
            joint["across"] = beside_.oneOf({"0.05 N/mm3", "10 N/mm3"});
            joint["along"] = beside_.oneOf({"0.01 N/mm3", "3 N/mm3"});
            joints_.emplace_back("layer", joint);
        }
    }

    /// A member that stands on the part or lies along it, and a point in the middle of something.
    void post()
    {
        const bool lies = beside_.with(0.4);
        const double foot = (family_ == ChanceFamily::solid ? 0.1 : 0.0) + beside_.oneOf({0.0, 0.002});
        said_
            .say("points", {{"rows", fmt::format("u|0.2 m|0.1 m|{} m\nv|{} m|0.3 m|{} m", shortest(foot),
                                                 lies ? "0.5" : "0.25", shortest(foot + (lies ? 0.0 : 0.4)))}})
            .say("members", {{"name", "Post"},
                             {"rows", "Post|u|v"},
                             {"section", beside_.oneOf({"round 30 mm", "angle 50x50x5 mm", "tube 60.3x4 mm"})}});
        Words joint{{"what", "Post"}, {"other", family_ == ChanceFamily::solid ? "Block" : "Deck"}};
        if (beside_.with(0.3)) joint["turning"] = "hinged";
        joints_.emplace_back("join", joint);
        names_.push_back("v");
        if (!beside_.with(0.5)) return;
        joints_.emplace_back("centre", Words{{"name", "hub"},
                                             {"where", family_ == ChanceFamily::solid ? "faces at x = 0 m of Block"
                                                                                      : "edges at x = 0 m of Deck"},
                                             {"how", beside_.oneOf({"tied rigidly to it", "following its mean"})}});
        names_.push_back("hub");
    }

    /// Points at the corners of the part, two of them beside it.
    void corners()
    {
        names_ = {"p", "q", "r", "s", "t"};
        said_.say("points", {{"rows", "p|0 m|0 m|0 m\nq|0.6 m|0 m|0 m\nr|0.6 m|0.4 m|0 m\ns|0 m|0.4 m|0 m\nt|0.3 m|0.2 "
                                      "m|0.5 m"}});
    }

    void joints()
    {
        for (const auto& [kind, words] : joints_)
            said_.say(kind, words);
        for (int count = chance_.oneOf({0, 0, 1, 1, 2}); count > 0; --count) {
            std::vector<std::string> rest = names_;
            const auto lead = rest.begin() + chance_.below(static_cast<int>(rest.size()));
            const std::string to = *lead;
            rest.erase(lead);
            Words words{{"points", chance_.someOf(rest, 4)}, {"to", to}};
            if (chance_.with(0.3)) words["directions"] = chance_.directions();
            if (family_ != ChanceFamily::frame && chance_.with(0.2)) words["points"] = chance_.someOf(wholes_, 1);
            said_.say("rigid", words);
        }
        for (int count = chance_.oneOf({0, 0, 0, 1, 2}); count > 0; --count)
            said_.say("mean", {{"point", chance_.with(0.7) ? names_.back() : chance_.someOf(names_, 1)},
                               {"of", chance_.with(0.5) ? chance_.someOf(names_, 4) : chance_.someOf(wholes_, 1)}});
        if (chance_.with(0.3)) {
            std::vector<std::string> rest = names_;
            const auto first = rest.begin() + chance_.below(static_cast<int>(rest.size()));
            Words words{{"from", *first}, {"kx", "1 kN/mm"}};
            rest.erase(first);
            words["to"] = chance_.someOf(rest, 1);
            for (const char* key : {"ky", "kz"})
                if (chance_.with(0.6)) words[key] = chance_.oneOf({"1 kN/mm", "0.001 kN/mm", "100 kN/mm"});
            if (chance_.with(0.4)) words["krx"] = chance_.oneOf({"1 kN m/rad", "100 kN m/rad"});
            said_.say("spring", words);
        }
    }

    void supports()
    {
        for (int count = chance_.oneOf({0, 1, 1, 2, 3}); count > 0; --count) {
            const bool points = family_ == ChanceFamily::frame;
            Words words{
                {"where", points ? chance_.someOf(names_, 3) : chance_.someOf(wholes_, 1)},
                {"directions", chance_.oneOf({std::string("all"), std::string("x y z"), chance_.directions()})}};
            if (chance_.with(0.2))
                words["x-towards"] = chance_.oneOf({"1, 0.5, 0", "0, 1, 0", "-1, 1, 0.3", "0.3, 0.3, 1"});
            if (points && chance_.with(0.2))
                words[words["directions"] == "all" ? "kz" : "kx"] =
                    chance_.oneOf({"1 kN/mm", "0.001 kN/mm", "1000 kN/mm"});
            if (words.contains("kx") && (" " + words["directions"] + " ").find(" x ") == std::string::npos)
                words.erase("kx");
            said_.say("hold", words);
        }
        if (chance_.with(0.3))
            said_.say("ground-spring",
                      {{"points", chance_.someOf(names_, 3)}, {chance_.oneOf({"kx", "ky", "kz"}), "1 kN/mm"}});
    }

    void masses()
    {
        for (int count = chance_.oneOf({0, 1, 1, 2}); count > 0; --count) {
            Words words{{"mass", chance_.oneOf({"5 kg", "50 kg", "0.1 kg", "1000 kg"})},
                        {"sharing", chance_.oneOf({"on each of", "shared over"})},
                        {"points", chance_.someOf(names_, 3)}};
            if (family_ != ChanceFamily::solid && chance_.with(0.4)) // whose points take no moments
                words["centre"] = fmt::format("{}, {}, {} mm", chance_.oneOf({"0", "100"}),
                                              chance_.oneOf({"0", "-200"}), chance_.oneOf({"0", "300"}));
            if (family_ != ChanceFamily::solid && chance_.with(0.4)) words["inertia"] = "1, 1.5, 2 kg m2";
            if (chance_.with(0.2)) words["only"] = chance_.oneOf({"x", "x y", "z"});
            said_.say("mass", words);
        }
        if (chance_.with(0.15)) said_.say("material-mass", {{"factor", chance_.oneOf({"0 %", "50 %"})}});
    }

    void asks()
    {
        if (chance_.with(0.15)) said_.say("mass-matrix", {{"matrix", "lumped"}});
        if (chance_.with(0.15))
            said_.say("residual-vectors", {{"from", "base accelerations"}, {"directions", "x y z"}});
        if (chance_.with(0.15))
            said_.say("hand-check", {{"load", chance_.oneOf({"force", "moment"})},
                                     {"point", chance_.someOf(names_, 1)},
                                     {"direction", chance_.oneOf({"x", "y", "z"})}});
        switch (chance_.below(6)) {
        case 0:
        case 1:
            said_.say("lowest", {{"count", chance_.oneOf({"1", "3", "8", "40"})}});
            break;
        case 2:
            said_.say("mass-share", {{"share", chance_.oneOf({"90 %", "99.99 %", "100 %"})},
                                     {"of", chance_.oneOf({"movable", "total"})},
                                     {"directions", chance_.oneOf({"x", "x y z", "z"})},
                                     {"most", chance_.oneOf({"5", "80"})}});
            break;
        case 3:
            said_.say("band", {{"from", "5 Hz"}, {"to", "200 Hz"}, {"most", "60"}});
            break;
        case 4:
            said_.say("nearest", {{"count", "4"}, {"frequency", "25 Hz"}});
            break;
        default:
            said_.say("up-to", {{"frequency", "100 Hz"}, {"most", "50"}});
        }
        if (chance_.with(0.1))
            said_.say("weight", {{"load", chance_.oneOf({"2 kN", "300 N"})},
                                 {"where", chance_.someOf(names_, 3)},
                                 {"direction", chance_.oneOf({"0, 0, -1", "0.4, 0, -1"})}});
        if (chance_.with(0.1)) said_.say("mass-acts", {{"directions", chance_.oneOf({"z", "x y", "y"})}});
    }

    ChanceFamily family_;
    Chance chance_, beside_;
    SaidModel said_;
    std::vector<std::pair<std::string, Words>> joints_; ///< that are said before the others
    std::vector<std::string> names_, members_, wholes_;
};

} // namespace

SaidModel chanceModel(ChanceFamily family, unsigned number)
{
    return Maker(family, number).made();
}

std::optional<Model> withStiffSprings(const Model& model, double stiffness, double turning)
{
    const auto pushAlong = [&](Sentence sentence, const Directions& along) {
        const char* keys[6] = {"kx", "ky", "kz", "krx", "kry", "krz"};
        for (std::size_t at = 0; at < 6; ++at)
            if (along.has(static_cast<int>(at)) && !sentence.has(keys[at]))
                sentence =
                    sentence.with(keys[at], at < 3 ? quantityIn(stiffness, QuantityKind::stiffness, "N/m")
                                                   : quantityIn(turning, QuantityKind::turningStiffness, "N m/rad"));
        return sentence;
    };
    Model soft;
    int springs = 0;
    std::vector<std::array<std::string, 2>> tied; ///< places of its own that a leading point has
    const Frame frame = buildStructure(model).structure.frame;
    const auto isPoint = [&](const std::string& name) { return frame.pointNamed(name) >= 0; };
    for (const auto& sentence : model.sentences()) {
        if (sentence->kind->key == "rigid") {
            for (const auto& words : splitAt(sentence->text("points"), ",")) {
                const std::string point(trimmed(words));
                if (!isPoint(point)) return std::nullopt;
                std::string to = sentence->text("to");
                if (to == point) continue;
                Sentence spring = newSentence(*kindNamed("spring"), fmt::format("stiff-{}", ++springs));
                if (sentence->has("directions")) { // from a place of the leader's that lies where the other one is
                    if (frame.faces && frame.faces->vertexOfPoint[std::size_t(frame.pointNamed(point))] >= 0)
                        return std::nullopt; // where it would be joined to the part
                    const auto& at = frame.points[std::size_t(frame.pointNamed(point))].place;
                    const std::string beside = fmt::format("beside{}", springs);
                    soft = SaidModel(soft)
                               .say("points", {{"rows", fmt::format("{}|{:.17g} m|{:.17g} m|{:.17g} m", beside, at.x(),
                                                                    at.y(), at.z())}})
                               .model();
                    tied.push_back({beside, to});
                    to = beside;
                    spring = pushAlong(spring, sentence->directions("directions"));
                } else {
                    spring = pushAlong(spring, Directions{0x3f});
                }
                soft = soft.inserted(spring.with("from", to).with("to", point));
            }
            continue;
        }
        if (sentence->kind->key == "hold") {
            if (sentence->text("where").find("edges") == 0 || sentence->text("where").find("faces") == 0)
                return std::nullopt;
            soft = soft.inserted(pushAlong(*sentence, sentence->directions("directions")));
            continue;
        }
        soft = soft.inserted(*sentence);
    }
    SaidModel whole(std::move(soft));
    for (const auto& [beside, to] : tied)
        whole.say("rigid", {{"points", beside}, {"to", to}});
    return whole.model();
}

} // namespace undisona
