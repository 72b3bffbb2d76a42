#pragma once
#include "core/modal/modal_stress.hpp"
#include "core/units/amplitude_text.hpp"

namespace undisona {

/// "1 mm at most, at 0, 0, 2 m: 69.7 mm/s, 4.86 m/s2; energy 12 J; 45 MPa at most, in Mast.leg.2".
std::string scaleWords(const ModalStress&, const ScaledMode&, const DisplayUnits&);

/// Parts with their stresses and what members carry, a factor times each; with a line of names first (Pa, N, N m, m;
/// RFC 4180).
std::string partTable(const std::vector<PartStress>&, double factor, const DisplayUnits&);
std::string partCsv(const std::vector<PartStress>&, double factor);
/// "1.2, 0, 3 m".
std::string placeIn(const DisplayUnits&, const Eigen::Vector3d& place);

/// The parts of a mode at a scale, the most stressed first: stresses, and what members carry.
std::string stressTable(const Solution&, const ModalStress&, const ScaledMode&, const DisplayUnits&);
/// The same with a line of names first; Pa, N, N m, m (RFC 4180).
std::string stressCsv(const ModalStress&, const ScaledMode&);
std::string stressJson(const Solution&, const ModalStress&, const ScaledMode&);

} // namespace undisona
