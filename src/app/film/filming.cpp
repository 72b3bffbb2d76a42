#include "app/film/filming.hpp"

namespace undisona {

Filming::Filming(Session& session, FilmOrder order, const SceneLook& look, const Camera& camera, QObject* parent)
    : QObject(parent), session_(session), order_(std::move(order)),
      stage_(session, order_.size, look, camera, order_.caption), writer_(order_, this), stave_(session.shownStave()),
      before_(session.shownMode()), of_(session.shown().solution)
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

Filming::~Filming()
{
    if (stave_ < session_.staves().size() && session_.staves()[stave_].solution == of_)
        session_.showMode(stave_, before_);
}

double Filming::share() const
{
    return double(frame_) / double(order_.frames());
}

void Filming::next()
{
    if (stave_ >= session_.staves().size() || session_.staves()[stave_].solution != of_ ||
        session_.staves()[stave_].stale)
        return emit done(tr("the model changed while its modes were filmed; nothing was written"));
    const int each = order_.framesPerMode();
    const int mode = order_.modes[static_cast<std::size_t>(frame_ / each)];
    if (session_.shownStave() != stave_ || session_.shownMode() != mode) session_.showMode(stave_, mode);
    writer_.add(stage_.pictureAt(order_.phaseAt(frame_ % each)));
    ++frame_;
    emit moved();
    if (frame_ == order_.frames()) return writer_.finish();
    if (writer_.hungry()) turn_.start();
}

} // namespace undisona
