#pragma once
// What a file says of single faces of a body; for the few files that know the kernel's headers.
#include "core/shapes/body_faces.hpp"

#include <Bnd_Box.hxx>

#include <optional>
#include <string>
#include <vector>

namespace undisona {

/// A face's name and colour, as far as the file has them.
struct FaceMark {
    std::string name;
    std::optional<Eigen::Vector3d> colour; ///< red, green, blue, 0...1
};

/// The marks of a body's faces, which outlast that its faces are mended, parted and joined: they are known by where
/// they lie.
class FaceMarks {
public:
    void add(const TopoDS_Face&, FaceMark);
    bool empty() const { return faces_.empty(); }

    /// By face of the body, counted as BodyFaces does, the index of its mark; -1: none.
    std::vector<int> of(const BodyFaces&) const;
    const FaceMark& at(int index) const { return faces_[static_cast<std::size_t>(index)].mark; }
    /// Edges between faces of which one has another mark than the other, so that they stay apart.
    std::vector<TopoDS_Edge> borders(const TopoDS_Shape& body) const;

private:
    struct Marked {
        TopoDS_Face face;
        Bnd_Box box;
        FaceMark mark;
    };
    std::vector<Marked> faces_;
};

} // namespace undisona
