#pragma once
#include "app/session/session.hpp"

#include <QTabWidget>

namespace undisona {

class MassPage;
class EnergyPage;
class ModesPage;
class MeshPage;
class RemedyPage;
class RestPage;

/// Pages of what to read or copy.
class ReadingsView : public QTabWidget {
    Q_OBJECT
public:
    ReadingsView(Session&, QWidget* parent = nullptr);
    void showPage(const QString& name);      ///< modes, mass, clashes, remedy, energy, rest, compare, mesh, checks
    void showSettling();                     ///< frequencies on other meshes, on the page Mesh
    void showWeight();                       ///< at rest under its own weight, on the page Mass
    void askStiffness(const QString& point); ///< there too; with no name, lets one be typed
    void findRemedies();                     ///< on the page Remedy
    void showStress();                       ///< on the page Energy
    void findRest();                         ///< static states, on the page Rest
    void nameMode();                         ///< the one in view, on the page Modes
    QString page() const;
    QSize minimumSizeHint() const override { return {220, 120}; }

signals:
    void sentenceWanted(const std::string& id);
    void energyWanted();
    void stressWanted();
    void stateWanted(); ///< that is shown, seen at its full extent
    void massMapWanted();
    void springMapWanted();

private:
    ModesPage* modes_;
    EnergyPage* energy_;
    MassPage* mass_;
    MeshPage* mesh_;
    RemedyPage* remedy_;
    RestPage* rest_;
};

} // namespace undisona
