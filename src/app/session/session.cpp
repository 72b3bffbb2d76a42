#include "app/session/session.hpp"

#include "app/session/beside.hpp"
#include "app/session/engine_process.hpp"
#include "app/session/settings.hpp"
#include "app/session/solve_job.hpp"
#include "core/assess/model_checks.hpp"
#include "core/geometry/pick.hpp"
#include "core/modal/estimate_ahead.hpp"
#include "core/model/differences.hpp"
#include "core/model/free_names.hpp"
#include "core/model/stated.hpp"

#include <QFile>
#include <QFileInfo>

namespace undisona {

namespace {

constexpr std::size_t mostSteps = 500;
constexpr std::int64_t smallModel = 30000; // unknowns above which a run waits to be asked for
constexpr std::size_t smallFrame = 4000;   // members and points, likewise: each has its words and symbols too

std::optional<std::string> bytesOf(const QString& path)
{
    QFile file(path);
    if (path.isEmpty() || !file.open(QIODevice::ReadOnly)) return std::nullopt;
    return file.readAll().toStdString();
}

} // namespace

Session::Session(QObject* parent) : QObject(parent)
{
    history_.push_back({});
    derive();
    refreshStaves();
    autosaveSoon_.setInterval(20000);
    connect(&autosaveSoon_, &QTimer::timeout, this, &Session::autosave);
    autosaveSoon_.start();
    engine_ = std::make_unique<EngineProcess>(nullptr);
    connect(engine_.get(), &EngineProcess::estimated, this, [this](const EstimateAnswer& answer) {
        if (estimatedKey_ != solveKey(model())) return;
        estimate_ = QString::fromStdString(answer.words);
        refused_ = answer.refused;
        refreshStaves();
        emit derivedChanged();
        emit runChanged();
    });
    engine_->begin(); // ready by the time that something is asked
    estimateSoon_.setSingleShot(true);
    estimateSoon_.setInterval(300);
    connect(&estimateSoon_, &QTimer::timeout, this, &Session::estimateAgain);
}

Session::~Session()
{
    if (!unsaved()) autosave_.drop();
    delete job_;
}

bool Session::unsaved() const
{
    return open_ && at_ != savedAt_;
}

void Session::start(Document document, const QString& path, bool unsolved)
{
    stop();
    history_ = {{std::move(document), {}, {}}};
    at_ = savedAt_ = 0;
    path_ = path;
    inFile_ = bytesOf(path);
    open_ = true;
    waitsToBeAsked_ = unsolved;
    lastLive_ = nullptr;
    selected_.clear();
    spotlight_ = {};
    shownStave_ = 0;
    shownMode_ = 0;
    documentMoved();
    emit sentenceSelected();
}

Findings Session::open(const QString& path, bool asExample)
{
    auto document = readDocumentFile(path.toStdString(), WrongWords::kept);
    if (!document) return document.findings();
    if (!prepare(document->model))
        return {errorAt({}, "opening was stopped; nothing has changed", "Open it again, and wait for its parts.")};
    start(std::move(*document), asExample ? QString() : path);
    if (!asExample) rememberFile(path);
    return {};
}

std::optional<Finding> Session::save(const QString& path, bool overProtection)
{
    if (auto problem = writeDocumentFile(document(), QFile::encodeName(path).toStdString(),
                                         {.inputs = {}, .overProtection = overProtection}))
        return problem;
    path_ = path;
    inFile_ = bytesOf(path);
    savedAt_ = at_;
    rememberFile(path);
    autosave_.drop();
    emit documentChanged();
    return std::nullopt;
}

std::vector<std::string> Session::files() const
{
    auto files = filesOf(document());
    if (!path_.isEmpty()) files.push_back(QFile::encodeName(path_).toStdString());
    return files;
}

std::vector<std::string> Session::changedOutside() const
{
    const auto now = bytesOf(path_);
    if (!inFile_ || !now || *now == *inFile_) return {};
    const auto there = readDocumentFile(QFile::encodeName(path_).toStdString(), WrongWords::kept);
    if (!there) return {"the file is no model any more: " + oneLine(there.findings().front())};
    auto lines = differences(*there, document());
    if (lines.empty()) lines.push_back("the same is said there in another layout");
    return lines;
}

void Session::autosave()
{
    if (!unsaved()) return autosave_.drop();
    const auto problem = autosave_.keep(document(), path_);
    if (problem && !autosaveFailed_) say(QString::fromStdString(oneLine(*problem)));
    autosaveFailed_ = problem.has_value();
}

void Session::recover(LeftBehind left)
{
    if (!left.document || !prepare(left.document->model)) return;
    start(std::move(*left.document), {}, left.whileSolving);
    savedAt_ = SIZE_MAX;
    if (autosave_.keep(document(), {})) return; // it stays where it is
    Autosave::remove(left);
    emit documentChanged();
    if (waitsToBeAsked_) say(tr("The earlier window ended while it solved this: it is not solved until you ask."));
}

void Session::discardChanges()
{
    savedAt_ = at_;
    autosave_.drop();
}

void Session::change(const QString& what, Document next, const QString& merge)
{
    if (next == document()) return;
    if (!prepare(next.model)) return;
    waitsToBeAsked_ = false;
    const bool flows =
        !merge.isEmpty() && at_ > 0 && at_ + 1 == history_.size() && history_[at_].merge == merge && savedAt_ != at_;
    if (flows) {
        history_[at_].document = std::move(next);
    } else {
        history_.resize(at_ + 1);
        if (savedAt_ > at_) savedAt_ = SIZE_MAX;
        history_.push_back({std::move(next), what, merge});
        ++at_;
        if (history_.size() > mostSteps) {
            history_.erase(history_.begin());
            --at_;
            if (savedAt_ != SIZE_MAX) savedAt_ = savedAt_ == 0 ? SIZE_MAX : savedAt_ - 1;
        }
    }
    documentMoved();
}

void Session::changeModel(const QString& what, Model next, const QString& merge)
{
    Document document = this->document();
    document.model = std::move(next);
    change(what, std::move(document), merge);
}

void Session::replaceSentence(const QString& what, Sentence next, const QString& merge)
{
    changeModel(what, model().replaced(std::move(next)), merge);
}

std::string Session::addSentence(const SentenceKind& kind, std::size_t index)
{
    const std::string id = model().freeId();
    Sentence sentence = newSentence(kind, id);
    if (const auto* name = kind.field("name"); name && name->type == FieldType::name)
        sentence = sentence.with("name", FreeNames(model()).like(sentence.text("name")));
    changeModel(tr("add %1").arg(QString::fromStdString(kind.title)), model().inserted(std::move(sentence), index));
    selectSentence(id);
    return id;
}

void Session::undo()
{
    if (at_ == 0 || !prepare(history_[at_ - 1].document.model)) return;
    --at_;
    documentMoved();
}

void Session::redo()
{
    if (at_ + 1 >= history_.size() || !prepare(history_[at_ + 1].document.model)) return;
    ++at_;
    documentMoved();
}

QString Session::undoWords() const
{
    return at_ > 0 ? history_[at_].what : QString();
}
QString Session::redoWords() const
{
    return at_ + 1 < history_.size() ? history_[at_ + 1].what : QString();
}

void Session::keepTake(const QString& name)
{
    Document next = document();
    std::set<std::string> ids;
    for (const auto& take : next.takes)
        ids.insert(take.id);
    int number = static_cast<int>(next.takes.size()) + 1;
    while (ids.contains("t" + std::to_string(number)))
        ++number;
    next.takes.push_back({"t" + std::to_string(number), name.toStdString(), next.model});
    change(tr("keep take %1").arg(name), std::move(next));
}

void Session::removeTake(const QString& id)
{
    Document next = document();
    std::erase_if(next.takes, [&](const Take& take) { return take.id == id.toStdString(); });
    change(tr("remove a take"), std::move(next));
}

void Session::mend(const Cure& cure)
{
    const auto changed = stated(model(), cure.statements);
    if (!changed) return say(QString::fromStdString(changed.findings()[0].what));
    changeModel(QString::fromStdString(cure.words), *changed);
}

void Session::useTake(const QString& id)
{
    for (const auto& take : document().takes)
        if (take.id == id.toStdString())
            return changeModel(tr("go back to take %1").arg(QString::fromStdString(take.name)), take.model);
}

void Session::documentMoved()
{
    derive();
    refreshStaves();
    if (!model().find(selected_)) selected_.clear();
    emit documentChanged();
    emit derivedChanged();
    emit stavesChanged();
    emit selectionChanged();
    askedToSolve_ = solvesByItself();
    if (study_ && study_->key != solveKey(model())) endStudy();
    if (job_ && job_->key() != solveKey(model())) job_->abandon();
    estimateSoon_.start();
    startNext();
}

/// Only where a run waits to be asked for, and would take its time.
void Session::estimateAgain()
{
    const auto key = solveKey(model());
    if (estimatedKey_ == key) return;
    estimatedKey_.reset();
    estimate_.clear();
    refused_.clear();
    const bool wanted = open_ && !solvesByItself() && !hasError(modelFindings_) && !solutions_.contains(key) &&
                        !structure_->frame.empty() && EngineProcess::found();
    if (wanted && !job_) {
        estimatedKey_ = key;
        engine_->order(MessageKind::estimate, model());
    }
    emit runChanged();
}

Session::Derived Session::derivedFrom(const Model& model)
{
    auto built = buildStructure(model);
    Derived derived{
        model, std::make_shared<const Structure>(std::move(built.structure)), {}, std::move(built.findings)};
    derived.mass = massSummary(*derived.structure);
    if (!hasError(derived.findings)) derived.unknowns = unknownsAbout(*derived.structure);
    if (!derived.structure->frame.empty())
        for (auto& finding : checkStructure(*derived.structure, derived.mass, model))
            derived.findings.push_back(std::move(finding));
    return derived;
}

bool Session::prepare(const Model& model)
{
    if (prepared_ && prepared_->model == model) return true;
    prepared_.reset();
    std::optional<Derived> made;
    if (!doneBeside(tr("Making and joining the parts …"), [&](const Progress&) { made = derivedFrom(model); })) {
        say(tr("Stopped; nothing has changed."));
        return false;
    }
    prepared_ = std::move(made);
    return true;
}

void Session::derive()
{
    if (!prepared_ || !(prepared_->model == model())) prepared_ = derivedFrom(model());
    structure_ = std::move(prepared_->structure);
    mass_ = std::move(prepared_->mass);
    unknowns_ = prepared_->unknowns;
    modelFindings_ = std::move(prepared_->findings);
    prepared_.reset();
}

bool Session::solvesByItself() const
{
    return open_ && !waitsToBeAsked_ && unknowns_ < smallModel &&
           structure_->frame.members.size() + structure_->frame.points.size() < smallFrame && !structure_->frame.empty();
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
    for (auto take = document().takes.rbegin(); take != document().takes.rend(); ++take)
        staves_.push_back(fill(QString::fromStdString(take->id), QString::fromStdString(take->name), take->model));
    for (auto& stave : staves_) {
        if (!stave.solution) continue;
        Findings ignored;
        // Bands and margins need no solve: they are always of the present model.
        stave.excitations = readExcitations(stave.model, stave.solution->structure->frame, ignored);
        stave.clashes = clashesOf(*stave.solution, stave.excitations);
        if (!stave.id.isEmpty()) stave.mass = stave.solution->mass.mass;
    }
    if (staves_[0].excitations.empty()) staves_[0].excitations = structure_->excitations;

    shownStave_ = std::min(shownStave_, staves_.size() - 1);
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
    if (study_ && study_->key == key) {
        endStudy();
        if (job_ && job_->plan()) job_->abandon();
    }
    failures_.erase(key);
    solutions_.erase(key);
    pairs_.clear();
    refreshStaves();
    askedToSolve_ = true;
    emit stavesChanged();
    startNext();
}

void Session::stop()
{
    askedToSolve_ = false;
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
    if (job_ || !open_) return;
    QString takeId;
    const Model* next = nullptr;
    const auto known = [&](const Model& model) {
        return solutions_.contains(solveKey(model)) || failures_.contains(solveKey(model));
    };
    if (askedToSolve_ && !hasError(modelFindings_) && !known(model())) next = &model();
    if (!next)
        for (const auto& take : document().takes)
            if (!waitsToBeAsked_ && !known(take.model)) {
                next = &take.model;
                takeId = QString::fromStdString(take.id);
                break;
            }
    if (!next && (!study_ || study_->waiting.empty())) return;
    arriving_.clear();
    stage_.clear();
    stopAsked_ = false;
    massSoFar_ = {};
    job_ = next ? makeProcessJob(*next, takeId, {}, *engine_, this) : makeStudyJob();
    const bool forLive = next && takeId.isEmpty();
    connect(job_, &SolveJob::massReached, this, [this, forLive](const MassSoFar& mass) {
        if (!forLive) return;
        massSoFar_ = mass;
        emit massMoved();
    });
    connect(job_, &SolveJob::stageChanged, this, [this](const QString& stage, double fraction) {
        if (!stage_.endsWith(stage)) stageBegan_.start();
        stage_ = study_ && job_->plan() ? tr("mesh %1 of %2: %3")
                                              .arg(settlingFactors.size() - study_->waiting.size() + 1)
                                              .arg(settlingFactors.size())
                                              .arg(stage)
                                        : stage;
        fraction_ = fraction;
        emit runChanged();
    });
    connect(job_, &SolveJob::modesConverged, this, [this, forLive](const std::vector<double>& hertz) {
        if (forLive) arriving_ = hertz;
        emit runChanged();
    });
    connect(job_, &SolveJob::finished, this, &Session::jobFinished);
    autosave_.setSolving(true);
    job_->start();
    emit runChanged();
}

void Session::settleFrequencies()
{
    const Stave& stave = shown();
    if (study_) return say(tr("Frequencies on other meshes are being found already."));
    if (!stave.solution || stave.stale) return say(tr("Solve first; then the same is solved on other meshes."));
    if (!canSettle(*stave.solution))
        return say(tr("Only modes settle on finer meshes: not Ritz vectors, all of a mesh, a run that was stopped, or "
                      "what comes as a mesh."));
    const auto key = solveKey(stave.model);
    if (settlings_.size() > 8) settlings_.clear();
    study_ = Study{key, stave.model, stave.solution, {settlingFactors.begin(), settlingFactors.end()}};
    settlings_[key] = {stave.solution, settlingOf(*stave.solution)};
    emit settlingMoved();
    startNext();
}

const Settling* Session::settling() const
{
    if (!shown().solution) return nullptr;
    const auto found = settlings_.find(solveKey(shown().model));
    return found != settlings_.end() && found->second.first == shown().solution ? &found->second.second : nullptr;
}

SolveJob* Session::makeStudyJob()
{
    const double factor = study_->waiting.front();
    MeshPlan plan = scaled(planOf(study_->own->mesh), factor);
    return makeProcessJob(study_->model, {}, std::move(plan), *engine_, this);
}

void Session::studyJobFinished(std::uint64_t key, const std::shared_ptr<const Solution>& solution,
                               const Findings& findings)
{
    if (!study_ || study_->key != key) return; // it was given up
    Settling& settling = settlings_[study_->key].second;
    const double factor = study_->waiting.front();
    study_->waiting.erase(study_->waiting.begin());
    if (solution && !solution->stopped)
        addRound(settling, *study_->own, *solution, factor);
    else if (!stopAsked_)
        addRemark(settling, factor, findings);
    if (stopAsked_ || study_->waiting.empty()) return endStudy();
    emit settlingMoved();
}

void Session::endStudy()
{
    study_.reset();
    emit settlingMoved();
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
    const bool superseded = job_->takeId().isEmpty() && key != solveKey(model());
    const bool ofStudy = job_->plan().has_value();
    job_->deleteLater();
    job_ = nullptr;
    autosave_.setSolving(false);
    arriving_.clear();
    massSoFar_ = {};
    if (ofStudy) {
        studyJobFinished(key, solution, findings);
        emit runChanged();
        estimateSoon_.start();
        return startNext();
    }
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
    } else if (!solution && !superseded) {
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
}

const Mode* Session::mode() const
{
    const auto& solution = shown().solution;
    if (!solution || shownMode_ < 1 || shownMode_ > static_cast<int>(solution->modes.size())) return nullptr;
    return &solution->modes[static_cast<std::size_t>(shownMode_ - 1)];
}

void Session::showMode(std::size_t stave, int number)
{
    stave = std::min(stave, staves_.size() - 1);
    const auto& solution = staves_[stave].solution;
    number = solution ? std::clamp(number, 1, static_cast<int>(solution->modes.size())) : 0;
    if (stave == shownStave_ && number == shownMode_) return;
    shownStave_ = stave;
    shownMode_ = number;
    emit selectionChanged();
}

void Session::stepMode(int by)
{
    showMode(shownStave_, shownMode_ + by);
}

void Session::stepStave(int by)
{
    const auto next = static_cast<std::ptrdiff_t>(shownStave_) + by;
    if (next < 0 || next >= static_cast<std::ptrdiff_t>(staves_.size())) return;
    const auto to = static_cast<std::size_t>(next);
    int number = shownMode_; // the partner of the same shape, if the two are neighbours in the Score
    const auto& pairs = pairsWithNext(std::min(shownStave_, to));
    for (const auto& pair : pairs) {
        if (by > 0 && pair.first == shownMode_ && pair.second > 0) number = pair.second;
        if (by < 0 && pair.second == shownMode_) number = pair.first;
    }
    showMode(to, std::max(1, number));
}

const std::vector<ModePair>& Session::pairsWithNext(std::size_t stave) const
{
    static const std::vector<ModePair> none;
    if (stave + 1 >= staves_.size() || !staves_[stave].solution || !staves_[stave + 1].solution) return none;
    const std::pair key{staves_[stave].solution.get(), staves_[stave + 1].solution.get()};
    auto found = pairs_.find(key);
    if (found == pairs_.end()) {
        if (pairs_.size() > 100) pairs_.clear();
        found = pairs_.emplace(key, pairModes(*key.first, *key.second)).first;
    }
    return found->second;
}

void Session::selectSentence(const std::string& id)
{
    if (id == selected_) return;
    selected_ = id;
    emit sentenceSelected();
    light(spotlightOf(id));
}

void Session::light(const Spotlight& spotlight)
{
    if (spotlight == spotlight_) return;
    spotlight_ = spotlight;
    emit spotlightChanged();
}

Spotlight Session::spotlightOf(const std::string& id) const
{
    Spotlight spotlight;
    const auto sentence = model().sentence(id);
    if (!sentence) return spotlight;
    spotlight.sentences.push_back(id);
    for (std::size_t at = 0; at < structure_->frame.members.size(); ++at)
        if (structure_->frame.members[at].sentence == id) spotlight.members.push_back(static_cast<int>(at));
    for (int part = 0; part < static_cast<int>(structure_->frame.parts()); ++part)
        if (structure_->frame.partSentence(part) == id) spotlight.parts.push_back(part);
    for (std::size_t at = 0; at < structure_->frame.points.size(); ++at)
        if (structure_->frame.points[at].sentence == id && sentence->kind->key.starts_with("point"))
            spotlight.points.push_back(static_cast<int>(at));
    if (sentence->kind->group == Group::shape && !sentence->kind->key.starts_with("hole") &&
        !sentence->kind->key.starts_with("opening") && sentence->kind->key != "solid-cut" &&
        sentence->kind->key != "solid-union" && sentence->kind->key != "solid-common" &&
        sentence->kind->key != "taper" && sentence->kind->key != "moved" && sentence->kind->key != "turned")
        return spotlight;
    for (const auto& field : sentence->kind->fields) {
        if (!sentence->has(field.key)) continue;
        if (field.type == FieldType::points) {
            const Picked picked = pickPoints(structure_->frame, sentence->text(field.key));
            spotlight.points.insert(spotlight.points.end(), picked.indices.begin(), picked.indices.end());
            spotlight.edges.insert(spotlight.edges.end(), picked.edges.begin(), picked.edges.end());
            spotlight.faces.insert(spotlight.faces.end(), picked.faces.begin(), picked.faces.end());
        }
        if (field.type == FieldType::members) {
            const Picked picked = pickMembers(structure_->frame, sentence->text(field.key));
            spotlight.members.insert(spotlight.members.end(), picked.indices.begin(), picked.indices.end());
            spotlight.parts.insert(spotlight.parts.end(), picked.sheets.begin(), picked.sheets.end());
            for (const int solid : picked.solids)
                spotlight.parts.push_back(structure_->frame.partOfSolid(solid));
        }
    }
    return spotlight;
}

void Session::setPicking(Picking picking)
{
    if (picking == picking_) return;
    picking_ = picking;
    emit pickingChanged();
}

} // namespace undisona
