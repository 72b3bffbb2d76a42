#include "app/session/theme.hpp"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QStyle>

/// What the library has in itself is known from here on.
static void takeIcons()
{
    Q_INIT_RESOURCE(icons);
}

namespace undisona {

namespace {

Theme lightTheme()
{
    Theme theme;
    theme.paper = "#F3F2EE";
    theme.panel = "#FBFAF8";
    theme.ink = "#20262B";
    theme.quiet = "#666E76";
    theme.hairline = "#DCDAD4";
    theme.accent = "#6A3D8F";
    theme.selection = "#E8E1EC";
    theme.amber = "#8A5C00";
    theme.amberGround = "#F6E6BC";
    theme.red = "#B3261E";
    theme.green = "#00785A";
    theme.sceneTop = "#FBFAF8";
    theme.sceneBottom = "#E8EAE9";
    theme.axis[0] = "#D55E00";
    theme.axis[1] = "#009E73";
    theme.axis[2] = "#0072B2";
    return theme;
}

Theme darkTheme()
{
    Theme theme;
    theme.dark = true;
    theme.paper = "#1E2124";
    theme.panel = "#25292D";
    theme.ink = "#E6E4DF";
    theme.quiet = "#9CA4AA";
    theme.hairline = "#3A3F44";
    theme.accent = "#C3A0E6";
    theme.selection = "#3A3443";
    theme.amber = "#E0B050";
    theme.amberGround = "#4A3D1E";
    theme.red = "#F2857D";
    theme.green = "#3CC79C";
    theme.sceneTop = "#2A2E32";
    theme.sceneBottom = "#1E2124";
    theme.axis[0] = "#F08A45";
    theme.axis[1] = "#3CC79C";
    theme.axis[2] = "#5FB0E8";
    return theme;
}

Theme current = lightTheme();

QString styleSheet(const Theme& theme)
{
    QString sheet = QStringLiteral(R"(
        QMainWindow, QDialog { background: @paper; }
        QWidget { color: @ink; }
        QMenuBar { background: @paper; border-bottom: 1px solid @hairline; padding: 1px 4px; }
        QMenuBar::item { padding: 3px 8px; background: transparent; }
        QMenuBar::item:selected { background: @selection; }
        QMenu { background: @panel; border: 1px solid @hairline; }
        QMenu::item { padding: 4px 24px 4px 18px; }
        QMenu::item:selected { background: @selection; color: @ink; }
        QMenu::item:disabled { color: @quiet; }
        QMenu::separator { height: 1px; background: @hairline; margin: 4px 8px; }
        QSplitter::handle { background: @hairline; }
        QToolTip { background: @panel; color: @ink; border: 1px solid @hairline; padding: 3px; }
        QPushButton { background: @panel; border: 1px solid @hairline; border-radius: 5px; padding: 4px 12px; }
        QPushButton:hover { border-color: @accent; }
        QPushButton:focus { border: 2px solid @accent; padding: 3px 11px; }
        QPushButton:disabled { color: @quiet; }
        QPushButton[accent="true"] { background: @accent; color: @onaccent; border: 1px solid @accent; font-weight: bold; }
        QPushButton[accent="true"]:disabled { background: @hairline; color: @quiet; border-color: @hairline; }
        QPushButton[pill="true"] { border-radius: 10px; padding: 2px 12px; }
        QPushButton[pill="amber"] { border-radius: 10px; padding: 2px 12px; color: @amber; border-color: @amber; }
        QPushButton[pill="red"] { border-radius: 10px; padding: 2px 12px; color: @red; border-color: @red; font-weight: bold; }
        QPushButton[flat="true"] { background: transparent; border: 1px solid transparent; padding: 3px 6px; }
        QPushButton[flat="true"]:focus { border: 1px solid @accent; padding: 3px 6px; }
        QPushButton[flat="true"]:hover { border-color: @hairline; }
        QLineEdit, QComboBox, QSpinBox { background: @panel; border: 1px solid @hairline; border-radius: 4px; padding: 2px 6px;
            selection-background-color: @accent; selection-color: @onaccent; }
        QLineEdit:focus, QComboBox:focus { border: 1px solid @accent; }
        QComboBox QAbstractItemView { background: @panel; border: 1px solid @hairline; selection-background-color: @selection; selection-color: @ink; }
        QListView, QListWidget, QTableView, QTableWidget, QTreeView { background: @panel; alternate-background-color: @panel; border: none; outline: none;
            selection-background-color: @selection; selection-color: @ink; gridline-color: @hairline; }
        QTableView::item:focus, QListView::item:focus { border: 1px solid @accent; }
        QHeaderView::section { background: @panel; color: @quiet; border: none; border-bottom: 1px solid @hairline; padding: 4px 3px; }
        QTableView::item { padding: 0 3px; }
        QTableCornerButton::section { background: @panel; border: none; }
        QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
        QScrollBar:horizontal { background: transparent; height: 9px; margin: 0; }
        QScrollBar::handle { background: @hairline; border-radius: 4px; min-height: 24px; min-width: 24px; }
        QScrollBar::handle:hover { background: @quiet; }
        QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
        QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
        QTabBar { background: @panel; }
        QTabBar::tab { background: transparent; color: @quiet; border: none; border-bottom: 2px solid transparent; padding: 7px 2px 6px 2px; margin: 0px 1px; }
        QTabBar::tab:selected { color: @ink; border-bottom: 2px solid @accent; }
        QTabBar::tab:focus { color: @accent; }
        QTabWidget::pane { border: none; border-top: 1px solid @hairline; background: @panel; }
        QSlider::groove:horizontal { height: 2px; background: @hairline; }
        QSlider::handle:horizontal { background: @quiet; width: 10px; height: 10px; margin: -4px 0; border-radius: 5px; }
        QSlider::handle:horizontal:focus { background: @accent; }
        QProgressBar { background: @hairline; border: none; border-radius: 3px; max-height: 6px; }
        QProgressBar::chunk { background: @accent; border-radius: 3px; }
        QCheckBox::indicator { width: 13px; height: 13px; border: 1px solid @quiet; border-radius: 3px; background: @panel; }
        QCheckBox::indicator:checked { background: @accent; border-color: @accent; image: url(:/tick-@tick.svg); }
    )");
    const std::pair<const char*, QColor> names[] = {{"@paper", theme.paper},
                                                    {"@panel", theme.panel},
                                                    {"@onaccent", theme.dark ? theme.paper : QColor("#FFFFFF")},
                                                    {"@ink", theme.ink},
                                                    {"@quiet", theme.quiet},
                                                    {"@hairline", theme.hairline},
                                                    {"@accent", theme.accent},
                                                    {"@selection", theme.selection},
                                                    {"@amber", theme.amber},
                                                    {"@red", theme.red}};
    sheet.replace("@tick", theme.dark ? "dark" : "light");
    for (const auto& [name, colour] : names)
        sheet.replace(QLatin1String(name), colour.name());
    return sheet;
}

} // namespace

const Theme& Theme::now()
{
    return current;
}

void Theme::set(bool dark)
{
    takeIcons();
    current = dark ? darkTheme() : lightTheme();
    QPalette palette;
    palette.setColor(QPalette::Window, current.paper);
    palette.setColor(QPalette::Base, current.panel);
    palette.setColor(QPalette::AlternateBase, current.panel);
    palette.setColor(QPalette::Button, current.panel);
    palette.setColor(QPalette::Highlight, current.selection);
    palette.setColor(QPalette::HighlightedText, current.ink);
    palette.setColor(QPalette::Link, current.accent);
    palette.setColor(QPalette::PlaceholderText, current.quiet);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
        palette.setColor(role, current.ink);
    qApp->setPalette(palette);
    qApp->setStyleSheet(styleSheet(current));
}

Theme::Lent::Lent(bool dark) : wasDark_(current.dark)
{
    if (dark != wasDark_) current = dark ? darkTheme() : lightTheme();
}

Theme::Lent::~Lent()
{
    if (current.dark != wasDark_) current = wasDark_ ? darkTheme() : lightTheme();
}

bool Theme::desktopIsDark()
{
    const QPalette palette = qApp->palette();
    return palette.color(QPalette::Window).lightness() < palette.color(QPalette::WindowText).lightness();
}

QFont textFont(double step, bool bold)
{
    QFont font = qApp->font();
    if (font.pointSizeF() > 0)
        font.setPointSizeF(font.pointSizeF() + step);
    else
        font.setPixelSize(font.pixelSize() + static_cast<int>(std::lround(step * 1.33)));
    font.setBold(bold);
    return font;
}

} // namespace undisona
