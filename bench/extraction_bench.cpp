// The lowest modes of solids and sheets of bricks: time and memory as multiples of one CHOLMOD analyse-and-factorise of
// the same matrix in the same run, ours beside general eigen-solvers on the same factor.
//
//     extraction-bench [block|plate|lattice|million|small] [modes] [alone|ours]
//     extraction-bench K.mtx M.mtx [modes] [alone]
//     extraction-bench moved [modes]      a point mass moved on the block: the second run beside the first
//     extraction-bench frame              a mass moved about a frame of 2 000 unknowns, every reading included
//     extraction-bench assembly           equations of large frames beside their factorisation
//     extraction-bench curve [modes]      time over the number of modes on a lattice of 20 000 unknowns
#include "bench/seconds_of.hpp"
#include "bench/brick_block.hpp"
#include "bench/cholmod_reference.hpp"
#include "bench/lattice.hpp"
#include "bench/stated_frames.hpp"
#include "core/assess/clash.hpp"
#include "core/base/memory.hpp"
#include "core/io/export.hpp"
#include "core/modal/solve.hpp"
#include "core/numerics/blas_threads.hpp"

#include <arpack/arpack.h>

#include <Spectra/SymGEigsShiftSolver.h>

#include <fmt/format.h>

using namespace undisona;

