// Panels and bodies in, common edges and vertices out.
#include "core/shapes/joined_kernel.hpp"

#include "core/base/number_text.hpp"
#include "core/shapes/frame.hpp"
#include "core/shapes/given_faces.hpp"
#include "core/shapes/kept_answers.hpp"
#include "core/shapes/kernel_shapes.hpp"
#include "core/shapes/kernel_stop.hpp"
#include "core/shapes/shape_key.hpp"

#include <BOPAlgo_Builder.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <Message_ProgressIndicator.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_DataMapOfShapeInteger.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Solid.hxx>

#include <fmt/format.h>

namespace undisona {

JoinedFaces::JoinedFaces() : stamp(newStamp()), kernel_(std::make_shared<Kernel>()) {}
JoinedFaces::~JoinedFaces() = default;

namespace {

/// Tells the kernel to let go where building is stopped.
class StopWatch : public Message_ProgressIndicator {
public:
    Standard_Boolean UserBreak() override { return StopScope::stopped(); }
    void Show(const Message_ProgressScope&, Standard_Boolean) override {}
};

} // namespace

/// Makes one JoinedFaces.
class FaceJoiner {
public:
    FaceJoiner(const Frame& frame, Findings& findings) : frame_(frame), findings_(findings), joined_(new JoinedFaces) {}

    std::shared_ptr<const JoinedFaces> joined()
    {
        makeFaces();
        makeSolids();
        takeWhatLiesOnThem();
        builder_.SetFuzzyValue(sameInShapes);
        builder_.SetRunParallel(false);
        if (builder_.Arguments().Extent() > 1) {
            const Handle(StopWatch) watch = new StopWatch;
            builder_.Perform(watch->Start());
            StopScope::check();
        }
        fused_ = builder_.Arguments().Extent() > 1 && !builder_.HasErrors();
        if (builder_.HasErrors())
            findings_.push_back(errorAt({}, "the parts could not be joined where they touch",
                                        "Move one of them, or look for parts that lie in each other."));
        gather();
        return joined_;
    }

private:
    /// What an argument has become.
    std::vector<TopoDS_Shape> imagesOf(const TopoDS_Shape& shape)
    {
        if (!fused_ || builder_.IsDeleted(shape)) return {shape};
        std::vector<TopoDS_Shape> images;
        const TopTools_ListOfShape& modified = builder_.Modified(shape);
        for (TopTools_ListIteratorOfListOfShape at(modified); at.More(); at.Next())
            images.push_back(at.Value());
        if (images.empty()) images.push_back(shape);
        return images;
    }

    void makeFaces()
    {
        BRep_Builder whole;
        whole.MakeCompound(all_);
        for (std::size_t sheet = 0; sheet < frame_.sheets.size(); ++sheet) {
            const auto add = [&](const auto& panel) {
                try {
                    const TopoDS_Shape made = faceOf(panel);
                    if (made.IsNull()) throw Standard_Failure();
                    if constexpr (std::is_same_v<std::decay_t<decltype(panel)>, KeptFaces>)
                        noteMarks(made, panel.kept.shape->marks);
                    for (TopExp_Explorer faces(made, TopAbs_FACE); faces.More(); faces.Next()) {
                        arguments_.emplace_back(TopoDS::Face(faces.Current()), static_cast<int>(sheet));
                        whole.Add(all_, faces.Current());
                        builder_.AddArgument(faces.Current());
                    }
                } catch (const Standard_Failure&) {
                    findings_.push_back(errorAt(frame_.sheets[sheet].sentence,
                                                fmt::format("{} has no face of its own", frame_.sheets[sheet].name),
                                                "Its outline crosses itself or has no area."));
                }
            };
            for (const auto& panel : frame_.sheets[sheet].flat)
                add(panel);
            for (const auto& panel : frame_.sheets[sheet].turned)
                add(panel);
            for (const auto& panel : frame_.sheets[sheet].crowns)
                add(panel);
            for (const auto& faces : frame_.sheets[sheet].kept)
                add(faces);
        }
    }

