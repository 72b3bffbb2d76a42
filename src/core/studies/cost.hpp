#pragma once
#include "core/studies/answer_fields.hpp"
#include "core/studies/study.hpp"

namespace undisona {

/// What a run for the modes would cost, before it is made.
struct CostAnswer {
    std::int64_t unknowns = 0; ///< on the first mesh; 0: it cannot be told
    double factorMegabytes = 0.0, frontMegabytes = 0.0, basisMegabytes = 0.0, matrixMegabytes = 0.0;
    double seconds = 0.0;
    std::string words; ///< "about 12 s, 0.9 GB"; empty where it cannot be told
    Findings refused;  ///< why a run would be refused
};
inline auto fields(CostAnswer& of)
{
    return named("unknowns factorMegabytes frontMegabytes basisMegabytes matrixMegabytes seconds words refused",
                 of.unknowns, of.factorMegabytes, of.frontMegabytes, of.basisMegabytes, of.matrixMegabytes, of.seconds,
                 of.words, of.refused);
}

using CostStudy = StudyOf<NoOptions, CostAnswer>;
const CostStudy& costStudy();

} // namespace undisona
