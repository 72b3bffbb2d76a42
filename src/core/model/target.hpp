#pragma once
#include <array>
#include <cstdint>
#include <string>
#include <string_view>

namespace undisona {

/// What a word of a sentence may name.
enum class Target : std::uint8_t { point, member, edge, sheet, face, solid };
inline constexpr std::array<Target, 6> everyTarget{Target::point, Target::member, Target::edge,
                                                   Target::sheet, Target::face,   Target::solid};

/// Some of them.
struct Targets {
    std::uint8_t bits = 0;

    constexpr Targets() = default;
    constexpr Targets(Target one) : bits(static_cast<std::uint8_t>(1u << static_cast<unsigned>(one))) {}
    constexpr bool has(Target one) const { return (bits & Targets(one).bits) != 0; }
    constexpr bool none() const { return bits == 0; }
    constexpr bool operator==(const Targets&) const = default;
};
constexpr Targets operator|(Targets one, Targets other)
{
    Targets both;
    both.bits = static_cast<std::uint8_t>(one.bits | other.bits);
    return both;
}
constexpr Targets operator|(Target one, Target other)
{
    return Targets(one) | Targets(other);
}
constexpr Targets operator&(Targets one, Targets other)
{
    Targets common;
    common.bits = static_cast<std::uint8_t>(one.bits & other.bits);
    return common;
}

/// What Shape sentences make, and where other sentences do something to it.
inline constexpr Targets partTargets = Target::member | Target::sheet | Target::solid;
inline constexpr Targets placeTargets = Target::point | Target::edge | Target::face;

inline constexpr Targets anyTarget = partTargets | placeTargets;
/// What has a length, an area or a volume.
inline constexpr Targets spreadTargets = partTargets | Target::edge | Target::face;

/// What a support on one side alone may push.
inline constexpr Targets bearingTargets = placeTargets | (Target::member | Target::sheet);

/// "point", "member", ...
std::string_view nounOf(Target);
/// "point, edge or face".
std::string oneOf(Targets);
/// "points, edges or faces"; with the other word "points, edges and faces".
std::string wordsOf(Targets, std::string_view last = "or");

} // namespace undisona
