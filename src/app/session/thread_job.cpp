#include "app/session/solve_job.hpp"
#include "core/base/memory.hpp"

#include <QMetaObject>

#include <thread>

namespace undisona {

namespace {

class ThreadJob : public SolveJob {
public:
    ThreadJob(Model model, const QString& takeId, std::optional<MeshPlan> plan, std::shared_ptr<KeptRuns> kept,
              QObject* parent)
        : SolveJob(std::move(model), takeId, std::move(plan), parent), kept_(std::move(kept)),
          progress_([this](const std::string& stage, double fraction) {
              later([this, stage = QString::fromStdString(stage), fraction] { emit stageChanged(stage, fraction); });
          })
    {
    }
    ~ThreadJob() override
    {
        progress_.stop();
        if (thread_.joinable()) thread_.join();
    }

    void start() override
    {
        thread_ = std::thread([this] { run(); });
    }
    void stop() override { progress_.stop(); }

private:
    void run()
    {
        const RunListener listener{
            [this](const std::vector<double>& hertz) { later([this, hertz] { emit modesConverged(hertz); }); },
            [this](const FoundModes& found) { later([this, mass = found.mass] { emit massReached(mass); }); }};
        std::shared_ptr<const Solution> solution;
        Findings findings;
        try {
            auto result = solve(model(), progress_, {.plan = plan(), .kept = kept_.get()}, listener);
            if (result) solution = *result;
            findings = result.findings();
        } catch (const std::bad_alloc&) {
            findings.push_back(memoryRanOut());
        } catch (const std::exception& problem) {
            findings.push_back(errorAt({}, std::string("the run ended early: ") + problem.what(),
                                       "Save the model and tell us about it."));
        }
        later([this, solution, findings] { emit finished(solution, findings); });
    }
    /// On the interface's thread, in the order of the calls.
    template <class Work>
    void later(Work work)
    {
        QMetaObject::invokeMethod(this, std::move(work), Qt::QueuedConnection);
    }

    std::shared_ptr<KeptRuns> kept_;
    Progress progress_;
    std::thread thread_;
};

} // namespace

SolveJob* makeThreadJob(Model model, const QString& takeId, std::optional<MeshPlan> plan,
                        std::shared_ptr<KeptRuns> kept, QObject* parent)
{
    return new ThreadJob(std::move(model), takeId, std::move(plan), std::move(kept), parent);
}

} // namespace undisona
