#include "app/session/plain_labels.hpp"

#include <QApplication>
#include <QEvent>
#include <QLabel>

namespace undisona {

namespace {

class PlainLabels : public QObject {
public:
    using QObject::QObject;
    bool eventFilter(QObject* watched, QEvent* event) override
    {
        if (event->type() == QEvent::Polish) // once, before it is shown first
            if (auto* label = qobject_cast<QLabel*>(watched); label && label->textFormat() == Qt::AutoText)
                label->setTextFormat(Qt::PlainText);
        return false;
    }
};

} // namespace

void installPlainLabels()
{
    qApp->installEventFilter(new PlainLabels(qApp));
}

} // namespace undisona
