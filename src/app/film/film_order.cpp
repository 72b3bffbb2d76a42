#include "app/film/film_order.hpp"

#include <QCoreApplication>
#include <QFileInfo>
#include <QRegularExpression>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace undisona {

namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("Film", text);
}

} // namespace

int FilmOrder::framesPerMode() const
{
    return std::max(1, static_cast<int>(std::lround(seconds * perSecond)));
}

double FilmOrder::phaseAt(int frame) const
{
    const double turned = turns * double(frame) / double(framesPerMode());
    return turned - std::floor(turned);
}

std::variant<std::vector<int>, QString> modesNamed(const QString& text, int count)
{
    std::vector<int> modes;
    if (text.trimmed() == "all") {
        modes.resize(static_cast<std::size_t>(count));
        std::iota(modes.begin(), modes.end(), 1);
        return modes;
    }
    static const QRegularExpression range("^\\s*(\\d{1,6})\\s*(?:[-–]\\s*(\\d{1,6}))?\\s*$");
    for (const QString& part : text.split(',')) {
        const auto match = range.match(part);
        if (!match.hasMatch()) return tr("\"%1\" names no modes; write 4, or 1-6, 9, or all").arg(text.trimmed());
        const int first = match.captured(1).toInt(),
                  last = match.captured(2).isEmpty() ? first : match.captured(2).toInt();
        if (first < 1 || last > count || last < first)
            return tr("there are modes 1 to %1; %2 is not among them").arg(count).arg(part.trimmed());
        for (int mode = first; mode <= last; ++mode)
            modes.push_back(mode);
    }
    return modes;
}

QString problemOf(const FilmOrder& order)
{
    const QString ending = QFileInfo(order.path).suffix().toLower();
    if (ending != "webm" && ending != "mp4" && ending != "gif")
        return tr("a film is .webm, .mp4 or .gif; \"%1\" is none of them").arg(QFileInfo(order.path).fileName());
    if (order.modes.empty()) return tr("there is no mode to film");
    const auto fits = [](int pixels) { return pixels >= 64 && pixels <= 4096 && pixels % 2 == 0; };
    if (!fits(order.size.width()) || !fits(order.size.height()))
        return tr("a film is 64 to 4096 pixels wide and high, even numbers of them; %1 by %2 is not")
            .arg(order.size.width())
            .arg(order.size.height());
    if (!(order.seconds >= 0.2 && order.seconds <= 120.0)) return tr("a mode is filmed for 0.2 to 120 seconds");
    if (!(order.turns > 0.0 && order.turns / order.seconds <= FilmOrder::perSecond / 4.0))
        return tr("the motion turns at least a little, and not more than %1 times a second: %2 pictures a second show "
                  "no more")
            .arg(FilmOrder::perSecond / 4)
            .arg(FilmOrder::perSecond);
    if (constexpr int most = 20000; order.frames() > most)
        return tr("that would be %1 pictures; %2 are the most").arg(order.frames()).arg(most);
    if (constexpr int most = 1000; ending == "gif" && order.frames() > most)
        return tr("a GIF holds all its %1 pictures at once; %2 are the most. Take .webm").arg(order.frames()).arg(most);
    return {};
}

} // namespace undisona
