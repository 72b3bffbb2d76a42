#include "app/readings/plot.hpp"

#include "app/session/theme.hpp"
#include "app/session/drawn_file.hpp"
#include "app/session/written_file.hpp"

#include <QContextMenuEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>
#include <QMouseEvent>
#include <QVBoxLayout>

#include <qcustomplot.h>

namespace undisona {

struct Plot::Canvas {
    QCustomPlot* plot = nullptr;
    QCPTextElement* title = nullptr;
    QCPItemText *unit = nullptr, *read = nullptr;
    QCPItemStraightLine* cursor = nullptr;
    std::vector<QCPItemText*> names; ///< of the lines, at their ends; null where a line has none
};

Plot::Plot(QWidget* parent) : QWidget(parent), canvas_(std::make_unique<Canvas>())
{
    auto* plot = canvas_->plot = new QCustomPlot(this);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(plot);
    plot->setInteractions(QCP::Interactions(QCP::iRangeDrag) | QCP::iRangeZoom);
    plot->axisRect()->setRangeDrag(Qt::Horizontal);
    plot->axisRect()->setRangeZoom(Qt::Horizontal);
    plot->axisRect()->setMinimumMargins(QMargins(8, 7, 14, 2));
    plot->plotLayout()->insertRow(0);
    canvas_->title = new QCPTextElement(plot);
    canvas_->title->setTextFlags(Qt::AlignLeft | Qt::AlignVCenter);
    canvas_->title->setMargins(QMargins(2, 1, 2, 1));
    plot->plotLayout()->addElement(0, 0, canvas_->title);
    plot->plotLayout()->setRowSpacing(0);
    plot->installEventFilter(this);
    connect(plot->xAxis, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, [this, plot](const QCPRange& range) {
        // Never farther out than all there is.
        const QCPRange inside = range.bounded(full_[0], full_[1]);
        if (inside != range) plot->xAxis->setRange(inside);
    });
    connect(plot, &QCustomPlot::beforeReplot, this, &Plot::placeNames);
    connect(plot, &QCustomPlot::mouseDoubleClick, this, [this, plot] {
        plot->xAxis->setRange(full_[0], full_[1]);
        plot->replot();
    });
    connect(plot, &QCustomPlot::mouseMove, this, [this](QMouseEvent* event) { moveCursor(event->position()); });
    show({});
}

Plot::~Plot() = default;

void Plot::setTitles(const QString& x, const QString& y)
{
    canvas_->title->setText(tr("%1, over %2").arg(y, x)); // on one line, for the plots have little height
}

void Plot::setLogarithmic()
{
    auto* axis = canvas_->plot->xAxis;
    axis->setScaleType(QCPAxis::stLogarithmic);
    axis->setTicker(QSharedPointer<QCPAxisTicker>(new QCPAxisTickerLog));
}

void Plot::setRange(double left, double right, double bottom, double top)
{
    full_ = {left, std::max(right, left + 1e-9), bottom, std::max(top, bottom + 1e-9)};
}

void Plot::dress()
{
    const Theme& theme = Theme::now();
    auto* plot = canvas_->plot;
    plot->setBackground(theme.panel);
    canvas_->title->setFont(textFont(-1.5));
    canvas_->title->setTextColor(theme.quiet);
    for (auto* axis : {plot->xAxis, plot->yAxis}) {
        axis->setTickLabelFont(textFont(-1.5));
        axis->setTickLabelColor(theme.quiet);
        axis->setLabelFont(textFont(-1.5));
        axis->setLabelColor(theme.quiet);
        axis->setLabelPadding(0);
        axis->setTickPen(QPen(theme.quiet, 1.0));
        axis->setBasePen(Qt::NoPen);
        axis->setSubTicks(false);
        axis->setTickLength(0, 3);
        axis->grid()->setPen(QPen(theme.hairline, 1.0));
        axis->grid()->setZeroLinePen(QPen(theme.hairline, 1.0));
        axis->ticker()->setTickCount(4);
        axis->setNumberFormat("gb");
        axis->setNumberPrecision(5);
    }
    plot->xAxis->grid()->setVisible(false);
    plot->yAxis->setTickPen(Qt::NoPen);
}

void Plot::show(std::vector<Line> lines, std::vector<Region> regions, std::vector<Mark> marks)
{
    lines_ = std::move(lines);
    marks_ = std::move(marks);
    auto* plot = canvas_->plot;
    plot->clearItems();
    plot->clearGraphs();
    canvas_->names.clear();
    dress();
    plot->xAxis->setRange(full_[0], full_[1]);
    plot->yAxis->setRange(full_[2], full_[3]);
    for (const auto& region : regions) {
        auto* box = new QCPItemRect(plot);
        box->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
        box->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
        box->topLeft->setCoords(region.left, 0.0);
        box->bottomRight->setCoords(region.right, 1.0);
        box->setPen(Qt::NoPen);
        box->setBrush(region.colour);
        box->setLayer("background");
    }
    for (const auto& line : lines_) {
        auto* graph = plot->addGraph();
        QVector<double> x, y;
        for (const auto& point : line.points) {
            x << point.x();
            y << point.y();
        }
        graph->setData(x, y, true);
        graph->setPen(QPen(line.colour, line.width, line.dashed ? Qt::DashLine : Qt::SolidLine));
        graph->setLineStyle(line.steps ? QCPGraph::lsStepLeft : QCPGraph::lsLine);
        QCPItemText* name = nullptr;
        if (!line.name.isEmpty() && !line.points.empty()) {
            name = new QCPItemText(plot);
            name->setText(line.name);
            name->setFont(textFont(-1.5));
            name->setColor(line.colour);
            name->setPadding(QMargins(2, 0, 2, 0));
            name->position->setType(QCPItemPosition::ptAbsolute);
            name->setPositionAlignment(Qt::AlignRight | Qt::AlignBottom);
            name->setClipToAxisRect(false);
        }
        canvas_->names.push_back(name);
    }
    for (const auto& mark : marks_) {
        auto* graph = plot->addGraph();
        graph->setLineStyle(QCPGraph::lsNone);
        graph->setScatterStyle(QCPScatterStyle(mark.cross ? QCPScatterStyle::ssCross : QCPScatterStyle::ssCircle,
                                               QPen(mark.colour, 1.8), Qt::NoBrush, 8));
        graph->addData(mark.place.x(), mark.place.y());
    }
    canvas_->cursor = new QCPItemStraightLine(plot);
    canvas_->cursor->setPen(QPen(Theme::now().accent, 1.0));
    canvas_->cursor->setVisible(false);
    canvas_->read = new QCPItemText(plot);
    canvas_->read->position->setType(QCPItemPosition::ptAbsolute);
    canvas_->read->setFont(textFont(-1.5));
    canvas_->read->setColor(Theme::now().ink);
    canvas_->read->setBrush(Theme::now().panel);
    canvas_->read->setPadding(QMargins(4, 1, 4, 1));
    canvas_->read->setVisible(false);
    plot->replot(QCustomPlot::rpQueuedReplot);
}

void Plot::placeNames()
{
    const QRectF room = canvas_->plot->axisRect()->rect();
    const QFontMetricsF metrics(textFont(-1.5));
    std::vector<QRectF> taken;
    for (const Mark& mark : marks_) {
        const QPointF at(canvas_->plot->xAxis->coordToPixel(mark.place.x()),
                         canvas_->plot->yAxis->coordToPixel(mark.place.y()));
        taken.emplace_back(at - QPointF(5, 5), QSizeF(10, 10));
    }
    for (std::size_t at = 0; at < canvas_->names.size(); ++at) {
        auto* name = canvas_->names[at];
        if (!name) continue;
        const QPointF& last = lines_[at].points.back();
        const QPointF end(std::min(canvas_->plot->xAxis->coordToPixel(last.x()), room.right()),
                          canvas_->plot->yAxis->coordToPixel(last.y()));
        QRectF label(0, 0, metrics.horizontalAdvance(lines_[at].name) + 4.0, metrics.height());
        label.moveBottomRight(end + QPointF(0, -1));
        if (label.top() < room.top()) label.moveTopRight({end.x() - 8.0, room.top()}); // beside a steep line's end
        const QRectF first = label; // then below the line, then the same further left, until nothing is in the way
        for (int attempt = 1; attempt < 12 && std::any_of(taken.begin(), taken.end(),
                                                          [&](const QRectF& other) { return other.intersects(label); });
             ++attempt) {
            label = first.translated(-double(attempt / 2) * (label.width() + 6.0), 0);
            if (attempt % 2 == 1 && label.bottom() + label.height() < room.bottom()) label.moveTop(end.y() + 2.0);
        }
        taken.push_back(label);
        name->setVisible(room.adjusted(-1, -8, 1, 8).contains(end));
        name->position->setCoords(label.bottomRight());
    }
}

void Plot::moveCursor(const QPointF& pixel)
{
    auto* plot = canvas_->plot;
    const bool inside = plot->axisRect()->rect().contains(pixel.toPoint());
    canvas_->cursor->setVisible(inside);
    canvas_->read->setVisible(inside);
    if (inside) {
        const double x = plot->xAxis->pixelToCoord(pixel.x()), y = plot->yAxis->pixelToCoord(pixel.y());
        canvas_->cursor->point1->setCoords(x, 0.0);
        canvas_->cursor->point2->setCoords(x, 1.0);
        QString text = QString("%1 · %2").arg(x, 0, 'g', 4).arg(y, 0, 'g', 4);
        for (const auto& mark : marks_)
            if ((QPointF(plot->xAxis->coordToPixel(mark.place.x()), plot->yAxis->coordToPixel(mark.place.y())) - pixel)
                    .manhattanLength() < 10.0)
                text = mark.tip;
        canvas_->read->setText(text);
        const bool left = pixel.x() > width() / 2.0; // towards the side that has the room
        canvas_->read->setPositionAlignment((left ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignBottom);
        canvas_->read->position->setCoords(pixel + QPointF(left ? -8 : 8, -4));
    }
    plot->replot(QCustomPlot::rpQueuedReplot);
}

std::array<double, 2> Plot::shownRange() const
{
    return {canvas_->plot->xAxis->range().lower, canvas_->plot->xAxis->range().upper};
}

QString Plot::cursorText() const
{
    return canvas_->read->visible() ? canvas_->read->text() : QString();
}

QString Plot::save(const QString& path)
{
    moveCursor({-1, -1});
    return writtenWords(path, drawnBytes(path, canvas_->plot->size(), accessibleName(), [this](QPaintDevice& device) {
                            QCPPainter painter;
                            painter.begin(&device);
                            painter.setMode(QCPPainter::pmVectorized, device.devType() != QInternal::Image);
                            canvas_->plot->toPainter(&painter);
                            painter.end();
                        }));
}

bool Plot::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::Leave) moveCursor({-1, -1});
    return QWidget::eventFilter(watched, event);
}

void Plot::contextMenuEvent(QContextMenuEvent* event)
{
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Save the plot …"), this, [this] {
        QString path = QFileDialog::getSaveFileName(this, tr("Save the plot"), {},
                                                    tr("Picture (*.png);;Drawing (*.svg);;Document (*.pdf)"));
        if (path.isEmpty()) return;
        if (!QStringList{"png", "svg", "pdf"}.contains(QFileInfo(path).suffix().toLower())) path += ".png";
        emit told(save(path));
    });
    menu->popup(event->globalPos());
}

} // namespace undisona
