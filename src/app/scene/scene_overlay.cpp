#include "app/scene/scene_overlay.hpp"

#include "app/scene/symbols.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/units/amplitude_text.hpp"

namespace undisona {

SceneOverlay::SceneOverlay(Session& session, SceneCanvas& canvas, QWidget* parent)
    : QWidget(parent), session_(session), canvas_(canvas)
{
    setAttribute(Qt::WA_TransparentForMouseEvents);
    setObjectName("caption");
    for (const auto signal :
         {&Session::selectionChanged, &Session::stavesChanged, &Session::valuesMoved, &Session::restMoved})
        connect(&session_, signal, this, &SceneOverlay::renew);
}

void SceneOverlay::renew()
{
    setAccessibleName(caption());
    setAccessibleDescription(subtitle());
    update();
}

QString SceneOverlay::caption() const
{
    const Mode* mode = canvas_.mode();
    if (canvas_.outlineDrawn())
        return *canvas_.outlineDrawn() == OutlineKind::solid ? tr("Drawing a profile") : tr("Drawing a plate");
    if (canvas_.placing()) return canvas_.drawing() ? tr("Drawing") : tr("Picking a place");
    if (!mode)
        return session_.structure().frame.empty() ? QString()
               : session_.solving()               ? tr("Solving …")
                                                  : tr("Not solved yet");
    if (const auto* rest = canvas_.restSeen())
        return rest->factor == 0.0 ? tr("State %1").arg(QString::fromStdString(rest->state.name))
                                   : tr("%1 buckles at %2 times")
                                         .arg(QString::fromStdString(rest->state.name),
                                              QString::fromStdString(rounded(rest->factor, 4)));
    return (mode->ritz ? tr("Ritz vector %1 · %2 Hz") : tr("Mode %1 · %2 Hz"))
        .arg(mode->number)
        .arg(QString::fromStdString(rounded(mode->frequency, 4)));
}

QString SceneOverlay::subtitle() const
{
    const Mode* mode = canvas_.mode();
    if (canvas_.placing()) return tr("shown at rest");
    if (session_.isBlank()) return tr("Say a shape (Ctrl+1), or draw members here (Ctrl+D).");
    if (!mode) {
        const auto& failure = canvas_.staveShown().failure;
        return failure.empty() ? QString() : QString::fromStdString(failure.front().what);
    }
    if (const auto* rest = canvas_.restSeen())
        return rest->factor != 0.0 ? tr("how it gives way · amplitude is arbitrary")
                                   : tr("at rest under its loads · moves %1 at most, at %2 · drawn larger than it is")
                                         .arg(QString::fromStdString(amplitudeText(
                                                  rest->state.moves, QuantityKind::length, session_.units())),
                                              QString::fromStdString(rest->state.where));
    QString words = canvas_.staveShown().nameOf(*mode);
    const auto row = static_cast<Eigen::Index>(mode->number - 1);
    for (int axis = 0; axis < 3; ++axis)
        if (const double share = canvas_.staveShown().solution->participation.ofTotal(row, axis); share >= 0.01)
            words += QString(" · %1 % of %2").arg(100.0 * share, 0, 'f', 0).arg("XYZ"[axis]);
    words += tr(" · amplitude is arbitrary");
    return words;
}

void SceneOverlay::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paintWorkPlane(painter);
    paintMarks(painter);
    paintDragged(painter);
    paintCaption(painter);
    paintAxes(painter);
}

void SceneOverlay::paintCaption(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    const double wide = width() - 28.0;
    const bool stale = canvas_.staveShown().stale && !canvas_.placing();
    painter.setFont(textFont(2.0, true));
    painter.setPen(stale ? theme.quiet : theme.ink);
    QString head = caption();
    if (!canvas_.staveShown().id.isEmpty()) head += " · " + canvas_.staveShown().name;
    painter.drawText(QRectF(14, 10, wide, 24), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(head, Qt::ElideRight, static_cast<int>(wide)));
    painter.setFont(textFont());
    painter.setPen(theme.quiet);
    painter.drawText(QRectF(14, 33, wide, 36), Qt::AlignLeft | Qt::TextWordWrap, subtitle());
    const SceneLook& look = canvas_.look();
    QString parts;
    if (!look.hidden.empty()) parts = tr("%1 hidden").arg(look.hidden.size());
    if (!look.faded.empty()) parts += (parts.isEmpty() ? "" : ", ") + tr("%1 faded").arg(look.faded.size());
    if (!parts.isEmpty())
        painter.drawText(QRectF(14, height() - 26, wide, 18), Qt::AlignLeft | Qt::AlignVCenter,
                         tr("%1 · Ctrl+Alt+A shows all").arg(parts));
    if (!stale) return;
    painter.setPen(theme.amber);
    painter.drawText(QRectF(14, 51, wide, 18), Qt::AlignLeft | Qt::AlignVCenter, tr("▲ before your last change"));
}

