#include "app/scene/scene_view.hpp"

#include "app/scene/colour_map.hpp"
#include "app/scene/cut_bar.hpp"
#include "app/scene/draw_bar.hpp"
#include "app/scene/kinds_key.hpp"
#include "app/scene/drawn_members.hpp"
#include "app/scene/scene_overlay.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"
#include "core/remedy/frequency_slopes.hpp"
#include "core/units/amplitude_text.hpp"
#include "core/units/size_text.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPushButton>
#include <QSlider>

namespace undisona {

/// The bar of colours with its ends in words; the scale is relative, since a mode has no size of its own.
class ColourLegend : public QWidget {
public:
    explicit ColourLegend(QWidget* parent) : QWidget(parent)
    {
        setMinimumSize(150, 20);
        setToolTip(tr("The scale is relative: the amplitude of a mode is arbitrary."));
        setObjectName("legend");
    }
    /// `most`: what the far end stands for, where that is a figure.
    void set(Colouring colouring, const QString& most)
    {
        colouring_ = colouring;
        most_ = most;
        setMinimumWidth(most.isEmpty() ? 150 : 150 + QFontMetrics(textFont(-1.0)).horizontalAdvance(most));
        setVisible(colouring != Colouring::plain && !toldBy(colouring));
        update();
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter painter(this);
        const Theme& theme = Theme::now();
        const bool isSigned = colouring_ == Colouring::x || colouring_ == Colouring::y || colouring_ == Colouring::z;
        const QString low = isSigned ? "−" : "0", high = isSigned ? "+" : most_.isEmpty() ? tr("most") : most_;
        painter.setFont(textFont(-1.0));
        const double lowWide = painter.fontMetrics().horizontalAdvance(low) + 5.0,
                     highWide = painter.fontMetrics().horizontalAdvance(high) + 6.0;
        const QRectF bar(lowWide, height() / 2.0 - 4.0, width() - lowWide - highWide, 8.0);
        for (int x = 0; x < static_cast<int>(bar.width()); ++x) {
            const double share = x / bar.width();
            painter.fillRect(QRectF(bar.left() + x, bar.top(), 1.5, bar.height()),
                             isSigned ? signedColour(2 * share - 1, theme.dark) : sizeColour(share, theme.dark));
        }
        painter.setPen(theme.quiet);
        painter.drawText(QRectF(0, 0, lowWide - 3, height()), Qt::AlignRight | Qt::AlignVCenter, low);
        painter.drawText(QRectF(bar.right() + 5, 0, highWide, height()), Qt::AlignLeft | Qt::AlignVCenter, high);
    }

private:
    Colouring colouring_ = Colouring::size;
    QString most_;
};

SceneView::SceneView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("scene");
    setAccessibleName(tr("Scene"));
    setFocusPolicy(Qt::StrongFocus);
    canvas_ = new SceneCanvas(session_, this);
    overlay_ = new SceneOverlay(session_, *canvas_, this);

