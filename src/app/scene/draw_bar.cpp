#include "app/scene/draw_bar.hpp"

#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace undisona {

DrawBar::DrawBar(QWidget* parent) : QWidget(parent)
{
    setObjectName("drawBar");
    setAutoFillBackground(true);
    across_ = new QComboBox(this);
    across_->setObjectName("drawPlane");
    across_->setAccessibleName(tr("work plane"));
    across_->addItems({"y z", "x z", "x y"}); // by the normal: x, y, z
    level_ = new QLineEdit(this);
    level_->setObjectName("drawLevel");
    level_->setAccessibleName(tr("where the work plane stands"));
    spacing_ = new QLineEdit(this);
    spacing_->setObjectName("drawSpacing");
    spacing_->setAccessibleName(tr("spacing of the grid"));
    for (auto* line : {level_, spacing_})
        line->setFixedWidth(64);
    lengthPart_ = new QWidget(this);
    length_ = new QLineEdit(lengthPart_);
    length_->setObjectName("drawLength");
    length_->setAccessibleName(tr("length of the next member"));
    length_->setPlaceholderText(tr("2.5 m or 1, 0, 2 m"));
    length_->setMinimumWidth(70);
    auto* done = new QPushButton(tr("Done"), this);
    done->setObjectName("drawDone");
    const auto row = [](QWidget* of) {
        auto* layout = new QHBoxLayout(of);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(5);
        return layout;
    };
    auto* lengthRow = row(lengthPart_);
    lengthRow->addWidget(new QLabel(tr("length"), lengthPart_));
    lengthRow->addWidget(length_, 1);
    auto* layout = row(this);
    layout->setContentsMargins(10, 3, 10, 3);
    layout->addWidget(new QLabel(tr("plane"), this));
    layout->addWidget(across_);
    layout->addWidget(new QLabel(tr("at"), this));
    layout->addWidget(level_);
    layout->addWidget(new QLabel(tr("grid"), this));
    layout->addWidget(spacing_);
    layout->addWidget(lengthPart_, 1);
    layout->addStretch();
    layout->addWidget(done);
    connect(across_, &QComboBox::activated, this, &DrawBar::readPlane);
    for (auto* line : {level_, spacing_})
        connect(line, &QLineEdit::editingFinished, this, &DrawBar::readPlane);
    connect(done, &QPushButton::clicked, this, &DrawBar::doneWanted);
    for (auto* line : {level_, spacing_, length_})
        line->installEventFilter(this);
    hide();
}

void DrawBar::show(const WorkPlane& plane, bool drawing, const DisplayUnits& units)
{
    plane_ = plane;
    across_->setCurrentIndex(plane.normal);
    const auto text = [&](double metres) {
        const double value = std::round(units.value(metres, QuantityKind::length) * 1e9) / 1e9;
        return QString::fromStdString(shortest(value) + " " + units.unit(QuantityKind::length));
    };
    level_->setText(text(plane.level));
    spacing_->setText(text(plane.spacing));
    lengthPart_->setVisible(drawing);
    QWidget::show();
}

void DrawBar::beginLength(const QString& text)
{
    length_->setText(text);
    length_->setFocus();
    length_->end(false);
}

void DrawBar::readPlane()
{
    WorkPlane next = plane_;
    next.normal = across_->currentIndex();
    const auto take = [](QLineEdit* line, double& into, bool positive) {
        const auto read = readQuantity(line->text().toStdString(), QuantityKind::length, NumberStyle::typed);
        const auto* quantity = std::get_if<Quantity>(&read);
        const bool good = quantity && (!positive || quantity->si > 1e-6) && std::abs(quantity->si) < 1e6;
        if (good) into = quantity->si;
        line->setStyleSheet(good ? QString() : QString("color: %1").arg(Theme::now().red.name()));
        const auto* problem = std::get_if<QuantityProblem>(&read);
        line->setToolTip(good      ? QString()
                         : problem ? QString::fromStdString(problem->what)
                                   : tr("a length above zero is needed here"));
    };
    take(level_, next.level, false);
    take(spacing_, next.spacing, true);
    plane_ = next;
    emit planeChanged(next);
}

bool DrawBar::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Escape) {
            length_->clear();
            emit leftLength();
            return true;
        }
        if ((key == Qt::Key_Return || key == Qt::Key_Enter) && watched == length_) {
            const QString text = length_->text();
            length_->clear();
            emit lengthTyped(text);
            return true;
        }
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            readPlane();
            emit leftLength();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace undisona
