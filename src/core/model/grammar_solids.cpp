// The sentences of the group Shape that make solids, join them and cut them.
#include "core/model/grammar_fields.hpp"

namespace undisona {

namespace {

using enum FieldType;
using K = QuantityKind;

Field profileTable(std::string label, std::string first, std::string second)
{
    return tableField(std::move(label),
                      {lengthColumn(std::move(first)), lengthColumn(std::move(second)), roundColumn(), bowColumn()});
}

} // namespace

void addSolidKinds(std::vector<SentenceKind>& all)
{
    const auto add = [&](SentenceKind kind) {
        kind.fields.push_back(optionalField(lengthField("size", "the size of its elements", "20 mm")));
        kind.phrase += "[, in elements of {size}]";
        all.push_back(std::move(kind));
    };
    add({"imported",
         Group::shape,
         "a body from a STEP or BREP file",
         "{name}: body {body} of the file {file}[, {thickness} thick][, {scale} times as large]",
         {nameOf("the part", "Arm"), countField("body", "the number of the body in the file", "1", 1, 100000),
          textField("file", FieldType::file, "the file", "part.step"),
          optionalField(lengthField("thickness", "the thickness of sheet", "4 mm")),
          optionalField(positiveField(
              quantityField("scale", "how many times as large it is as in the file", K::number, "0.001")))},
         "A solid or sheet as it was drawn elsewhere. Import shapes in the menu File makes one such sentence for each "
         "body of a file."});
    all.push_back(
        {"mesh-part",
         Group::shape,
         "a part from a mesh file (VTU)",
         "{name}: the {of} of the mesh in the file {file}, lengths in {unit}[, cells with {cells}][, {thickness} "
         "thick]",
         {nameOf("the part", "Hull"), choiceField("of", "what of it", {"sheet", "solids"}),
          textField("file", FieldType::file, "the file", "mesh.vtu"),
          choiceField("unit", "the unit of the file's lengths", {"m", "mm", "cm", "in", "ft"}),
          optionalField(textField("cells", FieldType::label, "the cells, by an array of the file", "part = 1")),
          optionalField(lengthField("thickness", "the thickness of sheet", "4 mm"))},
         "A mesh that was made elsewhere, used as it is. Import shapes in the menu File makes such a sentence for each "
         "group of its cells. Edges and faces of it are picked like those of drawn parts."});
    all.push_back({"point-at-node",
                   Group::shape,
                   "a point at a node of a mesh",
                   "Point {name} at the node of {part} nearest to {at}",
                   {nameOf("the point", "p"), whereField("part", partTargets, "a part from a mesh file", "Hull"),
                    placeField("at", "the place", "0, 0, 0 m")},
                   "Where a mass, a spring or a member meets a mesh that came from a file."});
    add({"solid-box",
         Group::shape,
         "a solid box",
         "{name}: solid box {x} by {y} by {z}, corner at {at}[, its x along {along}][, its y towards {towards}]",
         {nameOf("the solid", "Block"), lengthField("x", "the size along x", "300 mm"),
          lengthField("y", "the size along y", "80 mm"), lengthField("z", "the size along z", "60 mm"),
          placeField("at", "the place of its first corner", "0, 0, 0 m"),
          directionField("along", "the direction of its x", "1, 0, 0"),
          directionField("towards", "the direction its y leans to", "0, 1, 0")},
         "A block of material. Its faces are picked as \"faces at z = 0 m of Block\"."});
    add({"solid-cylinder",
         Group::shape,
         "a solid cylinder or a thick tube",
         "{name}: solid cylinder of diameter {diameter}, {length} long[, bored {inner}], from {at}[ along {along}]",
         {nameOf("the solid", "Shaft"), lengthField("diameter", "the diameter", "80 mm"),
          lengthField("length", "the length", "400 mm"),
          optionalField(lengthField("inner", "the diameter of the bore", "40 mm")),
          placeField("at", "the centre of its first end", "0, 0, 0 m"),
          directionField("along", "the direction of its axis", "0, 0, 1")},
         "A round bar, a disc, a thick tube."});
    add({"solid-sphere",
         Group::shape,
         "a solid ball",
         "{name}: solid ball of diameter {diameter} about {at}",
         {nameOf("the solid", "Ball"), lengthField("diameter", "the diameter", "100 mm"),
          placeField("at", "its centre", "0, 0, 0 m")},
         "A ball; joined to another solid or cut out of it, a knob or a hollow."});
    add({"extrusion",
         Group::shape,
         "a profile drawn out to a solid",
         "{name}: solid drawn out from the profile {rows} by {length}, from {at}[ along {along}][, its x towards "
         "{towards}]",
         {nameOf("the solid", "Bracket"), profileTable("the corners of the profile, one after the other", "x", "y"),
          lengthField("length", "the length", "50 mm"),
          placeField("at", "the place of the profile's origin", "0, 0, 0 m"),
          directionField("along", "the direction in which it is drawn out", "0, 0, 1"),
          directionField("towards", "the direction its x leans to", "1, 0, 0")},
         "A flat outline of straight and bowed sides, its corners rounded where wanted, drawn out to a thickness."});
    add({"revolution",
         Group::shape,
         "a profile turned to a solid",
         "{name}: solid turned from the profile {rows}[ by {angle}], from {at}[ about {along}]",
         {nameOf("the solid", "Bell"), profileTable("the corners of the profile, one after the other", "r", "z"),
          optionalField(coveredTurn("180 deg")), placeField("at", "the place of the axis's origin", "0, 0, 0 m"),
          directionField("along", "the direction of the axis", "0, 0, 1")},
         "An outline of distances from an axis and heights along it, turned about the axis: a bell, a hub, a nozzle."});
    all.push_back(
        {"solid-cut",
         Group::shape,
         "a solid cut out of another",
         "Cut {tool} out of {body}[, and the first {afterwards}]",
         {whereField("tool", Target::solid, "what is cut out", "Shaft"),
          whereField("body", Target::solid, "what it is cut out of", "Block"),
          optionalField(choiceField("afterwards", "what becomes of the first", {"is gone", "stays in place"}))},
         "Where the first solid was the second one is open. The first is gone afterwards, or stays in place as "
         "a shaft in its bore, joined where they touch."});
    all.push_back({"solid-union",
                   Group::shape,
                   "solids made one",
                   "Make {tool} a part of {body}",
                   {whereField("tool", Target::solid, "what is added", "Ball"),
                    whereField("body", Target::solid, "what it becomes a part of", "Block")},
                   "Both become one body of one material under the second one's name."});
    all.push_back({"solid-common",
                   Group::shape,
                   "what two solids have in common",
                   "Keep of {body} only what lies in {tool}",
                   {whereField("body", Target::solid, "what is kept in part", "Block"),
                    whereField("tool", Target::solid, "the solid in which it lies", "Ball")},
                   "The second solid is gone afterwards."});
    all.push_back({"small-left-out",
                   Group::shape,
                   "small features left out",
                   "Leave out {what} smaller than {size} of {solids}[, but keep what is nearest to {keep}]",
                   {choiceField("what", "what is left out", {"rounds, holes and marks", "rounds", "holes", "marks"}),
                    lengthField("size", "the radius of rounds, the diameter of holes, the extent of marks", "3 mm"),
                    whereField("solids", Target::solid, "the solids", "Arm"),
                    optionalField(textField("keep", FieldType::label, "places, set apart by commas", "0 0 0 m"))},
                   "Small rounded edges, bores and engraved marks make a mesh large and change no frequency. What was "
                   "left out is listed in Checks; switched off, all of it is back."});
    all.push_back({"mid-face",
                   Group::shape,
                   "a thin solid as sheet",
                   "Take {solid} as sheet along its mid-face[, elements of {size}]",
                   {whereField("solid", Target::solid, "the solid", "Bracket"),
                    optionalField(lengthField("size", "the size of its elements", "10 mm"))},
                   "A plate or bent sheet of even thickness that was drawn as a solid: the sheet lies in the middle of "
                   "it and has its thickness and name."});
}

} // namespace undisona