void SceneOverlay::paintDragged(QPainter& painter) const
{
    const DraggedPart* dragged = canvas_.dragged();
    const auto& tried = session_.tried();
    if (!dragged || !tried || &dragged->solution() != canvas_.drawn()) return;
    const Theme& theme = Theme::now();
    const Eigen::Vector3d from = canvas_.pixelOf(dragged->from()), to = canvas_.nodePixel(dragged->node());
    painter.setPen(QPen(theme.accent, 1.6, Qt::DashLine));
    painter.drawLine(QPointF(from.x(), from.y()), QPointF(to.x(), to.y()));
    painter.setBrush(theme.accent);
    painter.drawEllipse(QPointF(to.x(), to.y()), 6.0, 6.0);
    painter.setBrush(Qt::NoBrush);
    QString words = tr("%1 on %2").arg(dragged->words(session_.units()), QString::fromStdString(dragged->placeName()));
    if (const Mode* mode = canvas_.mode()) {
        const auto at = static_cast<std::size_t>(mode->number - 1);
        if (at < tried->hertz.size())
            words += tr(" · mode %1 about %2 Hz")
                         .arg(mode->number)
                         .arg(QString::fromStdString(rounded(tried->hertz[at], 4)));
    }
    painter.setFont(textFont());
    const QFontMetricsF metrics(painter.font());
    QRectF box(to.x() + 12.0, to.y() - 24.0, metrics.horizontalAdvance(words) + 12.0, 20.0);
    if (box.right() > width() - 4.0) box.moveRight(width() - 4.0);
    painter.fillRect(box, theme.panel);
    painter.setPen(theme.ink);
    painter.drawText(box, Qt::AlignCenter, words);
}

void SceneOverlay::paintAxes(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    const QPointF centre(width() - 56.0, height() - 44.0);
    const Camera& camera = canvas_.camera();
    painter.setFont(textFont(-1.0, true));
    for (int axis = 0; axis < 3; ++axis) {
        const Eigen::Vector3d unit = Eigen::Vector3d::Unit(axis);
        const QPointF tip = centre + 30.0 * QPointF(unit.dot(camera.right()), -unit.dot(camera.up()));
        painter.setPen(QPen(theme.axis[axis], 2.0));
        painter.drawLine(centre, tip);
        const QPointF out = tip - centre;
        const double length = std::max(8.0, std::hypot(out.x(), out.y()));
        const QPointF label = centre + out * ((length + 9.0) / length);
        painter.drawText(QRectF(label.x() - 8, label.y() - 8, 16, 16), Qt::AlignCenter, QString("xyz"[axis]));
    }
}

QString SceneOverlay::valueAt(int point) const
{
    const auto* solution = canvas_.drawn();
    if (!solution || canvas_.modeShown() < 1) return {};
    const Vector6 motion = solution->motion(point, static_cast<std::size_t>(canvas_.modeShown() - 1));
    if (const auto* rest = session_.restShown(); rest && rest->shapes.get() == solution && rest->factor == 0.0) {
        const auto along = [&](int axis) {
            return QString::fromStdString(amplitudeText(motion[axis], QuantityKind::length, session_.units()));
        };
        QString text = tr("moves x %1, y %2, z %3").arg(along(0), along(1), along(2));
        if (!rest->stresses || point >= static_cast<int>(solution->mesh.nodes.size())) return text;
        const double stress = equivalentAtNodes(solution->mesh, *rest->stresses, canvas_.modeShown() - 1)[point];
        if (stress > 0.0)
            text += "; " + QString::fromStdString(amplitudeText(stress, QuantityKind::stress, session_.units()));
        return text;
    }
    double most = 1e-300;
    for (std::size_t at = 0; at < solution->structure->frame.points.size(); ++at)
        most = std::max(
            most,
            solution->motion(static_cast<int>(at), static_cast<std::size_t>(canvas_.modeShown() - 1)).head<3>().norm());
    return tr("x %1, y %2, z %3 of the most")
        .arg(motion[0] / most, 0, 'f', 2)
        .arg(motion[1] / most, 0, 'f', 2)
        .arg(motion[2] / most, 0, 'f', 2);
}