    drawBar_ = new DrawBar(this);
    cutBar_ = new CutBar(this);
    connect(cutBar_, &CutBar::cutChanged, this, &SceneView::cutOpen);
    connect(cutBar_, &CutBar::doneWanted, this, [this] {
        closeCut();
        setFocus();
    });
    controls_ = new QWidget(this);
    controls_->setAutoFillBackground(true);
    play_ = new QPushButton(controls_);
    play_->setObjectName("play");
    play_->setProperty("flat", true);
    play_->setAccessibleName(tr("play or halt the motion"));
    play_->setFixedWidth(34);
    phase_ = new QSlider(Qt::Horizontal, controls_);
    phase_->setRange(0, 100);
    phase_->setObjectName("phase");
    phase_->setAccessibleName(tr("phase"));
    phase_->setToolTip(tr("phase"));
    amplitude_ = new QSlider(Qt::Horizontal, controls_);
    amplitude_->setRange(5, 300);
    amplitude_->setValue(100);
    amplitude_->setObjectName("amplitude");
    amplitude_->setAccessibleName(tr("amplitude"));
    amplitude_->setToolTip(tr("amplitude"));
    for (auto* slider : {phase_, amplitude_}) {
        slider->setMinimumWidth(44);
        slider->setMaximumWidth(120);
    }
    colouring_ = new QComboBox(controls_);
    colouring_->setObjectName("colouring");
    colouring_->setAccessibleName(tr("colour"));
    colouring_->addItems({tr("size of motion"), tr("motion in x"), tr("motion in y"), tr("motion in z"),
                          tr("strain energy"), tr("how strained"), tr("stress"), tr("mesh error"),
                          tr("what a kilogram does"), tr("what a spring does"), tr("size of elements"), tr("material"),
                          tr("section"), tr("thickness"), tr("part"), tr("sub-assembly"), tr("no colour")});
    colouring_->setItemData(5, tr("the root of the strain energy per area of sheet, or per length of member"),
                            Qt::ToolTipRole);
    colouring_->setItemData(6, tr("the equivalent stress; its figures stand under Energy, Stress"), Qt::ToolTipRole);
    colouring_->setItemData(7, tr("where the estimated error of the frequency sits: its root per area or volume"),
                            Qt::ToolTipRole);
    colouring_->setItemData(8, tr("how far a kilogram in each place would lower the mode"), Qt::ToolTipRole);
    colouring_->setItemData(9, tr("how far a spring to ground in each place, along its motion, would raise the mode"),
                            Qt::ToolTipRole);
    colouring_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    legend_ = new ColourLegend(controls_);
    kinds_ = new KindsKey(this);
    connect(kinds_, &KindsKey::chosen, this, [this](int kind) {
        const ToldApart* apart = canvas_->kindsShown();
        Spotlight spot;
        const auto take = [kind](const std::vector<int>& of, std::vector<int>& into) {
            for (std::size_t at = 0; at < of.size(); ++at)
                if (of[at] == kind) into.push_back(static_cast<int>(at));
        };
        if (apart) take(apart->ofMembers, spot.members), take(apart->ofParts, spot.parts);
        session_.light(session_.spotlight() == spot ? Spotlight() : spot); // a second click lets go
    });
    auto* row = new QHBoxLayout(controls_);
    row->setContentsMargins(10, 3, 10, 3);
    row->setSpacing(6);
    const auto words = [&](const QString& text) {
        auto* label = new QLabel(text, controls_);
        label->setMinimumWidth(1);
        label->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
        barWords_.push_back(label);
        return label;
    };
    row->addWidget(play_);
    row->addWidget(words(tr("phase")));
    row->addWidget(phase_, 1);
    row->addWidget(words(tr("amplitude")));
    row->addWidget(amplitude_, 1);
    row->addStretch();
    row->addWidget(words(tr("colour")));
    row->addWidget(colouring_);
    row->addWidget(legend_);

    connect(play_, &QPushButton::clicked, this, &SceneView::togglePlay);
    connect(phase_, &QSlider::valueChanged, this, [this](int value) {
        canvas_->play(false);
        canvas_->setPhase(value / 100.0);
    });
    connect(amplitude_, &QSlider::valueChanged, this, [this](int value) {
        SceneLook look = canvas_->look();
        look.amplitude = value / 100.0;
        canvas_->setLook(look);
    });
    connect(colouring_, &QComboBox::activated, this, [this](int index) {
        SceneLook look = canvas_->look();
        look.colouring = static_cast<Colouring>(index);
        setLook(look);
    });
    connect(canvas_, &SceneCanvas::phaseChanged, this, [this] {
        const QSignalBlocker block(phase_);
        phase_->setValue(static_cast<int>(100.0 * canvas_->phase()));
        play_->setText(canvas_->playing() ? "❚❚" : "▶");
    });
    connect(canvas_, &SceneCanvas::memberDrawn, this, &SceneView::drawMember);
    connect(canvas_, &SceneCanvas::placeDrawn, this, &SceneView::drawPlace);
    connect(canvas_, &SceneCanvas::placingChanged, this, [this] {
        if (canvas_->placing())
            drawBar_->show(canvas_->workPlane(), canvas_->drawing() || canvas_->outlineDrawn(), session_.units());
        else
            drawBar_->hide();
        overlay_->renew();
    });
    connect(drawBar_, &DrawBar::planeChanged, canvas_, &SceneCanvas::setWorkPlane);
    connect(drawBar_, &DrawBar::lengthTyped, this, &SceneView::drawLength);
    connect(drawBar_, &DrawBar::leftLength, this, qOverload<>(&QWidget::setFocus));
    connect(drawBar_, &DrawBar::doneWanted, this, [this] {
        if (canvas_->outlineDrawn() && canvas_->outlineCorners().size() > 2) return finishOutline();
        canvas_->setDrawing(false);
        setFocus();
    });
    for (const auto signal : {&Session::selectionChanged, &Session::stavesChanged, &Session::stressesMoved,
                              &Session::derivedChanged, &Session::restMoved})
        connect(&session_, signal, this, &SceneView::tellLegend);
    play_->setText("▶");
    phase_->setValue(25);
}

