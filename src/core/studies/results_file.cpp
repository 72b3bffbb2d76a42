#include "core/studies/results_file.hpp"

#include "core/base/memory.hpp"
#include "core/hdf5/hdf5_fields.hpp"
#include "core/model/document_io.hpp"
#include "core/model/model_key.hpp"
#include "core/model/takes.hpp"

#include <filesystem>
#include <mutex>

namespace undisona {

namespace {

constexpr const char* isResults = "undisona results";
constexpr std::int64_t layoutVersion = 1;
constexpr const char* program = "undisona " UNDISONA_VERSION;

/// The library is used by one thread at a time.
std::mutex& libraryMutex()
{
    static std::mutex mutex;
    return mutex;
}

Finding notRead(const std::string& path, const std::string& why)
{
    return {Severity::error,
            "the results file cannot be read: " + why,
            "Remove it, or have it written anew; the model is not touched by that.",
            {},
            path};
}

std::string nameOf(std::uint64_t key)
{
    return fmt::format("{:016x}", key);
}

/// The groups of runs of a file that is a results file.
Hdf5Group runsOf(const std::string& path)
{
    const auto root = Hdf5Group::opened(path);
    std::string what;
    try {
        what = root.said("what");
    } catch (const Hdf5Error&) {
    }
    if (what != isResults) throw Hdf5Error("it holds something else");
    if (root.number("layout") > layoutVersion) throw Hdf5Error("it was written by a newer version of this program");
    return root.group("runs");
}

template <class Work>
auto reading(const std::string& path, Work&& work) -> decltype(work())
{
    const std::lock_guard lock(libraryMutex());
    try {
        return work();
    } catch (const Hdf5Error& problem) {
        return Findings{notRead(path, problem.what())};
    } catch (const std::bad_alloc&) {
        return Findings{memoryRanOut()};
    } catch (const std::length_error&) {
        return Findings{notRead(path, "it says it is larger than there is memory")};
    }
}

/// Motions of the nodes, as others read them: modes x nodes x 6.
void writeMotions(const Hdf5Group& group, const Solution& solution)
{
    const auto nodes = solution.mesh.nodes.size(), modes = solution.modes.size();
    std::vector<double> places;
    places.reserve(3 * nodes);
    for (const auto& node : solution.mesh.nodes)
        places.insert(places.end(), node.place.begin(), node.place.end());
    group.write("nodes", NumberKind::f64, places.data(), {nodes, 3});
    group.writeSlices("motion", NumberKind::f32, {modes, nodes, 6}, [&](std::uint64_t mode, void* to) {
        auto* next = static_cast<float*>(to);
        for (std::size_t node = 0; node < nodes; ++node)
            for (const double along : solution.motion(static_cast<int>(node), mode))
                *next++ = static_cast<float>(along);
    });
}

void writeRun(const Hdf5Group& runs, const RunToKeep& run, const std::string& now)
{
    const Solution& solution = *run.solution;
    const auto group = runs.newGroup(nameOf(lastingKey(*run.model)));
    group.say("name", run.name);
    group.say("found", now);
    group.say("program", program);
    group.say("modes", static_cast<std::int64_t>(solution.modes.size()));
    group.say("nodes", static_cast<std::int64_t>(solution.mesh.nodes.size()));
    Document alone;
    alone.name = run.name;
    alone.model = *run.model;
    group.writeText("model", writeDocument(alone));
    std::vector<double> hertz;
    for (const auto& mode : solution.modes)
        hertz.push_back(mode.frequency);
    group.write("frequency", NumberKind::f64, hertz.data(), {hertz.size()});
    writeMotions(group, solution);
    Hdf5Writer(group).put("answer", answerOf(solution));
}

} // namespace

Result<std::vector<RunInFile>> runsIn(const std::string& path)
{
    return reading(path, [&]() -> Result<std::vector<RunInFile>> {
        const auto runs = runsOf(path);
        std::vector<RunInFile> kept;
        for (const auto& name : runs.names()) {
            const auto group = runs.group(name);
            RunInFile run{std::strtoull(name.c_str(), nullptr, 16),
                          group.said("name"),
                          group.said("found"),
                          group.said("program"),
                          group.number("modes"),
                          group.number("nodes")};
            std::vector<double> hertz;
            Hdf5Reader(group).get("frequency", hertz);
            if (!hertz.empty()) run.lowest = hertz.front(), run.highest = hertz.back();
            kept.push_back(std::move(run));
        }
        std::stable_sort(kept.begin(), kept.end(),
                         [](const RunInFile& a, const RunInFile& b) { return a.name < b.name; });
        return kept;
    });
}

Result<std::optional<ModesAnswer>> keptModes(const std::string& path, const Model& model)
{
    return reading(path, [&]() -> Result<std::optional<ModesAnswer>> {
        const auto runs = runsOf(path);
        const std::string name = nameOf(lastingKey(model));
        if (!runs.has(name)) return std::optional<ModesAnswer>();
        const auto group = runs.group(name);
        ModesAnswer answer;
        Hdf5Reader(group).get("answer", answer);
        const std::string by = group.said("program");
        answer.found.findings.push_back(
            noteAt({}, fmt::format("these modes were found on {} and kept in {}: nothing was solved{}",
                                   localTime(group.said("found")), std::filesystem::path(path).filename().string(),
                                   by == program ? "" : fmt::format("; {} found them, this is {}", by, program))));
        return std::optional<ModesAnswer>(std::move(answer));
    });
}

std::optional<Finding> keepResults(const std::string& path, const std::vector<RunToKeep>& all, const Progress& progress,
                                   const WriteRules& rules)
{
    const std::lock_guard lock(libraryMutex());
    const auto fill = [&](const std::string& beside) -> std::optional<Finding> {
        try {
            std::optional<Hdf5Group> before;
            try {
                if (Hdf5Group::isOne(path)) before = runsOf(path);
            } catch (const Hdf5Error&) { // nothing is taken over from what cannot be read
            }
            const auto root = Hdf5Group::created(beside, &progress);
            root.say("what", isResults);
            root.say("layout", layoutVersion);
            const auto runs = root.newGroup("runs");
            const std::string now = utcNow();
            for (const auto& run : all) {
                const std::string name = nameOf(lastingKey(*run.model));
                if (runs.has(name)) continue; // two takes of one model
                if (run.solution)
                    writeRun(runs, run, now);
                else if (before && before->has(name))
                    runs.copyFrom(*before, name);
            }
            root.flush();
            return std::nullopt;
        } catch (const Hdf5Error& problem) {
            return Finding{Severity::error,
                           std::string("the results file cannot be written: ") + problem.what(),
                           "Is there room on the disk? What was there is as it was.",
                           {},
                           path};
        } catch (const std::bad_alloc&) {
            return memoryRanOut();
        }
    };
    return writeWholeFile(path, fill, rules);
}

std::string resultsBeside(const std::string& modelPath)
{
    std::string stem = modelPath;
    for (const std::string_view end : {".json", ".undisona"})
        if (stem.ends_with(end)) stem.resize(stem.size() - end.size());
    return stem + ".results.h5";
}

} // namespace undisona
