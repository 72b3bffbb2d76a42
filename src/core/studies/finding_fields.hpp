#pragma once
#include "core/base/archive.hpp"
#include "core/base/finding.hpp"

namespace undisona {

constexpr std::string_view wordOf(Severity severity)
{
    return severity == Severity::error ? "error" : severity == Severity::warning ? "warning" : "note";
}
inline auto fields(Statement& of)
{
    return named("kind sentence row words", of.kind, of.sentence, of.row, of.words);
}
inline auto fields(Cure& of)
{
    return named("words statements", of.words, of.statements);
}
inline auto fields(Finding& of)
{
    return named("severity what remedy sentence place mode cures", of.severity, of.what, of.remedy, of.sentence,
                 of.place, of.mode, of.cures);
}
static_assert(allNamed<Statement, Cure, Finding>());

} // namespace undisona
