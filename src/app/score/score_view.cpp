#include "app/score/score_view.hpp"

#include "app/score/score_room.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QToolTip>

#include <numeric>
#include <set>

namespace undisona {

namespace {

QString hertzText(double hertz)
{
    return QString::fromStdString(rounded(hertz, 4)) + " Hz";
}

} // namespace

ScoreView::ScoreView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Score"));
    setObjectName("score");
    for (const auto signal : {&Session::stavesChanged, &Session::runChanged, &Session::selectionChanged})
        connect(&session_, signal, this, &ScoreView::refresh);
    connect(&session_, &Session::triedChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::tolerancesMoved, this, &ScoreView::refresh);
}

void ScoreView::refresh()
{
    if (fitted_ && drag_.what != Drag::What::band) // the axis stays still under a dragged band
        all_ ? showAll() : showWhatMatters();
    if (const Mode* shown = session_.mode(); fitted_ && shown && shown->frequency > axis_.high()) showAll();
    layOut();
    update();
}

void ScoreView::setUnit(AxisUnit unit)
{
    axis_.setUnit(unit);
    update();
}

void ScoreView::setLogarithmic(bool logarithmic)
{
    axis_.setLogarithmic(logarithmic);
    fitted_ = true;
    refresh();
}

void ScoreView::setHeightsBy(const QString& excitation)
{
    heightsBy_ = excitation;
    refresh();
}

void ScoreView::showAll()
{
    double most = 0.0, least = 1e300;
    for (const auto& stave : session_.staves())
        if (stave.solution)
            for (const auto& mode : stave.solution->modes) {
                most = std::max(most, mode.frequency);
                if (mode.frequency > 0.0) least = std::min(least, mode.frequency);
            }
    const double modes = most;
    for (const auto& excitation : session_.live().excitations)
        for (const double order : excitation.orders) {
            // Bands far above every mode found do not squeeze the notes together.
            const double edge = order * excitation.high * (1.0 + excitation.margin);
            if (modes == 0.0 || edge < 4.0 * modes) most = std::max(most, edge);
            if (order * excitation.low > 0.0) least = std::min(least, order * excitation.low);
        }
    for (const double hertz : session_.arriving())
        most = std::max(most, hertz);
    if (most <= 0.0) most = 50.0;
    fitted_ = all_ = true;
    axis_.setRange(axis_.logarithmic() ? std::min(least, most) / 1.5 : 0.0, most * 1.06);
}

void ScoreView::showWhatMatters()
{
    showAll();
    all_ = false;
    if (axis_.logarithmic() || !session_.arriving().empty()) return;
    double most = 0.0;
    for (const auto& excitation : session_.live().excitations)
        for (const double order : excitation.orders)
            most = std::max(most, order * excitation.high * (1.0 + excitation.margin));
    if (most <= 0.0) return;
    constexpr double above = 1.6, worthIt = 1.8; // room over the highest band; what is left out at least
    constexpr std::size_t always = 3;            // lowest modes that are seen in any case
    most *= above;
    for (const auto& stave : session_.staves()) {
        if (!stave.solution) continue;
        std::size_t seen = 0;
        for (const auto& mode : stave.solution->modes)
            if (!mode.rigid && !mode.mechanism && seen++ < always) most = std::max(most, mode.frequency * 1.06);
    }
    if (axis_.high() > worthIt * most) axis_.setRange(0.0, most);
}

int ScoreView::modesBeyond() const
{
    const auto& solution = session_.shown().solution;
    if (!solution) return 0;
    return static_cast<int>(std::count_if(solution->modes.begin(), solution->modes.end(), [this](const Mode& mode) {
        return mode.frequency > axis_.high() && !session_.isFolded(session_.shownStave(), mode);
    }));
}

void ScoreView::resizeEvent(QResizeEvent*)
{
    layOut();
}

