#include "app/scene/cut_bar.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>

namespace undisona {

CutBar::CutBar(QWidget* parent) : QWidget(parent)
{
    setObjectName("cutBar");
    setAutoFillBackground(true);
    axis_ = new QComboBox(this);
    axis_->setObjectName("cutAxis");
    axis_->setAccessibleName(tr("axis of the cut"));
    axis_->addItems({"x", "y", "z"});
    share_ = new QSlider(Qt::Horizontal, this);
    share_->setObjectName("cutPlace");
    share_->setAccessibleName(tr("place of the cut"));
    share_->setRange(0, 200);
    side_ = new QPushButton(tr("Other side"), this);
    side_->setObjectName("cutSide");
    side_->setCheckable(true);
    place_ = new QLabel(this);
    place_->setObjectName("cutWords");
    place_->setMinimumWidth(84);
    auto* done = new QPushButton(tr("Close the cut"), this);
    done->setObjectName("cutDone");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(10, 3, 10, 3);
    layout->setSpacing(5);
    layout->addWidget(new QLabel(tr("cut across"), this));
    layout->addWidget(axis_);
    layout->addWidget(share_, 1);
    layout->addWidget(place_);
    layout->addWidget(side_);
    layout->addWidget(done);
    connect(axis_, &QComboBox::activated, this, &CutBar::read);
    connect(share_, &QSlider::valueChanged, this, &CutBar::read);
    connect(side_, &QPushButton::toggled, this, &CutBar::read);
    connect(done, &QPushButton::clicked, this, &CutBar::doneWanted);
    hide();
}

void CutBar::show(const ViewCut& cut)
{
    const QSignalBlocker noAxis(axis_), noShare(share_), noSide(side_);
    axis_->setCurrentIndex(cut.axis);
    share_->setValue(static_cast<int>(std::lround(200.0 * cut.share)));
    side_->setChecked(cut.farSide);
    QWidget::show();
}

void CutBar::setPlaceWords(const QString& words)
{
    place_->setText(words);
}

void CutBar::read()
{
    emit cutChanged({axis_->currentIndex(), share_->value() / 200.0, side_->isChecked()});
}

} // namespace undisona
