// The radar mast in about 2 000 unknowns: thirty modes with all readings, as a multiple of one CHOLMOD
// factorisation of the same matrix in the same run.
#include "bench/seconds_of.hpp"
#include "core/assess/clash.hpp"
#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"
#include "core/numerics/indefinite_factor.hpp"

#include <benchmark/benchmark.h>

#include <chrono>

using namespace undisona;

namespace {

std::shared_ptr<const Structure> mast()
{
    Structure structure =
        buildStructure(readDocumentFile(std::string(EXAMPLES) + "/radar-mast.undisona.json")->model).structure;
    structure.ask.until = Ask::Until::count;
    structure.ask.count = 30;
    structure.discretised.elements = 4; // stated, so that there is one pass over one mesh
    return std::make_shared<const Structure>(std::move(structure));
}

void thirtyModesAndAllReadings(benchmark::State& state)
{
    const auto structure = mast();
    double factor = 0.0, whole = 0.0, unknowns = 0.0;
    std::map<std::string, double> stages;
    for (auto _ : state) {
        Progress progress;
        std::shared_ptr<const Solution> solution;
        whole += secondsOf([&] {
            solution = *solve(structure, progress);
            benchmark::DoNotOptimize(clashesOf(*solution, structure->excitations));
        });
        factor += secondsOf([&] { benchmark::DoNotOptimize(SignedFactor::definite(solution->system->stiffness)); });
        unknowns = double(solution->system->size());
        for (const auto& [stage, seconds] : solution->timings)
            stages[stage] += seconds;
    }
    state.counters["unknowns"] = unknowns;
    for (const auto& [stage, seconds] : stages)
        state.counters["ms " + stage] = 1e3 * seconds / double(state.iterations());
    state.counters["factorisations"] = whole / factor;
    state.counters["ms"] = 1e3 * whole / double(state.iterations());
}
BENCHMARK(thirtyModesAndAllReadings)->Unit(benchmark::kMillisecond);

void factorisation(benchmark::State& state)
{
    Progress progress;
    const auto solution = *solve(mast(), progress);
    for (auto _ : state)
        benchmark::DoNotOptimize(SignedFactor::definite(solution->system->stiffness));
}
BENCHMARK(factorisation)->Unit(benchmark::kMillisecond);

void countByInertia(benchmark::State& state)
{
    Progress progress;
    const auto solution = *solve(mast(), progress);
    const auto shifted =
        sum(solution->system->stiffness, -solution->modes.back().lambda * 1.0001, solution->system->mass);
    for (auto _ : state)
        benchmark::DoNotOptimize(negativeEigenvalues(shifted));
}
BENCHMARK(countByInertia)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