std::vector<SceneOverlay::Mark> SceneOverlay::marks() const
{
    const auto* solution = canvas_.drawn();
    const Structure& structure = solution ? *solution->structure : session_.structure();
    const QFontMetricsF metrics(textFont(-1.0));
    std::vector<Mark> marks;
    const auto taken = [&](const QRectF& box) {
        return std::any_of(marks.begin(), marks.end(), [&](const Mark& other) { return other.box.intersects(box); });
    };
    const auto label = [&](const QPointF& at, const QString& text, bool quiet) {
        QRectF box(at.x() + 10.0, at.y() - 9.0, metrics.horizontalAdvance(text) + 8.0, 18.0);
        if (box.right() > width() - 4.0) box.moveRight(at.x() - 10.0);
        if (box.top() >= 72.0 && !taken(box)) marks.push_back({at, 0.0, false, text, box, quiet});
    };
    const auto ring = [&](int point, double radius, bool filled) {
        if (point < 0 || static_cast<std::size_t>(point) >= structure.frame.points.size()) return false;
        const Eigen::Vector3d pixel = canvas_.pixelOf(point);
        if (pixel.z() <= 0.0) return false;
        marks.push_back({{pixel.x(), pixel.y()}, radius, filled, {}, {}, false});
        return true;
    };
    for (const int point : session_.spotlight().points)
        ring(point, 6.0, false);
    for (const int element : session_.spotlight().elements) { // a ring about it, never too small to be seen
        if (!solution) continue;
        const auto at = static_cast<std::size_t>(element), shells = solution->mesh.shells.size();
        if (at >= shells + solution->mesh.solids.size()) continue;
        const int* nodes =
            at < shells ? solution->mesh.shells[at].nodes.data() : solution->mesh.solids[at - shells].nodes.data();
        const std::size_t count =
            at < shells ? solution->mesh.shells[at].corners() : cornersOf(solution->mesh.solids[at - shells].kind);
        QPointF middle;
        double reach = 8.0;
        std::vector<QPointF> corners;
        for (std::size_t corner = 0; corner < count; ++corner) {
            const Eigen::Vector3d pixel = canvas_.pixelOf(canvas_.nodeNow(nodes[corner]));
            corners.emplace_back(pixel.x(), pixel.y());
            middle += corners.back() / double(count);
        }
        for (const auto& corner : corners)
            reach = std::max(reach, std::hypot(corner.x() - middle.x(), corner.y() - middle.y()) + 3.0);
        marks.push_back({middle, reach, false, {}, {}, false});
    }
    if (const auto [seen, number] = session_.inView();
        solution && solution == seen.get() && canvas_.modeShown() == number) {
        const auto& places = session_.valuePlaces();
        const auto& values = session_.modeValues();
        for (std::size_t at = 0; at < values.size(); ++at) {
            const Eigen::Vector3d pixel = canvas_.nodePixel(values[at].node);
            if (pixel.z() <= 0.0) continue;
            marks.push_back({{pixel.x(), pixel.y()}, 4.0, true, {}, {}, false});
            const auto* rest = session_.restShown();
            const bool still = rest && rest->factor == 0.0; // with figures of its own
            QString text = places[at].name + "  " +
                           (still ? QString::fromStdString(amplitudeText(values[at].moves.head<3>().norm(),
                                                                         QuantityKind::length, session_.units()))
                                  : QString::number(values[at].share.head<3>().norm(), 'f', 2));
            if (still && values[at].stress > 0.0)
                text += ", " + QString::fromStdString(
                                   amplitudeText(values[at].stress, QuantityKind::stress, session_.units()));
            label({pixel.x(), pixel.y()}, text, false);
        }
    }
    const int hovered = canvas_.dragged() ? -1 : canvas_.hoveredPoint(), member = canvas_.hoveredMember(),
              chosen = canvas_.chosenPoint();
    for (const int point : {hovered, chosen}) {
        if (!ring(point, 4.0, true)) continue;
        QString text = QString::fromStdString(structure.frame.points[static_cast<std::size_t>(point)].name);
        if (const QString value = valueAt(point); !value.isEmpty()) text += "  " + value;
        label(marks.back().at, text, false);
    }
    if (member >= 0 && static_cast<std::size_t>(member) < structure.frame.members.size()) {
        const auto& shape = structure.frame.members[static_cast<std::size_t>(member)];
        label(canvas_.cursor() + QPointF(4, -14), QString::fromStdString(shape.name + "  " + shape.section->text),
              false);
    }
    if (const int part = canvas_.hoveredPart(); part >= 0 && static_cast<std::size_t>(part) < structure.frame.parts()) {
        const auto text = [&](double thickness) {
            return QString::fromStdString(session_.units().text(thickness, QuantityKind::length, 3));
        };
        QString words = QString::fromStdString(structure.frame.partName(part));
        if (static_cast<std::size_t>(part) < structure.frame.sheets.size()) {
            const auto& own = structure.frame.sheets[static_cast<std::size_t>(part)];
            words =
                own.taper
                    ? tr("%1  %2 to %3 thick").arg(words, text(own.taper->thickness[0]), text(own.taper->thickness[1]))
                    : tr("%1  %2 thick").arg(words, text(own.thickness));
        }
        label(canvas_.cursor() + QPointF(4, -14), words, false);
    }
    if (canvas_.look().names)
        for (std::size_t at = 0; at < structure.frame.points.size() && at < 400; ++at) {
            const Eigen::Vector3d pixel = canvas_.pixelOf(static_cast<int>(at));
            if (pixel.z() > 0.0)
                label({pixel.x(), pixel.y()}, QString::fromStdString(structure.frame.points[at].name), true);
        }
    if (canvas_.look().symbols)
        for (const auto& mass : structure.pointMasses) {
            const Eigen::Vector3d pixel = canvas_.pixelOf(Eigen::Vector3d(canvas_.placeNow(mass.point) + mass.centre));
            if (pixel.z() > 0.0)
                label({pixel.x() + 8.0, pixel.y()},
                      QString::fromStdString(session_.units().text(mass.mass, QuantityKind::mass, 3)), false);
        }
    return marks;
}

