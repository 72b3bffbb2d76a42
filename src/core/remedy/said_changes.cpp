// Changes of what the model says already: what a word is worth, and another value or section in its place.
#include "core/assess/pairing.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/modal/solve.hpp"
#include "core/modal/static_state.hpp"
#include "core/model/stated.hpp"
#include "core/remedy/candidate.hpp"
#include "core/statement/stoppable.hpp"
#include "core/system/rigid_mass.hpp"

#include <fmt/format.h>

#include <numbers>

namespace undisona {

namespace {

constexpr double littleStep = 1e-3; ///< of a word, for its slope
/// Where nodes move, unknowns that stay as they are shear thin elements, which costs with the square of the step: a
/// smaller one, and the half of it, from which the limit is extrapolated.
constexpr double movedStep = 4e-4;
constexpr double remeshedStep = 1e-2;        ///< where two runs on two meshes tell it
constexpr Eigen::Index mostRemeshed = 6000;  ///< unknowns of such runs
constexpr Eigen::Index mostUnknowns = 80000; ///< beyond which equations are not made anew for each word
constexpr std::size_t wordsTried = 8;

bool sameMesh(const FrameMesh& a, const FrameMesh& b)
{
    const auto alike = [](const auto& one, const auto& other, auto same) {
        return std::equal(one.begin(), one.end(), other.begin(), other.end(), same);
    };
    return a.nodes.size() == b.nodes.size() &&
           alike(
               a.elements, b.elements,
               [](const MeshElement& x, const MeshElement& y) { return x.nodes == y.nodes && x.member == y.member; }) &&
           alike(a.shells, b.shells, [](const MeshShell& x, const MeshShell& y) { return x.nodes == y.nodes; }) &&
           alike(a.solids, b.solids,
                 [](const MeshSolid& x, const MeshSolid& y) { return x.kind == y.kind && x.nodes == y.nodes; });
}

bool sameUnknowns(const System& a, const System& b)
{
    const auto& one = a.motions.unknowns;
    const auto& other = b.motions.unknowns;
    return std::equal(one.begin(), one.end(), other.begin(), other.end(), [](const Unknown& x, const Unknown& y) {
        return x.where == y.where && x.rotation == y.rotation && (x.direction - y.direction).norm() < 0.1;
    });
}

Model changedBy(const RemedyCase& of, const Statement& statement)
{
    const auto changed = stated(of.model, {statement});
    return changed ? *changed : of.model;
}

/// K x - lambda M x.
Eigen::MatrixXd forces(const System& system, double lambda, const Eigen::MatrixXd& x)
{
    return matricesOf(system).stiffnessTimes(x) - lambda * (system.mass * x);
}

Eigen::MatrixXd shapesOf(const RemedyCase& of)
{
    Eigen::MatrixXd shapes(of.system.size(), static_cast<Eigen::Index>(of.moved.size()));
    for (std::size_t at = 0; at < of.moved.size(); ++at)
        shapes.col(static_cast<Eigen::Index>(at)) = of.solution.shapes.col(static_cast<Eigen::Index>(of.moved[at]));
    return shapes;
}

double largest(const Eigen::MatrixXd& symmetric)
{
    const Eigen::VectorXd values = Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(
                                       (symmetric + symmetric.transpose()) / 2.0, Eigen::EigenvaluesOnly)
                                       .eigenvalues();
    return std::abs(values[0]) > std::abs(values[values.size() - 1]) ? values[0] : values[values.size() - 1];
}

double hertzPer(double lambdaSlope, double hertz)
{
    return lambdaSlope / (8.0 * std::numbers::pi * std::numbers::pi * hertz);
}

/// The step of a word that is zero is a little of the structure.
double stepOf(const RemedyCase& of, const SaidQuantity& said, double share)
{
    return said.value != 0.0 ? share * std::abs(said.value) : share * of.solution.structure->frame.span();
}

/// Of the frequency of a mode by two runs, each on a mesh of its own; nothing where its shape is not found again.
std::optional<double> slopeByRuns(const RemedyCase& of, const SaidQuantity& said, Progress& progress)
{
    const double step = stepOf(of, said, remeshedStep);
    std::array<double, 2> hertz{};
    for (std::size_t side = 0; side < 2; ++side) {
        const Model model = changedBy(of, saidAnew(said, of.model, said.value + (side ? step : -step)));
        Ask ask;
        ask.count = static_cast<long>(of.moved.back()) + 4;
        const auto solved = solve(model, progress, {.ask = ask, .meshErrors = false});
        if (!solved) return std::nullopt;
        for (const auto& pair : pairModes(of.solution, **solved))
            if (pair.first == of.solution.modes[of.moved.front()].number && pair.second > 0)
                hertz[side] = (*solved)->modes[static_cast<std::size_t>(pair.second - 1)].frequency;
        if (hertz[side] == 0.0) return std::nullopt;
    }
    return (hertz[1] - hertz[0]) / (2.0 * step);
}

} // namespace

std::shared_ptr<const System> alikeSystem(const RemedyCase& of, const Model& model, Progress& progress, bool* moved)
{
    const auto built = buildStructure(model, progress);
    const MeshPlan plan = planOf(of.solution.mesh);
    const Structure& own = *of.solution.structure;
    if (hasError(built.findings) || plan.splits.size() != built.structure.members.size() ||
        plan.sizes.ofPart.size() != built.structure.sheets.size() + built.structure.solids.size())
        return nullptr;
    const auto samePlace = [](const FramePoint& a, const FramePoint& b) { return a.place == b.place; };
    const auto &points = built.structure.frame.points, &ownPoints = own.frame.points;
    const bool standsStill = std::equal(points.begin(), points.end(), ownPoints.begin(), ownPoints.end(), samePlace);
    // Parts that move are meshed anew, which takes its time and seldom leaves a large mesh alike.
    if (!standsStill && own.frame.parts() > 0 && of.system.size() > mostRemeshed) return nullptr;
    const FrameMesh mesh = meshOf(built.structure, plan.splits, plan.sizes, &progress);
    if (progress.stopped() || !sameMesh(mesh, of.solution.mesh)) return nullptr;
    if (moved)
        *moved = !std::equal(mesh.nodes.begin(), mesh.nodes.end(), of.solution.mesh.nodes.begin(),
                             [](const MeshNode& a, const MeshNode& b) { return a.place == b.place; });
    auto system = std::make_shared<const System>(systemOf(built.structure, mesh, progress));
    return sameUnknowns(*system, of.system) ? system : nullptr;
}

Added addedBy(const ModifiedModes& in, const System& other, const System& own)
{
    const Eigen::MatrixXd basis = in.basis();
    return {basis.transpose() * (matricesOf(other).stiffnessTimes(basis) - matricesOf(own).stiffnessTimes(basis)),
            basis.transpose() * (other.mass * basis - own.mass * basis)};
}

namespace {

/// A word as a remedy: sizes, stiffnesses and masses are chosen; what a material is, and where things stand, is not.
bool isChosen(const RemedyCase& of, const SaidQuantity& said)
{
    if (!said.row.empty() || !(said.value > 0.0)) return false;
    const auto place = of.model.find(said.sentence);
    if (!place || place->group == Group::material) return false;
    const Field* field = of.model.sentence(said.sentence)->kind->field(said.field);
    if (!field) return false;
    if (field->type == FieldType::section) return of.order.sections.empty();
    if (field->type != FieldType::quantity) return false;
    using K = QuantityKind;
    for (const K kind : {K::length, K::mass, K::massPerLength, K::massPerArea, K::stiffness, K::turningStiffness,
                         K::stiffnessPerLength, K::stiffnessPerArea, K::stiffnessPerVolume})
        if (said.kind == kind) return true;
    return false;
}

/// Of lambda by a word; nothing where its equations do not stay alike.
std::optional<double> slopeOn(const RemedyCase& of, const SaidQuantity& said, double step, Progress& progress,
                              bool* moved = nullptr)
{
    const Eigen::MatrixXd shapes = shapesOf(of);
    std::array<Eigen::MatrixXd, 2> sides;
    for (std::size_t side = 0; side < 2; ++side) {
        const double value = said.value + (side ? step : -step);
        const auto system = alikeSystem(of, changedBy(of, saidAnew(said, of.model, value)), progress, moved);
        if (!system) return std::nullopt;
        sides[side] = forces(*system, of.lambda(), shapes);
    }
    return largest(shapes.transpose() * (sides[1] - sides[0])) / (2.0 * step);
}

std::optional<double> slopeOn(const RemedyCase& of, const SaidQuantity& said, Progress& progress)
{
    bool moved = false;
    const auto plain = slopeOn(of, said, stepOf(of, said, littleStep), progress, &moved);
    if (!plain || !moved) return plain;
    const double step = stepOf(of, said, movedStep);
    const auto whole = slopeOn(of, said, step, progress), half = slopeOn(of, said, step / 2.0, progress);
    if (!whole || !half) return plain;
    return (4.0 * *half - *whole) / 3.0; // Richardson 1911
}

std::vector<WordSlope> slopesIn(const RemedyCase& of, Progress& progress, Findings& leftOut)
{
    std::vector<WordSlope> slopes;
    if (of.system.size() > mostUnknowns) {
        leftOut.push_back(noteAt(
            {},
            fmt::format("what words are worth is told up to {} unknowns; here are {}", mostUnknowns, of.system.size()),
            "A coarser mesh tells it as well."));
        return slopes;
    }
    const auto all = saidQuantities(of.model);
    std::vector<std::string> untold;
    for (std::size_t at = 0; at < all.size() && !progress.stopped(); ++at) {
        progress.stage("what each word is worth");
        progress.fraction(double(at) / double(all.size()));
        const SaidQuantity& said = all[at];
        if (said.value == 0.0 && said.kind != QuantityKind::length) continue;
        if (!of.order.everyWord && of.system.size() > everyWordUpTo && !isChosen(of, said)) continue;
        WordSlope word{said};
        if (const auto slope = slopeOn(of, said, progress))
            word.slope = hertzPer(*slope, of.hertz());
        else if (const auto byRuns =
                     of.system.size() <= mostRemeshed ? slopeByRuns(of, said, progress) : std::optional<double>()) {
            word.slope = *byRuns;
            word.remeshed = true;
        } else {
            untold.push_back(said.name);
            continue;
        }
        word.percent = 0.01 * said.value * word.slope;
        slopes.push_back(std::move(word));
    }
    if (!untold.empty())
        leftOut.push_back(noteAt({}, untold.size() == 1
                                         ? fmt::format("with one word the mesh or what is joined changes, so that what "
                                                       "it is worth is not told: {}",
                                                       untold.front())
                                         : fmt::format("with {} words the mesh or what is joined changes, so that what "
                                                       "they are worth is not told: {}, ...",
                                                       untold.size(), untold.front())));
    std::stable_sort(slopes.begin(), slopes.end(),
                     [](const WordSlope& a, const WordSlope& b) { return std::abs(a.percent) > std::abs(b.percent); });
    return slopes;
}

/// What values of a word add, between some of which, the first the one that is said, a polynomial runs: of four exact
/// for what grows with its third power; more are learnt where that is not so.
class Between {
public:
    using Make = std::function<std::shared_ptr<const System>(double)>;
    /// `keeps`: the systems too, so that another basis needs no new ones. `far` is that of the second value, or null.
    Between(std::vector<double> at, Make make, bool keeps, std::shared_ptr<const System> far)
        : at_(std::move(at)), make_(std::move(make)), keeps_(keeps)
    {
        made_.resize(at_.size());
        made_[1] = std::move(far);
    }

