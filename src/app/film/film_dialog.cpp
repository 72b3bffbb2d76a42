#include "app/film/film_dialog.hpp"

#include "app/session/settings.hpp"
#include "app/session/theme.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QRegularExpression>

namespace undisona {

std::optional<QSize> sizeNamed(const QString& text)
{
    static const QRegularExpression form("^\\s*(\\d{1,5})\\s*[x×]\\s*(\\d{1,5})\\s*$");
    const auto match = form.match(text);
    if (!match.hasMatch()) return std::nullopt;
    return QSize(match.captured(1).toInt(), match.captured(2).toInt());
}

FilmDialog::FilmDialog(Session& session, SceneCanvas& seen, QWidget* parent)
    : QDialog(parent), session_(session), seen_(seen)
{
    setObjectName("filmDialog");
    setWindowTitle(tr("Film of modes in motion"));
    modes_ = new QLineEdit(QString::number(session.shownMode()), this);
    modes_->setObjectName("filmModes");
    modes_->setToolTip(tr("4, or 1-6, 9, or all: one after the other"));
    size_ = new QComboBox(this);
    size_->setObjectName("filmSize");
    size_->setEditable(true);
    size_->addItems({"1280 x 720", "1920 x 1080", "800 x 600", "640 x 360", "1080 x 1080"});
    const auto spin = [this](const char* name, double least, double most, double value) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(name);
        box->setRange(least, most);
        box->setDecimals(1);
        box->setValue(value);
        return box;
    };
    seconds_ = spin("filmSeconds", 0.2, 120.0, 4.0);
    turns_ = spin("filmTurns", 0.1, 600.0, 4.0);
    turns_->setToolTip(tr("How often the motion goes to and fro in that time; a whole number closes the loop"));
    caption_ = new QCheckBox(tr("with its words and axes"), this);
    caption_->setChecked(true);
    progress_ = new QProgressBar(this);
    progress_->setObjectName("filmProgress");
    progress_->setRange(0, 1000);
    progress_->hide();
    words_ =
        new QLabel(tr("Seen as the scene shows it now. WebM and MP4 for players, GIF for slides and letters."), this);
    words_->setObjectName("filmWords");
    words_->setWordWrap(true);
    words_->setTextFormat(Qt::RichText);
    make_ = new QPushButton(tr("Film to a file …"), this);
    make_->setObjectName("filmMake");
    make_->setDefault(true);
    close_ = new QPushButton(tr("Close"), this);
    connect(close_, &QPushButton::clicked, this, &QDialog::reject);
    connect(make_, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Film"), settings().value("folder").toString() + "/mode.webm", tr("Films (*.webm *.mp4 *.gif)"));
        if (!path.isEmpty()) film(path);
    });
    auto* form = new QFormLayout;
    form->addRow(tr("modes"), modes_);
    form->addRow(tr("size in pixels"), size_);
    form->addRow(tr("seconds for each"), seconds_);
    form->addRow(tr("turns of the phase"), turns_);
    form->addRow(QString(), caption_);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    buttons->addWidget(close_);
    buttons->addWidget(make_);
    auto* column = new QVBoxLayout(this);
    column->addLayout(form);
    column->addWidget(words_);
    column->addWidget(progress_);
    column->addLayout(buttons);
    setMinimumWidth(380);
}

void FilmDialog::say(const QString& words, bool wrong)
{
    const QColor colour = wrong ? Theme::now().red : Theme::now().ink;
    words_->setText(
        QString("<span style='color:%1'>%2%3</span>").arg(colour.name(), wrong ? "✕ " : "", words.toHtmlEscaped()));
}

void FilmDialog::film(const QString& path)
{
    const Stave& stave = session_.shown();
    FilmOrder order;
    const auto modes = modesNamed(modes_->text(), stave.solution ? static_cast<int>(stave.solution->modes.size()) : 0);
    if (const auto* problem = std::get_if<QString>(&modes)) return say(*problem, true);
    order.modes = std::get<std::vector<int>>(modes);
    const auto size = sizeNamed(size_->currentText());
    if (!size) return say(tr("\"%1\" is no size; write 1280 x 720").arg(size_->currentText()), true);
    order.path = path;
    order.size = *size;
    order.seconds = seconds_->value();
    order.turns = turns_->value();
    order.caption = caption_->isChecked();
    if (const QString problem = problemOf(order); !problem.isEmpty()) return say(problem, true);
    for (const auto& file : session_.files())
        if (QFileInfo(path) == QFileInfo(QString::fromStdString(file)))
            return say(tr("%1 belongs to the model; take another name").arg(QFileInfo(path).fileName()), true);
    path_ = path;
    make_->setEnabled(false);
    close_->setText(tr("Stop"));
    progress_->setValue(0);
    progress_->show();
    say(tr("Filming %1 pictures …").arg(order.frames()), false);
    filming_ = std::make_unique<Filming>(session_, order, seen_.look(), seen_.camera(), nullptr);
    connect(filming_.get(), &Filming::moved, this,
            [this] { progress_->setValue(static_cast<int>(1000.0 * filming_->share())); });
    connect(filming_.get(), &Filming::done, this, &FilmDialog::ended, Qt::QueuedConnection);
}

void FilmDialog::ended(const QString& problem)
{
    filming_.reset();
    make_->setEnabled(true);
    close_->setText(tr("Close"));
    progress_->hide();
    if (!problem.isEmpty()) return say(problem, true);
    const auto bytes = QFileInfo(path_).size();
    say(tr("%1 is there, %2 kB.").arg(QFileInfo(path_).fileName()).arg((bytes + 999) / 1000), false);
}

} // namespace undisona
