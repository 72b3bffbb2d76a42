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

/// The share of the mass, bold where the mode is one of the few that matter.
ReadingTable::Cell shareOf(double share, const Mode& mode, int axis, bool faint)
{
    const Theme& theme = Theme::now();
    if (share < 0.005) return {"·", share, theme.quiet, false, true, {}};
    const bool matters = mode.matters[static_cast<std::size_t>(axis)];
    return {QString::number(100.0 * share, 'f', 0),
            share,
            faint ? theme.quiet : theme.axis[axis],
            matters,
            true,
            matters ? ModesPage::tr("one of the few modes that carry nine tenths along %1").arg("XYZ"[axis])
                    : QString()};
}

} // namespace

ModesPage::ModesPage(Session& session, QWidget* parent) : Page(session, parent)
{
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("modesTable");
    table_->setAccessibleName(tr("modes"));
    table_->setHeads({tr("mode"), tr("Hz"), tr("shape"), "X", "Y", "Z", tr("mesh"), tr("period"), tr("rad/s"),
                      tr("accepted"), tr("residual")});
    table_->foldLastColumns();
    table_->cutShort(2, 130); // the name, which stands below in full
    proof_ = new PageLabel({12, 2, 8, 8}, this);
    proof_->setWordWrap(true);
    fold_ = new QCheckBox(this);
    fold_->setObjectName("foldLocal");
    connect(fold_, &QCheckBox::toggled, &session_, &Session::foldLocalModes);
    name_ = new QLineEdit(this);
    name_->setObjectName("modeName");
    name_->setAccessibleName(tr("name of the mode in view"));
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (name_->isModified()) session_.nameMode(name_->text());
    });
    about_ = richLabel("modeAbout", this);
    about_->setContentsMargins(12, 2, 8, 2);
    auto* inset = new QVBoxLayout;
    inset->setContentsMargins(12, 6, 8, 0);
    inset->setSpacing(4);
    inset->addWidget(fold_);
    inset->addWidget(name_);
    static_cast<QBoxLayout*>(layout())->addWidget(table_, 1);
    static_cast<QBoxLayout*>(layout())->addLayout(inset);
    layout()->addWidget(about_);
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
            if (session_.isFolded(session_.shownStave(), mode)) continue;
            const auto row = static_cast<Eigen::Index>(at);
            std::vector<ReadingTable::Cell> cells{
                {QString::number(mode.number), mode.number, faintIf(faint), false, true, {}},
                number(mode.frequency, 4, faintIf(faint)),
                {session_.shown().nameOf(mode),
                 {},
                 faintIf(faint || mode.local),
                 false,
                 false,
                 session_.shown().nameOf(mode) + (mode.local ? tr(" (local)") : QString())}};
            for (int axis = 0; axis < 3; ++axis)
                cells.push_back(shareOf(own->participation.ofTotal(row, axis), mode, axis, faint));
            cells.push_back({meshErrorCell(mode), mode.meshError, theme.quiet, false, true,
                             mode.judged()
                                 ? tr("estimated mesh error of the frequency, %1; above 0 it is computed too high")
                                       .arg(QString::fromStdString(meshErrorText(mode)))
                             : mode.meshErrorEither > 0.0 ? tr("the mesh is too coarse for this mode to tell its error")
                             : hasBricks(*own)            ? tr("thin or curved bodies of bricks have no estimate")
                                                          : tr("the run was stopped before the mesh was judged")});
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
    listed_ = keys;
    table_->setRows(rows, keys);
    fold_->setVisible(own &&
                      std::any_of(own->modes.begin(), own->modes.end(), [](const Mode& mode) { return mode.local; }));
    if (own) fold_->setText(foldWords(*own));
    const QSignalBlocker quiet(fold_);
    fold_->setChecked(session_.foldsLocalModes());
    table_->setColumnWidth(2, std::min(table_->columnWidth(2), 168));
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

