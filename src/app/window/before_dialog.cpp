#include "app/window/before_dialog.hpp"

#include "app/session/theme.hpp"
#include "core/assess/before_run.hpp"

#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace undisona {

BeforeDialog::BeforeDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session)
{
    setWindowTitle(tr("Before the run"));
    setObjectName("beforeDialog");
    resize(620, 560);
    words_ = new QLabel(this);
    words_->setObjectName("beforeWords");
    words_->setTextFormat(Qt::RichText);
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    words_->setContentsMargins(14, 8, 14, 8);
    words_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* area = new QScrollArea(this);
    area->setWidget(words_);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    auto* solve = buttons->addButton(tr("Solve"), QDialogButtonBox::AcceptRole);
    solve->setObjectName("solveNow");
    solve->setDefault(true);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, [this] {
        accept();
        session_.solve();
    });
    auto* column = new QVBoxLayout(this);
    column->addWidget(area, 1);
    column->addWidget(buttons);
    connect(&session_, &Session::runChanged, this, &BeforeDialog::fill); // when the cost is known
    fill();
}

void BeforeDialog::fill()
{
    const Theme& theme = Theme::now();
    QString text;
    for (const auto& told : toldBeforeRun(session_.model(), session_.structure(), session_.mass(), session_.units())) {
        text += QString("<p style='margin-bottom:2px'><b>%1</b></p>")
                    .arg(QString::fromStdString(told.heading).toHtmlEscaped());
        for (const auto& line : told.lines)
            text += QString("<div style='margin-left:12px'>%1</div>").arg(QString::fromStdString(line).toHtmlEscaped());
    }
    const QString cost = session_.estimate().isEmpty() ? tr("It is small: the run is over as soon as it is begun.")
                                                       : tr("The run takes %1.").arg(session_.estimate());
    QString wrong;
    for (const auto& finding : session_.findings())
        if (finding.severity == Severity::error)
            wrong += QString("<div style='color:%1'>✕ %2</div>")
                         .arg(theme.red.name(), QString::fromStdString(oneLine(finding)).toHtmlEscaped());
    words_->setText(QString("<div>%1</div>").arg(cost.toHtmlEscaped()) + wrong + text);
}

} // namespace undisona
