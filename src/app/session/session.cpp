#include "app/session/session.hpp"

#include "app/session/beside.hpp"
#include "app/session/answers.hpp"
#include "app/session/engine_process.hpp"
#include "app/session/kept_results.hpp"
#include "app/session/settings.hpp"
#include "app/session/solve_job.hpp"
#include "core/picks/first_words.hpp"
#include "core/assess/model_checks.hpp"
#include "core/studies/cost.hpp"
#include "core/studies/self_weight.hpp"
#include "core/studies/remedy.hpp"
#include "core/studies/settling.hpp"
#include "core/studies/sweep.hpp"
#include "core/studies/tolerances.hpp"
#include "core/modal/estimate_ahead.hpp"
#include "core/model/assembly_file.hpp"
#include "core/model/differences.hpp"
#include "core/model/free_names.hpp"
#include "core/model/stated.hpp"
#include "core/model/takes.hpp"
#include "core/picks/pick.hpp"

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
    foldsLocal_ = settings().value("score/foldsLocal", false).toBool();
    derive();
    refreshStaves();
    autosaveSoon_.setInterval(20000);
    connect(&autosaveSoon_, &QTimer::timeout, this, &Session::autosave);
    autosaveSoon_.start();
    runMovesSoon_.setSingleShot(true);
    runMovesSoon_.setInterval(100);
    connect(&runMovesSoon_, &QTimer::timeout, this, &Session::runChanged);
    kept_ = new KeptResults(this);
    connect(kept_, &KeptResults::told, this, &Session::told);
    engine_ = std::make_unique<EngineProcess>(nullptr);
    answers_ = std::make_unique<Answers>(*engine_);
    connect(answers_.get(), &Answers::arrived, this, &Session::answerArrived);
    connect(answers_.get(), &Answers::failed, this, [this](std::string_view study, const Finding& why) {
        if (study != costStudy().key) say(QString::fromStdString(oneLine(why)));
    });
    connect(answers_.get(), &Answers::stageChanged, this,
            [this](std::string_view study, const QString& stage, double fraction) {
                if (job_) return;
                if (study == remedyStudy().key || study == sweepStudy().key || study == toleranceStudy().key)
                    return stageMoved(stage, fraction);
                if (study != settlingStudy().key) return;
                const auto known = settling();
                const auto solved = known ? known->rounds.size() + known->remarks.size() : 1;
                stageMoved(tr("mesh %1 of %2: %3").arg(solved).arg(settlingFactors.size()).arg(stage), fraction);
            });
    engine_->begin(); // ready by the time that something is asked
    filesMovedSoon_.setSingleShot(true);
    filesMovedSoon_.setInterval(300);
    connect(&filesMovedSoon_, &QTimer::timeout, this, &Session::filesMoved);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, [this](const QString& file) {
        if (!movedFiles_.contains(file)) movedFiles_ << file;
        filesMovedSoon_.start();
    });
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this] {
        for (const auto& file : missingFiles_)
            if (QFileInfo::exists(file) && !movedFiles_.contains(file)) movedFiles_ << file;
        if (!movedFiles_.isEmpty()) filesMovedSoon_.start();
    });
    estimateSoon_.setSingleShot(true);
    estimateSoon_.setInterval(300);
    connect(&estimateSoon_, &QTimer::timeout, this, &Session::estimateAgain);
}

Session::~Session()
{
    if (!unsaved()) autosave_.drop();
    answers_->disconnect(this);
    qDeleteAll(findChildren<SolveJob*>(Qt::FindDirectChildrenOnly)); // those over too: they know the engine
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
    valuePlaces_.clear();
    valuesOf_ = {};
    shownStave_ = 0;
    shownMode_ = 0;
    kept_->finish();
    kept_->setModelFile(path);
    toLookUp_.clear();
    inResults_.clear();
    ofResults_.clear();
    if (kept_->isThere())
        for (const auto& one : modelsOf(this->document()))
            toLookUp_.insert(solveKey(one.model));
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
    kept_->setModelFile(path);
    bringResultsUpToDate();
    emit documentChanged();
    return std::nullopt;
}

