#include "app/report/report_pages.hpp"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QFont>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextDocument>
#include <QUrl>

namespace undisona {

std::unique_ptr<QTextDocument> pagesOf(const Report& report, const std::map<std::string, std::string>& pictures)
{
    auto pages = std::make_unique<QTextDocument>();
    pages->setDefaultFont(QFont("DejaVu Sans", 8));
    for (const auto& [key, bytes] : pictures)
        pages->addResource(QTextDocument::ImageResource, QUrl(QString::fromStdString(key)),
                           QImage::fromData(QByteArray::fromStdString(bytes), "PNG"));
    pages->setHtml(QString::fromStdString(reportHtml(report, pictures, true)));
    return pages;
}

namespace {

/// No heading stands at the foot of a page without what it is over.
void keepHeadings(QTextDocument& pages)
{
    const auto* layout = pages.documentLayout();
    const double height = pages.pageSize().height();
    const auto pageAt = [&](double y) { return static_cast<int>(y / height); };
    for (QTextBlock block = pages.begin(); block.isValid(); block = block.next()) {
        if (block.blockFormat().headingLevel() == 0 || !block.next().isValid()) continue;
        if (pageAt(layout->blockBoundingRect(block).top()) == pageAt(layout->blockBoundingRect(block.next()).bottom()))
            continue;
        QTextBlockFormat onNext = block.blockFormat();
        onNext.setPageBreakPolicy(QTextFormat::PageBreak_AlwaysBefore);
        QTextCursor(block).setBlockFormat(onNext);
        // Laid out whole again: what follows a table over two pages is not drawn else.
        const QSizeF size = pages.pageSize();
        pages.setPageSize(QSizeF(size.width() + 1.0, size.height()));
        pages.setPageSize(size);
    }
}

} // namespace

std::string pdfOf(const Report& report, const std::map<std::string, std::string>& pictures)
{
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&bytes);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(18.0, 16.0, 18.0, 14.0), QPageLayout::Millimeter);
        writer.setTitle(QString::fromStdString(report.title));
        writer.setCreator("Undisona");
        writer.setResolution(300);
        const auto pages = pagesOf(report, pictures);
        const double foot = writer.logicalDpiY() * 0.3, height = writer.height() - foot;
        pages->documentLayout()->setPaintDevice(&writer);
        pages->setDocumentMargin(0.0);
        pages->setPageSize(QSizeF(writer.width(), height));
        keepHeadings(*pages);
        QPainter painter(&writer);
        for (int page = 0; page < pages->pageCount(); ++page) {
            if (page > 0) writer.newPage();
            painter.save();
            painter.translate(0.0, -page * height);
            QAbstractTextDocumentLayout::PaintContext context;
            context.palette.setColor(QPalette::Text, Qt::black);
            context.clip = QRectF(0.0, page * height, writer.width(), height);
            painter.setClipRect(context.clip);
            pages->documentLayout()->draw(&painter, context);
            painter.restore();
            painter.setFont(pages->defaultFont());
            painter.setPen(Qt::darkGray);
            const QRectF line(0.0, height, writer.width(), foot);
            painter.drawText(line, Qt::AlignLeft | Qt::AlignBottom, QString::fromStdString(report.title));
            painter.drawText(line, Qt::AlignRight | Qt::AlignBottom,
                             QObject::tr("%1 of %2").arg(page + 1).arg(pages->pageCount()));
        }
    }
    return bytes.data().toStdString();
}

} // namespace undisona
