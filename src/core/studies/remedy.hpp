#pragma once
#include "core/remedy/remedy.hpp"
#include "core/studies/modes.hpp"

namespace undisona {

inline auto fields(RemedyOrder& of)
{
    return named("way mode hertz mostMass notOn sections masses props struts words everyWord", of.way, of.mode,
                 of.hertz, of.mostMass, of.notOn, of.sections, of.masses, of.props, of.struts, of.words, of.everyWord);
}
inline auto fields(SideEffect& of)
{
    return named("mode before after words", of.mode, of.before, of.after, of.words);
}
inline auto fields(Proposal& of)
{
    return named("kind change place amount adds reaches mode before after promised sideEffects", of.kind, of.change,
                 of.place, of.amount, of.adds, of.reaches, of.mode, of.before, of.after, of.promised, of.sideEffects);
}
inline std::string wordOf(QuantityKind kind)
{
    return describe(kind);
}
inline auto fields(SaidQuantity& of)
{
    return named("sentence row field part kind value text name", of.sentence, of.row, of.field, of.part, of.kind,
                 of.value, of.text, of.name);
}
inline auto fields(WordSlope& of)
{
    return named("said slope percent remeshed", of.said, of.slope, of.percent, of.remeshed);
}
inline auto fields(Remedy& of)
{
    return named("goal proposals wordsOf words findings staticError", of.goal, of.proposals, of.wordsOf, of.words,
                 of.findings, of.staticError);
}

/// What moves a mode out of the way.
using RemedyQuestion = AboutModes<RemedyOrder>;
using RemedyStudy = StudyOf<RemedyQuestion, Remedy>;
const RemedyStudy& remedyStudy();

} // namespace undisona
