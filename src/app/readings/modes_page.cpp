#include "app/readings/modes_page.hpp"

namespace undisona {

namespace {

/// As short as the column is narrow: the error, or what it may be off either way where that is more.
QString meshErrorCell(const Mode& mode)
{
    if (mode.lambda <= 0.0 || !mode.judged()) return "-";
    if (mode.meshErrorEither > std::abs(mode.meshError))
        return QString::fromStdString("± " + rounded(100.0 * mode.meshErrorEither, 1) + " %");
    if (std::abs(mode.meshError) < 1e-4) return "0.0 %";
    return QString::fromStdString(rounded(100.0 * mode.meshError, 2) + " %");
}

} // namespace

ModesPage::ModesPage(Session& session, QWidget* parent) : Page(session, parent)
{
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("modesTable");
    table_->setAccessibleName(tr("modes"));
    table_->setHeads({tr("mode"), tr("Hz"), tr("mesh"), tr("shape"), "X", "Y", "Z", tr("period"), tr("rad/s"),
                      tr("accepted"), tr("residual")});
    proof_ = new PageLabel({12, 6, 8, 8}, this);
    proof_->setWordWrap(true);
    layout()->addWidget(table_);
    layout()->addWidget(proof_);
    connect(table_, &ReadingTable::keyChosen, this,
            [this](int mode) { session_.showMode(session_.shownStave(), mode); });
}

void ModesPage::fill()
{
    const auto* own = solution();
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    const Theme& theme = Theme::now();
    const bool faint = session_.shown().stale;
    if (own)
        for (std::size_t at = 0; at < own->modes.size(); ++at) {
            const Mode& mode = own->modes[at];
            const auto row = static_cast<Eigen::Index>(at);
            std::vector<ReadingTable::Cell> cells{
                {QString::number(mode.number), mode.number, faintIf(faint), false, true, {}},
                number(mode.frequency, 4, faintIf(faint)),
                {meshErrorCell(mode), mode.meshError, theme.quiet, false, true,
                 mode.judged() ? tr("estimated mesh error of the frequency, %1; above 0 it is computed too high")
                                     .arg(QString::fromStdString(meshErrorText(mode)))
                 : mode.meshErrorEither > 0.0 ? tr("the mesh is too coarse for this mode to tell its error")
                 : hasBricks(*own)            ? tr("thin or curved bodies of bricks have no estimate")
                                              : tr("the run was stopped before the mesh was judged")},
                {QString::fromStdString(mode.name),
                 {},
                 faintIf(faint),
                 false,
                 false,
                 QString::fromStdString(mode.name)}};
            for (int axis = 0; axis < 3; ++axis)
                cells.push_back(percent(own->participation.ofTotal(row, axis), faint ? theme.quiet : theme.axis[axis]));
            cells.push_back(
                {mode.frequency > 0.0 ? QString::fromStdString(rounded(1.0 / mode.frequency, 4)) + " s" : "-",
                 mode.frequency > 0.0 ? 1.0 / mode.frequency : 1e9,
                 faintIf(faint),
                 false,
                 true,
                 {}});
            cells.push_back(number(std::sqrt(mode.lambda), 4, faintIf(faint)));
            cells.push_back({QString::number(mode.acceptedError, 'e', 1), mode.acceptedError, theme.quiet, false, true,
                             tr("an exact eigenvalue lies within this share")});
            cells.push_back({QString::number(mode.residual, 'e', 1), mode.residual, theme.quiet, false, true,
                             tr("norm(K phi - lambda M phi) / norm(K phi)")});
            rows.push_back(std::move(cells));
            keys.push_back(mode.number);
        }
    table_->setRows(rows, keys);
    table_->setColumnWidth(3, std::min(table_->columnWidth(3), 112));
    if (!own)
        proof_->setText(session_.solving() ? tr("Solving …") : tr("Nothing has been solved yet."));
    else if (own->ritz)
        proof_->setText(tr("%n Ritz vector(s), not modes: neither counted nor paired. X, Y, Z: per cent of the total "
                           "mass.",
                           nullptr, static_cast<int>(own->modes.size())));
    else if (own->count.proven)
        proof_->setText(tr("%1; none missed. X, Y, Z: per cent of the total mass.")
                            .arg(QString::fromStdString(wordsOf(own->count))));
    else
        proof_->setText(tr("That no mode is missing is not proven."));
    proof_->setStyleSheet(QString("color: %1").arg(theme.quiet.name()));
}

void ModesPage::select()
{
    table_->selectKey(session_.shownMode());
}

} // namespace undisona
