#include "app/ledger/sentence_chooser.hpp"

#include "app/ledger/kind_drawing.hpp"
#include "app/session/settings.hpp"
#include "app/session/theme.hpp"
#include "core/model/kind_families.hpp"
#include "core/model/other_words.hpp"

#include <QPainter>
#include <QStyledItemDelegate>

namespace undisona {

namespace {

constexpr int ofKey = Qt::UserRole, ofSentence = Qt::UserRole + 1;
const char* const lately = "chooser/lately";
constexpr qsizetype mostLately = 40, shownLately = 4; // kept of all groups; shown of one

/// A drawing, the title, and under it the sentence with example words; a heading without them.
class KindLine : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        const int line = option.fontMetrics.height();
        return {100, index.data(ofKey).toString().isEmpty() ? line + 10 : 2 * line + 8};
    }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        const Theme& theme = Theme::now();
        const int line = option.fontMetrics.height();
        const auto* kind = kindNamed(index.data(ofKey).toString().toStdString());
        if (!kind) {
            painter->setFont(textFont(-1.0, true));
            painter->setPen(theme.quiet);
            painter->drawText(option.rect.adjusted(8, 0, -8, -3), Qt::AlignLeft | Qt::AlignBottom,
                              index.data().toString());
            return;
        }
        if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, theme.selection);
        const int side = std::min(30, option.rect.height() - 8);
        drawKind(*painter, QRectF(option.rect.left() + 10, option.rect.center().y() - side / 2, side, side), *kind);
        const QRect words = option.rect.adjusted(22 + side, 3, -8, -3);
        painter->setFont(textFont(0.0));
        painter->setPen(theme.ink);
        painter->drawText(QRect(words.left(), words.top(), words.width(), line), Qt::AlignLeft | Qt::AlignVCenter,
                          option.fontMetrics.elidedText(index.data().toString(), Qt::ElideRight, words.width()));
        painter->setFont(textFont(-1.0));
        painter->setPen(theme.quiet);
        painter->drawText(
            QRect(words.left(), words.top() + line, words.width(), line), Qt::AlignLeft | Qt::AlignVCenter,
            painter->fontMetrics().elidedText(index.data(ofSentence).toString(), Qt::ElideRight, words.width()));
    }
};

} // namespace

SentenceChooser::SentenceChooser(Group group, QWidget* parent)
    : SearchDialog(tr("Add a sentence"), tr("what do you want to say?"), parent), group_(group)
{
    setObjectName("sentenceChooser");
    resize(560, 560);
    line_->setObjectName("chooserLine");
    list_->setObjectName("chooserList");
    list_->setItemDelegate(new KindLine(list_));
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    help_ = new QLabel(this);
    help_->setObjectName("chooserHelp");
    help_->setWordWrap(true);
    help_->setMinimumHeight(64);
    help_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column_->addWidget(help_);
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        const auto* item = list_->currentItem();
        const auto* kind = item ? kindNamed(item->data(ofKey).toString().toStdString()) : nullptr;
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
            const bool loads = kind.group == Group::loads;
            if (!loads && kind.group != Group::addedMass && kind.group != Group::excitation) continue;
            rank = titled || other ? -1 : loads || kind.key == "mass" || kind.key == "running-speed" ? 0 : 1;
        } else if (!text.isEmpty()) {
            if (!other && !words.contains(text, Qt::CaseInsensitive)) continue;
            if (titled) --rank;
        } else if (kind.group != group_) {
            continue;
        }
        fitting.emplace_back(rank, &kind);
    }
    std::stable_sort(fitting.begin(), fitting.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    if (text.isEmpty()) { // the group's own, in their families
        std::vector<const SentenceKind*> late;
        for (const QString& key : settings().value(lately).toStringList())
            if (const auto* kind = kindNamed(key.toStdString());
                kind && kind->group == group_ && static_cast<qsizetype>(late.size()) < shownLately)
                late.push_back(kind);
        if (!late.empty()) addHeading(tr("Lately used"));
        for (const auto* kind : late)
            addKind(*kind);
        for (const auto& family : kindFamilies()) {
            bool headed = false;
            for (const auto key : family.keys) {
                const auto* kind = kindNamed(key);
                if (kind->group != group_) continue;
                if (!std::exchange(headed, true)) addHeading(QString::fromUtf8(family.title.data()));
                addKind(*kind);
            }
        }
    } else {
        for (const auto& [rank, kind] : fitting)
            addKind(*kind);
    }
    help_->clear();
    for (int row = 0; row < list_->count() && list_->currentRow() < 0; ++row)
        if (list_->item(row)->flags() & Qt::ItemIsSelectable) list_->setCurrentRow(row);
    if (!forces.isEmpty()) help_->setText(forces);
    if (list_->count() == 0) help_->setText(tr("No kind of sentence has this word."));
}

void SentenceChooser::addHeading(const QString& title)
{
    auto* item = new QListWidgetItem(title, list_);
    item->setFlags(Qt::ItemIsEnabled);
}

void SentenceChooser::addKind(const SentenceKind& kind)
{
    QString title = QString::fromStdString(kind.title);
    if (kind.group != group_)
        title += QString("   (%1)").arg(QString::fromUtf8(groupTitles[static_cast<std::size_t>(kind.group)].data()));
    auto* item = new QListWidgetItem(title, list_);
    const QString sentence = QString::fromStdString(wordsOf(newSentence(kind, "example")));
    item->setData(ofKey, QString::fromStdString(kind.key));
    item->setData(ofSentence, sentence);
    item->setData(Qt::AccessibleDescriptionRole, sentence);
}

void SentenceChooser::choose()
{
    const auto* item = list_->currentItem();
    chosen_ = item ? kindNamed(item->data(ofKey).toString().toStdString()) : nullptr;
    if (!chosen_) return;
    QStringList late = settings().value(lately).toStringList();
    late.removeAll(QString::fromStdString(chosen_->key));
    late.prepend(QString::fromStdString(chosen_->key));
    settings().setValue(lately, late.mid(0, mostLately));
    accept();
}

} // namespace undisona
