#include "app/session/engine_process.hpp"

#include "core/base/memory.hpp"
#include "core/model/document_io.hpp"

#include <QCoreApplication>
#include <QFileInfo>

#include <csignal>

namespace undisona {

namespace {

QString programPath()
{
    return QCoreApplication::applicationDirPath() + "/undisona-cli";
}

/// The rest of the machine needs some memory too.
constexpr double ownShare = 0.9;

} // namespace

EngineProcess::EngineProcess(QObject* parent) : QObject(parent) {}

EngineProcess::~EngineProcess()
{
    kill();
}

bool EngineProcess::found()
{
    return QFileInfo(programPath()).isExecutable();
}

void EngineProcess::begin()
{
    if (process_) return;
    reader_ = {};
    process_ = std::make_unique<QProcess>();
    process_->setProcessChannelMode(QProcess::ForwardedErrorChannel);
    connect(process_.get(), &QProcess::readyReadStandardOutput, this, [this] { hear(); });
    connect(process_.get(), &QProcess::finished, this, [this](int code, QProcess::ExitStatus status) {
        hear(); // what it said last
        if (!process_) return;
        const QString how = status == QProcess::NormalExit ? tr("it left with code %1").arg(code)
                            : code == SIGKILL ? tr("the machine or someone ended it, as for want of memory")
                                              : tr("signal %1").arg(code);
        fail(tr("the engine's process ended before its answer: %1").arg(how),
             tr("The model and earlier results are as they were. Solve again; if memory is short, ask for fewer "
                "modes."));
    });
    connect(process_.get(), &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            fail(tr("the engine could not be started: %1").arg(process_->errorString()),
                 tr("Check that %1 can be run.").arg(programPath()));
    });
    process_->start(programPath(),
                    {"engine", "--memory-limit", QString::number(ownShare * machineMegabytes(), 'f', 0)});
}

std::uint64_t EngineProcess::order(std::string_view study, const Model& model, std::string options)
{
    Document document;
    document.model = model;
    send(framed(MessageKind::order, ++orders_,
                bytesOf(StudyOrder{std::string(study), writeDocument(document), std::move(options)})));
    return orders_;
}

void EngineProcess::send(const std::string& message)
{
    begin();
    if (process_) process_->write(message.data(), static_cast<qint64>(message.size()));
}

void EngineProcess::stop()
{
    if (process_) send(framed(MessageKind::stop));
}

void EngineProcess::kill()
{
    end();
    emit killed();
}

void EngineProcess::end()
{
    if (!process_) return;
    process_->disconnect(this);
    process_->kill();
    process_->waitForFinished(200);
    process_.release()->deleteLater(); // which reaps it, should it still be on its way out
}

void EngineProcess::hear()
{
    const QByteArray piece = process_->readAllStandardOutput();
    reader_.feed({piece.constData(), static_cast<std::size_t>(piece.size())});
    try {
        while (process_) {
            const auto message = reader_.next();
            if (!message) break;
            hear(*message);
        }
    } catch (const ArchiveError& problem) {
        return fail(tr("the engine's answer cannot be read: %1").arg(problem.what()),
                    tr("Window and engine must be of one build."));
    }
    if (reader_.broken())
        fail(tr("something else than an answer came from the engine"), tr("Window and engine must be of one build."));
}

void EngineProcess::hear(const Message& message)
{
    switch (message.kind) {
    case MessageKind::hello:
        if (message.body != engineVersion())
            fail(tr("the engine beside the window is \"%1\", the window \"%2\"")
                     .arg(QString::fromStdString(message.body), engineVersion()),
                 tr("Install the two together."));
        return;
    case MessageKind::stage: {
        const auto word = valueFrom<StageWord>(message.body);
        emit stageChanged(message.order, QString::fromStdString(word.stage), word.fraction);
        return;
    }
    case MessageKind::partly:
        emit partly(message.order, valueFrom<PartlyWord>(message.body));
        return;
    case MessageKind::done:
        emit done(message.order, message.body);
        return;
    case MessageKind::order:
    case MessageKind::stop:
        return; // ours to say
    }
}

void EngineProcess::fail(const QString& what, const QString& remedy)
{
    end();
    emit died(errorAt({}, what.toStdString(), remedy.toStdString()));
}

} // namespace undisona
