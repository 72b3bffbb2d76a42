#pragma once
#include "core/base/finding.hpp"
#include "core/base/progress.hpp"
#include "core/shapes/kept_shape.hpp"

#include <Eigen/Dense>

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace undisona {

struct Frame;

/// What a STEP (ISO 10303-21: AP203, AP214, AP242) or BREP file holds, mended where it had to be, in metres.
struct ShapeFile {
    struct Body {
        std::string name;    ///< as the file has it; may be empty, or the same as another's
        bool solid = true;   ///< otherwise faces without a volume: sheet
        double volume = 0.0; ///< m3; 0 of sheet
        double area = 0.0;   ///< m2
        int faces = 0;
        Eigen::Vector3d low = Eigen::Vector3d::Zero(), high = low; ///< its box, m
        std::optional<Eigen::Vector3d> colour;                     ///< red, green, blue, 0...1
        std::vector<std::string> mended;                           ///< what was done to it, a line each
        std::string faulty; ///< what is wrong with it all the same; empty if nothing is
        std::shared_ptr<const KernelShape> shape;
        double stamp = 0.0; ///< as of KeptShape
    };
    std::vector<Body> bodies;
    std::string problem; ///< why nothing could be read; empty if something was
    std::string remedy;

    /// Reads in a process of its own, since a broken file may take the CAD kernel down. The last few files are kept
    /// until they change on the disk. Reading can be stopped, which is a problem too.
    static std::shared_ptr<const ShapeFile> read(const std::string& path, const Progress* = nullptr);
    /// What that process does: reads the file and writes what it holds for the other side.
    static std::string readForOther(const std::string& path);
};

/// Every sheet and solid that does not come as a mesh as the text of a STEP file (AP214, in millimetres), each under
/// its name.
Result<std::string> stepText(const Frame&);

} // namespace undisona
