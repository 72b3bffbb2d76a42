#include "app/film/film_command.hpp"

#include "app/film/film_dialog.hpp"
#include "app/session/written_file.hpp"

#include <QEventLoop>
#include <QFileInfo>

#include <cstdio>

namespace undisona {

namespace {

int refuse(const QString& problem)
{
    std::fprintf(stderr, "error: %s\n", problem.toUtf8().constData());
    return 1;
}

int refuse(const Findings& findings)
{
    for (const auto& finding : findings)
        std::fprintf(stderr, "%s\n", oneLine(finding).c_str());
    return 1;
}

/// The stave of the take, or the live one; solved, or its findings.
Result<std::size_t> solvedStave(Session& session, const QString& take)
{
    std::size_t stave = 0;
    for (std::size_t at = 1; at < session.staves().size() && !take.isEmpty() && stave == 0; ++at)
        if (session.staves()[at].name == take) stave = at;
    if (!take.isEmpty() && stave == 0)
        return errorAt({}, "there is no take called \"" + take.toStdString() + "\"", "Take one of the model's.");
    QEventLoop loop;
    const auto settled = [&] { return session.staves()[stave].solution || !session.staves()[stave].failure.empty(); };
    QObject::connect(&session, &Session::stavesChanged, &loop, [&] {
        if (settled()) loop.quit();
    });
    QObject::connect(&session, &Session::runChanged, &loop, [&] {
        if (settled() || !session.running()) loop.quit();
    });
    if (!session.solving()) session.solve();
    while (!settled() && session.running())
        loop.exec();
    if (const auto& own = session.staves()[stave]; !own.solution)
        return own.failure.empty() ? session.findings() : own.failure;
    return stave;
}

} // namespace

int runFilmCommand(const FilmCommand& command)
{
    Session session;
    if (const Findings problems = session.open(QFileInfo(command.model).absoluteFilePath(), true); !problems.empty())
        return refuse(problems);
    const auto stave = solvedStave(session, command.take);
    if (!stave) return refuse(stave.findings());
    const auto& solution = *session.staves()[*stave].solution;
    const auto modes = modesNamed(command.modes, static_cast<int>(solution.modes.size()));
    if (const auto* problem = std::get_if<QString>(&modes)) return refuse(*problem);
    const auto size = sizeNamed(command.size);
    if (!size) return refuse(QString("\"%1\" is no size; write 1280x720").arg(command.size));
    const bool picture = QFileInfo(command.to).suffix().toLower() == "png";
    FilmOrder order;
    order.path = QFileInfo(command.to).absoluteFilePath();
    order.modes = std::get<std::vector<int>>(modes);
    order.size = *size;
    order.seconds = command.seconds;
    order.turns = command.turns;
    order.caption = command.caption;
    if (const QString problem = problemOf(order); !picture && !problem.isEmpty()) return refuse(problem);
    session.showMode(*stave, order.modes.front());
    SceneStage seen(session, *size, {}, {}, order.caption);
    seen.pictureAt(0.25); // what is there is known from here on
    seen.canvas().frameAll();
    seen.canvas().lookFrom(command.side);
    if (picture) {
        const QImage image = seen.pictureAt(0.25);
        return image.save(order.path) ? 0 : refuse(QString("%1 cannot be written").arg(command.to));
    }
    QEventLoop loop;
    QString problem;
    Filming filming(session, order, seen.canvas().look(), seen.canvas().camera(), nullptr);
    QObject::connect(&filming, &Filming::done, &loop, [&](const QString& words) {
        problem = words;
        loop.quit();
    });
    loop.exec();
    if (!problem.isEmpty()) return refuse(problem);
    std::printf("%s: %d x %d, %d pictures, %.3g s\n", command.to.toUtf8().constData(), size->width(), size->height(),
                order.frames(), double(order.frames()) / FilmOrder::perSecond);
    return 0;
}

} // namespace undisona
