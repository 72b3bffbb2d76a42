#include "app/window/start_page.hpp"

#include "app/session/settings.hpp"
#include "app/session/theme.hpp"

#include <QDir>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

namespace undisona {

const std::vector<Example>& examples()
{
    static const std::vector<Example> all{
        {"radar-mast", "Radar mast", "a lattice mast with a turning antenna; as built, one mode meets the ventilator"},
        {"hoist-gantry", "Hoist gantry", "a trolley whose place changes the modes, a motor with a speed range"},
        {"signal-lamps", "Signal lamp frame", "nearly free on soft springs: rigid motions, then bending"},
        {"pump-skid", "Bilge pump skid",
         "folded sheet and plate; as built it clashes, a stiffener clears it, a forgotten foot brings it back"},
        {"ramp-flap", "Ferry ramp flap", "a ribbed deck with its covering, hinged, on two stays"},
        {"office-floor", "Harbour office floor",
         "loads that stand there as mass, its vertical modes alone, and walkers"},
        {"bilge-line", "Bilge discharge line",
         "pipe with bends, full and lagged, a valve beside its axis; as built it meets the pump"},
        {"hung-line", "Discharge line on hangers",
         "hangers that let go, a guide with a gap: full and empty, cold and hot below each other"},
        {"lamp-wire", "Lamp wire", "a wire that sounds by its pull, between two posts, in summer and winter"},
        {"water-tower", "Rain-water tower",
         "a full bowl on slanting columns: its weight, a gale, Ritz vectors along each direction"},
        {"vent-housing", "Ventilator housing",
         "thin sheet with openings; as built its lid meets the ventilator, a rib clears it"},
        {"mooring-fender", "Mooring fender",
         "a panel on a layer of rubber with its facing on it; softer rubber meets the tug, this clears it"},
        {"landing-pontoon", "Landing pontoon",
         "two floats and a gangway, each from a file of its own; stiff pads keep walkers from swaying it"},
        {"fog-bell", "Fog bell", "a solid turned from its profile, free: its partials as musical intervals"},
        {"davit-arm", "Davit arm", "a casting from a STEP file, held at its bolts; the winch meets its sway"},
    };
    return all;
}

StartPage::StartPage(QWidget* parent) : QWidget(parent)
{
    setObjectName("startPage");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    renew();
}

void StartPage::renew()
{
    delete content_;
    const Theme& theme = Theme::now();
    setStyleSheet(QString("#startPage { background: %1; }").arg(theme.panel.name()));
    auto* scroll = new QScrollArea(this); // more than a small screen holds
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setStyleSheet("QScrollArea, #startContent { background: transparent; }");
    content_ = scroll;
    auto* content = new QWidget;
    content->setObjectName("startContent");
    auto* row = new QHBoxLayout(content);
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    QVBoxLayout* into = column;
    const auto words = [&](const QString& text, double step, bool bold, const QColor& colour) {
        auto* label = new QLabel(text, content);
        label->setFont(textFont(step, bold));
        label->setStyleSheet(QString("color: %1").arg(colour.name()));
        label->setWordWrap(true);
        into->addWidget(label);
        return label;
    };
    const auto entry = [&](const QString& title, const QString& about, const char* name) {
        auto* button = new QPushButton(title, content);
        button->setObjectName(name);
        button->setStyleSheet(QString("text-align: left; color: %1; font-weight: bold").arg(theme.accent.name()));
        button->setProperty("flat", true);
        into->addWidget(button);
        if (!about.isEmpty()) words(about, -0.5, false, theme.quiet)->setContentsMargins(8, 0, 0, 4);
        return button;
    };
    column->addStretch(2);
    words("Undisona", 14.0, true, theme.ink);
    words(tr("Will anything that shakes this structure meet a mode of it, and if so, what moves the mode out of the "
             "way?"),
          1.0, false, theme.quiet);
    column->addSpacing(20);
    connect(entry(tr("New structure"), tr("begin with a few points and members, or a pattern"), "startNew"),
            &QPushButton::clicked, this, &StartPage::newWanted);
    connect(entry(tr("Open a file …"), {}, "startOpen"), &QPushButton::clicked, this, &StartPage::openWanted);
    column->addSpacing(12);
    const QStringList recent = recentFiles();
    if (!recent.isEmpty()) {
        words(tr("Lately"), 0.0, true, theme.ink);
        for (const auto& path : recent.mid(0, 4))
            connect(entry(QFileInfo(path).fileName(), {}, "recent"), &QPushButton::clicked, this,
                    [this, path] { emit fileWanted(path); });
        column->addSpacing(12);
    }
    const QString folder = exampleFolder();
    auto* pairs = new QGridLayout; // two beside each other, so that a small screen holds them
    pairs->setHorizontalSpacing(24);
    pairs->setVerticalSpacing(0);
    int shown = 0;
    for (const auto& example : examples()) {
        const QString path = folder + "/" + example.name + ".undisona.json";
        if (folder.isEmpty() || !QFileInfo::exists(path)) continue;
        if (shown == 0) words(tr("Examples from the pilot harbour of Skerrow Sound"), 0.0, true, theme.ink);
        into = new QVBoxLayout;
        into->setSpacing(2);
        pairs->addLayout(into, shown / 2, shown % 2, Qt::AlignTop);
        ++shown;
        connect(entry(tr(example.title), tr(example.words), example.title), &QPushButton::clicked, this,
                [this, path] { emit exampleWanted(path); });
    }
    for (const int side : {0, 1})
        pairs->setColumnStretch(side, 1);
    column->addLayout(pairs);
    column->addStretch(3);
    row->addStretch(1);
    auto* holder = new QWidget(content);
    holder->setMaximumWidth(880);
    holder->setLayout(column);
    row->addWidget(holder, 4);
    row->addStretch(1);
    scroll->setWidget(content);
    layout()->addWidget(scroll);
}

} // namespace undisona
