#include "tests/outside/written_system.hpp"

#include <lapacke.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>

#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <sstream>
#include <stdexcept>

namespace {

std::string run(const std::string& command)
{
    FILE* pipe = popen((command + " 2>&1").c_str(), "r");
    std::string out;
    char buffer[4096];
    while (const std::size_t got = fread(buffer, 1, sizeof buffer, pipe))
        out.append(buffer, got);
    const int status = pclose(pipe);
    if (status != 0 && WEXITSTATUS(status) != 1) throw std::runtime_error(command + ": " + out);
    return out;
}

std::vector<double> readMatrix(const std::string& path, int& size)
{
    std::ifstream stream(path);
    std::string line;
    while (std::getline(stream, line) && line.starts_with("%")) {
    }
    long entries = 0;
    int columns = 0;
    std::istringstream(line) >> size >> columns >> entries;
    std::vector<double> dense(static_cast<std::size_t>(size) * static_cast<std::size_t>(size), 0.0);
    int row = 0, column = 0;
    double value = 0;
    for (long at = 0; at < entries && stream >> row >> column >> value; ++at) {
        if (row < column) throw std::runtime_error(path + " is not the lower triangle");
        dense[static_cast<std::size_t>(row - 1) +
              static_cast<std::size_t>(column - 1) * static_cast<std::size_t>(size)] = value;
        dense[static_cast<std::size_t>(column - 1) +
              static_cast<std::size_t>(row - 1) * static_cast<std::size_t>(size)] = value;
    }
    return dense;
}

using Vec = std::vector<double>;

/// Column by column.
Vec readGeneral(const std::string& path, std::size_t rows, std::size_t columns)
{
    std::ifstream stream(path);
    std::string line;
    while (std::getline(stream, line) && line.starts_with("%")) {
    }
    std::size_t given[2]{}, entries = 0, row = 0, column = 0;
    std::istringstream(line) >> given[0] >> given[1] >> entries;
    if (given[0] != rows || given[1] != columns) throw std::runtime_error(path + " is not of the unknowns written");
    Vec dense(rows * columns, 0.0);
    double value = 0;
    for (std::size_t at = 0; at < entries && stream >> row >> column >> value; ++at)
        dense.at(row - 1 + (column - 1) * rows) = value;
    return dense;
}

std::vector<WrittenSystem::Unknown> readUnknowns(const std::string& path)
{
    std::vector<WrittenSystem::Unknown> unknowns;
    std::ifstream list(path);
    std::string line;
    std::getline(list, line);
    while (std::getline(list, line)) {
        std::vector<std::string> cells;
        std::istringstream row(line);
        for (std::string cell; std::getline(row, cell, ',');)
            cells.push_back(cell);
        WrittenSystem::Unknown unknown{};
        const std::size_t first = cells.size() - 12;
        unknown.rotation = cells[first - 1] == "r";
        for (std::size_t axis = 0; axis < 3; ++axis) {
            unknown.direction[axis] = std::stod(cells[first + axis]);
            unknown.place[axis] = std::stod(cells[first + 3 + axis]);
        }
        for (std::size_t way = 0; way < 6; ++way)
            unknown.base[way] = std::stod(cells[first + 6 + way]);
        unknowns.push_back(unknown);
    }
    return unknowns;
}

Vec times(const Vec& a, const Vec& x)
{
    Vec y(x.size(), 0.0);
    for (std::size_t j = 0; j < x.size(); ++j)
        for (std::size_t i = 0; i < x.size(); ++i)
            y[i] += a[i + j * x.size()] * x[j];
    return y;
}

double dot(const Vec& x, const Vec& y)
{
    double sum = 0;
    for (std::size_t at = 0; at < x.size(); ++at)
        sum += x[at] * y[at];
    return sum;
}

/// Eigenvalues below `shift` of K - shift M, by LAPACK's symmetric eigenvalues.
int negativeCount(const WrittenSystem& system, double shift)
{
    Vec a(system.k);
    // Scaled to a unit diagonal: congruence keeps the inertia (Sylvester).
    const auto n = static_cast<std::size_t>(system.size);
    Vec scale(n);
    for (std::size_t at = 0; at < n; ++at)
        scale[at] = 1.0 / std::sqrt(std::max(1e-300, system.k[at * n + at] + shift * system.m[at * n + at]));
    for (std::size_t j = 0; j < n; ++j)
        for (std::size_t i = 0; i < n; ++i)
            a[i + j * n] = (system.k[i + j * n] - shift * system.m[i + j * n]) * scale[i] * scale[j];
    Vec w(n);
    LAPACKE_dsyev(LAPACK_COL_MAJOR, 'N', 'L', system.size, a.data(), system.size, w.data());
    return static_cast<int>(std::count_if(w.begin(), w.end(), [](double value) { return value < 0; }));
}

/// LAPACK's eigenvalues and vectors of M scaled to a unit diagonal.
struct ScaledMass {
    Vec scale, a, w;
};

ScaledMass scaledMass(const WrittenSystem& system)
{
    const auto n = static_cast<std::size_t>(system.size);
    ScaledMass mass{Vec(n), Vec(n * n), Vec(n)};
    auto& [scale, a, w] = mass;
    for (std::size_t at = 0; at < n; ++at)
        scale[at] = system.m[at * n + at] > 0 ? 1.0 / std::sqrt(system.m[at * n + at]) : 0.0;
    for (std::size_t j = 0; j < n; ++j)
        for (std::size_t i = 0; i < n; ++i)
            a[i + j * n] = system.m[i + j * n] * scale[i] * scale[j];
    LAPACKE_dsyevd(LAPACK_COL_MAJOR, 'V', 'L', system.size, a.data(), system.size, w.data());
    return mass;
}

/// b' M^+ b: massless unknowns have none of b either.
double throughMass(const ScaledMass& mass, const Vec& b)
{
    const auto& [scale, a, w] = mass;
    const std::size_t n = b.size();
    double sum = 0;
    for (std::size_t j = 0; j < n; ++j) {
        if (w[j] < 1e-12) continue;
        double part = 0;
        for (std::size_t i = 0; i < n; ++i)
            part += a[i + j * n] * scale[i] * b[i];
        sum += part * part / w[j];
    }
    return sum;
}

/// theta of M phi = theta (K + a M) phi, largest first.
Vec denseThetas(const WrittenSystem& system, double a)
{
    Vec mass = system.m, shifted = system.k;
    for (std::size_t at = 0; at < mass.size(); ++at)
        shifted[at] += a * mass[at];
    Vec w(static_cast<std::size_t>(system.size));
    if (LAPACKE_dsygv(LAPACK_COL_MAJOR, 1, 'N', 'L', system.size, mass.data(), system.size, shifted.data(), system.size,
                      w.data()) != 0)
        return {};
    std::reverse(w.begin(), w.end());
    return w;
}

} // namespace

