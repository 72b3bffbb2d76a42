#include "app/report/report_pictures.hpp"

#include "app/report/report_pages.hpp"
#include "app/score/score_drawing.hpp"
#include "app/session/theme.hpp"
#include "app/session/written_file.hpp"

#include <QFileInfo>

namespace undisona {

namespace {

constexpr QSize sceneSize{1100, 660};

} // namespace

ReportSource reportSource(const Session& session, std::size_t stave)
{
    const Stave& own = session.staves()[stave];
    ReportSource source{.document = session.document(),
                        .take = own.id.isEmpty() ? std::string() : own.name.toStdString(),
                        .model = own.model,
                        .solution = *own.solution,
                        .excitations = own.excitations,
                        .clashes = own.clashes,
                        .findings = own.id.isEmpty() ? session.findings() : own.solution->findings};
    for (const Stave& other : session.staves())
        if (&other != &own)
            source.beside.push_back({other.id.isEmpty() ? "the model as it is now" : other.name.toStdString(),
                                     other.model, other.stale ? nullptr : other.solution.get()});
    return source;
}

ReportPictures::ReportPictures(Session& session, std::size_t stave, const std::optional<Camera>& camera,
                               QObject* parent)
    : QObject(parent), session_(session), stave_(stave), camera_(camera)
{
    turn_.setSingleShot(true);
    turn_.setInterval(0);
    connect(&turn_, &QTimer::timeout, this, &ReportPictures::next);
}

void ReportPictures::want(const std::vector<std::string>& keys)
{
    wanted_.clear();
    for (const auto& key : keys)
        if (!bytes_.contains(key)) wanted_.push_back(key);
    turn_.start();
}

void ReportPictures::next()
{
    if (!wanted_.empty()) {
        const std::string key = wanted_.front();
        wanted_.erase(wanted_.begin());
        const Theme::Lent light(false);
        bytes_[key] =
            key == "score" ? scoreDrawing(session_, "score.png") : modeBytes(std::stoi(key.substr(key.find('-') + 1)));
    }
    if (wanted_.empty()) return emit done();
    turn_.start();
}

std::string ReportPictures::modeBytes(int mode)
{
    if (!stage_) {
        stage_ = std::make_unique<SceneStage>(session_, sceneSize, SceneLook(), camera_.value_or(Camera()), true);
        stage_->pictureAt(0.25); // what is there is known from here on
        if (!camera_) {
            stage_->canvas().frameAll();
            stage_->canvas().lookFrom(side_);
        }
    }
    stage_->canvas().fixTo(SceneCanvas::Fixed{session_.staves()[stave_].id, mode});
    return pngOf(stage_->pictureAt(0.25));
}

std::string reportBytes(const Report& report, const std::map<std::string, std::string>& pictures, const QString& path)
{
    if (QFileInfo(path).suffix().toLower() == "pdf") return pdfOf(report, pictures);
    return reportHtml(report, pictures);
}

} // namespace undisona
