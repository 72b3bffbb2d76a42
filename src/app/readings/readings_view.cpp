#include "app/readings/readings_view.hpp"

#include "app/readings/checks_page.hpp"
#include "app/readings/compare_page.hpp"
#include "app/readings/energy_page.hpp"
#include "app/readings/mass_page.hpp"
#include "app/readings/mesh_page.hpp"
#include "app/readings/modes_page.hpp"
#include "app/readings/remedy_page.hpp"
#include "app/readings/rest_page.hpp"

#include <QTabBar>

namespace undisona {

ReadingsView::ReadingsView(Session& session, QWidget* parent) : QTabWidget(parent)
{
    setObjectName("readings");
    setAccessibleName(tr("Readings"));
    setDocumentMode(true);
    tabBar()->setExpanding(false);
    tabBar()->setUsesScrollButtons(true);
    tabBar()->setElideMode(Qt::ElideNone);
    auto* checks = new ChecksPage(session, this);
    auto* energy = new EnergyPage(session, this);
    modes_ = new ModesPage(session, this);
    addTab(modes_, tr("Modes"));
    mass_ = new MassPage(session, this);
    addTab(mass_, tr("Mass"));
    remedy_ = new RemedyPage(session, this);
    addTab(remedy_, tr("Clashes"));
    addTab(energy, tr("Energy"));
    rest_ = new RestPage(session, this);
    addTab(rest_, tr("Rest"));
    addTab(new ComparePage(session, this), tr("Compare"));
    mesh_ = new MeshPage(session, this);
    addTab(mesh_, tr("Mesh"));
    addTab(checks, tr("Checks"));
    connect(mass_, &MassPage::sentenceWanted, this, &ReadingsView::sentenceWanted);
    connect(remedy_, &RemedyPage::sentenceWanted, this, &ReadingsView::sentenceWanted);
    connect(remedy_, &RemedyPage::massMapWanted, this, &ReadingsView::massMapWanted);
    connect(remedy_, &RemedyPage::springMapWanted, this, &ReadingsView::springMapWanted);
    connect(checks, &ChecksPage::sentenceWanted, this, &ReadingsView::sentenceWanted);
    connect(energy, &EnergyPage::paintWanted, this, &ReadingsView::energyWanted);
    connect(energy, &EnergyPage::stressWanted, this, &ReadingsView::stressWanted);
    connect(rest_, &RestPage::sentenceWanted, this, &ReadingsView::sentenceWanted);
    connect(rest_, &RestPage::stressWanted, this, &ReadingsView::stressWanted);
    connect(rest_, &RestPage::stateWanted, this, &ReadingsView::stateWanted);
    energy_ = energy;
}

void ReadingsView::showPage(const QString& name)
{
    if (name == "remedy") {
        setCurrentWidget(remedy_);
        return remedy_->showRemedy();
    }
    if (name == "clashes") remedy_->showClashes();
    for (int at = 0; at < count(); ++at)
        if (tabText(at).toLower() == name) setCurrentIndex(at);
}

void ReadingsView::showSettling()
{
    setCurrentWidget(mesh_);
    mesh_->showSettling();
}

void ReadingsView::showWeight()
{
    setCurrentWidget(mass_);
    mass_->showWeight();
}

void ReadingsView::askStiffness(const QString& point)
{
    showWeight();
    mass_->askStiffness(point);
}

void ReadingsView::showStress()
{
    setCurrentWidget(energy_);
    energy_->showPart(1);
}

void ReadingsView::findRest()
{
    setCurrentWidget(rest_);
    rest_->find();
}

void ReadingsView::nameMode()
{
    setCurrentWidget(modes_);
    modes_->startNaming();
}

void ReadingsView::findRemedies()
{
    showPage("remedy");
    remedy_->find();
}

QString ReadingsView::page() const
{
    return tabText(currentIndex()).toLower();
}

} // namespace undisona
