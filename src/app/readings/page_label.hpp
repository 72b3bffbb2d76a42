#pragma once
#include <QEvent>
#include <QLabel>

namespace undisona {

/// Words with a margin that stays: a frame sets its margins anew whenever its style does.
class PageLabel : public QLabel {
public:
    PageLabel(const QMargins& margins, QWidget* parent) : QLabel(parent), margins_(margins)
    {
        setContentsMargins(margins);
    }

protected:
    void changeEvent(QEvent* event) override
    {
        QLabel::changeEvent(event);
        if (event->type() == QEvent::StyleChange) setContentsMargins(margins_);
    }

private:
    QMargins margins_;
};

} // namespace undisona
