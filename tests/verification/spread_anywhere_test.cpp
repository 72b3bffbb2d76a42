// Any mass and any bed on members, sheet and solids of every form: what it adds up to in the six rigid motions of the
// whole, against the integral over the place itself; and frequencies that do not know how the whole is turned.
#include "core/system/assemble.hpp"
#include "core/system/rigid_mass.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

using namespace undisona;

namespace {

constexpr int eachWay = 160; // steps of the integrals below

struct Sample {
    Eigen::Vector3d place;
    double amount; ///< m of a line, m2 of an area, m3 of a volume
};
using Samples = std::vector<Sample>;

Samples along(double from, double to, const std::function<Eigen::Vector3d(double)>& at)
{
    Samples list;
    for (int step = 0; step < 4 * eachWay; ++step) {
        const double width = (to - from) / (4 * eachWay), t = from + (step + 0.5) * width;
        list.push_back({at(t), (at(t + width / 2) - at(t - width / 2)).norm()});
    }
    return list;
}

Samples over(double u, double v, const std::function<Eigen::Vector3d(double, double)>& at)
{
    Samples list;
    const double du = u / eachWay, dv = v / eachWay;
    for (int i = 0; i < eachWay; ++i)
        for (int j = 0; j < eachWay; ++j) {
            const double a = (i + 0.5) * du, b = (j + 0.5) * dv;
            list.push_back(
                {at(a, b),
                 (at(a + du / 2, b) - at(a - du / 2, b)).cross(at(a, b + dv / 2) - at(a, b - dv / 2)).norm()});
        }
    return list;
}

Samples within(double u, double v, double w, const std::function<Eigen::Vector3d(double, double, double)>& at)
{
    constexpr int steps = 40;
    Samples list;
    const double du = u / steps, dv = v / steps, dw = w / steps;
    for (int i = 0; i < steps; ++i)
        for (int j = 0; j < steps; ++j)
            for (int k = 0; k < steps; ++k) {
                const double a = (i + 0.5) * du, b = (j + 0.5) * dv, c = (k + 0.5) * dw;
                constexpr double h = 1e-3; // of a step, so that curves stay curves
                const Eigen::Vector3d x = at(a + h * du, b, c) - at(a - h * du, b, c),
                                      y = at(a, b + h * dv, c) - at(a, b - h * dv, c),
                                      z = at(a, b, c + h * dw) - at(a, b, c - h * dw);
                list.push_back({at(a, b, c), std::abs(x.cross(y).dot(z)) / (8.0 * h * h * h)});
            }
    return list;
}

Samples operator+(Samples one, const Samples& other)
{
    one.insert(one.end(), other.begin(), other.end());
    return one;
}

double total(const Samples& samples)
{
    double sum = 0.0;
    for (const auto& sample : samples)
        sum += sample.amount;
    return sum;
}

/// Displacements of a place by the six motions of the origin.
Eigen::Matrix<double, 3, 6> rigidAt(const Eigen::Vector3d& p)
{
    Eigen::Matrix<double, 3, 6> u;
    u << 1, 0, 0, 0, p.z(), -p.y(), 0, 1, 0, -p.z(), 0, p.x(), 0, 0, 1, p.y(), -p.x(), 0;
    return u;
}

Matrix6 resultant(const Samples& samples, const Eigen::Vector3d& perAmount)
{
    Matrix6 sum = Matrix6::Zero();
    for (const auto& [place, amount] : samples)
        sum += rigidAt(place).transpose() * (amount * perAmount).asDiagonal() * rigidAt(place);
    return sum;
}

/// What a sentence spreads, where, and how much of it in each direction there should be.
struct Spread {
    std::string kind;
    Words words;
    Samples where;
    Eigen::Vector3d perAmount;
};

struct Body {
    std::string name;
    SaidModel said;
    std::vector<Spread> spreads;
    double curved = 0.0; ///< how far moments may be off by chords in place of curves
    bool filled = false; ///< with tetrahedra, which lie otherwise when it is turned: as far as meshes may be off
};

/// In every direction, and in two of them alone.
void addMass(Body& body, const std::string& kind, Words words, const Samples& where, double perAmount)
{
    body.spreads.push_back({kind, words, where, Eigen::Vector3d::Constant(perAmount)});
    words["only"] = "x z";
    body.spreads.push_back({kind, words, where, {perAmount, 0.0, perAmount}});
}
void addBed(Body& body, const std::string& kind, Words words, const Samples& where, double perAmount)
{
    words["directions"] = "x y z";
    body.spreads.push_back({kind, words, where, Eigen::Vector3d::Constant(perAmount)});
    words["directions"] = "z";
    body.spreads.push_back({kind, words, where, {0.0, 0.0, perAmount}});
}

void addOfSheet(Body& body, const std::string& name, const Samples& area, const Samples& edges, const std::string& pick)
{
    addMass(body, "mass-spread", {{"where", name}, {"mass", "12 kg/m2"}}, area, 12.0);
    addMass(body, "mass-spread", {{"where", name}, {"mass", "30 kg"}}, area, 30.0 / total(area));
    addBed(body, "bed", {{"where", name}, {"stiffness", "2 MN/m3"}}, area, 2e6);
    addMass(body, "mass-spread", {{"where", pick}, {"mass", "1.5 kg/m"}}, edges, 1.5);
    addBed(body, "bed", {{"where", pick}, {"stiffness", "5 MN/m2"}}, edges, 5e6);
}

void addOfFaces(Body& body, const std::string& pick, const Samples& area)
{
    addMass(body, "mass-spread", {{"where", pick}, {"mass", "20 kg"}}, area, 20.0 / total(area));
    addBed(body, "bed", {{"where", pick}, {"stiffness", "500 MN/m3"}}, area, 5e8);
}

void addOfSolid(Body& body, const std::string& name, const Samples& volume)
{
    addMass(body, "mass-spread", {{"where", name}, {"mass", "400 kg/m3"}}, volume, 400.0);
    addMass(body, "mass-spread", {{"where", name}, {"mass", "7 kg"}}, volume, 7.0 / total(volume));
    addBed(body, "bed", {{"where", name}, {"stiffness", "3 GN/m4"}}, volume, 3e9);
    addBed(body, "bed", {{"where", name}, {"stiffness", "2 kN/mm"}}, volume, 2e6 / total(volume));
}

Body member()
{
    Body body{"member", steel(), {}};
    body.said.say(
        "run", {{"name", "Beam"}, {"from", "0.2, 0, 0 m"}, {"to", "2, 1, 0.5 m"}, {"section", "rectangle 40x20 mm"}});
    const auto line = along(0, 1, [](double t) { return Eigen::Vector3d(0.2 + 1.8 * t, t, 0.5 * t); });
    addMass(body, "mass-spread", {{"where", "Beam"}, {"mass", "3.2 kg/m"}}, line, 3.2);
    addMass(body, "mass-spread", {{"where", "Beam"}, {"mass", "10 kg"}}, line, 10.0 / total(line));
    addBed(body, "bed", {{"where", "Beam"}, {"stiffness", "80 kN/m2"}}, line, 8e4);
    body.spreads.push_back({"coating",
                            {{"where", "Beam"}, {"thickness", "5 mm"}, {"density", "1000 kg/m3"}},
                            line,
                            Eigen::Vector3d::Constant((0.12 + pi * 0.005) * 0.005 * 1000.0)});
    addBed(body, "bed", {{"where", "Beam"}, {"stiffness", "2 kN/mm"}}, line, 2e6 / total(line));
    return body;
}

Body plate()
{
    Body body{"plate", steel(), {}};
    body.said.say("plate", {{"name", "Deck"},
                            {"length", "0.6 m"},
                            {"width", "0.4 m"},
                            {"at", "0.1, 0.2, 0.3 m"},
                            {"along", "3, 0, 4"},
                            {"towards", "0, 1, 0"},
                            {"size", "0.1 m"}});
    const auto at = [](double u, double v) { return Eigen::Vector3d(0.1 + 0.6 * u, 0.2 + v, 0.3 + 0.8 * u); };
    addOfSheet(
        body, "Deck", over(0.6, 0.4, at),
        along(0, 0.6, [&](double u) { return at(u, 0.0); }) + along(0, 0.6, [&](double u) { return at(u, 0.4); }) +
            along(0, 0.4, [&](double v) { return at(0.0, v); }) + along(0, 0.4, [&](double v) { return at(0.6, v); }),
        "edges of Deck");
    const auto area = over(0.6, 0.4, at);
    const Words ice{{"where", "Deck"}, {"thickness", "5 mm"}, {"density", "1000 kg/m3"}};
    body.spreads.push_back({"coating", ice, area, Eigen::Vector3d::Constant(5.0)});
    Words around = ice;
    around["sides"] = "both sides";
    body.spreads.push_back({"coating", around, area, Eigen::Vector3d::Constant(10.0)});
    return body;
}

Body ring()
{
    Body body{"ring", steel(), {}, 1e-2};
    body.said.say("disc", {{"name", "Ring"},
                           {"diameter", "0.6 m"},
                           {"inner", "0.2 m"},
                           {"at", "0, 0, 0.5 m"},
                           {"facing", "0, 1, 0"},
                           {"size", "25 mm"}});
    const auto at = [](double r, double turn) {
        return Eigen::Vector3d((0.1 + r) * std::cos(turn), 0.0, 0.5 + (0.1 + r) * std::sin(turn));
    };
    addOfSheet(body, "Ring", over(0.2, 2 * pi, at), along(0, 2 * pi, [&](double turn) { return at(0.0, turn); }),
               "rims of Ring");
    return body;
}

/// Open at both ends; its edges are two circles.
Body tube()
{
    Body body{"tube", steel(), {}, 6e-3};
    body.said.say("cylinder-shell", {{"name", "Tube"},
                                     {"diameter", "1 m"},
                                     {"length", "0.8 m"},
                                     {"at", "0, 0, 0 m"},
                                     {"along", "0, 0, 1"},
                                     {"angle", "360 deg"}});
    const auto at = [](double turn, double z) {
        return Eigen::Vector3d(0.5 * std::cos(turn), 0.5 * std::sin(turn), z);
    };
    addOfSheet(body, "Tube", over(2 * pi, 0.8, at),
               along(0, 2 * pi, [&](double turn) { return at(turn, 0.0); }) +
                   along(0, 2 * pi, [&](double turn) { return at(turn, 0.8); }),
               "edges of Tube");
    return body;
}

Body dome()
{
    Body body{"dome", steel(), {}, 8e-3};
    body.said.say("dome", {{"name", "Head"}, {"diameter", "0.6 m"}, {"height", "0.1 m"}, {"along", "1, 0, 0"}});
    const double radius = (0.3 * 0.3 + 0.1 * 0.1) / 0.2, widest = std::asin(0.3 / radius);
    const auto at = [=](double polar, double turn) {
        return Eigen::Vector3d(radius * std::cos(polar) - (radius - 0.1), radius * std::sin(polar) * std::cos(turn),
                               radius * std::sin(polar) * std::sin(turn));
    };
    addOfSheet(body, "Head", over(widest, 2 * pi, at), along(0, 2 * pi, [&](double turn) { return at(widest, turn); }),
               "edges of Head");
    return body;
}

Body box(const std::string& elements)
{
    Body body{"box of " + elements, steel(), {}, 0.0, elements == "tetrahedra"};
    body.said
        .say("solid-box", {{"name", "Block"},
                           {"x", "0.5 m"},
                           {"y", "0.3 m"},
                           {"z", "0.2 m"},
                           {"at", "0.1, 0, -0.1 m"},
                           {"size", "0.15 m"}})
        .say("solid-elements", {{"what", "Block"}, {"elements", elements}});
    const auto side = [](const Eigen::Vector3d& from, const Eigen::Vector3d& u, const Eigen::Vector3d& v) {
        return over(1, 1, [=](double a, double b) { return Eigen::Vector3d(from + a * u + b * v); });
    };
    const Eigen::Vector3d low(0.1, 0, -0.1), x(0.5, 0, 0), y(0, 0.3, 0), z(0, 0, 0.2);
    addOfFaces(body, "faces at x = 0.1 m of Block", side(low, y, z));
    addOfFaces(body, "faces of Block",
               side(low, y, z) + side(low + x, y, z) + side(low, x, z) + side(low + y, x, z) + side(low, x, y) +
                   side(low + z, x, y));
    addOfSolid(body, "Block", within(1, 1, 1, [=](double a, double b, double c) {
                   return Eigen::Vector3d(low + a * x + b * y + c * z);
               }));
    body.spreads.push_back({"coating",
                            {{"where", "faces at x = 0.1 m"}, {"thickness", "5 mm"}, {"density", "1000 kg/m3"}},
                            side(low, y, z),
                            Eigen::Vector3d::Constant(5.0)});
    addMass(body, "mass-spread", {{"where", "edge nearest to 0.35 0 -0.1 m"}, {"mass", "6 kg"}},
            along(0, 1, [=](double t) { return Eigen::Vector3d(low + t * x); }), 12.0);
    return body;
}

Body sleeve(const std::string& elements)
{
    Body body{"sleeve of " + elements, steel(), {}, 3e-3, elements == "tetrahedra"};
    body.said
        .say("solid-cylinder",
             {{"name", "Sleeve"}, {"diameter", "0.2 m"}, {"inner", "0.1 m"}, {"length", "0.3 m"}, {"along", "0, 1, 0"}})
        .say("solid-elements", {{"what", "Sleeve"}, {"elements", elements}});
    const auto wall = [](double r) {
        return over(2 * pi, 0.3,
                    [=](double turn, double y) { return Eigen::Vector3d(r * std::cos(turn), y, r * std::sin(turn)); });
    };
    const auto end = [](double y) {
        return over(0.05, 2 * pi, [=](double r, double turn) {
            return Eigen::Vector3d((0.05 + r) * std::cos(turn), y, (0.05 + r) * std::sin(turn));
        });
    };
    addOfFaces(body, "faces of radius 50 mm of Sleeve", wall(0.05));
    addOfFaces(body, "faces of Sleeve", wall(0.05) + wall(0.1) + end(0.0) + end(0.3));
    addOfSolid(body, "everything", within(0.05, 2 * pi, 0.3, [](double r, double turn, double y) {
                   return Eigen::Vector3d((0.05 + r) * std::cos(turn), y, (0.05 + r) * std::sin(turn));
               }));
    return body;
}

Body ball()
{
    Body body{"ball", steel(), {}, 3e-3, true};
    body.said.say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.2 m"}, {"at", "0.3, 0, 0 m"}});
    addOfFaces(body, "faces of Ball", over(pi, 2 * pi, [](double polar, double turn) {
                   return Eigen::Vector3d(0.3 + 0.1 * std::sin(polar) * std::cos(turn),
                                          0.1 * std::sin(polar) * std::sin(turn), 0.1 * std::cos(polar));
               }));
    return body;
}

std::vector<Body> bodies()
{
    return {member(),
            plate(),
            ring(),
            tube(),
            dome(),
            box("tetrahedra"),
            box("8-node bricks"),
            box("20-node bricks"),
            sleeve("tetrahedra"),
            sleeve("20-node bricks"),
            ball()};
}

/// The six rigid motions about the origin by the unknowns of a model that nothing holds or ties.
Eigen::MatrixXd rigidMotions(const System& system, const FrameMesh& mesh)
{
    Eigen::MatrixXd motions = Eigen::MatrixXd::Zero(system.size(), 6);
    for (std::size_t node = 0; node < mesh.nodes.size(); ++node) {
        const auto& own = system.motions.nodes[node];
        Matrix6 wanted = Matrix6::Identity();
        wanted.topRows<3>() = rigidAt(mesh.nodes[node].place);
        const Eigen::MatrixXd values = own.basis.colPivHouseholderQr().solve(wanted);
        for (std::size_t at = 0; at < own.unknowns.size(); ++at)
            motions.row(own.unknowns[at]) = values.row(Eigen::Index(at));
    }
    return motions;
}

struct Assembled {
    Matrix6 stiffness = Matrix6::Zero(), mass = Matrix6::Zero(), told = Matrix6::Zero();
    double toldMass = 0.0;
};

/// What each sentence brings in rigid motions, by its parts of K and M, and what the book of masses says of it.
std::map<std::string, Assembled> broughtBy(const SaidModel& said)
{
    const Structure structure = said.structure();
    const FrameMesh mesh = meshOf(structure, proposeSplits(structure, 100.0), proposeSizes(structure, 100.0));
    Progress progress;
    const System system = assemble(structure, mesh, progress);
    const Eigen::MatrixXd motions = rigidMotions(system, mesh);
    std::map<std::string, Assembled> sums;
    Eigen::MatrixXd room;
    for (const auto& part : system.parts) {
        Assembled& sum = sums[part.sentence];
        const Eigen::MatrixXd own = motions(part.unknowns, Eigen::all);
        if (part.isStiff()) sum.stiffness += own.transpose() * system.stiffnessOf(part, room) * own;
        if (part.isHeavy()) sum.mass += own.transpose() * system.massOf(part, room) * own;
    }
    for (const auto& [sentence, told] : massBySentence(structure, mesh)) {
        sums[sentence].told = told.rigid;
        sums[sentence].toldMass = told.mass;
    }
    return sums;
}

Eigen::Matrix3d forces(const Matrix6& rigid)
{
    return rigid.topLeftCorner<3, 3>();
}
Eigen::Matrix3d turns(const Matrix6& rigid)
{
    return rigid.bottomRightCorner<3, 3>();
}

/// Each block within its share: what translates to rounding, moments as the curves allow.
void expectSame(const Matrix6& own, const Matrix6& wanted, double moments, const std::string& where)
{
    const Matrix6 off = own - wanted;
    const double force = forces(wanted).norm(), turning = turns(wanted).norm();
    EXPECT_LT(forces(off).norm(), 1e-4 * force) << where;
    EXPECT_LT(off.topRightCorner(3, 3).norm(), moments * std::sqrt(force * turning)) << where;
    EXPECT_LT(turns(off).norm(), moments * turning) << where << "\n" << own << "\nwanted\n" << wanted;
}

} // namespace

