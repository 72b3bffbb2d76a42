#pragma once
#include "core/mesh/sheet_mesh.hpp"

namespace undisona {

/// Divides the outline of a body of a whole turn and carries it round, which meshes all its faces.
class TurnedBody {
public:
    /// Of a mesh in which the edges are divided. `sizeAt` gives the size of an element at a place on a face.
    TurnedBody(const JoinedFaces&, const WholeTurn&, SheetMesh&,
               std::function<double(int face, const Eigen::Vector3d&)> sizeAt);
    void addTo(int body);

private:
    int add(const Eigen::Vector3d&);
    void addColumn(int node);
    void addRim(int edge);
    /// Nodes on a part's line, from end to end.
    std::vector<int> stations(const WholeTurn::Part&);
    void cover(const WholeTurn::Part&, const std::vector<int>& stations, const std::vector<Eigen::Vector3d>& middles);
    bool onAxis(int node) const { return !columns_.contains(node); }

    const JoinedFaces& faces_;
    const WholeTurn& turn_;
    SheetMesh& mesh_;
    std::function<double(int, const Eigen::Vector3d&)> sizeAt_;
    std::size_t count_;                       ///< elements around
    std::map<int, std::vector<int>> columns_; ///< by node of the outline: those it moves to, the first one at the end
    std::vector<Eigen::Vector3d> middles_;    ///< between the stations found last
};

} // namespace undisona
