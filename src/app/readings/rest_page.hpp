#pragma once
#include "app/readings/page.hpp"

class QComboBox;
class QPushButton;

namespace undisona {

class PartStressTable;
class ValuesView;
class Plot;

/// Where the structure comes to rest under its loads: what supports carry, stresses and section forces, how states
/// buckle. What is chosen here stands in the Scene.
class RestPage : public PartedPage {
    Q_OBJECT
public:
    RestPage(Session&, QWidget* parent);
    void find();

signals:
    void stateWanted();  ///< seen at its full extent
    void stressWanted(); ///< as the Scene's colours

private:
    void fill() override;
    void fillPart(int) override { fill(); }
    void showChosen();
    void askAboutIt();
    bool isAskedAbout(const std::string& state) const;
    void fillChoices(const Rest*);
    void fillWords(const RestState&);
    void fillSupports(const RestState&);
    void fillDiagram(const RestAnswer&);
    int state() const;

    QLabel* words_;
    QPushButton *find_, *about_;
    QComboBox *states_, *shapes_, *members_, *forces_;
    ReadingTable* supports_;
    PartStressTable* stresses_;
    Plot* diagram_;
    QLabel* diagramWords_;
    ValuesView* values_;
    std::vector<std::string> sentences_; ///< by row of the supports' table
    std::vector<int> listed_;            ///< members, by place in their box
    bool sought_ = false;                ///< what is found goes into view
};

} // namespace undisona
