#include "core/shapes/small_features.hpp"

#include "core/shapes/body_faces.hpp"
#include "core/shapes/kept_answers.hpp"
#include "core/shapes/shape_key.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include <map>

namespace undisona {

namespace {

/// A feature and its faces.
struct Found {
    SmallFeature feature;
    std::set<int> faces;
};

class FeatureFinder {
public:
    FeatureFinder(const TopoDS_Shape& body, double below) : faces_(body), below_(below)
    {
        for (int face = 0; face < faces_.count(); ++face) {
            surfaces_.emplace_back(faces_.face(face));
            bores_.push_back(boreOf(face));
        }
    }

    const BodyFaces& faces() const { return faces_; }

    std::vector<Found> found()
    {
        findMarks();
        findHoles();
        findRounds();
        return std::move(found_);
    }

private:
    const BRepAdaptor_Surface& surface(int face) const { return surfaces_[static_cast<std::size_t>(face)]; }
    const std::optional<gp_Cylinder>& bore(int face) const { return bores_[static_cast<std::size_t>(face)]; }

    /// A cylinder from whose axis the material lies outward.
    std::optional<gp_Cylinder> boreOf(int face) const
    {
        const auto& own = surface(face);
        if (own.GetType() != GeomAbs_Cylinder) return std::nullopt;
        const auto sample = faces_.someSample(face);
        if (!sample) return std::nullopt;
        const gp_Cylinder cylinder = own.Cylinder();
        const gp_Vec fromAxis(cylinder.Axis().Location(), sample->place);
        const gp_Vec along(cylinder.Axis().Direction());
        const gp_Vec radial = fromAxis - along * fromAxis.Dot(along);
        if (radial.Dot(gp_Vec(sample->outward)) >= 0.0) return std::nullopt;
        return cylinder;
    }
    static bool onOneAxis(const gp_Cylinder& one, const gp_Cylinder& other)
    {
        return one.Axis().IsCoaxial(other.Axis(), 1e-4, sameInShapes) ||
               one.Axis().IsCoaxial(other.Axis().Reversed(), 1e-4, sameInShapes);
    }

    double extentOf(const std::set<int>& faces) const
    {
        Bnd_Box box;
        for (const int face : faces)
            BRepBndLib::AddOptimal(faces_.face(face), box, false, false);
        return box.IsVoid() ? 0.0 : std::sqrt(box.SquareExtent());
    }
    bool isTaken(const std::set<int>& faces) const
    {
        return std::any_of(found_.begin(), found_.end(), [&](const Found& other) {
            return std::any_of(faces.begin(), faces.end(), [&](int face) { return other.faces.contains(face); });
        });
    }
    void add(SmallFeature::Kind kind, double size, std::set<int> faces)
    {
        GProp_GProps all;
        for (const int face : faces) {
            GProp_GProps own;
            BRepGProp::SurfaceProperties(faces_.face(face), own);
            all.Add(own);
        }
        found_.push_back({{kind, size, vectorOf(all.CentreOfMass().XYZ())}, std::move(faces)});
    }

    /// What lies within an inner outline of a face and comes back to that face nowhere else.
    void findMarks()
    {
        for (int face = 0; face < faces_.count(); ++face) {
            const TopoDS_Face own = faces_.face(face);
            const TopoDS_Wire outer = BRepTools::OuterWire(own);
            for (TopExp_Explorer wires(own, TopAbs_WIRE); wires.More(); wires.Next()) {
                if (wires.Current().IsSame(outer)) continue;
                std::set<int> within;
                std::vector<int> next;
                TopTools_IndexedMapOfShape lines;
                TopExp::MapShapes(wires.Current(), TopAbs_EDGE, lines);
                for (int at = 1; at <= lines.Extent(); ++at)
                    for (const int other : faces_.beside(TopoDS::Edge(lines(at))))
                        if (other != face && within.insert(other).second) next.push_back(other);
                bool closed = !within.empty();
                while (!next.empty() && closed) {
                    const int at = next.back();
                    next.pop_back();
                    for (const auto& edge : faces_.edges(at))
                        for (const int other : faces_.beside(edge)) {
                            if (other == face && !lines.Contains(edge)) closed = false;
                            if (other != face && within.insert(other).second) next.push_back(other);
                        }
                    if (within.size() > 200) closed = false;
                }
                if (!closed || isTaken(within)) continue;
                // A bore with a bottom goes by its width, not by its depth.
                double width = 0.0;
                bool round = true;
                for (const int at : within)
                    if (const auto& cylinder = bore(at))
                        width = std::max(width, 2.0 * cylinder->Radius());
                    else if (const auto kind = surface(at).GetType(); kind != GeomAbs_Plane && kind != GeomAbs_Cone &&
                                                                      kind != GeomAbs_Sphere && kind != GeomAbs_Torus)
                        round = false;
                const bool hole = width > 0.0 && round && isOneBore(within);
                const double size = hole ? width : extentOf(within);
                if (size <= below_)
                    add(hole ? SmallFeature::Kind::hole : SmallFeature::Kind::mark, size, std::move(within));
            }
        }
    }
    bool isOneBore(const std::set<int>& faces) const
    {
        std::optional<gp_Cylinder> first;
        for (const int face : faces) {
            if (surface(face).GetType() == GeomAbs_Cylinder && !bore(face)) return false;
            const auto& cylinder = bore(face);
            if (!cylinder) continue;
            if (!first) first = cylinder;
            if (!onOneAxis(*first, *cylinder)) return false;
        }
        return first.has_value();
    }

