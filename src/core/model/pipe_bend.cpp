#include "core/model/pipe_bend.hpp"

#include <Eigen/Dense>

namespace undisona {

double bendCharacteristic(const Section& tube, double bendRadius)
{
    const double wall = tube.sizes[1], mean = (tube.sizes[0] - wall) / 2.0;
    return wall * bendRadius / (mean * mean);
}

double bendFlexibility(const Section& tube, double bendRadius, double poisson)
{
    if (tube.shape != SectionShape::tube) return 1.0;
    // The wall moves by v = sum a_n sin 2 n phi along its circumference, which does not stretch. Of the strain along
    // the pipe that bending alone would give, sin phi, it takes 3/2 a_1 away and leaves (1/2 - n) a_n +
    // (3/2 + n) a_(n+1) times sin (2 n + 1) phi; bending of the wall costs (2 n (4 n2 - 1) a_n)2.
    constexpr Eigen::Index terms = 40;
    const double h = bendCharacteristic(tube, bendRadius), wall = h * h / (12.0 * (1.0 - poisson * poisson));
    Eigen::MatrixXd energy = Eigen::MatrixXd::Zero(terms, terms);
    energy(0, 0) = 2.25;
    for (Eigen::Index at = 0; at < terms; ++at) {
        const double n = double(at + 1), bent = 2.0 * n * (4.0 * n * n - 1.0);
        energy(at, at) += (0.5 - n) * (0.5 - n) + wall * bent * bent;
        if (at + 1 == terms) break;
        energy(at + 1, at + 1) += (1.5 + n) * (1.5 + n);
        energy(at, at + 1) += (0.5 - n) * (1.5 + n);
        energy(at + 1, at) = energy(at, at + 1);
    }
    const double relief = 2.25 * energy.ldlt().solve(Eigen::VectorXd::Unit(terms, 0))[0];
    return 1.0 / (1.0 - relief);
}

} // namespace undisona
