#include "app/readings/hand_view.hpp"

#include "core/io/hand_table.hpp"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>

namespace undisona {

HandView::HandView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = richLabel("handWords", this);
    run_ = new QPushButton(this);
    run_->setObjectName("handRun");
    table_ = new ReadingTable(this);
    table_->setObjectName("handTable");
    table_->setAccessibleName(tr("estimates by hand"));
    table_->setHeads({tr("mode"), tr("Hz"), tr("by hand"), tr("difference")});
    table_->horizontalHeader()->setStretchLastSection(true);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    from_ = richLabel("handFrom", this);
    auto* buttons = new QHBoxLayout;
    buttons->setContentsMargins(12, 0, 8, 6);
    buttons->addWidget(run_);
    buttons->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addLayout(buttons);
    column->addWidget(table_, 1);
    column->addWidget(from_);
    connect(run_, &QPushButton::clicked, this, [this] {
        if (session_.findingByHand()) return session_.stop();
        session_.findByHand();
    });
    connect(&session_, &Session::byHandMoved, this, [this] {
        if (isVisible()) fill();
    });
    connect(table_, &ReadingTable::keyChosen, this, [this](int key) {
        if (key < 0 || static_cast<std::size_t>(key) >= rows_.size()) return;
        session_.showMode(session_.shownStave(), rows_[static_cast<std::size_t>(key)].mode);
        tell(key);
    });
}

void HandView::fill()
{
    const Theme& theme = Theme::now();
    const Stave& stave = session_.shown();
    const bool under = session_.findingByHand();
    const auto known = session_.byHand();
    run_->setText(under ? tr("Stop") : tr("Estimate by hand"));
    run_->setVisible(under || !known);
    run_->setEnabled(under || (stave.solution && !stave.stale));
    rows_.clear();
    QString text = under
                       ? tr("Estimating …")
                       : tr("What an engineer would work out in minutes: frequencies by self weight, by stiffness and "
                            "mass at a point, and closed forms of members and plates that move by themselves.");
    if (known && *known) {
        rows_ = (*known)->checks;
        const auto flagged = std::count_if(rows_.begin(), rows_.end(), [](const auto& one) { return one.flagged; });
        text = rows_.empty() ? tr("No estimate by hand fits this model.")
               : flagged > 0 ? QString("<span style='color:%1'>▲ </span>").arg(theme.amber.name()) +
                                   tr("%1 of %2 differ by more than 10 %, and nothing known here explains it.")
                                       .arg(flagged)
                                       .arg(rows_.size())
                             : tr("All %1 agree, or what makes them differ is known.").arg(rows_.size());
        for (const auto& finding : (*known)->findings)
            text += "<br>" + QString::fromStdString(oneLine(finding)).toHtmlEscaped();
    } else if (known) {
        for (const auto& finding : known->findings())
            text = QString::fromStdString(oneLine(finding)).toHtmlEscaped();
    }
    words_->setText(text);
    table_->setVisible(!rows_.empty());
    std::vector<std::vector<ReadingTable::Cell>> cells;
    std::vector<int> keys;
    for (std::size_t at = 0; at < rows_.size(); ++at) {
        const HandComparison& check = rows_[at];
        const QString verdict = QString::fromStdString(handVerdict(check));
        cells.push_back(
            {{QString::number(check.mode), check.mode, {}, false, true, {}},
             ReadingTable::number(check.computed, 4),
             {QString::fromStdString(handHertz(check)), check.high, {}, false, true, {}},
             {std::abs(check.off) < 5e-4
                  ? tr("agrees")
                  : QString("%1%2 %").arg(check.off > 0 ? "+" : "−").arg(100.0 * std::abs(check.off), 0, 'f', 1),
              std::abs(check.off), check.flagged ? theme.amber : QColor(), check.flagged, false, verdict}});
        keys.push_back(static_cast<int>(at));
    }
    table_->setRows(cells, keys);
    from_->setVisible(!rows_.empty());
    if (!rows_.empty()) {
        const auto own = std::find_if(rows_.begin(), rows_.end(),
                                      [this](const auto& one) { return one.mode == session_.shownMode(); });
        tell(own == rows_.end() ? 0 : static_cast<int>(own - rows_.begin()));
    }
}

void HandView::tell(int key)
{
    const HandComparison& check = rows_[static_cast<std::size_t>(key)];
    QString text = tr("<b>Mode %1</b>: %2.<br><span style='color:%3'>%4</span>")
                       .arg(check.mode)
                       .arg(QString::fromStdString(check.of).toHtmlEscaped(), Theme::now().quiet.name(),
                            QString::fromStdString(check.by).toHtmlEscaped());
    if (!check.why.empty())
        text += QString("<br><span style='color:%1'>%2</span>")
                    .arg((check.flagged ? Theme::now().amber : Theme::now().ink).name(),
                         QString::fromStdString(check.why).toHtmlEscaped());
    from_->setText(text);
}

} // namespace undisona
