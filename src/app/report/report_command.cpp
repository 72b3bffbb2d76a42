#include "app/report/report_command.hpp"

#include "app/film/film_order.hpp"
#include "app/report/report_pictures.hpp"
#include "app/session/without_window.hpp"
#include "core/base/file_writer.hpp"

#include <QEventLoop>
#include <QFile>
#include <QFileInfo>

#include <cstdio>

namespace undisona {

namespace {

/// The parts that are named; or the name that is none.
std::variant<std::set<ReportPart>, QString> partsNamed(const QString& text)
{
    std::set<ReportPart> named;
    for (const QString& piece : text.split(',', Qt::SkipEmptyParts)) {
        const std::string key = piece.trimmed().toStdString();
        const auto found = std::find_if(everyReportPart.begin(), everyReportPart.end(),
                                        [&](ReportPart part) { return keyOf(part) == key; });
        if (found == everyReportPart.end()) return piece.trimmed();
        named.insert(*found);
    }
    return named;
}

} // namespace

int runReportCommand(const ReportCommand& command)
{
    const QString suffix = QFileInfo(command.to).suffix().toLower();
    if (suffix != "html" && suffix != "pdf")
        return refuse(QString("reports are written as .html or .pdf; \"%1\" ends in neither").arg(command.to));
    ReportOrder order;
    const auto without = partsNamed(command.without);
    if (const auto* wrong = std::get_if<QString>(&without))
        return refuse(QString("a report has no part called \"%1\"").arg(*wrong));
    order.without = std::get<std::set<ReportPart>>(without);
    Session session;
    if (const Findings problems = session.open(QFileInfo(command.model).absoluteFilePath(), true); !problems.empty())
        return refuse(problems);
    const auto stave = solvedStave(session, command.take);
    if (!stave) return refuse(stave.findings());
    if (!order.without.contains(ReportPart::takes)) // one that has no modes is said to have none
        for (std::size_t at = 0; at < session.staves().size(); ++at)
            (void)solvedStave(session, session.staves()[at].id.isEmpty() ? QString() : session.staves()[at].name);
    const auto& solution = *session.staves()[*stave].solution;
    if (!command.modes.isEmpty()) {
        const auto modes = modesNamed(command.modes, static_cast<int>(solution.modes.size()));
        if (const auto* problem = std::get_if<QString>(&modes)) return refuse(*problem);
        order.modes = std::get<std::vector<int>>(modes);
    }
    Progress progress;
    const HandReading byHandReading = byHand(solution, session.units(), progress);
    ReportSource source = reportSource(session, *stave);
    source.byHand = &byHandReading;
    std::optional<Result<RestAnswer>> rest;
    if (!solution.structure->staticStates.empty() && !order.without.contains(ReportPart::rest)) {
        KeptRuns kept;
        rest = restStudy().run(source.model, {}, {progress, kept});
        if (*rest)
            source.rest = &(*rest)->found;
        else // the modes are there all the same
            for (const auto& why : rest->findings())
                std::fprintf(stderr, "%s\n", oneLine(why).c_str());
    }
    const Report report = reportOf(source, order);
    ReportPictures pictures(session, *stave, std::nullopt);
    pictures.lookFrom(command.side);
    QEventLoop loop;
    QObject::connect(&pictures, &ReportPictures::done, &loop, &QEventLoop::quit);
    pictures.want(report.pictures());
    loop.exec();
    const std::string bytes = reportBytes(report, pictures.bytes(), command.to);
    const QString path = QFileInfo(command.to).absoluteFilePath();
    if (const auto problem = writeWholeFile(QFile::encodeName(path).toStdString(), bytes, {.inputs = session.files()}))
        return refuse(Findings{*problem});
    std::printf("%s: %zu kB, %zu pictures\n", command.to.toUtf8().constData(), (bytes.size() + 999) / 1000,
                pictures.bytes().size());
    return 0;
}

} // namespace undisona
