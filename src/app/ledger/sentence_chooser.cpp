#include "app/ledger/sentence_chooser.hpp"

#include <QKeyEvent>
#include <QVBoxLayout>

namespace undisona {

SentenceChooser::SentenceChooser(Group group, QWidget* parent) : QDialog(parent, Qt::Dialog), group_(group)
{
    setWindowTitle(tr("Add a sentence"));
    setObjectName("sentenceChooser");
    resize(430, 420);
    line_ = new QLineEdit(this);
    line_->setPlaceholderText(tr("what do you want to say?"));
    line_->setObjectName("chooserLine");
    list_ = new QListWidget(this);
    list_->setObjectName("chooserList");
    list_->setFocusPolicy(Qt::NoFocus);
    help_ = new QLabel(this);
    help_->setObjectName("chooserHelp");
    help_->setWordWrap(true);
    help_->setMinimumHeight(64);
    help_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(line_);
    layout->addWidget(list_);
    layout->addWidget(help_);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textChanged, this, &SentenceChooser::fill);
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        const auto* item = list_->currentItem();
        const auto* kind = item ? kindNamed(item->data(Qt::UserRole).toString().toStdString()) : nullptr;
        if (kind) help_->setText(QString::fromStdString(kind->help));
    });
    connect(list_, &QListWidget::itemClicked, this, &SentenceChooser::choose);
    fill();
}

QString SentenceChooser::aboutForces(const QString& text)
{
    const QString low = text.toLower();
    for (const char* word : {"force", "load", "pressure", "weight", "gravity", "moment", "torque"})
        if (low.contains(word))
            return tr("Forces play no part in natural frequencies: a structure has them before anything pushes it. "
                      "Weight counts as mass: "
                      "add a mass. Something that shakes the structure is an excitation: add its speed or frequency.");
    return {};
}

void SentenceChooser::fill()
{
    list_->clear();
    const QString text = line_->text().trimmed();
    const QString forces = aboutForces(text);
    std::vector<std::pair<int, const SentenceKind*>> fitting;
    for (const auto& kind : sentenceKinds()) {
        const QString words = QString::fromStdString(kind.title + " " + kind.key + " " + kind.phrase + " " + kind.help);
        int rank = kind.group == group_ ? 0 : 2;
        if (!forces.isEmpty()) {
            if (kind.group != Group::addedMass && kind.group != Group::excitation) continue;
            rank = kind.key == "mass" || kind.key == "running-speed" ? 0 : 1;
        } else if (!text.isEmpty()) {
            if (!words.contains(text, Qt::CaseInsensitive)) continue;
            if (QString::fromStdString(kind.title).contains(text, Qt::CaseInsensitive)) --rank;
        } else if (kind.group != group_) {
            continue;
        }
        fitting.emplace_back(rank, &kind);
    }
    std::stable_sort(fitting.begin(), fitting.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [rank, kind] : fitting) {
        QString title = QString::fromStdString(kind->title);
        if (kind->group != group_)
            title +=
                QString("   (%1)").arg(QString::fromUtf8(groupTitles[static_cast<std::size_t>(kind->group)].data()));
        auto* item = new QListWidgetItem(title, list_);
        item->setData(Qt::UserRole, QString::fromStdString(kind->key));
    }
    help_->clear();
    if (list_->count() > 0) list_->setCurrentRow(0);
    if (!forces.isEmpty()) help_->setText(forces);
    if (list_->count() == 0) help_->setText(tr("No kind of sentence has this word."));
}

void SentenceChooser::choose()
{
    const auto* item = list_->currentItem();
    if (!item) return;
    chosen_ = kindNamed(item->data(Qt::UserRole).toString().toStdString());
    accept();
}

bool SentenceChooser::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int next = list_->currentRow() + (key == Qt::Key_Down ? 1 : -1);
            if (next >= 0 && next < list_->count()) list_->setCurrentRow(next);
            return true;
        }
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            choose();
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace undisona
