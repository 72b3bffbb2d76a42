#pragma once
#include "core/studies/study.hpp"

#include <QObject>

namespace undisona {

class EngineProcess;

/// Answers of studies, by study and by all of the model that they depend on: what was asked once is not asked again,
/// also when a change is taken back. Runs for modes, which show what they find on the way, are jobs (solve_job.hpp).
class Answers : public QObject {
    Q_OBJECT
public:
    explicit Answers(EngineProcess&);

    /// Orders it where it is neither there nor on its way.
    void ask(const Study&, const Model&);
    template <class Options, class Answer>
    void ask(const StudyOf<Options, Answer>& study, const Model& model)
    {
        if (const Study* one = studyNamed(study.key)) ask(*one, model);
    }
    /// Nothing while there is none; findings where it was refused.
    template <class Options, class Answer>
    std::optional<Result<Answer>> find(const StudyOf<Options, Answer>& study, const Model& model) const
    {
        const auto found = answers_.find({study.key, keyOf(model, study.needs)});
        if (found == answers_.end()) return std::nullopt;
        return study.answerFrom(found->second);
    }

signals:
    void arrived(); ///< one of them

private:
    using Key = std::pair<std::string_view, std::uint64_t>; ///< of a study, and of a model for it
    void keep(const Key&, std::string bytes);

    EngineProcess& engine_;
    std::map<Key, std::string> answers_;
    std::map<std::uint64_t, Key> waiting_; ///< by the number of the order
};

} // namespace undisona
