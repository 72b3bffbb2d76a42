#pragma once
#include "core/studies/results_file.hpp"

#include <QObject>

#include <thread>

namespace undisona {

/// The results file beside a document's file: where it is, and its writing beside everything else.
class KeptResults : public QObject {
    Q_OBJECT
public:
    explicit KeptResults(QObject* parent = nullptr) : QObject(parent) {}
    ~KeptResults() override;

    /// That of a model's file, which may be none.
    void setModelFile(const QString& path);
    const QString& path() const { return path_; } ///< empty where the model lies in no file
    bool isThere() const;
    bool writing() const { return thread_.joinable(); }

    struct Run {
        QString name;
        Model model;
        std::shared_ptr<const Solution> solution; ///< null: as the file has it
    };
    /// Writes them; while it does, those that come last wait until that is done.
    void write(std::vector<Run> runs, WriteRules rules);
    /// Waits for what is being written, under a dialog that can stop it; what was there then stays.
    void finish();

signals:
    void told(const QString& words); ///< what came of it

private:
    void begin();
    QString path_;
    std::thread thread_;
    std::atomic<bool> busy_ = false; ///< the thread
    Progress progress_;
    std::optional<std::pair<std::vector<Run>, WriteRules>> next_;
};

} // namespace undisona
