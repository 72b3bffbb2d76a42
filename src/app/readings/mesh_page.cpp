#include "app/readings/page.hpp"
#include "app/readings/plot.hpp"
#include "core/mesh/mesh_quality.hpp"

namespace undisona {

MeshPage::MeshPage(Session& session, QWidget* parent) : Page(session, parent)
{
    words_ = new QLabel(this);
    words_->setWordWrap(true);
    words_->setContentsMargins(12, 8, 8, 4);
    words_->setObjectName("meshWords");
    words_->setAlignment(Qt::AlignTop);
    plot_ = new Plot(this);
    plot_->setObjectName("meshPlot");
    plot_->setTitles(tr("shape, 1 is best"), tr("share of elements, %"));
    table_ = new ReadingTable(this);
    table_->setObjectName("meshTable");
    table_->setHeads({tr("worst of"), tr("shape"), tr("angles °"), tr("sides 1 :"), tr("warp %")});
    layout()->addWidget(words_);
    auto* column = static_cast<QBoxLayout*>(layout());
    column->addWidget(plot_, 2);
    column->addWidget(table_, 3);
    const auto light = [this](int key) {
        Spotlight spotlight;
        spotlight.elements.push_back(key);
        session_.light(spotlight);
    };
    connect(table_, &ReadingTable::keyChosen, this, light);
    connect(table_, &ReadingTable::keyActivated, this, light);
}

void MeshPage::fill()
{
    const auto* own = solution();
    const bool sheet = own && !own->mesh.shells.empty();
    plot_->setVisible(sheet);
    table_->setVisible(sheet);
    if (!own) return words_->setText(tr("The mesh is made when the model is solved."));
    const auto counted = [](std::size_t number, const QString& one, const QString& many) {
        return number == 1 ? one : many.arg(number);
    };
    QString words = tr("<b>%1</b>, %2 unknowns")
                        .arg(counted(own->mesh.nodes.size(), tr("1 node"), tr("%1 nodes")))
                        .arg(own->system->size());
    if (!own->mesh.elements.empty())
        words += tr(", ") + counted(own->mesh.elements.size(), tr("1 element of members"), tr("%1 elements of members"));
    if (!sheet) return words_->setText(words + ".");
    const MeshQuality quality = qualityOf(own->mesh);
    const auto& units = session_.units();
    const auto length = [&](double value) { return QString::fromStdString(units.text(value, QuantityKind::length, 2)); };
    words += tr(".<br>Sheet: %1 with four sides, %2 with three, of %3 to %4. A fineness, or a size at a place, is a "
                "sentence in Ask.")
                 .arg(quality.fourSided)
                 .arg(own->mesh.shells.size() - quality.fourSided)
                 .arg(length(quality.least), length(quality.most));
    words_->setText(words);
    const double all = double(own->mesh.shells.size());
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
        const ShellQuality& shell = quality.shells[at];
        const auto& name = own->structure->frame.sheets[static_cast<std::size_t>(own->mesh.shells[at].sheet)].name;
        rows.push_back({{QString::fromStdString(name), {}, {}, false, false, {}},
                        {QString::number(shell.shape, 'f', 2), shell.shape, {}, shell.shape < 0.2, true, {}},
                        {QString("%1 – %2").arg(degrees * shell.leastAngle, 0, 'f', 0).arg(degrees * shell.mostAngle, 0, 'f', 0),
                         shell.leastAngle,
                         {},
                         false,
                         true,
                         tr("smallest and largest angle")},
                        {QString::number(shell.aspect, 'f', 1), shell.aspect, {}, shell.aspect > 8.0, true, {}},
                        {QString::number(100.0 * shell.warp, 'f', 1), shell.warp, {}, shell.warp > 0.1, true, {}}});
        keys.push_back(static_cast<int>(at));
    }
    table_->setRows(rows, keys);
}

} // namespace undisona
