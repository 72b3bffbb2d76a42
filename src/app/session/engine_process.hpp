#pragma once
#include "core/engine/messages.hpp"

#include <QProcess>

namespace undisona {

/// The engine in a process of its own: started with the first order, kept for the next, started anew after its end.
/// One order after the other.
class EngineProcess : public QObject {
    Q_OBJECT
public:
    explicit EngineProcess(QObject* parent);
    ~EngineProcess() override;

    /// Whether the engine's program stands beside this one.
    static bool found();

    void begin(); ///< starts it, where it does not run yet
    /// Orders a study of the model with its options; the number under which everything is said of it.
    std::uint64_t order(std::string_view study, const Model&, std::string options);
    void stop(); ///< asks what goes on, and what waits, to end with what it has
    void kill(); ///< ends the process; nothing more is heard of its orders
    qint64 processId() const { return process_ ? process_->processId() : 0; }

signals:
    void stageChanged(std::uint64_t order, const QString& stage, double fraction);
    void partly(std::uint64_t order, const undisona::PartlyWord& word);
    void done(std::uint64_t order, const std::string& answer);
    void died(const undisona::Finding& why); ///< by itself, before its answer
    void killed();

private:
    void end();
    void send(const std::string& message);
    void hear();
    void hear(const Message&);
    void fail(const QString& what, const QString& remedy);

    std::unique_ptr<QProcess> process_;
    MessageReader reader_;
    std::uint64_t orders_ = 0;
};

} // namespace undisona
