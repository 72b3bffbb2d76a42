#pragma once
#include "core/modal/solve.hpp"

#include <QObject>

#include <thread>

namespace undisona {

/// One run of the engine beside the interface. The same signals serve a thread or a process of its own.
class SolveJob : public QObject {
    Q_OBJECT
public:
    /// What earlier runs left behind is used, and added to, by this one alone while it lasts.
    SolveJob(Model model, QString takeId, std::shared_ptr<KeptRuns> kept, QObject* parent);
    ~SolveJob() override;

    void start();
    void stop() { progress_->stop(); }
    const QString& takeId() const { return takeId_; }
    std::uint64_t key() const { return key_; }

signals:
    void stageChanged(const QString& stage, double fraction);
    void modesConverged(const std::vector<double>& hertz);
    /// The solution is null when there is none; the findings say why.
    void finished(std::shared_ptr<const undisona::Solution> solution, const undisona::Findings& findings);

private:
    Model model_;
    QString takeId_;
    std::uint64_t key_;
    std::shared_ptr<KeptRuns> kept_;
    std::unique_ptr<Progress> progress_;
    std::thread thread_;
};

} // namespace undisona
