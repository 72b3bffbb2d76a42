#pragma once
#include "app/film/scene_stage.hpp"
#include "core/io/report.hpp"

namespace undisona {

/// What of a stave stands in a report.
ReportSource reportSource(const Session&, std::size_t stave);

/// Draws what a report wants to show, a picture each time the window has nothing else to do; in light colours.
class ReportPictures : public QObject {
    Q_OBJECT
public:
    /// Modes are seen as the camera sees them; all of it, from a side, where there is none.
    ReportPictures(Session&, std::size_t stave, const std::optional<Camera>&, QObject* parent = nullptr);

    void lookFrom(const QString& side) { side_ = side; } ///< a corner otherwise
    void want(const std::vector<std::string>& keys);     ///< those that are there already stay
    bool allThere() const { return wanted_.empty(); }
    const std::map<std::string, std::string>& bytes() const { return bytes_; } ///< PNG by key

signals:
    void done();

private:
    void next();
    std::string modeBytes(int mode);
    Session& session_;
    std::size_t stave_;
    std::optional<Camera> camera_;
    QString side_ = "corner";
    std::vector<std::string> wanted_;
    std::map<std::string, std::string> bytes_;
    std::unique_ptr<SceneStage> stage_;
    QTimer turn_;
};

/// A report as the bytes of a file: of HTML, or of PDF where the ending says so.
std::string reportBytes(const Report&, const std::map<std::string, std::string>& pictures, const QString& path);

} // namespace undisona