namespace {

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

Extraction modesOf(const MatrixPair& pair, Eigen::Index wanted, bool prove, KeptRuns* kept = nullptr,
                   std::map<std::string, double>* seconds = nullptr)
{
    Progress progress;
    auto extractor = ModeExtractor::prepare({pair.stiffness, pair.mass}, progress, kept);
    Extraction extraction = (*extractor)->find({.most = wanted, .prove = prove, .last = true});
    if (seconds) *seconds = progress.timings();
    return extraction;
}

std::string wordsOf(const Extraction& extraction)
{
    return fmt::format(
        "f1 {:.6g} Hz, worst error {:.1e}, {}{} block solves, {} restarts, {:.0f} MB at most, factor {:.0f}",
        std::sqrt(extraction.lambda[0]) / (2 * std::numbers::pi), extraction.acceptedError.maxCoeff(),
        extraction.check.expected >= 0 ? wordsOf(extraction.check) + ", " : "", extraction.record.blockSolves,
        extraction.record.restarts, peakMegabytes(), 8e-6 * extraction.record.factorEntries);
}

/// 200 kg set on one corner of the block, then on another: what the second run takes over.
int moved(Eigen::Index wanted)
{
    const MatrixPair bare = brickBlock(30, 30, 30, 1.0);
    const auto loaded = [&](std::int64_t first) {
        SparseAssembler assembler(bare.mass.size);
        const auto at = static_cast<int>(first);
        assembler.add({at, at + 1, at + 2}, 200.0 * Eigen::Matrix3d::Identity());
        MatrixPair pair = bare;
        pair.mass = sum(bare.mass, 1.0, assembler.finish());
        return pair;
    };
    KeptRuns kept;
    double first = 0.0;
    for (const std::int64_t at : {bare.mass.size - 3, bare.mass.size / 2 / 3 * 3, std::int64_t(3 * 961 * 12)}) {
        const MatrixPair pair = loaded(at);
        Extraction extraction;
        const double seconds = secondsOf([&] { extraction = modesOf(pair, wanted, true, &kept); });
        if (first == 0.0) first = seconds;
        const auto& record = extraction.record;
        fmt::print("mass at unknown {:6}: {:6.2f} s, {:.2f} of the first run; {}; factor {}, {} old modes, count {}\n",
                   at, seconds, seconds / first, wordsOf(extraction), record.keptFactor ? "kept" : "made",
                   record.keptModes, record.countByUpdate ? "updated" : "made");
        std::fflush(stdout);
    }
    return 0;
}

/// A mass moved about a frame as it is stated: from the model to every reading, as after an edit in the window.
int frame()
{
    KeptRuns kept;
    const std::vector<std::string> joints{"Frame.1.1.2", "Frame.2.1.3", "Frame.0.2.4", "Frame.1.2.1", "Frame.2.2.4"};
    double first = 0.0;
    for (std::size_t round = 0; round < 3 * joints.size(); ++round) {
        const Model model =
            statedHouse(2, 5, joints[round % joints.size()], fmt::format("{} kg", 300 + 40 * round), 20, 4);
        std::shared_ptr<const Solution> solution;
        const double seconds = secondsOf([&] {
            Progress progress;
            solution = *solve(model, progress, {.kept = &kept});
            (void)clashesOf(*solution, solution->structure->excitations);
        });
        if (first == 0.0) first = seconds;
        std::string stages;
        for (const auto& [stage, own] : solution->timings)
            stages += fmt::format(", {} {:.1f}", stage, 1e3 * own);
        fmt::print("{} unknowns, {} modes: {:5.1f} ms, {:.2f} of the first; factor {}, {} old modes, count {}{} ms\n",
                   solution->system->size(), solution->modes.size(), 1e3 * seconds, seconds / first,
                   solution->record.keptFactor ? "kept" : "made", solution->record.keptModes,
                   solution->record.countByUpdate ? "updated" : "made", stages);
    }
    return 0;
}

/// From a structure to K and M, beside one factorisation of that K by CHOLMOD, analysis included, and by ours.
int assembly()
{
    for (const auto& [what, model] : {std::pair{"lattice mast", statedMast(500, 10)},
                                      std::pair{"house", statedHouse(19, 19, "Frame.1.1.2", "500 kg", 10, 1)},
                                      {"plate of shells", statedPlate(224, 10)},
                                      {"cube of tetrahedra", statedCube(19, 10)}}) {
        const Structure structure = buildStructure(model).structure;
        const long split = structure.members.size() < 10000 ? 14 : 1;
        const FrameMesh mesh = meshOf(structure, Splits(structure.members.size(), split), proposeSizes(structure, 0.0));
        Progress progress;
        System system;
        const double equations = secondsOf([&] { system = assemble(structure, mesh, progress); });
        const double unit = secondsOf([&] { CholmodReference reference(system.stiffness); });
        const double own = secondsOf([&] { (void)SignedFactor::definite(system.stiffness); });
        fmt::print("{}: {} elements, {} unknowns: assembled in {:.2f} s, {:.2f} of CHOLMOD's analyse-and-factorise "
                   "({:.2f} s), {:.2f} of ours ({:.2f} s)\n",
                   what, mesh.elements.size() + mesh.shells.size() + mesh.solids.size(), system.size(), equations,
                   equations / unit, unit, equations / own, own);
        std::fflush(stdout);
    }
    return 0;
}

int curve(Eigen::Index most)
{
    const MatrixPair pair = latticeBridge(834);
    fmt::print("a lattice of {} unknowns\n", pair.mass.size);
    for (Eigen::Index wanted = most / 8; wanted <= most; wanted += most / 8) {
        Extraction extraction;
        const double seconds = secondsOf([&] { extraction = modesOf(pair, wanted, true); });
        fmt::print("{:5} modes {:7.2f} s, {:6.2f} ms a mode, {} shifts, {}\n", wanted, seconds,
                   1e3 * seconds / double(wanted), extraction.record.shifts.size(), wordsOf(extraction));
        std::fflush(stdout);
    }
    return 0;
}

} // namespace