namespace {

/// Of the parts whose sentences have errors.
std::set<int> faultyEdges(const Session& session)
{
    std::set<std::string> sentences;
    for (const auto& finding : session.findings())
        if (finding.severity == Severity::error && !finding.sentence.empty()) sentences.insert(finding.sentence);
    std::set<int> edges;
    const Frame& frame = session.structure().frame;
    if (sentences.empty() || !frame.faces) return edges;
    for (const auto& face : frame.faces->faces) {
        bool faulty = face.sheet >= 0 && sentences.contains(frame.partSentence(face.sheet));
        for (const int solid : face.solids)
            faulty = faulty || sentences.contains(frame.partSentence(frame.partOfSolid(solid)));
        if (!faulty) continue;
        for (const auto& loop : face.loops)
            for (const auto& use : loop)
                edges.insert(use.edge);
    }
    return edges;
}

} // namespace

void SceneOverlay::paintMarks(QPainter& painter) const
{
    const Theme& theme = Theme::now();
    const auto& faces = canvas_.drawn() ? canvas_.drawn()->structure->frame.faces : session_.structure().frame.faces;
    const auto outline = [&](int edge) {
        QPolygonF line;
        for (const auto& place : faces->edges[static_cast<std::size_t>(edge)].along)
            if (const Eigen::Vector3d pixel = canvas_.pixelOf(place); pixel.z() > 0.0)
                line << QPointF(pixel.x(), pixel.y());
        painter.drawPolyline(line);
    };
    if (!canvas_.drawn()) {
        painter.setPen(QPen(theme.red, 2.0));
        for (const int edge : faultyEdges(session_))
            outline(edge);
    }
    painter.setPen(QPen(theme.accent, 3.0));
    std::vector<int> edges = session_.spotlight().edges;
    for (const int face : session_.spotlight().faces) // by its outline
        if (faces && static_cast<std::size_t>(face) < faces->faces.size())
            for (const auto& loop : faces->faces[static_cast<std::size_t>(face)].loops)
                for (const auto& use : loop)
                    edges.push_back(use.edge);
    for (const int edge : edges) { // at rest: an edge is a place to hold
        if (faces && static_cast<std::size_t>(edge) < faces->edges.size()) outline(edge);
    }
    painter.setFont(textFont(-1.0));
    for (const auto& mark : marks()) {
        if (mark.text.isEmpty()) {
            painter.setPen(QPen(theme.accent, 2.0));
            painter.setBrush(mark.filled ? QBrush(theme.accent) : QBrush(Qt::NoBrush));
            painter.drawEllipse(mark.at, mark.radius, mark.radius);
            continue;
        }
        if (!mark.quiet) {
            painter.setPen(Qt::NoPen);
            QColor panel = theme.panel;
            panel.setAlphaF(0.88f);
            painter.setBrush(panel);
            painter.drawRoundedRect(mark.box, 3, 3);
        }
        painter.setPen(mark.quiet ? theme.quiet : theme.ink);
        painter.drawText(mark.box, Qt::AlignCenter, mark.text);
    }
}

