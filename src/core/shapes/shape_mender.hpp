#pragma once
// For the few files that know the CAD kernel's headers.
#include "core/shapes/face_marks.hpp"
#include "core/shapes/shape_file.hpp"

#include <TopoDS_Shape.hxx>

namespace undisona {

/// Gaps between faces sewn, small edges merged, faces that close on themselves parted, faces and edges that a line
/// parts for nothing made one, unless their marks differ; what was done, and what is faulty all the same, is noted in
/// the body.
TopoDS_Shape mendedShape(const TopoDS_Shape&, const FaceMarks&, ShapeFile::Body&);

/// How many faces, edges, ... a shape has.
int countOf(const TopoDS_Shape&, TopAbs_ShapeEnum kind);

} // namespace undisona