void SceneView::setLook(const SceneLook& look)
{
    canvas_->setLook(look);
    colouring_->setCurrentIndex(static_cast<int>(look.colouring));
    if (look.colouring == Colouring::stress && !session_.restShown() && !session_.stressesOf(session_.shown().solution))
        session_.findStresses();
    tellLegend();
}

/// A map of what something would do has figures at its ends; a mode's own size has none.
void SceneView::tellLegend()
{
    const Colouring colouring = canvas_->look().colouring;
    QString most;
    const auto& solution = session_.shown().solution;
    const bool ofMass = colouring == Colouring::massSlope;
    if (solution && session_.shownMode() > 0 && (ofMass || colouring == Colouring::springSlope)) {
        const auto mode = static_cast<std::size_t>(session_.shownMode() - 1);
        const DisplayUnits units = session_.units();
        const QuantityKind kind = ofMass ? QuantityKind::mass : QuantityKind::stiffness;
        const double slope =
            ofMass ? slopesOfMass(*solution, mode).minCoeff() : slopesOfSpring(*solution, mode).maxCoeff();
        most =
            tr("%1%2 Hz per %3")
                .arg(ofMass ? "−" : "+", QString::fromStdString(rounded(std::abs(slope) / units.value(1.0, kind), 3)),
                     QString::fromStdString(units.unit(kind)));
    }
    if (const auto* rest = session_.restShown()) {
        const bool strains = !rest->state.parts.empty() && rest->factor == 0.0;
        if (colouring == Colouring::stress && strains)
            most = QString::fromStdString(
                session_.units().text(rest->state.parts[0].most.equivalent, QuantityKind::stress, 3));
        if (colouring == Colouring::size && rest->factor == 0.0)
            most = QString::fromStdString(amplitudeText(rest->state.moves, QuantityKind::length, session_.units()));
    } else if (colouring == Colouring::stress)
        if (const auto now = session_.scaledMode(); now && *now)
            most = QString::fromStdString(session_.units().text((*now)->stress, QuantityKind::stress, 3));
    if (colouring == Colouring::elementSize && canvas_->drawn())
        most = QString::fromStdString(sizeText(canvas_->mostShown(), session_.units()));
    legend_->set(colouring, most);
    kinds_->set(canvas_->kindsShown());
    layKinds();
}

void SceneView::layKinds()
{
    const QRect seen = canvas_->geometry();
    kinds_->lieAbove(seen.bottom() - (drawBar_->isVisible() || cutBar_->isVisible() ? drawBar_->height() : 0),
                     std::min(240, seen.height() - 110));
    kinds_->raise();
}

void SceneView::paint(Colouring colouring)
{
    SceneLook look = canvas_->look();
    look.colouring = colouring;
    setLook(look);
}

void SceneView::cutOpen(const ViewCut& cut)
{
    SceneLook look = canvas_->look();
    look.cut = cut;
    canvas_->setLook(look);
    cutBar_->show(cut);
    const auto [low, high] = session_.structure().frame.box();
    const double at = low[cut.axis] + cut.share * (high[cut.axis] - low[cut.axis]);
    cutBar_->setPlaceWords(QString("%1 = %2")
                               .arg("xyz"[cut.axis])
                               .arg(QString::fromStdString(session_.units().text(at, QuantityKind::length, 3))));
}

