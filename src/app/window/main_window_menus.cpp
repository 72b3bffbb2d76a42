// What the menus hold, and what each word of them does.
#include "app/window/main_window.hpp"

#include "app/ledger/ledger_view.hpp"
#include "app/readings/readings_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_view.hpp"
#include "app/session/settings.hpp"
#include "app/session/theme.hpp"
#include "app/window/action_finder.hpp"
#include "app/window/before_dialog.hpp"
#include "app/window/key_page.hpp"
#include "app/window/start_page.hpp"
#include "core/patterns/break_up.hpp"

#include <QFileInfo>
#include <QMenuBar>
#include <QMessageBox>

namespace undisona {

QAction* MainWindow::act(QMenu* menu, const QString& text, const QKeySequence& key, std::function<void()> what)
{
    auto* action = menu->addAction(text);
    action->setShortcut(key);
    connect(action, &QAction::triggered, this, [what = std::move(what)] { what(); });
    actions_ << action;
    return action;
}

void MainWindow::makeMenus()
{
    makeFileMenu();
    makeEditMenu();
    auto* model = menuBar()->addMenu(tr("&Model"));
    act(model, tr("Add a sentence"), {}, [this] { ledger_->addBelow(); });
    for (std::size_t which = 0; which < groupCount; ++which)
        act(model,
            tr("Add to %1")
                .arg(QString::fromUtf8(groupTitles[which].data(), static_cast<int>(groupTitles[which].size()))),
            QKeySequence(QString("Ctrl+%1").arg(which + 1)),
            [this, which] { ledger_->addTo(static_cast<Group>(which)); });
    model->addSeparator();
    act(model, tr("Draw members in the scene"), QKeySequence("Ctrl+D"), [this] {
        scene_->canvas().setDrawing(!scene_->canvas().drawing());
        if (!scene_->canvas().drawing()) return;
        session_->say(tr("Click from point to point or on the grid, or type a length. Esc lifts the pen, then ends."));
        scene_->setFocus();
    });
    const auto drawOutline = [this](OutlineKind kind) {
        scene_->canvas().drawOutline(kind);
        session_->say(tr("Click corner after corner on the grid, or type a length. The first corner again, or Enter, "
                         "closes the outline; Esc takes the last one back."));
        scene_->setFocus();
    };
    act(model, tr("Draw a plate in the scene"), {}, [drawOutline] { drawOutline(OutlineKind::plate); });
    act(model, tr("Draw the profile of a solid in the scene"), {}, [drawOutline] { drawOutline(OutlineKind::solid); });
    act(model, tr("Break a pattern up into points and members"), {}, [this] {
        const auto said = session_->model().sentence(session_->selectedSentence());
        if (!said || said->kind->group != Group::shape)
            return session_->say(tr("Select a pattern in the group Shape first."));
        if (auto broken = brokenUp(session_->model(), session_->structure().frame, said->id))
            session_->changeModel(tr("break a pattern up"), std::move(*broken));
        else
            session_->say(tr("This sentence is not a pattern of points and members."));
    });
    act(model, tr("Keep this material for other models"), {}, [this] { keepSelectedMaterial(true); });
    act(model, tr("Forget this kept material"), {}, [this] { keepSelectedMaterial(false); });
    act(model, tr("Name the model …"), {}, [this] { nameDocument(); });

    auto* solveMenu = menuBar()->addMenu(tr("&Solve"));
    act(solveMenu, tr("Solve"), QKeySequence("F5"), [this] { session_->solve(); });
    act(solveMenu, tr("Stop"), QKeySequence("Shift+F5"), [this] { session_->stop(); });
    act(solveMenu, tr("What a run will do …"), QKeySequence("Ctrl+Shift+F5"), [this] {
        if (!session_->isBlank()) openDialog(new BeforeDialog(*session_, this));
    });
    act(solveMenu, tr("Frequencies on other meshes"), QKeySequence("Ctrl+F5"), [this] {
        readings_->showSettling();
        if (narrow_) leftTabs_->setCurrentIndex(1);
        session_->settleFrequencies();
    });
    act(solveMenu, tr("At rest under its own weight"), QKeySequence("Ctrl+G"), [this] {
        readings_->showWeight();
        if (narrow_) leftTabs_->setCurrentIndex(1);
        session_->weigh();
    });
    act(solveMenu, tr("At rest under its loads"), QKeySequence("Ctrl+Shift+R"), [this] {
        if (narrow_) leftTabs_->setCurrentIndex(1);
        readings_->findRest();
    });
    act(solveMenu, tr("How stiff it is at a point"), QKeySequence("Ctrl+Shift+G"), [this] {
        const SceneCanvas& canvas = scene_->canvas();
        const int point = canvas.hoveredPoint() >= 0 ? canvas.hoveredPoint() : canvas.chosenPoint();
        const auto& points = session_->structure().frame.points;
        if (narrow_) leftTabs_->setCurrentIndex(1);
        readings_->askStiffness(point >= 0 && static_cast<std::size_t>(point) < points.size()
                                    ? QString::fromStdString(points[static_cast<std::size_t>(point)].name)
                                    : QString());
    });
    act(solveMenu, tr("What moves it out of the way"), QKeySequence("Ctrl+M"), [this] {
        if (narrow_) leftTabs_->setCurrentIndex(1);
        readings_->findRemedies();
    });
    act(solveMenu, tr("What a mode strains"), QKeySequence("Ctrl+J"), [this] {
        if (narrow_) leftTabs_->setCurrentIndex(1);
        readings_->showStress();
    });
    solveMenu->addSeparator();
    act(solveMenu, tr("Keep as a take …"), QKeySequence("Ctrl+T"), [this] { keepTake(); });
    act(solveMenu, tr("Next mode"), QKeySequence("PgDown"), [this] { session_->stepMode(1); });
    act(solveMenu, tr("Mode before"), QKeySequence("PgUp"), [this] { session_->stepMode(-1); });
    act(solveMenu, tr("Name the mode"), QKeySequence("F2"), [this] {
        if (narrow_) leftTabs_->setCurrentIndex(1);
        readings_->nameMode();
    });
    act(solveMenu, tr("Fold local modes, or show them"), QKeySequence("Ctrl+Shift+J"),
        [this] { session_->foldLocalModes(!session_->foldsLocalModes()); });
    makeLookMenu();
    makeHandOverMenu();

    auto* help = menuBar()->addMenu(tr("H&elp"));
    act(help, tr("Keys and habits"), QKeySequence("F1"), [this] { openDialog(new KeyPage(actions_, this)); });
    act(help, tr("Find an action …"), QKeySequence("Ctrl+K"), [this] { openDialog(new ActionFinder(actions_, this)); });
    act(help, tr("About"), {}, [this] {
        auto* box =
            new QMessageBox(QMessageBox::NoIcon, "Undisona",
                            tr("<b>Undisona 0.1</b><p>Natural frequencies, mode shapes, and what shakes "
                               "them.<p>Free software under the GNU General Public License, version 3 or later."),
                            QMessageBox::Ok, this);
        box->setTextFormat(Qt::RichText);
        openDialog(box);
    });
}

void MainWindow::makeFileMenu()
{
    auto* file = menuBar()->addMenu(tr("&File"));
    act(file, tr("New"), QKeySequence::New, [this] { afterSaving([this] { newModel(); }); });
    act(file, tr("Open …"), QKeySequence::Open, [this] { openFile({}); });
    act(file, tr("Import shapes …"), QKeySequence("Ctrl+I"), [this] { importShapes({}); });
    recentMenu_ = file->addMenu(tr("Open lately"));
    connect(recentMenu_, &QMenu::aboutToShow, this, [this] {
        recentMenu_->clear();
        for (const auto& path : recentFiles())
            recentMenu_->addAction(QFileInfo(path).fileName(), this, [this, path] { openFile(path); });
    });
    auto* examples = file->addMenu(tr("Examples"));
    for (const auto& example : undisona::examples()) {
        const QString path = exampleFolder() + "/" + example.name + ".undisona.json";
        if (QFileInfo::exists(path))
            act(examples, tr("Example: %1").arg(QString(example.name).replace('-', ' ')), {},
                [this, path] { openFile(path, true); });
    }
    file->addSeparator();
    act(file, tr("Save"), QKeySequence::Save, [this] { save(false); });
    act(file, tr("Save as …"), QKeySequence::SaveAs, [this] { save(true); });
    act(file, tr("Keep results beside the model"), QKeySequence("Ctrl+Shift+K"), [this] {
        if (session_->path().isEmpty() && !save(false)) return;
        session_->keepResults();
    });
    act(file, tr("Unsaved work …"), {}, [this] { recover(true); });
    file->addSeparator();
    act(file, tr("First screen"), {}, [this] {
        start_->renew();
        pages_->setCurrentWidget(start_);
    });
    act(file, tr("Quit"), QKeySequence::Quit, [this] { close(); });
}

void MainWindow::makeEditMenu()
{
    auto* edit = menuBar()->addMenu(tr("&Edit"));
    undo_ = act(edit, tr("Undo"), QKeySequence::Undo, [this] { session_->undo(); });
    redo_ = act(edit, tr("Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_->redo(); });
    edit->addSeparator();
    act(edit, tr("Duplicate the sentence"), QKeySequence("Ctrl+Shift+D"), [this] { ledger_->duplicateSelected(); });
    act(edit, tr("Remove the sentence"), {}, [this] { ledger_->removeSelected(); });
    act(edit, tr("Switch the sentence off or on"), QKeySequence("Ctrl+E"), [this] { ledger_->switchSelected(); });
    act(edit, tr("Move the sentence up"), {}, [this] { ledger_->moveSelected(-1); });
    act(edit, tr("Move the sentence down"), {}, [this] { ledger_->moveSelected(1); });
}

void MainWindow::makeLookMenu()
{
    auto* look = menuBar()->addMenu(tr("&Look"));
    act(look, tr("Play or halt the motion"), QKeySequence("Space"), [this] { scene_->togglePlay(); });
    const std::pair<const char*, const char*> sides[] = {{"corner", "Ctrl+Alt+0"}, {"front", "Ctrl+Alt+1"},
                                                         {"right", "Ctrl+Alt+2"},  {"top", "Ctrl+Alt+3"},
                                                         {"back", "Ctrl+Alt+4"},   {"left", "Ctrl+Alt+5"}};
    for (const auto& [side, key] : sides)
        act(look, tr("View from the %1").arg(side), QKeySequence(key),
            [this, side = QString(side)] { scene_->canvas().lookFrom(side); });
    act(look, tr("Seconds a turn of the motion …"), QKeySequence("Ctrl+Alt+T"), [this] {
        askText(tr("The motion"), tr("Seconds a turn, 0.2 to 60"), QString::number(scene_->canvas().look().turn),
                [this](const QString& text) {
                    bool isNumber = false;
                    const double seconds = QString(text).replace(',', '.').toDouble(&isNumber);
                    if (!isNumber || seconds < 0.2 || seconds > 60.0)
                        return session_->say(tr("\"%1\" is no time from 0.2 to 60 seconds.").arg(text));
                    SceneLook next = scene_->canvas().look();
                    next.turn = seconds;
                    scene_->setLook(next);
                    settings().setValue("scene/turn", seconds);
                });
    });
    act(look, tr("Two views, this mode on the right"), QKeySequence("Ctrl+Shift+V"), [this] { toggleSecondView(); });
    act(look, tr("Show the whole structure"), QKeySequence("Ctrl+0"), [this] { scene_->canvas().frameAll(); });
    look->addSeparator();
    const auto toggle = [&](const QString& text, const QKeySequence& key, bool SceneLook::*what) {
        auto* action = act(look, text, key, [this, what] {
            SceneLook next = scene_->canvas().look();
            next.*what = !(next.*what);
            scene_->setLook(next);
        });
        action->setCheckable(true);
        action->setChecked(SceneLook{}.*what);
    };
    toggle(tr("True sections"), QKeySequence("Ctrl+Alt+S"), &SceneLook::sections);
    toggle(tr("Sides of the elements on sheet"), QKeySequence("Ctrl+Alt+E"), &SceneLook::meshLines);
    toggle(tr("Node lines on sheet"), QKeySequence("Ctrl+Alt+L"), &SceneLook::nodeLines);
    toggle(tr("Undeformed outline"), QKeySequence("Ctrl+Alt+U"), &SceneLook::outline);
    toggle(tr("Supports, masses and springs"), QKeySequence("Ctrl+Alt+M"), &SceneLook::symbols);
    toggle(tr("Names of points"), QKeySequence("Ctrl+Alt+N"), &SceneLook::names);
    look->addSeparator();
    const auto parts = [&](const QString& text, const QKeySequence& key, std::set<std::string> SceneLook::*which) {
        act(look, text, key, [this, which] {
            const auto names = scene_->canvas().partsMeant();
            if (names.empty())
                return session_->say(tr("Put the cursor on a part, or select the sentence that makes it."));
            scene_->canvas().toggleParts(names, which);
        });
    };
    parts(tr("Hide the part under the cursor"), QKeySequence("Ctrl+Alt+H"), &SceneLook::hidden);
    parts(tr("Fade the part under the cursor"), QKeySequence("Ctrl+Alt+F"), &SceneLook::faded);
    act(look, tr("Keep the value under the cursor in view"), QKeySequence("Ctrl+Alt+V"), [this] {
        const auto place = scene_->canvas().placeUnderCursor();
        if (!place) return session_->say(tr("Put the cursor on a point or a part of a mode that is shown."));
        session_->toggleValuePlace(*place);
    });
    act(look, tr("Show all parts"), QKeySequence("Ctrl+Alt+A"), [this] { scene_->showAllParts(); });
    act(look, tr("Cut the view open"), QKeySequence("Ctrl+Alt+X"), [this] {
        if (scene_->canvas().look().cut)
            scene_->closeCut();
        else
            scene_->cutOpen({});
    });
    look->addSeparator();
    for (const auto& [name, unit] :
         {std::pair{"Hz", AxisUnit::hertz}, {"rpm", AxisUnit::rpm}, {"rad/s", AxisUnit::radPerSecond}})
        act(look, tr("Score in %1").arg(name), {}, [this, unit = unit] { score_->setUnit(unit); });
    act(look, tr("Score linear or logarithmic"), QKeySequence("Ctrl+L"),
        [this] { score_->setLogarithmic(!score_->axis().logarithmic()); });
    act(look, tr("Note heights by mass or by the next excitation"), QKeySequence("Ctrl+H"), [this] {
        const auto& excitations = session_->live().excitations;
        std::size_t next = 0;
        for (std::size_t at = 0; at < excitations.size(); ++at)
            if (QString::fromStdString(excitations[at].name) == score_->heightsBy()) next = at + 1;
        score_->setHeightsBy(next < excitations.size() ? QString::fromStdString(excitations[next].name) : QString());
        session_->say(score_->heightsBy().isEmpty()
                          ? tr("Heights: the largest effective-mass fraction.")
                          : tr("Heights: how strongly %1 drives each mode.").arg(score_->heightsBy()));
    });
    look->addSeparator();
    for (const char* page : {"modes", "mass", "clashes", "remedy", "energy", "compare", "mesh", "checks"})
        act(look, tr("Read %1").arg(page), {}, [this, page] {
            readings_->showPage(page);
            if (narrow_) leftTabs_->setCurrentIndex(1);
        });
    act(look, tr("Readings take the scene's room"), QKeySequence("F7"), [this] { growRegion(grown_ == 1 ? 0 : 1); });
    act(look, tr("Scene takes the whole window"), QKeySequence("F8"), [this] { growRegion(grown_ == 2 ? 0 : 2); });
    act(look, tr("Next region"), QKeySequence("F6"), [this] { goRound(1); });
    act(look, tr("Region before"), QKeySequence("Shift+F6"), [this] { goRound(-1); });
    look->addSeparator();
    act(look, tr("Light or dark"), QKeySequence("Ctrl+Shift+L"), [this] { setDark(!Theme::now().dark); });
}

} // namespace undisona
