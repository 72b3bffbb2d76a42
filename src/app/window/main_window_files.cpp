// What the window does with files: open, save, ask before work is lost, bring it back after a crash, export.
#include "app/ledger/ledger_view.hpp"
#include "app/scene/scene_view.hpp"
#include "app/score/score_view.hpp"
#include "app/session/settings.hpp"
#include "app/window/main_window.hpp"

#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QStandardPaths>

namespace undisona {

bool MainWindow::openFile(const QString& wanted, bool asExample)
{
    QString path = wanted;
    if (path.isEmpty())
        path = QFileDialog::getOpenFileName(this, tr("Open a model"), settings().value("folder").toString(),
                                            tr("Models (*.undisona.json *.json);;All files (*)"));
    if (path.isEmpty()) return false;
    const auto opened = std::make_shared<bool>(false); // false also while the question is still open
    afterSaving([this, path, asExample, opened] { *opened = openNow(path, asExample); });
    return *opened;
}

bool MainWindow::openNow(const QString& path, bool asExample)
{
    const Findings problems = session_->open(path, asExample);
    if (!problems.empty()) {
        QString text;
        for (std::size_t at = 0; at < problems.size() && at < 8; ++at)
            text += QString::fromStdString(oneLine(problems[at])).toHtmlEscaped() + "<br>";
        if (problems.size() > 8) text += tr("… and %1 more").arg(problems.size() - 8);
        auto* box =
            new QMessageBox(QMessageBox::Warning, tr("This file cannot be opened"), text, QMessageBox::Ok, this);
        box->setObjectName("openProblem");
        openDialog(box);
        return false;
    }
    scene_->showAllParts(); // what was hidden belongs to the model before
    scene_->closeCut();
    if (!asExample) settings().setValue("folder", QFileInfo(path).absolutePath());
    scene_->canvas().lookFrom("corner");
    score_->showAll();
    return true;
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
    if (const auto problem = session_->save(path)) {
        QMessageBox::warning(this, tr("Not saved"), QString::fromStdString(oneLine(*problem)));
        return false;
    }
    return true;
}

void MainWindow::recover()
{
    const QString path =
        QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + "/autosave.undisona.json";
    if (!QFileInfo::exists(path)) return;
    const auto document = readDocumentFile(path.toStdString());
    if (!document) { // kept aside for a person to look at
        QFile::remove(path + ".unreadable");
        QFile::rename(path, path + ".unreadable");
        return;
    }
    auto* box =
        new QMessageBox(QMessageBox::Question, tr("Unsaved work"),
                        tr("An earlier run ended before \"%1\" was saved (%2). Bring it back?")
                            .arg(QString::fromStdString(document->name), QFileInfo(path).lastModified().toString()),
                        QMessageBox::Yes | QMessageBox::No, this);
    box->setObjectName("recoverQuestion");
    connect(box, &QMessageBox::finished, this, [this, path, kept = *document](int answer) {
        if (answer == QMessageBox::Yes)
            session_->recover(kept);
        else if (answer == QMessageBox::No)
            QFile::remove(path);
    });
    openDialog(box);
}

void MainWindow::exportText(const QString& title, const QString& filter, const std::function<std::string()>& text)
{
    const QString path = QFileDialog::getSaveFileName(this, title, {}, filter);
    if (path.isEmpty()) return;
    QFile file(path);
    const std::string content = text();
    if (!file.open(QIODevice::WriteOnly) || file.write(content.data(), static_cast<qint64>(content.size())) < 0)
        session_->say(tr("%1 cannot be written.").arg(path));
    else
        session_->say(tr("Written to %1").arg(path));
}

} // namespace undisona