/// "Fold away 17 local modes, of Stays (8), braces of Mast (9)".
QString ModesPage::foldWords(const Solution& of) const
{
    std::map<std::string, int> counts;
    int all = 0;
    const int folded = session_.foldedIn(session_.shownStave());
    for (const Mode& mode : of.modes) {
        if (!mode.local) continue;
        ++counts[mode.part];
        ++all;
    }
    std::vector<std::pair<int, std::string>> parts;
    for (const auto& [part, count] : counts)
        parts.emplace_back(-count, part);
    std::sort(parts.begin(), parts.end());
    QStringList words;
    for (std::size_t at = 0; at < std::min<std::size_t>(2, parts.size()); ++at)
        words << QString("%1 (%2)")
                     .arg(fold_->fontMetrics().elidedText(QString::fromStdString(parts[at].second), Qt::ElideMiddle,
                                                          130))
                     .arg(-parts[at].first);
    if (parts.size() > 2) words << tr("others");
    fold_->setToolTip(
        tr("Local: a part that is little of the mass moves by itself and carries little. A mode that meets "
           "an excitation stays."));
    const QString which = words.join(", ");
    if (folded > 0)
        return (folded == 1 ? tr("%1 local mode folded: %2") : tr("%1 local modes folded: %2")).arg(folded).arg(which);
    return (all == 1 ? tr("Fold %1 local mode: %2") : tr("Fold %1 local modes: %2")).arg(all).arg(which);
}

void ModesPage::tellOfShown()
{
    const Mode* mode = session_.mode();
    name_->setVisible(mode);
    about_->setVisible(mode);
    if (!mode) return;
    if (!name_->hasFocus() || !name_->isModified()) name_->setText(session_.shown().nameOf(*mode));
    name_->setPlaceholderText(QString::fromStdString(mode->name));
    name_->setToolTip(tr("What mode %1 is called: write another name, or clear it for that of its motion, \"%2\"")
                          .arg(mode->number)
                          .arg(QString::fromStdString(mode->name)));
    QStringList words;
    const auto& participation = solution()->participation;
    const auto row = static_cast<Eigen::Index>(mode->number - 1);
    QStringList matters;
    for (int direction = 0; direction < 6; ++direction)
        if (mode->matters[static_cast<std::size_t>(direction)])
            matters << tr("%1 <b style='color:%2'>%3</b> %4\u00a0%")
                           .arg(direction < 3 ? tr("along") : tr("about"), Theme::now().axis[direction % 3].name())
                           .arg(QChar((direction < 3 ? "XYZ" : "xyz")[direction % 3]))
                           .arg(100.0 * participation.ofTotal(row, direction), 0, 'f', 0);
    if (!matters.isEmpty()) words << tr("Matters %1.").arg(matters.join(", "));
    if (mode->local) words << tr("Local.");
    if (!mode->noMass.empty())
        words << tr("Carries no mass: %1.").arg(QString::fromStdString(mode->noMass).toHtmlEscaped());
    if (mode->lambda > 0.0 && mode->judged())
        words << tr("Mesh error %1.").arg(QString::fromStdString(meshErrorText(*mode)));
    about_->setText(words.join(' '));
    about_->setVisible(!words.isEmpty());
}

void ModesPage::select()
{
    const int shown = session_.shownMode();
    // One that was folded away and is in view now, or the other way round.
    const bool seen = std::find(listed_.begin(), listed_.end(), shown) != listed_.end();
    const bool left =
        solution() && std::any_of(listed_.begin(), listed_.end(), [this](int number) {
            return number <= static_cast<int>(solution()->modes.size()) &&
                   session_.isFolded(session_.shownStave(), solution()->modes[static_cast<std::size_t>(number - 1)]);
        });
    if (solution() && shown > 0 && (!seen || left)) fill();
    table_->selectKey(shown);
    tellOfShown();
}

void ModesPage::startNaming()
{
    if (!session_.mode()) return;
    name_->setFocus();
    name_->selectAll();
}

} // namespace undisona
