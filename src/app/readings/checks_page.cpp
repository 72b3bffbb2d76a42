#include "app/readings/checks_page.hpp"

#include "app/readings/hand_view.hpp"
#include "core/base/alike_findings.hpp"

#include <QBoxLayout>
#include <QHeaderView>
#include <QPushButton>

namespace undisona {

ChecksPage::ChecksPage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    words_ = new PageLabel({12, 8, 8, 4}, this);
    words_->setWordWrap(true);
    words_->setObjectName("checkWords");
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("checksTable");
    table_->setWordWrap(true);
    table_->setHeads({"", tr("what is the matter, and what to do")});
    table_->horizontalHeader()->setStretchLastSection(true);
    figures_ = new PageLabel({12, 0, 8, 4}, this);
    figures_->setWordWrap(true);
    figures_->setTextFormat(Qt::RichText);
    figures_->setObjectName("certificate");
    figures_->setAlignment(Qt::AlignTop);
    figures_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    cures_ = new QWidget(this);
    auto* buttons = new QHBoxLayout(cures_);
    buttons->setContentsMargins(12, 2, 8, 4);
    buttons->addStretch();
    hand_ = new HandView(session, this);
    makeParts("checkParts", {{tr("Findings"), stacked({{words_, 0}, {table_, 1}, {cures_, 0}, {figures_, 0}})},
                             {tr("By hand"), hand_}});
    const auto finding = [this](int key) -> const Finding* {
        const auto at = static_cast<std::size_t>(key);
        return key >= 0 && at < shownFindings_.size() ? &shownFindings_[at] : nullptr;
    };
    // A finding that has a motion plays it as soon as it is chosen.
    const auto play = [this](const Finding* chosen) {
        if (chosen && chosen->mode > 0) session_.showMode(0, chosen->mode);
    };
    connect(table_, &ReadingTable::keyChosen, this, [this, finding, play](int key) {
        play(finding(key));
        offer(finding(key));
    });
    connect(table_, &ReadingTable::keyActivated, this, [this, finding, play](int key) {
        const Finding* chosen = finding(key);
        play(chosen);
        if (chosen && !chosen->sentence.empty()) emit sentenceWanted(chosen->sentence);
    });
}

void ChecksPage::fillPart(int part)
{
    if (part == 1) hand_->fill();
}

