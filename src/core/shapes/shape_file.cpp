// Shapes from STEP and BREP files and back.
#include "core/shapes/shape_file.hpp"

#include "core/base/helper_process.hpp"
#include "core/shapes/frame.hpp"
#include "core/shapes/kernel_shapes.hpp"
#include "core/base/lately_read.hpp"
#include "core/shapes/shape_mender.hpp"

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BinTools.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <IFSelect_ReturnStatus.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <Standard_Failure.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <gp_Trsf.hxx>

#include <fmt/format.h>

#include <filesystem>
#include <fstream>
#include <map>
#include <sstream>

#include <unistd.h>

namespace undisona {

namespace {

/// What the kernel would print goes into findings.
void silence()
{
    for (const auto& printer : Message::DefaultMessenger()->Printers())
        printer->SetTraceLevel(Message_Fail);
}

/// A folder for one purpose under a name that nobody can know before; gone with all in it at the end.
class OwnFolder {
public:
    OwnFolder()
    {
        std::error_code failed;
        std::string name = (std::filesystem::temp_directory_path(failed) / "undisona-XXXXXX").string();
        if (mkdtemp(name.data())) path_ = name;
    }
    ~OwnFolder()
    {
        std::error_code failed;
        if (!path_.empty()) std::filesystem::remove_all(path_, failed);
    }
    OwnFolder(const OwnFolder&) = delete;
    OwnFolder& operator=(const OwnFolder&) = delete;
    const std::filesystem::path& path() const { return path_; }

private:
    std::filesystem::path path_;
};

/// While it lives, the kernel does not look for crossing lines as it takes a STEP file over, which takes a time that
/// grows with the cube of an outline's edges; what is faulty is mended afterwards. It reads such wishes from a file.
class QuickRepair {
public:
    QuickRepair()
    {
        if (folder_.path().empty()) return; // all works without it too
        std::ofstream(folder_.path() / "STEP") << "FromSTEP.exec.op: FixShape\n"
                                                  "FromSTEP.FixShape.Tolerance3d: &Runtime.Tolerance\n"
                                                  "FromSTEP.FixShape.MaxTolerance3d: &Runtime.MaxTolerance\n"
                                                  "FromSTEP.FixShape.FixSelfIntersectionMode: 0\n"
                                                  "FromSTEP.FixShape.FixIntersectingEdgesMode: 0\n"
                                                  "FromSTEP.FixShape.FixSelfIntersectingEdgeMode: 0\n"
                                                  "FromSTEP.FixShape.FixSameParameterMode: 0\n"
                                                  "FromSTEP.FixShape.CreateOpenSolidMode: 0\n";
        setenv("CSF_STEPDefaults", folder_.path().c_str(), 1);
    }
    ~QuickRepair() { unsetenv("CSF_STEPDefaults"); }
    QuickRepair(const QuickRepair&) = delete;
    QuickRepair& operator=(const QuickRepair&) = delete;

private:
    OwnFolder folder_;
};

class FileReader {
public:
    explicit FileReader(const std::string& path) : path_(path) {}

    std::shared_ptr<ShapeFile> read()
    {
        silence();
        const std::string ending = lower(std::filesystem::path(path_).extension().string());
        try {
            if (ending == ".brep" || ending == ".brp")
                readBrep();
            else if (ending == ".step" || ending == ".stp" || ending == ".p21")
                readStep();
            else
                refuse("this is no STEP or BREP file by its name", "Its name ends in .step, .stp or .brep.");
        } catch (const Standard_Failure& failure) {
            refuse(fmt::format("the file could not be read: {}", failure.GetMessageString()),
                   "Write it anew where it was drawn.");
        }
        if (file_->problem.empty() && file_->bodies.empty())
            refuse("the file holds no body and no face",
                   "Write the shapes themselves, not their picture or their wires.");
        return file_;
    }

private:
    static std::string lower(std::string text)
    {
        std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return std::tolower(c); });
        return text;
    }

    void refuse(std::string what, std::string remedy)
    {
        file_->problem = std::move(what);
        file_->remedy = std::move(remedy);
        file_->bodies.clear();
    }

