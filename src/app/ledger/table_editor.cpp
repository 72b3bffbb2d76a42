#include "app/ledger/table_editor.hpp"

#include "app/session/theme.hpp"
#include "core/units/tolerance.hpp"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QPushButton>
#include <QVBoxLayout>

namespace undisona {

TableEditor::TableEditor(Session& session, QWidget* parent) : QFrame(parent), session_(session)
{
    setObjectName("tableEditor");
    setAutoFillBackground(true);
    table_ = new QTableWidget(this);
    table_->setObjectName("tableCells");
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->verticalHeader()->setDefaultSectionSize(24);
    table_->installEventFilter(this);
    hint_ = new QLabel(tr("Paste rows from a spreadsheet. Bare numbers take the document's units."), this);
    hint_->setWordWrap(true);
    auto* add = new QPushButton(tr("Add a row"), this);
    auto* done = new QPushButton(tr("Done"), this);
    done->setObjectName("tableDone");
    auto* drop = new QPushButton(tr("Cancel"), this);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addStretch();
    buttons->addWidget(drop);
    buttons->addWidget(done);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 6, 6, 6);
    layout->addWidget(table_);
    layout->addWidget(hint_);
    layout->addLayout(buttons);
    connect(add, &QPushButton::clicked, this, &TableEditor::addRow);
    connect(done, &QPushButton::clicked, this, &TableEditor::accept);
    connect(drop, &QPushButton::clicked, this, &TableEditor::cancel);
    hide();
}

void TableEditor::open(const std::string& sentence, const QString& field, int top)
{
    const auto said = session_.model().sentence(sentence);
    if (!said) return;
    const Field* grammar = said->kind->field(field.toStdString());
    sentence_ = sentence;
    field_ = field;
    setStyleSheet(QString("#tableEditor { background: %1; border: 1px solid %2; border-radius: 5px; }")
                      .arg(Theme::now().panel.name(), Theme::now().accent.name()));
    table_->setColumnCount(static_cast<int>(grammar->columns.size()));
    QStringList heads;
    for (const auto& column : grammar->columns)
        heads << QString::fromStdString(column.label);
    table_->setHorizontalHeaderLabels(heads);
    const auto& rows = *said->table(field.toStdString()).rows;
    table_->setRowCount(static_cast<int>(rows.size()));
    for (std::size_t row = 0; row < rows.size(); ++row)
        for (std::size_t column = 0; column < rows[row].size(); ++column)
            table_->setItem(static_cast<int>(row), static_cast<int>(column),
                            new QTableWidgetItem(QString::fromStdString(textOf(rows[row][column]))));
    addRow();
    const int room = parentWidget()->height();
    const int tall = std::clamp(150 + 24 * static_cast<int>(rows.size()), 200, std::max(200, room - 16));
    setGeometry(4, std::clamp(top, 4, std::max(4, room - tall - 4)), parentWidget()->width() - 8, tall);
    show();
    raise();
    table_->setFocus();
    table_->setCurrentCell(0, 0);
}

void TableEditor::addRow()
{
    const int row = table_->rowCount();
    table_->setRowCount(row + 1);
    for (int column = 0; column < table_->columnCount(); ++column)
        table_->setItem(row, column, new QTableWidgetItem);
    table_->setCurrentCell(row, 0);
}

QString TableEditor::completed(const Field& column, const QString& text) const
{
    if (column.type != FieldType::quantity) return text.trimmed();
    const std::string typed = text.toStdString();
    const auto parts = readNumberAndUnit(typed, NumberStyle::typed);
    const bool tolerated = !splitTolerance(typed).tolerance.empty();
    if (const auto* given = std::get_if<NumberAndUnit>(&parts);
        given && given->unit.empty() && (given->value != 0.0 || tolerated))
        return QString::fromStdString(withUnit(typed, session_.units().unit(column.kind)));
    return text.trimmed();
}

std::variant<Table, QString> TableEditor::read()
{
    const auto said = session_.model().sentence(sentence_);
    const auto& columns = said->kind->field(field_.toStdString())->columns;
    const auto& before = *said->table(field_.toStdString()).rows;
    std::vector<Row> rows;
    for (int at = 0; at < table_->rowCount(); ++at) {
        bool empty = true;
        for (int column = 0; column < table_->columnCount(); ++column)
            empty = empty && (!table_->item(at, column) || table_->item(at, column)->text().trimmed().isEmpty());
        if (empty) continue;
        Row row;
        for (std::size_t column = 0; column < columns.size(); ++column) {
            const auto* item = table_->item(at, static_cast<int>(column));
            QString text = item ? item->text() : QString();
            if (columns[column].optional && text.trimmed().isEmpty())
                text = QString::fromStdString(columns[column].fallback);
            const bool unchanged = static_cast<std::size_t>(at) < before.size() &&
                                   textOf(before[static_cast<std::size_t>(at)][column]) == text.toStdString();
            const auto value = readValue(columns[column], completed(columns[column], text).toStdString(),
                                         unchanged ? NumberStyle::file : NumberStyle::typed);
            if (const auto* problem = std::get_if<QuantityProblem>(&value)) {
                table_->setCurrentCell(at, static_cast<int>(column));
                return tr("Row %1, %2: %3")
                    .arg(at + 1)
                    .arg(QString::fromStdString(columns[column].label), QString::fromStdString(problem->what));
            }
            const auto& good = std::get<Value>(value);
            if (const auto* quantity = std::get_if<Quantity>(&good))
                row.emplace_back(*quantity);
            else
                row.emplace_back(std::get<std::string>(good));
        }
        rows.push_back(std::move(row));
    }
    return Table{std::make_shared<const std::vector<Row>>(std::move(rows))};
}

bool TableEditor::accept()
{
    if (!isOpen()) return true;
    auto result = read();
    if (const auto* problem = std::get_if<QString>(&result)) {
        hint_->setText(*problem);
        hint_->setStyleSheet(QString("color: %1").arg(Theme::now().red.name()));
        return false;
    }
    const auto said = session_.model().sentence(sentence_);
    const QString field = field_;
    close();
    session_.replaceSentence(tr("change a table"), said->with(field.toStdString(), std::get<Table>(result)));
    return true;
}

void TableEditor::cancel()
{
    if (isOpen()) close();
}

void TableEditor::close()
{
    sentence_.clear();
    hide();
    emit closed();
}

void TableEditor::paste(const QString& text)
{
    int row = std::max(0, table_->currentRow());
    const int first = std::max(0, table_->currentColumn());
    for (const QString& line : text.split('\n')) {
        if (line.trimmed().isEmpty()) continue;
        if (row >= table_->rowCount()) addRow();
        const QStringList cells = line.contains('\t') ? line.split('\t') : line.split(';');
        for (int at = 0; at < cells.size() && first + at < table_->columnCount(); ++at)
            table_->setItem(row, first + at, new QTableWidgetItem(cells[at].trimmed()));
        ++row;
    }
    if (row >= table_->rowCount()) addRow();
}

bool TableEditor::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::KeyPress && watched == table_) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->matches(QKeySequence::Paste)) {
            paste(QApplication::clipboard()->text());
            return true;
        }
        if (key->key() == Qt::Key_Escape) {
            cancel();
            return true;
        }
        if ((key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) && (key->modifiers() & Qt::ControlModifier)) {
            accept();
            return true;
        }
        if (key->key() == Qt::Key_Delete) {
            for (auto* item : table_->selectedItems())
                item->setText({});
            return true;
        }
    }
    return QFrame::eventFilter(watched, event);
}

} // namespace undisona