TEST(SpreadAnywhere, AddsUpToTheIntegralOverItsPlace)
{
    for (const Body& body : bodies()) {
        SaidModel said = body.said;
        std::vector<std::string> sentences; // beside the spreads
        std::set<std::string> known;
        for (const auto& own : said.model().sentences())
            known.insert(own->id);
        for (const Spread& spread : body.spreads) {
            said.say(spread.kind, spread.words);
            for (const auto& own : said.model().sentences())
                if (known.insert(own->id).second) sentences.push_back(own->id);
        }
        ASSERT_EQ(said.problems(), "") << body.name;
        ASSERT_EQ(sentences.size(), body.spreads.size());
        const auto consistent = broughtBy(said);
        said.say("mass-matrix", {{"matrix", "lumped"}});
        const auto lumped = broughtBy(said);
        for (std::size_t at = 0; at < sentences.size(); ++at) {
            const Spread& spread = body.spreads[at];
            std::string where = body.name + ", " + spread.kind;
            for (const auto& [key, value] : spread.words)
                where += ", " + key + " " + value;
            const bool isMass = !spread.words.contains("stiffness");
            const Matrix6 wanted = resultant(spread.where, spread.perAmount);
            const Assembled &own = consistent.at(sentences[at]), &atNodes = lumped.at(sentences[at]);
            expectSame(isMass ? own.mass : own.stiffness, wanted, 2e-4 + body.curved, where);
            EXPECT_TRUE((isMass ? own.stiffness : own.mass).isZero()) << where;
            if (!isMass) continue;
            expectSame(own.told, own.mass, 1e-9, where + ": the book of masses");
            EXPECT_NEAR(own.toldMass, spread.perAmount.maxCoeff() * total(spread.where), 1e-4 * own.toldMass) << where;
            EXPECT_LT(forces(atNodes.mass - wanted).norm(), 1e-4 * forces(wanted).norm()) << where << ", lumped";
            expectSame(atNodes.told, atNodes.mass, 1e-9, where + ": the book of lumped masses");
        }
    }
}

