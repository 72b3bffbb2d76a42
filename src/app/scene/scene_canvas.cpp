#include "app/scene/scene_pipeline.hpp"

#include "app/session/theme.hpp"

#include <QMouseEvent>
#include <QOpenGLFunctions>

#include <vtkCamera.h>
#include <vtkLight.h>
#include <vtkOpenGLFramebufferObject.h>
#include <vtkOpenGLState.h>
#include <vtkPlane.h>

namespace undisona {

void setBackground(vtkRenderer* renderer)
{
    const Theme& theme = Theme::now();
    renderer->GradientBackgroundOn();
    renderer->SetBackground2(theme.sceneTop.redF(), theme.sceneTop.greenF(), theme.sceneTop.blueF());
    renderer->SetBackground(theme.sceneBottom.redF(), theme.sceneBottom.greenF(), theme.sceneBottom.blueF());
}

SceneCanvas::SceneCanvas(Session& session, QWidget* parent)
    : GlPicture(parent), session_(session), pipeline_(std::make_unique<Pipeline>())
{
    setMouseTracking(true);
    setObjectName("canvas");
    nextFrame_.setSingleShot(true);
    connect(&nextFrame_, &QTimer::timeout, this, [this] {
        const double passed = clock_.restart() / 1000.0;
        framesPerSecond_ = passed > 0.0 ? 0.9 * framesPerSecond_ + 0.1 / passed : framesPerSecond_;
        phase_ = std::fmod(phase_ + passed / look_.turn, 1.0);
        if (++frame_ % 8 == 0) emit phaseChanged(); // repainting the slider at each frame would slow the motion
        if (!drawsSoon()) draw();
    });
    // Where frames are slow, as without a graphics card, a third of the time is left to all else, a run above all.
    connect(this, &GlPicture::shown, this, [this] {
        if (!playing_ || nextFrame_.isActive()) return;
        const auto took = static_cast<int>(clock_.elapsed());
        nextFrame_.start(std::max(16 - took, took / 2));
    });
    stillAgain_.setSingleShot(true);
    stillAgain_.setInterval(200);
    connect(&stillAgain_, &QTimer::timeout, this, [this] { draw(); });
    const auto later = [this] { // the words of an edit do not wait for the scene
        dirty_ = true;
        drawSoon();
    };
    connect(&session_, &Session::derivedChanged, this, later);
    connect(&session_, &Session::stavesChanged, this, later);
    connect(&session_, &Session::selectionChanged, this, later);
    connect(&session_, &Session::pickingChanged, this, &SceneCanvas::showAtRest);
    draftSoon_.setSingleShot(true);
    draftSoon_.setInterval(150); // between two keys
    connect(&session_, &Session::draftChanged, &draftSoon_, qOverload<>(&QTimer::start));
    connect(&draftSoon_, &QTimer::timeout, this, &SceneCanvas::readDraft);
    for (const auto signal : {&Session::spotlightChanged, &Session::stressesMoved})
        connect(&session_, signal, this, [this] {
            colourDirty_ = true;
            draw();
        });
}

SceneCanvas::~SceneCanvas()
{
    if (makeCurrent()) pipeline_->window->Finalize();
}

void SceneCanvas::prepareGl(bool software)
{
    auto& window = pipeline_->window;
    window->InitializeFromCurrentContext();
    window->SetOwnContext(false);
    window->SetFrameBlitModeToNoBlit();
    window->SetReadyForRendering(true);
    window->SetIsCurrent(true);
    window->SetMultiSamples(software ? 0 : 8);
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

void SceneCanvas::setLook(const SceneLook& look)
{
    const bool shape = look.sections != look_.sections || look.symbols != look_.symbols ||
                       look.outline != look_.outline || look.amplitude != look_.amplitude ||
                       look.meshLines != look_.meshLines || look.nodeLines != look_.nodeLines ||
                       look.hidden != look_.hidden || look.faded != look_.faded;
    look_ = look;
    dirty_ = dirty_ || shape;
    colourDirty_ = true;
    draw();
}

void SceneCanvas::fixTo(std::optional<Fixed> fixed)
{
    if (fixed == fixed_) return;
    fixed_ = std::move(fixed);
    dirty_ = true;
    draw();
}

const Stave& SceneCanvas::staveShown() const
{
    if (fixed_)
        for (const Stave& stave : session_.staves())
            if (stave.id == fixed_->stave) return stave;
    return session_.shown();
}

const Session::RestShown* SceneCanvas::restSeen() const
{
    return fixed_ ? nullptr : session_.restShown();
}

int SceneCanvas::modeShown() const
{
    if (const auto* rest = restSeen()) return rest->number;
    const Stave& stave = staveShown();
    if (!fixed_ || stave.id != fixed_->stave) return session_.shownMode();
    return stave.solution ? std::clamp(fixed_->mode, 0, static_cast<int>(stave.solution->modes.size())) : 0;
}

const Mode* SceneCanvas::mode() const
{
    const auto* rest = restSeen();
    const auto& solution = rest ? rest->shapes : staveShown().solution;
    const int number = modeShown();
    if (!solution || number < 1 || number > static_cast<int>(solution->modes.size())) return nullptr;
    return &solution->modes[static_cast<std::size_t>(number - 1)];
}

void SceneCanvas::play(bool playing)
{
    if (playing == playing_) return;
    playing_ = playing;
    clock_.start();
    if (playing)
        nextFrame_.start(0);
    else
        nextFrame_.stop();
    emit phaseChanged();
}

void SceneCanvas::setPhase(double share)
{
    phase_ = share;
    emit phaseChanged();
    draw();
}

double SceneCanvas::displayScale() const
{
    return drawn_ ? pipeline_->scale : 0.0;
}
double SceneCanvas::leastSeen() const
{
    constexpr double pixels = 1.5;
    return pixels * camera_.scale(size()) / devicePixelRatioF();
}
bool SceneCanvas::tooThin() const
{
    return widest_ > 0.0 && widest_ < leastSeen();
}
double SceneCanvas::symbolSize() const
{
    return structure_ ? std::max(1e-3, 0.034 * structure_->frame.span()) : 0.1;
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

void SceneCanvas::drawGl(QSize pixels)
{
    auto& p = *pipeline_;
    p.window->SetSize(pixels.width(), pixels.height());
    dirty_ = dirty_ || (look_.sections && thin_ != tooThin());
    if (p.surface.widened) { // as wide as they were seen from there
        constexpr double nearer = 0.6, farther = 1.7;
        const double ratio = leastSeen() / leastDrawn_;
        dirty_ = dirty_ || ratio < nearer || ratio > farther;
    }
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
}

void SceneCanvas::readGl(QImage& picture)
{
    pipeline_->window->GetDisplayFramebuffer()->Bind(GL_READ_FRAMEBUFFER);
    pipeline_->window->GetDisplayFramebuffer()->ActivateReadBuffer(0);
    auto* gl = QOpenGLContext::currentContext()->functions();
    gl->glPixelStorei(GL_PACK_ALIGNMENT, 4);
    gl->glReadPixels(0, 0, picture.width(), picture.height(), GL_BGRA, GL_UNSIGNED_INT_8_8_8_8_REV, picture.bits());
}

} // namespace undisona
