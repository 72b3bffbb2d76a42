// What leaves the program: tables, shapes, pictures, films.
#include "app/film/film_dialog.hpp"
#include "app/report/report_dialog.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_drawing.hpp"
#include "app/session/written_file.hpp"
#include "app/window/main_window.hpp"
#include "core/io/export.hpp"
#include "core/io/gltf.hpp"

#include <QMenuBar>
#include <QFileDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QMessageBox>

namespace undisona {

void MainWindow::makeHandOverMenu()
{
    auto* over = menuBar()->addMenu(tr("Hand &over"));
    const auto needs = [this]() -> const Solution* {
        const Stave& stave = session_->shown();
        if (!stave.solution) {
            session_->say(tr("Solve first."));
            return nullptr;
        }
        if (stave.stale &&
            QMessageBox::question(
                this, tr("Before your last change"),
                tr("These results belong to the model before your last change. Export them all the same?")) !=
                QMessageBox::Yes)
            return nullptr;
        return stave.solution.get();
    };
    act(over, tr("Report …"), QKeySequence("Ctrl+R"), [this, needs] {
        if (needs()) openDialog(new ReportDialog(*session_, scene_->canvas(), this));
    });
    over->addSeparator();
    act(over, tr("Modes as a table (CSV) …"), {}, [this, needs] {
        if (const auto* solution = needs())
            exportText(tr("Modes"), "*.csv", [solution] { return solutionCsv(*solution); });
    });
    act(over, tr("Everything read (JSON) …"), {}, [this, needs] {
        if (const auto* solution = needs())
            exportText(tr("Readings"), "*.json",
                       [this, solution] { return solutionJson(*solution, session_->shown().clashes, true); });
    });
    act(over, tr("Mode shapes (VTU) …"), {}, [this, needs] {
        if (const auto* solution = needs())
            exportText(tr("Mode shapes"), "*.vtu", [solution] { return solutionVtu(*solution); });
    });
    act(over, tr("Mode shapes at the nodes (CSV) …"), {}, [this, needs] {
        if (const auto* solution = needs())
            exportText(tr("Mode shapes"), "*.csv", [solution] { return shapesCsv(*solution); });
    });
    act(over, tr("Modes in motion for a browser (HTML, glTF) …"), {}, [this, needs] {
        const auto* solution = needs();
        if (!solution) return;
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Modes in motion"), {}, tr("Page (*.html);;glTF (*.glb)"));
        if (path.isEmpty()) return;
        const std::string motion = path.endsWith(".glb", Qt::CaseInsensitive)
                                       ? modesGlb(*solution)
                                       : motionPage(*solution, session_->document().name);
        session_->say(motion.empty() ? tr("There is nothing to draw.") : writtenWords(path, motion, session_->files()));
    });
    act(over, tr("Film of modes in motion …"), QKeySequence("Ctrl+Shift+M"), [this, needs] {
        if (needs()) openDialog(new FilmDialog(*session_, scene_->canvas(), this));
    });
    act(over, tr("Picture of the scene …"), {}, [this] { pictureScene(); });
    act(over, tr("Drawing of the Score …"), {}, [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Drawing of the Score"), {},
                                                          tr("Drawing (*.svg);;Document (*.pdf);;Picture (*.png)"));
        if (!path.isEmpty()) session_->say(writtenWords(path, scoreDrawing(*session_, path), session_->files()));
    });
    act(over, tr("Picture of the window …"), {}, [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Picture"), {}, "*.png");
        if (!path.isEmpty()) session_->say(writtenWords(path, pngOf(grab().toImage()), session_->files()));
    });
}

void MainWindow::pictureScene()
{
    const SceneCanvas& seen = scene_->canvas();
    bool wanted = false;
    const QString text =
        QInputDialog::getText(this, tr("Picture of the scene"), tr("Size in pixels"), QLineEdit::Normal,
                              QString("%1 x %2").arg(2 * seen.width()).arg(2 * seen.height()), &wanted);
    if (!wanted) return;
    const auto size = sizeNamed(text);
    if (!size || size->isEmpty() || std::max(size->width(), size->height()) > 8192)
        return session_->say(tr("\"%1\" is no size of a picture: write 1920 x 1080, up to 8192 each way.").arg(text));
    const QString path = QFileDialog::getSaveFileName(this, tr("Picture"), {}, "*.png");
    if (path.isEmpty()) return;
    SceneStage stage(*session_, *size, seen.look(), seen.camera(), true);
    session_->say(writtenWords(path, pngOf(stage.pictureAt(seen.phase())), session_->files()));
}

} // namespace undisona
