#pragma once
#include "app/readings/page.hpp"
#include "core/remedy/tolerated_modes.hpp"

class QPushButton;
class QSpinBox;

namespace undisona {

class ReadingTable;

/// How far each word alone takes a frequency, as bars to both sides, the longest first.
class CauseBars : public QWidget {
public:
    explicit CauseBars(QWidget* parent);
    struct Bar {
        QString word, low, high;          ///< its name and its two ends as typed
        double atLow = 0.0, atHigh = 0.0; ///< Hz
    };
    void show(const QString& title, std::vector<Bar> bars);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return {160, sizeHint().height()}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QString title_;
    std::vector<Bar> bars_;
};

/// What is not known exactly: ranges of the frequencies, the words that cause them, clashes with their likelihood.
class ToleranceView : public QWidget {
    Q_OBJECT
public:
    ToleranceView(Session&, QWidget* parent);
    void fill();
    void select(); ///< the mode in view

private:
    void fillAnswer(const ToleratedModes&);
    void fillBars();
    Session& session_;
    QLabel *words_, *answer_;
    QSpinBox* samples_;
    QPushButton* run_;
    ReadingTable* table_;
    CauseBars* bars_;
    std::optional<ToleratedModes> shown_;
};

} // namespace undisona