TEST(SpreadAnywhere, FrequenciesDoNotKnowHowTheWholeIsTurned)
{
    for (const Body& body : bodies()) {
        SaidModel said = body.said;
        for (const Spread& spread : body.spreads)
            if (spread.perAmount.isApproxToConstant(spread.perAmount[0])) said.say(spread.kind, spread.words);
        said.say("lowest", {{"count", "8"}});
        SaidModel turned;
        for (const auto& sentence : said.model().sentences()) {
            turned.add(*sentence);
            if (sentence->kind->group != Group::shape) continue;
            turned.say("turned", {{"what", "everything"}, {"angle", "40 deg"}, {"axis", "y"}})
                .say("turned", {{"what", "everything"}, {"angle", "-25 deg"}, {"axis", "x"}, {"through", "1, 0, 2 m"}});
        }
        // Places that are picked by x = 0.1 m are not there any more.
        if (turned.problems().find("faces at") != std::string::npos) continue;
        ASSERT_EQ(turned.problems(), "") << body.name;
        const auto one = said.solvedUnjudged(), other = turned.solvedUnjudged();
        ASSERT_EQ(one->modes.size(), other->modes.size()) << body.name;
        for (std::size_t at = 0; at < one->modes.size(); ++at)
            EXPECT_NEAR(other->modes[at].frequency, one->modes[at].frequency,
                        (body.filled ? 6e-3 : 1e-6) * one->modes.back().frequency)
                << body.name << ", mode " << at + 1;
    }
}

