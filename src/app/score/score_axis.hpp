#pragma once
#include <QRectF>
#include <QString>

#include <vector>

namespace undisona {

/// What the axis reads; the data stay in Hz.
enum class AxisUnit { hertz, rpm, radPerSecond };

/// The frequency axis: from Hz to pixels, linear or logarithmic, with its tick marks.
class ScoreAxis {
public:
    void setRoom(double left, double right)
    {
        left_ = left;
        right_ = right;
    }
    void setRange(double lowHz, double highHz);
    void setLogarithmic(bool logarithmic);
    void setUnit(AxisUnit unit) { unit_ = unit; }

    double low() const { return low_; }
    double high() const { return high_; }
    double left() const { return left_; }
    double right() const { return right_; }
    bool logarithmic() const { return logarithmic_; }
    AxisUnit unit() const { return unit_; }
    QString unitText() const;

    double at(double hertz) const; ///< pixel
    double hertzAt(double pixel) const;
    void zoom(double aboutPixel, double factor);
    void pan(double pixels);

    struct Tick {
        double pixel;
        QString label;
    };
    std::vector<Tick> ticks() const;

private:
    double low_ = 0.0, high_ = 50.0, left_ = 0.0, right_ = 1.0;
    bool logarithmic_ = false;
    AxisUnit unit_ = AxisUnit::hertz;
};

} // namespace undisona
