// The sentences of the groups Joints and Supports.
#include "core/model/grammar_fields.hpp"

namespace undisona {

namespace {

using enum FieldType;
using K = QuantityKind;

/// Six optional stiffnesses, "kx" to "krz", and their part of the phrase.
void addSixStiffnesses(SentenceKind& kind, const std::string& lead)
{
    for (std::size_t direction = 0; direction < 6; ++direction) {
        const std::string axis(directionNames[direction]);
        const bool turning = direction >= 3;
        kind.fields.push_back(optionalField(positiveField(quantityField(
            "k" + axis, "the stiffness " + std::string(turning ? "about " : "along ") + axis.substr(turning),
            turning ? K::turningStiffness : K::stiffness, turning ? "1 kN m/rad" : "1 kN/mm"))));
        kind.phrase += "[" + lead + "{k" + axis + "} " + (turning ? "about " : "along ") + axis.substr(turning) + "]";
    }
}

/// Words that tell one support from another, and by which an Ask may leave it out.
void addLabel(SentenceKind& kind)
{
    kind.fields.push_back(optionalField(textField("label", label, "what it is", "mounts")));
    kind.phrase += "[: {label}]";
}

/// When a support holds, if not always.
void addPurpose(SentenceKind& kind)
{
    kind.fields.push_back(optionalField(choiceField("when", "when it holds, if not always",
                                                    {"in vibration, not at rest", "at rest, not in vibration"})));
    kind.phrase += "[, {when}]";
}

// Of what bears on one side alone.
Field gapBefore(const std::string& label)
{
    return optionalField(atLeast(quantityField("gap", label, K::length, "2 mm"), 0.0));
}
Field ownStiffness()
{
    return optionalField(positiveField(quantityField("stiffness", "its stiffness", K::stiffness, "5 kN/mm")));
}
Field gripSideways()
{
    return optionalField(positiveField(
        quantityField("grip", "the stiffness of friction sideways while it bears", K::stiffness, "1 kN/mm")));
}

Field frictionAtRest()
{
    return optionalField(positiveField(quantityField(
        "friction", "the force sideways that it holds at rest by one that it pushes with", K::number, "0.3")));
}

/// A frame of its own for a support, a spring or a body.
void addFrame(SentenceKind& kind)
{
    kind.fields.push_back(optionalField(vectorField("x-towards", "the direction of its x axis", K::number, "1, 0, 0")));
    kind.fields.push_back(optionalField(vectorField("y-near", "a direction near its y axis", K::number, "0, 1, 0")));
    kind.phrase += "[, its x towards {x-towards}][, its y near {y-near}]";
}

/// Directions that turn about an axis.
void addAxis(SentenceKind& kind)
{
    kind.fields.push_back(optionalField(
        vectorField("about", "the axis from which x leads outwards, y round and z along", K::number, "0, 0, 1")));
    kind.fields.push_back(optionalField(vectorField("through", "a place on that axis", K::length, "0, 0, 0 m")));
    kind.phrase += "[, x outwards from the axis {about}][ through {through}]";
}

} // namespace

void addJointKinds(std::vector<SentenceKind>& all)
{
    all.push_back({"release",
                   Group::joints,
                   "a released member end",
                   "Free {ends} of {members} in {directions}[, sprung by {stiffness}][, sprung by {turning}]",
                   {choiceField("ends", "the ends", {"both ends", "the first end", "the second end"}),
                    whereField("members", Target::member, "the members", "everything"),
                    textField("directions", directions, "the freed directions", "ry rz"),
                    optionalField(positiveField(
                        quantityField("stiffness", "the spring in freed translations", K::stiffness, "1 kN/mm"))),
                    optionalField(positiveField(quantityField("turning", "the spring in freed rotations",
                                                              K::turningStiffness, "10 kN m/rad")))},
                   "A hinge or a slide at a member's end, in the member's own axes: x along it, y and z of its "
                   "section. A stiffness makes it half free."});

    all.push_back({"rigid",
                   Group::joints,
                   "what is tied rigidly to a point",
                   "Tie {points} rigidly to {to}[, in {directions} alone]",
                   {whereField("points", anyTarget, "what is tied", "b"),
                    whereField("to", Target::point, "the leading point", "a"),
                    optionalField(textField("directions", directions, "the tied directions", "x y z"))},
                   "Points, or all that members, edges, sheets, faces or solids have of them, move with the leading "
                   "point as one rigid body, exactly: a bolt hole's rim with the bolt, a motor's feet with its "
                   "middle. In some directions alone, they follow it there and are free in the others."});

    all.push_back(
        {"mean",
         Group::joints,
         "a point that follows the mean of others",
         "Let {point} follow the mean of {of}",
         {whereField("point", Target::point, "the following point", "a"),
          whereField("of", placeTargets | (Target::member | Target::sheet), "what it follows", "b")},
         "The point moves and turns as these do in the mean, by their areas or lengths, and does not stiffen "
         "them: a device on a floor, a load spread over a pad. Forces and moments on the point are shared out "
         "over them."});

    all.push_back({"centre",
                   Group::joints,
                   "a point in the middle of what it joins",
                   "Point {name} in the middle of {where}, {how}[, in {directions} alone]",
                   {textField("name", FieldType::name, "the name of the point", "Hub"),
                    whereField("where", placeTargets | (Target::member | Target::sheet), "what it is the middle of",
                               "rims of Plate"),
                    choiceField("how", "how it goes with them", {"tied rigidly to it", "following its mean"}),
                    optionalField(textField("directions", directions, "the tied directions", "x y rz"))},
                   "A bolt's axis in the rim of its hole, a bearing in its bore, a lug on its faces: the sentence "
                   "makes the point "
                   "and joins it, rigidly or without stiffening anything. A floor that is stiff in its plane: its "
                   "points, tied rigidly in x y rz alone.",
                   {Touch::mesh, Touch::stiffness, Touch::mass}});

    all.push_back({"offset",
                   Group::joints,
                   "members beside their points",
                   "Run {members} beside their points by {offset}[, at the second end by {far}][, in {axes} axes]",
                   {whereField("members", Target::member, "the members", "everything"),
                    vectorField("offset", "the offset of the centroid line", K::length, "0, 0, 50 mm"),
                    optionalField(vectorField("far", "the offset at the second end", K::length, "0, 0, 50 mm")),
                    optionalField(choiceField("axes", "the axes of the offset", {"global", "member"}))},
                   "The centroid line runs beside the points, joined to them by rigid arms.",
                   {Touch::mesh, Touch::stiffness, Touch::mass}});

    all.push_back({"rods",
                   Group::joints,
                   "members as rods",
                   "Let {members} carry force along themselves alone",
                   {whereField("members", Target::member, "the members", "Stays")},
                   "Ties and stays that are hinged at both ends and whose own swaying is of no interest: one element "
                   "each, with their mass, without bending and twisting."});

    all.push_back({"membranes",
                   Group::joints,
                   "sheet as membrane",
                   "Let {sheets} carry forces in their plane alone",
                   {whereField("sheets", Target::sheet, "the sheets", "Cover")},
                   "Cloth, foil and thin skins on a body: stiff in their own plane, without bending. What nothing "
                   "else holds square to its plane is loose."});

    all.push_back(
        {"apart",
         Group::joints,
         "parts that touch but are not joined",
         "{what} and {other} are not joined",
         {whereField("what", Target::sheet | Target::solid, "the one part", "Plate"),
          whereField("other", Target::sheet | Target::solid, "the other part", "Rib")},
         "Parts that touch are joined along their common lines and faces unless it is said here that they are not. "
         "Where a third one joins both they stay together.",
         {Touch::mesh}});

    constexpr Targets surfaces = Target::sheet | Target::face | Target::solid;
    const Field reach = optionalField(
        positiveField(quantityField("reach", "how far the surfaces may be from each other", K::length, "1 mm")));
    all.push_back(
        {"join",
         Group::joints,
         "parts joined across a gap, or with a mesh each",
         "Join {what} to {other}[, {turning}][, sprung by {spring}][, within {reach}]",
         {whereField("what", surfaces | (Target::edge | Target::member), "the one side", "Bracket"),
          whereField("other", surfaces, "the other side", "Wall"),
          optionalField(choiceField(
              "turning", "how edges and members turn, or surfaces slide",
              {"hinged", "turning with it", "sliding along it", "hinged and sliding along it", "sliding on it"})),
          optionalField(positiveField(quantityField("spring", "the stiffness of the hinge per length of the edge",
                                                    K::turningStiffnessPerLength, "10 kN/rad"))),
          reach},
         "Where their surfaces face each other the one moves with the other, as if welded or glued, whatever "
         "mesh each has: sheet on a casting, a wall's edge on a floor, bodies with a gap of the drawing between "
         "them. Edges of sheet and members turn with what they stand on, unless they are hinged; a hinge along an "
         "edge may have a stiffness, and an edge may slide along itself; surfaces may slide on each other. A member "
         "that stands on the other side "
         "follows it over its whole section, one that lies along it follows with all of its length. Where parts "
         "touch, name the parts.",
         {Touch::mesh, Touch::stiffness, Touch::mass}});
    const auto spread = [](std::string key, std::string label, std::string fallback) {
        Field field = quantityField(std::move(key), std::move(label), K::stiffnessPerArea, std::move(fallback));
        field.otherKinds = {K::stiffnessPerLength, K::stiffness};
        return field;
    };
    all.push_back(
        {"layer",
         Group::joints,
         "springs spread between two parts",
         "Between {what} and {other}: {across} across and {along} along[, within {reach}]",
         {whereField("what", surfaces | Target::edge, "the one side", "Machine"),
          whereField("other", surfaces, "the other side", "Floor"),
          positiveField(spread("across", "the stiffness across, per area, per length of edges, or in all", "1 N/mm3")),
          atLeast(spread("along", "the stiffness along the surfaces, per area, per length of edges, or in all",
                         "0.3 N/mm3"),
                  0.0),
          reach},
         "Rubber, cork, grout, glue or a gasket where two surfaces face each other: modulus by thickness, "
         "E/t across and G/t along, times the width for a seal along an edge; N/mm is shared over all that faces "
         "each other. The parts are not joined but by it. Where they touch, name the parts.",
         {Touch::mesh, Touch::stiffness}});

    SentenceKind spring{"spring",
                        Group::joints,
                        "a spring between two points",
                        "Spring between {from} and {to}",
                        {whereField("from", Target::point, "its first point", "a"),
                         whereField("to", Target::point, "its second point", "b")},
                        "Up to six stiffnesses between two points. If they are apart, the spring sits at the middle "
                        "on rigid arms, so that turning the whole costs nothing."};
    addSixStiffnesses(spring, ", ");
    addFrame(spring);
    all.push_back(spring);

    std::vector<Field> columns;
    for (const char* column : {"along x", "along y", "along z", "about x", "about y", "about z"}) {
        columns.push_back(quantityField(column, column, K::stiffness, "0 N/m"));
        columns.back().otherKinds = {K::turningStiffnessPerLength, K::turningStiffness};
    }
    SentenceKind mount{"mount",
                       Group::joints,
                       "a mount with all its stiffnesses",
                       "Mount between {from} and {to}: {rows}",
                       {whereField("from", Target::point, "its first point", "a"),
                        whereField("to", Target::point, "its second point", "b"),
                        atLeast(tableField("the six rows: forces along, then moments about x, y, z", columns), 6.0)},
                       "A rubber mount or a coupling whose table of six by six is known, in axes of its own: N/m along "
                       "them, N/rad where a turn makes a force, N m/rad about them."};
    addFrame(mount);
    all.push_back(mount);

    all.push_back(
        {"bolt",
         Group::joints,
         "a bolted joint",
         "Bolt {from} to {to}: {size} through {grip}[ of {clamped}][, bolt of {material}][, along {axis}]",
         {whereField("from", Target::point, "the point on the one side", "a"),
          whereField("to", Target::point, "the point on the other side", "b"),
          positiveField(quantityField("size", "the bolt's diameter", K::length, "12 mm")),
          positiveField(quantityField("grip", "the length that it clamps", K::length, "30 mm")),
          optionalField(textField("clamped", FieldType::material, "what is clamped", "structural steel")),
          optionalField(textField("material", FieldType::material, "what the bolt is of", "structural steel")),
          optionalField(vectorField("axis", "the direction of the bolt", K::number, "0, 0, 1"))},
         "A tightened bolt between two plates: stiff along itself, in shear and in tilting by its own size, "
         "its grip and the cones that it presses together. Tie each point rigidly to the rim of its hole, or "
         "let it follow its mean."});

    SentenceKind oneSided{
        "one-sided",
        Group::joints,
        "a rope, a strut or a stop between two points",
        "{from} and {to} {way}[, along {direction}][, after {gap}][, as stiff as {stiffness}]"
        "[, gripped sideways by {grip} in vibration][, with friction of {friction} at rest]",
        {whereField("from", Target::point, "its first point", "a"),
         whereField("to", Target::point, "its second point", "b"),
         choiceField("way", "what passes between them", {"only pull each other", "only push each other"}),
         optionalField(vectorField("direction", "the way from the second point to the first, if not straight there",
                                   K::number, "0, 0, 1")),
         gapBefore("the slack or the gap before it bears"), ownStiffness(), gripSideways(), frictionAtRest()},
        "A rope or a chain pulls, a strut that is not fastened, a stop or a buffer pushes, and neither does the "
        "other. In a static state it bears or it does not, as its loads have it; modes about that state have it so. "
        "Modes about none take it as bearing, unless there is a gap."};
    addLabel(oneSided);
    all.push_back(oneSided);
}

void addSupportKinds(std::vector<SentenceKind>& all)
{
    SentenceKind hold{
        "hold",
        Group::supports,
        "held points, edges or parts",
        "Hold {where} in {directions}",
        {whereField("where", anyTarget, "what is held", "points at z = 0 m"),
         textField("directions", directions, "the held directions", "x y z")},
        "A rigid support in the named directions, of points, or of all that members, edges, sheets, faces "
        "or solids have of them; a stiffness makes one of them elastic at points. \"x y z\" is a pin, "
        "\"all\" holds the rotations too. Directions may turn about an axis, as in a bearing, or follow an edge."};
    addSixStiffnesses(hold, ", elastic ");
    addFrame(hold);
    addAxis(hold);
    hold.fields.push_back(
        optionalField(choiceField("follow", "directions that follow the edge", {"x along the edge"})));
    hold.fields.push_back(optionalField(
        choiceField("others", "whether others like them are free on purpose", {"and no others like them"})));
    hold.phrase += "[, {follow}][, {others}]";
    addPurpose(hold);
    addLabel(hold);
    all.push_back(hold);

    SentenceKind ground{"ground-spring",
                        Group::supports,
                        "springs to ground",
                        "Spring each of {points} to ground",
                        {whereField("points", Target::point, "the sprung points", "points at z = 0 m")},
                        "Up to six stiffnesses from each point to ground. What gives way to slow motion, as a damper "
                        "strut or a shock arrester, holds in vibration alone; what carries weight but slides in "
                        "vibration, at rest alone."};
    addSixStiffnesses(ground, ", ");
    addFrame(ground);
    addAxis(ground);
    addPurpose(ground);
    addLabel(ground);
    all.push_back(ground);

    SentenceKind rests{
        "rests-on",
        Group::supports,
        "a support that only pushes",
        "{points} bear on what pushes along {direction}[, {sides}][, after a gap of {gap}][, as stiff as {stiffness}]"
        "[, gripped sideways by {grip} in vibration][, with friction of {friction} at rest]",
        {whereField("points", bearingTargets, "the points, edges, faces, sheets or members", "points at z = 0 m"),
         vectorField("direction", "the way in which it pushes the structure", K::number, "0, 0, 1"),
         optionalField(choiceField("sides", "from how many sides", {"from one side", "from both sides"})),
         gapBefore("the gap before it bears"),
         [] {
             Field field = ownStiffness();
             field.otherKinds = {K::stiffnessPerLength, K::stiffnessPerArea};
             return field;
         }(),
         gripSideways(), frictionAtRest()},
        "A pipe on its hanger, a foot that may lift, a guide with a gap, a stop; a base plate on its floor, a rail on "
        "its "
        "bed, which bear here and lift there. In a static state it bears or it does "
        "not, as its loads have it; modes about that state have it so. Modes about none take it as bearing, unless "
        "there is a gap. With friction it holds sideways at rest until that slides; what slides has no grip in modes "
        "about the state. The opposite direction makes a support that only pulls."};
    addLabel(rests);
    all.push_back(rests);

    Field stiffness = positiveField(
        quantityField("stiffness", "the stiffness, in all or per length, area or volume", K::stiffness, "1 kN/mm"));
    stiffness.otherKinds = {K::stiffnessPerLength, K::stiffnessPerArea, K::stiffnessPerVolume};
    SentenceKind bed{"bed",
                     Group::supports,
                     "an elastic bed",
                     "Bed {where} on {stiffness} along {directions}",
                     {whereField("where", spreadTargets, "what is bedded", "everything"), stiffness,
                      textField("directions", translations, "the directions", "z")},
                     "Stiffness to ground, in global directions: soil, grout, rubber, a seal. N/m2 is meant per length "
                     "of members and "
                     "edges, N/m3 per area of sheets and faces, N/m4 per volume of solids, and N/m is shared over all "
                     "that is named."};
    addPurpose(bed);
    addLabel(bed);
    all.push_back(bed);
}

} // namespace undisona
