#pragma once
#include "core/model/section.hpp"

#include <optional>

namespace undisona {

/// The hollow of a tube or a box.
struct Bore {
    double area, perimeter; ///< m2, m
    double least;           ///< half of its narrower side, m
    /// Of a layer of even thickness (m) on the inside, m2; the whole bore where it is as thick as that.
    double lining(double thickness) const;
    bool isRound;
};
/// Nothing for sections that have none.
std::optional<Bore> boreOf(const Section&);

/// Of a layer of even thickness (m) round a section, its outer corners rounded, m2 (Steiner 1840).
double layerRound(const Section&, double thickness);

} // namespace undisona
