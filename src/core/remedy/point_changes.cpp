// Changes at places: a mass, a spring to ground, a strut.
#include "core/base/number_text.hpp"
#include "core/model/section_text.hpp"
#include "core/picks/pick.hpp"
#include "core/remedy/candidate.hpp"
#include "core/remedy/free_line.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr std::size_t placesTried = 6; ///< of each kind

/// Nodes on which something may be put: points, and nodes of sheets and of the outside of bodies. Nothing is joined to
/// a member between its ends.
std::vector<int> openNodes(const RemedyCase& of)
{
    const auto& mesh = of.solution.mesh;
    std::vector<bool> open(mesh.nodes.size(), false);
    for (std::size_t point = 0; point < of.solution.structure->frame.points.size(); ++point)
        open[point] = true;
    const auto take = [&](int node) { open[static_cast<std::size_t>(node)] = true; };
    for (const auto& shell : mesh.shells)
        for (std::size_t corner = 0; corner < shell.corners(); ++corner)
            take(shell.nodes[corner]);
    for (const auto& piece : mesh.outer)
        for (std::size_t corner = 0; corner < piece.count(); ++corner)
            take(piece.corners[corner]);
    std::vector<int> nodes;
    for (std::size_t node = 0; node < open.size(); ++node)
        if (open[node] && !of.barred[node]) nodes.push_back(static_cast<int>(node));
    return nodes;
}

const Eigen::Vector3d& placeOf(const RemedyCase& of, int node)
{
    return of.solution.mesh.nodes[static_cast<std::size_t>(node)].place;
}

bool isNamed(const RemedyCase& of, int node)
{
    return static_cast<std::size_t>(node) < of.solution.structure->frame.points.size();
}

/// The most worth first, apart from each other; where a named point nearby is worth nearly as much, that.
std::vector<int> bestPlaces(const RemedyCase& of, std::vector<int> nodes, const Eigen::VectorXd& worth,
                            std::size_t count)
{
    const double apart = 0.08 * of.solution.structure->frame.span();
    const auto rank = [&](int node) { return worth[node] * (isNamed(of, node) ? 1.05 : 1.0); };
    std::stable_sort(nodes.begin(), nodes.end(), [&](int a, int b) { return rank(a) > rank(b); });
    std::vector<int> chosen;
    for (const int node : nodes) {
        if (chosen.size() == count || !(worth[node] > 1e-6 * worth.maxCoeff())) break;
        const bool free = std::all_of(chosen.begin(), chosen.end(), [&](int other) {
            return (placeOf(of, node) - placeOf(of, other)).norm() > apart;
        });
        if (free) chosen.push_back(node);
    }
    return chosen;
}

std::vector<double> ladder(double least, double most, int steps)
{
    std::vector<double> amounts;
    for (int step = 0; step < steps; ++step)
        amounts.push_back(roundedOn(least * std::pow(most / least, double(step) / steps), true, 2));
    amounts.push_back(most);
    return amounts;
}

std::string stiffnessText(double stiffness)
{
    for (const auto& [least, unit] : {std::pair{1e6, "kN/mm"}, std::pair{1e3, "kN/m"}})
        if (stiffness >= least) return quantityIn(stiffness, QuantityKind::stiffness, unit).text;
    return quantityIn(stiffness, QuantityKind::stiffness, "N/m").text;
}

std::string massText(double mass)
{
    return quantityIn(mass, QuantityKind::mass, "kg").text;
}

Added nothing(const ModifiedModes& in)
{
    return {Eigen::MatrixXd::Zero(in.size(), in.size()), Eigen::MatrixXd::Zero(in.size(), in.size())};
}

/// The sum over the modes that are to move, by node.
Eigen::VectorXd motionSquared(const RemedyCase& of, int axis)
{
    Eigen::VectorXd sum = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(of.solution.mesh.nodes.size()));
    for (const std::size_t mode : of.moved)
        for (Eigen::Index node = 0; node < sum.size(); ++node) {
            const Eigen::Vector3d motion = of.solution.motion(static_cast<int>(node), mode).head<3>();
            sum[node] += axis < 0 ? motion.squaredNorm() : motion[axis] * motion[axis];
        }
    return sum;
}

struct StrutMaterial {
    double modulus, density;
    std::string said; ///< empty: what the model says of everything holds for it too
};

