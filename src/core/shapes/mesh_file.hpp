#pragma once
#include "core/base/progress.hpp"
#include "core/elements/solid.hpp"

#include <Eigen/Dense>

#include <array>
#include <memory>
#include <string>
#include <vector>

namespace undisona {

/// What a VTU file (the VTK library's unstructured grid, XML) holds: a mesh that was made elsewhere.
struct MeshFile {
    struct Cell {
        bool sheet;                ///< three or four corners, -1 in the fourth place of a triangle; else a solid
        SolidKind kind;            ///< of a solid; of no meaning of sheet
        std::array<int, 20> nodes; ///< in this program's order; -1 beyond those of the kind
        int number;                ///< in the file, from 1
        double thickness;          ///< as an array "thickness" has it, in the file's unit; 0: it has none

        std::size_t count() const { return sheet ? (nodes[3] < 0 ? 3U : 4U) : nodesOf(kind); }
        std::size_t corners() const { return sheet ? count() : cornersOf(kind); }
    };
    /// Cells that have the same whole number, or its name, in an array of the file.
    struct CellGroup {
        std::string array, value;
        std::vector<int> cells; ///< indices of `cells`
    };
    /// Nodes that an array of the file marks.
    struct NodeGroup {
        std::string name;
        std::vector<int> nodes;
    };
    std::vector<Eigen::Vector3d> nodes; ///< in the file's own unit of length
    std::vector<Cell> cells;
    std::vector<CellGroup> groups;
    std::vector<NodeGroup> nodeGroups;
    std::vector<std::string> remarks; ///< what was left out or taken otherwise, a line each
    std::string problem, remedy;      ///< why nothing could be read; empty if something was
    double stamp = 0.0;               ///< another one for each file read

    /// Reads in a process of its own, as ShapeFile does.
    static std::shared_ptr<const MeshFile> read(const std::string& path, const Progress* = nullptr);
    /// What that process hands over.
    static std::string packed(const MeshFile&);
};

/// Some cells of such a file, at a place: place = turn * (scale * node) + shift, m.
struct PlacedMesh {
    std::shared_ptr<const MeshFile> file;
    std::shared_ptr<const std::vector<int>> cells;      ///< indices of file->cells, all of sheet or all of solids
    double stamp;                                       ///< another one for every other choice of cells
    double scale;                                       ///< m per unit of the file
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity(); ///< may be a reflection
    Eigen::Vector3d shift = Eigen::Vector3d::Zero();

    Eigen::Vector3d place(int node) const
    {
        return turn * (scale * file->nodes[static_cast<std::size_t>(node)]) + shift;
    }
};

/// The same under place -> turn * place + shift.
PlacedMesh moved(PlacedMesh, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);

} // namespace undisona
