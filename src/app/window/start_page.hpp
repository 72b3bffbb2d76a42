#pragma once
#include <QWidget>

namespace undisona {

/// A model that comes with the program: its file's name without its ending, what it is.
struct Example {
    const char *name, *title, *words;
};
const std::vector<Example>& examples();

/// The first screen: a new structure, a file, the examples, what was open lately.
class StartPage : public QWidget {
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent = nullptr);
    void renew();

signals:
    void newWanted();
    void openWanted();
    void fileWanted(const QString& path);
    void exampleWanted(const QString& path);

private:
    QWidget* content_ = nullptr;
};

} // namespace undisona