StrutMaterial strutMaterial(const RemedyCase& of)
{
    for (const auto& sentence : of.model.activeIn(Group::material))
        if (sentence->kind->key == "material" && lowered(sentence->text("what")) == "everything" &&
            !of.solution.structure->members.empty()) {
            const auto& made = of.solution.structure->members.front();
            return {made.material->modulus, made.density(), {}};
        }
    const Material& steel = materialLibrary().front();
    return {steel.modulus, steel.density, steel.name};
}

/// Light to heavy: of the order, else those of the model's members, else tubes of usual outer diameters (EN 10220).
std::vector<Section> strutSections(const RemedyCase& of)
{
    std::map<std::string, Section> found;
    const auto take = [&](const std::string& text) {
        const auto read = readSection(text, NumberStyle::file);
        if (const auto* section = std::get_if<Section>(&read)) found.emplace(text, *section);
    };
    for (const auto& text : of.order.sections)
        take(text);
    if (found.empty())
        for (const auto& member : of.solution.structure->frame.members)
            if (found.size() < 6 && looksLikeSection(member.section->text)) take(member.section->text);
    if (found.empty())
        for (const char* text :
             {"tube 33.7x2.6 mm", "tube 48.3x3.2 mm", "tube 60.3x3.2 mm", "tube 76.1x3.6 mm", "tube 114.3x5 mm"})
            take(text);
    std::vector<Section> list;
    for (auto& [text, section] : found) {
        section.text = text;
        list.push_back(section);
    }
    std::sort(list.begin(), list.end(), [](const Section& a, const Section& b) { return a.area < b.area; });
    return list;
}

std::string endName(const RemedyCase& of, int node)
{
    return isNamed(of, node) ? of.solution.structure->frame.points[static_cast<std::size_t>(node)].name
                             : placeText(placeOf(of, node));
}

Candidate strutBetween(const RemedyCase& of, int from, int to, const std::vector<Section>& sections,
                       const StrutMaterial& material, std::size_t number)
{
    const Eigen::Vector3d along = placeOf(of, to) - placeOf(of, from);
    const double length = along.norm();
    const Eigen::Vector3d direction = along / length;
    Candidate strut;
    strut.kind = "strut";
    strut.place = fmt::format("{} to {}", placeWords(of, from), placeWords(of, to));
    strut.steps = true;
    for (std::size_t at = 0; at < sections.size(); ++at)
        strut.amounts.push_back(double(at));
    strut.loads.resize(of.system.size(), 2);
    strut.loads << of.loadAt(to, direction) - of.loadAt(from, direction),
        of.loadAt(to, direction) + of.loadAt(from, direction);
    const auto weight = [=](double at) {
        return material.density * sections[static_cast<std::size_t>(at)].area * length;
    };
    // A rod: EA/L along itself, its consistent mass in all directions (Przemieniecki, Theory of Matrix Structural
    // Analysis, 1968, ch. 11.3).
    strut.add = [=](const ModifiedModes& in, double at) {
        const Eigen::MatrixXd a = in.motionOf(from).topRows<3>(), b = in.motionOf(to).topRows<3>();
        const Eigen::RowVectorXd stretch = direction.transpose() * (b - a);
        const double stiff = material.modulus * sections[static_cast<std::size_t>(at)].area / length;
        Added added{stiff * stretch.transpose() * stretch, {}};
        added.mass =
            weight(at) / 6.0 * (2.0 * (a.transpose() * a + b.transpose() * b) + a.transpose() * b + b.transpose() * a);
        return added;
    };
    strut.adds = weight;
    strut.amountWords = [=](double at) { return sections[static_cast<std::size_t>(at)].text; };
    strut.say = [=, &of](double at) {
        const std::string name = FreeNames(of.model).like(fmt::format("Strut{}", number));
        const std::string& text = sections[static_cast<std::size_t>(at)].text;
        Cure cure{fmt::format("Strut {} from {} to {}", text, endName(of, from), endName(of, to)), {}};
        cure.statements.push_back({"run",
                                   {},
                                   {},
                                   {{"name", name},
                                    {"from", endName(of, from)},
                                    {"to", endName(of, to)},
                                    {"parts", "1"},
                                    {"section", text}}});
        if (!material.said.empty())
            cure.statements.push_back({"material", {}, {}, {{"what", name}, {"material", material.said}}});
        cure.statements.push_back({"rods", {}, {}, {{"members", name}}});
        return cure;
    };
    return strut;
}

} // namespace

Eigen::VectorXd RemedyCase::loadAt(int node, const Eigen::Vector3d& direction) const
{
    Eigen::VectorXd load = Eigen::VectorXd::Zero(system.size());
    const auto& motion = system.motions.nodes[static_cast<std::size_t>(node)];
    for (std::size_t at = 0; at < motion.unknowns.size(); ++at)
        load[motion.unknowns[at]] += direction.dot(motion.basis.col(static_cast<Eigen::Index>(at)).head<3>());
    return load;
}

