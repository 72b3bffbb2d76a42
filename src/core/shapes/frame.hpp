#pragma once
#include "core/base/finding.hpp"
#include "core/model/section.hpp"
#include "core/shapes/sheet.hpp"
#include "core/shapes/solid.hpp"

#include <Eigen/Dense>

#include <map>
#include <memory>
#include <string>
#include <vector>

namespace undisona {

/// A point where members meet, m.
struct FramePoint {
    std::string name;
    Eigen::Vector3d place;
    std::string sentence;
    bool made = false; ///< by a joint or a mass: it is no place of what it happens to lie on
};

/// A straight member. Its x axis runs from the first to the second point; `zAxis` is the unit direction of its
/// section's z axis; y completes the right-handed three.
struct FrameMember {
    std::string name;
    int from = 0, to = 0;
    std::shared_ptr<const Section> section;
    Eigen::Vector3d zAxis = Eigen::Vector3d::UnitZ();
    long elements = 0;        ///< 0: as many as the asked frequency needs
    double flexibility = 1.0; ///< in bending, times what its section alone gives: a pipe's bend that turns oval
    std::string sentence{};
};

class JoinedFaces;
struct JoinedFace;

/// Points, members and sheets under a name: what one sentence made, or one role in it ("legs of Mast").
struct FrameGroup {
    std::vector<int> points, members, sheets, solids;
};

struct Frame;

/// A frame that was made by itself as it stands in another one, at place -> turn * place + shift: the sub-assembly of
/// another file. All that it has follows what the other one had before it.
struct PlacedFrame {
    std::shared_ptr<const Frame> frame;
    std::string name;     ///< before the names of all that it has
    std::string sentence; ///< that places it
    Eigen::Matrix3d turn; ///< may be a reflection
    Eigen::Vector3d shift;
    int firstPoint, firstMember, firstSheet, firstSolid; ///< of the other one's

    bool isMirrored() const { return turn.determinant() < 0.0; }
    Eigen::Vector3d own(const Eigen::Vector3d& place) const { return turn.transpose() * (place - shift); }
};

/// The shape of a structure of members and sheets.
struct Frame {
    std::vector<FramePoint> points;
    std::vector<FrameMember> members;
    std::vector<Sheet> sheets;
    std::vector<Solid> solids;
    std::shared_ptr<const JoinedFaces> faces;              ///< of sheets and solids; null where there are none
    std::vector<std::array<int, 2>> together;              ///< points in one place that are two all the same
    std::map<std::string, FrameGroup, std::less<>> groups; ///< by sentence name, and "role of name"
    std::vector<PlacedFrame> placed;

    /// Whether one of its members, sheets, ... came with a placed frame.
    template <class Part>
    bool isPlaced(int at, int PlacedFrame::*first, std::vector<Part> Frame::*parts) const
    {
        for (const auto& one : placed)
            if (at >= one.*first && at < one.*first + static_cast<int>((one.frame.get()->*parts).size())) return true;
        return false;
    }

    int pointNamed(std::string_view name) const;  ///< -1 if there is none
    int memberNamed(std::string_view name) const; ///< -1 if there is none
    double length(const FrameMember&) const;
    Eigen::Vector3d direction(const FrameMember&) const; ///< unit, along x
    /// Sheets and solids in one count, the solids after the sheets.
    int partOfSolid(int solid) const { return static_cast<int>(sheets.size()) + solid; }
    std::vector<int> partsOf(const JoinedFace&) const; ///< so counted, of which it is a face; its sheet first
    std::size_t parts() const { return sheets.size() + solids.size(); }
    const std::string& partName(int part) const;
    const std::string& partSentence(int part) const;
    bool empty() const { return points.empty() && sheets.empty() && solids.empty(); }
    /// Corners of the box around all points and sheets; both zero for none.
    std::array<Eigen::Vector3d, 2> box() const;
    double span() const; ///< the diagonal of that box
};

/// "1, 0, 2.5 m", to the micrometre.
std::string placeText(const Eigen::Vector3d& place);

/// The section's z axis: towards the given direction, or else upwards (for an upright member so that y is
/// global Y), then turned about x by the angle. Zero when `towards` runs along the member.
Eigen::Vector3d sectionAxis(const Eigen::Vector3d& along, const Eigen::Vector3d* towards, double turned);

} // namespace undisona
