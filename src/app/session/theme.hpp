#pragma once
#include <QColor>
#include <QFont>

class QApplication;

namespace undisona {

/// The colours of the window, light or dark, and what is made from them.
struct Theme {
    bool dark = false;
    QColor paper, panel, ink, quiet, hairline, accent, selection, amber, amberGround, red, green, sceneTop, sceneBottom;
    QColor axis[3]; ///< X, Y, Z

    static const Theme& now();
    /// Changes the look of the whole application.
    static void set(bool dark);
    /// Whether the desktop's own palette is a dark one.
    static bool desktopIsDark();

    /// Other colours for what is painted while it lives; those of the windows stay.
    class Lent {
    public:
        explicit Lent(bool dark);
        ~Lent();
        Lent(const Lent&) = delete;
        Lent& operator=(const Lent&) = delete;

    private:
        bool wasDark_;
    };
};

/// Font of the desktop, `step` points larger, with tabular figures where it has them.
QFont textFont(double step = 0.0, bool bold = false);

} // namespace undisona
