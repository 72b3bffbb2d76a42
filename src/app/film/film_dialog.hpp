#pragma once
#include "app/film/filming.hpp"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;

namespace undisona {

/// Asks what a film shall show, makes it, and says where it is. Closing it stops.
class FilmDialog : public QDialog {
    Q_OBJECT
public:
    /// Films what the scene shows, seen as it sees it.
    FilmDialog(Session&, SceneCanvas& seen, QWidget* parent);
    /// Begins with what is stated, to a file of that path.
    void film(const QString& path);

private:
    void ended(const QString& problem);
    void say(const QString& words, bool wrong);
    Session& session_;
    SceneCanvas& seen_;
    QLineEdit* modes_;
    QComboBox* size_;
    QDoubleSpinBox *seconds_, *turns_;
    QCheckBox* caption_;
    QProgressBar* progress_;
    QLabel* words_;
    QPushButton *make_, *close_;
    QString path_;
    std::unique_ptr<Filming> filming_;
};

/// "1280 x 720" as a size; none where it is not one.
std::optional<QSize> sizeNamed(const QString& text);

} // namespace undisona
