#pragma once
#include "app/readings/page.hpp"

class QPushButton;

namespace undisona {

/// The structure at rest under its own weight: what each support carries, how far it sinks and where.
class WeightView : public QWidget {
    Q_OBJECT
public:
    WeightView(Session&, QWidget* parent);
    void fill();

signals:
    void sentenceWanted(const std::string& id);

private:
    void fillFrom(const SelfWeight&);
    Session& session_;
    QLabel* words_;
    QPushButton* weigh_;
    ReadingTable* table_;
    std::vector<std::string> sentences_; ///< by row's key
};

} // namespace undisona