void ScoreView::layOut()
{
    axis_.setRoom(gutter, width() - rightEdge);
    notes_.clear();
    bands_.clear();
    labels_.clear();
    staveRooms_.clear();
    const double room = height() - topEdge - axisRoom;
    const auto& staves = session_.staves();
    const auto fitting = std::clamp<std::size_t>(static_cast<std::size_t>(room / leastStave), 1, staves.size());
    if (session_.shownStave() < firstStave_) firstStave_ = session_.shownStave();
    if (session_.shownStave() >= firstStave_ + fitting) firstStave_ = session_.shownStave() - fitting + 1;
    firstStave_ = std::min(firstStave_, staves.size() - fitting);
    const double each = std::min(mostStave, room / double(fitting));
    double top = topEdge + (room - each * double(fitting)); // the live stave stands on the axis
    staveRooms_.assign(staves.size(), {});
    for (std::size_t shown = fitting; shown-- > 0;) {
        const std::size_t stave = firstStave_ + shown;
        staveRooms_[stave] = {0.0, top, double(width()), each};
        top += each;
    }
    for (const auto& excitation : session_.live().excitations)
        for (const double order : excitation.orders) {
            Band band{excitation.sentence,
                      QString::fromStdString(excitation.name),
                      order,
                      order * excitation.low,
                      order * excitation.high,
                      excitation.margin,
                      0,
                      0,
                      0,
                      0,
                      excitation.turns};
            if (excitation.orders.size() > 1 || order != 1.0) band.name += QString(" ×%1").arg(order);
            band.left = axis_.at(band.low);
            band.right = axis_.at(band.high);
            band.outerLeft = axis_.at(band.low * (1.0 - band.margin));
            band.outerRight = axis_.at(band.high * (1.0 + band.margin));
            bands_.push_back(band);
        }
    for (std::size_t stave = 0; stave < staves.size(); ++stave)
        if (!staveRooms_[stave].isEmpty()) layOutNotes(stave, staveRooms_[stave].top(), each);
}

void ScoreView::layOutNotes(std::size_t index, double top, double height)
{
    const Stave& stave = session_.staves()[index];
    if (!stave.solution) return;
    const auto& solution = *stave.solution;
    const double base = top + height - 14.0, tall = height - 46.0;
    const Excitation* driver = nullptr;
    for (const auto& excitation : stave.excitations)
        if (QString::fromStdString(excitation.name) == heightsBy_) driver = &excitation;
    const std::size_t inView =
        static_cast<std::size_t>(std::count_if(solution.modes.begin(), solution.modes.end(), [&](const Mode& mode) {
            return mode.frequency >= axis_.low() && mode.frequency <= axis_.high();
        }));
    const double spacing = (axis_.right() - axis_.left()) / double(std::max<std::size_t>(1, inView));
    const double radius = spacing > 14.0 ? 5.5 : spacing > 8.0 ? 4.5 : 3.4;
    std::map<int, std::array<double, 4>> ranges;
    if (index == session_.shownStave() && !stave.stale)
        if (const auto known = session_.tolerances(); known && *known)
            for (const auto& mode : (**known).modes)
                ranges[mode.mode] = {mode.low, mode.usualLow, mode.usualHigh, mode.high};
    int rigid = 0;
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        const Mode& mode = solution.modes[at];
        if (session_.isFolded(index, mode)) continue;
        Note note{index, mode.number, {}, base, noteLook(solution.participation, at), radius, stave.stale, nullptr};
        note.look.diamond = mode.ritz;
        if (driver) note.look.height = std::sqrt(std::clamp(strengthOf(solution, *driver, at), 0.0, 1.0));
        double x = axis_.at(mode.frequency);
        if (mode.rigid || mode.mechanism) { // in the bracket at the left end, side by side
            if (axis_.low() > 0.0 && !axis_.logarithmic()) continue;
            x = axis_.left() + 6.0 + 9.0 * (rigid % 6);
            note.base = base - 9.0 * (rigid / 6);
            note.radius = 3.4;
            note.look.height = 0.0;
            ++rigid;
        } else if (x < axis_.left() - 1.0 || x > axis_.right() + 1.0) {
            continue;
        }
        note.centre = {x, note.base - note.look.height * tall};
        if (const auto range = ranges.find(mode.number); range != ranges.end()) note.range = range->second;
        for (const auto& pair : stave.clashes.pairs)
            if (pair.mode == mode.number && pair.verdict != Verdict::clear && !pair.weak &&
                (!note.worst || pair.verdict < note.worst->verdict))
                note.worst = &pair;
        notes_.push_back(note);
    }
    // Numbers over the notes: the heaviest first, and only where nothing is covered.
    std::vector<const Note*> own;
    for (const auto& note : notes_)
        if (note.stave == index && solution.modes[static_cast<std::size_t>(note.mode - 1)].frequency > 0.0)
            own.push_back(&note);
    std::stable_sort(own.begin(), own.end(), [&](const Note* a, const Note* b) {
        const bool sa = index == session_.shownStave() && a->mode == session_.shownMode(),
                   sb = index == session_.shownStave() && b->mode == session_.shownMode();
        return sa != sb ? sa : a->look.height > b->look.height;
    });
    const QFontMetricsF metrics(textFont(-1.5));
    std::set<const Note*> told;
    for (const auto* note : own) {
        if (told.contains(note)) continue;
        std::vector<int> numbers; // of all that stand in one place
        for (const auto* other : own)
            if (std::hypot(other->centre.x() - note->centre.x(), other->centre.y() - note->centre.y()) < 0.6 * radius) {
                told.insert(other);
                numbers.push_back(other->mode);
            }
        std::sort(numbers.begin(), numbers.end());
        const QString text =
            numbers.size() > 3
                ? QString("%1–%2").arg(numbers.front()).arg(numbers.back())
                : std::accumulate(numbers.begin(), numbers.end(), QString(), [](const QString& before, int number) {
                      return before + (before.isEmpty() ? "" : " ") + QString::number(number);
                  });
        QRectF box(0, 0, metrics.horizontalAdvance(text) + 2.0, metrics.height() - 3.0);
        const bool marked = index == session_.shownStave() && note->mode == session_.shownMode();
        box.moveCenter({note->centre.x(), note->centre.y() - note->radius -
                                              (marked                  ? 12.0
                                               : note->look.first >= 0 ? 10.0
                                                                       : 8.0)});
        if (box.top() < top - 4.0) continue;
        const bool covered =
            std::any_of(labels_.begin(), labels_.end(),
                        [&](const auto& label) { return label.first.intersects(box); }) ||
            std::any_of(own.begin(), own.end(), [&](const Note* other) {
                const bool itself = std::count(numbers.begin(), numbers.end(), other->mode) > 0;
                return !itself && QRectF(other->centre.x() - radius,
                                         other->centre.y() - radius - (other->worst ? 4 : 0), 2 * radius, 2 * radius)
                                      .intersects(box);
            });
        if (!covered) labels_.emplace_back(box, text);
    }
}

