#pragma once
#include "app/session/session.hpp"

#include <QMainWindow>

class QDialog;
class QLabel;
class QSplitter;
class QStackedWidget;
class QTabBar;

namespace undisona {

class LedgerView;
class ReadingsView;
class SceneView;
class ScoreView;
class StartPage;
class Strip;

/// One window, four regions.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    MainWindow();
    ~MainWindow() override;

    Session& session() { return *session_; }
    LedgerView& ledger() { return *ledger_; }
    SceneView& scene() { return *scene_; }
    ScoreView& score() { return *score_; }
    ReadingsView& readings() { return *readings_; }

    bool openFile(const QString& path, bool asExample = false);
    /// Adds a sentence for each body of a STEP or BREP file; an empty path asks for one.
    void importShapes(const QString& path);
    void newModel();
    /// Offers to bring back what windows that are gone could not save; says so where there is none and it was asked.
    void recover(bool asked = false);
    void setDark(bool dark);
    QList<QAction*> allActions() const { return actions_; }

protected:
    void closeEvent(QCloseEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    QAction* act(QMenu*, const QString& text, const QKeySequence& key, std::function<void()> what);
    void makeMenus();
    void makeFileMenu();
    void makeEditMenu();
    void makeLookMenu();
    void makeHandOverMenu();
    void pictureScene(); ///< in a size that is asked for
    /// A second view beside the scene that keeps the mode of now, turned and moved with it; or away with it.
    void toggleSecondView();
    void renew();
    void layOutForSize();
    void goRound(int by);
    bool openNow(const QString& path, bool asExample);
    bool readShapesOf(const QString& path); ///< what the model in this file names, before it is opened; false: stopped
    void takeShapes(const struct ShapeFile&, const QString& path);
    void takeMesh(const struct MeshFile&, const QString& path);
    void insertImported(std::vector<Sentence>, const QString& path);
    void sayNotImported(const QString& shown, const std::string& problem, const std::string& remedy);
    /// Goes on at once, or after the person has saved or given up the changes; not at all after a Cancel.
    void afterSaving(const std::function<void()>& then);
    bool save(bool elsewhere);
    bool agreed(const QString& name, const QString& title, const QString& question, const QString& more,
                const QString& yes);
    void sayInBox(const QString& name, const QString& title, const QString& text);
    void exportText(const QString& title, const QString& filter, const std::function<std::string()>& text);
    void openDialog(QDialog* dialog);
    void askText(const QString& title, const QString& label, const QString& proposal,
                 const std::function<void(const QString&)>& take);
    void keepTake();
    void keepSelectedMaterial(bool keep);
    void nameDocument();
    void growRegion(int which);
    void rememberWindow();

    std::unique_ptr<Session> session_;
    QStackedWidget* pages_;
    StartPage* start_;
    QWidget* work_;
    Strip* strip_;
    QSplitter *upDown_, *leftRight_;
    QWidget* leftColumn_;
    QTabBar* leftTabs_;
    QStackedWidget* leftPages_;
    LedgerView* ledger_;
    SceneView* scene_;
    SceneView* second_ = nullptr; ///< beside it, while there is one
    QSplitter* scenes_;
    ScoreView* score_;
    ReadingsView* readings_;
    QLabel* message_;
    QTimer messageTimer_;
    QList<QAction*> actions_;
    QMenu* recentMenu_ = nullptr;
    QAction *undo_ = nullptr, *redo_ = nullptr;
    bool narrow_ = false;
    int grown_ = 0;
};

} // namespace undisona
