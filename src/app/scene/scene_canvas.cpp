#include "app/scene/scene_canvas.hpp"

#include "app/scene/colour_map.hpp"
#include "app/scene/member_surface.hpp"
#include "app/scene/symbols.hpp"
#include "app/session/theme.hpp"

#include <QMouseEvent>
#include <QOpenGLContext>
#include <QOpenGLFunctions>

#include <vtkActor.h>
#include <vtkCamera.h>
#include <vtkCellArray.h>
#include <vtkFloatArray.h>
#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkLight.h>
#include <vtkNew.h>
#include <vtkOpenGLPolyDataMapper.h>
#include <vtkOpenGLVertexBufferObject.h>
#include <vtkOpenGLState.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkPolyData.h>
#include <vtkProperty.h>
#include <vtkRenderer.h>
#include <vtkShaderProperty.h>
#include <vtkUniforms.h>
#include <vtkUnsignedCharArray.h>

namespace undisona {

namespace {

constexpr double greatest = 0.085; // of the structure's size: how far the most moving point goes at amplitude 1

/// The axis point moves by the mode; the section's arm turns with it by the finite rotation (Rodrigues), so
/// that sections keep their size.
const char* const movedPosition = R"(
  float turnAngle = length(modeTurn) * abs(phase);
  vec3 turnedArm = sectionArm;
  if (turnAngle > 1e-7) {
    vec3 turnAxis = normalize(modeTurn) * sign(phase);
    turnedArm = sectionArm * cos(turnAngle) + cross(turnAxis, sectionArm) * sin(turnAngle)
                + turnAxis * dot(turnAxis, sectionArm) * (1.0 - cos(turnAngle));
  }
  vec4 movedMC = vec4(vertexMC.xyz + phase * modeShift + turnedArm - sectionArm, 1.0);
)";

/// One drawable whose vertices carry a mode.
struct MovingShape {
    vtkNew<vtkPolyData> data;
    vtkNew<vtkOpenGLPolyDataMapper> mapper;
    vtkNew<vtkActor> actor;
    vtkNew<vtkFloatArray> shift, turn, arm;
    vtkNew<vtkUnsignedCharArray> colour;

    void prepare(vtkRenderer* renderer, bool lit)
    {
        shift->SetName("modeShift");
        turn->SetName("modeTurn");
        arm->SetName("sectionArm");
        colour->SetName("colour");
        for (auto* array : {shift.Get(), turn.Get(), arm.Get()})
            array->SetNumberOfComponents(3);
        colour->SetNumberOfComponents(3);
        mapper->SetInputData(data);
        // The shift of a mode is in metres: places must stay so too, whatever their range.
        mapper->SetVBOShiftScaleMethod(vtkOpenGLVertexBufferObject::DISABLE_SHIFT_SCALE);
        mapper->SetScalarModeToUsePointFieldData();
        mapper->SelectColorArray("colour");
        mapper->SetColorModeToDirectScalars();
        mapper->InterpolateScalarsBeforeMappingOff();
        for (const char* name : {"modeShift", "modeTurn", "sectionArm"})
            mapper->MapDataArrayToVertexAttribute(name, name, vtkDataObject::FIELD_ASSOCIATION_POINTS, -1);
        actor->SetMapper(mapper);
        actor->GetProperty()->SetLighting(lit);
        actor->GetProperty()->SetAmbient(lit ? 0.52 : 1.0);
        actor->GetProperty()->SetDiffuse(lit ? 0.55 : 0.0);
        actor->GetProperty()->SetSpecular(0.0);
        auto* shader = actor->GetShaderProperty();
        shader->AddVertexShaderReplacement(
            "//VTK::PositionVC::Dec", true,
            "//VTK::PositionVC::Dec\nin vec3 modeShift;\nin vec3 modeTurn;\nin vec3 sectionArm;\n", false);
        std::string place = movedPosition;
        place += lit ? "  vertexVCVSOutput = MCVCMatrix * movedMC;\n  gl_Position = MCDCMatrix * movedMC;\n"
                     : "  gl_Position = MCDCMatrix * movedMC;\n";
        shader->AddVertexShaderReplacement("//VTK::PositionVC::Impl", true, place, false);
        shader->GetVertexCustomUniforms()->SetUniformf("phase", 0.0f);
        renderer->AddActor(actor);
    }

    void setPhase(double phase)
    {
        actor->GetShaderProperty()->GetVertexCustomUniforms()->SetUniformf("phase", static_cast<float>(phase));
    }