const ScoreView::Note* ScoreView::noteAt(const QPointF& place) const
{
    const Note* nearest = nullptr;
    double best = 11.0;
    for (const auto& note : notes_) {
        const double distance = std::hypot(note.centre.x() - place.x(), note.centre.y() - place.y());
        if (distance < best) {
            best = distance;
            nearest = &note;
        }
    }
    return nearest;
}

const ScoreView::Band* ScoreView::bandAt(const QPointF& place) const
{
    if (place.x() < axis_.left() || place.y() > height() - axisRoom) return nullptr;
    for (const auto& band : bands_)
        if (place.x() >= std::min(band.left, band.right) - 5.0 && place.x() <= band.right + 5.0) return &band;
    return nullptr;
}

QString ScoreView::noteWords(const Note& note) const
{
    const Stave& stave = session_.staves()[note.stave];
    const auto& solution = *stave.solution;
    const auto row = static_cast<Eigen::Index>(note.mode - 1);
    const Mode& mode = solution.modes[static_cast<std::size_t>(row)];
    QString words = (mode.ritz ? tr("vector %1 · %2 · %3") : tr("mode %1 · %2 · %3"))
                        .arg(note.mode)
                        .arg(hertzText(mode.frequency), stave.nameOf(mode));
    for (int axis = 0; axis < 3; ++axis)
        if (const double share = solution.participation.ofTotal(row, axis); share >= 0.01)
            words += QString(" · %1 % of %2").arg(100.0 * share, 0, 'f', 0).arg("XYZ"[axis]);
    if (mode.lambda > 0.0 && mode.judged())
        words += tr(" · mesh error %1").arg(QString::fromStdString(meshErrorText(mode)));
    if (note.range[3] > note.range[0])
        words += tr("\nwithin the tolerances %1 to %2, in nine of ten %3 to %4")
                     .arg(hertzText(note.range[0]), hertzText(note.range[3]), hertzText(note.range[1]),
                          hertzText(note.range[2]));
    if (note.worst)
        words += QString("\n%1: %2").arg(wordOf(note.worst->verdict), QString::fromStdString(note.worst->why));
    if (stave.stale) words += tr("\nbefore your last change");
    return words;
}

