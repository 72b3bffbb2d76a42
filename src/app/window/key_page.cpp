#include "app/window/key_page.hpp"

#include "app/session/theme.hpp"

#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

namespace undisona {

KeyPage::KeyPage(const QList<QAction*>& actions, QWidget* parent) : QDialog(parent)
{
    setWindowTitle(tr("Keys and habits"));
    setObjectName("keyPage");
    resize(860, 600);
    const auto row = [](const QString& key, const QString& what) {
        return QString("<tr><td style='padding:1px 14px 1px 0; white-space:nowrap'><b>%1</b></td><td "
                       "style='padding:1px 18px 1px 0'>%2</td></tr>")
            .arg(key.toHtmlEscaped(), what.toHtmlEscaped());
    };
    QString keys = "<table>";
    for (const auto* action : actions) {
        if (action->shortcut().isEmpty()) continue;
        QString text = action->text();
        keys += row(action->shortcut().toString(QKeySequence::NativeText), text.remove('&'));
    }
    keys += "</table>";
    QString habits = "<table>";
    habits += "<tr><td colspan=2><b>Ledger</b></td></tr>";
    habits += row(tr("Up, Down"), tr("from sentence to sentence"));
    habits += row(tr("Enter"), tr("open the first word; accept it"));
    habits += row(tr("Tab"), tr("to the next word, and out after the last"));
    habits += row(tr("Esc"), tr("leave a word as it was"));
    habits += row(tr("Ctrl+Enter"), tr("add a sentence below"));
    habits += row(tr("Delete"), tr("remove it; Ctrl+Z brings it back"));
    habits += row(tr("+"), tr("add a detail, or leave one out"));
    habits += row(tr("Alt+Up, Alt+Down"), tr("move it"));
    habits += "<tr><td colspan=2><br><b>Score</b></td></tr>";
    habits += row(tr("Left, Right"), tr("from note to note"));
    habits += row(tr("Up, Down"), tr("from take to take"));
    habits += row(tr("wheel, drag"), tr("zoom about the cursor; move along"));
    habits += row(tr("drag a band"), tr("change its speed"));
    habits += row(tr("0 or double-click"), tr("show everything"));
    habits += "<tr><td colspan=2><br><b>Scene</b></td></tr>";
    habits += row(tr("drag, Shift+drag, wheel"), tr("turn, move, come nearer"));
    habits += row(tr("arrows, + and −"), tr("the same by key"));
    habits += row(tr("drag a mass"),
                  tr("to another point or place: the notes tell at once where they would go; Esc lets go"));
    habits += row(tr("click a member"), tr("its sentence; while a word is open: into the word"));
    habits += "<tr><td colspan=2><br><b>Numbers</b></td></tr>";
    habits += row(tr("18 kN, 2.5 mm, 1480 rpm"), tr("any fitting unit, as typed"));
    habits += row(tr("4 feet of Mast"), tr("a pick by rule, with the number it found"));
    habits += "</table>";
    auto* page =
        new QLabel(QString("<table><tr><td valign=top>%1</td><td valign=top>%2</td></tr></table>").arg(keys, habits));
    page->setTextFormat(Qt::RichText);
    page->setMargin(14);
    page->setAlignment(Qt::AlignTop);
    auto* scroll = new QScrollArea(this);
    scroll->setWidget(page);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(scroll);
}

} // namespace undisona
