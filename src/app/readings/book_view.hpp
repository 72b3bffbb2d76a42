#pragma once
#include "app/readings/page.hpp"

class QPushButton;

namespace undisona {

struct MassBook;

/// The mass book: where every kilogram comes from, beside what the scale says.
class BookView : public QWidget {
    Q_OBJECT
public:
    BookView(Session&, QWidget* parent);
    void fill();

signals:
    void sentenceWanted(const std::string& id);

private:
    void fillWords(const MassBook&);
    Session& session_;
    QLabel* words_;
    QPushButton* weighed_;
    ReadingTable* table_;
    std::vector<std::string> sentences_; ///< by row's key
};

} // namespace undisona