    /// The kernel's own reader trusts its files: they begin with the version and end with the root's number.
    bool isWholeBrep()
    {
        std::ifstream stream(path_, std::ios::binary | std::ios::ate);
        const auto size = static_cast<long>(stream.tellg());
        std::string head(static_cast<std::size_t>(std::clamp(size, 0L, 300L)), '\0'), tail = head;
        stream.seekg(0);
        stream.read(head.data(), static_cast<long>(head.size()));
        stream.seekg(size - static_cast<long>(tail.size()));
        stream.read(tail.data(), static_cast<long>(tail.size()));
        const auto end = tail.find_last_not_of(" \r\n\t");
        const auto last = end == std::string::npos ? end : tail.find_last_of("\r\n", end);
        const bool rooted = last != std::string::npos && (tail[last + 1] == '+' || tail[last + 1] == '-') &&
                            tail.find_first_not_of("+-0123456789 ", last + 1) >= end;
        if (head.find("CASCADE Topology") != std::string::npos && rooted) return true;
        refuse("the file is empty, cut short or no BREP file", "Write it anew where it was drawn.");
        return false;
    }

    /// Whether the text begins and ends as such a file does.
    bool isWhole()
    {
        std::ifstream stream(path_, std::ios::binary | std::ios::ate);
        const auto size = static_cast<long>(stream.tellg());
        if (size <= 0) return refuse("the file is empty", "Write it anew where it was drawn."), false;
        const long part = std::min(size, 2000L);
        std::string head(static_cast<std::size_t>(part), '\0'), tail = head;
        stream.seekg(0);
        stream.read(head.data(), part);
        stream.seekg(size - part);
        stream.read(tail.data(), part);
        if (head.find("ISO-10303-21") == std::string::npos)
            return refuse("this is no STEP file: it does not begin as one",
                          "Write it as STEP (AP203, AP214 or AP242)."),
                   false;
        if (tail.find("END-ISO-10303-21") == std::string::npos)
            return refuse("the file is cut short: its end is missing", "Copy or write it anew."), false;
        return true;
    }

    void readStep()
    {
        if (!isWhole()) return;
        const QuickRepair quick;
        STEPCAFControl_Reader reader; // before what it reads by
        Interface_Static::SetCVal("xstep.cascade.unit", "MM");
        Interface_Static::SetIVal("read.stepcaf.subshapes.name", 1);
        reader.SetNameMode(true);
        reader.SetColorMode(true);
        reader.SetLayerMode(false);
        if (reader.ReadFile(path_.c_str()) != IFSelect_RetDone)
            return refuse("the file breaks the rules of STEP", "Write it anew where it was drawn.");
        Handle(TDocStd_Document) document = new TDocStd_Document("BinXCAF");
        if (!reader.Transfer(document))
            return refuse("no shape could be made from the file", "Write it anew where it was drawn.");
        shapes_ = XCAFDoc_DocumentTool::ShapeTool(document->Main());
        colours_ = XCAFDoc_DocumentTool::ColorTool(document->Main());
        TDF_LabelSequence free;
        shapes_->GetFreeShapes(free);
        for (int at = 1; at <= free.Length(); ++at)
            take(free.Value(at), TopLoc_Location(), {}, 1e-3);
    }

    void readBrep()
    {
        if (!isWholeBrep()) return;
        TopoDS_Shape shape;
        BRep_Builder builder;
        if (!BRepTools::Read(shape, path_.c_str(), builder) || shape.IsNull())
            return refuse("the file is empty, cut short or no BREP file", "Write it anew where it was drawn.");
        addBodies(shape, {std::filesystem::path(path_).stem().string(), std::nullopt}, {}, 1e-3);
    }

    std::string nameOf(const TDF_Label& label) const
    {
        Handle(TDataStd_Name) name;
        if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
        std::string text(static_cast<std::size_t>(name->Get().LengthOfCString()), '\0');
        Standard_PCharacter into = text.data();
        name->Get().ToUTF8CString(into);
        return text;
    }

