#include "app/window/recover_dialog.hpp"

#include <QDialogButtonBox>
#include <QLabel>
#include <QListWidget>
#include <QLocale>
#include <QMessageBox>
#include <QPushButton>
#include <QVBoxLayout>

namespace undisona {

RecoverDialog::RecoverDialog(std::shared_ptr<std::vector<LeftBehind>> left, QWidget* parent,
                             std::function<void(LeftBehind)> bringBack)
    : QDialog(parent), left_(std::move(left))
{
    setWindowTitle(tr("Unsaved work"));
    setObjectName("recoverQuestion");
    resize(560, 300);
    auto* words = new QLabel(tr("A window ended before this was saved. Bring it back?"), this);
    words->setWordWrap(true);
    list_ = new QListWidget(this);
    list_->setObjectName("leftBehind");
    list_->setSpacing(4);
    list_->setAccessibleName(tr("unsaved work"));
    auto* buttons = new QDialogButtonBox(this);
    bring_ = buttons->addButton(tr("Bring back"), QDialogButtonBox::AcceptRole);
    remove_ = buttons->addButton(tr("Delete …"), QDialogButtonBox::DestructiveRole);
    buttons->addButton(tr("Later"), QDialogButtonBox::RejectRole);
    bring_->setDefault(true);
    bring_->setProperty("accent", true);
    auto* column = new QVBoxLayout(this);
    column->addWidget(words);
    column->addWidget(list_, 1);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::currentRowChanged, this, &RecoverDialog::select);
    connect(remove_, &QPushButton::clicked, this, &RecoverDialog::removeChosen);
    connect(bring_, &QPushButton::clicked, this, [this, bringBack = std::move(bringBack)] {
        const auto row = list_->currentRow();
        if (row < 0) return;
        LeftBehind chosen = std::move((*left_)[static_cast<std::size_t>(row)]);
        left_->clear(); // the others are free again
        accept();
        bringBack(std::move(chosen));
    });
    fill();
}

void RecoverDialog::fill()
{
    list_->clear();
    for (const auto& work : *left_) {
        QString line = work.name + " · " + QLocale().toString(work.written, QLocale::ShortFormat);
        if (!work.path.isEmpty()) line += " · " + work.path;
        if (work.whileSolving) line += tr(" · ended while solving");
        if (!work.document) line += tr(" · cannot be read; it lies at %1").arg(work.file);
        list_->addItem(line);
    }
    list_->setCurrentRow(0);
    select();
}

void RecoverDialog::select()
{
    const int row = list_->currentRow();
    const bool any = row >= 0 && static_cast<std::size_t>(row) < left_->size();
    bring_->setEnabled(any && (*left_)[static_cast<std::size_t>(row)].document.has_value());
    remove_->setEnabled(any);
}

void RecoverDialog::removeChosen()
{
    const int row = list_->currentRow();
    if (row < 0) return;
    const auto at = left_->begin() + row;
    QMessageBox box(QMessageBox::Question, tr("Delete unsaved work"), tr("Delete \"%1\" for good?").arg(at->name),
                    QMessageBox::Cancel, this);
    box.setObjectName("deleteQuestion");
    box.setTextFormat(Qt::PlainText);
    const QAbstractButton* yes = box.addButton(tr("Delete for good"), QMessageBox::DestructiveRole);
    box.exec();
    if (box.clickedButton() != yes) return;
    Autosave::remove(*at);
    left_->erase(at);
    if (left_->empty()) return reject();
    fill();
}

} // namespace undisona