    /// Faces that their file names or colours.
    void noteMarks(const TopoDS_Shape& shape, const std::vector<KernelShape::Mark>& marks)
    {
        if (marks.empty()) return;
        TopTools_IndexedMapOfShape faces;
        TopExp::MapShapes(shape, TopAbs_FACE, faces);
        for (const auto& mark : marks)
            if (mark.face <= faces.Extent()) marked_.emplace_back(faces(mark.face), mark);
    }

    void makeSolids()
    {
        for (std::size_t at = 0; at < frame_.solids.size(); ++at) {
            if (frame_.solids[at].spent || placedMesh(*frame_.solids[at].shape)) continue;
            try {
                bool cutsNothing = false;
                const TopoDS_Shape shape = shapeOf(*frame_.solids[at].shape, &cutsNothing);
                if (cutsNothing)
                    findings_.push_back(
                        warningAt(frame_.solids[at].sentence,
                                  fmt::format("a solid that is cut out of {} does not meet it", frame_.solids[at].name),
                                  "Look where it lies: nothing was cut there."));
                noteMarks(shape, marksOf(*frame_.solids[at].shape));
                int bodies = 0;
                for (TopExp_Explorer body(shape, TopAbs_SOLID); body.More(); body.Next()) {
                    bodies_.emplace_back(TopoDS::Solid(body.Current()), static_cast<int>(at));
                    builder_.AddArgument(body.Current());
                    ++bodies;
                }
                if (bodies == 0)
                    findings_.push_back(errorAt(frame_.solids[at].sentence,
                                                fmt::format("nothing is left of {}", frame_.solids[at].name),
                                                "Check what is cut out of it."));
            } catch (const Standard_Failure&) {
                findings_.push_back(errorAt(frame_.solids[at].sentence,
                                            fmt::format("{} could not be made", frame_.solids[at].name),
                                            "Its profile crosses itself, or two of its bodies only touch."));
            }
        }
    }

    bool onASolid(const Eigen::Vector3d& place) const
    {
        for (const auto& [body, solid] : bodies_)
            for (TopExp_Explorer face(body, TopAbs_FACE); face.More(); face.Next()) {
                const BRepExtrema_DistShapeShape distance(BRepBuilderAPI_MakeVertex(pointOf(place)).Vertex(),
                                                          face.Current());
                if (distance.IsDone() && distance.Value() <= sameInShapes) return true;
            }
        return false;
    }

    bool onASheet(const Eigen::Vector3d& place) const
    {
        for (const auto& [face, sheet] : arguments_) {
            const BRepExtrema_DistShapeShape distance(BRepBuilderAPI_MakeVertex(pointOf(place)).Vertex(), face);
            if (distance.IsDone() && distance.Value() <= sameInShapes) return true;
        }
        return false;
    }

    /// The points on a sheet, and the members that lie on one from end to end.
    void takeWhatLiesOnThem()
    {
        points_.resize(frame_.points.size());
        for (std::size_t at = 0; at < frame_.points.size(); ++at, StopScope::check())
            if (!frame_.points[at].made && (onASheet(frame_.points[at].place) || onASolid(frame_.points[at].place))) {
                points_[at] = BRepBuilderAPI_MakeVertex(pointOf(frame_.points[at].place)).Vertex();
                builder_.AddArgument(points_[at]);
            }
        members_.resize(frame_.members.size());
        for (std::size_t at = 0; at < frame_.members.size(); ++at) {
            const auto &from = points_[static_cast<std::size_t>(frame_.members[at].from)],
                       &to = points_[static_cast<std::size_t>(frame_.members[at].to)];
            if (from.IsNull() || to.IsNull()) continue;
            const Eigen::Vector3d a = frame_.points[static_cast<std::size_t>(frame_.members[at].from)].place,
                                  b = frame_.points[static_cast<std::size_t>(frame_.members[at].to)].place;
            bool lies = true;
            for (const double share : {0.13, 0.31, 0.5, 0.71, 0.89})
                lies = lies && onASheet(a + share * (b - a));
            if (!lies) continue;
            members_[at] = BRepBuilderAPI_MakeEdge(from, to).Edge();
            builder_.AddArgument(members_[at]);
        }
    }

