// The sentences of the groups Shape and Material.
#include "core/model/grammar_fields.hpp"

namespace undisona {

namespace {

using enum FieldType;
using K = QuantityKind;

Field sectionField(std::string key, std::string label, std::string fallback)
{
    return textField(std::move(key), section, std::move(label), std::move(fallback));
}

/// How the section is turned about the member's axis; every sentence that makes members takes these.
void addOrientation(SentenceKind& kind)
{
    kind.fields.push_back(optionalField(quantityField("turned", "the turn of the section", K::angle, "90 deg")));
    kind.fields.push_back(optionalField(
        vectorField("towards", "the direction that the section's z axis leans to", K::number, "0, 0, 1")));
    kind.fields.push_back(optionalField(countField("elements", "the number of elements of each member", "4", 1, 1000)));
    kind.phrase += "[, section turned {turned}][, section z towards {towards}][, each in {elements} elements]";
}

} // namespace

void addShapeKinds(std::vector<SentenceKind>& all)
{
    all.push_back({"point",
                   Group::shape,
                   "a point",
                   "Point {name} at {at}[ from {from}]",
                   {nameOf("the point", "p"), vectorField("at", "the place", K::length, "0, 0, 0 m"),
                    optionalField(whereField("from", Target::point, "the point it is measured from", "p"))},
                   "One point by its coordinates, or by its offset from another point."});

    all.push_back(
        {"points",
         Group::shape,
         "a table of points",
         "Points {rows}",
         {tableField("the points",
                     {textField("name", FieldType::name, "the name", "p"), quantityField("x", "x", K::length, "0 m"),
                      quantityField("y", "y", K::length, "0 m"), quantityField("z", "z", K::length, "0 m")})},
         "Many points with their coordinates; paste rows from a spreadsheet."});

    SentenceKind members{"members",
                         Group::shape,
                         "members between points",
                         "{name}: members {rows} of {section}",
                         {nameOf("the members", "Frame"),
                          tableField("the members", {textField("name", FieldType::name, "the name", "m"),
                                                     whereField("from", Target::point, "its first point", "a"),
                                                     whereField("to", Target::point, "its second point", "b")}),
                          sectionField("section", "the section", "tube 60.3x4 mm")},
                         "Straight members, each between two points that exist."};
    addOrientation(members);
    members.fields.push_back(
        optionalField(atLeast(quantityField("flexibility", "the flexibility in bending", K::number, "1"), 0.1)));
    members.phrase += "[, {flexibility} times as flexible in bending as it]";
    all.push_back(members);

    SentenceKind run{"run",
                     Group::shape,
                     "a straight run of members",
                     "{name}: straight run from {from} to {to} in {parts} parts of {section}",
                     {nameOf("the run", "Run"), textField("from", place, "where it begins", "0, 0, 0 m"),
                      textField("to", place, "where it ends", "0, 0, 3 m"),
                      countField("parts", "the number of parts", "1", 1, 10000),
                      sectionField("section", "the section", "tube 60.3x4 mm")},
                     "Equal members in a row between two places, each a point or coordinates."};
    addOrientation(run);
    all.push_back(run);

    SentenceKind frame{"frame",
                       Group::shape,
                       "a frame of bays and storeys",
                       "{name}: frame of {bays-x} bays of {bay-x} by {bays-y} bays of {bay-y}, {storeys} storeys of "
                       "{storey}, columns of {columns}, beams of {beams}[, corner at {at}]",
                       {nameOf("the frame", "Frame"), countField("bays-x", "the number of bays along x", "1", 0, 200),
                        lengthField("bay-x", "the bay along x", "4 m"),
                        countField("bays-y", "the number of bays along y", "1", 0, 200),
                        lengthField("bay-y", "the bay along y", "4 m"),
                        countField("storeys", "the number of storeys", "2", 1, 200),
                        lengthField("storey", "the height of a storey", "3 m"),
                        sectionField("columns", "the section of the columns", "box 100x100x5 mm"),
                        sectionField("beams", "the section of the beams", "I 160x82x5x7.4 mm"),
                        optionalField(textField("at", place, "the place of its first foot", "0, 0, 0 m"))},
                       "A rectangular grid of columns and beams; with no bays along y it is a plane frame."};
    addOrientation(frame);
    all.push_back(frame);

    SentenceKind mast{
        "lattice-mast",
        Group::shape,
        "a tapering lattice mast",
        "{name}: tapering lattice, {bays} bays, {bottom} {plan} to {top}, height {height}, legs of "
        "{legs}, braced by {bracing} of {braces}, rings of {rings}[, foot at {at}]",
        {nameOf("the mast", "Mast"), countField("bays", "the number of bays", "8", 1, 500),
         lengthField("bottom", "the width at the foot", "1.2 m"),
         choiceField("plan", "the plan", {"square", "triangle"}), lengthField("top", "the width at the head", "0.55 m"),
         lengthField("height", "the height", "12 m"), sectionField("legs", "the section of the legs", "tube 60.3x4 mm"),
         choiceField("bracing", "the bracing", {"crosses", "zigzags", "chevrons", "nothing"}),
         sectionField("braces", "the section of the braces", "angle 40x40x4 mm"),
         sectionField("rings", "the section of the rings", "angle 40x40x4 mm"),
         optionalField(textField("at", place, "the centre of its foot", "0, 0, 0 m"))},
        "Legs, braces and rings of a three- or four-sided mast. Its parts are picked as \"legs of "
        "Mast\", \"braces of Mast\", \"rings of Mast\", \"feet of Mast\", \"head of Mast\"."};
    addOrientation(mast);
    all.push_back(mast);

    SentenceKind ring{"ring",
                      Group::shape,
                      "a ring tied to points near it",
                      "{name}: {plan} ring of {width} round {at}, of {section}, tied by {arms} to {to}",
                      {nameOf("the ring", "Platform"),
                       choiceField("plan", "the plan", {"square", "triangle", "octagon"}),
                       lengthField("width", "the width", "1.4 m"), textField("at", place, "the centre", "0, 0, 9 m"),
                       sectionField("section", "the section of the ring", "channel 80x45x6x8 mm"),
                       sectionField("arms", "the section of the arms", "channel 80x45x6x8 mm"),
                       whereField("to", Target::point, "the points it is tied to", "points at z = 9 m")},
                      "A level polygon of members, each corner joined by an arm to the nearest of the named points."};
    addOrientation(ring);
    all.push_back(ring);

    SentenceKind pipe{
        "pipe",
        Group::shape,
        "a pipe with bends",
        "{name}: pipe through {rows}, of {section}[, with bends of radius {radius}][, each {flexibility} times as "
        "flexible as straight pipe][, with places at {stops} along it][, with a place every {every}][, each in "
        "{elements} elements]",
        {nameOf("the pipe", "Pipe"),
         tableField("the places it runs through",
                    {placeField("place", "place", "0, 0, 0 m"),
                     optionalField(atLeast(quantityField("bend", "bend radius", K::length, "0 mm"), 0.0))}),
         sectionField("section", "the section, a tube", "tube 60.3x2.9 mm"),
         optionalField(lengthField("radius", "the radius of the bends' centre line", "76 mm")),
         optionalField(atLeast(quantityField("flexibility", "the flexibility of a bend", K::number, "1"), 0.1)),
         optionalField(textField("stops", FieldType::label, "distances along it", "0.5, 2 m")),
         optionalField(lengthField("every", "the distance from one place to the next", "3 m")),
         optionalField(countField("elements", "the number of elements of each piece", "4", 1, 1000))},
        "Straight lengths and bends of a tube through places, each a point or coordinates. A bend turns oval and is "
        "softer than straight pipe by what is noted, unless said otherwise. A place with a bend of 0 mm takes the "
        "radius "
        "of all. Its parts are picked as \"ends of Pipe\", \"stops of Pipe\" (the places along it), \"bends of "
        "Pipe\", "
        "\"straights of Pipe\"; a branch begins at one of its points."};
    all.push_back(pipe);

    SentenceKind arc{"arc",
                     Group::shape,
                     "an arc of members",
                     "{name}: arc from {from} through {through} to {to}, of {section}[, in {parts} parts]",
                     {nameOf("the arc", "Arc"), placeField("from", "where it begins", "0, 0, 0 m"),
                      placeField("through", "a place on its way", "1, 0, 1 m"),
                      placeField("to", "where it ends", "2, 0, 0 m"),
                      sectionField("section", "the section", "tube 60.3x4 mm"),
                      optionalField(countField("parts", "the number of straight parts", "18", 1, 1000))},
                     "A member bent to a part of a circle, of straight parts that turn by 5 degrees at most. Its "
                     "section's z axis is square to the arc's plane unless said otherwise."};
    addOrientation(arc);
    all.push_back(arc);

    SentenceKind circle{"circle",
                        Group::shape,
                        "a round ring of members",
                        "{name}: round ring of {diameter} about {axis} at {at}, of {section}[, in {parts} parts]",
                        {nameOf("the ring", "Ring"), lengthField("diameter", "the diameter of its centre line", "2 m"),
                         choiceField("axis", "the axis", {"z", "x", "y"}), placeField("at", "the centre", "0, 0, 0 m"),
                         sectionField("section", "the section", "tube 60.3x4 mm"),
                         optionalField(countField("parts", "the number of straight parts", "72", 3, 1000))},
                        "A hoop of straight parts that turn by 5 degrees at most, its points Ring.0, Ring.1 and so "
                        "on. Its section's z axis is the ring's axis unless said otherwise."};
    addOrientation(circle);
    all.push_back(circle);

    all.push_back({"copies",
                   Group::shape,
                   "copies along a line",
                   "{name}: {count} copies of {what}, each moved by {step}",
                   {nameOf("the copies", "Copies"), countField("count", "the number of copies", "1", 1, 10000),
                    whereField("what", partTargets, "what is copied", "everything"),
                    vectorField("step", "the step from one to the next", K::length, "1, 0, 0 m")},
                   "Further sets of the same members, moved on step by step. Points that meet are one."});

    all.push_back({"copies-around",
                   Group::shape,
                   "copies around an axis",
                   "{name}: {count} copies of {what}, each turned by {angle} about {axis} through {through}",
                   {nameOf("the copies", "Copies"), countField("count", "the number of copies", "3", 1, 10000),
                    whereField("what", partTargets, "what is copied", "everything"),
                    quantityField("angle", "the turn from one to the next", K::angle, "90 deg"),
                    choiceField("axis", "the axis", {"z", "x", "y"}),
                    textField("through", place, "a point of the axis", "0, 0, 0 m")},
                   "Further sets of the same members, turned about an axis. Points that meet are one."});

    all.push_back({"mirror",
                   Group::shape,
                   "a mirror image",
                   "{name}: mirror image of {what} in the plane {axis} = {at}",
                   {nameOf("the image", "Image"), whereField("what", partTargets, "what is mirrored", "everything"),
                    choiceField("axis", "the normal of the plane", {"x", "y", "z"}),
                    quantityField("at", "the place of the plane", K::length, "0 m")},
                   "The same members on the other side of a plane. Points on the plane are shared."});
}

namespace {

Field expansionField()
{
    return optionalField(quantityField("expansion", "how much it grows for each degree", K::expansion, "12e-6 1/K"));
}

} // namespace

void addMaterialKinds(std::vector<SentenceKind>& all)
{
    all.push_back({"material",
                   Group::material,
                   "what a part is made of",
                   "{what} is {material}",
                   {whereField("what", partTargets, "what is made of it", "everything"),
                    textField("material", FieldType::material, "the material", "structural steel")},
                   "A material from the library or one of your own. A later sentence overrides an earlier one."});

    all.push_back(
        {"own-material",
         Group::material,
         "a material of your own",
         "Material {name}: E {modulus}, Poisson ratio {poisson}, density {density}[, damping ratio {damping}][, "
         "expansion {expansion}]",
         {nameOf("the material", "my steel"),
          positiveField(quantityField("modulus", "the modulus of elasticity", K::stress, "210 GPa")),
          [] {
              Field field = quantityField("poisson", "the Poisson ratio", K::number, "0.3");
              field.least = 0.0;
              field.most = 0.4999;
              return field;
          }(),
          atLeast(quantityField("density", "the density", K::density, "7850 kg/m3"), 0.0),
          optionalField(atLeast(quantityField("damping", "the damping ratio", K::share, "0.5 %"), 0.0)),
          expansionField()},
         "Its stiffness, Poisson ratio and density."});

    const auto stress = [](std::string key, std::string label, std::string fallback) {
        return positiveField(quantityField(std::move(key), std::move(label), K::stress, std::move(fallback)));
    };
    all.push_back(
        {"orthotropic",
         Group::material,
         "a material with a grain",
         "Material {name}: E {modulus} along the grain, {across} across it, shear modulus {shear}[, {rolling} through "
         "the thickness], Poisson ratio {poisson}[, {poisson-across} across], density {density}[, damping ratio "
         "{damping}][, expansion {expansion}]",
         {nameOf("the material", "plywood"), stress("modulus", "the modulus along the grain", "9 GPa"),
          stress("across", "the modulus across the grain", "4 GPa"), stress("shear", "the shear modulus", "600 MPa"),
          optionalField(stress("rolling", "the shear modulus through the thickness", "60 MPa")),
          [] {
              Field field = quantityField("poisson", "the strain across for one along the grain", K::number, "0.1");
              field.least = 0.0;
              return field;
          }(),
          [] {
              Field field = quantityField("poisson-across", "the Poisson ratio between directions across the grain",
                                          K::number, "0.3");
              field.least = 0.0;
              return optionalField(std::move(field));
          }(),
          atLeast(quantityField("density", "the density", K::density, "550 kg/m3"), 0.0),
          optionalField(atLeast(quantityField("damping", "the damping ratio", K::share, "0.8 %"), 0.0)),
          expansionField()},
         "Timber, laminates, drawn sheet: stiffer along one direction than across it. In a solid every direction "
         "across "
         "is alike, and what is said of the thickness holds between two of them. Members take the figures along the "
         "grain."});

    all.push_back(
        {"grain",
         Group::material,
         "the direction of the grain",
         "Grain of {sheets} runs along {along}",
         {whereField("sheets", Target::sheet | Target::solid, "the sheets and solids", "everything"),
          vectorField("along", "the direction of the grain", K::number, "1, 0, 0")},
         "For sheet and solids whose material has a grain; without it the grain runs along x, or along y where x is "
         "square to a sheet.",
         {Touch::stiffness}});

    SentenceKind layers{
        "layers",
        Group::material,
        "a stack of layers",
        "Material {name}: layers {rows} from below up[, {mirrored}]",
        {nameOf("the stack", "sandwich"),
         tableField("the layers, the lowest first",
                    {textField("material", FieldType::material, "its material", "structural steel"),
                     lengthField("thickness", "its thickness", "2 mm"),
                     optionalField(quantityField("angle", "its grain's angle", K::angle, "0 deg"))}),
         optionalField(choiceField("mirrored", "what follows above",
                                   {"and again in reverse", "and again in reverse but for the last"}))},
        "Laminates and sandwich panels: sheet that is made of it is as thick as its layers. Angles count from the "
        "direction of the sheet's grain. Stiffness by classical lamination with the shear of soft cores, stacks that "
        "differ above and below too."};
    all.push_back(layers);

    all.push_back({"section",
                   Group::material,
                   "a section with a name",
                   "Section {name} is {section}",
                   {nameOf("the section", "brace"), sectionField("section", "the section", "angle 50x50x5 mm")},
                   "A section used in several places, changed in one."});

    all.push_back(
        {"given-section",
         Group::material,
         "a section given by its constants",
         "Section {name}: area {area}, second moments {iy} about y and {iz} about z, torsion constant "
         "{torsion}[, shear area {shear-y} along y][, shear area {shear-z} along z][, perimeter {perimeter}]",
         {nameOf("the section", "given"), positiveField(quantityField("area", "the area", K::area, "1000 mm2")),
          positiveField(quantityField("iy", "the second moment about y", K::secondMoment, "1e6 mm4")),
          positiveField(quantityField("iz", "the second moment about z", K::secondMoment, "1e6 mm4")),
          positiveField(quantityField("torsion", "the torsion constant", K::secondMoment, "1e6 mm4")),
          optionalField(positiveField(quantityField("shear-y", "the shear area along y", K::area, "800 mm2"))),
          optionalField(positiveField(quantityField("shear-z", "the shear area along z", K::area, "800 mm2"))),
          optionalField(positiveField(quantityField("perimeter", "the outer perimeter", K::length, "200 mm")))},
         "Area and second moments about its centroid's principal axes. Without shear areas it is "
         "stiff in shear."});

    all.push_back(
        {"strength",
         Group::material,
         "what a material bears",
         "{material} bears {strength}",
         {textField("material", FieldType::material, "the material", "structural steel"),
          positiveField(quantityField("strength", "the equivalent stress that it bears", K::stress, "235 MPa"))},
         "A yield point, a fatigue limit, what a code allows. Rest tells the stress of each part as a share of it, and "
         "what is drawn tighter than that is said. It has no part in modes.",
         {Touch::load}});

    all.push_back({"softening",
                   Group::material,
                   "stiffness of a warm material",
                   "{material} keeps {share} of its stiffness where it is {by} warmer",
                   {textField("material", FieldType::material, "the material", "structural steel"),
                    positiveField(quantityField("share", "the share of its moduli", K::share, "90 %")),
                    quantityField("by", "how much warmer than its figures are stated for", K::warming, "200 K")},
                   "A sentence for each temperature that is known; it is linear between them, and all of it where "
                   "nothing is warmer. Static states that warm a part have it so, and modes about them.",
                   {Touch::load}});

    all.push_back({"material-mass",
                   Group::material,
                   "how much of the material mass counts",
                   "Material mass[ of {what}] counts {factor}",
                   {atLeast(quantityField("factor", "the factor", K::share, "100 %"), 0.0),
                    optionalField(whereField("what", partTargets, "the parts of which it is said", "everything"))},
                   "100 % unless said otherwise; more for welds and bolts, 0 % for a structure without mass; of all "
                   "parts or of some, a later sentence overriding an earlier one. A structure's own weight never needs "
                   "entering.",
                   {Touch::mass}});
}

} // namespace undisona
