#include "app/readings/printed_table.hpp"

#include <QBuffer>
#include <QHeaderView>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QRegularExpression>
#include <QTextDocument>

namespace undisona {

namespace {

/// On paper everything is ink.
QString inInk(QString words)
{
    return words.remove(QRegularExpression(" ?style=['\"][^'\"]*['\"]"));
}

} // namespace

std::unique_ptr<QTextDocument> pagesOf(const QString& title, const QString& words, const ReadingTable& table)
{
    QString html = "<h3>" + title.toHtmlEscaped() + "</h3>" + inInk(words) +
                   "<table width='100%' border='1' cellspacing='0' cellpadding='3' "
                   "style='border-collapse: collapse; border-color: #888888; margin-top: 8px'><thead><tr>";
    const auto cell = [&](const char* tag, const QTableWidgetItem* item) {
        if (!item) return html += QString("<%1></%1>").arg(tag);
        const bool right = (item->textAlignment() & Qt::AlignRight) != 0;
        const QString text = item->text().toHtmlEscaped();
        return html += QString("<%1 align='%2'>%3</%1>")
                           .arg(tag, right ? "right" : "left", item->font().bold() ? "<b>" + text + "</b>" : text);
    };
    for (int column = 0; column < table.columnCount(); ++column)
        cell("th", table.horizontalHeaderItem(column));
    html += "</tr></thead>";
    for (int row = 0; row < table.rowCount(); ++row) {
        html += "<tr>";
        for (int column = 0; column < table.columnCount(); ++column)
            cell("td", table.item(row, column));
        html += "</tr>";
    }
    auto pages = std::make_unique<QTextDocument>();
    pages->setDefaultFont(QFont("DejaVu Sans", 8));
    pages->setHtml(html + "</table>");
    return pages;
}

std::string pdfOf(const QString& title, const QString& words, const ReadingTable& table)
{
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&bytes);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setTitle(title);
        writer.setResolution(300);
        pagesOf(title, words, table)->print(&writer);
    }
    return bytes.data().toStdString();
}

void printTable(QWidget* parent, const QString& title, const QString& words, const ReadingTable& table)
{
    auto printer = std::make_shared<QPrinter>(QPrinter::HighResolution);
    printer->setDocName(title);
    auto* dialog = new QPrintDialog(printer.get(), parent);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    std::shared_ptr<QTextDocument> pages = pagesOf(title, words, table); // as the table was when it was asked for
    QObject::connect(dialog, qOverload<QPrinter*>(&QPrintDialog::accepted), parent,
                     [printer, pages](QPrinter*) { pages->print(printer.get()); });
    QObject::connect(dialog, &QObject::destroyed, parent, [printer] {}); // outlives the dialog
    dialog->open();
}

} // namespace undisona
