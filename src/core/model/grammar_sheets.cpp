// The sentences of the group Shape that make sheets: plates, discs, cylinders, folded sheet, ribs, and holes in them.
#include "core/model/grammar_fields.hpp"

namespace undisona {

namespace {

using enum FieldType;
using K = QuantityKind;

/// What every sentence that makes a sheet takes beside its form.
void addSheetFields(SentenceKind& kind)
{
    kind.fields.push_back(lengthField("thickness", "the thickness", "6 mm"));
    kind.fields.push_back(optionalField(lengthField("size", "the size of its elements", "50 mm")));
    kind.fields.push_back(
        optionalField(choiceField("drawn", "the face that is drawn, if not the middle", {"upper face", "lower face"})));
    kind.phrase += ", {thickness} thick[, drawn at its {drawn}][, in elements of {size}]";
}

} // namespace

void addSheetKinds(std::vector<SentenceKind>& all)
{
    const auto add = [&](SentenceKind kind) {
        addSheetFields(kind);
        all.push_back(std::move(kind));
    };
    add({"plate",
         Group::shape,
         "a rectangular plate",
         "{name}: plate {length} by {width}, corner at {at}[, length along {along}][, width towards {towards}]",
         {nameOf("the plate", "Plate"), lengthField("length", "the length", "1.2 m"),
          lengthField("width", "the width", "0.8 m"), placeField("at", "the place of its first corner", "0, 0, 0 m"),
          directionField("along", "the direction of its length", "1, 0, 0"),
          directionField("towards", "the direction its width leans to", "0, 1, 0")},
         "A flat rectangle of one thickness, its middle face where it is drawn. Picked as \"edges of Plate\", "
         "\"corners of Plate\"."});
    add({"plate-through",
         Group::shape,
         "a flat plate through given corners",
         "{name}: plate through the corners {rows}",
         {nameOf("the plate", "Plate"),
          tableField("the corners, one after the other",
                     {lengthColumn("x"), lengthColumn("y"), lengthColumn("z"), roundColumn(), bowColumn()})},
         "A flat polygon of any number of corners, given one after the other round it. A corner may be rounded by a "
         "radius; a side bows by the height of its arc over the straight line, outwards where the corners run "
         "counter-clockwise."});
    add({"disc",
         Group::shape,
         "a disc or a ring of plate",
         "{name}: disc of diameter {diameter}[, open inside {inner}], centre at {at}[, facing {facing}]",
         {nameOf("the disc", "Disc"), lengthField("diameter", "the diameter", "600 mm"),
          optionalField(lengthField("inner", "the diameter of the opening", "200 mm")),
          placeField("at", "the place of its centre", "0, 0, 0 m"),
          directionField("facing", "the direction it faces", "0, 0, 1")},
         "A flat disc; with an opening it is a ring. Its outer edge is \"edges of Disc\", the opening \"rims of "
         "Disc\"."});
    add({"cylinder-shell",
         Group::shape,
         "a cylindrical shell",
         "{name}: cylindrical shell of diameter {diameter}, length {length}, from {at}[ along {along}][, over {angle}]",
         {nameOf("the shell", "Shell"), lengthField("diameter", "the diameter of its middle face", "500 mm"),
          lengthField("length", "the length", "1 m"), placeField("at", "the centre of its first end", "0, 0, 0 m"),
          directionField("along", "the direction of its axis", "0, 0, 1"), optionalField(coveredTurn("90 deg"))},
         "A tube or tank wall of sheet, open at both ends; or a part of the turn, as of a curved panel."});
    add({"cone-shell",
         Group::shape,
         "a conical shell",
         "{name}: conical shell from diameter {diameter} to {far}, length {length}, from {at}[ along {along}][, over "
         "{angle}]",
         {nameOf("the shell", "Cone"), lengthField("diameter", "the diameter of its first end", "500 mm"),
          lengthField("far", "the diameter of its other end", "200 mm"),
          lengthField("length", "the length along its axis", "400 mm"),
          placeField("at", "the centre of its first end", "0, 0, 0 m"),
          directionField("along", "the direction of its axis", "0, 0, 1"), optionalField(coveredTurn("90 deg"))},
         "A cone without its tip: a hopper, a reducer; or a part of the turn."});
    add({"dome",
         Group::shape,
         "a dome",
         "{name}: dome of diameter {diameter}, {height} high[, open inside {inner}], rim about {at}[, rising along "
         "{along}]",
         {nameOf("the dome", "Dome"), lengthField("diameter", "the diameter of its rim", "500 mm"),
          lengthField("height", "the height over its rim", "120 mm"),
          optionalField(lengthField("inner", "the diameter of the opening in its crown", "100 mm")),
          placeField("at", "the centre of its rim", "0, 0, 0 m"),
          directionField("along", "the direction in which it rises", "0, 0, 1")},
         "A part of a sphere, half of one at most: the head of a tank, a cover."});
    add({"elbow",
         Group::shape,
         "a bend of a tube",
         "{name}: tube of diameter {diameter} bent by {angle} with radius {bend}, from {at}[ along {along}][, towards "
         "{towards}]",
         {nameOf("the bend", "Bend"), lengthField("diameter", "the diameter of the tube's middle face", "200 mm"),
          coveredTurn("90 deg"), lengthField("bend", "the radius of the bend, to the tube's axis", "300 mm"),
          placeField("at", "the centre of its first end", "0, 0, 0 m"),
          directionField("along", "the direction in which it sets out", "1, 0, 0"),
          directionField("towards", "the direction it bends to", "0, 0, 1")},
         "An elbow of pipe or duct as sheet, open at both ends."});
    add({"sheet-box",
         Group::shape,
         "a box of sheet",
         "{name}: box of sheet {x} by {y} by {z}, {open}, corner at {at}[, its x along {along}][, its y towards "
         "{towards}]",
         {nameOf("the box", "Box"), lengthField("x", "the size along x", "600 mm"),
          lengthField("y", "the size along y", "400 mm"), lengthField("z", "the size along z", "300 mm"),
          choiceField("open", "the sides that are left out",
                      {"closed", "open above", "open below", "open above and below", "open at both ends of x",
                       "open at both ends of y"}),
          placeField("at", "the place of its first corner", "0, 0, 0 m"),
          directionField("along", "the direction of its x", "1, 0, 0"),
          directionField("towards", "the direction its y leans to", "0, 1, 0")},
         "Six sides of sheet or fewer, joined along their edges. Its sides are \"Box.bottom\", \"Box.top\", "
         "\"Box.front\", \"Box.back\", \"Box.left\", \"Box.right\"."});
    add({"folded-sheet",
         Group::shape,
         "a folded sheet",
         "{name}: sheet folded through {rows}, {length} long, from {at}[, length along {along}][, y towards {towards}]",
         {nameOf("the sheet", "Fold"), tableField("the folds of its profile", {lengthColumn("y"), lengthColumn("z")}),
          lengthField("length", "the length", "1 m"),
          placeField("at", "the place of the profile's origin", "0, 0, 0 m"),
          directionField("along", "the direction of its length", "1, 0, 0"),
          directionField("towards", "the direction the profile's y leans to", "0, 1, 0")},
         "A profile of straight lines drawn out along its length: an L, a channel, a hat."});
    add({"rib",
         Group::shape,
         "a rib standing on sheet",
         "{name}: rib from {from} to {to}, {height} high[, towards {towards}]",
         {nameOf("the rib", "Rib"), placeField("from", "where its foot begins", "0, 0, 0 m"),
          placeField("to", "where its foot ends", "1, 0, 0 m"), lengthField("height", "the height", "60 mm"),
          directionField("towards", "the direction in which it stands up", "0, 0, 1")},
         "A flat strip on edge. It is joined to every sheet that its foot lies on."});
    all.push_back(
        {"holes",
         Group::shape,
         "round holes at given places",
         "Holes of diameter {diameter} in {sheet} at {rows}[, mirrored about {mirror}]",
         {lengthField("diameter", "the diameter", "40 mm"), whereField("sheet", Target::sheet, "the sheet", "Plate"),
          tableField("the places, from the first corner or the centre of the sheet",
                     {lengthColumn("x"), lengthColumn("y")}),
          optionalField(choiceField("mirror", "the centre lines that they are mirrored about",
                                    {"its length", "its width", "both"}))},
         "Places are measured in the sheet's own directions: along its length and its width from its first "
         "corner, or from the centre of a disc."});
    all.push_back(
        {"hole-grid",
         Group::shape,
         "a grid of round holes",
         "{columns} by {lines} holes of diameter {diameter} in {sheet}, first at {x}, {y}, apart {apart-x} by "
         "{apart-y}",
         {countField("columns", "the number along its length", "4", 1, 200),
          countField("lines", "the number along its width", "2", 1, 200),
          lengthField("diameter", "the diameter", "30 mm"), whereField("sheet", Target::sheet, "the sheet", "Plate"),
          quantityField("x", "the first along its length", K::length, "100 mm"),
          quantityField("y", "the first along its width", K::length, "100 mm"),
          lengthField("apart-x", "the distance along its length", "100 mm"),
          lengthField("apart-y", "the distance along its width", "100 mm")},
         "Equal holes in rows, in the sheet's own directions."});
    all.push_back(
        {"hole-circle",
         Group::shape,
         "round holes on a circle",
         "{count} holes of diameter {diameter} in {sheet} on a circle of diameter {round} about {x}, {y}",
         {countField("count", "the number of holes", "6", 1, 1000), lengthField("diameter", "the diameter", "18 mm"),
          whereField("sheet", Target::sheet, "the sheet", "Plate"),
          lengthField("round", "the diameter of the circle", "300 mm"),
          quantityField("x", "its centre along the sheet's length", K::length, "0 mm"),
          quantityField("y", "its centre along the sheet's width", K::length, "0 mm")},
         "A bolt circle: equal holes evenly round, the first on the side of the sheet's length."});
    all.push_back({"opening",
                   Group::shape,
                   "a rectangular opening",
                   "Opening of {length} by {width} in {sheet}, corner at {x}, {y}[, its corners rounded {round}]",
                   {lengthField("length", "the length", "200 mm"), lengthField("width", "the width", "120 mm"),
                    whereField("sheet", Target::sheet, "the sheet", "Plate"),
                    quantityField("x", "its first corner along the sheet's length", K::length, "100 mm"),
                    quantityField("y", "its first corner along the sheet's width", K::length, "100 mm"),
                    optionalField(lengthField("round", "the radius of its corners", "10 mm"))},
                   "A window in a flat sheet, in the sheet's own directions."});
    all.push_back({"opening-through",
                   Group::shape,
                   "an opening of any outline",
                   "Opening in {sheet} through {rows}",
                   {whereField("sheet", Target::sheet, "the sheet", "Plate"),
                    tableField("the corners, one after the other",
                               {lengthColumn("x"), lengthColumn("y"), roundColumn(), bowColumn()})},
                   "A polygon cut out of a flat sheet, in the sheet's own directions; corners may be rounded and sides "
                   "bowed as those of a plate through given corners."});
    all.push_back({"taper",
                   Group::shape,
                   "a thickness that changes",
                   "Thickness of {sheet} runs from {first} at {from} to {last} at {to}",
                   {whereField("sheet", Target::sheet, "the sheet", "Plate"),
                    lengthField("first", "the thickness at the first place", "10 mm"),
                    placeField("from", "the first place", "0, 0, 0 m"),
                    lengthField("last", "the thickness at the second place", "6 mm"),
                    placeField("to", "the second place", "1, 0, 0 m")},
                   "Evenly between the two places, and as at the nearer of them beyond."});
    all.push_back({"moved",
                   Group::shape,
                   "parts moved",
                   "Move {what} by {step}",
                   {whereField("what", partTargets, "what is moved", "everything"),
                    vectorField("step", "the way", K::length, "0, 0, 100 mm")},
                   "Members and sheets that stand above this sentence, with the points that are theirs."});
    all.push_back(
        {"laid-against",
         Group::shape,
         "a part laid against another",
         "Lay {what} against {other}, its face nearest to {own} on the one nearest to {place}[, turned by {angle}]",
         {whereField("what", partTargets, "what is moved and turned", "Foot"),
          whereField("other", partTargets, "the part it comes to lie on", "Block"),
          textField("own", place, "a place on its face", "0, 0, 0 m"),
          textField("place", place, "the place on the other's face where that comes to lie", "0, 0, 100 mm"),
          optionalField(quantityField("angle", "the angle about the line square to the face", K::angle, "90 deg"))},
         "The two faces are flat. The place on the one comes to lie on the place on the other, and the faces look at "
         "each other."});
    all.push_back(
        {"turned",
         Group::shape,
         "parts turned",
         "Turn {what} by {angle} about {axis} through {through}",
         {whereField("what", partTargets, "what is turned", "everything"),
          quantityField("angle", "the angle", K::angle, "30 deg"), choiceField("axis", "the axis", {"z", "x", "y"}),
          textField("through", place, "a point of the axis", "0, 0, 0 m")},
         "Members and sheets that stand above this sentence, with the points that are theirs."});
}

} // namespace undisona
