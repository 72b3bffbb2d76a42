#pragma once
#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"

#include <gtest/gtest.h>

#include <numbers>

namespace undisona {

inline constexpr double pi = std::numbers::pi;
inline constexpr double E = 200e9, nu = 0.3, rho = 8000.0; ///< Pa, -, kg/m3: what tests make things of

using Words = std::map<std::string, std::string>;

/// Builds a model sentence by sentence for tests: say("hold", {{"where", "a"}, {"directions", "all"}}).
/// Tables are lines of cells set apart by "|"; what the end of a line leaves out is as usual. A text that does not read
/// fails the test.
class SaidModel {
public:
    SaidModel() = default;
    explicit SaidModel(Model model) : model_(std::move(model)) {}
    SaidModel& say(const std::string& kind, const Words& values = {});
    /// Material "m" for everything with E, Poisson ratio, density.
    SaidModel& material(const std::string& modulus, const std::string& poisson, const std::string& density);
    SaidModel& add(Sentence sentence)
    {
        model_ = model_.inserted(std::move(sentence));
        return *this;
    }
    const Model& model() const { return model_; }

    Structure structure() const { return buildStructure(model_).structure; }
    Findings findings() const { return buildStructure(model_).findings; }
    /// Errors and warnings, a line each.
    std::string problems() const;
    /// Solves; fails the test when there is no solution.
    std::shared_ptr<const Solution> solved() const { return solvedAs(true); }
    /// The same without a look at how far off the mesh is, where members are not split by it.
    std::shared_ptr<const Solution> solvedUnjudged() const;
    /// Frequencies of the modes that are not rigid or loose, Hz.
    std::vector<double> frequencies() const;

private:
    std::shared_ptr<const Solution> solvedAs(bool judged) const;
    Model model_;
};

/// A model that says nothing but that everything is of E 200 GPa, Poisson 0.3, density 8000.
SaidModel steel();

/// A beam along x from 0 to `length` with `elements` elements, of a rectangle `height` by `width` m;
/// E 200 GPa, density 8000, Poisson 0.3. Points Beam.0 and Beam.1.
SaidModel straightBeam(double length, double height, double width, int elements);

std::string metres(double value);

} // namespace undisona