QString ScoreView::bandWords(const Band& band) const
{
    QString words = band.name + " · " + hertzText(band.low);
    if (band.high > band.low) words += " … " + hertzText(band.high);
    if (band.turns) words += QString(" · %1 rpm").arg(60.0 * band.low / band.order, 0, 'g', 5);
    return words + tr(" · keep %1 % clear · drag to change").arg(100.0 * band.margin, 0, 'f', 0);
}

std::vector<PaintedItem> ScoreView::paintedItems() const
{
    std::vector<PaintedItem> items;
    for (std::size_t at = 0; at < session_.staves().size(); ++at)
        if (!staveRooms_.empty() && !staveRooms_[at].isEmpty())
            items.push_back({"stave " + session_.staves()[at].name,
                             session_.staves()[at].stale ? tr("before your last change") : QString(),
                             staveRooms_[at].toRect(), QAccessible::Grouping});
    for (const auto& note : notes_) {
        const double r = note.radius + 2.0;
        items.push_back({QString("note %1 of %2").arg(note.mode).arg(session_.staves()[note.stave].name),
                         noteWords(note), QRectF(note.centre.x() - r, note.centre.y() - r, 2 * r, 2 * r).toRect(),
                         QAccessible::Graphic});
    }
    for (const auto& band : bands_)
        if (band.right >= axis_.left() && band.left <= axis_.right())
            items.push_back(
                {"band " + band.name, bandWords(band),
                 QRectF(band.left - 2.0, topEdge, std::max(4.0, band.right - band.left), height() - axisRoom - topEdge)
                     .toRect(),
                 QAccessible::Slider});
    return items;
}

void ScoreView::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton) return;
    drag_ = {};
    drag_.from = event->position();
    if (const auto* note = noteAt(event->position())) {
        session_.showMode(note->stave, note->mode);
        return;
    }
    if (event->position().x() < axis_.left()) {
        for (std::size_t at = 0; at < staveRooms_.size(); ++at)
            if (staveRooms_[at].contains(event->position())) session_.showMode(at, std::max(1, session_.shownMode()));
        return;
    }
    if (const auto* band = bandAt(event->position())) {
        drag_.what = Drag::What::band;
        drag_.hertz = axis_.hertzAt(event->position().x());
        drag_.sentence = band->sentence;
        drag_.order = band->order;
        drag_.low = band->low;
        drag_.high = band->high;
        session_.selectSentence(band->sentence);
        ++serial_;
        return;
    }
    drag_.what = Drag::What::pan;
}

void ScoreView::mouseMoveEvent(QMouseEvent* event)
{
    if (drag_.what == Drag::What::pan && (event->buttons() & Qt::LeftButton)) {
        fitted_ = false;
        axis_.pan(event->position().x() - drag_.from.x());
        drag_.from = event->position();
        layOut();
        update();
    } else if (drag_.what == Drag::What::band && (event->buttons() & Qt::LeftButton)) {
        if (drag_.moved || std::abs(event->position().x() - drag_.from.x()) > 3.0) dragBand(event->position().x());
    } else {
        const bool onNote = noteAt(event->position()) != nullptr;
        setCursor(onNote ? Qt::PointingHandCursor : bandAt(event->position()) ? Qt::SizeHorCursor : Qt::ArrowCursor);
        const auto* band = onNote ? nullptr : bandAt(event->position());
        Spotlight spotlight;
        if (band) spotlight.sentences.push_back(band->sentence);
        session_.light(band ? spotlight : session_.spotlightOf(session_.selectedSentence()));
    }
}

