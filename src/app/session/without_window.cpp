#include "app/session/without_window.hpp"

#include <QEventLoop>

#include <cstdio>

namespace undisona {

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

} // namespace undisona
