#pragma once
#include "app/scene/work_plane.hpp"
#include "app/session/session.hpp"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;

namespace undisona {

/// Shown while members are drawn or a place is picked: the work plane, its grid, and the length typed for the
/// next member.
class DrawBar : public QWidget {
    Q_OBJECT
public:
    explicit DrawBar(QWidget* parent);

    void show(const WorkPlane&, bool drawing, const DisplayUnits&);
    /// Begins to type a length with this text.
    void beginLength(const QString& text);

signals:
    void planeChanged(const undisona::WorkPlane&);
    void lengthTyped(const QString& text); ///< a length, or three
    void doneWanted();
    void leftLength(); ///< the length was given up

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void readPlane();

    WorkPlane plane_;
    QComboBox* across_;
    QLineEdit *level_, *spacing_, *length_;
    QWidget* lengthPart_;
};

} // namespace undisona
