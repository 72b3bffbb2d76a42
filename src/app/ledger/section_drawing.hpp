#pragma once
#include "core/model/section.hpp"

#include <QWidget>

namespace undisona {

/// The outline of a section with its axes y and z, its principal axes where they are turned, and its shear centre.
class SectionDrawing : public QWidget {
    Q_OBJECT
public:
    explicit SectionDrawing(QWidget* parent);
    void show(const Section&);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Section section_;
};

} // namespace undisona