std::string placedName(const RemedyCase& of, int node, std::vector<Statement>& statements)
{
    if (isNamed(of, node)) return endName(of, node);
    const std::string name = FreeNames(of.model).like(fmt::format("place{}", node));
    statements.push_back({"point", {}, {}, {{"name", name}, {"at", placeText(placeOf(of, node))}}});
    return name;
}

std::string placeWords(const RemedyCase& of, int node)
{
    const auto& frame = of.solution.structure->frame;
    if (isNamed(of, node)) return endName(of, node);
    const auto& mesh = of.solution.mesh;
    std::string on;
    for (const auto& shell : mesh.shells)
        if (on.empty() && std::find(shell.nodes.begin(), shell.nodes.end(), node) != shell.nodes.end())
            on = frame.partName(shell.sheet);
    for (const auto& piece : mesh.outer)
        if (on.empty() && std::find(piece.corners.begin(), piece.corners.end(), node) != piece.corners.end())
            on = frame.partName(frame.partOfSolid(piece.solid));
    return on.empty() ? placeText(placeOf(of, node)) : fmt::format("{} at {}", on, placeText(placeOf(of, node)));
}

double roundedOn(double amount, bool up, int digits)
{
    const double unit = std::pow(10.0, std::floor(std::log10(std::abs(amount))) - (digits - 1)), in = amount / unit;
    // Over a power of ten rather than by one below zero, so that what is printed is short.
    const double next = up ? std::ceil(in - 1e-9) : std::floor(in + 1e-9);
    return unit < 1.0 ? next / std::round(1.0 / unit) : next * unit;
}

std::vector<Candidate> massCandidates(const RemedyCase& of)
{
    std::vector<Candidate> all;
    const Eigen::VectorXd worth = motionSquared(of, -1);
    for (const int node : bestPlaces(of, openNodes(of), worth, placesTried)) {
        Candidate mass;
        mass.kind = "mass";
        mass.place = placeWords(of, node);
        mass.amounts = ladder(1e-4 * of.mostMass, of.mostMass, 16);
        mass.quantity = QuantityKind::mass;
        mass.promise = worth[node] * of.mostMass;
        mass.loads.resize(of.system.size(), 3);
        for (int axis = 0; axis < 3; ++axis)
            mass.loads.col(axis) = of.loadAt(node, Eigen::Vector3d::Unit(axis));
        mass.add = [node](const ModifiedModes& in, double amount) {
            const Eigen::MatrixXd motion = in.motionOf(node).topRows<3>();
            Added added = nothing(in);
            added.mass = amount * motion.transpose() * motion;
            return added;
        };
        mass.adds = [](double amount) { return amount; };
        mass.amountWords = massText;
        mass.say = [node, &of](double amount) {
            Cure cure{{}, {}};
            const std::string name = placedName(of, node, cure.statements);
            cure.words = fmt::format("Put {} on {}", massText(amount), placeWords(of, node));
            cure.statements.push_back({"mass",
                                       {},
                                       {},
                                       {{"mass", massText(amount)},
                                        {"sharing", "on"},
                                        {"points", quotedName(name)},
                                        {"label", "added mass"}}});
            return cure;
        };
        all.push_back(std::move(mass));
    }
    return all;
}

std::vector<Candidate> propCandidates(const RemedyCase& of)
{
    std::vector<Candidate> all;
    const std::vector<int> nodes = openNodes(of);
    const double most = motionSquared(of, -1).maxCoeff();
    for (int axis = 0; axis < 3; ++axis) {
        const Eigen::VectorXd worth = motionSquared(of, axis);
        for (const int node : bestPlaces(of, nodes, worth, placesTried / 2)) {
            if (worth[node] < 1e-4 * most) continue;
            const double own = of.lambda() / worth[node]; // the mode's own stiffness there
            Candidate prop;
            prop.kind = "prop";
            prop.place = placeWords(of, node);
            prop.amounts = ladder(1e-3 * own, roundedOn(1e3 * own, true, 2), 18);
            prop.quantity = QuantityKind::stiffness;
            prop.promise = worth[node];
            prop.loads = of.loadAt(node, Eigen::Vector3d::Unit(axis));
            prop.add = [node, axis](const ModifiedModes& in, double amount) {
                const Eigen::RowVectorXd motion = in.motionOf(node).row(axis);
                Added added = nothing(in);
                added.stiffness = amount * motion.transpose() * motion;
                return added;
            };
            prop.adds = [](double) { return 0.0; };
            prop.amountWords = [axis](double amount) {
                return fmt::format("{} along {}", stiffnessText(amount), "xyz"[axis]);
            };
            prop.say = [node, axis, &of](double amount) {
                Cure cure{{}, {}};
                const std::string name = placedName(of, node, cure.statements);
                cure.words =
                    fmt::format("Prop {} by {} along {}", placeWords(of, node), stiffnessText(amount), "xyz"[axis]);
                cure.statements.push_back({"ground-spring",
                                           {},
                                           {},
                                           {{"points", quotedName(name)},
                                            {std::string("k") + "xyz"[axis], stiffnessText(amount)},
                                            {"label", "prop"}}});
                return cure;
            };
            all.push_back(std::move(prop));
        }
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const Candidate& a, const Candidate& b) { return a.promise > b.promise; });
    if (all.size() > placesTried) all.resize(placesTried);
    return all;
}

