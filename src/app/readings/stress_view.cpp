#include "app/readings/stress_view.hpp"

#include "app/readings/part_stress_table.hpp"

#include "core/io/stress_table.hpp"
#include "core/units/quantity.hpp"

#include <QComboBox>
#include <QCompleter>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

namespace undisona {

namespace {

using By = ModalScale::By;

constexpr std::array<QuantityKind, 5> kinds{QuantityKind::length, QuantityKind::velocity, QuantityKind::acceleration,
                                            QuantityKind::energy, QuantityKind::stress};

QuantityKind kindOf(By by)
{
    return kinds[static_cast<std::size_t>(by)];
}

bool hasPlace(By by)
{
    return by != By::energy && by != By::stress;
}

} // namespace

StressView::StressView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    by_ = new QComboBox(this);
    by_->setObjectName("stressBy");
    by_->setAccessibleName(tr("what is stated of the motion"));
    by_->addItems({tr("displacement"), tr("velocity"), tr("acceleration"), tr("energy"), tr("largest stress")});
    value_ = new QLineEdit(this);
    value_->setObjectName("stressValue");
    value_->setAccessibleName(tr("how much, with its unit"));
    at_ = new QLineEdit(this);
    at_->setObjectName("stressAt");
    at_->setAccessibleName(tr("point whose motion is meant"));
    at_->setPlaceholderText(tr("anywhere"));
    at_->setToolTip(tr("The point that moves so much; empty: the place that moves most"));
    wrong_ = new PageLabel({12, 0, 8, 0}, this);
    wrong_->setObjectName("stressWrong");
    wrong_->setWordWrap(true);
    answer_ = richLabel("stressAnswer", this);
    run_ = new QPushButton(this);
    run_->setObjectName("stressRun");
    table_ = new PartStressTable(this);
    table_->setObjectName("stressTable");
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    auto* stated = new QHBoxLayout;
    stated->setContentsMargins(12, 8, 8, 0);
    stated->setSpacing(6);
    stated->addWidget(by_);
    stated->addWidget(value_, 1);
    stated->addWidget(new QLabel(tr("at"), this));
    stated->addWidget(at_, 1);
    auto* buttons = new QHBoxLayout;
    buttons->setContentsMargins(12, 0, 8, 6);
    buttons->addWidget(run_);
    buttons->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    column->addLayout(stated);
    column->addWidget(wrong_);
    column->addWidget(answer_);
    column->addLayout(buttons);
    column->addWidget(table_, 1);
    connect(by_, &QComboBox::activated, this, [this](int which) {
        // The same motion, now told by the other figure.
        ModalScale scale = session_.modalScale();
        const auto now = session_.scaledMode();
        scale.by = static_cast<By>(which);
        if (!hasPlace(scale.by)) scale.point = -1;
        if (now && *now) {
            const ScaledMode& own = **now;
            const double omega = own.displacement > 0.0 ? own.velocity / own.displacement : 0.0,
                         moves = scale.point < 0 ? own.displacement : own.atPoint;
            const double values[] = {moves, omega * moves, omega * omega * moves, own.energy, own.stress};
            if (values[which] > 0.0) scale.value = readPlainNumber(rounded(values[which], 4)).value_or(values[which]);
        }
        session_.setModalScale(scale);
    });
    connect(value_, &QLineEdit::editingFinished, this, &StressView::readScale);
    connect(at_, &QLineEdit::editingFinished, this, &StressView::readScale);
    connect(run_, &QPushButton::clicked, this, [this] {
        if (session_.findingStresses()) return session_.stop();
        session_.findStresses();
    });
    connect(&session_, &Session::stressesMoved, this, [this] {
        if (isVisible()) fill();
    });
    connect(table_, &ReadingTable::keyActivated, this, &StressView::light);
}

