#pragma once
#include "app/scene/scene_canvas.hpp"

class QComboBox;
class QLabel;
class QPushButton;
class QSlider;

namespace undisona {

/// Where the view is cut open: the axis, the place along it, the side that is taken away.
class CutBar : public QWidget {
    Q_OBJECT
public:
    explicit CutBar(QWidget* parent);

    void show(const ViewCut&);
    void setPlaceWords(const QString&); ///< what the plane's place reads

signals:
    void cutChanged(const undisona::ViewCut&);
    void doneWanted();

private:
    void read();

    QComboBox* axis_;
    QSlider* share_;
    QPushButton* side_;
    QLabel* place_;
};

} // namespace undisona