std::vector<Candidate> strutCandidates(const RemedyCase& of)
{
    constexpr std::size_t mostEnds = 120;
    const auto sections = strutSections(of);
    const StrutMaterial material = strutMaterial(of);
    // Its ends at named points where there are enough of them; what hardly moves is as good an end as what moves most.
    std::vector<int> ends, open = openNodes(of);
    for (const int node : open)
        if (isNamed(of, node) && !of.system.motions.nodes[static_cast<std::size_t>(node)].unknowns.empty())
            ends.push_back(node);
    if (ends.size() < 8) ends = open;
    if (ends.size() > mostEnds) { // spread over the structure: each next one farthest from those taken
        std::vector<double> apart(ends.size(), std::numeric_limits<double>::infinity());
        std::vector<int> spread{ends.front()};
        while (spread.size() < mostEnds) {
            std::size_t farthest = 0;
            for (std::size_t at = 0; at < ends.size(); ++at) {
                apart[at] = std::min(apart[at], (placeOf(of, ends[at]) - placeOf(of, spread.back())).norm());
                if (apart[at] > apart[farthest]) farthest = at;
            }
            spread.push_back(ends[farthest]);
        }
        ends = std::move(spread);
    }
    struct Pair {
        int from, to;
        double gain;
    };
    std::vector<Pair> pairs;
    const double span = of.solution.structure->frame.span();
    const double longest = (ends.size() < 16 ? 1.01 : 0.5) * span; // a small frame's own diagonals
    std::vector<Eigen::Matrix3Xd> motions;
    for (const int node : ends) {
        motions.emplace_back(3, static_cast<Eigen::Index>(of.moved.size()));
        for (std::size_t at = 0; at < of.moved.size(); ++at)
            motions.back().col(static_cast<Eigen::Index>(at)) = of.solution.motion(node, of.moved[at]).head<3>();
    }
    for (std::size_t one = 0; one < ends.size(); ++one)
        for (std::size_t two = one + 1; two < ends.size(); ++two) {
            const Eigen::Vector3d along = placeOf(of, ends[two]) - placeOf(of, ends[one]);
            const double length = along.norm();
            if (length < 0.03 * span || length > longest) continue;
            const double stretch =
                (along.transpose() * (motions[two] - motions[one])).squaredNorm() / (length * length);
            const double gain =
                stretch * material.modulus * sections.back().area / length / std::max(of.lambda(), 1e-300);
            if (gain > 1e-3) pairs.push_back({ends[one], ends[two], gain});
        }
    std::stable_sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.gain > b.gain; });
    const FreeLine line(of.solution);
    std::vector<Candidate> all;
    std::vector<Pair> taken;
    std::size_t looked = 0;
    for (const Pair& pair : pairs) {
        if (all.size() == placesTried || ++looked > 200) break;
        const double apart = 0.08 * span;
        const auto near = [&](int a, int b) { return (placeOf(of, a) - placeOf(of, b)).norm() < apart; };
        const bool alike = std::any_of(taken.begin(), taken.end(), [&](const Pair& other) {
            return (near(pair.from, other.from) && near(pair.to, other.to)) ||
                   (near(pair.from, other.to) && near(pair.to, other.from));
        });
        if (alike || !line.between(pair.from, pair.to)) continue;
        taken.push_back(pair);
        all.push_back(strutBetween(of, pair.from, pair.to, sections, material, taken.size()));
        all.back().promise = pair.gain;
    }
    return all;
}

} // namespace undisona
