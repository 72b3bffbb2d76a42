#pragma once
#include <Eigen/Dense>

#include <optional>
#include <string>

namespace undisona {

/// A pick's rule of edges or faces in its pieces: "edges at x = 0 m of Plate".
struct PartRule {
    std::string rule;  ///< without the "of"
    std::string owner; ///< after it, unquoted; empty where there is none
};
PartRule partRule(const std::string& term);

/// Coordinates such as "(1.8, 0, 0 m)", in brackets or not and with commas or not, as a list of picks is parted by
/// commas.
std::optional<Eigen::Vector3d> coordinatesIn(std::string words);

/// The place in "edge nearest to 1.8 0 0 m" for the noun "edge"; nothing where the rule begins with other words.
struct NearestTo {
    bool meant = false; ///< the words are those of such a rule
    std::optional<Eigen::Vector3d> place;
};
NearestTo nearestTo(const std::string& rule, const std::string& noun);

/// The axis and the value in "edges at z = 1 m" for the noun "edges"; likewise.
struct AtCoordinate {
    bool meant = false;
    int axis = -1;
    std::optional<double> value; ///< m
};
AtCoordinate atCoordinate(const std::string& rule, const std::string& noun);

/// The length that a rule such as "rims of radius 20 mm" ends with, after the words `lead`, m; nothing if it has none.
std::optional<double> lengthAfter(const std::string& rule, const std::string& lead);

} // namespace undisona