    int vertexOf(const TopoDS_Shape& shape)
    {
        const int known = vertices_.Add(shape.Oriented(TopAbs_FORWARD)) - 1;
        if (known == static_cast<int>(joined_->vertices.size()))
            joined_->vertices.push_back(vectorOf(BRep_Tool::Pnt(TopoDS::Vertex(shape)).XYZ()));
        return known;
    }

    int edgeOf(const TopoDS_Edge& edge)
    {
        const int known = edges_.Add(edge.Oriented(TopAbs_FORWARD)) - 1;
        if (known < static_cast<int>(joined_->edges.size())) return known;
        const TopoDS_Edge forward = TopoDS::Edge(edges_(known + 1));
        const BRepAdaptor_Curve curve(forward);
        FaceEdge own{vertexOf(TopExp::FirstVertex(forward)), vertexOf(TopExp::LastVertex(forward)), 0.0, 0.0, {}, {}};
        own.length = GCPnts_AbscissaPoint::Length(curve);
        joined_->kernel_->edges.push_back(forward);
        const int parts = curve.GetType() == GeomAbs_Line ? 1 : 16;
        gp_Vec last;
        for (int part = 0; part <= parts; ++part) {
            gp_Pnt place;
            gp_Vec along;
            curve.D1(JoinedFaces::Kernel::parameter(forward, double(part) / parts), place, along);
            own.along.push_back(vectorOf(place.XYZ()));
            if (part > 0) own.turn += last.Angle(along);
            last = along;
        }
        joined_->edges.push_back(std::move(own));
        return known;
    }

    void gather()
    {
        std::map<int, std::string> taken; // faces by what first made them
        for (const auto& [argument, sheet] : arguments_)
            for (const auto& image : imagesOf(argument)) {
                const int known = faces_.Add(image.Oriented(TopAbs_FORWARD)) - 1;
                if (known < static_cast<int>(joined_->faces.size())) {
                    findings_.push_back(
                        errorAt(frame_.sheets[static_cast<std::size_t>(sheet)].sentence,
                                fmt::format("{} lies in {}: a part of both is the same",
                                            frame_.sheets[static_cast<std::size_t>(sheet)].name, taken[known]),
                                "Move one of them, or take the common part from one."));
                    continue;
                }
                taken[known] = frame_.sheets[static_cast<std::size_t>(sheet)].name;
                addFace(TopoDS::Face(faces_(known + 1)), sheet);
            }
        gatherSolids();
        for (const auto& [face, mark] : marked_)
            for (const auto& image : imagesOf(face))
                if (const int known = faces_.FindIndex(image.Oriented(TopAbs_FORWARD)) - 1; known >= 0) {
                    joined_->faces[static_cast<std::size_t>(known)].name = mark.name;
                    joined_->faces[static_cast<std::size_t>(known)].colour = mark.colour;
                }
        joined_->vertexOfPoint.assign(frame_.points.size(), -1);
        for (std::size_t at = 0; at < points_.size(); ++at)
            if (!points_[at].IsNull()) {
                const int vertex = vertices_.FindIndex(imagesOf(points_[at]).front().Oriented(TopAbs_FORWARD)) - 1;
                joined_->vertexOfPoint[at] = vertex;
            }
        joined_->edgesOfMember.resize(frame_.members.size());
        for (std::size_t at = 0; at < members_.size(); ++at)
            if (!members_[at].IsNull()) followMember(at);
    }

