// What is solved, by whom, and what stands on the staves.
#include "app/session/answers.hpp"
#include "app/session/engine_process.hpp"
#include "app/session/kept_results.hpp"
#include "app/session/session.hpp"
#include "app/session/settings.hpp"
#include "app/session/solve_job.hpp"
#include "core/modal/estimate_ahead.hpp"
#include "core/model/stated.hpp"
#include "core/model/states.hpp"
#include "core/studies/by_hand.hpp"
#include "core/studies/cost.hpp"
#include "core/studies/remedy.hpp"
#include "core/studies/rest.hpp"
#include "core/studies/self_weight.hpp"
#include "core/studies/settling.hpp"
#include "core/studies/stress.hpp"
#include "core/studies/sweep.hpp"
#include "core/studies/tolerances.hpp"

namespace undisona {

namespace {

const QString stateMark = "state:";

} // namespace

std::string Stave::stateSentence() const
{
    return id.startsWith(stateMark) ? id.mid(stateMark.size()).toStdString() : std::string();
}

/// Only where a run waits to be asked for, and would take its time.
void Session::estimateAgain()
{
    readEstimate();
    const bool wanted = open_ && !solvesByItself() && !hasError(modelFindings_) &&
                        !solutions_.contains(solveKey(model())) && !structure_->frame.empty() && EngineProcess::found();
    if (wanted && !job_) answers_->ask(costStudy(), model());
    emit runChanged();
}

void Session::readEstimate()
{
    estimate_.clear();
    refused_.clear();
    const auto answer = answers_->find(costStudy(), model());
    if (!answer || !*answer) return;
    estimate_ = QString::fromStdString((*answer)->words);
    refused_ = (*answer)->refused;
}

void Session::refreshStaves()
{
    staves_.clear();
    const auto fill = [&](QString id, QString name, const Model& model) {
        Stave stave{std::move(id), std::move(name), model, nullptr, false, {}, {}, {}, 0.0};
        const auto key = solveKey(model);
        if (const auto found = solutions_.find(key); found != solutions_.end()) stave.solution = found->second;
        if (const auto found = failures_.find(key); found != failures_.end()) stave.failure = found->second;
        return stave;
    };
    Stave live = fill({}, tr("now"), model());
    live.mass = mass_.mass;
    if (live.solution) lastLive_ = live.solution;
    if (hasError(modelFindings_)) {
        for (const auto& finding : modelFindings_)
            if (finding.severity == Severity::error) live.failure.push_back(finding);
        live.solution = nullptr;
    } else if (!live.solution && live.failure.empty() && lastLive_) {
        live.solution = lastLive_;
        live.stale = true;
    }
    staves_.push_back(std::move(live));
    for (const State& state : statesOf(model()))
        staves_.push_back(
            fill(stateMark + QString::fromStdString(state.sentence), QString::fromStdString(state.name), state.model));
    for (auto take = document().takes.rbegin(); take != document().takes.rend(); ++take)
        staves_.push_back(fill(QString::fromStdString(take->id), QString::fromStdString(take->name), take->model));
    for (auto& stave : staves_) {
        stave.modeNames = modeNamesOf(stave.model);
        if (!stave.solution) continue;
        Findings ignored;
        // Bands and margins need no solve: they are always of the present model.
        stave.excitations = readExcitations(stave.model, stave.solution->structure->frame, ignored);
        stave.clashes = clashesOf(*stave.solution, stave.excitations, stave.modeNames);
        if (!stave.id.isEmpty()) stave.mass = stave.solution->mass.mass;
    }
    if (staves_[0].excitations.empty()) staves_[0].excitations = structure_->excitations;

    shownStave_ = std::min(shownStave_, staves_.size() - 1);
    if (restShown_ && !rest()) restShown_.reset(); // of what the model was before
    const auto& solution = shown().solution;
    const int count = solution ? static_cast<int>(solution->modes.size()) : 0;
    if (count == 0)
        shownMode_ = 0;
    else if (shownMode_ == 0 || shownMode_ > count) {
        shownMode_ = 1; // the first that is not a rigid motion
        while (shownMode_ < count && solution->modes[static_cast<std::size_t>(shownMode_ - 1)].rigid)
            ++shownMode_;
    }
    findings_ = modelFindings_;
    const Stave& now = staves_[0];
    const Findings& run = now.solution && !now.stale ? now.solution->findings
                          : hasError(modelFindings_) ? Findings{}
                                                     : now.failure;
    for (const auto& finding : run)
        if (std::find(findings_.begin(), findings_.end(), finding) == findings_.end()) findings_.push_back(finding);
    findings_.insert(findings_.end(), ofResults_.begin(), ofResults_.end());
    if (!now.solution || now.stale) findings_.insert(findings_.end(), refused_.begin(), refused_.end());
    std::stable_sort(findings_.begin(), findings_.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
}

void Session::solve()
{
    if (hasError(modelFindings_)) {
        for (const auto& finding : findings_)
            if (finding.severity == Severity::error)
                return say(
                    QString::fromStdString(finding.what + (finding.remedy.empty() ? "" : ". " + finding.remedy)));
    }
    waitsToBeAsked_ = false;
    const auto key = solveKey(model());
    answers_->stop();
    answers_->forget(settlingStudy(), model());
    answers_->forget(stressStudy(), model());
    failures_.erase(key);
    solutions_.erase(key);
    toLookUp_.erase(key);
    inResults_.erase(key);
    pairs_.clear();
    refreshStaves();
    askedToSolve_ = true;
    emit stavesChanged();
    startNext();
}

void Session::stop()
{
    askedToSolve_ = false;
    answers_->stop();
    if (!job_) return;
    stopAsked_ = true;
    job_->stop();
}

void Session::adopt(std::shared_ptr<const Solution> solution)
{
    failures_.erase(solution->key);
    solutions_[solution->key] = std::move(solution);
    refreshStaves();
    emit stavesChanged();
    emit selectionChanged();
}

void Session::startNext()
{
    if (job_ || settlingNow() || !open_) return;
    QString takeId;
    const Model* next = nullptr;
    const auto known = [&](const Model& model) {
        return solutions_.contains(solveKey(model)) || failures_.contains(solveKey(model));
    };
    bool reads = false;
    for (const Stave& stave : staves_) {
        if (toLookUp_.empty() || known(stave.model) || !toLookUp_.contains(solveKey(stave.model))) continue;
        if (stave.id.isEmpty() && hasError(modelFindings_)) continue;
        next = &stave.model;
        takeId = stave.id;
        reads = true;
        break;
    }
    if (!next && askedToSolve_ && !hasError(modelFindings_) && !known(model())) next = &model();
    if (!next)
        for (const Stave& stave : staves_)
            if (!waitsToBeAsked_ && !stave.stateSentence().empty() && !known(stave.model)) {
                next = &stave.model;
                takeId = stave.id;
                break;
            }
    if (!next)
        for (const auto& take : document().takes)
            if (!waitsToBeAsked_ && !known(take.model)) {
                next = &take.model;
                takeId = QString::fromStdString(take.id);
                break;
            }
    if (!next) return;
    arriving_.clear();
    stage_.clear();
    stopAsked_ = false;
    massSoFar_ = {};
    // A state on the mesh of the model that it is a state of, so that what differs is what it says.
    std::optional<MeshPlan> beside;
    if (!reads && takeId.startsWith(stateMark) && live().solution && !live().stale)
        beside = planOf(live().solution->mesh);
    job_ = reads ? makeReadingJob(*next, takeId, kept_->path(), *engine_, this)
                 : makeProcessJob(*next, takeId, std::move(beside), *engine_, this);
    const bool forLive = takeId.isEmpty();
    connect(job_, &SolveJob::massReached, this, [this, forLive](const MassSoFar& mass) {
        if (!forLive) return;
        massSoFar_ = mass;
        emit massMoved();
    });
    connect(job_, &SolveJob::stageChanged, this, &Session::stageMoved);
    connect(job_, &SolveJob::modesConverged, this, [this, forLive](const std::vector<double>& hertz) {
        if (forLive) arriving_ = hertz;
        runMoved();
    });
    connect(job_, &SolveJob::finished, this, &Session::jobFinished);
    autosave_.setSolving(!reads);
    job_->start();
    emit runChanged();
}

void Session::tryOut(std::optional<QuickModes> tried)
{
    tried_ = std::move(tried);
    emit triedChanged();
}

void Session::settleFrequencies()
{
    const Stave& stave = shown();
    if (settlingNow()) return say(tr("Frequencies on other meshes are being found already."));
    if (!stave.solution || stave.stale) return say(tr("Solve first; then the same is solved on other meshes."));
    if (!canSettle(*stave.solution))
        return say(tr("Only modes settle on finer meshes: not Ritz vectors, all of a mesh, a run that was stopped, or "
                      "what comes as a mesh."));
    answers_->forget(settlingStudy(), stave.model);
    answers_->ask(settlingStudy(), stave.model, {answerOf(*stave.solution)});
    emit settlingMoved();
    emit runChanged();
}

bool Session::settlingNow() const
{
    return answers_->awaits(settlingStudy());
}

std::optional<Settling> Session::settling() const
{
    if (!shown().solution || shown().stale) return std::nullopt;
    auto known = answers_->find(settlingStudy(), shown().model);
    if (!known || !*known || (*known)->settled.size() != shown().solution->modes.size()) return std::nullopt;
    return std::move(**known);
}

void Session::weigh(const std::vector<std::string>& stiffAt)
{
    const Stave& stave = shown();
    if (weighing()) return;
    answers_->forget(selfWeightStudy(), stave.model);
    SelfWeightOrder order{{}, stiffAt};
    if (stave.solution && !stave.stale) order.plan = planOf(stave.solution->mesh);
    answers_->ask(selfWeightStudy(), stave.model, order);
    emit weightMoved();
}

bool Session::weighing() const
{
    return answers_->awaits(selfWeightStudy(), &shown().model);
}

std::optional<Result<SelfWeight>> Session::selfWeight() const
{
    return answers_->find(selfWeightStudy(), shown().model);
}

void Session::findRest()
{
    const Stave& stave = shown();
    if (findingRest()) return;
    answers_->forget(restStudy(), stave.model);
    rest_.reset();
    RestOrder order;
    if (stave.solution && !stave.stale) order.plan = planOf(stave.solution->mesh);
    answers_->ask(restStudy(), stave.model, order);
    emit restMoved();
    emit runChanged();
}

bool Session::findingRest() const
{
    return answers_->awaits(restStudy());
}

const Result<RestAnswer>* Session::rest() const
{
    const std::uint64_t key = keyOf(shown().model, restStudy().needs);
    if (!rest_ || rest_->first != key) {
        auto found = answers_->find(restStudy(), shown().model);
        if (!found) return nullptr;
        rest_.emplace(key, std::move(*found));
    }
    return &rest_->second;
}

void Session::showRest(std::size_t state, int factor)
{
    const auto* known = rest();
    if (!known || !*known || state >= (*known)->found.states.size()) return;
    const RestAnswer& answer = **known;
    RestShown seen{{}, static_cast<int>(state) + 1, {}, answer.found.states[state]};
    if (factor > static_cast<int>(seen.state.buckles.size())) return;
    if (factor > 0) {
        seen.number = factor;
        for (std::size_t before = 0; before < state; ++before)
            seen.number += static_cast<int>(answer.found.states[before].buckles.size());
        seen.factor = seen.state.buckles[static_cast<std::size_t>(factor - 1)];
    } else {
        seen.stresses = std::make_shared<const StressReading>(answer.found.fields);
    }
    auto shapes = restAsShapes(shown().model, answer, factor > 0);
    if (!shapes) return;
    seen.shapes = std::move(*shapes);
    restShown_ = std::move(seen);
    emit selectionChanged();
    emit restMoved();
}

void Session::showModeAgain()
{
    if (!restShown_) return;
    restShown_.reset();
    emit selectionChanged();
    emit restMoved();
}

template <class Study, class Order>
bool Session::askAboutModes(const Study& study, const Order& order, const QString& otherwise)
{
    const Stave& stave = shown();
    if (answers_->awaits(study)) return false;
    if (!stave.solution || stave.stale) {
        say(otherwise);
        return false;
    }
    answers_->forget(study, stave.model);
    answers_->ask(study, stave.model, {order, answerOf(*stave.solution)});
    emit runChanged();
    return true;
}

void Session::findRemedies(const RemedyOrder& order)
{
    if (askAboutModes(remedyStudy(), order, tr("Solve first: remedies start from modes."))) emit remedyMoved();
}

bool Session::findingRemedies() const
{
    return answers_->awaits(remedyStudy());
}

std::optional<Result<Remedy>> Session::remedy() const
{
    return answers_->find(remedyStudy(), shown().model);
}

void Session::sweepWord(const SweepOrder& order)
{
    if (sweeping()) return;
    answers_->forget(sweepStudy(), shown().model);
    answers_->ask(sweepStudy(), shown().model, order);
    emit sweepMoved();
    emit runChanged();
}

bool Session::sweeping() const
{
    return answers_->awaits(sweepStudy());
}

std::optional<Result<WordSweep>> Session::sweep() const
{
    return answers_->find(sweepStudy(), shown().model);
}

void Session::followTolerances(const ToleranceOrder& order)
{
    if (askAboutModes(toleranceStudy(), order, tr("Solve first: tolerances start from modes."))) emit tolerancesMoved();
}

bool Session::tolerating() const
{
    return answers_->awaits(toleranceStudy());
}

std::optional<Result<ToleratedModes>> Session::tolerances() const
{
    return answers_->find(toleranceStudy(), shown().model);
}

void Session::findByHand()
{
    if (askAboutModes(handStudy(), HandOrder{units().name()}, tr("Solve first: estimates stand beside modes.")))
        emit byHandMoved();
}

bool Session::findingByHand() const
{
    return answers_->awaits(handStudy());
}

std::optional<Result<HandReading>> Session::byHand() const
{
    return answers_->find(handStudy(), shown().model);
}

void Session::findStresses()
{
    if (askAboutModes(stressStudy(), NoOptions{}, tr("Solve first: stresses are those of modes.")))
        emit stressesMoved();
}

bool Session::findingStresses() const
{
    return answers_->awaits(stressStudy());
}

std::shared_ptr<const StressReading> Session::stressesOf(const std::shared_ptr<const Solution>& solution) const
{
    if (!solution) return nullptr;
    if (restShown_ && restShown_->shapes == solution) return restShown_->stresses;
    if (stresses_.first == solution) return stresses_.second;
    const auto stave = std::find_if(staves_.begin(), staves_.end(),
                                    [&](const Stave& one) { return one.solution == solution && !one.stale; });
    if (stave == staves_.end()) return nullptr;
    const auto found = answers_->find(stressStudy(), stave->model);
    if (!found || !*found || (*found)->modes.size() != solution->modes.size()) return nullptr;
    stresses_ = {solution, std::make_shared<const StressReading>(**found)};
    return stresses_.second;
}

void Session::setModalScale(const ModalScale& scale)
{
    modalScale_ = scale;
    emit stressesMoved();
}

std::optional<Result<ScaledMode>> Session::scaledMode() const
{
    const auto& solution = shown().solution;
    const auto reading = stressesOf(solution);
    if (!reading || !mode()) return std::nullopt;
    return scaled(*solution, reading->modes[static_cast<std::size_t>(shownMode_ - 1)], modalScale_);
}

void Session::takeRemedy(const Proposal& proposal)
{
    auto changed = stated(shown().model, proposal.change.statements);
    if (!changed) return say(QString::fromStdString(changed.findings()[0].what));
    promises_.emplace_back(solveKey(*changed), proposal);
    keepTake(QString::fromStdString(proposal.change.words), std::move(*changed),
             QString::fromStdString(proposal.promise()));
}

std::vector<Session::Promise> Session::promises() const
{
    std::vector<Promise> list;
    for (const auto& [key, proposal] : promises_)
        for (const auto& take : document().takes)
            if (solveKey(take.model) == key) list.push_back({proposal, QString::fromStdString(take.id)});
    return list;
}

void Session::answerArrived(std::string_view study)
{
    if (study == selfWeightStudy().key) return weightMoved();
    if (study == restStudy().key) {
        rest_.reset();
        emit restMoved();
        emit runChanged();
        return;
    }
    if (study == remedyStudy().key || study == sweepStudy().key || study == toleranceStudy().key) {
        emit remedyMoved();
        emit sweepMoved();
        emit tolerancesMoved();
        emit runChanged();
        return;
    }
    if (study == handStudy().key) {
        emit byHandMoved();
        emit runChanged();
        return;
    }
    if (study == stressStudy().key) {
        stresses_ = {};
        emit stressesMoved();
        emit runChanged();
        return;
    }
    if (study == settlingStudy().key) {
        emit settlingMoved();
        emit runChanged();
        if (!settlingNow()) startNext();
        return;
    }
    readEstimate();
    refreshStaves();
    emit derivedChanged();
    emit runChanged();
}

void Session::stageMoved(const QString& stage, double fraction)
{
    if (stage_ != stage) stageBegan_.start();
    stage_ = stage;
    fraction_ = fraction;
    runMoved();
}

void Session::runMoved()
{
    if (!runMovesSoon_.isActive()) runMovesSoon_.start();
}

qint64 Session::engineProcessId() const
{
    return engine_->processId();
}

double Session::secondsLeft() const
{
    if (!stageBegan_.isValid() || fraction_ < 0.1) return -1.0;
    return double(stageBegan_.elapsed()) / 1000.0 * (1.0 - fraction_) / fraction_;
}

void Session::jobFinished(std::shared_ptr<const Solution> solution, const Findings& findings)
{
    const auto key = job_->key();
    const bool onlyRead = job_->onlyReads();
    if (onlyRead) {
        toLookUp_.erase(key);
        if (solution) inResults_.insert(key);
        for (const auto& finding : findings)
            if (std::find(ofResults_.begin(), ofResults_.end(), finding) == ofResults_.end())
                ofResults_.push_back(finding);
    }
    const bool superseded = job_->takeId().isEmpty() && key != solveKey(model());
    job_->deleteLater();
    job_ = nullptr;
    autosave_.setSolving(false);
    arriving_.clear();
    massSoFar_ = {};
    const bool broken = solution && !findings.empty(); // saved from a run that broke
    if (solution && (!solution->stopped || ((stopAsked_ || broken) && !superseded))) {
        failures_.erase(key);
        if (broken) {
            auto partial = std::make_shared<Solution>(*solution);
            partial->findings.insert(partial->findings.begin(), findings.begin(), findings.end());
            solution = partial;
        } else if (solution->stopped) { // the modes found before the stop are kept, and said to be not all
            auto partial = std::make_shared<Solution>(*solution);
            partial->findings.push_back(warningAt({},
                                                  "the run was stopped: higher modes than these were not looked for",
                                                  "Solve again for all that are asked."));
            solution = partial;
        }
        solutions_[key] = solution;
    } else if (!solution && !superseded && !onlyRead) {
        failures_[key] = findings;
    }
    pairs_.clear();
    if (solutions_.size() > 60)
        std::erase_if(solutions_, [&](const auto& kept) {
            return kept.first != solveKey(model()) &&
                   std::none_of(document().takes.begin(), document().takes.end(),
                                [&](const Take& take) { return solveKey(take.model) == kept.first; });
        });
    refreshStaves();
    emit derivedChanged();
    emit stavesChanged();
    emit selectionChanged();
    emit runChanged();
    estimateSoon_.start();
    if (!stopAsked_ || superseded) startNext();
    if (!job_) bringResultsUpToDate();
}

} // namespace undisona