void StressView::readScale()
{
    if (!value_->isModified() && !at_->isModified()) return;
    ModalScale scale = session_.modalScale();
    const auto refuse = [this](const QString& why) {
        wrong_->setText(why);
        wrong_->show();
    };
    const auto quantity = readQuantity(value_->text().toStdString(), kindOf(scale.by), NumberStyle::typed);
    if (const auto* problem = std::get_if<QuantityProblem>(&quantity))
        return refuse(QString::fromStdString(problem->what));
    scale.value = std::get<Quantity>(quantity).si;
    if (!(scale.value > 0.0)) return refuse(tr("It must be above zero."));
    const std::string name = at_->text().trimmed().toStdString();
    const auto& solution = session_.shown().solution;
    scale.point = name.empty() || !hasPlace(scale.by) || !solution ? -1 : solution->structure->frame.pointNamed(name);
    if (!name.empty() && hasPlace(scale.by) && scale.point < 0)
        return refuse(tr("There is no point called \"%1\".").arg(at_->text().trimmed()));
    value_->setModified(false);
    at_->setModified(false);
    session_.setModalScale(scale);
}

void StressView::sayOwn()
{
    const ModalScale& scale = session_.modalScale();
    by_->setCurrentIndex(static_cast<int>(scale.by));
    at_->setEnabled(hasPlace(scale.by));
    if (!value_->isModified())
        value_->setText(QString::fromStdString(amplitudeText(scale.value, kindOf(scale.by), session_.units(), 4)));
    const auto& solution = session_.shown().solution;
    if (at_->isModified() || !solution) return;
    const auto& points = solution->structure->frame.points;
    const bool named = scale.point >= 0 && static_cast<std::size_t>(scale.point) < points.size();
    at_->setText(named ? QString::fromStdString(points[static_cast<std::size_t>(scale.point)].name) : QString());
    QStringList names;
    for (const auto& point : points)
        names << QString::fromStdString(point.name);
    auto* completer = new QCompleter(names, at_);
    completer->setCaseSensitivity(Qt::CaseInsensitive);
    at_->setCompleter(completer);
}

void StressView::fill()
{
    const Theme& theme = Theme::now();
    wrong_->setStyleSheet(QString("color: %1").arg(theme.red.name()));
    wrong_->setVisible(false);
    sayOwn();
    const auto& stave = session_.shown();
    const bool under = session_.findingStresses();
    const auto reading = session_.stressesOf(stave.solution);
    run_->setText(under ? tr("Stop") : tr("Find the stresses"));
    run_->setVisible(under || !reading);
    run_->setEnabled(under || (stave.solution && !stave.stale));
    const auto now = session_.scaledMode();
    table_->setVisible(now && *now);
    if (now && *now) {
        const ModalStress& own = reading->modes[static_cast<std::size_t>(session_.shownMode() - 1)];
        answer_->setText(tr("<b>Mode %1</b>: %2. <span style='color:%3'>Amplitudes of a swing; without what a weld, a "
                            "hole or a sharp corner adds.</span>")
                             .arg(session_.shownMode())
                             .arg(QString::fromStdString(scaleWords(own, **now, session_.units()))
                                      .toHtmlEscaped()
                                      .replace("/", QString("/") + QChar(0x2060)),
                                  theme.quiet.name()));
        return table_->fill(own.parts, (*now)->factor, true, session_.units());
    }
    table_->setRows({}, {});
    const QString quiet = QString("<span style='color:%1'>%2</span>");
    if (now)
        answer_->setText(
            quiet.arg(theme.quiet.name(), QString::fromStdString(oneLine(now->findings()[0])).toHtmlEscaped()));
    else
        answer_->setText(quiet.arg(theme.quiet.name(),
                                   under ? tr("Finding the stresses of every mode …")
                                         : tr("What each mode strains when it moves so strongly, and what motion "
                                              "belongs to a stress.")));
}

void StressView::light(int key)
{
    const PartStress* part = table_->part(key);
    if (!part) return;
    emit paintWanted();
    session_.lightOwner(part->of, part->owner, part->sentence);
}

} // namespace undisona