    /// A part that two bodies share stays with the first of them, where it is a hair of both; more is for the user to
    /// decide.
    void sayOverlap(const TopoDS_Shape& part, int solid, int first)
    {
        constexpr double hair = 0.01; // of the smaller body
        const Solid &own = frame_.solids[static_cast<std::size_t>(solid)],
                    &other = frame_.solids[static_cast<std::size_t>(first)];
        double smaller = 1e300;
        for (const auto& [body, index] : bodies_)
            if (index == solid || index == first) smaller = std::min(smaller, volumeOf(body));
        const double share = volumeOf(part) / smaller;
        if (share > hair) {
            Finding overlap = errorAt(own.sentence,
                                      fmt::format("{} overlaps {}: a part of both is the same, {} % of the smaller one",
                                                  own.name, other.name, rounded(100.0 * share, 2)),
                                      "Move one of them, cut one out of the other, or make them one.");
            const auto cut = [](const Solid& tool, const Solid& body) {
                return Cure{fmt::format("Give {} the part of both", tool.name),
                            {{"solid-cut",
                              {},
                              {},
                              {{"tool", tool.name}, {"body", body.name}, {"afterwards", "stays in place"}}}}};
            };
            overlap.cures = {cut(other, own),
                             cut(own, other),
                             {fmt::format("Make {} a part of {}", own.name, other.name),
                              {{"solid-union", {}, {}, {{"tool", own.name}, {"body", other.name}}}}}};
            findings_.push_back(std::move(overlap));
        } else
            findings_.push_back(
                noteAt(own.sentence, fmt::format("{} overlaps {} by {} % of the smaller one, which is {}'s alone",
                                                 own.name, other.name, rounded(100.0 * share, 2), other.name)));
    }

    void gatherSolids()
    {
        TopTools_IndexedMapOfShape bodies;
        std::vector<int> ownerOf;
        for (const auto& [body, solid] : bodies_)
            for (const auto& image : imagesOf(body)) {
                const int known = bodies.Add(image.Oriented(TopAbs_FORWARD)) - 1;
                const Solid& own = frame_.solids[static_cast<std::size_t>(solid)];
                if (known < static_cast<int>(ownerOf.size())) {
                    sayOverlap(image, solid, ownerOf[static_cast<std::size_t>(known)]);
                    continue;
                }
                ownerOf.push_back(solid);
                JoinedSolid joined{solid, {}, volumeOf(image)};
                for (TopExp_Explorer faces(image, TopAbs_FACE); faces.More(); faces.Next()) {
                    const int face = faces_.Add(faces.Current().Oriented(TopAbs_FORWARD)) - 1;
                    if (face == static_cast<int>(joined_->faces.size())) addFace(TopoDS::Face(faces_(face + 1)), -1);
                    if (joined_->faces[static_cast<std::size_t>(face)].loops.empty())
                        findings_.push_back(errorAt(
                            own.sentence, fmt::format("{} has a face that closes on itself both ways", own.name),
                            "Give its profile a corner more, so that the face is parted."));
                    joined.faces.push_back(face);
                    joined_->faces[static_cast<std::size_t>(face)].solids.push_back(solid);
                }
                joined_->solids.push_back(std::move(joined));
            }
    }

