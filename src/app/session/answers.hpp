#pragma once
#include "core/studies/study.hpp"

#include <QObject>
#include <QTimer>

namespace undisona {

class EngineProcess;

/// Answers of studies, by study and by all of the model that they depend on: what was asked once is not asked again,
/// also when a change is taken back. Runs for modes, which are on the staves before they are answered, are jobs
/// (solve_job.hpp).
class Answers : public QObject {
    Q_OBJECT
public:
    explicit Answers(EngineProcess&);

    /// Orders it where it is neither there nor on its way. Options are no part of what it is kept under.
    template <class Options, class Answer>
    void ask(const StudyOf<Options, Answer>& study, const Model& model, const Options& options = {})
    {
        order({study.key, keyOf(model, study.needs)}, model, study.bytesOf(options));
    }
    /// Nothing while there is none; findings where it was refused. One on its way is what is known so far.
    template <class Options, class Answer>
    std::optional<Result<Answer>> find(const StudyOf<Options, Answer>& study, const Model& model) const
    {
        const auto found = answers_.find({study.key, keyOf(model, study.needs)});
        if (found == answers_.end()) return std::nullopt;
        return study.answerFrom(found->second);
    }
    /// What is known, so that it can be asked again.
    template <class Options, class Answer>
    void forget(const StudyOf<Options, Answer>& study, const Model& model)
    {
        answers_.erase({study.key, keyOf(model, study.needs)});
    }
    /// Whether it is on its way, of this model or of any.
    template <class Options, class Answer>
    bool awaits(const StudyOf<Options, Answer>& study, const Model* model = nullptr) const
    {
        for (const auto& [order, key] : waiting_)
            if (key.first == study.key && (!model || key.second == keyOf(*model, study.needs))) return true;
        return false;
    }
    /// Whatever is on its way is to end with what it has; soon, or the engine is ended.
    void stop();

signals:
    void stageChanged(std::string_view study, const QString& stage, double fraction); ///< of one on its way
    void arrived(std::string_view study);                                             ///< an answer, or more of one
    void failed(std::string_view study, const undisona::Finding& why);                ///< with the engine

private:
    using Key = std::pair<std::string_view, std::uint64_t>; ///< of a study, and of a model for it
    void order(const Key&, const Model&, std::string options);
    void keep(const Key&, std::string bytes);

    EngineProcess& engine_;
    std::map<Key, std::string> answers_;
    std::map<std::uint64_t, Key> waiting_; ///< by the number of the order
    std::uint64_t stopped_ = 0;            ///< this one and those before it were to end
    QTimer patience_;
};

} // namespace undisona
