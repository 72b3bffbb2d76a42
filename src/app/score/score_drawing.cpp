#include "app/score/score_drawing.hpp"

#include "app/score/score_view.hpp"
#include "app/session/drawn_file.hpp"
#include "app/session/theme.hpp"

namespace undisona {

std::string scoreDrawing(Session& session, const QString& path)
{
    const Theme::Lent light(false);
    ScoreView score(session);
    constexpr int most = 8; // staves
    score.resize(1000, 90 + 100 * std::min<int>(most, static_cast<int>(session.staves().size())));
    score.showAll();
    return drawnBytes(path, score.size(), QString::fromStdString(session.document().name),
                      [&](QPaintDevice& device) { score.render(&device, {}, {}, QWidget::DrawChildren); });
}

} // namespace undisona