    void setPlaces(const std::vector<float>& places, const std::vector<float>& arms,
                   const std::vector<std::int64_t>& triangles, const std::vector<std::int64_t>& lines)
    {
        vtkNew<vtkPoints> points;
        points->SetDataTypeToFloat();
        const auto count = static_cast<vtkIdType>(places.size() / 3);
        points->SetNumberOfPoints(count);
        for (vtkIdType at = 0; at < count; ++at)
            points->SetPoint(at, places[static_cast<std::size_t>(3 * at)], places[static_cast<std::size_t>(3 * at + 1)],
                             places[static_cast<std::size_t>(3 * at + 2)]);
        data->Initialize();
        data->SetPoints(points);
        const auto cellsOf = [](const std::vector<std::int64_t>& list, int size) {
            auto cells = vtkSmartPointer<vtkCellArray>::New();
            for (std::size_t at = 0; at + static_cast<std::size_t>(size) <= list.size();
                 at += static_cast<std::size_t>(size)) {
                const vtkIdType ids[3] = {list[at], list[at + 1], size == 3 ? list[at + 2] : 0};
                cells->InsertNextCell(size, ids);
            }
            return cells;
        };
        if (!triangles.empty()) data->SetPolys(cellsOf(triangles, 3));
        if (!lines.empty()) data->SetLines(cellsOf(lines, 2));
        for (auto* array : {shift.Get(), turn.Get(), arm.Get()}) {
            array->SetNumberOfTuples(count);
            array->Fill(0.0);
        }
        std::copy(arms.begin(), arms.end(), arm->GetPointer(0));
        colour->SetNumberOfTuples(count);
        for (auto* array : {shift.Get(), turn.Get(), arm.Get()})
            data->GetPointData()->AddArray(array);
        data->GetPointData()->AddArray(colour);
    }

    void setMotion(vtkIdType vertex, const Eigen::Ref<const Vector6>& motion)
    {
        for (int k = 0; k < 3; ++k) {
            shift->SetComponent(vertex, k, motion[k]);
            turn->SetComponent(vertex, k, motion[3 + k]);
        }
    }

    void setColour(vtkIdType vertex, const QColor& value)
    {
        const unsigned char rgb[3] = {static_cast<unsigned char>(value.red()),
                                      static_cast<unsigned char>(value.green()),
                                      static_cast<unsigned char>(value.blue())};
        std::copy(rgb, rgb + 3, colour->GetPointer(3 * vertex));
    }

    void changed()
    {
        for (auto* array : {shift.Get(), turn.Get(), arm.Get()})
            array->Modified();
        colour->Modified();
        data->Modified();
    }
};

void setBackground(vtkRenderer* renderer)
{
    const Theme& theme = Theme::now();
    renderer->GradientBackgroundOn();
    renderer->SetBackground2(theme.sceneTop.redF(), theme.sceneTop.greenF(), theme.sceneTop.blueF());
    renderer->SetBackground(theme.sceneBottom.redF(), theme.sceneBottom.greenF(), theme.sceneBottom.blueF());
}

} // namespace

struct SceneCanvas::Pipeline {
    vtkNew<vtkGenericOpenGLRenderWindow> window;
    vtkNew<vtkRenderer> renderer;
    MovingShape sections, centreLines; ///< the members, as one or the other
    MovingShape outline, symbols, symbolLines;
    MemberSurface surface;
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
    pipeline_->outline.prepare(pipeline_->renderer, false);
    pipeline_->symbols.prepare(pipeline_->renderer, true);
    pipeline_->symbolLines.prepare(pipeline_->renderer, false);
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
                       look.outline != look_.outline || look.amplitude != look_.amplitude;
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
    const bool drawable = std::all_of(structure_->members.begin(), structure_->members.end(),
                                      [](const MemberProperties& member) { return member.material != nullptr; });
    Structure plain; // a shape without materials can be drawn all the same
    const Structure* shape = structure_.get();
    if (!drawable) {
        plain = *structure_;
        for (auto& member : plain.members)
            if (!member.material) member.material = std::make_shared<const Material>(materialLibrary().front());
        shape = &plain;
    }
    const FrameMesh mesh = drawn_ ? drawn_->mesh : coarseMesh(*shape);
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
    p.members().setPlaces(p.surface.place, p.surface.arm, p.surface.lines ? none : p.surface.cells,
                          p.surface.lines ? p.surface.cells : none);
    p.members().actor->GetProperty()->SetLineWidth(static_cast<float>((thin_ ? 1.4 : 2.2) * devicePixelRatioF()));

    const double span = std::max(structure_->frame.span(), 1e-6);
    p.scale = 0.0;
    p.motions.setZero(6, static_cast<Eigen::Index>(p.surface.stations.size()));
    if (drawn_) {
        p.motions = stationMotions(p.surface, *drawn_, static_cast<std::size_t>(session_.shownMode() - 1));
        const double most = p.motions.cols() > 0 ? p.motions.topRows<3>().colwise().norm().maxCoeff() : 0.0;
        const double turnMost = p.motions.cols() > 0 ? p.motions.bottomRows<3>().colwise().norm().maxCoeff() : 0.0;
        if (most > 0.0) p.scale = greatest * look_.amplitude * span / most;
        if (turnMost > 0.0)
            p.scale =
                most > 0.0 ? std::min(p.scale, 0.9 * look_.amplitude / turnMost) : 0.4 * look_.amplitude / turnMost;
        for (std::size_t vertex = 0; vertex < p.surface.station.size(); ++vertex)
            p.members().setMotion(static_cast<vtkIdType>(vertex), p.scale * p.motions.col(p.surface.station[vertex]));
    }