    /// A shape of the document, or the parts of an assembly in their places.
    void take(const TDF_Label& label, const TopLoc_Location& place, const std::string& name, double scale)
    {
        TDF_Label shape = label;
        TopLoc_Location own = place;
        if (XCAFDoc_ShapeTool::IsReference(label)) {
            XCAFDoc_ShapeTool::GetReferredShape(label, shape);
            own = place * XCAFDoc_ShapeTool::GetLocation(label);
        }
        std::string said = nameOf(shape);
        if (said.empty()) said = name;
        if (XCAFDoc_ShapeTool::IsAssembly(shape)) {
            TDF_LabelSequence parts;
            XCAFDoc_ShapeTool::GetComponents(shape, parts);
            for (int at = 1; at <= parts.Length(); ++at)
                take(parts.Value(at), own, nameOf(parts.Value(at)), scale);
            return;
        }
        auto colour = colourOf(label);
        if (!colour) colour = colourOf(shape);
        // Single bodies and faces of it may be named and coloured too.
        std::vector<Part> parts;
        TDF_LabelSequence labels;
        XCAFDoc_ShapeTool::GetSubShapes(shape, labels);
        for (int at = 1; at <= labels.Length(); ++at)
            parts.push_back({XCAFDoc_ShapeTool::GetShape(labels.Value(at)).Moved(own),
                             {nameOf(labels.Value(at)), colourOf(labels.Value(at))}});
        addBodies(XCAFDoc_ShapeTool::GetShape(shape).Moved(own), {said, colour}, parts, scale);
    }

    struct Part {
        TopoDS_Shape shape;
        FaceMark said;
    };

    std::optional<Eigen::Vector3d> colourOf(const TDF_Label& label) const
    {
        Quantity_Color found;
        for (const auto kind : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen})
            if (colours_->GetColor(label, kind, found)) {
                Eigen::Vector3d own; // as the file says them, which the kernel made linear
                found.Values(own[0], own[1], own[2], Quantity_TOC_sRGB);
                return own;
            }
        return std::nullopt;
    }

    void addBodies(const TopoDS_Shape& shape, const FaceMark& said, const std::vector<Part>& parts, double scale)
    {
        for (TopExp_Explorer solid(shape, TopAbs_SOLID); solid.More(); solid.Next()) {
            FaceMark own = said;
            for (const auto& part : parts)
                if (part.shape.IsSame(solid.Current())) {
                    if (!part.said.name.empty()) own.name = part.said.name;
                    if (part.said.colour) own.colour = part.said.colour;
                }
            addBody(solid.Current(), true, own, parts, scale);
        }
        TopoDS_Compound loose; // faces of no solid
        BRep_Builder builder;
        builder.MakeCompound(loose);
        bool any = false;
        for (TopExp_Explorer shell(shape, TopAbs_SHELL, TopAbs_SOLID); shell.More(); shell.Next()) {
            builder.Add(loose, shell.Current());
            any = true;
        }
        for (TopExp_Explorer face(shape, TopAbs_FACE, TopAbs_SHELL); face.More(); face.Next()) {
            builder.Add(loose, face.Current());
            any = true;
        }
        if (any) addBody(loose, false, said, parts, scale);
    }

    /// What is said of the faces of a body, which stand in the same order in its larger image; of faces that are all
    /// coloured the colour that most of them have becomes the body's.
    static FaceMarks marksOf(const TopoDS_Shape& shape, const TopoDS_Shape& image, const std::vector<Part>& parts,
                             std::optional<Eigen::Vector3d>& colour)
    {
        TopTools_IndexedMapOfShape faces, images;
        TopExp::MapShapes(shape, TopAbs_FACE, faces);
        TopExp::MapShapes(image, TopAbs_FACE, images);
        std::map<int, FaceMark> said;
        std::map<std::array<double, 3>, int> colours;
        const auto key = [](const Eigen::Vector3d& own) { return std::array{own.x(), own.y(), own.z()}; };
        for (const auto& part : parts)
            if (const int face = faces.FindIndex(part.shape); face > 0 && part.shape.ShapeType() == TopAbs_FACE) {
                said[face] = part.said;
                if (part.said.colour) ++colours[key(*part.said.colour)];
            }
        int coloured = 0, most = 0;
        for (const auto& [own, count] : colours)
            coloured += count;
        if (!colour && coloured == faces.Extent())
            for (const auto& [own, count] : colours)
                if (count > most) {
                    most = count;
                    colour = Eigen::Vector3d(own[0], own[1], own[2]);
                }
        FaceMarks marks;
        for (auto& [face, mark] : said) {
            if (mark.colour == colour) mark.colour.reset();
            if (!mark.name.empty() || mark.colour) marks.add(TopoDS::Face(images(face)), mark);
        }
        return marks;
    }

    void addBody(const TopoDS_Shape& shape, bool solid, const FaceMark& said, const std::vector<Part>& parts,
                 double scale)
    {
        ShapeFile::Body body;
        body.name = said.name;
        body.solid = solid;
        body.colour = said.colour;
        gp_Trsf metres;
        metres.SetScaleFactor(scale);
        const TopoDS_Shape image = BRepBuilderAPI_Transform(shape, metres, true).Shape();
        const FaceMarks marks = marksOf(shape, image, parts, body.colour);
        const TopoDS_Shape made = mendedShape(image, marks, body);
        GProp_GProps surface, bulk;
        BRepGProp::SurfaceProperties(made, surface);
        body.area = surface.Mass();
        if (body.solid) {
            BRepGProp::VolumeProperties(made, bulk);
            body.volume = bulk.Mass();
        }
        body.faces = countOf(made, TopAbs_FACE);
        if (body.faulty.empty() && (!(body.area > 1e-14) || (body.solid && !(body.volume > 1e-18))))
            body.faulty = "it has no volume and no area";
        Bnd_Box box;
        BRepBndLib::AddOptimal(made, box, false, false);
        if (!box.IsVoid()) {
            box.Get(body.low[0], body.low[1], body.low[2], body.high[0], body.high[1], body.high[2]);
        }
        KernelShape kept{made};
        if (!marks.empty()) {
            const auto found = marks.of(BodyFaces(made));
            for (std::size_t face = 0; face < found.size(); ++face)
                if (found[face] >= 0)
                    kept.marks.push_back(
                        {static_cast<int>(face) + 1, marks.at(found[face]).name, marks.at(found[face]).colour});
        }
        body.shape = std::make_shared<const KernelShape>(std::move(kept));
        file_->bodies.push_back(std::move(body));
    }

    std::string path_;
    std::shared_ptr<ShapeFile> file_ = std::make_shared<ShapeFile>();
    Handle(XCAFDoc_ShapeTool) shapes_;
    Handle(XCAFDoc_ColorTool) colours_;
};

