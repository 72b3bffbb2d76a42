#pragma once
#include "cli/modes_options.hpp"

namespace undisona {

/// The model with the sentences that the options stand for (how accurate, lumped or consistent, what is left out,
/// residual vectors, Ritz vectors from unit forces) in place of its own of the same kind; a text when they cannot be
/// read. `asks`: one of them asks for modes, so that nothing else is to.
struct StatedModel {
    Model model;
    bool asks = false;
};
std::variant<StatedModel, std::string> statedIn(const Model&, const ModesOptions&);

} // namespace undisona
