#pragma once
#include "core/model/model.hpp"

#include <set>
#include <string>

namespace undisona {

/// Names and ids that a model does not have yet, each given once.
class FreeNames {
public:
    explicit FreeNames(const Model&);
    std::string like(std::string wanted); ///< with a number behind where it is taken
    std::string id();

private:
    std::set<std::string, std::less<>> names_, ids_;
};

} // namespace undisona
