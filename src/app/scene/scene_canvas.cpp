#include "app/scene/scene_canvas.hpp"

#include "app/scene/colour_map.hpp"
#include "app/scene/member_surface.hpp"
#include "app/scene/moving_shape.hpp"
#include "app/scene/part_surface.hpp"
#include "app/scene/symbols.hpp"
#include "app/scene/thinned_surface.hpp"
#include "app/session/theme.hpp"

#include <QMouseEvent>
#include <QOpenGLContext>
#include <QOpenGLFunctions>

#include <vtkCamera.h>
#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkLight.h>
#include <vtkNew.h>
#include <vtkOpenGLState.h>
#include <vtkPlane.h>
#include <vtkProperty.h>
#include <vtkRenderer.h>

namespace undisona {

namespace {

constexpr double greatest = 0.085; // of the structure's size: how far the most moving point goes at amplitude 1

void setBackground(vtkRenderer* renderer)
{
    const Theme& theme = Theme::now();
    renderer->GradientBackgroundOn();
    renderer->SetBackground2(theme.sceneTop.redF(), theme.sceneTop.greenF(), theme.sceneTop.blueF());
    renderer->SetBackground(theme.sceneBottom.redF(), theme.sceneBottom.greenF(), theme.sceneBottom.blueF());
}

/// Of cells of so many vertices, those whose first vertex is wanted.
std::vector<std::int64_t> cellsThat(const std::vector<std::int64_t>& cells, int size,
                                    const std::function<bool(std::int64_t)>& wanted)
{
    std::vector<std::int64_t> some;
    for (std::size_t at = 0; at + static_cast<std::size_t>(size) <= cells.size(); at += static_cast<std::size_t>(size))
        if (wanted(cells[at]))
            some.insert(some.end(), cells.begin() + static_cast<long>(at),
                        cells.begin() + static_cast<long>(at) + size);
    return some;
}

} // namespace

namespace {

bool hasFaces(const FrameMesh& mesh)
{
    return !mesh.shells.empty() || !mesh.solids.empty();
}

} // namespace

struct SceneCanvas::Pipeline {
    vtkNew<vtkGenericOpenGLRenderWindow> window;
    vtkNew<vtkRenderer> renderer;
    MovingShape sections, centreLines; ///< the members, as one or the other
    MovingShape sheets, meshLines, nodeLines;
    MovingShape thinSheets; ///< drawn for the sheets while things move, where these have very many triangles
    ThinnedSurface thin;    ///< empty where they have not
    MovingShape ghosts; ///< faded sheets and members
    MovingShape outline, symbols, symbolLines;
    MemberSurface surface;
    std::vector<std::int64_t> memberCells; ///< of all members, hidden ones too
    PartSurface partSurface;
    std::vector<Vector6> nodeMotions; ///< unit modal mass; empty where there is no sheet
    bool smooths = false; ///< edges are smoothed over the finished picture, for want of multisampling
    Eigen::Matrix<double, 6, Eigen::Dynamic> motions; ///< of the stations, unit modal mass
    double scale = 0.0;                               ///< from the mode to metres drawn

