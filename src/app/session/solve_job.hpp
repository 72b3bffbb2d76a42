#pragma once
#include "core/modal/solve.hpp"

#include <QObject>

namespace undisona {

class EngineProcess;

/// One run of the engine beside the interface, in a process of its own: a fault there costs the run, never the window.
class SolveJob : public QObject {
    Q_OBJECT
public:
    SolveJob(Model model, QString takeId, QObject* parent)
        : QObject(parent), model_(std::move(model)), takeId_(std::move(takeId)), key_(solveKey(model_))
    {
    }

    virtual void start() = 0;
    /// What has been found is kept. `finished` follows in any case.
    virtual void stop() = 0;
    /// Nobody wants the answer any more.
    virtual void abandon() { stop(); }

    const QString& takeId() const { return takeId_; }
    std::uint64_t key() const { return key_; }
    virtual bool onlyReads() const { return false; } ///< what a results file keeps

signals:
    void stageChanged(const QString& stage, double fraction);
    void modesConverged(const std::vector<double>& hertz);
    void massReached(const undisona::MassSoFar& mass);
    /// The solution is null when there is none; the findings say why. A stopped solution beside findings is what was
    /// saved from a run that broke.
    void finished(std::shared_ptr<const undisona::Solution> solution, const undisona::Findings& findings);

protected:
    const Model& model() const { return model_; }

private:
    Model model_;
    QString takeId_;
    std::uint64_t key_;
};

/// `beside`: the mesh of a model like it, taken where it is fine enough.
SolveJob* makeProcessJob(Model, const QString& takeId, std::optional<MeshPlan> beside, EngineProcess&, QObject* parent);

/// Modes are read from a results file and nothing is solved; neither a solution nor a finding where it keeps none.
SolveJob* makeReadingJob(Model, const QString& takeId, const QString& results, EngineProcess&, QObject* parent);

} // namespace undisona