    /// What it knows is of one basis.
    void forget() { known_.clear(); }

    /// Empty matrices where the equations do not stay alike.
    Added operator()(const ModifiedModes& in, double value, const System& own)
    {
        if (known_.empty()) // what is said now
            known_.push_back(
                {Eigen::MatrixXd::Zero(in.size(), in.size()), Eigen::MatrixXd::Zero(in.size(), in.size())});
        while (known_.size() < at_.size()) {
            auto& made = made_[known_.size()];
            if (!made) made = make_(at_[known_.size()]);
            known_.push_back(made ? addedBy(in, *made, own) : Added{});
            if (!keeps_) made = nullptr;
        }
        Added sum{Eigen::MatrixXd::Zero(in.size(), in.size()), Eigen::MatrixXd::Zero(in.size(), in.size())};
        for (std::size_t one = 0; one < at_.size(); ++one) {
            if (known_[one].stiffness.size() == 0) return {};
            double weight = 1.0;
            for (std::size_t other = 0; other < at_.size(); ++other)
                if (other != one) weight *= (value - at_[other]) / (at_[one] - at_[other]);
            sum.stiffness += weight * known_[one].stiffness;
            sum.mass += weight * known_[one].mass;
        }
        return sum;
    }

    bool learn(const ModifiedModes& in, double value, const System& own)
    {
        const Added before = (*this)(in, value, own);
        if (before.stiffness.size() == 0) return false;
        for (const double at : at_)
            if (std::abs(at - value) < 1e-9 * std::abs(value)) return false;
        at_.push_back(value);
        made_.emplace_back();
        const Added after = (*this)(in, value, own);
        if (after.stiffness.size() == 0) return true;
        // By the modes that are at hand: what counts is how far their frequencies are off.
        const auto off = [&](const Eigen::MatrixXd& one, const Eigen::MatrixXd& other, const Eigen::VectorXd& scale) {
            return ((one - other).diagonal().head(in.modes()).cwiseAbs().array() / scale.array()).maxCoeff();
        };
        const Eigen::VectorXd stiff = in.lambda().head(in.modes()).array() + 1e-3 * in.lambda()[in.modes() - 1];
        return off(before.stiffness, after.stiffness, stiff) +
                   off(before.mass, after.mass, Eigen::VectorXd::Ones(in.modes())) >
               1e-3;
    }

private:
    std::vector<double> at_;
    Make make_;
    bool keeps_;
    std::vector<std::shared_ptr<const System>> made_; ///< by value, as far as they are held
    std::vector<Added> known_;                        ///< by value, in one basis
};

double massOf(const Model& model, Progress& progress)
{
    const auto built = buildStructure(model, progress);
    return massSummary(built.structure).mass;
}

/// The forces that a change leaves in the modes, those that are to move and the others about them: what their static
/// answers are to.
Eigen::MatrixXd loadsOf(const RemedyCase& of, const System& other)
{
    constexpr std::size_t mostShapes = 20;
    const std::size_t last = std::max(of.moved.back() + 1, std::min(of.solution.modes.size(), mostShapes));
    std::vector<Eigen::Index> modes;
    for (std::size_t mode = 0; mode < last; ++mode)
        if (mode < mostShapes || std::find(of.moved.begin(), of.moved.end(), mode) != of.moved.end())
            modes.push_back(static_cast<Eigen::Index>(mode));
    const Eigen::MatrixXd shapes = of.solution.shapes(Eigen::all, modes);
    Eigen::MatrixXd loads = matricesOf(other).stiffnessTimes(shapes) - matricesOf(of.system).stiffnessTimes(shapes);
    Eigen::MatrixXd inertia = other.mass * shapes - of.system.mass * shapes;
    for (std::size_t at = 0; at < modes.size(); ++at)
        inertia.col(static_cast<Eigen::Index>(at)) *= of.solution.modes[static_cast<std::size_t>(modes[at])].lambda;
    return loads - inertia;
}

} // namespace

std::vector<WordSlope> wordSlopes(const Model& model, const Solution& solution, const System& system, std::size_t mode,
                                  Progress& progress, Findings& leftOut, const RemedyOrder& order)
{
    const RemedyCase of{model, solution, system, order, groupOf(solution, mode), 0.0, {}};
    return slopesIn(of, progress, leftOut);
}

std::vector<Candidate> wordCandidates(const RemedyCase& of, const std::vector<WordSlope>& slopes, Progress& progress)
{
    std::vector<Candidate> all;
    std::size_t words = 0;
    const double now = massOf(of.model, progress);
    for (const WordSlope& word : slopes) {
        const std::size_t tried = of.system.size() > everyWordUpTo ? wordsTried / 2 : wordsTried;
        if (progress.stopped() || words == tried) break;
        if (word.remeshed || !isChosen(of, word.said) || std::abs(word.percent) < 1e-5 * of.hertz()) continue;
        ++words;
        const SaidQuantity said = word.said;
        for (const double most : {2.0, 0.5}) {
            const bool raises = (most > 1.0) == (word.slope > 0.0);
            if (of.order.way != RemedyWay::clear && raises != (of.order.way == RemedyWay::above)) continue;
            const auto modelAt = [&of, said](double value) { return changedBy(of, saidAnew(said, of.model, value)); };
            const auto far = alikeSystem(of, modelAt(most * said.value), progress);
            if (!far) continue;
            Candidate change;
            change.kind = "word";
            change.sentence = said.sentence;
            change.place = said.name;
            change.quantity = said.kind;
            change.promise = std::abs(word.slope * said.value) / of.hertz();
            change.loads = loadsOf(of, *far);
            for (int step = 1; step <= 14; ++step)
                change.amounts.push_back(
                    roundedOn(said.value * (1.0 + (most - 1.0) * std::pow(step / 14.0, 1.5)), most > 1.0, 3));
            std::vector<double> at;
            for (const double share : {0.0, 1.0, 1.0 / 3.0, 2.0 / 3.0})
                at.push_back(said.value * (1.0 + (most - 1.0) * share));
            auto between = std::make_shared<Between>(
                std::move(at),
                [&of, &progress, modelAt](double value) { return alikeSystem(of, modelAt(value), progress); },
                of.system.size() <= everyWordUpTo, of.system.size() < 20000 ? far : nullptr);
            change.forget = [between] { between->forget(); };
            change.add = [between, &of](const ModifiedModes& in, double value) {
                return (*between)(in, value, of.system);
            };
            change.learn = [between, &of](const ModifiedModes& in, double value) {
                return between->learn(in, value, of.system);
            };
            const double then = massOf(modelAt(most * said.value), progress);
            change.adds = [=](double value) {
                return (then - now) * (value - said.value) / ((most - 1.0) * said.value);
            };
            change.amountWords = [said](double value) { return said.text + " to " + textAnew(said, value); };
            change.say = [said, &of](double value) {
                return Cure{fmt::format("Change {} from {} to {}", said.name, said.text, textAnew(said, value)),
                            {saidAnew(said, of.model, value)}};
            };
            all.push_back(std::move(change));
        }
    }
    return all;
}

std::vector<Candidate> sectionCandidates(const RemedyCase& of, Progress& progress)
{
    std::vector<Candidate> all;
    if (of.system.size() > mostUnknowns) return all;
    std::vector<std::pair<SentencePtr, std::string>> places; // sentence and field
    std::set<std::string> own;
    for (const auto& sentence : of.model.activeIn(Group::shape))
        for (const auto& field : sentence->kind->fields)
            if (field.type == FieldType::section && sentence->has(field.key)) {
                places.emplace_back(sentence, field.key);
                own.insert(sentence->text(field.key));
            }
    std::vector<std::string> list = of.order.sections;
    if (list.empty() && own.size() <= 6) list.assign(own.begin(), own.end());
    const double mass = massOf(of.model, progress);
    for (const auto& [sentence, field] : places) {
        const std::string now = sentence->text(field);
        struct Choice {
            std::string text;
            double adds;
            std::shared_ptr<const System> system;
        };
        const auto choices = std::make_shared<std::vector<Choice>>();
        for (const auto& text : list) {
            if (progress.stopped()) return all;
            if (text == now) continue;
            const Model model = changedBy(of, {{}, sentence->id, {}, {{field, text}}});
            if (auto system = alikeSystem(of, model, progress))
                choices->push_back({text, massOf(model, progress) - mass, std::move(system)});
        }
        if (choices->empty()) continue;
        std::sort(choices->begin(), choices->end(), [](const Choice& a, const Choice& b) { return a.adds < b.adds; });
        Candidate change;
        change.kind = "section";
        change.sentence = sentence->id;
        const std::string label = sentence->kind->field(field)->label;
        const std::string name = (sentence->has("name") ? sentence->text("name") : wordsOf(*sentence)) + ": " + label;
        change.place = name;
        change.steps = true;
        change.promise = 1.0;
        change.loads = loadsOf(of, *choices->back().system);
        for (std::size_t at = 0; at < choices->size(); ++at)
            change.amounts.push_back(double(at));
        const auto choice = [choices](double at) -> const Choice& { return (*choices)[static_cast<std::size_t>(at)]; };
        change.add = [choice, &of](const ModifiedModes& in, double at) {
            return addedBy(in, *choice(at).system, of.system);
        };
        change.adds = [choice](double at) { return choice(at).adds; };
        change.amountWords = [choice, now](double at) { return now + " to " + choice(at).text; };
        change.say = [choice, now, name, id = sentence->id, field = field](double at) {
            return Cure{fmt::format("Change {} from {} to {}", name, now, choice(at).text),
                        {{{}, id, {}, {{field, choice(at).text}}}}};
        };
        all.push_back(std::move(change));
    }
    return all;
}

} // namespace undisona
