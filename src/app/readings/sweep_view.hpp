#pragma once
#include "app/readings/page.hpp"
#include "core/remedy/word_sweep.hpp"

class QComboBox;
class QLineEdit;
class QPushButton;
class QSpinBox;

namespace undisona {

class Plot;

/// One word of the model from a value to another: where the frequencies go, past which bands, where they meet.
class SweepView : public QWidget {
    Q_OBJECT
public:
    SweepView(Session&, QWidget* parent);
    void fill();
    void choose(const SaidQuantity&); ///< the word, and a range about what is said
    void run();

private:
    void fillWords();
    void rangeAbout(const SaidQuantity&);
    void draw(const WordSweep&);
    Session& session_;
    QComboBox* word_;
    QLineEdit *from_, *to_;
    QSpinBox* steps_;
    QPushButton* run_;
    QLabel* words_;
    Plot* plot_;
    std::vector<SaidQuantity> all_;
};

} // namespace undisona