void ScoreView::dragBand(double pixel)
{
    drag_.moved = true;
    const auto sentence = session_.model().sentence(drag_.sentence);
    if (!sentence) return;
    const double shift = axis_.hertzAt(pixel) - drag_.hertz;
    const auto moved = [&](const char* key, double hertz) {
        // Kept in the unit it was typed in, to a readable number of digits.
        const auto parts = readNumberAndUnit(textOf(sentence->value(key)), NumberStyle::file);
        const std::string unit =
            std::holds_alternative<NumberAndUnit>(parts) ? std::get<NumberAndUnit>(parts).unit : "Hz";
        const double factor = unit == "rpm" ? 60.0 : 1.0, hertzEach = std::max(1e-3, (hertz + shift) / drag_.order);
        const bool plain = unit == "rpm" || unit == "Hz";
        const double value = std::stod(fmt::format("{:.4g}", hertzEach * factor));
        return quantityIn(plain ? value / factor : hertzEach, QuantityKind::frequency, plain ? unit : "Hz");
    };
    Sentence next = *sentence;
    if (sentence->has("speed"))
        next = next.with("speed", moved("speed", drag_.low));
    else if (sentence->has("frequency"))
        next = next.with("frequency", moved("frequency", drag_.low));
    else
        next = next.with("low", moved("low", drag_.low)).with("high", moved("high", drag_.high));
    session_.replaceSentence(tr("drag %1").arg(QString::fromStdString(sentence->text("name"))), std::move(next),
                             QString("band %1").arg(serial_));
}

void ScoreView::mouseReleaseEvent(QMouseEvent*)
{
    drag_.what = Drag::What::none;
}

void ScoreView::mouseDoubleClickEvent(QMouseEvent* event)
{
    if (noteAt(event->position()) || bandAt(event->position())) return;
    fitted_ && !all_ && modesBeyond() > 0 ? showAll() : showWhatMatters();
    layOut();
    update();
}

void ScoreView::wheelEvent(QWheelEvent* event)
{
    fitted_ = false;
    axis_.zoom(event->position().x(), std::pow(0.9985, event->angleDelta().y()));
    layOut();
    update();
    event->accept();
}

void ScoreView::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Left:
        return session_.stepMode(-1);
    case Qt::Key_Right:
        return session_.stepMode(1);
    case Qt::Key_Up:
        return session_.stepStave(1);
    case Qt::Key_Down:
        return session_.stepStave(-1);
    case Qt::Key_Home:
        return session_.showMode(session_.shownStave(), 1);
    case Qt::Key_End:
        return session_.showMode(session_.shownStave(), 1 << 30);
    case Qt::Key_Plus:
    case Qt::Key_Equal:
    case Qt::Key_Minus: {
        fitted_ = false;
        const auto* mode = session_.mode();
        axis_.zoom(mode ? axis_.at(mode->frequency) : (axis_.left() + axis_.right()) / 2.0,
                   event->key() == Qt::Key_Minus ? 1.25 : 0.8);
        layOut();
        return update();
    }
    case Qt::Key_0: {
        fitted_ && !all_ && modesBeyond() > 0 ? showAll() : showWhatMatters();
        layOut();
        return update();
    }
    default:
        QWidget::keyPressEvent(event);
    }
}

void ScoreView::contextMenuEvent(QContextMenuEvent* event)
{
    std::size_t index = staveRooms_.size();
    for (std::size_t at = 0; at < staveRooms_.size(); ++at)
        if (staveRooms_[at].contains(event->pos())) index = at;
    if (index == 0 || index >= staveRooms_.size()) return;
    QMenu menu(this);
    const QString id = session_.staves()[index].id;
    if (const std::string sentence = session_.staves()[index].stateSentence(); !sentence.empty()) {
        const Stave stave = session_.staves()[index];
        menu.addAction(tr("Its sentence"), this, [this, sentence] { session_.selectSentence(sentence); });
        menu.addAction(tr("Make it the model"), this,
                       [this, stave] { session_.changeModel(tr("take the state %1").arg(stave.name), stave.model); });
        menu.addAction(tr("Keep it as a take"), this, [this, stave] { session_.keepTake(stave.name, stave.model); });
        menu.exec(event->globalPos());
        return;
    }
    menu.addAction(tr("Go back to this take"), this, [this, id] { session_.useTake(id); });
    menu.addAction(tr("Remove this take"), this, [this, id] { session_.removeTake(id); });
    menu.exec(event->globalPos());
}

void ScoreView::leaveEvent(QEvent*)
{
    session_.light(session_.spotlightOf(session_.selectedSentence()));
}

bool ScoreView::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        const auto* note = noteAt(help->pos());
        const auto* band = note ? nullptr : bandAt(help->pos());
        if (note)
            QToolTip::showText(help->globalPos(), noteWords(*note), this);
        else if (band)
            QToolTip::showText(help->globalPos(), bandWords(*band), this);
        else
            QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

} // namespace undisona