// How the reading process hands over what it found; both sides are the same program.

void put(std::ostream& out, double number)
{
    out.write(reinterpret_cast<const char*>(&number), sizeof number);
}
void put(std::ostream& out, const std::string& text)
{
    put(out, double(text.size()));
    out << text;
}
void put(std::ostream& out, const std::optional<Eigen::Vector3d>& colour)
{
    put(out, colour ? 1.0 : 0.0);
    for (int part = 0; part < 3; ++part)
        put(out, colour ? (*colour)[part] : 0.0);
}
double number(std::istream& in)
{
    double value = 0.0;
    in.read(reinterpret_cast<char*>(&value), sizeof value);
    return value;
}
std::string words(std::istream& in)
{
    std::string text(static_cast<std::size_t>(number(in)), '\0');
    in.read(text.data(), static_cast<long>(text.size()));
    return text;
}

std::optional<Eigen::Vector3d> colour(std::istream& in)
{
    const bool any = number(in) != 0.0;
    Eigen::Vector3d value;
    for (int part = 0; part < 3; ++part)
        value[part] = number(in);
    return any ? std::optional(value) : std::nullopt;
}

std::string packed(const ShapeFile& file)
{
    std::ostringstream out(std::ios::binary);
    put(out, file.problem);
    put(out, file.remedy);
    put(out, double(file.bodies.size()));
    for (const auto& body : file.bodies) {
        put(out, body.name);
        for (const double value : {body.solid ? 1.0 : 0.0, body.volume, body.area, double(body.faces), body.low.x(),
                                   body.low.y(), body.low.z(), body.high.x(), body.high.y(), body.high.z()})
            put(out, value);
        put(out, body.colour);
        put(out, double(body.mended.size()));
        for (const auto& line : body.mended)
            put(out, line);
        put(out, body.faulty);
        std::ostringstream shape(std::ios::binary);
        BinTools::Write(body.shape->shape, shape);
        put(out, shape.str());
        put(out, double(body.shape->marks.size()));
        for (const auto& mark : body.shape->marks) {
            put(out, double(mark.face));
            put(out, mark.name);
            put(out, mark.colour);
        }
    }
    return out.str();
}