    /// From one face of the body to another.
    void findHoles()
    {
        for (int face = 0; face < faces_.count(); ++face) {
            const auto& own = bore(face);
            if (!own || 2.0 * own->Radius() > below_ || isTaken({face})) continue;
            std::set<int> group;
            double turn = 0.0;
            for (int other = 0; other < faces_.count(); ++other) {
                const auto& cylinder = bore(other);
                if (!cylinder || !onOneAxis(*own, *cylinder) || std::abs(cylinder->Radius() - own->Radius()) > 1e-7)
                    continue;
                group.insert(other);
            }
            for (const auto& part : faces_.connected(group)) {
                if (std::find(part.begin(), part.end(), face) == part.end()) continue;
                group = {part.begin(), part.end()};
                break;
            }
            for (const int part : group)
                turn += surface(part).LastUParameter() - surface(part).FirstUParameter();
            if (turn < 2.0 * std::numbers::pi - 1e-3) continue; // a part of a bore is a rounded corner
            addSinks(group, *own);
            if (!isTaken(group)) add(SmallFeature::Kind::hole, 2.0 * own->Radius(), std::move(group));
        }
    }
    /// The small cones at its ends go with a bore.
    void addSinks(std::set<int>& group, const gp_Cylinder& bore) const
    {
        for (const int face : std::set<int>(group))
            for (const int other : faces_.beside(face)) {
                if (surface(other).GetType() != GeomAbs_Cone) continue;
                const auto axis = surface(other).Cone().Axis();
                const bool same = axis.IsCoaxial(bore.Axis(), 1e-4, sameInShapes) ||
                                  axis.IsCoaxial(bore.Axis().Reversed(), 1e-4, sameInShapes);
                if (same && extentOf({other}) < 1.5 * std::sqrt(2.0) * below_) group.insert(other);
            }
    }

    std::optional<double> radiusOfRound(int face) const
    {
        const auto& own = surface(face);
        switch (own.GetType()) {
        case GeomAbs_Cylinder:
            return own.Cylinder().Radius();
        case GeomAbs_Torus:
            return own.Torus().MinorRadius();
        case GeomAbs_Sphere:
            return own.Sphere().Radius();
        default:
            return std::nullopt;
        }
    }
    void findRounds()
    {
        std::set<int> round;
        for (int face = 0; face < faces_.count(); ++face) {
            const auto radius = radiusOfRound(face);
            if (!radius || *radius > below_ || isTaken({face})) continue;
            int smooth = 0;
            for (const auto& edge : faces_.edges(face))
                if (faces_.goesOnSmoothly(edge)) ++smooth;
            if (smooth >= 2) round.insert(face);
        }
        for (const auto& part : faces_.connected(round)) {
            double largest = 0.0;
            for (const int face : part)
                largest = std::max(largest, *radiusOfRound(face));
            add(SmallFeature::Kind::round, largest, {part.begin(), part.end()});
        }
    }