void SceneView::closeCut()
{
    SceneLook look = canvas_->look();
    look.cut.reset();
    canvas_->setLook(look);
    cutBar_->hide();
}

void SceneView::showAllParts()
{
    SceneLook look = canvas_->look();
    look.hidden.clear();
    look.faded.clear();
    setLook(look);
}

void SceneView::togglePlay()
{
    canvas_->play(!canvas_->playing());
}

void SceneView::resizeEvent(QResizeEvent*)
{
    const int bar = controls_->sizeHint().height();
    canvas_->setGeometry(2, 2, width() - 4, height() - bar - 4);
    overlay_->setGeometry(canvas_->geometry());
    overlay_->raise();
    controls_->setGeometry(2, height() - bar - 2, width() - 4, bar);
    const int drawing = drawBar_->sizeHint().height();
    drawBar_->setGeometry(2, height() - bar - drawing - 2, width() - 4, drawing);
    drawBar_->raise();
    const int cutting = cutBar_->sizeHint().height();
    cutBar_->setGeometry(2, height() - bar - cutting - 2, width() - 4, cutting);
    cutBar_->raise();
    for (auto* label : barWords_)
        label->setVisible(width() > 700); // the sliders say what they are when the pointer rests on them
    legend_->setVisible(width() > 560 && canvas_->look().colouring != Colouring::plain &&
                        !toldBy(canvas_->look().colouring));
    layKinds();
}

void SceneView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), Theme::now().panel);
    if (!hasFocus()) return;
    painter.setPen(QPen(Theme::now().accent, 2.0));
    painter.drawRect(rect().adjusted(1, 1, -1, -1));
}

void SceneView::focusInEvent(QFocusEvent*)
{
    update();
}
void SceneView::focusOutEvent(QFocusEvent*)
{
    update();
}

void SceneView::keyPressEvent(QKeyEvent* event)
{
    const double step = 0.12;
    Camera& camera = canvas_->camera();
    switch (event->key()) {
    case Qt::Key_Left:
        camera.orbit(-step, 0);
        break;
    case Qt::Key_Right:
        camera.orbit(step, 0);
        break;
    case Qt::Key_Up:
        camera.orbit(0, step);
        break;
    case Qt::Key_Down:
        camera.orbit(0, -step);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        camera.zoom(0.87, {width() / 2.0, height() / 2.0}, canvas_->size());
        break;
    case Qt::Key_Minus:
        camera.zoom(1.15, {width() / 2.0, height() / 2.0}, canvas_->size());
        break;
    case Qt::Key_Escape:
        if (canvas_->dragged()) {
            canvas_->letGo();
            break;
        }
        endDrawing();
        break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (!canvas_->outlineDrawn()) return QWidget::keyPressEvent(event);
        finishOutline();
        break;
    default:
        if (const QString text = event->text();
            (canvas_->drawing() || canvas_->outlineDrawn()) && !text.isEmpty() && (text[0].isDigit() || text[0] == '.'))
            return drawBar_->beginLength(text);
        return QWidget::keyPressEvent(event);
    }
    canvas_->draw();
}

void SceneView::drawMember(int from, int to)
{
    const Frame& frame = session_.structure().frame;
    if (static_cast<std::size_t>(std::max(from, to)) >= frame.points.size()) return;
    const std::string end = frame.points[static_cast<std::size_t>(to)].name;
    session_.changeModel(tr("draw a member"), withDrawnMember(session_.model(), frame,
                                                              frame.points[static_cast<std::size_t>(from)].name, end));
    canvas_->drawFrom(session_.structure().frame.pointNamed(end));
}

void SceneView::drawCorner(const Eigen::Vector3d& place)
{
    const auto& corners = canvas_->outlineCorners();
    Eigen::Vector3d flat = place;
    flat[canvas_->workPlane().normal] = canvas_->workPlane().level;
    if (!corners.empty() && (corners.front() - flat).norm() < 1e-6) return finishOutline();
    if (!corners.empty() && (corners.back() - flat).norm() < 1e-6) return; // clicked twice
    canvas_->addCorner(flat);
}

