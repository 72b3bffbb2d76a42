#include "app/window/main_window.hpp"

#include "app/ledger/ledger_view.hpp"
#include "app/readings/reading_table.hpp"
#include "app/readings/readings_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_view.hpp"
#include "app/session/own_materials.hpp"
#include "app/session/settings.hpp"
#include "app/session/theme.hpp"
#include "app/window/action_finder.hpp"
#include "app/window/before_dialog.hpp"
#include "app/window/key_page.hpp"
#include "app/window/start_page.hpp"
#include "app/window/strip.hpp"
#include "core/patterns/break_up.hpp"

#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QSplitter>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QTabBar>

namespace undisona {

MainWindow::MainWindow() : session_(std::make_unique<Session>())
{
    setObjectName("mainWindow");
    start_ = new StartPage(this);
    work_ = new QWidget(this);
    strip_ = new Strip(*session_, work_);
    ledger_ = new LedgerView(*session_);
    scene_ = new SceneView(*session_);
    score_ = new ScoreView(*session_);
    readings_ = new ReadingsView(*session_);

    leftColumn_ = new QWidget;
    leftTabs_ = new QTabBar(leftColumn_);
    leftTabs_->addTab(tr("Ledger"));
    leftTabs_->addTab(tr("Readings"));
    leftTabs_->hide();
    leftPages_ = new QStackedWidget(leftColumn_);
    leftPages_->addWidget(ledger_);
    auto* left = new QVBoxLayout(leftColumn_);
    left->setContentsMargins(0, 0, 0, 0);
    left->setSpacing(0);
    left->addWidget(leftTabs_);
    left->addWidget(leftPages_);
    connect(leftTabs_, &QTabBar::currentChanged, this, [this](int page) {
        if (page < leftPages_->count()) leftPages_->setCurrentIndex(page);
    });

    leftRight_ = new QSplitter(Qt::Horizontal);
    leftRight_->addWidget(leftColumn_);
    scenes_ = new QSplitter(Qt::Horizontal);
    scenes_->setHandleWidth(1);
    scenes_->setChildrenCollapsible(false);
    scenes_->addWidget(scene_);
    leftRight_->addWidget(scenes_);
    leftRight_->addWidget(readings_);
    leftRight_->setStretchFactor(1, 1);
    leftRight_->setSizes({316, 592, 372});
    upDown_ = new QSplitter(Qt::Vertical);
    upDown_->addWidget(leftRight_);
    upDown_->addWidget(score_);
    upDown_->setStretchFactor(0, 3);
    upDown_->setStretchFactor(1, 1);
    upDown_->setSizes({526, 208});
    for (auto* splitter : {leftRight_, upDown_}) {
        splitter->setHandleWidth(1);
        splitter->setChildrenCollapsible(false);
    }
    message_ = new QLabel(work_);
    message_->setObjectName("message");
    message_->setContentsMargins(12, 4, 12, 4);
    message_->setWordWrap(true);
    message_->hide();
    messageTimer_.setSingleShot(true);
    connect(&messageTimer_, &QTimer::timeout, message_, &QWidget::hide);

    auto* layout = new QVBoxLayout(work_);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(strip_);
    layout->addWidget(message_);
    layout->addWidget(upDown_, 1);
    pages_ = new QStackedWidget(this);
    pages_->addWidget(start_);
    pages_->addWidget(work_);
    setCentralWidget(pages_);
    SceneLook look;
    look.turn = std::clamp(settings().value("scene/turn", look.turn).toDouble(), 0.2, 60.0);
    scene_->setLook(look);

    connect(start_, &StartPage::newWanted, this, &MainWindow::newModel);
    connect(start_, &StartPage::openWanted, this, [this] { openFile({}); });
    connect(start_, &StartPage::fileWanted, this, [this](const QString& path) { openFile(path); });
    connect(start_, &StartPage::exampleWanted, this, [this](const QString& path) { openFile(path, true); });
    connect(strip_, &Strip::checksWanted, this, [this] {
        readings_->showPage("checks");
        if (narrow_) leftTabs_->setCurrentIndex(1);
    });
    connect(readings_, &ReadingsView::sentenceWanted, this, [this](const std::string& id) {
        if (narrow_) leftTabs_->setCurrentIndex(0);
        ledger_->showSentence(id);
        ledger_->setFocus();
    });
    connect(readings_, &ReadingsView::energyWanted, this, [this] { scene_->paint(Colouring::energy); });
    connect(readings_, &ReadingsView::stressWanted, this, [this] { scene_->paint(Colouring::stress); });
    connect(readings_, &ReadingsView::stateWanted, this, [this] {
        scene_->canvas().play(false);
        scene_->canvas().setPhase(0.25);
    });
    connect(readings_, &ReadingsView::massMapWanted, this, [this] { scene_->paint(Colouring::massSlope); });
    connect(readings_, &ReadingsView::springMapWanted, this, [this] { scene_->paint(Colouring::springSlope); });
    connect(session_.get(), &Session::told, this, [this](const QString& text) {
        message_->setText(text);
        message_->setStyleSheet(
            QString("background: %1; color: %2").arg(Theme::now().amberGround.name(), Theme::now().ink.name()));
        message_->show();
        messageTimer_.start(9000);
    });
    connect(session_.get(), &Session::documentChanged, this, &MainWindow::renew);
    makeMenus();
    qApp->installEventFilter(this);

    resize(settings().value("window/size", QSize(1280, 800)).toSize());
    if (settings().contains("window/columns"))
        leftRight_->restoreState(settings().value("window/columns").toByteArray());
    if (settings().contains("window/rows")) upDown_->restoreState(settings().value("window/rows").toByteArray());
    readings_->showPage(settings().value("window/page", "clashes").toString());
    renew();
}

MainWindow::~MainWindow()
{
    qApp->removeEventFilter(this);
}

void MainWindow::rememberWindow()
{
    settings().setValue("window/size", size());
    if (grown_ == 0 && !narrow_ && !second_) {
        settings().setValue("window/columns", leftRight_->saveState());
        settings().setValue("window/rows", upDown_->saveState());
    }
    settings().setValue("window/page", readings_->page());
}

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

void MainWindow::toggleSecondView()
{
    constexpr int roomForAll = 1500; // pixels: the readings stay beside two views
    if (second_) {
        delete std::exchange(second_, nullptr);
        if (grown_ == 0) readings_->setVisible(true);
        scene_->setFocus();
        QTimer::singleShot(0, scene_, [this] { scene_->canvas().frameAll(); });
        return;
    }
    if (!session_->mode())
        return session_->say(tr("Solve first; the mode that is shown then stays in the second view."));
    second_ = new SceneView(*session_);
    second_->setObjectName("secondScene");
    second_->setAccessibleName(tr("Second scene"));
    second_->setLook(scene_->canvas().look());
    SceneCanvas &one = scene_->canvas(), &other = second_->canvas();
    other.fixTo(SceneCanvas::Fixed{session_->shown().id, session_->shownMode()});
    other.seeAs(one.camera());
    other.setPhase(one.phase());
    const auto follow = [](SceneCanvas* leader, SceneCanvas* follower) {
        connect(leader, &SceneCanvas::shown, follower, [=] { follower->seeAs(leader->camera()); });
        connect(leader, &SceneCanvas::phaseChanged, follower, [=] {
            if (follower->phase() != leader->phase()) follower->setPhase(leader->phase());
        });
    };
    follow(&one, &other);
    follow(&other, &one);
    scenes_->addWidget(second_);
    scenes_->setSizes({1, 1});
    if (!narrow_ && width() < roomForAll) readings_->setVisible(false);
    QTimer::singleShot(0, second_, [this] { scene_->canvas().frameAll(); }); // in the room that is left
    session_->say(tr("This mode stays on the right; choose another for the left. Both are seen from the same side."));
}

void MainWindow::renew()
{
    if (session_->isOpen() && pages_->currentWidget() != work_) pages_->setCurrentWidget(work_);
    const QString file = session_->path().isEmpty() ? QString::fromStdString(session_->document().name)
                                                    : QFileInfo(session_->path()).fileName();
    setWindowTitle(session_->isOpen() ? QString("%1%2 – Undisona").arg(session_->unsaved() ? "* " : "", file)
                                      : QString("Undisona"));
    undo_->setEnabled(!session_->undoWords().isEmpty());
    undo_->setText(session_->undoWords().isEmpty() ? tr("Undo") : tr("Undo: %1").arg(session_->undoWords()));
    redo_->setEnabled(!session_->redoWords().isEmpty());
    redo_->setText(session_->redoWords().isEmpty() ? tr("Redo") : tr("Redo: %1").arg(session_->redoWords()));
}

void MainWindow::setDark(bool dark)
{
    Theme::set(dark);
    settings().setValue("dark", dark);
    start_->renew();
    scene_->setLook(scene_->canvas().look());
    emit session_->derivedChanged();
    emit session_->stavesChanged();
}

void MainWindow::openDialog(QDialog* dialog)
{
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::askText(const QString& title, const QString& label, const QString& proposal,
                         const std::function<void(const QString&)>& take)
{
    auto* dialog = new QInputDialog(this);
    dialog->setWindowTitle(title);
    dialog->setLabelText(label);
    dialog->setTextValue(proposal);
    connect(dialog, &QInputDialog::textValueSelected, this, [take](const QString& text) {
        if (!text.trimmed().isEmpty()) take(text.trimmed());
    });
    openDialog(dialog);
}

void MainWindow::keepSelectedMaterial(bool keep)
{
    const auto said = session_->model().sentence(session_->selectedSentence());
    if (!said || said->kind->key != "own-material")
        return session_->say(tr("Select a material of your own in the group Material first."));
    const QString name = QString::fromStdString(said->text("name"));
    if (!keep && !keptMaterial(name)) return session_->say(tr("%1 is not kept for other models.").arg(name));
    const auto problem = keep ? keepMaterial(*said) : forgetMaterial(name);
    if (problem)
        session_->say(QString::fromStdString(problem->what + ". " + problem->remedy));
    else if (keep)
        session_->say(tr("Kept: every model now offers %1 where a material is chosen.").arg(name));
    else
        session_->say(tr("%1 is kept no longer; this model still has it.").arg(name));
}

void MainWindow::keepTake()
{
    const QString proposal =
        session_->document().takes.empty() ? tr("as built") : tr("take %1").arg(session_->document().takes.size() + 1);
    askText(tr("Keep as a take"), tr("Name of this state of the model"), proposal,
            [this](const QString& name) { session_->keepTake(name); });
}

void MainWindow::nameDocument()
{
    askText(tr("Name the model"), tr("Name"), QString::fromStdString(session_->document().name),
            [this](const QString& name) {
                Document next = session_->document();
                next.name = name.toStdString();
                session_->change(tr("name the model"), std::move(next));
            });
}

void MainWindow::goRound(int by)
{
    std::vector<QWidget*> regions{ledger_, scene_, readings_, score_};
    std::size_t now = 0;
    for (std::size_t at = 0; at < regions.size(); ++at)
        if (regions[at]->isAncestorOf(focusWidget()) || regions[at] == focusWidget()) now = at;
    for (std::size_t step = 1; step <= regions.size(); ++step) {
        auto* next = regions[(now + regions.size() + (by > 0 ? step : regions.size() - step)) % regions.size()];
        if (narrow_ && next == readings_) leftTabs_->setCurrentIndex(1);
        if (narrow_ && next == ledger_) leftTabs_->setCurrentIndex(0);
        if (!next->isVisible()) continue;
        if (next == readings_) {
            auto* table = readings_->currentWidget()->findChild<ReadingTable*>();
            table ? table->setFocus(Qt::TabFocusReason) : readings_->setFocus(Qt::TabFocusReason);
        } else {
            next->setFocus(Qt::TabFocusReason);
        }
        return;
    }
}

void MainWindow::growRegion(int which)
{
    grown_ = which;
    scenes_->setVisible(which != 1);
    leftColumn_->setVisible(which != 2);
    readings_->setVisible(which != 2);
    score_->setVisible(which != 2);
    strip_->setVisible(which != 2);
}

void MainWindow::resizeEvent(QResizeEvent* event)
{
    QMainWindow::resizeEvent(event);
    layOutForSize();
}

void MainWindow::layOutForSize()
{
    const bool narrow = width() < 1100 || height() < 700;
    if (narrow == narrow_) return;
    narrow_ = narrow;
    if (narrow) {
        leftPages_->addWidget(readings_);
        leftTabs_->show();
        leftPages_->setCurrentIndex(leftTabs_->currentIndex());
    } else {
        leftRight_->addWidget(readings_);
        readings_->show();
        leftTabs_->hide();
        leftPages_->setCurrentIndex(0);
        leftRight_->setSizes({316, width() - 688, 372});
    }
}

bool MainWindow::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::ShortcutOverride) {
        // In a line that is being typed a space is a space, and on a button that only Tab leads to it presses it; Page
        // keys still step the modes.
        auto* key = static_cast<QKeyEvent*>(event);
        const auto* button = qobject_cast<QPushButton*>(watched);
        if (key->key() == Qt::Key_Space &&
            (qobject_cast<QLineEdit*>(watched) || (button && button->focusPolicy() == Qt::TabFocus)))
            event->accept();
    }
    return QMainWindow::eventFilter(watched, event);
}

void MainWindow::closeEvent(QCloseEvent* event)
{
    if (session_->unsaved()) {
        event->ignore();
        return afterSaving([this] { close(); });
    }
    session_->finishWriting();
    rememberWindow();
    event->accept();
}

} // namespace undisona