    void followMember(std::size_t at)
    {
        const Eigen::Vector3d from = frame_.points[static_cast<std::size_t>(frame_.members[at].from)].place,
                              to = frame_.points[static_cast<std::size_t>(frame_.members[at].to)].place;
        std::vector<std::pair<double, EdgeUse>> uses;
        for (const auto& image : imagesOf(members_[at])) {
            const int edge = edges_.FindIndex(image.Oriented(TopAbs_FORWARD)) - 1;
            if (edge < 0) return; // not on a face after all
            const auto& own = joined_->edges[static_cast<std::size_t>(edge)];
            const double first = (own.along.front() - from).dot(to - from),
                         last = (own.along.back() - from).dot(to - from);
            uses.emplace_back(std::min(first, last), EdgeUse{edge, last < first});
        }
        std::sort(uses.begin(), uses.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
        for (const auto& [place, use] : uses)
            joined_->edgesOfMember[at].push_back(use);
    }

    /// Where a point lies on a surface; within the turn that a round face covers.
    static Eigen::Vector2d parametersOf(const BRepAdaptor_Surface& surface, const gp_Pnt& point)
    {
        // The surface itself is where the face was drawn; the face may have been moved since.
        const GeomAPI_ProjectPointOnSurf nearest(point.Transformed(surface.Trsf().Inverted()),
                                                 surface.Surface().Surface());
        double u = 0.0, v = 0.0;
        nearest.LowerDistanceParameters(u, v);
        while (surface.IsUPeriodic() && u < surface.FirstUParameter() - 1e-9)
            u += surface.UPeriod();
        while (surface.IsUPeriodic() && u > surface.LastUParameter() + 1e-9)
            u -= surface.UPeriod();
        while (surface.IsVPeriodic() && v < surface.FirstVParameter() - 1e-9)
            v += surface.VPeriod();
        while (surface.IsVPeriodic() && v > surface.LastVParameter() + 1e-9)
            v -= surface.VPeriod();
        return {u, v};
    }

    void addFace(const TopoDS_Face& face, int sheet)
    {
        StopScope::check();
        JoinedFaces::Kernel::Face kernel{face, BRepAdaptor_Surface(face), {1.0, 1.0}, {}, {}, {}};
        JoinedFace own{sheet, {}, {}, {}, 0.0};
        GProp_GProps properties;
        // A line that is none of the surface's own parameters wants a finer rule.
        if (BRepAdaptor_Surface(face).GetType() == GeomAbs_Plane)
            BRepGProp::SurfaceProperties(face, properties);
        else
            BRepGProp::SurfaceProperties(face, properties, 1e-9);
        own.area = properties.Mass();
        const auto& surface = kernel.surface;
        gp_Pnt middle;
        gp_Vec byU, byV;
        surface.D1((surface.FirstUParameter() + surface.LastUParameter()) / 2.0,
                   (surface.FirstVParameter() + surface.LastVParameter()) / 2.0, middle, byU, byV);
        kernel.scale = {byU.Magnitude(), byV.Magnitude()};
        if (surface.GetType() == GeomAbs_Plane) {
            const gp_Pln plane = surface.Plane();
            own.plane = JoinedFace::Plane{vectorOf(plane.Location().XYZ()), vectorOf(plane.Axis().Direction().XYZ())};
        }
        if (surface.GetType() == GeomAbs_Cylinder) own.radius = surface.Cylinder().Radius();
        findPole(face, kernel);
        const int index = static_cast<int>(joined_->faces.size());
        const auto useOf = [&](const TopoDS_Edge& edge) {
            JoinedFaces::Kernel::Use use{edge, {}, 0.0, 0.0};
            use.curve = BRep_Tool::CurveOnSurface(edge, face, use.first, use.last);
            return use;
        };
        const auto note = [&](int edge) {
            auto& faces = joined_->edges[static_cast<std::size_t>(edge)].faces;
            faces.push_back(index);
        };
        const TopoDS_Wire outer = BRepTools::OuterWire(face);
        for (TopExp_Explorer wires(face, TopAbs_WIRE); wires.More(); wires.Next()) {
            const TopoDS_Wire wire = TopoDS::Wire(wires.Current());
            std::vector<EdgeUse> loop;
            std::vector<JoinedFaces::Kernel::Use> uses;
            for (BRepTools_WireExplorer at(wire, face); at.More(); at.Next()) {
                const TopoDS_Edge& edge = at.Current();
                if (edge.Orientation() == TopAbs_INTERNAL || BRep_Tool::Degenerated(edge)) continue;
                if (kernel.pole != 0 && BRep_Tool::IsClosed(edge, face)) continue; // the seam
                loop.push_back({edgeOf(edge), edge.Orientation() == TopAbs_REVERSED});
                uses.push_back(useOf(edge));
                note(loop.back().edge);
            }
            if (loop.empty()) continue;
            const bool first = wire.IsSame(outer);
            own.loops.insert(first ? own.loops.begin() : own.loops.end(), loop);
            kernel.loops.insert(first ? kernel.loops.begin() : kernel.loops.end(), uses);
        }
        for (TopExp_Explorer inner(face, TopAbs_EDGE); inner.More(); inner.Next())
            if (const TopoDS_Edge edge = TopoDS::Edge(inner.Current()); edge.Orientation() == TopAbs_INTERNAL) {
                own.innerEdges.push_back(edgeOf(edge));
                kernel.inner.push_back(useOf(edge));
                note(own.innerEdges.back());
            }
        for (TopExp_Explorer inner(face, TopAbs_VERTEX, TopAbs_EDGE); inner.More(); inner.Next()) {
            own.innerVertices.push_back(vertexOf(inner.Current()));
            kernel.innerVertices.push_back(parametersOf(surface, BRep_Tool::Pnt(TopoDS::Vertex(inner.Current()))));
        }
        joined_->faces.push_back(std::move(own));
        joined_->kernel_->faces.push_back(std::move(kernel));
        orient(index);
    }

    /// A face that closes round a pole: a whole turn of a surface with one degenerate edge.
    static void findPole(const TopoDS_Face& face, JoinedFaces::Kernel::Face& kernel)
    {
        int poles = 0;
        for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(edges.Current());
            if (!BRep_Tool::Degenerated(edge)) continue;
            double first = 0.0, last = 0.0;
            const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, first, last);
            if (curve.IsNull()) continue;
            ++poles;
            kernel.poleAt = curve->Value((first + last) / 2.0).Y();
        }
        const auto& surface = kernel.surface;
        const bool whole = surface.LastUParameter() - surface.FirstUParameter() > 2.0 * std::numbers::pi - 1e-9;
        if (poles != 1 || !whole) return;
        kernel.pole = kernel.poleAt > (surface.FirstVParameter() + surface.LastVParameter()) / 2.0 ? 1 : -1;
    }

