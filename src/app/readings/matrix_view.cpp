#include "app/readings/matrix_view.hpp"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace undisona {

namespace {

constexpr double largestField = 34.0, numbersFrom = 25.0; // pixels; of a field that has its number written in it

QString percentText(double share)
{
    return QString::number(100.0 * share, 'f', 0);
}

QColor blend(const QColor& from, const QColor& to, double share)
{
    const auto between = [share](int a, int b) { return static_cast<int>(std::lround(a + share * (b - a))); };
    return {between(from.red(), to.red()), between(from.green(), to.green()), between(from.blue(), to.blue())};
}

} // namespace

MatrixField::MatrixField(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("matrixField");
    setAccessibleName(tr("How alike modes are, by pairs"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

void MatrixField::show(const Eigen::MatrixXd& assurance, std::vector<ModePair> pairs)
{
    assurance_ = assurance;
    pairs_ = std::move(pairs);
    chosen_ = {-1, -1};
    update();
}

void MatrixField::choose(int row, int column)
{
    chosen_ = {row, column};
    update();
}

double MatrixField::side() const
{
    const double margin = 2.2 * fontMetrics().height();
    if (assurance_.size() == 0) return 0.0;
    return std::max(2.0, std::min({(width() - margin - 8.0) / double(assurance_.cols()),
                                   (height() - margin - 4.0) / double(assurance_.rows()), largestField}));
}

QRectF MatrixField::fieldAt(int row, int column) const
{
    const double size = side(), margin = 2.2 * fontMetrics().height();
    return {margin + column * size, margin + row * size, size, size};
}

std::array<int, 2> MatrixField::at(const QPointF& pixel) const
{
    if (assurance_.size() == 0) return {-1, -1};
    const QRectF first = fieldAt(0, 0);
    const int row = static_cast<int>(std::floor((pixel.y() - first.top()) / first.height()));
    const int column = static_cast<int>(std::floor((pixel.x() - first.left()) / first.width()));
    const bool inside = row >= 0 && column >= 0 && row < assurance_.rows() && column < assurance_.cols();
    return inside ? std::array<int, 2>{row, column} : std::array<int, 2>{-1, -1};
}

bool MatrixField::isPair(int row, int column) const
{
    return static_cast<std::size_t>(row) < pairs_.size() && pairs_[static_cast<std::size_t>(row)].second == column + 1;
}

std::vector<PaintedItem> MatrixField::paintedItems() const
{
    std::vector<PaintedItem> items;
    for (int row = 0; row < assurance_.rows(); ++row)
        for (int column = 0; column < assurance_.cols(); ++column)
            if (assurance_(row, column) >= 0.1 || isPair(row, column))
                items.push_back({tr("mode %1 and mode %2 of before").arg(row + 1).arg(column + 1),
                                 tr("%1 % alike").arg(percentText(assurance_(row, column))),
                                 fieldAt(row, column).toRect()});
    return items;
}

void MatrixField::paintEvent(QPaintEvent*)
{
    const Theme& theme = Theme::now();
    QPainter painter(this);
    painter.fillRect(rect(), theme.paper);
    if (assurance_.size() == 0) return;
    const double size = side();
    const QRectF first = fieldAt(0, 0);
    painter.setRenderHint(QPainter::Antialiasing);
    const int every = std::max(1, static_cast<int>(std::ceil(fontMetrics().horizontalAdvance("000") / size)));
    const int everyRow = std::max(1, static_cast<int>(std::ceil(0.9 * fontMetrics().height() / size)));
    const auto numbered = [](int at, int step) { return at == 0 || (at + 1) % step == 0; };
    const auto label = [&](const QRectF& where, int at, bool isChosen, Qt::Alignment align) {
        painter.setPen(isChosen ? theme.ink : theme.quiet);
        painter.setFont(textFont(-1.0, isChosen));
        painter.drawText(where, static_cast<int>(align), QString::number(at + 1));
    };
    for (int row = 0; row < assurance_.rows(); ++row)
        if (numbered(row, everyRow) || row == chosen_[0])
            label({0.0, fieldAt(row, 0).center().y() - 10.0, first.left() - 6.0, 20.0}, row, row == chosen_[0],
                  Qt::AlignRight | Qt::AlignVCenter);
    for (int column = 0; column < assurance_.cols(); ++column)
        if (numbered(column, every) || column == chosen_[1])
            label({fieldAt(0, column).center().x() - 20.0, first.top() - 20.0, 40.0, 18.0}, column,
                  column == chosen_[1], Qt::AlignHCenter | Qt::AlignBottom);
    painter.setFont(textFont(-2.0));
    for (int row = 0; row < assurance_.rows(); ++row)
        for (int column = 0; column < assurance_.cols(); ++column) {
            const double alike = assurance_(row, column);
            const QRectF field = fieldAt(row, column);
            painter.setPen(QPen(theme.hairline, size > 6.0 ? 1.0 : 0.0));
            painter.setBrush(blend(theme.paper, theme.accent, std::clamp(alike, 0.0, 1.0)));
            painter.drawRect(field);
            if (size >= numbersFrom && alike >= 0.1) {
                painter.setPen(alike > 0.55 ? theme.paper : theme.ink);
                painter.drawText(field, Qt::AlignCenter, percentText(alike));
            }
        }
    painter.setBrush(Qt::NoBrush);
    for (int row = 0; row < assurance_.rows(); ++row)
        for (int column = 0; column < assurance_.cols(); ++column)
            if (isPair(row, column)) {
                painter.setPen(QPen(theme.ink, size > 10.0 ? 2.0 : 1.0));
                painter.drawRect(fieldAt(row, column).adjusted(1, 1, -1, -1));
            }
    if (chosen_[0] >= 0) {
        painter.setPen(QPen(theme.amber, 2.0));
        painter.drawRect(QRectF(first.left(), fieldAt(chosen_[0], 0).top(), size * double(assurance_.cols()), size));
        if (chosen_[1] >= 0)
            painter.drawRect(
                QRectF(fieldAt(0, chosen_[1]).left(), first.top(), size, size * double(assurance_.rows())));
    }
}

void MatrixField::mousePressEvent(QMouseEvent* event)
{
    const auto found = at(event->position());
    if (found[0] >= 0) emit chose(found[0], found[1]);
}

void MatrixField::mouseMoveEvent(QMouseEvent* event)
{
    setCursor(at(event->position())[0] >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
}

void MatrixField::keyPressEvent(QKeyEvent* event)
{
    const int down = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    const int right = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if ((down == 0 && right == 0) || assurance_.size() == 0) return QWidget::keyPressEvent(event);
    const auto within = [](int at, Eigen::Index count) { return std::clamp(at, 0, static_cast<int>(count) - 1); };
    emit chose(within(std::max(chosen_[0], 0) + down, assurance_.rows()),
               within(std::max(chosen_[1], 0) + right, assurance_.cols()));
}

bool MatrixField::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        const auto found = at(static_cast<QHelpEvent*>(event)->pos());
        setToolTip(found[0] < 0 ? QString()
                                : tr("mode %1 now, mode %2 before: %3 % alike")
                                      .arg(found[0] + 1)
                                      .arg(found[1] + 1)
                                      .arg(percentText(assurance_(found[0], found[1]))));
    }
    return QWidget::event(event);
}

MatrixView::MatrixView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    words_ = richLabel("matrixWords", this);
    field_ = new MatrixField(session, this);
    pair_ = richLabel("matrixPair", this);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(words_);
    column->addWidget(field_, 1);
    column->addWidget(pair_);
    connect(field_, &MatrixField::chose, this, [this](int row, int column) {
        field_->choose(row, column);
        tell(row, column);
        session_.showMode(0, row + 1);
    });
}

void MatrixView::fill(const Stave* now, const Stave* before)
{
    const bool both = now && before && now->solution && before->solution;
    field_->setVisible(both);
    pair_->setVisible(both);
    if (!both) {
        of_ = {};
        assurance_.resize(0, 0);
        field_->show(assurance_, {});
        return words_->setText(now && before
                                   ? tr("Both must be solved to be compared.")
                                   : tr("Keep the model as a take (Ctrl+T) and change it: then every mode stands here "
                                        "against every mode of before, the fuller its field the more alike."));
    }
    names_ = {now->name, before->name};
    modeNames_ = {now->modeNames, before->modeNames};
    if (of_[0] == now->solution && of_[1] == before->solution) {
        if (field_->chosen()[0] >= 0) tell(field_->chosen()[0], field_->chosen()[1]);
        return select();
    }
    pair_->setText({});
    of_ = {now->solution, before->solution};
    assurance_ = modalAssurance(*of_[0], *of_[1]);
    auto pairs = pairModes(*of_[0], *of_[1]);
    QStringList lines;
    lines << tr("Rows: <b>%1</b>. Columns: <b>%2</b>. Framed: the same mode. In per cent, how alike the shapes are "
                "(modal assurance criterion).")
                 .arg(names_[0].toHtmlEscaped(), names_[1].toHtmlEscaped());
    constexpr std::size_t most = 4;
    const auto places = changedPlaces(*of_[0], *of_[1], pairs);
    for (std::size_t at = 0; at < std::min(most, places.size()); ++at)
        lines << tr("Modes %1 and %2 have changed places: they were %3 and %4.")
                     .arg(places[at].lower)
                     .arg(places[at].higher)
                     .arg(places[at].ofLower)
                     .arg(places[at].ofHigher);
    if (places.size() > most) lines << tr("%1 more pairs have changed places.").arg(places.size() - most);
    const auto mixed = mixedModes(*of_[0], *of_[1], assurance_);
    for (std::size_t at = 0; at < std::min(most, mixed.size()); ++at)
        lines << tr("Mode %1 mixes what were modes %2 (%3 %) and %4 (%5 %): on the way they veer off each other.")
                     .arg(mixed[at].mode)
                     .arg(mixed[at].of[0])
                     .arg(percentText(mixed[at].assurance[0]))
                     .arg(mixed[at].of[1])
                     .arg(percentText(mixed[at].assurance[1]));
    words_->setText(lines.join("<br>"));
    field_->show(assurance_, std::move(pairs));
    select();
}

void MatrixView::select()
{
    if (assurance_.size() == 0 || session_.shownStave() != 0) return;
    const int row = session_.shownMode() - 1;
    if (row < 0 || row >= assurance_.rows() || row == field_->chosen()[0]) return;
    Eigen::Index column = 0;
    assurance_.row(row).maxCoeff(&column);
    field_->choose(row, static_cast<int>(column));
    tell(row, static_cast<int>(column));
}

void MatrixView::tell(int row, int column)
{
    const auto& own = of_[0]->modes[static_cast<std::size_t>(row)];
    const auto& other = of_[1]->modes[static_cast<std::size_t>(column)];
    const auto named = [](const Mode& mode, const ModeNames& names) {
        return QString("%1 Hz, %2")
            .arg(QString::fromStdString(rounded(mode.frequency, 4)),
                 QString::fromStdString(mode.calledBy(names)).toHtmlEscaped());
    };
    pair_->setText(
        tr("<b>Mode %1</b> of %2: %3<br><b>Mode %4</b> of %5: %6<br>%7 % alike")
            .arg(row + 1)
            .arg(names_[0].toHtmlEscaped(), named(own, modeNames_[0]))
            .arg(column + 1)
            .arg(names_[1].toHtmlEscaped(), named(other, modeNames_[1]), percentText(assurance_(row, column))));
}

} // namespace undisona
