#pragma once
#include "core/studies/rest.hpp"
#include "tests/said_model.hpp"

#include <gtest/gtest.h>

namespace undisona {

inline Result<RestAnswer> restOfModel(const Model& model, long factors = 4)
{
    Progress progress;
    KeptRuns kept;
    return restStudy().run(model, {{}, factors}, {progress, kept});
}

inline Rest loadedRest(const SaidModel& said, long factors = 4)
{
    const auto found = restOfModel(said.model(), factors);
    EXPECT_TRUE(found) << (found ? "" : found.findings().front().what);
    return found ? found->found : Rest{};
}

/// What is carried at a point; the test fails where nothing is.
inline CarriedLoad carriedAt(const RestState& state, const std::string& point)
{
    for (const auto& load : state.carried)
        if (load.point == point) return load;
    ADD_FAILURE() << "nothing is carried by " << point;
    return {};
}

inline const PartStress& partNamed(const RestState& state, const std::string& name)
{
    for (const auto& part : state.parts)
        if (part.name == name) return part;
    ADD_FAILURE() << "no part " << name;
    static const PartStress none;
    return none;
}

inline SaidModel& about(SaidModel& said, const std::string& state = "pulled")
{
    return said.say("about-state", {{"state", state}});
}

} // namespace undisona
