#pragma once
#include "app/film/film_writer.hpp"
#include "app/film/scene_stage.hpp"

namespace undisona {

/// Films modes of the shown stave, a picture each time the window has nothing else to do.
class Filming : public QObject {
    Q_OBJECT
public:
    Filming(Session&, FilmOrder, const SceneLook&, const Camera&, QObject* parent);
    double share() const; ///< that is filmed

signals:
    void moved();
    void done(const QString& problem); ///< in words; empty: the film is there

private:
    void next();
    Session& session_;
    FilmOrder order_;
    SceneStage stage_;
    FilmWriter writer_;
    QTimer turn_;
    QString stave_; ///< id
    int frame_ = 0;
    std::shared_ptr<const Solution> of_; ///< whose modes are filmed
};

} // namespace undisona
