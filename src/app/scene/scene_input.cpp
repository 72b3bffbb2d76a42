// What the hand does in the scene: turning, hovering, picking, drawing.
#include "app/scene/scene_canvas.hpp"
#include "core/picks/edge_rules.hpp"
#include "core/picks/face_rules.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"

#include <QMouseEvent>

namespace undisona {

Eigen::Vector3d SceneCanvas::placeNow(int point) const
{
    const auto& points = structure_ ? structure_->frame.points : session_.structure().frame.points;
    if (static_cast<std::size_t>(point) >= points.size()) return Eigen::Vector3d::Zero();
    Eigen::Vector3d place = points[static_cast<std::size_t>(point)].place;
    if (drawn_ && modeShown() > 0)
        place += displayScale() * std::sin(2.0 * std::numbers::pi * phase_) *
                 drawn_->motion(point, static_cast<std::size_t>(modeShown() - 1)).head<3>();
    return place;
}

Eigen::Vector3d SceneCanvas::nodeNow(int node) const
{
    if (!drawn_ || modeShown() < 1) return Eigen::Vector3d::Zero();
    return drawn_->mesh.nodes[static_cast<std::size_t>(node)].place +
           displayScale() * std::sin(2.0 * std::numbers::pi * phase_) *
               drawn_->motion(node, static_cast<std::size_t>(modeShown() - 1)).head<3>();
}

Eigen::Vector3d SceneCanvas::pixelOf(int point) const
{
    return camera_.project(placeNow(point), size());
}

Eigen::Vector3d SceneCanvas::nodePixel(int node) const
{
    if (!drawn_) return Eigen::Vector3d::Zero();
    const Eigen::Vector3d rest = drawn_->mesh.nodes[static_cast<std::size_t>(node)].place;
    return pixelOf(modeShown() < 1 ? rest : nodeNow(node));
}

void SceneCanvas::seeAs(const Camera& camera)
{
    framed_ = true;
    if (camera == camera_) return;
    camera_ = camera;
    draw();
}

void SceneCanvas::frameAll()
{
    const Frame& frame = session_.structurePtr()->frame;
    if (frame.empty()) return;
    std::vector<Eigen::Vector3d> places;
    for (const auto& point : frame.points)
        places.push_back(point.place);
    if (frame.faces)
        for (const auto& edge : frame.faces->edges)
            places.insert(places.end(), edge.along.begin(), edge.along.end());
    const auto [low, high] = frame.box();
    camera_.frame(low, high);
    framed_ = true;
    // As near as the picture allows: bring every point just inside the free room of the view.
    for (int round = 0; round < 8 && width() > 50 && height() > 120; ++round) {
        double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9, nearest = 1e300;
        for (const auto& place : places) {
            const Eigen::Vector3d pixel = camera_.project(place, size());
            nearest = std::min(nearest, pixel.z());
            left = std::min(left, pixel.x());
            right = std::max(right, pixel.x());
            top = std::min(top, pixel.y());
            bottom = std::max(bottom, pixel.y());
        }
        if (nearest < 0.12 * camera_.distance()) { // a long body seen from its end comes too near
            camera_.zoom(1.35, QPointF(width() / 2.0, height() / 2.0), size());
            continue;
        }
        const double widest = std::max((right - left) / (0.8 * width()), (bottom - top) / (height() - 190.0));
        if (widest <= 0.0 || (round > 2 && widest < 1.02)) break;
        camera_.zoom(std::max(widest, 0.7), QPointF(width() / 2.0, height() / 2.0), size());
        camera_.pan({width() / 2.0 - ((left + right) / 2.0 - width() / 2.0) / widest - width() / 2.0,
                     -((top + bottom) / 2.0 - height() / 2.0) / widest + 26.0},
                    size());
    }
    draw();
}

void SceneCanvas::lookFrom(const QString& side)
{
    const double quarter = std::numbers::pi / 2.0;
    if (side == "front")
        camera_.look(-quarter, 0.0);
    else if (side == "back")
        camera_.look(quarter, 0.0);
    else if (side == "right")
        camera_.look(0.0, 0.0);
    else if (side == "left")
        camera_.look(2 * quarter, 0.0);
    else if (side == "top")
        camera_.look(-quarter, quarter - 1e-4);
    else
        camera_.look(-1.0, 0.3);
    frameAll();
}

void SceneCanvas::setDrawing(bool drawing)
{
    drawing_ = drawing;
    outlineDrawn_.reset();
    corners_.clear();
    drawFrom_ = -1;
    if (drawing) session_.showMode(0, session_.shownMode());
    showAtRest();
}

void SceneCanvas::drawOutline(OutlineKind kind)
{
    setDrawing(false);
    outlineDrawn_ = kind;
    session_.showMode(0, session_.shownMode());
    showAtRest();
}

void SceneCanvas::addCorner(const Eigen::Vector3d& place)
{
    corners_.push_back(place);
    corners_.back()[plane_.normal] = plane_.level;
    emit placingChanged();
    draw();
}

bool SceneCanvas::dropCorner()
{
    if (corners_.empty()) return false;
    corners_.pop_back();
    emit placingChanged();
    draw();
    return true;
}

void SceneCanvas::showAtRest()
{
    gridPlace_.reset();
    dirty_ = true;
    setCursor(placing() ? Qt::CrossCursor : Qt::ArrowCursor);
    if (placing()) {
        play(false);
        setPhase(0.0);
        const Frame& frame = session_.structure().frame;
        if (frame.points.empty()) {
            // Squarely, with the ground in the lower third.
            camera_.frame(plane_.spacing * Eigen::Vector3d(-4, 0, -1), plane_.spacing * Eigen::Vector3d(4, 0, 5));
            camera_.look(-std::numbers::pi / 2.0, 0.0);
            framed_ = true;
        }
        int facing = 0; // a view along an axis draws on the plane that it faces
        if (camera_.forward().cwiseAbs().maxCoeff(&facing) > 0.97) plane_.normal = facing;
    }
    emit placingChanged();
    draw();
}

void SceneCanvas::drawFrom(int point)
{
    drawFrom_ = point;
    const auto& points = session_.structure().frame.points;
    if (point >= 0 && static_cast<std::size_t>(point) < points.size())
        plane_.level = points[static_cast<std::size_t>(point)].place[plane_.normal];
    emit placingChanged();
    draw();
}

void SceneCanvas::setWorkPlane(const WorkPlane& plane)
{
    plane_ = plane;
    gridPlace_.reset();
    emit placingChanged();
    draw();
}

SceneCanvas::Under SceneCanvas::partUnder(const QPointF& cursor) const
{
    Under under;
    if (!mesh_ || (mesh_->shells.empty() && mesh_->outer.empty())) return under;
    std::vector<Eigen::Vector3d> pixels(mesh_->nodes.size());
    for (std::size_t at = 0; at < pixels.size(); ++at)
        pixels[at] = pixelOf(mesh_->nodes[at].place);
    const auto look = [&](int part, int face, const int* nodes, std::size_t corners) {
        if (seen(structure_->frame.partName(part)) == Seen::hidden) return;
        bool inside = false, before = true;
        double depth = 0.0;
        for (std::size_t corner = 0; corner < corners; ++corner) {
            const auto &a = pixels[static_cast<std::size_t>(nodes[corner])],
                       &b = pixels[static_cast<std::size_t>(nodes[(corner + 1) % corners])];
            before = before && a.z() > 0.0;
            depth += a.z() / double(corners);
            if ((a.y() > cursor.y()) != (b.y() > cursor.y()) &&
                cursor.x() < a.x() + (b.x() - a.x()) * (cursor.y() - a.y()) / (b.y() - a.y()))
                inside = !inside;
        }
        if (inside && before && depth < under.depth) under = {part, face, depth};
    };
    for (const auto& shell : mesh_->shells)
        look(shell.sheet, -1, shell.nodes.data(), shell.corners());
    for (const auto& outer : mesh_->outer)
        look(structure_->frame.partOfSolid(outer.solid), outer.face, outer.corners.data(), outer.count());
    return under;
}

int SceneCanvas::edgeUnder(const QPointF& cursor, double depth) const
{
    if (!structure_ || !structure_->frame.faces) return -1;
    const auto& edges = structure_->frame.faces->edges;
    int found = -1;
    double best = 8.0;
    const double deepest = depth + 0.02 * camera_.size();
    for (std::size_t at = 0; at < edges.size(); ++at)
        for (std::size_t part = 0; part + 1 < edges[at].along.size(); ++part) {
            const Eigen::Vector3d a = pixelOf(edges[at].along[part]), b = pixelOf(edges[at].along[part + 1]);
            if (a.z() <= 0.0 || b.z() <= 0.0) continue;
            const Eigen::Vector2d line = (b - a).head<2>(), from(cursor.x() - a.x(), cursor.y() - a.y());
            const double share = std::clamp(from.dot(line) / std::max(line.squaredNorm(), 1e-9), 0.0, 1.0);
            if (a.z() + share * (b.z() - a.z()) > deepest) continue; // behind what is under the cursor
            if (const double distance = (from - share * line).norm(); distance < best) {
                best = distance;
                found = static_cast<int>(at);
            }
        }
    return found;
}

void SceneCanvas::hover(const QPointF& cursor)
{
    int point = -1, member = -1;
    if (structure_) {
        const auto& frame = structure_->frame;
        std::vector<Eigen::Vector3d> pixels;
        double best = 9.0;
        for (std::size_t at = 0; at < frame.points.size(); ++at) {
            pixels.push_back(pixelOf(static_cast<int>(at)));
            const double distance = std::hypot(pixels.back().x() - cursor.x(), pixels.back().y() - cursor.y());
            if (pixels.back().z() > 0.0 && distance < best) {
                best = distance;
                point = static_cast<int>(at);
            }
        }
        best = 7.0;
        double nearest = 1e300;
        for (std::size_t at = 0; point < 0 && at < frame.members.size(); ++at) {
            const auto &a = pixels[static_cast<std::size_t>(frame.members[at].from)],
                       &b = pixels[static_cast<std::size_t>(frame.members[at].to)];
            if (a.z() <= 0.0 || b.z() <= 0.0) continue;
            const Eigen::Vector2d line = (b - a).head<2>(), from(cursor.x() - a.x(), cursor.y() - a.y());
            const double share = std::clamp(from.dot(line) / std::max(line.squaredNorm(), 1e-9), 0.0, 1.0);
            const double distance = (from - share * line).norm(), depth = a.z() + share * (b.z() - a.z());
            if (distance < best - 2.0 || (distance < best && depth < nearest)) {
                best = std::max(distance, 2.0);
                nearest = depth;
                member = static_cast<int>(at);
            }
        }
    }
    if (placing()) {
        gridPlace_ = point < 0 ? plane_.under(camera_, cursor, size()) : std::nullopt;
        if (gridPlace_) member = -1;
    }
    const Session::Picking wanted = session_.picking();
    const bool picking = wanted.anyOf(Target::edge | Target::face);
    // Beside a member only the depth that hides edges is wanted, and only while those are picked.
    const Under under = point < 0 && !placing() && (picking || member < 0) ? partUnder(cursor) : Under{};
    const int edge = point < 0 && wanted.targets.has(Target::edge) ? edgeUnder(cursor, under.depth) : -1;
    const int sheet = member < 0 && edge < 0 ? under.part : -1;
    const int face = wanted.targets.has(Target::face) && sheet >= 0 ? under.face : -1;
    if (point == hoveredPoint_ && member == hoveredMember_ && sheet == hoveredPart_ && edge == hoveredEdge_ &&
        face == hoveredFace_) {
        if (placing()) draw();
        return;
    }
    hoveredPoint_ = point;
    hoveredMember_ = member;
    hoveredPart_ = sheet;
    hoveredEdge_ = edge;
    hoveredFace_ = face;
    if (!placing())
        setCursor(point >= 0 && wanted.targets.none() && DraggedPart::isAt(session_, point) ? Qt::OpenHandCursor
                                                                                            : Qt::ArrowCursor);
    Spotlight spotlight;
    const bool ownModel = structure_ == session_.structurePtr() || (drawn_ && staveShown().id.isEmpty());
    if (ownModel && structure_ && (edge >= 0 || face >= 0)) {
        (edge >= 0 ? spotlight.edges : spotlight.faces).push_back(edge >= 0 ? edge : face);
        session_.light(spotlight);
    } else if (ownModel && structure_ && (point >= 0 || member >= 0 || sheet >= 0)) { // the sentences about it light up
        if (member >= 0) spotlight.members.push_back(member);
        if (sheet >= 0) spotlight.parts.push_back(sheet);
        if (point >= 0) spotlight.points.push_back(point);
        for (const auto& sentence : session_.model().active()) {
            const Spotlight about = session_.spotlightOf(sentence->id);
            const bool names =
                member >= 0  ? std::find(about.members.begin(), about.members.end(), member) != about.members.end()
                : sheet >= 0 ? std::find(about.parts.begin(), about.parts.end(), sheet) != about.parts.end()
                             : std::find(about.points.begin(), about.points.end(), point) != about.points.end();
            const bool made =
                sentence->id == (member >= 0  ? structure_->frame.members[static_cast<std::size_t>(member)].sentence
                                 : sheet >= 0 ? structure_->frame.partSentence(sheet)
                                              : structure_->frame.points[static_cast<std::size_t>(point)].sentence);
            if (names || made) spotlight.sentences.push_back(sentence->id);
        }
        session_.light(spotlight);
    } else {
        session_.light(session_.spotlightOf(session_.selectedSentence()));
    }
    colourDirty_ = true;
    draw();
}

int SceneCanvas::nodeUnder(const QPointF& cursor) const
{
    if (!drawn_ || !structure_) return -1;
    const auto apart = [&](const Eigen::Vector3d& pixel) {
        return pixel.z() > 0.0 ? std::hypot(pixel.x() - cursor.x(), pixel.y() - cursor.y()) : 1e300;
    };
    int found = -1;
    double best = 14.0;
    for (std::size_t at = 0; at < structure_->frame.points.size(); ++at)
        if (const double distance = apart(pixelOf(static_cast<int>(at))); distance < best) {
            best = distance;
            found = static_cast<int>(at);
        }
    if (found >= 0) return found;
    const Under under = partUnder(cursor);
    if (under.part < 0) return -1;
    best = 1e300;
    const auto look = [&](const int* nodes, std::size_t corners) {
        for (std::size_t corner = 0; corner < corners; ++corner) {
            const Eigen::Vector3d pixel = pixelOf(mesh_->nodes[static_cast<std::size_t>(nodes[corner])].place);
            if (const double distance = apart(pixel);
                distance < best && pixel.z() < under.depth + 0.05 * camera_.size()) {
                best = distance;
                found = nodes[corner];
            }
        }
    };
    for (const auto& shell : mesh_->shells)
        if (shell.sheet == under.part) look(shell.nodes.data(), shell.corners());
    for (const auto& outer : mesh_->outer)
        if (structure_->frame.partOfSolid(outer.solid) == under.part) look(outer.corners.data(), outer.count());
    return found;
}

std::optional<Session::ValuePlace> SceneCanvas::placeUnderCursor() const
{
    const int node = nodeUnder(cursor_);
    if (node < 0) return std::nullopt;
    const Eigen::Vector3d& place = mesh_->nodes[static_cast<std::size_t>(node)].place;
    const auto& points = structure_->frame.points;
    if (static_cast<std::size_t>(node) < points.size())
        return Session::ValuePlace{place, QString::fromStdString(points[static_cast<std::size_t>(node)].name)};
    const int part = partUnder(cursor_).part;
    const std::string name = part >= 0 ? structure_->frame.partName(part) + " at " : "";
    return Session::ValuePlace{place, QString::fromStdString(name + placeText(place))};
}

void SceneCanvas::carryPart()
{
    if (&dragged_->solution() != session_.live().solution.get() || drawn_.get() != &dragged_->solution())
        return letGo(); // other modes have come in the meantime
    const int node = nodeUnder(cursor_);
    if (node >= 0 && node != dragged_->node()) {
        hoveredPoint_ = static_cast<std::size_t>(node) < structure_->frame.points.size() ? node : -1;
        session_.tryOut(dragged_->carriedTo(node));
    }
    draw();
}

void SceneCanvas::putPartDown()
{
    const auto dragged = std::exchange(dragged_, nullptr);
    session_.tryOut(std::nullopt);
    setCursor(Qt::ArrowCursor);
    if (dragged->node() != dragged->from() && &dragged->solution() == session_.live().solution.get())
        session_.changeModel(
            tr("carry %1 to %2").arg(dragged->words(session_.units()), QString::fromStdString(dragged->placeName())),
            dragged->putDown(session_.model()));
    draw();
}

void SceneCanvas::letGo()
{
    if (!dragged_) return;
    dragged_.reset();
    button_ = Qt::NoButton;
    session_.tryOut(std::nullopt);
    setCursor(Qt::ArrowCursor);
    draw();
}

void SceneCanvas::mousePressEvent(QMouseEvent* event)
{
    pressed_ = cursor_ = event->position();
    button_ = event->button();
    moved_ = false;
    if (button_ == Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier) && !placing() && hoveredPoint_ >= 0 &&
        session_.picking().targets.none() && !isFixed())
        dragged_ = DraggedPart::at(session_, hoveredPoint_);
}

