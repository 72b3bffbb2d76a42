#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// A figure, or three, at each node.
struct NodeField {
    std::string name;
    Eigen::MatrixXd values; ///< components x nodes
};

/// The mesh as unstructured VTK XML, with what stands at its nodes: lines, faces and bodies with the part that they are
/// of, which nodes are held, how thick sheet is.
std::string meshVtu(const Solution&, const std::vector<NodeField>&);

} // namespace undisona
