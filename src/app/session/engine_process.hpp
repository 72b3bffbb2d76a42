#pragma once
#include "core/engine/messages.hpp"

#include <QProcess>

namespace undisona {

/// The engine in a process of its own: started with the first order, kept for the next, started anew after its end.
/// One order at a time.
class EngineProcess : public QObject {
    Q_OBJECT
public:
    explicit EngineProcess(QObject* parent);
    ~EngineProcess() override;

    /// Whether the engine's program stands beside this one.
    static bool found();

    void begin(); ///< starts it, where it does not run yet
    void order(MessageKind runOrEstimate, const Model&);
    void order(const Model&, const MeshPlan&); ///< a run on this mesh
    void stop(); ///< asks the run to end with what it has
    void kill(); ///< ends the process; nothing more is heard of its order
    qint64 processId() const { return process_ ? process_->processId() : 0; }

signals:
    void stageChanged(const QString& stage, double fraction);
    void modesConverged(const std::vector<double>& hertz);
    void modesFound(const std::string& body);
    void estimated(const undisona::EstimateAnswer& answer);
    void done(const std::string& body);
    void died(const undisona::Finding& why); ///< by itself, before its answer

private:
    void send(MessageKind, const std::string& body);
    void hear();
    void hear(const Message&);
    void fail(const QString& what, const QString& remedy);

    std::unique_ptr<QProcess> process_;
    MessageReader reader_;
};

} // namespace undisona
