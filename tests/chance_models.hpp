#pragma once
#include "tests/said_model.hpp"

namespace undisona {

/// Small models in which holds, ties, releases, offsets, springs, masses and asks meet as they like, as a user's do on
/// the way to something sensible. The same number gives the same model everywhere.
enum class ChanceFamily { frame, sheet, solid };
SaidModel chanceModel(ChanceFamily, unsigned number);

/// The same model with stiff springs where it ties points rigidly or holds them: its low frequencies are the same as
/// far as those allow. Nothing where it holds whole edges or faces, which no spring sentence can.
std::optional<Model> withStiffSprings(const Model&, double stiffness, double turning);

} // namespace undisona
