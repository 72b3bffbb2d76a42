#include "core/studies/cost.hpp"
#include "core/studies/modes.hpp"

namespace undisona {

static_assert(allNamed<CostAnswer, ModesOrder, NoOptions>());

const std::vector<Study>& studies()
{
    static const std::vector<Study> all{modesStudy().untyped(), costStudy().untyped()};
    return all;
}

const Study* studyNamed(std::string_view key)
{
    const auto found =
        std::find_if(studies().begin(), studies().end(), [&](const Study& one) { return one.key == key; });
    return found == studies().end() ? nullptr : &*found;
}

} // namespace undisona