    MovingShape& members() { return surface.lines ? centreLines : sections; }
};

void useSceneSurface()
{
    QSurfaceFormat format;
    format.setRenderableType(QSurfaceFormat::OpenGL);
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    QSurfaceFormat::setDefaultFormat(format);
}

SceneCanvas::SceneCanvas(Session& session, QWidget* parent)
    : QOpenGLWidget(parent), session_(session), pipeline_(std::make_unique<Pipeline>())
{
    setMouseTracking(true);
    setObjectName("canvas");
    timer_.setInterval(16);
    connect(&timer_, &QTimer::timeout, this, [this] {
        // One period takes two seconds, whatever the frequency.
        const double passed = clock_.restart() / 1000.0;
        framesPerSecond_ = passed > 0.0 ? 0.9 * framesPerSecond_ + 0.1 / passed : framesPerSecond_;
        phase_ = std::fmod(phase_ + passed / 2.0, 1.0);
        if (++frame_ % 8 == 0) emit phaseChanged(); // repainting the slider at each frame would slow the motion
        update();
    });
    stillAgain_.setSingleShot(true);
    stillAgain_.setInterval(200);
    connect(&stillAgain_, &QTimer::timeout, this, [this] { update(); });
    const auto later = [this] {
        dirty_ = true;
        update();
    };
    connect(&session_, &Session::derivedChanged, this, later);
    connect(&session_, &Session::stavesChanged, this, later);
    connect(&session_, &Session::selectionChanged, this, later);
    connect(&session_, &Session::pickingChanged, this, &SceneCanvas::showAtRest);
    connect(&session_, &Session::spotlightChanged, this, [this] {
        colourDirty_ = true;
        update();
    });
}

SceneCanvas::~SceneCanvas()
{
    remove();
}

void SceneCanvas::remove()
{
    if (!context()) return;
    makeCurrent();
    pipeline_->window->Finalize();
    doneCurrent();
}

void SceneCanvas::initializeGL()
{
    auto& window = pipeline_->window;
    window->InitializeFromCurrentContext();
    window->SetOwnContext(false);
    window->SetFrameBlitModeToNoBlit();
    window->SetReadyForRendering(true);
    window->SetIsCurrent(true);
    window->SetMultiSamples(0);
    const auto* renderer = reinterpret_cast<const char*>(context()->functions()->glGetString(GL_RENDERER));
    const bool software = renderer && (strstr(renderer, "llvmpipe") || strstr(renderer, "softpipe"));
    if (!software) window->SetMultiSamples(8);
    pipeline_->smooths = software;
    window->AddRenderer(pipeline_->renderer);
    vtkNew<vtkLight> light;
    light->SetLightTypeToCameraLight();
    light->SetPosition(0.5, 0.9, 1.4);
    pipeline_->renderer->AddLight(light);
    pipeline_->sections.prepare(pipeline_->renderer, true);
    pipeline_->centreLines.prepare(pipeline_->renderer, false); // lines have no face for light to fall on
    pipeline_->sheets.prepare(pipeline_->renderer, true);
    pipeline_->thinSheets.prepare(pipeline_->renderer, true);
    pipeline_->meshLines.prepare(pipeline_->renderer, false);
    pipeline_->nodeLines.prepare(pipeline_->renderer, false);
    pipeline_->outline.prepare(pipeline_->renderer, false);
    pipeline_->symbols.prepare(pipeline_->renderer, true);
    pipeline_->symbolLines.prepare(pipeline_->renderer, false);
    pipeline_->ghosts.prepare(pipeline_->renderer, true);
    pipeline_->ghosts.actor->GetProperty()->SetOpacity(0.16);
    pipeline_->ghosts.actor->ForceTranslucentOn();
    dirty_ = true;
}

void SceneCanvas::resizeGL(int width, int height)
{
    const double ratio = devicePixelRatioF();
    pipeline_->window->SetSize(static_cast<int>(width * ratio), static_cast<int>(height * ratio));
}

void SceneCanvas::setLook(const SceneLook& look)
{
    const bool shape = look.sections != look_.sections || look.symbols != look_.symbols ||
                       look.outline != look_.outline || look.amplitude != look_.amplitude ||
                       look.meshLines != look_.meshLines || look.nodeLines != look_.nodeLines ||
                       look.hidden != look_.hidden || look.faded != look_.faded;
    look_ = look;
    dirty_ = dirty_ || shape;
    colourDirty_ = true;
    update();
}

void SceneCanvas::play(bool playing)
{
    if (playing == timer_.isActive()) return;
    if (playing) {
        clock_.start();
        timer_.start();
    } else {
        timer_.stop();
    }
    emit phaseChanged();
}

void SceneCanvas::setPhase(double share)
{
    phase_ = share;
    emit phaseChanged();
    update();
}

double SceneCanvas::displayScale() const
{
    return drawn_ ? pipeline_->scale : 0.0;
}
bool SceneCanvas::tooThin() const
{
    constexpr double pixels = 1.5;
    return widest_ > 0.0 && widest_ < pixels * camera_.scale(size()) / devicePixelRatioF();
}
double SceneCanvas::symbolSize() const
{
    return structure_ ? std::max(1e-3, 0.034 * structure_->frame.span()) : 0.1;
}

void SceneCanvas::rebuild()
{
    auto& p = *pipeline_;
    dirty_ = false;
    colourDirty_ = true;
    const Stave& stave = session_.shown();
    drawn_ = session_.mode() && !placing() ? stave.solution : nullptr; // new points belong to the live model
    structure_ = drawn_ ? drawn_->structure : session_.structurePtr();
    if (!drawn_ && !stave.id.isEmpty() && !stave.solution) structure_ = session_.structurePtr();
    const auto made = [](const auto& part) { return part.material != nullptr; };
    const bool drawable = std::all_of(structure_->members.begin(), structure_->members.end(), made) &&
                          std::all_of(structure_->sheets.begin(), structure_->sheets.end(), made) &&
                          std::all_of(structure_->solids.begin(), structure_->solids.end(), made);
    Structure plain; // a shape without materials can be drawn all the same
    const Structure* shape = structure_.get();
    if (!drawable) {
        plain = *structure_;
        for (auto& member : plain.members)
            if (!member.material) member.material = std::make_shared<const Material>(materialLibrary().front());
        for (auto& solid : plain.solids)
            if (!solid.material) solid.material = std::make_shared<const Material>(materialLibrary().front());
        for (auto& sheet : plain.sheets)
            if (!sheet.material) sheet.material = std::make_shared<const Material>(materialLibrary().front());
        shape = &plain;
    }
    mesh_ = drawn_ ? std::shared_ptr<const FrameMesh>(drawn_, &drawn_->mesh)
                   : std::make_shared<const FrameMesh>(coarseMesh(*shape));
    const FrameMesh& mesh = *mesh_;
    const auto elements = mesh.elements.size();
    const int pieces = !drawn_ ? 1 : elements > 4000 ? 1 : elements > 1200 ? 2 : 4;
    widest_ = 0.0;
    for (const auto& member : shape->frame.members)
        for (const auto& [y, z] : member.section->outline)
            widest_ = std::max(widest_, 2.0 * std::hypot(y, z));
    thin_ = tooThin();
    p.surface = memberSurface(*shape, mesh, look_.sections && !thin_, pieces);
    p.sections.actor->SetVisibility(!p.surface.lines);
    p.centreLines.actor->SetVisibility(p.surface.lines);
    const std::vector<std::int64_t> none;
    p.memberCells = p.surface.cells;
    const int cell = p.surface.lines ? 2 : 3;
    const auto shownCells = cellsThat(p.memberCells, cell, [&](std::int64_t vertex) {
        return seen(shape->frame
                        .members[static_cast<std::size_t>(p.surface.memberOfVertex[static_cast<std::size_t>(vertex)])]
                        .name) == Seen::whole;
    });
    p.members().setPlaces(p.surface.place, p.surface.arm, p.surface.lines ? none : shownCells,
                          p.surface.lines ? shownCells : none);
    p.members().actor->GetProperty()->SetLineWidth(static_cast<float>((thin_ ? 1.4 : 2.2) * devicePixelRatioF()));

    const double span = std::max(structure_->frame.span(), 1e-6);
    p.scale = 0.0;
    p.nodeMotions.clear();
    p.motions.setZero(6, static_cast<Eigen::Index>(p.surface.stations.size()));
    if (drawn_) {
        p.motions = stationMotions(p.surface, *drawn_, static_cast<std::size_t>(session_.shownMode() - 1));
        double most = p.motions.cols() > 0 ? p.motions.topRows<3>().colwise().norm().maxCoeff() : 0.0;
        const double turnMost = p.motions.cols() > 0 ? p.motions.bottomRows<3>().colwise().norm().maxCoeff() : 0.0;
        for (std::size_t node = 0; node < mesh.nodes.size() && hasFaces(mesh); ++node) {
            p.nodeMotions.push_back(
                drawn_->motion(static_cast<int>(node), static_cast<std::size_t>(session_.shownMode() - 1)));
            most = std::max(most, p.nodeMotions.back().head<3>().norm());
        }
        if (most > 0.0) p.scale = greatest * look_.amplitude * span / most;
        if (turnMost > 0.0 && !hasFaces(mesh))
            p.scale =
                most > 0.0 ? std::min(p.scale, 0.9 * look_.amplitude / turnMost) : 0.4 * look_.amplitude / turnMost;
        for (std::size_t vertex = 0; vertex < p.surface.station.size(); ++vertex)
            p.members().setMotion(static_cast<vtkIdType>(vertex), p.scale * p.motions.col(p.surface.station[vertex]));
    }

    rebuildSheets(*shape);
    rebuildGhosts(*shape);
    MemberSurface rest = memberSurface(*shape, mesh, false, 1);
    for (const auto& nodes : mesh.edgeNodes)
        for (std::size_t at = 0; at < nodes.size(); ++at) {
            const auto vertex = static_cast<std::int64_t>(rest.place.size() / 3);
            const Eigen::Vector3d place = mesh.nodes[static_cast<std::size_t>(nodes[at])].place - p.surface.origin;
            for (int axis = 0; axis < 3; ++axis) {
                rest.place.push_back(static_cast<float>(place[axis]));
                rest.arm.push_back(0.0f);
            }
            if (at > 0) rest.cells.insert(rest.cells.end(), {vertex - 1, vertex});
        }
    p.outline.setPlaces(rest.place, rest.arm, {}, rest.cells);
    const QColor faint = Theme::now().dark ? QColor("#5A6167") : QColor("#B9BDBF");
    for (vtkIdType vertex = 0; vertex < p.outline.colour->GetNumberOfTuples(); ++vertex)
        p.outline.setColour(vertex, faint);
    p.outline.actor->GetProperty()->SetLineWidth(static_cast<float>(devicePixelRatioF()));
    p.outline.actor->SetVisibility(look_.outline && drawn_ != nullptr);
    p.outline.changed();

    const auto symbols = symbolsOf(*structure_, mesh, symbolSize());
    for (const bool solid : {true, false}) {
        MovingShape& drawnShape = solid ? p.symbols : p.symbolLines;
        std::vector<float> places, arms;
        std::vector<std::int64_t> cells;
        std::vector<std::pair<int, QColor>> owners;
        for (const auto& symbol : symbols) {
            const auto& own = solid ? symbol.triangles : symbol.lines;
            if (own.empty()) continue;
            const auto first = static_cast<std::int64_t>(places.size() / 3);
            const Eigen::Vector3d base = mesh.nodes[static_cast<std::size_t>(symbol.node)].place - p.surface.origin;
            for (std::size_t at = 0; at < symbol.place.size(); ++at) {
                places.push_back(symbol.place[at] + static_cast<float>(base[static_cast<Eigen::Index>(at % 3)]));
                arms.push_back(symbol.place[at]);
            }
            owners.insert(owners.end(), symbol.place.size() / 3, {symbol.node, symbol.colour});
            for (const auto id : own)
                cells.push_back(first + id);
        }
        drawnShape.setPlaces(places, arms, solid ? cells : std::vector<std::int64_t>{},
                             solid ? std::vector<std::int64_t>{} : cells);
        for (std::size_t vertex = 0; vertex < owners.size(); ++vertex) {
            drawnShape.setColour(static_cast<vtkIdType>(vertex), owners[vertex].second);
            if (drawn_)
                drawnShape.setMotion(
                    static_cast<vtkIdType>(vertex),
                    p.scale * drawn_->motion(owners[vertex].first, static_cast<std::size_t>(session_.shownMode() - 1)));
        }
        drawnShape.actor->SetVisibility(look_.symbols && !owners.empty());
        drawnShape.actor->GetProperty()->SetLineWidth(static_cast<float>(1.6 * devicePixelRatioF()));
        drawnShape.changed();
    }
    setBackground(p.renderer);
    if (!framed_ && !structure_->frame.empty()) frameAll();
}

namespace {

double middlingSide(const PartSurface& surface)
{
    std::vector<double> sides;
    const auto place = [&](std::int64_t vertex) {
        const auto* at = &surface.place[3 * static_cast<std::size_t>(vertex)];
        return Eigen::Vector3d(at[0], at[1], at[2]);
    };
    for (std::size_t at = 0; at + 1 < surface.meshLines.size(); at += 2)
        sides.push_back((place(surface.meshLines[at]) - place(surface.meshLines[at + 1])).norm());
    if (sides.empty()) return 0.0;
    const auto middle = sides.begin() + static_cast<std::ptrdiff_t>(sides.size() / 2);
    std::nth_element(sides.begin(), middle, sides.end());
    return *middle;
}

} // namespace

void SceneCanvas::fadeMeshLines()
{
    constexpr double gone = 1.2, full = 4.0; // pixels
    const double pixels = side_ / camera_.scale(size());
    const double share = std::clamp((pixels - gone) / (full - gone), 0.0, 1.0);
    auto& actor = pipeline_->meshLines.actor;
    actor->SetVisibility(look_.meshLines && mesh_ && hasFaces(*mesh_) && share > 0.0);
    actor->GetProperty()->SetOpacity(share);
}

void SceneCanvas::rebuildSheets(const Structure& shape)
{
    sharesOf_ = {}; // by the vertices made here
    auto& p = *pipeline_;
    p.sheets.actor->SetVisibility(hasFaces(*mesh_));
    p.meshLines.actor->SetVisibility(look_.meshLines && hasFaces(*mesh_));
    p.nodeLines.actor->SetVisibility(look_.nodeLines && !p.nodeMotions.empty());
    p.partSurface = {};
    p.thin = {};
    if (!hasFaces(*mesh_)) return;
    p.partSurface = partSurface(shape, *mesh_, p.surface.origin, look_.sections);
    const PartSurface& surface = p.partSurface;
    const auto whole = [&](std::int64_t vertex) {
        return seen(shape.frame.partName(surface.part[static_cast<std::size_t>(vertex)])) == Seen::whole;
    };
    const auto triangles = cellsThat(surface.triangles, 3, whole);
    p.sheets.setPlaces(surface.place, surface.arm, triangles, {});
    thinOut(triangles);
    std::vector<float> outside = surface.place;
    for (std::size_t at = 0; at < outside.size(); ++at)
        outside[at] += surface.lineArm[at] - surface.arm[at];
    p.meshLines.setPlaces(outside, surface.lineArm, {}, cellsThat(surface.meshLines, 2, whole));
    const bool dark = Theme::now().dark;
    const QColor line = dark ? QColor("#33383D") : QColor("#A9A4B2");
    for (std::size_t vertex = 0; vertex < surface.node.size(); ++vertex) {
        const auto at = static_cast<vtkIdType>(vertex);
        p.meshLines.setColour(at, line);
        if (p.nodeMotions.empty()) continue;
        const Vector6 motion = p.scale * p.nodeMotions[static_cast<std::size_t>(surface.node[vertex])];
        p.sheets.setMotion(at, motion);
        p.meshLines.setMotion(at, motion);
    }
    p.meshLines.actor->GetProperty()->SetLineWidth(static_cast<float>(devicePixelRatioF()));
    p.meshLines.changed();
    side_ = middlingSide(surface);
    if (p.nodeMotions.empty() || !look_.nodeLines) return;
    const NodeLines lines = nodeLines(shape, *mesh_, p.surface.origin, p.nodeMotions);
    p.nodeLines.setPlaces(lines.place, lines.arm, {}, cellsThat(lines.lines, 2, [&](std::int64_t vertex) {
                              return seen(shape.frame.partName(lines.part[static_cast<std::size_t>(vertex)])) ==
                                     Seen::whole;
                          }));
    for (std::size_t vertex = 0; vertex < lines.nodes.size(); ++vertex) {
        const auto& [from, to] = lines.nodes[vertex];
        const Vector6 motion = p.scale * ((1.0 - lines.share[vertex]) * p.nodeMotions[static_cast<std::size_t>(from)] +
                                          lines.share[vertex] * p.nodeMotions[static_cast<std::size_t>(to)]);
        p.nodeLines.setMotion(static_cast<vtkIdType>(vertex), motion);
        p.nodeLines.setColour(static_cast<vtkIdType>(vertex), Theme::now().ink);
    }
    p.nodeLines.actor->GetProperty()->SetLineWidth(static_cast<float>(2.0 * devicePixelRatioF()));
    p.nodeLines.changed();
}

void SceneCanvas::thinOut(const std::vector<std::int64_t>& triangles)
{
    constexpr std::size_t many = 60000, few = 30000;
    auto& p = *pipeline_;
    if (triangles.size() / 3 < many) return;
    p.thin = thinned(p.partSurface, triangles, few);
    std::vector<float> place, arm;
    for (const auto vertex : p.thin.vertex)
        for (std::size_t k = 3 * static_cast<std::size_t>(vertex); k < 3 * static_cast<std::size_t>(vertex) + 3; ++k) {
            place.push_back(p.partSurface.place[k]);
            arm.push_back(p.partSurface.arm[k]);
        }
    p.thinSheets.setPlaces(place, arm, p.thin.triangles, {});
    if (p.nodeMotions.empty()) return;
    for (std::size_t at = 0; at < p.thin.vertex.size(); ++at) {
        const int node = p.partSurface.node[static_cast<std::size_t>(p.thin.vertex[at])];
        p.thinSheets.setMotion(static_cast<vtkIdType>(at), p.scale * p.nodeMotions[static_cast<std::size_t>(node)]);
    }
}

std::size_t SceneCanvas::trianglesDrawn() const
{
    const auto& p = *pipeline_;
    return static_cast<std::size_t>(
        (p.thinSheets.actor->GetVisibility() ? p.thinSheets : p.sheets).data->GetNumberOfPolys());
}

/// A still picture is exact; one that moves may leave out what nobody sees in passing.
bool SceneCanvas::inMotion() const
{
    return playing() || (button_ != Qt::NoButton && moved_) || stillAgain_.isActive();
}

SceneCanvas::Seen SceneCanvas::seen(const std::string& part) const
{
    return look_.hidden.contains(part) ? Seen::hidden : look_.faded.contains(part) ? Seen::faded : Seen::whole;
}

/// Sheets and members that are faded stand in one shape, which lets what is behind it through.
void SceneCanvas::rebuildGhosts(const Structure& shape)
{
    auto& p = *pipeline_;
    p.ghosts.actor->SetVisibility(!look_.faded.empty());
    if (look_.faded.empty()) return;
    const PartSurface& sheets = p.partSurface;
    std::vector<float> place = sheets.place, arm = sheets.arm;
    std::vector<std::int64_t> triangles = cellsThat(sheets.triangles, 3, [&](std::int64_t vertex) {
        return seen(shape.frame.partName(sheets.part[static_cast<std::size_t>(vertex)])) == Seen::faded;
    });
    const auto first = static_cast<std::int64_t>(place.size() / 3);
    const int size = p.surface.lines ? 2 : 3;
    auto own = cellsThat(p.memberCells, size, [&](std::int64_t vertex) {
        const auto member = static_cast<std::size_t>(p.surface.memberOfVertex[static_cast<std::size_t>(vertex)]);
        return seen(shape.frame.members[member].name) == Seen::faded;
    });
    for (auto& vertex : own)
        vertex += first;
    place.insert(place.end(), p.surface.place.begin(), p.surface.place.end());
    arm.insert(arm.end(), p.surface.arm.begin(), p.surface.arm.end());
    if (!p.surface.lines) triangles.insert(triangles.end(), own.begin(), own.end());
    p.ghosts.setPlaces(place, arm, triangles, p.surface.lines ? own : std::vector<std::int64_t>{});
    const QColor grey = Theme::now().dark ? QColor("#9AA2A8") : QColor("#6B757C");
    for (vtkIdType vertex = 0; vertex < static_cast<vtkIdType>(place.size() / 3); ++vertex) {
        p.ghosts.setColour(vertex, grey);
        if (!drawn_) continue;
        if (vertex < first)
            p.ghosts.setMotion(
                vertex,
                p.scale * p.nodeMotions[static_cast<std::size_t>(sheets.node[static_cast<std::size_t>(vertex)])]);
        else
            p.ghosts.setMotion(vertex,
                               p.scale * p.motions.col(p.surface.station[static_cast<std::size_t>(vertex - first)]));
    }
    p.ghosts.changed();
}

/// Of the mode and the colouring in view; kept, as colours are also laid anew when the mouse moves.
const ModeShares& SceneCanvas::shares()
{
    const std::tuple wanted{drawn_, session_.shownMode(), look_.colouring};
    if (!drawn_)
        shares_ = {std::vector<double>(structure_->frame.members.size(), 0.0),
                   std::vector<double>(structure_->frame.parts(), 0.0),
                   {}};
    else if (sharesOf_ != wanted)
        shares_ = modeShares(*drawn_, session_.shownMode(), look_.colouring, pipeline_->partSurface);
    sharesOf_ = wanted;
    return shares_;
}

void SceneCanvas::cutOpen()
{
    auto& p = *pipeline_;
    for (auto* shape : {&p.sections, &p.centreLines, &p.sheets, &p.thinSheets, &p.meshLines, &p.nodeLines, &p.ghosts}) {
        shape->mapper->RemoveAllClippingPlanes();
        if (!look_.cut || !structure_) continue;
        const auto [low, high] = structure_->frame.box();
        const int axis = look_.cut->axis;
        const double sign = look_.cut->farSide ? -1.0 : 1.0;
        const Eigen::Vector3d normal = sign * Eigen::Vector3d::Unit(axis);
        Eigen::Vector3d at = low + look_.cut->share * (high - low);
        at -= p.surface.origin;
        vtkNew<vtkPlane> plane;
        plane->SetNormal(normal.x(), normal.y(), normal.z());
        plane->SetOrigin(at.x(), at.y(), at.z());
        shape->mapper->AddClippingPlane(plane);
    }
}

void SceneCanvas::toggleParts(const std::vector<std::string>& names, std::set<std::string> SceneLook::*which)
{
    SceneLook next = look_;
    auto& set = next.*which;
    const bool all =
        std::all_of(names.begin(), names.end(), [&](const std::string& name) { return set.contains(name); });
    for (const auto& name : names) {
        next.hidden.erase(name);
        next.faded.erase(name);
        if (!all) set.insert(name);
    }
    setLook(next);
}

std::vector<std::string> SceneCanvas::partsMeant() const
{
    std::vector<std::string> names;
    if (!structure_) return names;
    const Frame& frame = structure_->frame;
    if (hoveredPart_ >= 0) return {frame.partName(hoveredPart_)};
    if (hoveredMember_ >= 0) return {frame.members[static_cast<std::size_t>(hoveredMember_)].name};
    const Spotlight about = session_.spotlightOf(session_.selectedSentence());
    for (const int part : about.parts)
        if (static_cast<std::size_t>(part) < frame.parts()) names.push_back(frame.partName(part));
    for (const int member : about.members)
        if (static_cast<std::size_t>(member) < frame.members.size())
            names.push_back(frame.members[static_cast<std::size_t>(member)].name);
    return names;
}

namespace {

QColor colourOf(const std::optional<Eigen::Vector3d>& stated, const QColor& otherwise)
{
    if (!stated) return otherwise;
    return QColor::fromRgbF(static_cast<float>(stated->x()), static_cast<float>(stated->y()),
                            static_cast<float>(stated->z()));
}

} // namespace

void SceneCanvas::recolour()
{
    colourDirty_ = false;
    auto& p = *pipeline_;
    const Theme& theme = Theme::now();
    const bool stale = session_.shown().stale;
    const QColor plain = theme.dark ? QColor("#8A9298") : QColor("#7B858C");
    std::vector<bool> lit(structure_->frame.members.size(), false);
    for (const int member : session_.spotlight().members)
        if (member >= 0 && static_cast<std::size_t>(member) < lit.size()) lit[static_cast<std::size_t>(member)] = true;
    if (hoveredMember_ >= 0 && static_cast<std::size_t>(hoveredMember_) < lit.size())
        lit[static_cast<std::size_t>(hoveredMember_)] = true;
    double most = p.motions.cols() > 0 ? std::max(1e-300, p.motions.topRows<3>().colwise().norm().maxCoeff()) : 1e-300;
    for (const auto& motion : p.nodeMotions)
        most = std::max(most, motion.head<3>().norm());
    const ModeShares& figures = shares();
    const bool byShare = look_.colouring == Colouring::energy || look_.colouring == Colouring::energyDensity ||
                         look_.colouring == Colouring::meshError;
    const auto shown = [&](const Vector6& motion, double share, bool spot, const QColor& ownColour) {
        QColor colour = ownColour;
        if (drawn_ && look_.colouring != Colouring::plain) {
            if (look_.colouring == Colouring::size)
                colour = sizeColour(motion.head<3>().norm() / most, theme.dark);
            else if (byShare)
                colour = sizeColour(share / figures.most, theme.dark);
            else
                colour = signedColour(motion[static_cast<int>(look_.colouring) - static_cast<int>(Colouring::x)] / most,
                                      theme.dark);
        }
        if (stale) { // faint: not of this model
            const QColor ground = theme.sceneTop;
            colour = QColor((colour.red() + 2 * ground.red()) / 3, (colour.green() + 2 * ground.green()) / 3,
                            (colour.blue() + 2 * ground.blue()) / 3);
        }
        if (spot) colour = drawn_ && look_.colouring != Colouring::plain ? QColor("#E08A00") : theme.accent;
        return colour;
    };
    for (std::size_t vertex = 0; vertex < p.surface.station.size(); ++vertex) {
        const auto member = static_cast<std::size_t>(p.surface.memberOfVertex[vertex]);
        p.members().setColour(static_cast<vtkIdType>(vertex), shown(p.motions.col(p.surface.station[vertex]),
                                                                    figures.members[member], lit[member], plain));
    }
    p.members().changed();
    std::vector<bool> litParts(structure_->frame.parts(), false);
    for (const int part : session_.spotlight().parts)
        if (part >= 0 && static_cast<std::size_t>(part) < litParts.size())
            litParts[static_cast<std::size_t>(part)] = true;
    if (hoveredPart_ >= 0 && static_cast<std::size_t>(hoveredPart_) < litParts.size())
        litParts[static_cast<std::size_t>(hoveredPart_)] = true;
    std::vector<QColor> ownColours; // as their files have them
    for (const auto& sheet : structure_->frame.sheets)
        ownColours.push_back(colourOf(sheet.colour, plain));
    for (const auto& solid : structure_->frame.solids)
        ownColours.push_back(colourOf(solid.colour, plain));
    const Vector6 still = Vector6::Zero();
    for (std::size_t vertex = 0; vertex < p.partSurface.node.size(); ++vertex) {
        const auto sheet = static_cast<std::size_t>(p.partSurface.part[vertex]);
        const Vector6& motion =
            p.nodeMotions.empty() ? still : p.nodeMotions[static_cast<std::size_t>(p.partSurface.node[vertex])];
        const int face = p.partSurface.coloured[vertex];
        const QColor own = face < 0
                               ? ownColours[sheet]
                               : colourOf(structure_->frame.faces->faces[static_cast<std::size_t>(face)].colour, plain);
        p.sheets.setColour(static_cast<vtkIdType>(vertex),
                           shown(motion, figures.at(vertex, sheet), litParts[sheet], own));
    }
    p.sheets.changed();
    for (std::size_t at = 0; at < p.thin.vertex.size(); ++at) {
        const unsigned char* from = p.sheets.colour->GetPointer(3 * p.thin.vertex[at]);
        std::copy(from, from + 3, p.thinSheets.colour->GetPointer(3 * static_cast<vtkIdType>(at)));
    }
    if (!p.thin.vertex.empty()) p.thinSheets.changed();
}

void SceneCanvas::paintGL()
{
    auto& p = *pipeline_;
    dirty_ = dirty_ || (look_.sections && thin_ != tooThin());
    if (dirty_) rebuild();
    if (colourDirty_) recolour();
    cutOpen();
    fadeMeshLines();
    const bool thin = inMotion() && !p.thin.vertex.empty();
    p.sheets.actor->SetVisibility(!thin && hasFaces(*mesh_));
    p.thinSheets.actor->SetVisibility(thin);
    if (thin) p.meshLines.actor->VisibilityOff();
    const double swing = drawn_ ? std::sin(2.0 * std::numbers::pi * phase_) : 0.0;
    for (auto* shape :
         {&p.members(), &p.sheets, &p.thinSheets, &p.meshLines, &p.nodeLines, &p.symbols, &p.symbolLines, &p.ghosts})
        shape->setPhase(swing);
    p.renderer->SetUseFXAA(p.smooths && !inMotion()); // a still picture is worth the time, a moving one is not
    auto* view = p.renderer->GetActiveCamera();
    const Eigen::Vector3d at = camera_.position() - p.surface.origin, to = camera_.target() - p.surface.origin,
                          up = camera_.up();
    view->SetPosition(at.x(), at.y(), at.z());
    view->SetFocalPoint(to.x(), to.y(), to.z());
    view->SetViewUp(up.x(), up.y(), up.z());
    view->SetViewAngle(Camera::viewAngle);
    const double reach = 2.5 * camera_.size();
    view->SetClippingRange(std::max(1e-3 * camera_.distance(), camera_.distance() - reach), camera_.distance() + reach);

    auto* state = p.window->GetState();
    state->Reset();
    state->Push();
    state->vtkglDepthFunc(GL_LEQUAL);
    p.window->Render();
    state->Pop();
    context()->functions()->glBindFramebuffer(GL_DRAW_FRAMEBUFFER, defaultFramebufferObject());
    const int w = p.window->GetSize()[0], h = p.window->GetSize()[1];
    p.window->BlitDisplayFramebuffer(0, 0, 0, w, h, 0, 0, w, h, GL_COLOR_BUFFER_BIT, GL_NEAREST);
    emit drew();
}

} // namespace undisona