void SceneOverlay::paintWorkPlane(QPainter& painter) const
{
    if (!canvas_.placing()) return;
    const Theme& theme = Theme::now();
    for (const auto& [a, b, throughOrigin] : canvas_.workPlane().lines(canvas_.camera())) {
        painter.setPen(QPen(throughOrigin ? theme.quiet : theme.hairline, 1.0));
        const Eigen::Vector3d from = canvas_.pixelOf(a), to = canvas_.pixelOf(b);
        if (from.z() > 0.0 && to.z() > 0.0) painter.drawLine(QPointF(from.x(), from.y()), QPointF(to.x(), to.y()));
    }
    const auto& points = session_.structure().frame.points;
    const auto placeOf = [&](int point) { return points[static_cast<std::size_t>(point)].place; };
    const auto known = [&](int point) { return point >= 0 && static_cast<std::size_t>(point) < points.size(); };
    std::optional<Eigen::Vector3d> to = canvas_.gridPlace();
    if (known(canvas_.hoveredPoint())) to = placeOf(canvas_.hoveredPoint());
    painter.setFont(textFont(-1.0));
    QString words;
    if (to) words = QString::fromStdString(placeText(*to));
    if (canvas_.drawing() && known(canvas_.drawnFrom())) {
        const Eigen::Vector3d from = canvas_.pixelOf(placeOf(canvas_.drawnFrom()));
        const Eigen::Vector3d end =
            to ? canvas_.pixelOf(*to) : Eigen::Vector3d(canvas_.cursor().x(), canvas_.cursor().y(), 1);
        painter.setPen(QPen(theme.accent, 2.0, Qt::DashLine));
        painter.drawLine(QPointF(from.x(), from.y()), QPointF(end.x(), end.y()));
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme.accent);
        painter.drawEllipse(QPointF(from.x(), from.y()), 4.0, 4.0);
        if (to)
            words += tr("   length %1")
                         .arg(QString::fromStdString(session_.units().text((*to - placeOf(canvas_.drawnFrom())).norm(),
                                                                           QuantityKind::length, 4)));
    }
    if (const auto& corners = canvas_.outlineCorners(); canvas_.outlineDrawn() && !corners.empty()) {
        QPolygonF line;
        for (const auto& corner : corners)
            line << QPointF(canvas_.pixelOf(corner).x(), canvas_.pixelOf(corner).y());
        const QPointF end = to ? QPointF(canvas_.pixelOf(*to).x(), canvas_.pixelOf(*to).y()) : canvas_.cursor();
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(theme.accent, 2.0));
        painter.drawPolyline(line);
        painter.setPen(QPen(theme.accent, 2.0, Qt::DashLine));
        painter.drawLine(line.back(), end);
        painter.setPen(QPen(theme.quiet, 1.0, Qt::DotLine));
        painter.drawLine(end, line.front());
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme.accent);
        for (const auto& corner : line)
            painter.drawEllipse(corner, 3.5, 3.5);
        if (to)
            words += tr("   side %1")
                         .arg(QString::fromStdString(
                             session_.units().text((*to - corners.back()).norm(), QuantityKind::length, 4)));
    }
    if (!to) return;
    const Eigen::Vector3d pixel = canvas_.pixelOf(*to);
    painter.setPen(QPen(theme.accent, 2.0));
    painter.setBrush(theme.panel);
    painter.drawEllipse(QPointF(pixel.x(), pixel.y()), 4.0, 4.0);
    QRectF box(pixel.x() + 12.0, pixel.y() - 26.0, painter.fontMetrics().horizontalAdvance(words) + 10.0, 18.0);
    if (box.right() > width() - 4.0) box.moveRight(pixel.x() - 12.0);
    QColor ground = theme.panel;
    ground.setAlphaF(0.88f);
    painter.fillRect(box, ground);
    painter.setPen(theme.ink);
    painter.drawText(box, Qt::AlignCenter, words);
}

} // namespace undisona
