// What the window does with files: open, save, ask before work is lost, bring it back after a crash, export.
#include "app/ledger/ledger_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_view.hpp"
#include "app/session/beside.hpp"
#include "app/session/settings.hpp"
#include "app/session/written_file.hpp"
#include "app/window/main_window.hpp"
#include "app/window/recover_dialog.hpp"
#include "core/model/document_io.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/mesh_file.hpp"
#include "core/shapes/shape_file.hpp"

#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>
#include <QStackedWidget>

namespace undisona {

bool MainWindow::openFile(const QString& wanted, bool asExample)
{
    QString path = wanted;
    if (path.isEmpty())
        path = QFileDialog::getOpenFileName(
            this, tr("Open a model"), settings().value("folder").toString(),
            tr("Models, shapes and meshes (*.undisona.json *.json *.step *.stp *.brep *.vtu);;All files (*)"));
    if (path.isEmpty()) return false;
    if (const QString ending = QFileInfo(path).suffix().toLower(); ending == "step" || ending == "stp" ||
                                                                   ending == "p21" || ending == "brep" ||
                                                                   ending == "brp" || ending == "vtu") {
        importShapes(path);
        return true;
    }
    const auto opened = std::make_shared<bool>(false); // false also while the question is still open
    afterSaving([this, path, asExample, opened] { *opened = openNow(path, asExample); });
    return *opened;
}

namespace {

/// So that the files are known when they are asked for; false where that was stopped.
bool readBeside(const QStringList& paths)
{
    return doneBeside(MainWindow::tr("Reading %1 …").arg(QFileInfo(paths.value(0)).fileName()),
                      [&](const Progress& progress) {
                          for (const auto& path : paths) {
                              if (progress.stopped()) return;
                              if (isMeshFile(path.toStdString()))
                                  MeshFile::read(path.toStdString(), &progress);
                              else
                                  ShapeFile::read(path.toStdString(), &progress);
                          }
                      });
}

} // namespace

bool MainWindow::readShapesOf(const QString& path)
{
    const auto document = readDocumentFile(path.toStdString(), WrongWords::kept);
    if (!document) return true; // which is said when it is opened
    QStringList files;
    for (const auto& file : filesOf(*document))
        files << QString::fromStdString(file);
    if (files.isEmpty()) return true;
    const bool whole = readBeside(files);
    if (!whole) session_->say(tr("Opening was stopped; nothing has changed."));
    return whole;
}

bool MainWindow::openNow(const QString& path, bool asExample)
{
    if (!readShapesOf(path)) return false;
    const Findings problems = session_->open(path, asExample);
    if (!problems.empty()) {
        QStringList text;
        for (std::size_t at = 0; at < problems.size() && at < 8; ++at)
            text << QString::fromStdString(oneLine(problems[at]));
        if (problems.size() > 8) text << tr("… and %1 more").arg(problems.size() - 8);
        sayInBox("openProblem", tr("This file cannot be opened"), text.join("\n"));
        return false;
    }
    scene_->showAllParts(); // what was hidden belongs to the model before
    scene_->closeCut();
    if (!asExample) settings().setValue("folder", QFileInfo(path).absolutePath());
    scene_->canvas().lookFrom("corner");
    score_->showAll();
    return true;
}

void MainWindow::importShapes(const QString& wanted)
{
    if (wanted.isEmpty()) {
        auto* dialog = new QFileDialog(this, tr("Import shapes"), settings().value("folder").toString(),
                                       tr("Shapes and meshes (*.step *.stp *.p21 *.brep *.brp *.vtu);;All files (*)"));
        dialog->setObjectName("importShapes");
        dialog->setFileMode(QFileDialog::ExistingFile);
        connect(dialog, &QFileDialog::fileSelected, this, &MainWindow::importShapes);
        return openDialog(dialog);
    }
    if (!session_->isOpen()) newModel();
    const QString path = QFileInfo(wanted).absoluteFilePath();
    if (!readBeside({path})) return;
    if (isMeshFile(path.toStdString()))
        takeMesh(*MeshFile::read(path.toStdString()), path);
    else
        takeShapes(*ShapeFile::read(path.toStdString()), path);
}

void MainWindow::takeShapes(const ShapeFile& file, const QString& path)
{
    const QString shown = QFileInfo(path).fileName();
    if (!file.problem.empty()) return sayNotImported(shown, file.problem, file.remedy);
    std::size_t mended = 0, sheets = 0;
    for (const auto& body : file.bodies) {
        mended += !body.mended.empty();
        sheets += !body.solid;
    }
    insertImported(importedSentences(session_->model(), file, path.toStdString()), path);
    QString said = file.bodies.size() == 1 ? tr("One body from %1.").arg(shown)
                                           : tr("%1 bodies from %2.").arg(file.bodies.size()).arg(shown);
    if (mended > 0) said += tr(" %1 mended when read: see Checks.").arg(mended);
    if (sheets > 0) said += tr(" %1 of sheet: say how thick.").arg(sheets);
    session_->say(said);
}

void MainWindow::takeMesh(const MeshFile& file, const QString& path)
{
    const QString shown = QFileInfo(path).fileName();
    if (!file.problem.empty()) return sayNotImported(shown, file.problem, file.remedy);
    const auto sentences = importedSentences(session_->model(), file, path.toStdString());
    const auto sheets = std::count_if(sentences.begin(), sentences.end(),
                                      [](const Sentence& sentence) { return sentence.text("of") == "sheet"; });
    insertImported(sentences, path);
    QString said = tr("%1 cells in %2 from %3: say in what unit its lengths are.")
                       .arg(file.cells.size())
                       .arg(sentences.size() == 1 ? tr("one part") : tr("%1 parts").arg(sentences.size()), shown);
    if (sheets > 0) said += tr(" %1 of sheet: say how thick.").arg(sheets);
    session_->say(said);
}

void MainWindow::sayNotImported(const QString& shown, const std::string& problem, const std::string& remedy)
{
    sayInBox("importProblem", tr("This file cannot be imported"),
             tr("%1: %2.\n%3").arg(shown, QString::fromStdString(problem), QString::fromStdString(remedy)));
}

void MainWindow::insertImported(std::vector<Sentence> sentences, const QString& path)
{
    const bool first = session_->model().group(Group::shape).empty();
    Model model = session_->model();
    for (auto& sentence : sentences)
        model = model.inserted(std::move(sentence));
    settings().setValue("folder", QFileInfo(path).absolutePath());
    session_->changeModel(tr("Import %1").arg(QFileInfo(path).fileName()), std::move(model));
    pages_->setCurrentWidget(work_);
    if (first) scene_->canvas().lookFrom("corner");
}

void MainWindow::newModel()
{
    Document document;
    document.name = "new structure";
    Model& model = document.model;
    const auto add = [&](const char* kind) { model = model.inserted(newSentence(*kindNamed(kind), model.freeId())); };
    add("material");
    add("lowest");
    session_->start(std::move(document), {});
    scene_->showAllParts();
    ledger_->setFocus();
    session_->say(tr("Begin with a shape: press Ctrl+1, or the + beside Shape."));
}

void MainWindow::afterSaving(const std::function<void()>& then)
{
    if (!session_->unsaved()) return then();
    auto* box = new QMessageBox(
        QMessageBox::Question, tr("Unsaved changes"),
        tr("\"%1\" has changes that are not saved.").arg(QString::fromStdString(session_->document().name)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    box->setObjectName("unsavedQuestion");
    box->setTextFormat(Qt::PlainText);
    connect(box, &QMessageBox::finished, this, [this, then](int answer) {
        if (answer == QMessageBox::Discard) session_->discardChanges();
        if (answer == QMessageBox::Discard || (answer == QMessageBox::Save && save(false))) then();
    });
    openDialog(box);
}

bool MainWindow::save(bool elsewhere)
{
    QString path = session_->path();
    if (path.isEmpty() || elsewhere)
        path = QFileDialog::getSaveFileName(this, tr("Save the model"),
                                            settings().value("folder").toString() + "/" +
                                                QString::fromStdString(session_->document().name).replace('/', '-') +
                                                ".undisona.json",
                                            tr("Models (*.undisona.json)"));
    if (path.isEmpty()) return false;
    if (!path.endsWith(".json")) path += ".undisona.json";
    bool overProtection = false;
    if (sameFile(QFile::encodeName(path).toStdString(), QFile::encodeName(session_->path()).toStdString()))
        if (const auto lines = session_->changedOutside(); !lines.empty()) {
            QStringList shown;
            for (std::size_t at = 0; at < lines.size() && at < 8; ++at)
                shown << QString::fromStdString(lines[at]);
            if (lines.size() > 8) shown << tr("… and %1 more").arg(lines.size() - 8);
            if (!agreed("changedOutside", tr("The file was changed"),
                        tr("%1 was changed by another program since it was read here. Save over it?").arg(path),
                        shown.join("\n"), tr("Save over it")))
                return false;
        }
    if (isWriteProtected(QFile::encodeName(path).toStdString())) {
        if (!agreed("protectedFile", tr("The file is protected"),
                    tr("%1 is protected from being written. Save over it all the same?").arg(path), {},
                    tr("Save over it")))
            return false;
        overProtection = true;
    }
    if (const auto problem = session_->save(path, overProtection)) {
        sayInBox("notSaved", tr("Not saved"), QString::fromStdString(oneLine(*problem)));
        return false;
    }
    return true;
}

bool MainWindow::agreed(const QString& name, const QString& title, const QString& question, const QString& more,
                        const QString& yes)
{
    QMessageBox box(QMessageBox::Warning, title, question, QMessageBox::Cancel, this);
    box.setObjectName(name);
    box.setTextFormat(Qt::PlainText); // names and paths are no markup
    box.setInformativeText(more);
    const QAbstractButton* go = box.addButton(yes, QMessageBox::AcceptRole);
    box.setDefaultButton(QMessageBox::Cancel);
    box.exec();
    return box.clickedButton() == go;
}

void MainWindow::sayInBox(const QString& name, const QString& title, const QString& text)
{
    auto* box = new QMessageBox(QMessageBox::Warning, title, text, QMessageBox::Ok, this);
    box->setObjectName(name);
    box->setTextFormat(Qt::PlainText);
    openDialog(box);
}

void MainWindow::recover(bool asked)
{
    auto left = std::make_shared<std::vector<LeftBehind>>(Autosave::leftBehind());
    if (left->empty()) {
        if (asked) session_->say(tr("No window has left unsaved work behind."));
        return;
    }
    openDialog(new RecoverDialog(left, this, [this](LeftBehind chosen) {
        afterSaving([this, chosen = std::move(chosen)] { session_->recover(chosen); });
    }));
}

void MainWindow::exportText(const QString& title, const QString& filter, const std::function<std::string()>& text)
{
    const QString path = QFileDialog::getSaveFileName(this, title, {}, filter);
    if (!path.isEmpty()) session_->say(writtenWords(path, text(), session_->files()));
}

} // namespace undisona