void SceneView::finishOutline()
{
    setFocus();
    if (canvas_->outlineCorners().size() < 3)
        return session_.say(tr("An outline has three corners at least. Esc takes the last one back, then ends."));
    const Sentence sentence =
        drawnOutline(*canvas_->outlineDrawn(), canvas_->workPlane(), canvas_->outlineCorners(), session_.model());
    const bool solid = *canvas_->outlineDrawn() == OutlineKind::solid;
    canvas_->setDrawing(false);
    session_.changeModel(solid ? tr("draw a profile") : tr("draw a plate"), session_.model().inserted(sentence));
    session_.selectSentence(sentence.id);
    session_.say(solid ? tr("How far it is drawn out is a word of its sentence.")
                       : tr("How thick it is, is a word of its sentence."));
}

void SceneView::drawPlace(int from, const Eigen::Vector3d& place)
{
    if (canvas_->outlineDrawn()) return drawCorner(place);
    const Frame& frame = session_.structure().frame;
    const auto point = withDrawnPoint(session_.model(), frame, place);
    const bool member = from >= 0 && static_cast<std::size_t>(from) < frame.points.size();
    session_.changeModel(
        member ? tr("draw a member") : tr("draw a point"),
        member ? withDrawnMember(point.model, frame, frame.points[static_cast<std::size_t>(from)].name, point.name)
               : point.model);
    canvas_->drawFrom(session_.structure().frame.pointNamed(point.name));
}

Eigen::Vector3d SceneView::strokeDirection(const Eigen::Vector3d& base) const
{
    const Eigen::Vector3d start = canvas_->pixelOf(base);
    const Eigen::Vector2d stroke(canvas_->cursor().x() - start.x(), canvas_->cursor().y() - start.y());
    double best = -1e9;
    Eigen::Vector3d along = Eigen::Vector3d::UnitZ();
    for (int axis = 0; axis < 3; ++axis)
        for (const double sign : {1.0, -1.0}) {
            if (canvas_->outlineDrawn() && axis == canvas_->workPlane().normal) continue;
            const Eigen::Vector3d direction = sign * Eigen::Vector3d::Unit(axis);
            const Eigen::Vector2d onScreen =
                (canvas_->pixelOf(Eigen::Vector3d(base + 1e-2 * canvas_->camera().size() * direction)) - start)
                    .head<2>();
            const double fit = stroke.normalized().dot(onScreen.normalized());
            if (onScreen.norm() > 0.2 && fit > best) {
                best = fit;
                along = direction;
            }
        }
    return along;
}

void SceneView::drawLength(const QString& text)
{
    setFocus();
    const int from = canvas_->drawnFrom();
    const Frame& frame = session_.structure().frame;
    const auto& corners = canvas_->outlineCorners();
    if (canvas_->outlineDrawn() ? corners.empty() : from < 0 || static_cast<std::size_t>(from) >= frame.points.size())
        return session_.say(canvas_->outlineDrawn()
                                ? tr("Click the first corner, then type the length of a side.")
                                : tr("Click the point where the member begins, then type its length."));
    const Eigen::Vector3d start =
        canvas_->outlineDrawn() ? corners.back() : frame.points[static_cast<std::size_t>(from)].place;
    Eigen::Vector3d step;
    if (text.contains(',')) {
        const auto read = readVector(text.toStdString(), QuantityKind::length, NumberStyle::typed);
        if (const auto* problem = std::get_if<QuantityProblem>(&read))
            return session_.say(QString::fromStdString(problem->what));
        const auto& si = std::get<Vector>(read).si;
        step = {si[0], si[1], si[2]};
    } else {
        const auto read = readQuantity(text.toStdString(), QuantityKind::length, NumberStyle::typed);
        if (const auto* problem = std::get_if<QuantityProblem>(&read))
            return session_.say(QString::fromStdString(problem->what));
        step = std::get<Quantity>(read).si * strokeDirection(start);
    }
    if (step.norm() < 1e-5) return session_.say(tr("a length above zero is needed"));
    drawPlace(from, start + step);
}

void SceneView::endDrawing()
{
    setFocus();
    if (canvas_->drawnFrom() >= 0) return canvas_->drawFrom(-1);
    if (canvas_->dropCorner()) return;
    canvas_->setDrawing(false);
}

} // namespace undisona
