#include "core/pencil/run_estimate.hpp"

#include "core/base/number_text.hpp"
#include "core/numerics/blas_threads.hpp"

#include <chrono>

#include <fmt/format.h>

namespace undisona {

namespace {

/// Flops a second of one thread in dense products, from one of a few milliseconds.
double flopsASecond()
{
    static const double speed = [] {
        constexpr Eigen::Index n = 384;
        const Eigen::MatrixXd a = Eigen::MatrixXd::Constant(n, n, 0.5), b = Eigen::MatrixXd::Constant(n, n, 0.25);
        Eigen::MatrixXd c = a * b; // warm
        double best = 1e30;
        for (int round = 0; round < 3; ++round) {
            const auto begin = std::chrono::steady_clock::now();
            c.noalias() = a * b;
            best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
        }
        return 2.0 * double(n * n * n) / best;
    }();
    return speed;
}

std::string size(double megabytes)
{
    return megabytes < 1000.0 ? fmt::format("{:.0f} MB", megabytes) : rounded(megabytes / 1000.0, 2) + " GB";
}

std::string duration(double seconds)
{
    return seconds < 90.0     ? rounded(seconds, 2) + " s"
           : seconds < 5400.0 ? rounded(seconds / 60.0, 2) + " min"
                              : rounded(seconds / 3600.0, 2) + " h";
}

} // namespace

std::int64_t modesPerShift(const Analysis& analysis)
{
    const double modes = std::sqrt(analysis.flops / (25.0 * double(std::max<std::int64_t>(1, analysis.size))));
    return std::clamp<std::int64_t>(static_cast<std::int64_t>(modes), 40, 400);
}

RunEstimate estimateOf(const Analysis& analysis, std::int64_t entries, std::int64_t modes)
{
    RunEstimate estimate;
    estimate.unknowns = analysis.size;
    const double n = double(analysis.size), wanted = double(std::min(modes, analysis.size));
    estimate.factorMegabytes = 8e-6 * double(analysis.entries());
    // The largest front with the two that it is gathered from.
    double largest = 0.0;
    for (std::int64_t k = 0; k < analysis.supernodes(); ++k) {
        const Supernode node(analysis, nullptr, k);
        largest = std::max(largest, double(node.below) * double(node.below));
    }
    estimate.frontMegabytes = 8e-6 * 3.0 * largest;
    const double perShift = double(modesPerShift(analysis));
    const double runs = wanted > 2.0 * perShift ? std::ceil(wanted / perShift) : 1.0, each = wanted / runs;
    estimate.basisMegabytes = 8e-6 * n * (wanted + 2.0 * each + 80.0);
    estimate.matrixMegabytes = 16e-6 * 2.0 * double(entries);
    const double threads = threadsFor(analysis.size), speed = 0.6 * flopsASecond() * threads;
    const double blocks = runs * (each / 8.0 * 5.0 + 4.0);
    constexpr double bytesASecond = 6e9; // of one thread reading the factor
    estimate.seconds = (runs + 1.0) * analysis.flops / speed +
                       blocks * (16.0 * double(analysis.entries()) / (bytesASecond * threads) +
                                 4.0 * 8.0 * n * (2.0 * each + 48.0) / (0.2 * speed)) +
                       1e-7 * double(entries) + 1e-5 * n;
    return estimate;
}

std::optional<Finding> tooLarge(const RunEstimate& estimate, double freeMegabytes)
{
    if (estimate.megabytes() <= freeMegabytes) return std::nullopt;
    return errorAt(
        {},
        fmt::format("the run needs about {} and {} are free: {} for the factor of {} unknowns, {} for what is "
                    "eliminated together, {} for the modes on their way",
                    size(estimate.megabytes()), size(freeMegabytes), size(estimate.factorMegabytes), estimate.unknowns,
                    size(estimate.frontMegabytes), size(estimate.basisMegabytes)),
        estimate.basisMegabytes > 0.5 * estimate.megabytes()
            ? "Ask for fewer modes, or for a band at a time."
            : "Split members or sheets less finely, or use a machine with more memory.");
}

std::string wordsOf(const RunEstimate& estimate)
{
    return fmt::format("about {}, {}", duration(estimate.seconds), size(estimate.megabytes()));
}

} // namespace undisona
