#include "app/readings/book_view.hpp"

#include "core/assess/mass_book.hpp"

#include <QPushButton>

namespace undisona {

BookView::BookView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = richLabel("bookWords", this);
    weighed_ = new QPushButton(tr("Say what the scale says"), this);
    weighed_->setObjectName("weighedButton");
    weighed_->setFocusPolicy(Qt::TabFocus);
    weighed_->setToolTip(tr("A sentence that sets a weighed or drawn mass beside what the model has"));
    connect(weighed_, &QPushButton::clicked, this,
            [this] { emit sentenceWanted(session_.addSentence(*kindNamed("weighed"))); });
    table_ = new ReadingTable(this);
    table_->setObjectName("bookTable");
    table_->foldLastColumns();
    connect(table_, &ReadingTable::told, &session_, &Session::told);
    const auto show = [this](int key) {
        const std::string& sentence = sentences_[static_cast<std::size_t>(key)];
        if (!sentence.empty()) session_.selectSentence(sentence);
    };
    connect(table_, &ReadingTable::keyChosen, this, show);
    connect(table_, &ReadingTable::keyActivated, this, [this](int key) {
        const std::string& sentence = sentences_[static_cast<std::size_t>(key)];
        if (!sentence.empty()) emit sentenceWanted(sentence);
    });
    auto* row = new QHBoxLayout;
    row->setContentsMargins(12, 0, 8, 6);
    auto* print = new QPushButton(tr("Print …"), this);
    print->setObjectName("printBook");
    print->setFocusPolicy(Qt::TabFocus);
    print->setToolTip(tr("On paper, or as a PDF file"));
    connect(print, &QPushButton::clicked, table_, &ReadingTable::print);
    row->addWidget(weighed_);
    row->addWidget(print);
    row->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addLayout(row);
    column->addWidget(table_, 1);
}

void BookView::fillWords(const MassBook& book)
{
    const DisplayUnits units = session_.units();
    const Theme& theme = Theme::now();
    const auto in = [&](double si, QuantityKind kind) { return QString::fromStdString(units.text(si, kind)); };
    const auto three = [&](const Eigen::Vector3d& values, QuantityKind kind, double nothing) {
        QStringList parts;
        for (int axis = 0; axis < 3; ++axis)
            parts << QString::fromStdString(
                rounded(units.value(std::abs(values[axis]) < nothing ? 0.0 : values[axis], kind), 4));
        return parts.join(", ") + " " + QString::fromStdString(units.unit(kind));
    };
    const auto quiet = [&](const QString& words) {
        return QString(" <span style='color:%1'>%2</span>").arg(theme.quiet.name(), words);
    };
    QString text = "<div><b>" + in(book.total(), QuantityKind::mass) + "</b>" +
                   quiet(tr("in all: %1 of material and %2 added")
                             .arg(in(book.material, QuantityKind::mass), in(book.added, QuantityKind::mass))) +
                   "</div>";
    if (book.weighed) {
        const double off = book.total() - *book.weighed;
        text += QString("<div><b>%1</b>").arg(in(*book.weighed, QuantityKind::mass)) +
                quiet(tr("by the scale: the model is %1 %2 (%3 %)")
                          .arg(in(std::abs(off), QuantityKind::mass), off < 0.0 ? tr("lighter") : tr("heavier"),
                               QString::fromStdString(rounded(100.0 * std::abs(off) / *book.weighed, 2)))) +
                "</div>";
    }
    const double span = std::max(session_.structure().frame.span(), 1e-9);
    text += "<div>" + quiet(tr("centre at %1").arg(three(book.centre, QuantityKind::length, 1e-9 * span))) + "</div>";
    text += "<div>" +
            quiet(tr("about it x, y, z: %1").arg(three(book.inertia.diagonal(), QuantityKind::inertia, 0.0))) +
            "</div>";
    if ((book.acting.array() - book.total()).abs().maxCoeff() > 1e-9 * book.total())
        text += "<div>" + quiet(tr("of it acts along x, y, z: %1").arg(three(book.acting, QuantityKind::mass, 0.0))) +
                "</div>";
    const auto& solution = session_.live().solution;
    if (solution && !session_.live().stale) {
        const auto& movable = solution->participation.movable;
        text += "<div>" +
                quiet(tr("can move along x, y, z: %1; the rest stands on the supports")
                          .arg(three({movable[0], movable[1], movable[2]}, QuantityKind::mass, 0.0))) +
                "</div>";
    }
    words_->setText(text);
}

