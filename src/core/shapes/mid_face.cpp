#include "core/shapes/mid_face.hpp"

#include "core/shapes/body_faces.hpp"
#include "core/shapes/kept_answers.hpp"
#include "core/shapes/shape_key.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_MakeOffsetShape.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <gp_Lin.hxx>

#include <fmt/format.h>

#include <numeric>

namespace undisona {

namespace {

constexpr double even = 0.005;     // of the thickness
constexpr double apart = 0.01;     // of the volume that may be in none of the two sides
constexpr double leastReach = 6.0; // of a side, the root of its area, in thicknesses

/// The two sides of a body that is a sheet.
struct Sides {
    double thickness = 0.0;
    std::vector<int> larger, smaller; ///< faces
    std::string why;                  ///< there are none
};

class SideFinder {
public:
    explicit SideFinder(const TopoDS_Shape& body) : faces_(body)
    {
        GProp_GProps properties;
        BRepGProp::VolumeProperties(body, properties);
        volume_ = properties.Mass();
        through_.Load(body, 1e-9);
    }

    Sides found()
    {
        Sides sides;
        sides.thickness = thicknessOfLargest();
        if (!(sides.thickness > 0.0)) return none("its largest face has nothing opposite");
        const double needed = 2.0 * volume_ / sides.thickness; // area of both sides
        if (std::sqrt(needed / 2.0) / sides.thickness < leastReach) return none("it is no thin one");
        std::vector<int> order(static_cast<std::size_t>(faces_.count()));
        std::iota(order.begin(), order.end(), 0);
        std::sort(order.begin(), order.end(), [&](int a, int b) { return faces_.area(a) > faces_.area(b); });
        double area = 0.0, left = 0.0; // of the sides, and of what has not been looked at
        for (const int face : order)
            left += faces_.area(face);
        const auto otherwise = [&] {
            return none(fmt::format("not all of it is {:.3g} mm thick, as its largest face is", 1e3 * sides.thickness));
        };
        std::set<int> skin;
        for (const int face : order) {
            if (area + left < (1.0 - apart) * needed) return otherwise();
            left -= faces_.area(face);
            if (!isAsThick(face, sides.thickness)) continue;
            skin.insert(face);
            area += faces_.area(face);
        }
        if (std::abs(area / needed - 1.0) > apart) return otherwise();
        auto parts = faces_.connected(skin);
        if (parts.size() != 2) return none(fmt::format("its faces are {} sides rather than two", parts.size()));
        const auto areaOf = [&](const std::vector<int>& part) {
            double sum = 0.0;
            for (const int face : part)
                sum += faces_.area(face);
            return sum;
        };
        if (areaOf(parts[0]) < areaOf(parts[1])) std::swap(parts[0], parts[1]);
        sides.larger = std::move(parts[0]);
        sides.smaller = std::move(parts[1]);
        return sides;
    }

    double volume() const { return volume_; }
    const BodyFaces& faces() const { return faces_; }

private:
    static Sides none(std::string why) { return {0.0, {}, {}, std::move(why)}; }

    struct Opposite {
        double distance;
        bool parallel; ///< the face there
    };
    /// From a place on a face straight through the body.
    std::optional<Opposite> opposite(const FaceSample& from)
    {
        const gp_Dir inward = from.outward.Reversed();
        through_.Perform(gp_Lin(from.place, inward), 1e-6, 1e3);
        std::optional<Opposite> nearest;
        for (int at = 1; at <= through_.NbPnt(); ++at) {
            const double distance = through_.WParameter(at);
            if (nearest && distance >= nearest->distance) continue;
            const auto there =
                normalAt(TopoDS::Face(through_.Face(at)), through_.UParameter(at), through_.VParameter(at));
            nearest = {distance, there && there->IsParallel(inward, 0.02)};
        }
        return nearest;
    }
    static std::optional<gp_Dir> normalAt(const TopoDS_Face& face, double u, double v)
    {
        gp_Pnt place;
        gp_Vec byU, byV;
        BRepAdaptor_Surface(face, false).D1(u, v, place, byU, byV);
        const gp_Vec normal = byU.Crossed(byV);
        if (normal.Magnitude() < 1e-14) return std::nullopt;
        return gp_Dir(normal);
    }

