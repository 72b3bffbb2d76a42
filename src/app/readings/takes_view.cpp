#include "app/readings/takes_view.hpp"

#include "core/model/differences.hpp"
#include "core/model/takes.hpp"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>

namespace undisona {

namespace {

QString text(const std::string& words)
{
    return QString::fromStdString(words);
}

QString clashWords(const Stave& stave)
{
    const auto& pairs = stave.clashes.pairs;
    const auto clashes =
        std::count_if(pairs.begin(), pairs.end(), [](const ClashPair& one) { return one.verdict == Verdict::clash; });
    return clashes > 0 ? TakesView::tr("✕ %1").arg(clashes) : TakesView::tr("○");
}

} // namespace

TakesView::TakesView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    above_ = richLabel("takesWords", this);
    table_ = new ReadingTable(this);
    table_->setObjectName("takesTable");
    table_->foldLastColumns();
    table_->setAccessibleName(tr("takes"));
    table_->setSortingEnabled(false); // their order says which came from which
    table_->setHeads({tr("take"), tr("kept"), tr("lowest Hz"), tr("clash"), tr("mass"), tr("note")});
    table_->horizontalHeader()->setStretchLastSection(true);
    changes_ = richLabel("takesChanges", this);
    words_ = new QWidget(this);
    name_ = new QLineEdit(words_);
    name_->setObjectName("takeName");
    note_ = new QLineEdit(words_);
    note_->setObjectName("takeNote");
    note_->setPlaceholderText(tr("what is to be remembered of it"));
    use_ = new QPushButton(tr("Make it the model"), words_);
    use_->setObjectName("useTake");
    remove_ = new QPushButton(tr("Remove it"), words_);
    remove_->setObjectName("removeTake");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(use_);
    buttons->addWidget(remove_);
    buttons->addStretch();
    auto* form = new QFormLayout(words_);
    form->setContentsMargins(12, 4, 8, 8);
    form->addRow(tr("Name"), name_);
    form->addRow(tr("Note"), note_);
    form->addRow(buttons);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(above_);
    column->addWidget(table_, 1);
    column->addWidget(changes_);
    column->addWidget(words_);
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    connect(table_, &ReadingTable::keyChosen, this, &TakesView::choose);
    for (QLineEdit* field : {name_, note_})
        connect(field, &QLineEdit::editingFinished, this, &TakesView::keepWords);
    connect(use_, &QPushButton::clicked, this, [this] { session_.useTake(chosen_); });
    connect(remove_, &QPushButton::clicked, this, [this] { session_.removeTake(chosen_); });
    connect(&session_, &Session::documentChanged, this, [this] {
        if (isVisible()) fill();
    });
}

void TakesView::fill()
{
    const Document& document = session_.document();
    const auto tree = treeOf(document);
    const Theme& theme = Theme::now();
    above_->setText(document.takes.empty()
                        ? tr("Keep the model as a take (Ctrl+T) before you change it. Takes then stand here as a tree: "
                             "which came from which, when, why, and what was changed on the way.")
                        : tr("Each take stands below the one that it came from."));
    std::vector<std::vector<ReadingTable::Cell>> cells;
    std::vector<int> keys;
    ids_.clear();
    int chosen = 0;
    for (std::size_t row = 0; row < tree.size(); ++row) {
        const Take* take = tree[row].take;
        const QString id = take ? text(take->id) : QString();
        if (id == chosen_) chosen = static_cast<int>(row);
        const auto stave = std::find_if(session_.staves().begin(), session_.staves().end(),
                                        [&](const Stave& one) { return one.id == id; });
        const bool solved = stave != session_.staves().end() && stave->solution && !stave->stale;
        const QString indent = QString(3 * tree[row].depth, QChar(0x00A0));
        const QString lead = tree[row].depth > 0 ? "└ " : "";
        std::vector<ReadingTable::Cell> line{{indent + lead + (take ? text(take->name) : tr("now")),
                                              {},
                                              {},
                                              !take,
                                              false,
                                              take ? text(take->name) : QString()},
                                             {take ? text(localTime(take->kept)).left(10) : QString(),
                                              {},
                                              theme.quiet,
                                              false,
                                              false,
                                              take ? text(localTime(take->kept)) : QString()}};
        const Mode* lowest = nullptr;
        for (std::size_t at = 0; solved && !lowest && at < stave->solution->modes.size(); ++at)
            if (!stave->solution->modes[at].rigid) lowest = &stave->solution->modes[at];
        line.push_back(lowest ? ReadingTable::number(lowest->frequency, 4)
                              : ReadingTable::Cell{"–", {}, theme.quiet, false, true, {}});
        const bool clash = solved && clashWords(*stave).startsWith("✕");
        line.push_back({solved ? clashWords(*stave) : "–", {}, clash ? theme.red : theme.quiet, clash, false, {}});
        line.push_back({solved ? text(session_.units().text(stave->mass, QuantityKind::mass, 4)) : "–",
                        {},
                        solved ? QColor() : theme.quiet,
                        false,
                        true,
                        {}});
        line.push_back(
            {take ? text(take->note) : QString(), {}, {}, false, false, take ? text(take->note) : QString()});
        cells.push_back(std::move(line));
        keys.push_back(static_cast<int>(row));
        ids_.push_back(id);
    }
    table_->setVisible(!document.takes.empty());
    table_->setRows(cells, keys);
    table_->selectKey(chosen);
    choose(chosen);
}

void TakesView::choose(int row)
{
    if (row < 0 || static_cast<std::size_t>(row) >= ids_.size()) return;
    chosen_ = ids_[static_cast<std::size_t>(row)];
    const Document& document = session_.document();
    const auto tree = treeOf(document);
    const TakeInTree& own = tree[static_cast<std::size_t>(row)];
    words_->setVisible(own.take != nullptr);
    changes_->setVisible(!document.takes.empty());
    if (own.take) {
        name_->setText(text(own.take->name));
        note_->setText(text(own.take->note));
    }
    const auto lines = own.from ? differences(own.from->model, own.take ? own.take->model : document.model)
                                : std::vector<std::string>();
    const QString name = own.take ? text(own.take->name).toHtmlEscaped() : tr("now");
    QString words = !own.from ? tr("<b>%1</b> came from no take.").arg(name)
                    : lines.empty()
                        ? tr("<b>%1</b> is as <b>%2</b>.").arg(name, text(own.from->name).toHtmlEscaped())
                        : tr("<b>%1</b> came from <b>%2</b>:").arg(name, text(own.from->name).toHtmlEscaped());
    constexpr std::size_t most = 6;
    for (std::size_t at = 0; at < std::min(most, lines.size()); ++at)
        words += "<br>" + text(lines[at]).toHtmlEscaped();
    if (lines.size() > most) words += "<br>" + tr("and %1 more").arg(lines.size() - most);
    changes_->setText(words);
    for (std::size_t at = 0; at < session_.staves().size(); ++at)
        if (session_.staves()[at].id == chosen_ && at != session_.shownStave() && isVisible() && table_->hasFocus())
            session_.showMode(at, std::max(1, session_.shownMode()));
}

void TakesView::keepWords()
{
    if (!chosen_.isEmpty() && !name_->text().trimmed().isEmpty())
        session_.noteTake(chosen_, name_->text().trimmed(), note_->text().trimmed());
}

} // namespace undisona