WrittenSystem runCommandLine(const std::string& model, const std::string& options)
{
    namespace fs = std::filesystem;
    const auto folder = fs::temp_directory_path() / ("undisona-outside-" + std::to_string(getpid()));
    fs::create_directories(folder);
    WrittenSystem system;
    const std::string quoted = "'" + model + "'";
    run(std::string(CLI) + " export " + quoted + " --what system --to " + folder.string());
    const auto file = (folder / "modes.json").string();
    system.errors = run(std::string(CLI) + " modes " + quoted + " --format json --shapes --out " + file + " " + options);
    std::ifstream stream(file);
    system.modes = nlohmann::json::parse(stream);
    system.k = readMatrix((folder / "K.mtx").string(), system.size);
    system.m = readMatrix((folder / "M.mtx").string(), system.size);
    system.unknowns = readUnknowns((folder / "unknowns.csv").string());
    system.held = readUnknowns((folder / "held.csv").string());
    system.toHeld = readGeneral((folder / "M_held.mtx").string(), system.unknowns.size(), system.held.size());
    fs::remove_all(folder);
    return system;
}

std::vector<std::string> faultsOf(const WrittenSystem& system)
{
    std::vector<std::string> faults;
    const auto complain = [&](const std::string& what) {
        if (faults.size() < 20) faults.push_back(what);
    };
    const auto& json = system.modes;
    const auto& modes = json["modes"];
    const auto n = static_cast<std::size_t>(system.size);
    if (json["unknowns"] != system.size || system.unknowns.size() != n) complain("number of unknowns");
    std::vector<Vec> shapes, stiff, massive;
    Vec lambda;
    for (const auto& mode : modes) {
        shapes.push_back(mode["shape"].get<Vec>());
        stiff.push_back(times(system.k, shapes.back()));
        massive.push_back(times(system.m, shapes.back()));
        const double w = 2 * M_PI * mode["frequency_hz"].get<double>();
        lambda.push_back(w * w);
    }
    const std::size_t count = lambda.size();
    bool loose = false;
    for (std::size_t at = 0; at < count; ++at)
        loose |= lambda[at] == 0.0;

    // Frequencies against the dense solver.
    double elastic = 0.0;
    for (const double value : lambda)
        if (value > 0 && elastic == 0) elastic = value;
    const double shift = loose ? (elastic > 0 ? elastic : 1.0) : 0.0;
    const Vec theta = denseThetas(system, shift);
    if (theta.empty()) return {"K + a M is not positive definite"};
    for (std::size_t at = 0; at < count; ++at) {
        const double exact = 1.0 / theta[at] - shift;
        const double floor = modes[at]["residual_floor"].get<double>();
        if (lambda[at] == 0.0
                ? std::abs(exact) > 1e-6 * elastic
                : std::abs(std::sqrt(exact / lambda[at]) - 1) > 1e-8 + 10 * floor + 1e-13 * lambda[at] / elastic)
            complain("mode " + std::to_string(at + 1) + ": frequency differs from the dense solver's by " +
                     std::to_string(std::sqrt(std::max(0.0, exact)) / 2 / M_PI));
    }

    // Errors and orthogonality.
    for (std::size_t i = 0; i < count; ++i) {
        if (lambda[i] > 0) {
            Vec error = stiff[i];
            for (std::size_t at = 0; at < n; ++at)
                error[at] -= lambda[i] * massive[i][at];
            const double residual = std::sqrt(dot(error, error) / dot(stiff[i], stiff[i]));
            if (residual > std::max(1e-8, 10 * modes[i]["residual_floor"].get<double>()))
                complain("mode " + std::to_string(i + 1) + ": residual " + std::to_string(residual));
        }
        // Where all modes are asked, one shift below the spectrum cannot bound the highest; the residual above does.
        if (modes[i]["accepted_error"].get<double>() > 1e-8 && lambda[i] > 0 && json["all_modes"] == false)
            complain("mode " + std::to_string(i + 1) + ": accepted error");
        for (std::size_t j = 0; j <= i; ++j)
            if (std::abs(dot(shapes[i], massive[j]) - (i == j)) > 1e-8)
                complain("modes " + std::to_string(i + 1) + " and " + std::to_string(j + 1) +
                         " are not orthonormal in M");
    }

    // None missed.
    const double below = 2 * M_PI * json["count_check"]["below_hz"].get<double>();
    const double above = 2 * M_PI * json["count_check"]["above_hz"].get<double>();
    const int expected = negativeCount(system, below * below) - (above > 0 ? negativeCount(system, above * above) : 0);
    if (count > 0 && expected != static_cast<int>(count))
        complain("inertia counts " + std::to_string(expected) + " modes, " + std::to_string(count) + " are given");
    if (count > 0 && json["count_check"]["expected"] != expected) complain("the written count differs from LAPACK's");

    // Participation and sums about the reference point.
    const auto reference = json["reference_point_m"].get<Vec>();
    const ScaledMass mass = scaledMass(system);
    for (int d = 0; d < 6; ++d) {
        Vec rigid(n);
        for (std::size_t at = 0; at < n; ++at) {
            const auto& unknown = system.unknowns[at];
            double motion[3] = {0, 0, 0}, turn[3] = {0, 0, 0};
            if (d < 3)
                motion[d] = 1;
            else {
                turn[d - 3] = 1;
                const double arm[3] = {unknown.place[0] - reference[0], unknown.place[1] - reference[1],
                                       unknown.place[2] - reference[2]};
                for (int a = 0; a < 3; ++a)
                    motion[a] = turn[(a + 1) % 3] * arm[(a + 2) % 3] - turn[(a + 2) % 3] * arm[(a + 1) % 3];
            }
            for (int a = 0; a < 3; ++a)
                rigid[at] += unknown.direction[a] * (unknown.rotation ? turn[a] : motion[a]);
        }
        Vec force = times(system.m, rigid);
        for (std::size_t column = 0; column < system.held.size(); ++column) {
            const auto& base = system.held[column].base; // about the origin; a turn about p moves it by p x e
            double value = base[static_cast<std::size_t>(d)];
            if (d >= 3) {
                const auto a = static_cast<std::size_t>(d - 3), b = (a + 1) % 3, c = (a + 2) % 3;
                value += base[b] * reference[c] - base[c] * reference[b];
            }
            for (std::size_t at = 0; at < n; ++at)
                force[at] += system.toHeld[at + column * n] * value;
        }
        const double movable = throughMass(mass, force),
                     total = json["total_by_direction"][static_cast<std::size_t>(d)].get<double>();
        if (std::abs(json["movable_by_direction"][static_cast<std::size_t>(d)].get<double>() - movable) >
            1e-8 * std::max(movable, 1e-6 * total))
            complain("movable mass in direction " + std::to_string(d));
        double sum = 0;
        for (std::size_t at = 0; at < count; ++at) {
            const double factor = dot(shapes[at], force);
            sum += factor * factor;
            const auto& mode = modes[at];
            if (std::abs(mode["participation"][static_cast<std::size_t>(d)].get<double>() - factor) >
                1e-7 * std::sqrt(total))
                complain("participation of mode " + std::to_string(at + 1));
            if (movable > 1e-9 * total &&
                std::abs(mode["cumulative_of_movable"][static_cast<std::size_t>(d)].get<double>() - sum / movable) >
                    1e-7)
                complain("running sum at mode " + std::to_string(at + 1));
        }
        if (json["all_modes"] == true && std::abs(sum - movable) > 1e-7 * std::max(movable, 1e-6 * total))
            complain("all effective masses do not add up in direction " + std::to_string(d));
        if (d < 3 && movable > total * (1 + 1e-9)) complain("more mass can move than there is");
    }

    for (const auto& pair : json["clashes"]) {
        if (pair["mode"].get<std::size_t>() > count) {
            complain("a clash with a mode that is not there");
            continue;
        }
        const double f = modes[pair["mode"].get<std::size_t>() - 1]["frequency_hz"].get<double>(),
                     low = pair["low_hz"].get<double>(), high = pair["high_hz"].get<double>();
        const double s = f < low ? (f - low) / low : f > high ? (f - high) / high : 0.0;
        if (std::abs(100 * s - pair["separation_percent"].get<double>()) > 1e-6) complain("separation of a clash");
        if (s == 0.0 && pair["verdict"] != "clash") complain("a mode on an excitation is no clash");
    }
    return faults;
}