void SceneCanvas::mouseMoveEvent(QMouseEvent* event)
{
    const QPointF step = event->position() - cursor_;
    cursor_ = event->position();
    if (button_ == Qt::NoButton || !(event->buttons() & button_)) return hover(cursor_);
    if ((cursor_ - pressed_).manhattanLength() > 4.0) moved_ = true;
    if (!moved_) return;
    if (dragged_) return carryPart();
    if (button_ == Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier))
        camera_.orbit(-0.008 * step.x(), 0.008 * step.y());
    else
        camera_.pan(step, size());
    draw();
}

void SceneCanvas::mouseReleaseEvent(QMouseEvent* event)
{
    const bool click = !moved_ && button_ == Qt::LeftButton;
    button_ = Qt::NoButton;
    if (dragged_ && moved_) return putPartDown();
    dragged_.reset();
    if (moved_) draw(); // exact again
    if (!click) return;
    hover(event->position());
    if (outlineDrawn_) {
        if (hoveredPoint_ >= 0 && structure_)
            emit placeDrawn(-1, structure_->frame.points[static_cast<std::size_t>(hoveredPoint_)].place);
        else if (gridPlace_)
            emit placeDrawn(-1, *gridPlace_);
        return;
    }
    if (drawing_) {
        if (hoveredPoint_ >= 0 && drawFrom_ >= 0 && drawFrom_ != hoveredPoint_) {
            emit memberDrawn(drawFrom_, hoveredPoint_);
        } else if (hoveredPoint_ >= 0) {
            drawFrom(hoveredPoint_);
        } else if (gridPlace_) {
            emit placeDrawn(drawFrom_, *gridPlace_);
        }
        return;
    }
    const Session::Picking picking = session_.picking();
    const auto pickNamed = [&](const std::string& name) { session_.pick(QString::fromStdString(name)); };
    if (picking.place && hoveredPoint_ < 0 && gridPlace_) return pickNamed(placeText(*gridPlace_));
    if (!structure_) return;
    const auto& frame = structure_->frame;
    if ((picking.place || picking.targets.has(Target::point)) && hoveredPoint_ >= 0)
        return pickNamed(frame.points[static_cast<std::size_t>(hoveredPoint_)].name);
    if (picking.targets.has(Target::edge) && hoveredEdge_ >= 0) return pickNamed(ruleForEdge(frame, hoveredEdge_));
    const bool solid = hoveredPart_ >= static_cast<int>(frame.sheets.size());
    if (picking.targets.has(Target::face) && hoveredFace_ >= 0 && solid)
        return pickNamed(ruleForFace(frame, hoveredFace_));
    if (hoveredPart_ >= 0 && picking.targets.has(solid ? Target::solid : Target::sheet))
        return pickNamed(frame.partName(hoveredPart_));
    if (picking.targets.has(Target::member) && hoveredMember_ >= 0)
        return pickNamed(frame.members[static_cast<std::size_t>(hoveredMember_)].name);
    chosenPoint_ = hoveredPoint_;
    if (staveShown().id.isEmpty()) {
        if (hoveredMember_ >= 0)
            session_.selectSentence(frame.members[static_cast<std::size_t>(hoveredMember_)].sentence);
        else if (hoveredPart_ >= 0)
            session_.selectSentence(frame.partSentence(hoveredPart_));
        else if (hoveredPoint_ >= 0 && !session_.spotlight().sentences.empty())
            session_.selectSentence(session_.spotlight().sentences.back());
    }
    draw();
}

void SceneCanvas::mouseDoubleClickEvent(QMouseEvent*)
{
    if (hoveredPoint_ < 0 && hoveredMember_ < 0 && hoveredPart_ < 0) frameAll();
}

void SceneCanvas::wheelEvent(QWheelEvent* event)
{
    camera_.zoom(std::pow(0.9988, event->angleDelta().y()), event->position(), size());
    stillAgain_.start();
    draw();
    event->accept();
}

void SceneCanvas::leaveEvent(QEvent*)
{
    hoveredPoint_ = hoveredMember_ = hoveredPart_ = hoveredEdge_ = -1;
    gridPlace_.reset();
    colourDirty_ = true;
    session_.light(session_.spotlightOf(session_.selectedSentence()));
    draw();
}

} // namespace undisona
