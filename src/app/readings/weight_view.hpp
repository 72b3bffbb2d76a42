#pragma once
#include "app/readings/page.hpp"

class QLineEdit;
class QPushButton;

namespace undisona {

/// The structure at rest under its own weight: what each support carries, how far it sinks and where.
class WeightView : public QWidget {
    Q_OBJECT
public:
    WeightView(Session&, QWidget* parent);
    void fill();
    /// Asks how stiff the structure is at the point; with no name, lets one be typed.
    void askStiffness(const QString& point);

signals:
    void sentenceWanted(const std::string& id);

private:
    void fillFrom(const SelfWeight&);
    QString stiffnessWords(const PointStiffness&) const;
    Session& session_;
    QLabel* words_;
    QPushButton* weigh_;
    QLineEdit* stiffAt_;
    ReadingTable* table_;
    std::vector<std::string> sentences_; ///< by row's key
};

} // namespace undisona
