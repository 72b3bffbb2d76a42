#include "app/scene/moving_shape.hpp"

#include <vtkCellArray.h>
#include <vtkOpenGLVertexBufferObject.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkProperty.h>
#include <vtkRenderer.h>
#include <vtkShaderProperty.h>
#include <vtkTypeInt64Array.h>
#include <vtkUniforms.h>

namespace undisona {

namespace {

/// The axis point moves by the mode; the section's arm turns with it by the finite rotation (Rodrigues), so
/// that sections keep their size.
const char* const movedPosition = R"(
  float turnAngle = length(modeTurn) * abs(phase);
  vec3 turnedArm = sectionArm;
  if (turnAngle > 1e-7) {
    vec3 turnAxis = normalize(modeTurn) * sign(phase);
    turnedArm = sectionArm * cos(turnAngle) + cross(turnAxis, sectionArm) * sin(turnAngle)
                + turnAxis * dot(turnAxis, sectionArm) * (1.0 - cos(turnAngle));
  }
  vec4 movedMC = vec4(vertexMC.xyz + phase * modeShift + turnedArm - sectionArm, 1.0);
)";

vtkSmartPointer<vtkCellArray> cellsOf(const std::vector<std::int64_t>& list, int size)
{
    vtkNew<vtkTypeInt64Array> corners;
    corners->SetNumberOfValues(static_cast<vtkIdType>(list.size() - list.size() % static_cast<std::size_t>(size)));
    std::copy(list.begin(), list.begin() + corners->GetNumberOfValues(), corners->GetPointer(0));
    auto cells = vtkSmartPointer<vtkCellArray>::New();
    cells->SetData(size, corners);
    return cells;
}

} // namespace

void MovingShape::prepare(vtkRenderer* renderer, bool lit)
{
    shift->SetName("modeShift");
    turn->SetName("modeTurn");
    arm->SetName("sectionArm");
    colour->SetName("colour");
    for (auto* array : {shift.Get(), turn.Get(), arm.Get()})
        array->SetNumberOfComponents(3);
    colour->SetNumberOfComponents(3);
    mapper->SetInputData(data);
    // The shift of a mode is in metres: places must stay so too, whatever their range.
    mapper->SetVBOShiftScaleMethod(vtkOpenGLVertexBufferObject::DISABLE_SHIFT_SCALE);
    mapper->SetScalarModeToUsePointFieldData();
    mapper->SelectColorArray("colour");
    mapper->SetColorModeToDirectScalars();
    mapper->InterpolateScalarsBeforeMappingOff();
    for (const char* name : {"modeShift", "modeTurn", "sectionArm"})
        mapper->MapDataArrayToVertexAttribute(name, name, vtkDataObject::FIELD_ASSOCIATION_POINTS, -1);
    actor->SetMapper(mapper);
    actor->GetProperty()->SetLighting(lit);
    actor->GetProperty()->SetAmbient(lit ? 0.52 : 1.0);
    actor->GetProperty()->SetDiffuse(lit ? 0.55 : 0.0);
    actor->GetProperty()->SetSpecular(0.0);
    auto* shader = actor->GetShaderProperty();
    shader->AddVertexShaderReplacement(
        "//VTK::PositionVC::Dec", true,
        "//VTK::PositionVC::Dec\nin vec3 modeShift;\nin vec3 modeTurn;\nin vec3 sectionArm;\n", false);
    std::string place = movedPosition;
    place += lit ? "  vertexVCVSOutput = MCVCMatrix * movedMC;\n  gl_Position = MCDCMatrix * movedMC;\n"
                 : "  gl_Position = MCDCMatrix * movedMC;\n";
    shader->AddVertexShaderReplacement("//VTK::PositionVC::Impl", true, place, false);
    shader->GetVertexCustomUniforms()->SetUniformf("phase", 0.0f);
    renderer->AddActor(actor);
}

void MovingShape::setPhase(double phase)
{
    actor->GetShaderProperty()->GetVertexCustomUniforms()->SetUniformf("phase", static_cast<float>(phase));
}

void MovingShape::setPlaces(const std::vector<float>& places, const std::vector<float>& arms,
                            const std::vector<std::int64_t>& triangles, const std::vector<std::int64_t>& lines)
{
    const auto count = static_cast<vtkIdType>(places.size() / 3);
    vtkNew<vtkFloatArray> own;
    own->SetNumberOfComponents(3);
    own->SetNumberOfTuples(count);
    std::copy(places.begin(), places.end(), own->GetPointer(0));
    vtkNew<vtkPoints> points;
    points->SetData(own);
    data->Initialize();
    data->SetPoints(points);
    if (!triangles.empty()) data->SetPolys(cellsOf(triangles, 3));
    if (!lines.empty()) data->SetLines(cellsOf(lines, 2));
    for (auto* array : {shift.Get(), turn.Get(), arm.Get()}) {
        array->SetNumberOfTuples(count);
        array->Fill(0.0);
    }
    std::copy(arms.begin(), arms.end(), arm->GetPointer(0));
    colour->SetNumberOfTuples(count);
    for (auto* array : {shift.Get(), turn.Get(), arm.Get()})
        data->GetPointData()->AddArray(array);
    data->GetPointData()->AddArray(colour);
}

void MovingShape::setMotion(vtkIdType vertex, const Eigen::Ref<const Vector6>& motion)
{
    for (int k = 0; k < 3; ++k) {
        shift->SetValue(3 * vertex + k, static_cast<float>(motion[k]));
        turn->SetValue(3 * vertex + k, static_cast<float>(motion[3 + k]));
    }
}

void MovingShape::setColour(vtkIdType vertex, const QColor& value)
{
    const unsigned char rgb[3] = {static_cast<unsigned char>(value.red()), static_cast<unsigned char>(value.green()),
                                  static_cast<unsigned char>(value.blue())};
    std::copy(rgb, rgb + 3, colour->GetPointer(3 * vertex));
}

void MovingShape::changed()
{
    for (auto* array : {shift.Get(), turn.Get(), arm.Get()})
        array->Modified();
    colour->Modified();
    data->Modified();
}

} // namespace undisona
