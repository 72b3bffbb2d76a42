#pragma once
#include "core/base/progress.hpp"
#include "core/model/model_key.hpp"
#include "core/pencil/kept_runs.hpp"
#include "core/studies/answer_json.hpp"
#include "core/studies/finding_fields.hpp"

namespace undisona {

/// What a study hands out on the way (StudyRun::partly) where that is an answer already: its bytes.
inline constexpr std::string_view answerOnTheWay = "answer";

/// What a study may use while it runs, and whom it tells of what it has found so far.
struct StudyRun {
    Progress& progress;
    KeptRuns& kept;
    std::function<void(std::string_view what, const std::string& bytes)> partly{}; ///< may be empty
};

/// A question to a model whose answer takes a run. Its options and its answer are bytes here (base/archive.hpp), so
/// that any of them can be ordered from another process, kept under a key, and printed.
struct Study {
    std::string_view key;     ///< "modes"
    std::string_view finds;   ///< "natural frequencies and mode shapes", for people
    std::vector<Touch> needs; ///< what of a model the answer depends on
    std::string usual;        ///< options, where nobody states any
    std::function<std::string(const Model&, std::string_view options, const StudyRun&)> run;
    struct Printed {
        bool answered; ///< or the text is a list of findings
        std::string text;
    };
    std::function<Printed(std::string_view answer)> json; ///< throws ArchiveError where it is no answer
};

/// What a study's answer is kept under.
inline std::uint64_t keyOf(const Study& study, const Model& model)
{
    return keyOf(model, study.needs);
}

/// A study by the types of its options and of its answer, which have fields (base/archive.hpp).
template <class Options, class Answer>
struct StudyOf {
    std::string_view key, finds;
    std::vector<Touch> needs;
    Result<Answer> (*run)(const Model&, const Options&, const StudyRun&);

    static std::string bytesOf(const Options& options) { return undisona::bytesOf(options); }
    static std::string bytesOf(const Result<Answer>& answer)
    {
        ByteWriter out;
        out.put(bool(answer));
        if (answer)
            out.put(*answer);
        else
            out.put(answer.findings());
        return out.bytes();
    }
    /// Or findings, which look alike whatever the answer would be.
    static bool isAnswer(std::string_view bytes)
    {
        bool answered = false;
        ByteReader(bytes).get(answered);
        return answered;
    }
    /// Throws ArchiveError where the bytes cannot be meant.
    static Result<Answer> answerFrom(std::string_view bytes)
    {
        ByteReader in(bytes);
        bool answered = false;
        in.get(answered);
        Answer answer;
        Findings findings;
        if (answered)
            in.get(answer);
        else
            in.get(findings);
        if (!in.atEnd()) throw ArchiveError("an answer is longer than what it says");
        if (answered) return answer;
        return findings;
    }

    Study untyped() const
    {
        const auto ask = run;
        return {key,
                finds,
                needs,
                bytesOf(Options{}),
                [ask](const Model& model, std::string_view options, const StudyRun& with) {
                    return bytesOf(ask(model, valueFrom<Options>(options), with));
                },
                [](std::string_view bytes) {
                    const auto answer = answerFrom(bytes);
                    return Study::Printed{bool(answer), (answer ? jsonOf(*answer) : jsonOf(answer.findings())).dump(2)};
                }};
    }
};

/// An order that makes no sense is answered, by why, so that the answer stays with the question; `none` has what else
/// such an answer says.
template <class Answer>
Result<Answer> answered(Result<Answer> found, const StudyRun& with, Answer none = {})
{
    if (found || with.progress.stopped()) return found;
    none.findings = found.findings();
    return none;
}

/// No options at all.
struct NoOptions {
    bool none = true;
};
inline auto fields(NoOptions& of)
{
    return named("none", of.none);
}

/// Every study there is; each has a file of its own.
const std::vector<Study>& studies();
const Study* studyNamed(std::string_view key); ///< null where there is none

} // namespace undisona
