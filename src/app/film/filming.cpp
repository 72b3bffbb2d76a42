#include "app/film/filming.hpp"

namespace undisona {

Filming::Filming(Session& session, FilmOrder order, const SceneLook& look, const Camera& camera, QObject* parent)
    : QObject(parent), session_(session), order_(std::move(order)),
      stage_(session, order_.size, look, camera, order_.caption), writer_(order_, this), stave_(session.shown().id),
      of_(session.shown().solution)
{
    turn_.setSingleShot(true);
    turn_.setInterval(0);
    connect(&turn_, &QTimer::timeout, this, &Filming::next);
    connect(&writer_, &FilmWriter::fed, this, [this] {
        if (frame_ < order_.frames() && !turn_.isActive()) turn_.start();
    });
    connect(&writer_, &FilmWriter::done, this, [this](const QString& problem) {
        turn_.stop();
        emit done(problem);
    });
    writer_.start();
    turn_.start();
}

double Filming::share() const
{
    return double(frame_) / double(order_.frames());
}

void Filming::next()
{
    const auto& staves = session_.staves();
    const auto stave =
        std::find_if(staves.begin(), staves.end(), [this](const Stave& one) { return one.id == stave_; });
    if (stave == staves.end() || stave->solution != of_ || stave->stale)
        return emit done(tr("the model changed while its modes were filmed; nothing was written"));
    const int each = order_.framesPerMode();
    stage_.canvas().fixTo(SceneCanvas::Fixed{stave_, order_.modes[static_cast<std::size_t>(frame_ / each)]});
    writer_.add(stage_.pictureAt(order_.phaseAt(frame_ % each)));
    ++frame_;
    emit moved();
    if (frame_ == order_.frames()) return writer_.finish();
    if (writer_.hungry()) turn_.start();
}

} // namespace undisona
