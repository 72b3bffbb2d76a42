#include "app/ledger/sentence_chooser.hpp"

#include "core/model/other_words.hpp"

namespace undisona {

SentenceChooser::SentenceChooser(Group group, QWidget* parent)
    : SearchDialog(tr("Add a sentence"), tr("what do you want to say?"), parent), group_(group)
{
    setObjectName("sentenceChooser");
    resize(430, 420);
    line_->setObjectName("chooserLine");
    list_->setObjectName("chooserList");
    help_ = new QLabel(this);
    help_->setObjectName("chooserHelp");
    help_->setWordWrap(true);
    help_->setMinimumHeight(64);
    help_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column_->addWidget(help_);
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        const auto* item = list_->currentItem();
        const auto* kind = item ? kindNamed(item->data(Qt::UserRole).toString().toStdString()) : nullptr;
        if (kind) help_->setText(QString::fromStdString(kind->help));
    });
    fill();
}

void SentenceChooser::fill()
{
    list_->clear();
    const QString text = line_->text().trimmed();
    const QString forces = QString::fromStdString(aboutForces(text.toStdString()));
    const auto meant = kindsMeantBy(text.toStdString());
    std::vector<std::pair<int, const SentenceKind*>> fitting;
    for (const auto& kind : sentenceKinds()) {
        const QString words = QString::fromStdString(kind.title + " " + kind.key + " " + kind.phrase + " " + kind.help);
        const bool titled = QString::fromStdString(kind.title).contains(text, Qt::CaseInsensitive);
        const bool other = std::find(meant.begin(), meant.end(), kind.key) != meant.end();
        int rank = kind.group == group_ ? 0 : 2;
        if (!forces.isEmpty()) {
            if (kind.group != Group::addedMass && kind.group != Group::excitation) continue;
            rank = titled || other ? -1 : kind.key == "mass" || kind.key == "running-speed" ? 0 : 1;
        } else if (!text.isEmpty()) {
            if (!other && !words.contains(text, Qt::CaseInsensitive)) continue;
            if (titled) --rank;
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

} // namespace undisona
