#pragma once
#include "core/model/model.hpp"
#include "core/picks/pick.hpp"

#include <optional>

namespace undisona {

/// The frames of sub-assemblies, by the sentence that places them; one that is missing was complained of.
using AssemblyFrames = std::map<std::string, std::shared_ptr<const Frame>, std::less<>>;

/// Collects points and members while the sentences of the group Shape are read one after the other.
class FrameBuilder {
public:
    FrameBuilder(const Model&, const AssemblyFrames&);

    Frame frame;
    Findings findings;

    /// The sentence whose points and members are being made; names its group if it has a name.
    void begin(const Sentence&);
    const std::string& groupName() const { return groupName_; }
    const std::string& sentence() const { return sentence_->id; }

    /// A named point; an existing point at the same place (within 0.01 mm) is used again when `joins`.
    int addPoint(const std::string& name, const Eigen::Vector3d& place, bool joins, const std::string& role = {});

    struct Style {
        std::shared_ptr<const Section> section; ///< null: the finding is there, no member is made
        std::optional<Eigen::Vector3d> towards;
        double turned = 0.0;
        long elements = 0;
        double flexibility = 1.0;
    };
    /// Section and orientation as the sentence states them.
    Style style(const std::string& sectionText);

    void addMember(const std::string& name, int from, int to, const Style&, const std::string& role = {});
    /// Its corners, and the ends of a curved one, become points: "corners of Plate".
    void addSheet(Sheet);
    void addSolid(Solid);
    void replaceBySheet(int solid, Sheet); ///< in every group that the solid was of
    /// Carries parts by motion, with the points that belong to them alone; what others share is a finding.
    void moveParts(const Picked&, const Eigen::Isometry3d& motion);
    /// A member whose section's axis is known already.
    void addPlaced(FrameMember, const std::string& role);

    /// What the sentence places of another file; null where there is nothing.
    std::shared_ptr<const Frame> assembly() const;
    /// All of it, with the name before its own names; its points are one with no others.
    void placeFrame(PlacedFrame);

    /// A field of type place: the name of a point, or coordinates.
    std::optional<Eigen::Vector3d> place(std::string_view key);
    /// The same of a word of a table.
    std::optional<Eigen::Vector3d> placeIn(const std::string& text);
    /// What a field names, of which there is something at least.
    std::optional<Picked> where(std::string_view key);
    void complain(std::string what, std::string remedy = {});

private:
    std::shared_ptr<const Section> section(const std::string& text);
    void keepSheet(Sheet); ///< without points
    void note(const std::string& role, std::vector<int> FrameGroup::*list, int index);

    const Model& model_;
    const AssemblyFrames& assemblies_;
    const Sentence* sentence_ = nullptr;
    std::string groupName_;
    std::map<std::string, std::shared_ptr<const Section>, std::less<>> sections_;
    std::map<std::array<long, 3>, std::vector<int>> cells_; ///< points by place, for finding the same one
    std::set<std::string, std::less<>> pointNames_, memberNames_, sheetNames_;
};

/// Reads every active sentence of the group Shape.
Frame buildFrame(const Model&, const AssemblyFrames&, Findings&);

// Patterns: each reads the builder's current sentence.
void addRun(FrameBuilder&, const Sentence&);
void addBayFrame(FrameBuilder&, const Sentence&);
void addLatticeMast(FrameBuilder&, const Sentence&);
void addRing(FrameBuilder&, const Sentence&);
void addPipe(FrameBuilder&, const Sentence&);
void addArc(FrameBuilder&, const Sentence&);
void addCircle(FrameBuilder&, const Sentence&);
void addCopies(FrameBuilder&, const Sentence&);
void addCopiesAround(FrameBuilder&, const Sentence&);
void addMirror(FrameBuilder&, const Sentence&);

// Sheets, and holes in them.
void addPlate(FrameBuilder&, const Sentence&);
void addPlateThrough(FrameBuilder&, const Sentence&);
void addDisc(FrameBuilder&, const Sentence&);
void addCylinderShell(FrameBuilder&, const Sentence&);
void addConeShell(FrameBuilder&, const Sentence&);
void addDome(FrameBuilder&, const Sentence&);
void addElbow(FrameBuilder&, const Sentence&);
void addSheetBox(FrameBuilder&, const Sentence&);
void addFoldedSheet(FrameBuilder&, const Sentence&);
void addRib(FrameBuilder&, const Sentence&);
void cutHoles(FrameBuilder&, const Sentence&);
void cutHoleGrid(FrameBuilder&, const Sentence&);
void cutHoleCircle(FrameBuilder&, const Sentence&);
void cutOpening(FrameBuilder&, const Sentence&);
void cutOpeningThrough(FrameBuilder&, const Sentence&);

// Solids.
void addSolidBox(FrameBuilder&, const Sentence&);
void addSolidCylinder(FrameBuilder&, const Sentence&);
void addSolidSphere(FrameBuilder&, const Sentence&);
void addExtrusion(FrameBuilder&, const Sentence&);
void addRevolution(FrameBuilder&, const Sentence&);
void combineSolids(FrameBuilder&, const Sentence&);
void leaveOutSmall(FrameBuilder&, const Sentence&);
void takeMidFace(FrameBuilder&, const Sentence&);

// What is read from files.
void addImported(FrameBuilder&, const Sentence&);
void addMeshPart(FrameBuilder&, const Sentence&);
void addNodePoint(FrameBuilder&, const Sentence&);

// Sub-assemblies: one, in a row, round an axis.
void placeAssembly(FrameBuilder&, const Sentence&);
void placeAssemblyRow(FrameBuilder&, const Sentence&);
void placeAssembliesAround(FrameBuilder&, const Sentence&);

// Axes that a sentence states by "along" and "towards"; nothing, and a finding, where they are none.
std::optional<Eigen::Matrix3d> statedAxes(FrameBuilder&, const Sentence&);
/// Axes whose z is the direction given.
Eigen::Matrix3d axesFacing(const Eigen::Vector3d&);

// Changes to parts made before.
void movePart(FrameBuilder&, const Sentence&);
void turnPart(FrameBuilder&, const Sentence&);
void layAgainst(FrameBuilder&, const Sentence&);
void taperSheet(FrameBuilder&, const Sentence&);

} // namespace undisona
