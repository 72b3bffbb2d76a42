// The lowest modes of solids and sheets of bricks: time and memory as multiples of one CHOLMOD analyse-and-factorise of
// the same matrix in the same run, ours beside general eigen-solvers on the same factor.
//
//     extraction-bench [block|plate|small] [modes] [alone]
#include "bench/brick_block.hpp"
#include "bench/cholmod_reference.hpp"
#include "core/modal/extract.hpp"
#include "core/numerics/blas_threads.hpp"

#include <arpack/arpack.h>

#include <Spectra/SymGEigsShiftSolver.h>

#include <chrono>

#include <fmt/format.h>

#include <sys/resource.h>

using namespace undisona;

namespace {

double secondsOf(const std::function<void()>& work)
{
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

double peakMegabytes()
{
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    return double(usage.ru_maxrss) / 1024.0;
}

/// K^-1 as Spectra asks for it; its shift is zero.
struct Inverse {
    using Scalar = double;
    const CholmodReference& factor;
    Eigen::Index size;
    mutable long solves = 0;
    Eigen::Index rows() const { return size; }
    Eigen::Index cols() const { return size; }
    void set_shift(const double&) {}
    void perform_op(const double* in, double* out) const
    {
        ++solves;
        Eigen::Map<Eigen::VectorXd>(out, size) = factor.solve(Eigen::Map<const Eigen::VectorXd>(in, size));
    }
};

struct Product {
    using Scalar = double;
    const SparseSymmetric& matrix;
    Eigen::Index rows() const { return matrix.size; }
    Eigen::Index cols() const { return matrix.size; }
    void perform_op(const double* in, double* out) const
    {
        Eigen::Map<Eigen::VectorXd>(out, matrix.size) = matrix * Eigen::Map<const Eigen::VectorXd>(in, matrix.size);
    }
};

/// Implicitly restarted Lanczos of ARPACK (Lehoucq, Sorensen and Yang 1998), mode 3; gives the number of solves.
long arpack(const MatrixPair& pair, const CholmodReference& factor, int wanted)
{
    const auto size = static_cast<a_int>(pair.mass.size), basis = 2 * wanted;
    Eigen::VectorXd residual = Eigen::VectorXd::Zero(size), work(3 * size), spare(basis * (basis + 8));
    Eigen::MatrixXd vectors(size, basis);
    std::array<a_int, 11> control{};
    std::array<a_int, 14> pointers{};
    control[0] = 1;
    control[2] = 1000;
    control[3] = 1;
    control[6] = 3;
    a_int ask = 0, info = 0;
    long solves = 0;
    while (true) {
        dsaupd_c(&ask, "G", size, "LM", wanted, 1e-10, residual.data(), basis, vectors.data(), size, control.data(),
                 pointers.data(), work.data(), spare.data(), static_cast<a_int>(spare.size()), &info);
        const auto in = work.segment(pointers[0] - 1, size);
        auto out = work.segment(pointers[1] - 1, size);
        if (ask == -1) {
            out = factor.solve(pair.mass * Eigen::VectorXd(in));
            ++solves;
        } else if (ask == 1) {
            out = factor.solve(Eigen::VectorXd(work.segment(pointers[2] - 1, size)));
            ++solves;
        } else if (ask == 2) {
            out = pair.mass * Eigen::VectorXd(in);
        } else {
            break;
        }
    }
    return info == 0 ? solves : -1;
}

} // namespace

int main(int argc, char** argv)
{
    const std::string which = argc > 1 ? argv[1] : "small";
    const int wanted = argc > 2 ? std::atoi(argv[2]) : 50;
    MatrixPair pair;
    const double assembly = secondsOf([&] {
        pair = which == "block"   ? brickBlock(30, 30, 30, 1.0)
               : which == "plate" ? brickBlock(120, 120, 4, 3.0)
                                  : brickBlock(12, 12, 12, 1.0);
    });
    System system;
    system.stiffness = pair.stiffness;
    system.mass = pair.mass;
    system.motions.unknowns.resize(static_cast<std::size_t>(pair.mass.size));
    chooseBlasThreads(pair.mass.size);
    std::unique_ptr<CholmodReference> factor;
    const double unit = secondsOf([&] { factor = std::make_unique<CholmodReference>(pair.stiffness); });
    fmt::print("{}: {} unknowns, {} entries, {} modes; assembled in {:.2f} s; one factorisation {:.2f} s\n", which,
               pair.mass.size, pair.stiffness.row.size(), wanted, assembly, unit);
    const auto print = [&](const char* what, double seconds, const std::string& more) {
        fmt::print("{:<44} {:8.2f} s {:6.2f} factorisations   {}\n", what, seconds, seconds / unit, more);
        std::fflush(stdout);
    };
    print("one solve of eight vectors", secondsOf([&] { factor->solve(Eigen::MatrixXd::Ones(pair.mass.size, 8)); }),
          "");
    print("one solve of one vector", secondsOf([&] { factor->solve(Eigen::VectorXd::Ones(pair.mass.size)); }), "");
    for (const bool prove : {false, true}) {
        Extraction extraction;
        const double seconds = secondsOf([&] {
            Progress progress;
            auto prepared = ModeExtractor::prepare(system, progress);
            auto& extractor = *prepared;
            extraction = extractor->find({.most = wanted, .prove = prove});
        });
        print(prove ? "ours, factorisation and proof included" : "ours, factorisation included", seconds,
              fmt::format("f1 {:.6g} Hz, worst error {:.1e}, {}{:.0f} MB at most so far",
                          std::sqrt(extraction.lambda[0]) / (2 * std::numbers::pi), extraction.acceptedError.maxCoeff(),
                          prove ? wordsOf(extraction.check) + ", " : "", peakMegabytes()));
    }
    if (argc > 3) return 0; // without the others
    Inverse inverse{*factor, pair.mass.size};
    Product mass{pair.mass};
    const double spectra = secondsOf([&] {
        Spectra::SymGEigsShiftSolver<Inverse, Product, Spectra::GEigsMode::ShiftInvert> solver(
            inverse, mass, wanted, std::min<int>(2 * wanted, static_cast<int>(pair.mass.size)), 0.0);
        solver.init();
        solver.compute(Spectra::SortRule::LargestMagn, 1000, 1e-10);
    });
    print("Spectra on the factor, without it", spectra, fmt::format("{} solves", inverse.solves));
    long solves = 0;
    const double ofArpack = secondsOf([&] { solves = arpack(pair, *factor, wanted); });
    print("ARPACK on the factor, without it", ofArpack, fmt::format("{} solves", solves));
    return 0;
}
