#pragma once
// For the few files that know the drawing library.
#include "core/system/motion_map.hpp"

#include <QColor>

#include <vtkActor.h>
#include <vtkFloatArray.h>
#include <vtkNew.h>
#include <vtkOpenGLPolyDataMapper.h>
#include <vtkPolyData.h>
#include <vtkUnsignedCharArray.h>

#include <cstdint>
#include <vector>

class vtkRenderer;

namespace undisona {

/// One drawable whose vertices carry a mode: the graphics processor moves them.
struct MovingShape {
    vtkNew<vtkPolyData> data;
    vtkNew<vtkOpenGLPolyDataMapper> mapper;
    vtkNew<vtkActor> actor;
    vtkNew<vtkFloatArray> shift, turn, arm;
    vtkNew<vtkUnsignedCharArray> colour;

    void prepare(vtkRenderer*, bool lit);
    void setPhase(double phase); ///< -1...1
    /// Three numbers per vertex, three or two vertices per cell.
    void setPlaces(const std::vector<float>& places, const std::vector<float>& arms,
                   const std::vector<std::int64_t>& triangles, const std::vector<std::int64_t>& lines);
    void setMotion(vtkIdType vertex, const Eigen::Ref<const Vector6>& motion);
    void setColour(vtkIdType vertex, const QColor& value);
    void changed();
};

} // namespace undisona