int main(int argc, char** argv)
{
    std::vector<std::string> words(argv + 1, argv + argc);
    const bool alone = !words.empty() && words.back() == "alone"; // without the others
    const bool ours = !words.empty() && words.back() == "ours";   // without the unit, so that the memory is ours alone
    if (alone || ours) words.pop_back();
    const std::string which = words.empty() ? "small" : words[0];
    const bool files = which.ends_with(".mtx");
    const std::size_t count = files ? 2 : 1;
    const int wanted = words.size() > count ? std::atoi(words[count].c_str()) : which == "curve" ? 1000 : 50;
    if (which == "moved") return moved(wanted);
    if (which == "curve") return curve(wanted);
    if (which == "frame") return frame();
    if (which == "assembly") return assembly();
    MatrixPair pair;
    const double assembly = secondsOf([&] {
        if (files) {
            const auto stiffness = readMatrixMarket(words[0]), mass = readMatrixMarket(words.at(1));
            if (stiffness && mass) pair = {*stiffness, *mass};
        } else {
            pair = which == "block"     ? brickBlock(30, 30, 30, 1.0)
                   : which == "plate"   ? brickBlock(120, 120, 4, 3.0)
                   : which == "lattice" ? latticeBridge(8334)
                   : which == "million" ? brickBlock(260, 260, 4, 3.0)
                                        : brickBlock(12, 12, 12, 1.0);
        }
    });
    if (pair.mass.size == 0) return 1;
    std::unique_ptr<CholmodReference> factor;
    double unit = 0.0;
    if (which != "million" && !ours) {
        unit = secondsOf([&] { factor = std::make_unique<CholmodReference>(pair.stiffness); });
        if (alone) factor.reset();
    }
    fmt::print(
        "{}: {} unknowns, {} entries, {} modes; assembled in {:.2f} s; one factorisation {:.2f} s; {:.0f} MB held "
        "with both matrices, {:.0f} at most so far\n",
        which, pair.mass.size, pair.stiffness.row.size(), wanted, assembly, unit, heldMegabytes(), peakMegabytes());
    {
        const auto analysis = Analysis::of(pair.stiffness);
        const auto entries = static_cast<std::int64_t>(pair.stiffness.row.size() + pair.mass.row.size());
        fmt::print("estimated beforehand: {}\n", undisona::wordsOf(estimateOf(*analysis, entries, wanted)));
    }
    const auto print = [&](const char* what, double seconds, const std::string& more) {
        fmt::print("{:<44} {:8.2f} s {:6.2f} factorisations   {}\n", what, seconds, unit > 0.0 ? seconds / unit : 0.0,
                   more);
        std::fflush(stdout);
    };
    for (const bool prove : {false, true}) {
        if (which == "million" && !prove) continue;
        Extraction extraction;
        std::map<std::string, double> stages;
        const double seconds = secondsOf([&] { extraction = modesOf(pair, wanted, prove, nullptr, &stages); });
        std::string figures = wordsOf(extraction);
        for (const auto& [stage, own] : stages)
            figures += fmt::format(", {} {:.2f} s", stage, own);
        print(prove ? "ours, factorisation and proof included" : "ours, factorisation included", seconds, figures);
    }
    if (alone || !factor) return 0;
    print("one solve of eight vectors by CHOLMOD",
          secondsOf([&] { factor->solve(Eigen::MatrixXd::Ones(pair.mass.size, 8)); }), "");
    limitBlasThreads(2);
    chooseBlasThreads(1000000);
    Inverse inverse{*factor, pair.mass.size};
    Product mass{pair.mass};
    const double spectra = secondsOf([&] {
        Spectra::SymGEigsShiftSolver<Inverse, Product, Spectra::GEigsMode::ShiftInvert> solver(
            inverse, mass, wanted, std::min<int>(2 * wanted, static_cast<int>(pair.mass.size)), 0.0);
        solver.init();
        solver.compute(Spectra::SortRule::LargestMagn, 1000, 1e-10);
    });
    print("Spectra on CHOLMOD's factor, without it", spectra, fmt::format("{} solves", inverse.solves));
    long solves = 0;
    const double ofArpack = secondsOf([&] { solves = arpack(pair, *factor, wanted); });
    print("ARPACK on CHOLMOD's factor, without it", ofArpack, fmt::format("{} solves", solves));
    return 0;
}