void BookView::fill()
{
    const Structure& structure = session_.structure();
    weighed_->setEnabled(!structure.frame.empty());
    const MassBook book = massBook(structure, session_.model(), session_.mass());
    if (book.rows.empty()) {
        words_->setText(tr("Nothing has a mass yet."));
        table_->setRows({}, {});
        return;
    }
    fillWords(book);
    const DisplayUnits units = session_.units();
    const Theme& theme = Theme::now();
    const QString unit = QString::fromStdString(units.unit(QuantityKind::mass)),
                  length = QString::fromStdString(units.unit(QuantityKind::length));
    table_->setHeads(
        {tr("where from"), unit, "%", tr("the scale"), tr("off %"), tr("centre x, %1").arg(length), "y", "z"});
    // To the same place everywhere, so that a column can be added up by eye.
    const double all = units.value(book.total(), QuantityKind::mass);
    const int places = std::clamp(4 - static_cast<int>(std::floor(std::log10(std::max(all, 1e-9)))), 0, 9);
    const auto fixed = [](double value, int decimals) {
        return ReadingTable::Cell{QString::number(value, 'f', decimals), value, {}, false, true, {}};
    };
    const auto mass = [&](double kg) { return fixed(units.value(kg, QuantityKind::mass), places); };
    const ReadingTable::Cell none{"·", {}, theme.quiet, false, true, {}};
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    sentences_.clear();
    const auto add = [&](std::vector<ReadingTable::Cell> cells, const std::string& sentence) {
        cells.resize(8, none);
        rows.push_back(std::move(cells));
        keys.push_back(static_cast<int>(sentences_.size()));
        sentences_.push_back(sentence);
    };
    for (const auto& row : book.rows) {
        const QString what = QString::fromStdString(row.what);
        std::vector<ReadingTable::Cell> cells{{what, {}, {}, false, false, what}, mass(row.mass)};
        if (row.kind == MassBook::Row::Kind::weighed) {
            const double off = 100.0 * (row.mass / *row.said - 1.0);
            constexpr double much = 2.0; // per cent, beyond which something is amiss
            cells[0].text = tr("%1, weighed").arg(what);
            if (!row.source.empty()) cells[0].text = tr("%1, by %2").arg(what, QString::fromStdString(row.source));
            cells[0].tip = cells[0].text;
            cells.push_back(none);
            cells.push_back(mass(*row.said));
            cells.push_back(ReadingTable::number(off, 2, std::abs(off) > much ? theme.amber : QColor()));
        } else {
            cells.push_back(fixed(100.0 * row.mass / book.total(), 1));
            cells.push_back(none);
            cells.push_back(none);
            for (int axis = 0; axis < 3; ++axis)
                cells.push_back(ReadingTable::number(units.value(row.centre[axis], QuantityKind::length), 4));
        }
        add(std::move(cells), row.sentence);
    }
    std::vector<ReadingTable::Cell> total{
        {tr("in all"), {}, {}, true, false, {}}, mass(book.total()), fixed(100.0, 1), none, none};
    for (int axis = 0; axis < 3; ++axis)
        total.push_back(ReadingTable::number(units.value(book.centre[axis], QuantityKind::length), 4));
    add(std::move(total), {});
    table_->setRows(rows, keys);
    table_->setPrinted(tr("%1: where its mass comes from").arg(QString::fromStdString(session_.document().name)),
                       words_->text());
}

} // namespace undisona