bool Session::keepResults()
{
    if (path_.isEmpty()) {
        say(tr("Save the model first: results are kept in a file beside it."));
        return false;
    }
    inResults_.clear();
    writeResults();
    return true;
}

void Session::bringResultsUpToDate()
{
    if (unsaved() || !kept_->isThere()) return;
    const bool more = std::any_of(staves_.begin(), staves_.end(), [&](const Stave& stave) {
        return stave.solution && !stave.stale && !stave.solution->stopped &&
               !inResults_.contains(solveKey(stave.model));
    });
    if (more) writeResults();
}

void Session::writeResults()
{
    std::vector<KeptResults::Run> runs;
    for (const auto& stave : staves_) {
        const bool known = stave.solution && !stave.stale && !stave.solution->stopped;
        runs.push_back({stave.name, stave.model, known ? stave.solution : nullptr});
        if (known) inResults_.insert(solveKey(stave.model));
    }
    kept_->write(std::move(runs), {.inputs = files()});
}

void Session::finishWriting()
{
    kept_->finish();
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
    Sentence sentence = withFirstWords(structure().frame, newSentence(kind, id));
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
    next.from = undisona::keepTake(next, name.toStdString(), model(), next.from);
    change(tr("keep take %1").arg(name), std::move(next));
}

void Session::keepTake(const QString& name, Model of, const QString& note)
{
    Document next = document();
    const bool ofTake = shownStave_ > 0 && shown().stateSentence().empty();
    undisona::keepTake(next, name.toStdString(), std::move(of), ofTake ? shown().id.toStdString() : next.from);
    next.takes.back().note = note.toStdString();
    change(tr("keep take %1").arg(name), std::move(next));
}

void Session::removeTake(const QString& id)
{
    Document next = document();
    undisona::removeTake(next, id.toStdString());
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
    for (const auto& take : document().takes) {
        if (take.id != id.toStdString()) continue;
        Document next = document();
        next.model = take.model;
        next.from = take.id;
        return change(tr("go back to take %1").arg(QString::fromStdString(take.name)), std::move(next));
    }
}

void Session::noteTake(const QString& id, const QString& name, const QString& note)
{
    Document next = document();
    for (auto& take : next.takes) {
        if (take.id != id.toStdString()) continue;
        take.name = name.toStdString();
        take.note = note.toStdString();
    }
    if (!(next == document())) change(tr("note of a take"), std::move(next));
}

void Session::watchFiles()
{
    QStringList wanted;
    for (const auto& file : filesOf(document()))
        wanted << QString::fromStdString(file);
    for (const auto& file : assemblyFilesOf(model()))
        wanted << QString::fromStdString(file);
    missingFiles_.clear();
    QStringList places;
    for (const auto& file : wanted) {
        const bool there = QFileInfo::exists(file);
        if (!there) missingFiles_ << file;
        const QString folder = QFileInfo(file).path(); // in which one that is missing comes to be
        places << (there ? file : QFileInfo::exists(folder) ? folder : QString());
    }
    const QStringList watched = watcher_.files() + watcher_.directories();
    for (const auto& place : watched)
        if (!places.contains(place)) watcher_.removePath(place);
    for (const auto& place : places)
        if (!place.isEmpty() && !watched.contains(place)) watcher_.addPath(place);
}

void Session::filesMoved()
{
    for (auto& file : movedFiles_)
        file = QFileInfo(file).fileName();
    say(tr("%1 has changed and was read again.").arg(movedFiles_.join(", ")));
    movedFiles_.clear();
    prepared_.reset();
    if (prepare(model())) documentMoved(); // beside the window where that takes long
}

void Session::documentMoved()
{
    watchFiles();
    derive();
    refreshStaves();
    if (!model().find(selected_)) selected_.clear();
    emit documentChanged();
    emit derivedChanged();
    emit stavesChanged();
    emit selectionChanged();
    askedToSolve_ = solvesByItself();
    if (const auto key = solveKey(model()); std::exchange(liveKey_, key) != key) answers_->stop();
    if (job_ && job_->key() != solveKey(model())) job_->abandon();
    estimateSoon_.start();
    startNext();
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
           structure_->frame.members.size() + structure_->frame.points.size() < smallFrame &&
           !structure_->frame.empty();
}

} // namespace undisona
