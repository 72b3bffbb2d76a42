#pragma once
#include "core/modal/rest.hpp"
#include "core/model/model.hpp"
#include "core/units/amplitude_text.hpp"

namespace undisona {

struct RestAnswer;

/// A static state: what its loads come to, what each support carries, how far it moves, by which factors it buckles.
std::string restWords(const RestState&, const DisplayUnits&);
/// The same with its supports, parts and members as tables.
std::string restTable(const Model&, const RestState&, const DisplayUnits&);
/// Supports with a line of names first, then, after an empty line, parts; N, N m, Pa, m (RFC 4180).
std::string restCsv(const Model&, const RestState&);
/// What carries a load: the point, or what the sentence says that it holds.
std::string carrierName(const Model&, const CarriedLoad&);
/// "A.3", or "A.3 against B.0" of what bears between points.
std::string contactName(const RestContact&);
/// ", as said", with what the loads would have otherwise; ", sliding"; nothing where they have it so.
std::string contactRemark(const RestContact&);
/// The part whose stress is the largest share of what its material bears; null where that is stated of none.
const PartStress* nearestToStrength(const RestState&);
/// How points move in each state, by its name, and the largest equivalent stress of what stands there.
struct RestPlace {
    std::string point;
    Eigen::Vector3d place;             ///< m
    Eigen::Matrix<double, 6, 1> moves; ///< m, rad
    double stress;                     ///< Pa; 0 where nothing there has one
};
using RestPlaces = std::map<std::string, std::vector<RestPlace>>;
/// Findings where the model has no such point.
Result<RestPlaces> restPlaces(const Model&, const RestAnswer&, const std::vector<std::string>& points);
/// Nothing where there are none of that state.
std::string placesTable(const RestPlaces&, const std::string& state, const DisplayUnits&);
/// All states; what supports carry, parts and members in full, places as they are asked for, no fields.
std::string restJson(const std::vector<RestState>&, const RestPlaces& = {});

/// By which factors states buckle: a line a factor.
std::string bucklingTable(const std::vector<RestState>&);
std::string bucklingCsv(const std::vector<RestState>&);
std::string bucklingJson(const std::vector<RestState>&);
/// "at 3.21 times the state", "never", "at 2 times the state turned round".
std::string bucklingWords(const RestState&);

} // namespace undisona
