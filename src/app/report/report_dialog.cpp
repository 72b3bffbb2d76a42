#include "app/report/report_dialog.hpp"

#include "app/film/film_order.hpp"
#include "app/report/report_pages.hpp"
#include "app/session/settings.hpp"
#include "app/session/theme.hpp"
#include "app/session/written_file.hpp"

#include <QCheckBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollBar>
#include <QTextBrowser>
#include <QTextDocument>
#include <QVBoxLayout>

namespace undisona {

ReportDialog::ReportDialog(Session& session, const SceneCanvas& seen, QWidget* parent)
    : QDialog(parent), session_(session), stave_(session.shown().id), of_(session.shown().solution)
{
    setObjectName("reportDialog");
    setWindowTitle(tr("Report"));
    pictures_ = std::make_unique<ReportPictures>(session, session.shownStave(), seen.camera());
    auto* left = new QVBoxLayout;
    left->addWidget(new QLabel(tr("What stands in it"), this));
    for (const ReportPart part : everyReportPart) {
        auto* box = new QCheckBox(QString::fromStdString(wordsOf(part)), this);
        box->setObjectName("report-" + QString::fromStdString(std::string(keyOf(part))));
        box->setChecked(true);
        connect(box, &QCheckBox::toggled, &soon_, qOverload<>(&QTimer::start));
        left->addWidget(box);
        parts_.push_back(box);
    }
    modes_ = new QLineEdit(this);
    modes_->setObjectName("reportModes");
    modes_->setAccessibleName(tr("modes that are pictured"));
    modes_->setPlaceholderText(tr("those that meet or matter"));
    modes_->setToolTip(tr("4, or 1-6, 9, or all; empty: those that meet an excitation, and those that matter"));
    connect(modes_, &QLineEdit::textChanged, &soon_, qOverload<>(&QTimer::start));
    auto* pictured = new QLabel(tr("modes pictured"), this);
    pictured->setBuddy(modes_);
    left->addSpacing(8);
    left->addWidget(pictured);
    left->addWidget(modes_);
    words_ = new QLabel(this);
    words_->setObjectName("reportWords");
    words_->setWordWrap(true);
    left->addWidget(words_);
    left->addStretch();
    html_ = new QPushButton(tr("Write as HTML …"), this);
    pdf_ = new QPushButton(tr("Write as PDF …"), this);
    pdf_->setDefault(true);
    auto* close = new QPushButton(tr("Close"), this);
    for (auto* button : {html_, pdf_, close})
        left->addWidget(button);
    connect(html_, &QPushButton::clicked, this, [this] { askPath("html"); });
    connect(pdf_, &QPushButton::clicked, this, [this] { askPath("pdf"); });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    preview_ = new QTextBrowser(this);
    preview_->setObjectName("reportPreview");
    preview_->setAccessibleName(tr("the report"));
    preview_->setOpenLinks(false);
    auto* row = new QHBoxLayout(this);
    row->addLayout(left);
    row->addWidget(preview_, 1);
    const QSize room = parent ? parent->window()->size() : QSize(1280, 800);
    resize(std::min(1000, room.width() - 60), std::min(900, room.height() - 60));
    soon_.setSingleShot(true);
    soon_.setInterval(150);
    connect(&soon_, &QTimer::timeout, this, &ReportDialog::renew);
    connect(pictures_.get(), &ReportPictures::done, this, &ReportDialog::renew);
    connect(&session_, &Session::stavesChanged, &soon_, qOverload<>(&QTimer::start));
    renew();
}

void ReportDialog::renew()
{
    const auto say = [this](const QString& words, bool wrong) {
        words_->setStyleSheet(QString("color: %1").arg((wrong ? Theme::now().red : Theme::now().quiet).name()));
        words_->setText(words);
        html_->setEnabled(!wrong);
        pdf_->setEnabled(!wrong);
    };
    const auto& staves = session_.staves();
    const auto stave = std::find_if(staves.begin(), staves.end(), [&](const Stave& one) { return one.id == stave_; });
    if (stave == staves.end() || stave->solution != of_ || stave->stale)
        return say(tr("The model changed; solve it and open the report again."), true);
    ReportOrder order;
    for (std::size_t part = 0; part < parts_.size(); ++part)
        if (!parts_[part]->isChecked()) order.without.insert(everyReportPart[part]);
    if (!modes_->text().trimmed().isEmpty()) {
        const auto modes = modesNamed(modes_->text(), static_cast<int>(of_->modes.size()));
        if (const auto* problem = std::get_if<QString>(&modes)) return say(*problem, true);
        order.modes = std::get<std::vector<int>>(modes);
    }
    ReportSource source = reportSource(session_, static_cast<std::size_t>(stave - staves.begin()));
    const auto known = static_cast<std::size_t>(stave - staves.begin()) == session_.shownStave() ? session_.tolerances()
                                                                                                 : std::nullopt;
    if (known && *known) source.tolerances = &**known;
    const auto byHand =
        static_cast<std::size_t>(stave - staves.begin()) == session_.shownStave() ? session_.byHand() : std::nullopt;
    if (byHand && *byHand) source.byHand = &**byHand;
    if (const auto* rest = session_.rest();
        rest && *rest && static_cast<std::size_t>(stave - staves.begin()) == session_.shownStave())
        source.rest = &(*rest)->found;
    const Report report = reportOf(source, order);
    const auto keys = report.pictures();
    const auto missing =
        std::count_if(keys.begin(), keys.end(), [&](const auto& key) { return !pictures_->bytes().contains(key); });
    say(missing > 0 ? tr("Drawing %1 pictures …").arg(missing) : QString(), false);
    html_->setEnabled(missing == 0);
    pdf_->setEnabled(missing == 0);
    if (missing > 0) pictures_->want(keys);
    preview(report);
}

void ReportDialog::preview(const Report& report)
{
    const int at = preview_->verticalScrollBar()->value();
    auto pages = pagesOf(report, pictures_->bytes());
    preview_->setDocument(pages.get());
    pages_ = std::move(pages); // the one before is let go when it is no longer shown
    preview_->verticalScrollBar()->setValue(at);
    report_ = report;
}

void ReportDialog::askPath(const QString& ending)
{
    const QString path =
        QFileDialog::getSaveFileName(this, tr("Report"), settings().value("folder").toString() + "/report." + ending,
                                     ending == "pdf" ? "*.pdf" : "*.html");
    if (!path.isEmpty()) write(QFileInfo(path).suffix().isEmpty() ? path + "." + ending : path);
}

void ReportDialog::write(const QString& path)
{
    words_->setText(writtenWords(path, reportBytes(report_, pictures_->bytes(), path), session_.files()));
}

} // namespace undisona