    const MemberSurface rest = memberSurface(*shape, mesh, false, 1);
    p.outline.setPlaces(rest.place, rest.arm, {}, rest.cells);
    const QColor faint = Theme::now().dark ? QColor("#5A6167") : QColor("#B9BDBF");
    for (vtkIdType vertex = 0; vertex < p.outline.colour->GetNumberOfTuples(); ++vertex)
        p.outline.setColour(vertex, faint);
    p.outline.actor->GetProperty()->SetLineWidth(static_cast<float>(devicePixelRatioF()));
    p.outline.actor->SetVisibility(look_.outline && drawn_ != nullptr);
    p.outline.changed();

    const auto symbols = symbolsOf(*structure_, symbolSize());
    for (const bool solid : {true, false}) {
        MovingShape& drawnShape = solid ? p.symbols : p.symbolLines;
        std::vector<float> places, arms;
        std::vector<std::int64_t> cells;
        std::vector<std::pair<int, QColor>> owners;
        for (const auto& symbol : symbols) {
            const auto& own = solid ? symbol.triangles : symbol.lines;
            if (own.empty()) continue;
            const auto first = static_cast<std::int64_t>(places.size() / 3);
            const Eigen::Vector3d base =
                structure_->frame.points[static_cast<std::size_t>(symbol.point)].place - p.surface.origin;
            for (std::size_t at = 0; at < symbol.place.size(); ++at) {
                places.push_back(symbol.place[at] + static_cast<float>(base[static_cast<Eigen::Index>(at % 3)]));
                arms.push_back(symbol.place[at]);
            }
            owners.insert(owners.end(), symbol.place.size() / 3, {symbol.point, symbol.colour});
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
    if (!framed_ && !structure_->frame.points.empty()) frameAll();
}

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
    const double most =
        p.motions.cols() > 0 ? std::max(1e-300, p.motions.topRows<3>().colwise().norm().maxCoeff()) : 1.0;
    std::vector<double> energy(lit.size(), 0.0);
    double mostEnergy = 1e-300;
    if (drawn_ && look_.colouring == Colouring::energy) {
        const auto& energies = drawn_->energies;
        for (std::size_t row = 0; row < energies.rows.size(); ++row)
            if (energies.rows[row].kind == PartKind::member)
                energy[static_cast<std::size_t>(energies.rows[row].owner)] +=
                    energies.strain(static_cast<Eigen::Index>(row), session_.shownMode() - 1);
        mostEnergy = std::max(mostEnergy, *std::max_element(energy.begin(), energy.end()));
    }
    for (std::size_t vertex = 0; vertex < p.surface.station.size(); ++vertex) {
        const int member = p.surface.memberOfVertex[vertex];
        QColor colour = plain;
        if (drawn_ && look_.colouring != Colouring::plain) {
            const Vector6 motion = p.motions.col(p.surface.station[vertex]);
            if (look_.colouring == Colouring::size)
                colour = sizeColour(motion.head<3>().norm() / most, theme.dark);
            else if (look_.colouring == Colouring::energy)
                colour = sizeColour(energy[static_cast<std::size_t>(member)] / mostEnergy, theme.dark);
            else
                colour = signedColour(motion[static_cast<int>(look_.colouring) - static_cast<int>(Colouring::x)] / most,
                                      theme.dark);
        }
        if (stale) { // faint: not of this model
            const QColor ground = theme.sceneTop;
            colour = QColor((colour.red() + 2 * ground.red()) / 3, (colour.green() + 2 * ground.green()) / 3,
                            (colour.blue() + 2 * ground.blue()) / 3);
        }
        if (lit[static_cast<std::size_t>(member)])
            colour = drawn_ && look_.colouring != Colouring::plain ? QColor("#E08A00") : theme.accent;
        p.members().setColour(static_cast<vtkIdType>(vertex), colour);
    }
    p.members().changed();
}

void SceneCanvas::paintGL()
{
    auto& p = *pipeline_;
    dirty_ = dirty_ || (look_.sections && thin_ != tooThin());
    if (dirty_) rebuild();
    if (colourDirty_) recolour();
    const double swing = drawn_ ? std::sin(2.0 * std::numbers::pi * phase_) : 0.0;
    for (auto* shape : {&p.members(), &p.symbols, &p.symbolLines})
        shape->setPhase(swing);
    p.renderer->SetUseFXAA(p.smooths && !playing()); // a still picture is worth the time, a moving one is not
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
