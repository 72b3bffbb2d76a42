#include "app/readings/energy_page.hpp"
#include "app/readings/stress_view.hpp"
#include "app/readings/values_view.hpp"
#include "core/modal/energy.hpp"

namespace undisona {

namespace {

/// Which of the frame's sub-assemblies an energy belongs to; -1 for none.
int placedOf(const Frame& frame, const EnergyRow& row)
{
    for (std::size_t at = 0; at < frame.placed.size(); ++at) {
        const PlacedFrame& placed = frame.placed[at];
        const auto within = [&](int first, std::size_t size) {
            return row.owner >= first && row.owner < first + static_cast<int>(size);
        };
        if ((row.of == OwnerKind::point && within(placed.firstPoint, placed.frame->points.size())) ||
            (row.of == OwnerKind::member && within(placed.firstMember, placed.frame->members.size())) ||
            (row.of == OwnerKind::sheet && within(placed.firstSheet, placed.frame->sheets.size())) ||
            (row.of == OwnerKind::solid && within(placed.firstSolid, placed.frame->solids.size())))
            return static_cast<int>(at);
    }
    return -1;
}

} // namespace

EnergyPage::EnergyPage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    words_ = new PageLabel({12, 8, 8, 4}, this);
    words_->setTextFormat(Qt::RichText);
    words_->setWordWrap(true);
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("energyTable");
    table_->setHeads({tr("part"), tr("strain"), tr("kinetic"), tr("stiffer"), tr("heavier"), tr("bending"), tr("axial"),
                      tr("twist")});
    table_->foldLastColumns();
    table_->cutShort(0, 110);
    table_->setTextElideMode(Qt::ElideMiddle); // of "Floats.2.Box.bottom" both ends tell
    stress_ = new StressView(session, this);
    values_ = new ValuesView(session, "values", this);
    connect(stress_, &StressView::paintWanted, this, &EnergyPage::stressWanted);
    makeParts("energyParts",
              {{tr("Energy"), stacked({{words_, 0}, {table_, 1}})}, {tr("Stress"), stress_}, {tr("Values"), values_}});
    connect(table_, &ReadingTable::keyActivated, this, [this](int key) {
        if (key < 0 || static_cast<std::size_t>(key) >= rows_.size()) return;
        const auto& row = rows_[static_cast<std::size_t>(key)];
        emit paintWanted();
        session_.lightOwner(row.of, row.owner, row.sentence);
    });
}

void EnergyPage::fillPart(int part)
{
    if (part == 1) stress_->fill();
    if (part == 2) values_->fill();
}

void EnergyPage::select()
{
    fillPart(shownPart());
    const auto* own = solution();
    const Mode* mode = session_.mode();
    rows_.clear();
    if (!own || !mode) {
        words_->setText(tr("Nothing has been solved yet."));
        return table_->setRows({}, {});
    }
    const auto& energies = own->energies;
    const auto column = static_cast<Eigen::Index>(mode->number - 1);
    words_->setText(tr("<b>Mode %1</b>: where its energy is, and what ten per cent more stiffness or mass there would "
                       "do to its frequency. Click a row to paint the scene.")
                        .arg(mode->number));
    // Parts with the largest shares first; a part's own and added mass stand together.
    std::vector<std::pair<double, std::size_t>> order;
    for (std::size_t row = 0; row < energies.rows.size(); ++row)
        order.emplace_back(-std::max(energies.strain(static_cast<Eigen::Index>(row), column),
                                     energies.kinetic(static_cast<Eigen::Index>(row), column)),
                           row);
    std::stable_sort(order.begin(), order.end());
    std::vector<std::vector<ReadingTable::Cell>> cells;
    std::vector<int> keys;
    const auto change = [&](double relative) -> ReadingTable::Cell {
        return {std::abs(relative) < 5e-5
                    ? QString("·")
                    : QString("%1%2 %").arg(relative > 0 ? "+" : "−").arg(100 * std::abs(relative), 0, 'f', 2),
                relative,
                {},
                false,
                true,
                {}};
    };
    using Shares = Eigen::Array<double, 5, 1>; // strain, kinetic, and of the strain bending, axial, twisting
    const auto addRow = [&](const QString& name, bool sum, const Shares& shares) {
        cells.push_back({{name, {}, {}, sum, false, name},
                         {QString::number(100 * shares[0], 'f', 1), shares[0], {}, shares[0] > 0.1, true, {}},
                         {QString::number(100 * shares[1], 'f', 1), shares[1], {}, shares[1] > 0.1, true, {}},
                         change(tenPercentStiffer(shares[0])),
                         change(tenPercentHeavier(shares[1])),
                         change(tenPercentStiffer(shares[2])),
                         change(tenPercentStiffer(shares[3])),
                         change(tenPercentStiffer(shares[4]))});
    };
    const auto sharesOf = [&](std::size_t row) {
        const auto index = static_cast<Eigen::Index>(row);
        Shares shares;
        shares << energies.strain(index, column), energies.kinetic(index, column), energies.bending(index, column),
            energies.axial(index, column), energies.twisting(index, column);
        return shares;
    };
    // Sub-assemblies first, each with all that it has.
    const Frame& frame = own->structure->frame;
    std::vector<Shares> sums(frame.placed.size(), Shares::Zero());
    for (std::size_t row = 0; row < energies.rows.size() && !sums.empty(); ++row)
        if (const int placed = placedOf(frame, energies.rows[row]); placed >= 0)
            sums[static_cast<std::size_t>(placed)] += sharesOf(row);
    for (std::size_t at = 0; at < sums.size(); ++at) {
        addRow(tr("all of %1").arg(QString::fromStdString(frame.placed[at].name)), true, sums[at]);
        keys.push_back(static_cast<int>(rows_.size()));
        rows_.push_back({PartKind::member, frame.placed[at].sentence, OwnerKind::edge, -1, frame.placed[at].name});
    }
    for (std::size_t at = 0; at < order.size() && at < 200; ++at) {
        const auto row = order[at].second;
        const auto& part = energies.rows[row];
        const auto said = session_.model().sentence(part.sentence);
        QString name = QString::fromStdString(part.name);
        if (part.kind == PartKind::pointMass || part.kind == PartKind::spreadMass)
            name =
                tr("%1 on %2")
                    .arg(said && said->has("label") ? QString::fromStdString(said->text("label")) : tr("mass"), name);
        if (part.kind == PartKind::support) name = tr("support at %1").arg(name);
        if (part.kind == PartKind::spring)
            name = part.of == OwnerKind::sheet || part.of == OwnerKind::solid ? tr("layer on %1").arg(name)
                                                                              : tr("spring at %1").arg(name);
        if (part.kind == PartKind::tension) name = tr("pull and press in %1").arg(name);
        if (part.kind == PartKind::bed)
            name = part.of == OwnerKind::edge ? tr("edge bed of %1").arg(name) : tr("bed of %1").arg(name);
        addRow(name, false, sharesOf(row));
        keys.push_back(static_cast<int>(rows_.size()));
        rows_.push_back(part);
    }
    table_->setRows(cells, keys);
    table_->setColumnWidth(0, std::min(table_->columnWidth(0), 112));
}

} // namespace undisona
