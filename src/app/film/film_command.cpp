#include "app/film/film_command.hpp"

#include "app/film/film_dialog.hpp"
#include "app/session/without_window.hpp"
#include "app/session/written_file.hpp"

#include <QEventLoop>
#include <QFileInfo>

#include <cstdio>

namespace undisona {

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
