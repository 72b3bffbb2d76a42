#include "app/readings/part_stress_table.hpp"

#include "app/session/theme.hpp"
#include "core/picks/pick.hpp"

namespace undisona {

PartStressTable::PartStressTable(QWidget* parent) : ReadingTable(parent)
{
    foldLastColumns();
    setAccessibleName(tr("stresses by part"));
    setTextElideMode(Qt::ElideMiddle);
}

const PartStress* PartStressTable::part(int key) const
{
    return key < 0 || static_cast<std::size_t>(key) >= rows_.size() ? nullptr : &rows_[static_cast<std::size_t>(key)];
}

void PartStressTable::fill(const std::vector<PartStress>& parts, double factor, bool swings, const DisplayUnits& units)
{
    rows_.clear();
    const auto unit = [&](QuantityKind kind) { return QString::fromStdString(units.unit(kind)); };
    const bool isStated = std::any_of(parts.begin(), parts.end(), [](const auto& part) { return part.bears > 0.0; });
    QStringList heads{tr("part"),     unit(QuantityKind::stress),
                      tr("greatest"), tr("least"),
                      tr("jump"),     tr("axial, %1").arg(unit(QuantityKind::force)),
                      tr("shear"),    tr("bending, %1").arg(unit(QuantityKind::moment)),
                      tr("twist")};
    if (isStated) heads.insert(2, tr("of strength"));
    setHeads(heads);
    const auto figure = [&](double own, QuantityKind kind, const QString& tip = {}) {
        ReadingTable::Cell cell = ReadingTable::number(units.value(factor * own, kind), 3);
        cell.tip = tip;
        return cell;
    };
    std::vector<std::vector<ReadingTable::Cell>> cells;
    std::vector<int> keys;
    constexpr std::size_t most = 300;
    for (const auto& part : parts) {
        if (rows_.size() == most) break;
        const QString name = QString::fromStdString(part.name);
        const ReadingTable::Cell none{"·", -1.0, Theme::now().quiet, false, true, {}};
        std::vector<ReadingTable::Cell> row{{name, {}, {}, false, false, name}};
        const QString where =
            tr("at %1%2").arg(QString::fromStdString(placeText(part.place)),
                              part.where.empty() ? QString() : ", " + QString::fromStdString(part.where));
        for (const double own : {part.most.equivalent, part.most.greatest, part.most.least})
            row.push_back(!part.known ? none
                          : std::abs(own) < 1e-3 * part.most.equivalent // rounding
                              ? ReadingTable::Cell{"0", 0.0, {}, false, true, where}
                              : figure(own, QuantityKind::stress, where));
        if (ReadingTable::Cell share = none; isStated) {
            if (part.bears > 0.0 && part.known)
                share = {QString("%1 %").arg(100.0 * part.share(), 0, 'g', 3),
                         part.share(),
                         part.share() > 1.0 ? Theme::now().red : QColor(),
                         false,
                         true,
                         tr("of the %1 that its material bears")
                             .arg(QString::fromStdString(units.text(part.bears, QuantityKind::stress, 4)))};
            row.insert(row.begin() + 2, share);
        }
        if (!part.known) row[1].tip = tr("the fibres of a section given by its figures are not known");
        row.push_back(
            part.of == OwnerKind::member || !part.known
                ? none
                : ReadingTable::Cell{
                      QString("%1 %").arg(100.0 * part.jump, 0, 'f', 0), part.jump,
                      part.jump > 0.2 ? Theme::now().amber : QColor(), false, true,
                      tr("by how much the element there differs from the field fitted through its neighbours: where "
                         "much, the mesh is coarse or the place a sharp corner")});
        if (part.of == OwnerKind::member) {
            row.push_back(figure(swings ? std::abs(part.forces.axial) : part.forces.axial, QuantityKind::force,
                                 swings                    ? QString()
                                 : part.forces.axial > 0.0 ? tr("it is pulled")
                                                           : tr("it is pressed")));
            row.push_back(figure(std::hypot(part.forces.shear[0], part.forces.shear[1]), QuantityKind::force));
            row.push_back(figure(std::hypot(part.forces.bending[0], part.forces.bending[1]), QuantityKind::moment));
            row.push_back(figure(std::abs(part.forces.twisting), QuantityKind::moment));
        } else {
            row.insert(row.end(), 4, none);
        }
        cells.push_back(std::move(row));
        keys.push_back(static_cast<int>(rows_.size()));
        rows_.push_back(part);
    }
    setRows(cells, keys);
    setColumnWidth(0, std::min(columnWidth(0), 124));
    setColumnWidth(1, std::max(columnWidth(1), 56));
    const bool members =
        std::any_of(rows_.begin(), rows_.end(), [](const PartStress& part) { return part.of == OwnerKind::member; });
    for (int column = isStated ? 6 : 5; column < columnCount(); ++column)
        setColumnHidden(column, !members);
}

} // namespace undisona
