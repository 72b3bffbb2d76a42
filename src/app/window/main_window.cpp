#include "app/window/main_window.hpp"

#include "app/ledger/ledger_view.hpp"
#include "app/readings/reading_table.hpp"
#include "app/readings/readings_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_view.hpp"
#include "app/session/own_materials.hpp"
#include "app/session/settings.hpp"
#include "app/session/theme.hpp"
#include "app/window/start_page.hpp"
#include "app/window/strip.hpp"

#include <QCloseEvent>
#include <QFileInfo>
#include <QInputDialog>
#include <QLineEdit>
#include <QPushButton>
#include <QSplitter>
#include <QStackedWidget>
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