void ChecksPage::offer(const Finding* finding)
{
    auto* buttons = static_cast<QBoxLayout*>(cures_->layout());
    const auto curable = [](const Finding& one) { return !one.cures.empty(); };
    if (!finding || !curable(*finding)) {
        const auto first = std::find_if(shownFindings_.begin(), shownFindings_.end(), curable);
        finding = first != shownFindings_.end() ? &*first : nullptr;
    }
    cures_->setVisible(finding != nullptr);
    const std::vector<Cure> cures = finding ? finding->cures : std::vector<Cure>();
    if (offered_ == cures) return; // a button that has the keys keeps them
    offered_ = cures;
    while (buttons->count() > 1) { // all but the stretch
        buttons->itemAt(0)->widget()->deleteLater();
        delete buttons->takeAt(0);
    }
    QWidget* before = table_; // in the order of Tab
    const int room = table_->width() - 24;
    int wide = 0;
    for (const auto& cure : offered_) {
        const QString words = QString::fromStdString(cure.words);
        auto* button = new QPushButton(cures_);
        button->setText(button->fontMetrics().elidedText(words, Qt::ElideMiddle, room - 30));
        button->setAccessibleName(words);
        button->setFocusPolicy(Qt::TabFocus); // after a click Space still plays the motion
        button->setToolTip(words + "\n" + tr("One step that Undo takes back"));
        connect(button, &QPushButton::clicked, this, [this, cure] { session_.mend(cure); });
        buttons->insertWidget(buttons->count() - 1, button, 0, Qt::AlignLeft);
        setTabOrder(std::exchange(before, button), button);
        wide += button->sizeHint().width() + 6;
    }
    // Names may be long: then one below the other.
    buttons->setDirection(wide > room ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void ChecksPage::fill()
{
    fillPart(shownPart());
    shownFindings_ = alikeAsOne(session_.findings());
    const Theme& theme = Theme::now();
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    for (std::size_t at = 0; at < shownFindings_.size(); ++at) {
        const auto& finding = shownFindings_[at];
        const bool error = finding.severity == Severity::error, warning = finding.severity == Severity::warning;
        QString text = QString::fromStdString(finding.what);
        if (!finding.place.empty()) text += QString(" (%1)").arg(QString::fromStdString(finding.place));
        if (!finding.remedy.empty()) text += ". " + QString::fromStdString(finding.remedy);
        if (!text.isEmpty()) text[0] = text[0].toUpper();
        rows.push_back({{error     ? "✕"
                         : warning ? "▲"
                                   : "·",
                         {},
                         error     ? theme.red
                         : warning ? theme.amber
                                   : theme.quiet,
                         true,
                         false,
                         {}},
                        {text, {}, error ? theme.red : QColor(), false, false, text}});
        keys.push_back(static_cast<int>(at));
    }
    table_->setRows(rows, keys);
    // Without rows the figures move up; the table stays, small, so that the keyboard still finds this page.
    table_->setMaximumHeight(rows.empty() ? table_->horizontalHeader()->height() + 2 : QWIDGETSIZE_MAX);
    static_cast<QBoxLayout*>(layout())->setStretchFactor(figures_, rows.empty() ? 1 : 0);
    table_->setColumnWidth(0, 26);
    table_->fitRows();
    offer(nullptr);
    QString words, figures;
    if (const auto* own = solution()) {
        const Certificate certificate = certificateOf(*own);
        words += QString::fromStdString(certificate.words) + " ";
        for (const auto& line : certificate.lines)
            figures += QString("<tr><td style='color:%1; white-space:nowrap'>%2&nbsp;&nbsp;</td><td>%3</td></tr>")
                           .arg(theme.quiet.name(), QString::fromStdString(line.what),
                                QString::fromStdString(line.figures).toHtmlEscaped());
        double mesh = 0.0;
        std::size_t untold = 0;
        for (const auto& mode : own->modes)
            if (mode.judged())
                mesh = std::max(mesh, std::abs(mode.meshError) + mode.meshErrorEither);
            else
                ++untold;
        if (untold < own->modes.size())
            words += tr("Largest mesh error %1 %. ").arg(QString::fromStdString(rounded(100 * mesh, 2)));
        if (untold > 0)
            words +=
                (hasBricks(*own)
                     ? tr("The mesh error cannot be told of %1 of the %2 modes: thin or curved bodies of bricks strain "
                          "in them. Ctrl+F5 solves on other meshes to see what changes. ")
                     : tr("The mesh error was not told of %1 of the %2 modes: the run was stopped before. "))
                    .arg(untold)
                    .arg(own->modes.size());
        for (const auto& check : own->handChecks) {
            if (check.stiffness <= 0.0)
                words += tr("A hand check needs a structure that is held. ");
            else
                words +=
                    tr("Hand check: k = %1, %2 against mode %3 at %4 Hz computed. ")
                        .arg(QString::fromStdString(session_.units().text(check.stiffness, QuantityKind::stiffness)))
                        .arg(QString::fromStdString(rounded(check.frequency, 4)) + " Hz")
                        .arg(check.nearestMode)
                        .arg(check.nearestMode > 0
                                 ? QString::fromStdString(rounded(
                                       own->modes[static_cast<std::size_t>(check.nearestMode - 1)].frequency, 4))
                                 : "-");
        }
    }
    if (shownFindings_.empty()) words += tr("Nothing odd was found.");
    words_->setText(words);
    figures_->setText(figures.isEmpty() ? QString() : "<table>" + figures + "</table>");
    figures_->setVisible(!figures.isEmpty());
}

} // namespace undisona