TEST(SpreadAnywhere, ASoftBedLetsAStiffBodyBounceAndRock)
{
    struct Case {
        SaidModel said;
        std::vector<double> hertz; ///< of what the bed resists
    };
    const auto hertz = [](double stiffness, double mass) { return std::sqrt(stiffness / mass) / (2.0 * pi); };
    std::vector<Case> cases;
    // a by b by h on k per area: k a b / m up and down, k b a^3 / 12 over m (a^2 + h^2) / 12 about its own centre.
    constexpr double a = 0.5, b = 0.3, h = 0.2, k = 1e6, mass = 8000.0 * a * b * h;
    for (const char* elements : {"tetrahedra", "8-node bricks", "20-node bricks"})
        for (const char* matrix : {"consistent", "lumped"}) {
            SaidModel said = steel();
            said.say("solid-box",
                     {{"name", "Block"}, {"x", "0.5 m"}, {"y", "0.3 m"}, {"z", "0.2 m"}, {"size", "0.1 m"}})
                .say("solid-elements", {{"what", "Block"}, {"elements", elements}})
                .say("mass-matrix", {{"matrix", matrix}})
                .say("bed", {{"where", "faces at z = 0 m of Block"}, {"stiffness", "1 MN/m3"}, {"directions", "z"}});
            if (matrix == std::string("consistent"))
                cases.push_back({said,
                                 {hertz(k * a * b, mass), hertz(k * b * a * a * a, mass * (a * a + h * h)),
                                  hertz(k * a * b * b * b, mass * (b * b + h * h))}});
            else
                cases.push_back({said, {hertz(k * a * b, mass)}});
        }
    {
        SaidModel said = steel();
        said.say("plate", {{"name", "Deck"}, {"length", "0.5 m"}, {"width", "0.3 m"}, {"thickness", "40 mm"}})
            .say("bed", {{"where", "Deck"}, {"stiffness", "1 MN/m3"}, {"directions", "z"}})
            .say("mass-spread", {{"where", "Deck"}, {"mass", "80 kg/m2"}});
        constexpr double t = 0.04, own = 8000.0 * t + 80.0, turning = 8000.0 * t * t * t; // 12 times the rotary inertia
        cases.push_back(
            {said, {hertz(k, own), hertz(k * a * a, own * a * a + turning), hertz(k * b * b, own * b * b + turning)}});
    }
    {
        SaidModel said = steel();
        said.say("run",
                 {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "0.5, 0, 0 m"}, {"section", "rectangle 40x20 mm"}})
            .say("bed", {{"where", "Beam"}, {"stiffness", "10 kN/m2"}, {"directions", "z"}})
            .say("mass-spread", {{"where", "Beam"}, {"mass", "2 kg"}});
        constexpr double perLength = 8000.0 * 8e-4 + 4.0;
        cases.push_back({said, {hertz(1e4, perLength)}});
    }
    for (auto& [said, wanted] : cases) {
        said.say("lowest", {{"count", "6"}});
        ASSERT_EQ(said.problems(), "");
        const auto solution = said.solvedUnjudged();
        for (const double own : wanted) {
            double nearest = 1e300;
            for (const auto& mode : solution->modes)
                nearest = std::min(nearest, std::abs(mode.frequency / own - 1.0));
            EXPECT_LT(nearest, 1e-3) << own << " Hz is a mode";
        }
    }
}