    BodyFaces faces_;
    double below_;
    std::vector<BRepAdaptor_Surface> surfaces_;     ///< by face
    std::vector<std::optional<gp_Cylinder>> bores_; ///< by face, where it is one
    std::vector<Found> found_;
};

double volumeOf(const TopoDS_Shape& shape)
{
    GProp_GProps properties;
    BRepGProp::VolumeProperties(shape, properties);
    return properties.Mass();
}

/// Takes features away and says which of them are gone; none where the kernel gives no sound body.
TopoDS_Shape taken(const TopoDS_Shape& body, const BodyFaces& faces, const std::vector<const Found*>& features,
                   std::vector<const Found*>& gone)
{
    gone.clear();
    try {
        BRepAlgoAPI_Defeaturing without;
        without.SetShape(body);
        for (const auto* feature : features)
            for (const int face : feature->faces)
                without.AddFaceToRemove(faces.face(face));
        without.SetToFillHistory(true);
        without.Build();
        if (!without.IsDone()) return {};
        TopoDS_Shape made = without.Shape();
        if (made.ShapeType() != TopAbs_SOLID) { // one in a compound
            TopExp_Explorer solids(made, TopAbs_SOLID);
            if (!solids.More()) return {};
            made = solids.Current();
            solids.Next();
            if (solids.More()) return {};
        }
        if (!BRepCheck_Analyzer(made).IsValid() || std::abs(volumeOf(made) / volumeOf(body) - 1.0) > 0.5) return {};
        for (const auto* feature : features)
            if (std::all_of(feature->faces.begin(), feature->faces.end(),
                            [&](int face) { return without.IsDeleted(faces.face(face)); }))
                gone.push_back(feature);
        return gone.empty() ? TopoDS_Shape() : made;
    } catch (const Standard_Failure&) {
        return {};
    }
}

WithoutFeatures found(const SolidShape& shape, const SmallFeatureRule& rule)
{
    WithoutFeatures answer;
    const TopoDS_Shape body = shapeOf(shape);
    FeatureFinder finder(body, rule.below);
    std::vector<Found> all = finder.found();
    std::erase_if(all, [&](const Found& one) {
        return (one.feature.kind == SmallFeature::Kind::round && !rule.rounds) ||
               (one.feature.kind == SmallFeature::Kind::hole && !rule.holes) ||
               (one.feature.kind == SmallFeature::Kind::mark && !rule.marks);
    });
    for (const auto& place : rule.keep) {
        const auto nearest = std::min_element(all.begin(), all.end(), [&](const Found& a, const Found& b) {
            return (a.feature.place - place).squaredNorm() < (b.feature.place - place).squaredNorm();
        });
        if (nearest == all.end()) break;
        answer.asked.push_back(nearest->feature);
        all.erase(nearest);
    }
    if (all.empty()) return answer;
    std::vector<const Found*> features, gone;
    for (const auto& one : all)
        features.push_back(&one);
    TopoDS_Shape made = taken(body, finder.faces(), features, gone);
    if (made.IsNull() &&
        features.size() > 1) { // one of them spoils it: each that can go by itself, then these together
        std::vector<const Found*> able, one;
        for (const auto* feature : features)
            if (!taken(body, finder.faces(), {feature}, one).IsNull()) able.push_back(feature);
        made = able.empty() ? TopoDS_Shape() : taken(body, finder.faces(), able, gone);
        if (made.IsNull()) gone.clear();
    }
    for (const auto* feature : features)
        (std::find(gone.begin(), gone.end(), feature) != gone.end() ? answer.gone : answer.stayed)
            .push_back(feature->feature);
    for (auto* list : {&answer.gone, &answer.stayed})
        std::stable_sort(list->begin(), list->end(), [](const auto& a, const auto& b) { return a.size > b.size; });
    if (!made.IsNull())
        answer.shape = KeptShape{std::make_shared<const KernelShape>(KernelShape{unified(made)}), newStamp(), 1.0};
    return answer;
}

} // namespace

WithoutFeatures withoutSmall(const SolidShape& shape, const SmallFeatureRule& rule)
{
    static KeptAnswers<WithoutFeatures> lately(32);
    auto key = shapeKey(shape);
    for (const double value : {rule.rounds ? 1.0 : 0.0, rule.holes ? 1.0 : 0.0, rule.marks ? 1.0 : 0.0, rule.below})
        key.push_back(value);
    for (const auto& place : rule.keep)
        key.insert(key.end(), place.data(), place.data() + 3);
    if (const auto known = lately.find(key)) return *known;
    WithoutFeatures answer;
    try {
        answer = found(shape, rule);
    } catch (const Standard_Failure&) { // a body that the kernel cannot read stays as it is
    }
    lately.keep(std::move(key), answer);
    return answer;
}

} // namespace undisona