    /// Outer loops counter-clockwise in the face's own plane, holes clockwise.
    void orient(int index)
    {
        auto& face = joined_->faces[static_cast<std::size_t>(index)];
        for (std::size_t loop = 0; loop < face.loops.size(); ++loop) {
            double twice = 0.0;
            std::vector<Eigen::Vector2d> places;
            for (std::size_t use = 0; use < face.loops[loop].size(); ++use)
                for (int part = 0; part < 8; ++part)
                    places.push_back(joined_->onFace(index, static_cast<int>(loop), static_cast<int>(use), part / 8.0));
            for (std::size_t at = 0; at < places.size(); ++at) {
                const auto &a = places[at], &b = places[(at + 1) % places.size()];
                twice += a.x() * b.y() - a.y() * b.x();
            }
            if ((twice > 0.0) == (loop == 0)) continue;
            std::reverse(face.loops[loop].begin(), face.loops[loop].end());
            auto& uses = joined_->kernel_->faces[static_cast<std::size_t>(index)].loops[loop];
            std::reverse(uses.begin(), uses.end());
            for (auto& use : face.loops[loop])
                use.backwards = !use.backwards;
        }
    }

    const Frame& frame_;
    Findings& findings_;
    std::shared_ptr<JoinedFaces> joined_;
    BOPAlgo_Builder builder_;
    bool fused_ = false;
    TopoDS_Compound all_;
    std::vector<std::pair<TopoDS_Face, int>> arguments_;             ///< with their sheet
    std::vector<std::pair<TopoDS_Solid, int>> bodies_;               ///< with their solid
    std::vector<std::pair<TopoDS_Shape, KernelShape::Mark>> marked_; ///< faces
    std::vector<TopoDS_Vertex> points_;                              ///< null: on no sheet
    std::vector<TopoDS_Edge> members_;                               ///< null: along no sheet
    TopTools_IndexedMapOfShape vertices_, edges_, faces_;
};

std::shared_ptr<const JoinedFaces> JoinedFaces::of(const Frame& frame, Findings& findings)
{
    // An edit of anything but the shape needs the same faces again.
    static KeptAnswers<std::shared_ptr<const JoinedFaces>> lately(6, [](const std::shared_ptr<const JoinedFaces>& one) {
        return 0.01 * double(one->faces.size() + one->edges.size()); // with the kernel's surfaces and curves
    });
    try {
        auto key = shapeKey(frame);
        if (auto known = lately.find(key)) return *known;
        const std::size_t before = findings.size();
        auto joined = withGiven(FaceJoiner(frame, findings).joined(), frame);
        // Findings name sentences, which the key does not know: what has some is joined anew.
        if (findings.size() == before) lately.keep(std::move(key), joined);
        return joined;
    } catch (const Standard_Failure& failure) {
        findings.push_back(errorAt({}, fmt::format("the sheets could not be joined: {}", failure.GetMessageString())));
        return nullptr;
    }
}

} // namespace undisona
