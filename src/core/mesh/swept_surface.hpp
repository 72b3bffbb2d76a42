#pragma once
#include "core/mesh/sheet_mesh.hpp"

#include <set>

namespace undisona {

/// Carries the elements on the first face of a sweep along its walls and onto its last face.
class SweptSurface {
public:
    /// Of a mesh in which the first face is meshed and the edges are divided.
    SweptSurface(const JoinedFaces&, const Sweep&, SheetMesh&);
    void addTo(int body);

private:
    using Columns = std::map<int, std::vector<int>>;
    void startColumns();
    bool runsAgainst(const Sweep::Wall&) const;
    void raiseWall(const Sweep::Wall&);
    void meetWall(const Sweep::Wall&);
    void cover();
    Eigen::Vector3d middle(int one, int other) const;

    const JoinedFaces& faces_;
    const Sweep& sweep_;
    SheetMesh& mesh_;
    std::size_t layers_ = 1;
    Columns columns_;
};

} // namespace undisona