void unpack(const std::string& bytes, ShapeFile& file)
{
    std::istringstream in(bytes, std::ios::binary);
    file.problem = words(in);
    file.remedy = words(in);
    const auto count = static_cast<std::size_t>(number(in));
    for (std::size_t at = 0; at < count; ++at) {
        ShapeFile::Body body;
        body.name = words(in);
        body.solid = number(in) != 0.0;
        body.volume = number(in);
        body.area = number(in);
        body.faces = static_cast<int>(number(in));
        for (auto* corner : {&body.low, &body.high})
            for (int axis = 0; axis < 3; ++axis)
                (*corner)[axis] = number(in);
        body.colour = colour(in);
        const auto lines = static_cast<std::size_t>(number(in));
        for (std::size_t line = 0; line < lines; ++line)
            body.mended.push_back(words(in));
        body.faulty = words(in);
        std::istringstream shape(words(in), std::ios::binary);
        KernelShape made;
        BinTools::Read(made.shape, shape);
        for (auto left = static_cast<std::size_t>(number(in)); left > 0; --left) {
            KernelShape::Mark mark{static_cast<int>(number(in)), words(in), {}};
            mark.colour = colour(in);
            made.marks.push_back(std::move(mark));
        }
        body.shape = std::make_shared<const KernelShape>(std::move(made));
        body.stamp = newStamp();
        file.bodies.push_back(std::move(body));
    }
}

} // namespace

std::shared_ptr<const ShapeFile> ShapeFile::read(const std::string& path, const Progress* progress)
{
    static LatelyRead<ShapeFile> lately(24);
    const auto file = lately.at(path, [&] {
        constexpr double longest = 600.0; // s
        const HelperAnswer answer = askHelper({"read-shapes", path}, longest, progress);
        auto made = std::make_shared<ShapeFile>();
        if (!answer.problem.empty()) {
            made->problem = fmt::format("the file could not be read: {}", answer.problem);
            made->remedy = "Write it anew where it was drawn, as a smaller one if it is large.";
        } else {
            unpack(answer.bytes, *made);
        }
        return std::pair{std::shared_ptr<const ShapeFile>(made), !(progress && progress->stopped())};
    });
    if (file) return file;
    ShapeFile none;
    none.problem = fmt::format("the file {} is not there or cannot be read", path);
    none.remedy = "Put it back, or name the place where it is now.";
    return std::make_shared<const ShapeFile>(std::move(none));
}

std::string ShapeFile::readForOther(const std::string& path)
{
    return packed(*FileReader(path).read());
}

Result<std::string> stepText(const Frame& frame)
{
    silence();
    const auto failed = [](std::string why) { return errorAt({}, std::move(why), "Write the mesh instead."); };
    try {
        Handle(TDocStd_Document) document = new TDocStd_Document("BinXCAF");
        const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
        gp_Trsf millimetres;
        millimetres.SetScaleFactor(1e3);
        const auto add = [&](const TopoDS_Shape& shape, const std::string& name) {
            const TDF_Label label = shapes->AddShape(BRepBuilderAPI_Transform(shape, millimetres, true).Shape(), false);
            TDataStd_Name::Set(label, TCollection_ExtendedString(name.c_str(), true));
        };
        for (const auto& sheet : frame.sheets) {
            if (sheet.mesh) continue;
            TopoDS_Compound faces;
            BRep_Builder builder;
            builder.MakeCompound(faces);
            const auto each = [&](const auto& panels) {
                for (const auto& panel : panels)
                    builder.Add(faces, faceOf(panel));
            };
            each(sheet.flat);
            each(sheet.turned);
            each(sheet.crowns);
            each(sheet.kept);
            add(faces, sheet.name);
        }
        for (const auto& solid : frame.solids)
            if (!solid.spent && !placedMesh(*solid.shape)) add(shapeOf(*solid.shape), solid.name);
        Interface_Static::SetCVal("write.step.schema", "AP214IS");
        Interface_Static::SetCVal("write.step.unit", "MM");
        STEPCAFControl_Writer writer;
        writer.SetNameMode(true);
        if (!writer.Transfer(document, STEPControl_AsIs)) return failed("no shape could be written");
        const OwnFolder folder; // the kernel writes to a name alone
        const std::string path = (folder.path() / "shapes.step").string();
        if (writer.Write(path.c_str()) != IFSelect_RetDone) return failed("the shapes could not be written");
        std::ifstream stream(path, std::ios::binary);
        return std::string{std::istreambuf_iterator<char>(stream), {}};
    } catch (const Standard_Failure& failure) {
        return failed(failure.GetMessageString());
    }
}

} // namespace undisona
