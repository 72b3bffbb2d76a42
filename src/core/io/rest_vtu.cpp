#include "core/io/rest_vtu.hpp"

#include "core/io/vtu.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

Eigen::MatrixXd shiftsOf(const Solution& shapes, std::size_t which)
{
    Eigen::MatrixXd shifts(3, static_cast<Eigen::Index>(shapes.mesh.nodes.size()));
    for (Eigen::Index node = 0; node < shifts.cols(); ++node)
        shifts.col(node) = shapes.motion(static_cast<int>(node), which).head<3>();
    return shifts;
}

} // namespace

Result<std::string> restVtu(const Model& model, const RestAnswer& answer, const std::string& only)
{
    const auto shapes = restAsShapes(model, answer, false);
    if (!shapes) return shapes.findings();
    std::vector<NodeField> fields;
    const auto& states = answer.found.states;
    for (std::size_t at = 0; at < states.size(); ++at) {
        if (!only.empty() && states[at].name != only) continue;
        fields.push_back({states[at].name + " displacement", shiftsOf(**shapes, at)});
        fields.push_back(
            {states[at].name + " equivalent stress",
             equivalentAtNodes((*shapes)->mesh, answer.found.fields, static_cast<Eigen::Index>(at)).transpose()});
    }
    if (answer.found.buckled.cols() > 0) {
        const auto buckled = restAsShapes(model, answer, true);
        if (!buckled) return buckled.findings();
        std::size_t which = 0;
        for (const auto& state : states)
            for (std::size_t at = 0; at < state.buckles.size(); ++at, ++which)
                if (only.empty() || state.name == only)
                    fields.push_back(
                        {fmt::format("{} buckling {} at {:.4g} times", state.name, at + 1, state.buckles[at]),
                         shiftsOf(**buckled, which)});
    }
    return meshVtu(**shapes, fields);
}

} // namespace undisona
