#pragma once
#include "app/film/film_writer.hpp"
#include "app/film/scene_stage.hpp"

namespace undisona {

/// Films modes of the shown stave, a picture each time the window has nothing else to do. The session shows each mode
/// while it is filmed, and the one it had afterwards.
class Filming : public QObject {
    Q_OBJECT
public:
    Filming(Session&, FilmOrder, const SceneLook&, const Camera&, QObject* parent);
    ~Filming() override; ///< stops

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
    std::size_t stave_;
    int before_, frame_ = 0;
    std::shared_ptr<const Solution> of_; ///< whose modes are filmed
};

} // namespace undisona
