#include "app/readings/mesh_page.hpp"
#include "app/readings/plot.hpp"
#include "app/readings/settling_view.hpp"
#include "core/mesh/mesh_quality.hpp"
#include "core/shapes/joined_faces.hpp"

#include <map>

namespace undisona {

namespace {

/// What each body is made of, and how many elements lie through its thickness.
QString wordsOnBodies(const Solution& solution)
{
    const auto& mesh = solution.mesh;
    const auto& frame = solution.structure->frame;
    std::map<int, std::map<SolidKind, int>> kinds; // by solid
    for (const auto& piece : mesh.solids)
        ++kinds[piece.solid][piece.kind];
    const auto named = [](SolidKind kind) {
        switch (kind) {
        case SolidKind::tetrahedron10:
            return MeshPage::tr("10-node tetrahedra");
        case SolidKind::brick8:
            return MeshPage::tr("8-node bricks");
        case SolidKind::brick20:
            return MeshPage::tr("20-node bricks");
        case SolidKind::wedge6:
            return MeshPage::tr("6-node wedges");
        case SolidKind::wedge15:
            break;
        }
        return MeshPage::tr("15-node wedges");
    };
    QString words;
    std::size_t listed = 0;
    for (const auto& [solid, counts] : kinds) {
        if (++listed > 4) return words + MeshPage::tr("<br>… and %1 more solids.").arg(kinds.size() - 4);
        QStringList parts;
        for (const auto& [kind, count] : counts)
            parts << QString("%1 %2").arg(count).arg(named(kind));
        words += QString("<br>%1: %2")
                     .arg(QString::fromStdString(frame.solids[static_cast<std::size_t>(solid)].name).toHtmlEscaped(),
                          parts.join(MeshPage::tr(" and ")));
        for (std::size_t body = 0; body < mesh.bodies.size(); ++body)
            if (frame.faces->solids[body].solid == solid && mesh.bodies[body].layered()) {
                words += MeshPage::tr(", %1 through the thickness").arg(mesh.bodies[body].through());
                break;
            }
        words += ".";
    }
    return words;
}

} // namespace

MeshPage::MeshPage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    words_ = new PageLabel({12, 8, 8, 4}, this);
    words_->setTextFormat(Qt::RichText);
    words_->setWordWrap(true);
    words_->setObjectName("meshWords");
    words_->setAlignment(Qt::AlignTop);
    plot_ = new Plot(this);
    connect(plot_, &Plot::told, &session_, &Session::told);
    plot_->setObjectName("meshPlot");
    plot_->setTitles(tr("shape, 1 is best"), tr("share of elements, %"));
    table_ = new ReadingTable(this);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    table_->setObjectName("meshTable");
    table_->setHeads({tr("worst of"), tr("shape"), tr("angles °"), tr("sides 1 :"), tr("warp %")});
    table_->foldLastColumns();
    settling_ = new SettlingView(session_, this);
    layout()->addWidget(words_);
    makeParts("meshParts",
              {{tr("Elements"), stacked({{plot_, 2}, {table_, 3}})}, {tr("Frequencies on other meshes"), settling_}});
    const auto light = [this](int key) {
        Spotlight spotlight;
        spotlight.elements.push_back(key);
        session_.light(spotlight);
    };
    connect(table_, &ReadingTable::keyChosen, this, light);
    connect(table_, &ReadingTable::keyActivated, this, light);
}

void MeshPage::fillPart(int part)
{
    if (part == 1) settling_->fill();
}

void MeshPage::select()
{
    if (settling_->isVisible()) settling_->select();
}