    double thicknessOfLargest()
    {
        int largest = 0;
        for (int face = 1; face < faces_.count(); ++face)
            if (faces_.area(face) > faces_.area(largest)) largest = face;
        std::vector<double> distances;
        for (const auto& sample : faces_.samples(largest))
            if (const auto other = opposite(sample)) distances.push_back(other->distance);
        if (distances.empty()) return 0.0;
        std::sort(distances.begin(), distances.end());
        return distances[distances.size() / 2];
    }

    bool isAsThick(int face, double thickness)
    {
        const auto samples = faces_.samples(face);
        for (const auto& sample : samples) {
            const auto other = opposite(sample);
            if (!other || !other->parallel || std::abs(other->distance / thickness - 1.0) > even) return false;
        }
        return !samples.empty();
    }

    BodyFaces faces_;
    IntCurvesFace_ShapeIntersector through_;
    double volume_ = 0.0;
};

/// The faces of a side as a shell of their own, moved into the body by half the thickness; null where it fails.
TopoDS_Shape halfWay(const BodyFaces& faces, const std::vector<int>& side, double thickness, double volume)
{
    TopoDS_Shell shell;
    BRep_Builder builder;
    builder.MakeShell(shell);
    bool smooth = true;
    const std::set<int> own(side.begin(), side.end());
    for (const int face : side) {
        builder.Add(shell, faces.face(face));
        for (const auto& edge : faces.edges(face)) {
            const auto both = faces.beside(edge);
            const bool inside = std::all_of(both.begin(), both.end(), [&](int other) { return own.contains(other); });
            if (inside && !faces.goesOnSmoothly(edge)) smooth = false;
        }
    }
    const auto isGood = [&](const TopoDS_Shape& made) {
        if (made.IsNull() || !BRepCheck_Analyzer(made).IsValid()) return false;
        GProp_GProps properties;
        BRepGProp::SurfaceProperties(made, properties);
        return std::abs(properties.Mass() * thickness / volume - 1.0) < apart;
    };
    for (const bool simple : {true, false}) {
        if (simple && !smooth) continue;
        try {
            BRepOffsetAPI_MakeOffsetShape offset;
            if (simple)
                offset.PerformBySimple(shell, -thickness / 2.0);
            else
                offset.PerformByJoin(shell, -thickness / 2.0, sameInShapes, BRepOffset_Skin, false, false,
                                     GeomAbs_Intersection);
            if (offset.IsDone() && isGood(offset.Shape())) return offset.Shape();
        } catch (const Standard_Failure&) { // the other way, or none
        }
    }
    return {};
}

MidFace found(const SolidShape& shape)
{
    MidFace mid;
    try {
        const TopoDS_Shape body = shapeOf(shape);
        SideFinder finder(body);
        const Sides sides = finder.found();
        mid.why = sides.why;
        if (!mid.why.empty()) return mid;
        for (const auto* side : {&sides.larger, &sides.smaller}) {
            const bool turned = side == &sides.smaller; // the same face from its other side
            const TopoDS_Shape made = halfWay(finder.faces(), *side, sides.thickness, finder.volume());
            if (made.IsNull()) continue;
            mid.thickness = sides.thickness;
            mid.faces = KeptShape{std::make_shared<const KernelShape>(KernelShape{turned ? made.Reversed() : made}),
                                  newStamp(), 1.0};
            return mid;
        }
        mid.why = "the face half way between its sides could not be made";
    } catch (const Standard_Failure& failure) {
        mid.why = fmt::format("its sides could not be found: {}", failure.GetMessageString());
    }
    return mid;
}

} // namespace

EvenThinness evenThinness(const SolidShape& shape)
{
    static KeptAnswers<EvenThinness> lately(64);
    auto key = shapeKey(shape);
    if (const auto known = lately.find(key)) return *known;
    EvenThinness answer;
    try {
        constexpr int most = 300; // every face is looked through for every place of another
        SideFinder finder(shapeOf(shape));
        if (finder.faces().count() > most) {
            answer.why = "it has very many faces, and was not looked at";
        } else {
            const Sides sides = finder.found();
            answer = {sides.why.empty() ? sides.thickness : 0.0, sides.why};
        }
    } catch (const Standard_Failure& failure) {
        answer.why = failure.GetMessageString();
    }
    lately.keep(std::move(key), answer);
    return answer;
}

MidFace midFaceOf(const SolidShape& shape)
{
    static KeptAnswers<MidFace> lately(32);
    auto key = shapeKey(shape);
    if (const auto known = lately.find(key)) return *known;
    const MidFace answer = found(shape);
    lately.keep(std::move(key), answer);
    return answer;
}

} // namespace undisona
