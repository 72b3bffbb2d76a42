#pragma once
#include "core/statement/directions.hpp"

#include <Eigen/Dense>

#include <optional>
#include <string>
#include <vector>

namespace undisona {

/// Loads that vectors are made from.
struct LoadPatterns {
    enum class From { base, weight, force } from = From::base;
    Mask3 directions{true, true, false};
    std::vector<int> points; ///< where unit forces act
    std::string sentence;    ///< that asks; empty where a caller does
};

struct Ask {
    enum class Until { count, frequency, massShare, band, nearest, all, ritz } until = Until::count;
    long count = 12;                     ///< asked for, or the largest number
    double frequency = 0.0;              ///< Hz: the limit, the upper end of a band, or what the modes are nearest to
    double from = 0.0;                   ///< Hz, the lower end of a band
    double share = 0.0;                  ///< 0: none; Ritz vectors may aim at one too
    std::array<double, 3> shareAlong{};  ///< in place of it along x, y, z; 0: as it is
    bool ofMovable = false;              ///< the share is one of the movable mass, not of the total
    Mask3 directions{true, true, false}; ///< of the share
    LoadPatterns ritz;                   ///< what Ritz vectors are made from
    std::string sentence;                ///< that asks; empty where a caller does, or nobody

    // Beside what is asked for, how it is found.
    double tolerance = 1e-8;              ///< of the accepted error and the residual
    bool prove = true;                    ///< count by inertia, so that none is missed
    bool meshErrors = true;               ///< estimate how far off the mesh leaves each mode
    std::optional<LoadPatterns> residual; ///< residual vectors for these loads are wanted too
    std::optional<Eigen::Vector3d> reference;
    struct Refine {
        double within;      ///< largest relative error of a frequency by the mesh
        double below = 0.0; ///< Hz, of the modes that count; 0: all that are found
        std::string sentence;
    };
    std::optional<Refine> refine; ///< the mesh until the modes are so near

    /// Modes away from the low end, with none below them computed.
    bool inside() const { return (until == Until::band && from > 0.0) || until == Until::nearest; }
    double target(int direction) const
    {
        const double own = shareAlong[static_cast<std::size_t>(direction)];
        return own > 0.0 ? own : share;
    }
    bool byCaller = false; ///< in place of the model's own ask
};

} // namespace undisona