void MeshPage::fill()
{
    fillPart(shownPart());
    const auto* own = solution();
    which_->setVisible(own);
    const bool pieces = own && (!own->mesh.shells.empty() || !own->mesh.solids.empty());
    plot_->setVisible(pieces);
    table_->setVisible(pieces);
    if (!own) return words_->setText(tr("The mesh is made when the model is solved."));
    const auto counted = [](std::size_t number, const QString& one, const QString& many) {
        return number == 1 ? one : many.arg(number);
    };
    QString words = tr("<b>%1</b>, %2 unknowns")
                        .arg(counted(own->mesh.nodes.size(), tr("1 node"), tr("%1 nodes")))
                        .arg(own->system->size());
    if (!own->mesh.elements.empty())
        words +=
            tr(", ") + counted(own->mesh.elements.size(), tr("1 element of members"), tr("%1 elements of members"));
    if (!pieces) return words_->setText(words + ".");
    const MeshQuality quality = qualityOf(own->mesh);
    const auto& units = session_.units();
    const auto length = [&](double value) {
        return QString::fromStdString(units.text(value, QuantityKind::length, 2));
    };
    words += ".";
    if (!own->mesh.shells.empty())
        words += tr("<br>Sheet: %1 with four sides, %2 with three, of %3 to %4.")
                     .arg(quality.fourSided)
                     .arg(own->mesh.shells.size() - quality.fourSided)
                     .arg(length(quality.least), length(quality.most));
    if (!own->mesh.solids.empty()) words += wordsOnBodies(*own);
    words += tr("<br>A fineness, or a size at a place, is a sentence in Ask.");
    words_->setText(words);
    const double all = double(own->mesh.shells.size() + own->mesh.solids.size());
    Plot::Line bars{tr("shape"), {}, Theme::now().accent, false, false, 1.8};
    double tallest = 1.0;
    bars.points.emplace_back(0.0, 0.0);
    for (std::size_t at = 0; at < quality.byShape.size(); ++at) {
        const double share = 100.0 * double(quality.byShape[at]) / all, from = double(at) / 10.0;
        tallest = std::max(tallest, share);
        for (const double x : {from, from + 0.1})
            bars.points.emplace_back(x, share);
    }
    bars.points.emplace_back(1.0, 0.0);
    plot_->setRange(0.0, 1.0, 0.0, 1.05 * tallest);
    plot_->show({bars});
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    constexpr double degrees = 180.0 / std::numbers::pi;
    for (const std::size_t at : quality.worst) {
        const bool solid = at >= quality.shells.size();
        const Frame& frame = own->structure->frame;
        const int part =
            solid ? frame.partOfSolid(own->mesh.solids[at - quality.shells.size()].solid) : own->mesh.shells[at].sheet;
        const double shape = quality.shape(at);
        std::vector<ReadingTable::Cell> row{{QString::fromStdString(frame.partName(part)), {}, {}, false, false, {}},
                                            {QString::number(shape, 'f', 2), shape, {}, shape < 0.2, true, {}}};
        double aspect = 1.0;
        if (solid) {
            const SolidQuality& piece = quality.solids[at - quality.shells.size()];
            aspect = piece.aspect;
            row.push_back({tr("jac. %1").arg(piece.jacobian, 0, 'f', 2),
                           piece.jacobian,
                           {},
                           piece.jacobian < 0.1,
                           true,
                           tr("least over largest determinant of the Jacobian")});
        } else {
            const ShellQuality& piece = quality.shells[at];
            aspect = piece.aspect;
            row.push_back({QString("%1 – %2")
                               .arg(degrees * piece.leastAngle, 0, 'f', 0)
                               .arg(degrees * piece.mostAngle, 0, 'f', 0),
                           piece.leastAngle,
                           {},
                           false,
                           true,
                           tr("smallest and largest angle")});
        }
        row.push_back({QString::number(aspect, 'f', 1), aspect, {}, aspect > 8.0, true, {}});
        const double warp = solid ? 0.0 : quality.shells[at].warp;
        row.push_back({solid ? QString("·") : QString::number(100.0 * warp, 'f', 1), warp, {}, warp > 0.1, true, {}});
        rows.push_back(std::move(row));
        keys.push_back(static_cast<int>(at));
    }
    table_->setRows(rows, keys);
}

} // namespace undisona
