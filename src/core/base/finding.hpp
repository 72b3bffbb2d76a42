#pragma once
#include <exception>
#include <map>
#include <optional>
#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace undisona {

enum class Severity { note, warning, error };

/// One sentence said anew, or changed.
struct Statement {
    std::string kind;                           ///< of a new one
    std::string sentence{};                     ///< id of the one that changes; empty: a new one
    std::string row{};                          ///< first cell of the row of its table that changes; empty: its own words
    std::map<std::string, std::string> words{}; ///< by the key of a field or column, as they are written in a file

    bool operator==(const Statement&) const = default;
};

/// A change of the model that would mend what a finding is about.
struct Cure {
    std::string words; ///< what it does: "Move Motor onto Deck"
    std::vector<Statement> statements;

    bool operator==(const Cure&) const = default;
};

/// Something a person should know: what is the matter, where, and what to do about it.
struct Finding {
    Severity severity = Severity::error;
    std::string what;     ///< one sentence, in the trade's words
    std::string remedy;   ///< what to do; may be empty when `what` says it all
    std::string sentence; ///< id of the sentence it comes from; empty if none
    std::string place;    ///< file, line and key; or the name of a point or member
    int mode = 0;         ///< number of the mode whose motion shows it; 0 for none
    std::vector<Cure> cures{}; ///< one of them mends it

    bool operator==(const Finding&) const = default;
};

using Findings = std::vector<Finding>;

Finding errorAt(std::string sentence, std::string what, std::string remedy = {});
Finding warningAt(std::string sentence, std::string what, std::string remedy = {});
Finding noteAt(std::string sentence, std::string what, std::string remedy = {});

/// Of something thrown that nobody foresaw: a fault of the program, with what was being done.
Finding programFault(const std::exception&, const std::string& doing);

/// "error: what (place). remedy" on one line.
std::string oneLine(const Finding&);

bool hasError(const Findings&);

/// A value, or the findings that explain why there is none.
template <class T>
class Result {
public:
    Result(T value) : content_(std::move(value)) {}
    Result(Findings findings) : content_(std::move(findings)) {}
    Result(Finding finding) : content_(Findings{std::move(finding)}) {}

    explicit operator bool() const { return content_.index() == 0; }
    const T& operator*() const { return std::get<0>(content_); }
    T& operator*() { return std::get<0>(content_); }
    const T* operator->() const { return &std::get<0>(content_); }
    T* operator->() { return &std::get<0>(content_); }

    /// Empty when there is a value.
    Findings findings() const { return *this ? Findings{} : std::get<1>(content_); }

private:
    std::variant<T, Findings> content_;
};

} // namespace undisona
