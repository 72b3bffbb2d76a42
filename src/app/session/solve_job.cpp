#include "app/session/solve_job.hpp"

#include <QMetaObject>

namespace undisona {

SolveJob::SolveJob(Model model, QString takeId, std::shared_ptr<KeptRuns> kept, QObject* parent)
    : QObject(parent), model_(std::move(model)), takeId_(std::move(takeId)), key_(solveKey(model_)),
      kept_(std::move(kept))
{
    progress_ = std::make_unique<Progress>([this](const std::string& stage, double fraction) {
        QMetaObject::invokeMethod(
            this, [this, stage = QString::fromStdString(stage), fraction] { emit stageChanged(stage, fraction); },
            Qt::QueuedConnection);
    });
}

SolveJob::~SolveJob()
{
    progress_->stop();
    if (thread_.joinable()) thread_.join();
}

void SolveJob::start()
{
    thread_ = std::thread([this] {
        const auto hear = [this](const std::vector<double>& hertz) {
            QMetaObject::invokeMethod(
                this, [this, hertz] { emit modesConverged(hertz); }, Qt::QueuedConnection);
        };
        std::shared_ptr<const Solution> solution;
        Findings findings;
        try {
            auto result = solve(model_, *progress_, {.kept = kept_.get()}, hear);
            if (result) solution = *result;
            findings = result.findings();
        } catch (const std::bad_alloc&) {
            findings.push_back(errorAt({}, "the memory of this machine is not enough for this model",
                                       "Ask for fewer modes or split members less."));
        } catch (const std::exception& problem) {
            findings.push_back(errorAt({}, std::string("the run ended early: ") + problem.what(),
                                       "Save the model and tell us about it."));
        }
        QMetaObject::invokeMethod(
            this, [this, solution, findings] { emit finished(solution, findings); }, Qt::QueuedConnection);
    });
}

} // namespace undisona
