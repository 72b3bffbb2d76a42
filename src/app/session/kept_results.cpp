#include "app/session/kept_results.hpp"

#include "app/session/beside.hpp"

#include <QCoreApplication>
#include <QFile>
#include <QFileInfo>
#include <QLocale>
#include <QMetaObject>

namespace undisona {

KeptResults::~KeptResults()
{
    progress_.stop(); // what was there stays
    if (thread_.joinable()) thread_.join();
}

void KeptResults::setModelFile(const QString& path)
{
    path_ = path.isEmpty()
                ? QString()
                : QFile::decodeName(QByteArray::fromStdString(resultsBeside(QFile::encodeName(path).toStdString())));
}

bool KeptResults::isThere() const
{
    return !path_.isEmpty() && QFileInfo(path_).isFile();
}

void KeptResults::write(std::vector<Run> runs, WriteRules rules)
{
    next_ = {std::move(runs), std::move(rules)};
    if (!writing()) begin();
}

void KeptResults::begin()
{
    auto [runs, rules] = *std::exchange(next_, std::nullopt);
    busy_ = true;
    thread_ = std::thread([this, path = path_, runs = std::move(runs), rules = std::move(rules)] {
        std::vector<RunToKeep> all;
        for (const auto& run : runs)
            all.push_back({run.name.toStdString(), &run.model, run.solution});
        const auto problem = keepResults(QFile::encodeName(path).toStdString(), all, progress_, rules);
        const QString words =
            problem ? QString::fromStdString(oneLine(*problem))
                    : tr("Results are kept in %1 (%2); each save brings it up to date as long as it lies there.")
                          .arg(QFileInfo(path).fileName(), QLocale().formattedDataSize(QFileInfo(path).size()));
        busy_ = false;
        QMetaObject::invokeMethod(
            this,
            [this, words] {
                thread_.join();
                emit told(words);
                if (next_) begin();
            },
            Qt::QueuedConnection);
    });
}

void KeptResults::finish()
{
    while (writing()) {
        const bool whole = doneBeside(tr("Writing the results file …"), [this](const Progress& asked) {
            while (busy_ && !asked.stopped())
                std::this_thread::sleep_for(std::chrono::milliseconds(5));
        });
        if (!whole) return progress_.stop();
        QCoreApplication::sendPostedEvents(this); // it is over, and what waits begins
    }
}

} // namespace undisona
