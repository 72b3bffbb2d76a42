#include "app/window/strip.hpp"

#include "app/session/theme.hpp"
#include "core/base/alike_findings.hpp"
#include "core/base/number_text.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QProgressBar>
#include <QPushButton>
#include <QStyle>

namespace undisona {

namespace {

/// A label that gives way when room is short, without a hint of its own.
class YieldingLabel : public QLabel {
public:
    using QLabel::QLabel;
    QSize minimumSizeHint() const override { return {0, QLabel::minimumSizeHint().height()}; }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter painter(this);
        painter.setFont(font());
        painter.setPen(palette().color(foregroundRole()));
        painter.drawText(rect(), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(text(), Qt::ElideRight, width()));
    }
};

} // namespace

Strip::Strip(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("strip");
    setFixedHeight(40);
    name_ = new QLabel(this);
    name_->setFont(textFont(0.0, true));
    name_->setMaximumWidth(220);
    state_ = new QLabel(this);
    units_ = new QPushButton(this);
    units_->setObjectName("units");
    units_->setProperty("pill", true);
    units_->setToolTip(tr("units in which numbers are shown; the data do not change"));
    auto* menu = new QMenu(units_);
    for (const auto& set : DisplayUnits::names())
        menu->addAction(QString::fromStdString(set).replace(' ', " · "), this, [this, set] {
            Document next = session_.document();
            next.units = set;
            session_.change(tr("show units %1").arg(QString::fromStdString(set)), std::move(next));
        });
    units_->setMenu(menu);
    mass_ = new QLabel(this);
    mass_->setTextFormat(Qt::RichText);
    mass_->setObjectName("massLabel");
    checks_ = new QPushButton(this);
    checks_->setObjectName("checks");
    proof_ = new YieldingLabel(this);
    proof_->setObjectName("proof");
    estimate_ = new QLabel(this);
    estimate_->setObjectName("estimate");
    estimate_->setToolTip(tr("from the order of elimination; more where members must be split finer"));
    progress_ = new QProgressBar(this);
    progress_->setTextVisible(false);
    progress_->setFixedWidth(90);
    solve_ = new QPushButton(this);
    solve_->setObjectName("solve");
    solve_->setProperty("accent", true);
    solve_->setMinimumWidth(72);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 4, 12, 4);
    row->setSpacing(12);
    for (QWidget* widget : {static_cast<QWidget*>(name_), static_cast<QWidget*>(state_), static_cast<QWidget*>(units_),
                            static_cast<QWidget*>(mass_), static_cast<QWidget*>(checks_)})
        row->addWidget(widget);
    row->addWidget(proof_, 1);
    row->addWidget(estimate_);
    row->addWidget(progress_);
    row->addWidget(solve_);
    connect(checks_, &QPushButton::clicked, this, &Strip::checksWanted);
    connect(solve_, &QPushButton::clicked, this, [this] {
        if (session_.running())
            session_.stop();
        else
            session_.solve();
    });
    for (const auto signal :
         {&Session::documentChanged, &Session::derivedChanged, &Session::stavesChanged, &Session::runChanged})
        connect(&session_, signal, this, &Strip::renew);
    renew();
}

void Strip::renew()
{
    const Theme& theme = Theme::now();
    const QString quiet = QString("color: %1").arg(theme.quiet.name());
    name_->setText(
        name_->fontMetrics().elidedText(QString::fromStdString(session_.document().name), Qt::ElideRight, 210));
    state_->setText(session_.unsaved() ? tr("edited") : QString());
    state_->setVisible(session_.unsaved());
    state_->setStyleSheet(quiet);
    units_->setText(QString::fromStdString(session_.document().units).replace(' ', " · "));
    const DisplayUnits units = session_.units();
    const auto& mass = session_.mass();
    const auto length = [&](double si) {
        const double shown = units.value(si, QuantityKind::length);
        return QString::fromStdString(std::abs(shown) < 1e-9
                                          ? "0"
                                          : rounded(std::abs(shown) < 1.0 ? std::round(shown * 1000) / 1000 : shown,
                                                    std::abs(shown) < 10 ? 2 : 3));
    };
    if (session_.structure().frame.empty())
        mass_->setText({});
    else
        mass_->setText(tr("<b>%1</b> <span style='color:%6'>at %2, %3, %4 %5</span>")
                           .arg(QString::fromStdString(units.text(mass.mass, QuantityKind::mass)),
                                length(mass.centre.x()), length(mass.centre.y()), length(mass.centre.z()),
                                QString::fromStdString(units.unit(QuantityKind::length)), theme.quiet.name()));
    int errors = 0, warnings = 0;
    for (const auto& finding : alikeAsOne(session_.findings())) {
        errors += finding.severity == Severity::error;
        warnings += finding.severity == Severity::warning;
    }
    if (session_.isBlank()) errors = warnings = 0;
    checks_->setText(errors > 0     ? tr("✕ %1 to mend").arg(errors)
                     : warnings > 0 ? tr("▲ %1 to look at").arg(warnings)
                                    : tr("checks: fine"));
    checks_->setProperty("pill", errors > 0 ? QVariant("red") : warnings > 0 ? QVariant("amber") : QVariant(true));
    checks_->style()->unpolish(checks_);
    checks_->style()->polish(checks_);
    proof_->setStyleSheet(quiet);
    const Stave& live = session_.live();
    if (session_.running()) {
        QString text =
            session_.arriving().empty() ? session_.stage() : tr("%1 modes so far").arg(session_.arriving().size());
        if (const double left = session_.secondsLeft(); left >= 2.0)
            text += tr(", about %1 s left").arg(std::ceil(left));
        proof_->setText(text);
    } else if (live.solution && live.stale)
        proof_->setText(tr("before your last change"));
    else if (live.solution && live.solution->stopped)
        proof_->setText(live.solution->count.proven
                            ? tr("stopped: %1 modes kept, all below %2 Hz")
                                  .arg(live.solution->modes.size())
                                  .arg(QString::fromStdString(rounded(live.solution->count.belowHz, 3)))
                            : tr("stopped: %1 modes kept, not proven").arg(live.solution->modes.size()));
    else if (live.solution && live.solution->count.proven)
        proof_->setText(QString::fromStdString(wordsOf(live.solution->count, 3)));
    else if (live.solution && live.solution->ritz)
        proof_->setText(tr("%1 Ritz vectors, not modes").arg(live.solution->modes.size()));
    else
        proof_->setText(live.solution ? tr("not proven complete") : QString());
    estimate_->setText(session_.estimate());
    estimate_->setStyleSheet(quiet);
    estimate_->setVisible(!session_.running() && (!live.solution || live.stale) && !session_.estimate().isEmpty());
    progress_->setVisible(session_.running());
    progress_->setRange(0, session_.progress() < 0 ? 0 : 100);
    if (session_.progress() >= 0) progress_->setValue(static_cast<int>(100 * session_.progress()));
    solve_->setText(session_.running() ? tr("Stop") : tr("Solve"));
    solve_->setEnabled(session_.isOpen());
}

} // namespace undisona
