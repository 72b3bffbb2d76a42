#include "app/session/engine_process.hpp"
#include "app/session/solve_job.hpp"
#include "core/base/memory.hpp"
#include "core/studies/modes.hpp"

#include <QFile>
#include <QMetaObject>
#include <QTimer>

#include <thread>

namespace undisona {

namespace {

constexpr int grace = 333; // ms that a stopped run has to bring home what it found
/// An abandoned one longer: with the process goes what it keeps for the next run.
constexpr int longGrace = 4000;

class ProcessJob : public SolveJob {
public:
    ProcessJob(Model model, const QString& takeId, ModesOrder how, EngineProcess& engine, QObject* parent)
        : SolveJob(std::move(model), takeId, parent), how_(std::move(how)), engine_(engine)
    {
        connect(&engine_, &EngineProcess::stageChanged, this,
                [this](std::uint64_t order, const QString& stage, double fraction) {
                    if (order == order_) emit stageChanged(stage, fraction);
                });
        connect(&engine_, &EngineProcess::partly, this, [this](std::uint64_t order, const PartlyWord& word) {
            if (order != order_) return;
            if (word.what == frequenciesOnTheWay) emit modesConverged(valueFrom<std::vector<double>>(word.bytes));
            if (word.what == modesOnTheWay) keep(word.bytes);
        });
        connect(&engine_, &EngineProcess::done, this, [this](std::uint64_t order, const std::string& answer) {
            if (order != order_) return;
            finishFrom([this, answer] { return solutionOf(SolveJob::model(), ModesStudy::answerFrom(answer)); }, {});
        });
        connect(&engine_, &EngineProcess::died, this, [this](const Finding& why) { finishFromKept({why}); });
        connect(&engine_, &EngineProcess::killed, this, [this] {
            if (ending_)
                finishFromKept({});
            else if (!finishing_)
                start(); // it was ended for what went on before this
        });
        patience_.setSingleShot(true);
        connect(&patience_, &QTimer::timeout, &engine_, &EngineProcess::kill);
    }
    ~ProcessJob() override
    {
        engine_.disconnect(this);
        if (thread_.joinable()) thread_.join();
        if (!finishing_) engine_.kill(); // nobody is left to hear the answer
    }

    void start() override { order_ = engine_.order(modesStudy().key, SolveJob::model(), ModesStudy::bytesOf(how_)); }
    bool onlyReads() const override { return !how_.results.empty(); }
    void stop() override { end(grace); }
    void abandon() override
    {
        wanted_ = false;
        end(longGrace);
    }

private:
    void end(int milliseconds)
    {
        if (finishing_) return;
        ending_ = true;
        if (!patience_.isActive()) engine_.stop();
        if (!patience_.isActive() || patience_.remainingTime() > milliseconds) patience_.start(milliseconds);
    }

    /// The latest modes; but those that were counted stay until others are.
    void keep(const std::string& body)
    {
        const FoundHead head = headOfFound(body);
        emit massReached(head.mass);
        if (proven_ && !head.proven) return;
        kept_ = body;
        proven_ = head.proven;
    }

    void finishFromKept(const Findings& why)
    {
        if (finishing_) return;
        if (kept_.empty() || !wanted_) {
            finishing_ = true;
            patience_.stop();
            emit finished(nullptr,
                          why.empty() ? Findings{warningAt({}, "the run was stopped before a mode was found")} : why);
            return;
        }
        emit stageChanged(tr("reading the modes kept"), -1.0);
        finishFrom([this] { return solutionFrom(SolveJob::model(), foundFrom(kept_), progress_); }, why);
    }

    /// A solution is put together beside the interface.
    void finishFrom(std::function<Result<std::shared_ptr<const Solution>>()> make, Findings findings)
    {
        finishing_ = true;
        patience_.stop();
        thread_ = std::thread([this, make = std::move(make), findings = std::move(findings)]() mutable {
            std::shared_ptr<const Solution> solution;
            try {
                auto result = make();
                if (result) solution = *result;
                for (auto& finding : result.findings())
                    findings.push_back(std::move(finding));
            } catch (const std::bad_alloc&) {
                findings.push_back(memoryRanOut());
            } catch (const ArchiveError& problem) {
                findings.push_back(
                    onlyReads()
                        ? warningAt({}, how_.results + ": what it keeps does not fit this model: " + problem.what(),
                                    "It is found anew when you solve, and kept when you save.")
                        : errorAt({}, std::string("the engine's answer cannot be read: ") + problem.what(),
                                  "Window and engine must be of one build."));
            }
            QMetaObject::invokeMethod(
                this, [this, solution, findings] { emit finished(solution, findings); }, Qt::QueuedConnection);
        });
    }

    const ModesOrder how_;
    EngineProcess& engine_;
    QTimer patience_;
    std::uint64_t order_ = 0;
    std::string kept_; ///< modes on their way
    bool proven_ = false, wanted_ = true, ending_ = false, finishing_ = false;
    Progress progress_;
    std::thread thread_;
};

} // namespace

SolveJob* makeProcessJob(Model model, const QString& takeId, std::optional<MeshPlan> beside, EngineProcess& engine,
                         QObject* parent)
{
    return new ProcessJob(std::move(model), takeId, {.beside = std::move(beside)}, engine, parent);
}

SolveJob* makeReadingJob(Model model, const QString& takeId, const QString& results, EngineProcess& engine,
                         QObject* parent)
{
    return new ProcessJob(std::move(model), takeId, {.results = QFile::encodeName(results).toStdString()}, engine,
                          parent);
}

} // namespace undisona
