// The sentences of the groups Added mass, Excitation and Ask.
#include "core/model/grammar.hpp"

namespace undisona {

namespace {

using enum FieldType;
using K = QuantityKind;

Field labelField(std::string fallback)
{
    return optionalField(textField("label", label, "what it is", std::move(fallback)));
}

Field onlyAlong()
{
    return optionalField(textField("only", translations, "the only directions in which it acts", "x y"));
}

Field marginField()
{
    Field field = quantityField("margin", "the margin to keep clear", K::share, "15 %");
    field.least = 0.0;
    field.most = 1.0;
    return field;
}

/// How an excitation enters the structure; unknown unless said.
void addEntry(SentenceKind& kind)
{
    kind.fields.push_back(marginField());
    kind.fields.push_back(optionalField(
        choiceField("entry", "the way in", {"through the base", "as a force", "as a moment", "in a way unknown"})));
    kind.fields.push_back(optionalField(whereField("points", Target::point, "where it enters", "everything")));
    kind.fields.push_back(optionalField(textField("along", translations, "the directions it shakes", "x y")));
    kind.phrase += ", keep {margin} clear[, shakes {entry}][ at {points}][ along {along}]";
}

/// Where a body's own centre is, how it resists turning, and which words tell it from others.
void addBody(SentenceKind& kind)
{
    for (Field field : {vectorField("centre", "its centre from the point", K::length, "0, 0, 240 mm"),
                        vectorField("inertia", "its rotary inertia about x, y, z through its own centre", K::inertia,
                                    "1, 1, 1 kg m2"),
                        vectorField("products", "its products of inertia xy, xz, yz (integrals of x y dm)", K::inertia,
                                    "0, 0, 0 kg m2"),
                        choiceField("body", "its simple shape", {"box", "cylinder along z", "ball", "ring about z"}),
                        vectorField("size", "its size along x, y, z; of a ring outer and inner diameter and height",
                                    K::length, "300, 300, 300 mm"),
                        vectorField("x-towards", "the direction of its x axis", K::number, "1, 0, 0"),
                        vectorField("y-near", "a direction near its y axis", K::number, "0, 1, 0")})
        kind.fields.push_back(optionalField(std::move(field)));
    kind.fields.push_back(onlyAlong());
    kind.fields.push_back(labelField("gearbox"));
    kind.phrase += "[, centre {centre} from it][, rotary inertia {inertia}][, products {products}][, as a {body} of]"
                   "[ {size}][, its x towards {x-towards}][, its y near {y-near}][, only along {only}][: {label}]";
}

} // namespace

void addMassKinds(std::vector<SentenceKind>& all)
{
    SentenceKind mass{"mass",
                      Group::addedMass,
                      "a mass at points",
                      "{mass} {sharing} {points}",
                      {
                          quantityField("mass", "the mass", K::mass, "85 kg"),
                          choiceField("sharing", "how several points take it", {"on", "on each of", "shared over"}),
                          whereField("points", Target::point, "the points", "points at z = 0 m"),
                      },
                      "Equipment with mass and no stiffness. It is one mass and acts in every direction; \"only "
                      "along\" limits it. Less than nothing takes away what is drawn and is not there."};
    addBody(mass);
    all.push_back(mass);

    SentenceKind carried{
        "carried",
        Group::addedMass,
        "a device carried by faces, rims or points",
        "{name}, {mass}, carried by {where} {how}",
        {textField("name", FieldType::name, "the name of the device", "Motor"),
         atLeast(quantityField("mass", "the mass", K::mass, "38 kg"), 0.0),
         whereField("where", placeTargets | (Target::member | Target::sheet), "what carries it", "points at z = 0 m"),
         choiceField("how", "how it is carried", {"in the mean", "as one rigid body"})},
        "A motor on its pads, a box on two faces: the sentence makes a point of that name in the middle "
        "of what carries it, from which the centre is measured. In the mean stiffens nothing; as one rigid "
        "body holds all of it together.",
        {Touch::mesh, Touch::stiffness, Touch::mass}};
    addBody(carried);
    all.push_back(carried);

    Field spread = quantityField("mass", "the mass, in all or per length, area or volume", K::mass, "100 kg");
    spread.otherKinds = {K::massPerLength, K::massPerArea, K::density};
    all.push_back(
        {"mass-spread",
         Group::addedMass,
         "a mass spread evenly",
         "{mass} spread over {where}[, only along {only}][: {label}]",
         {spread, whereField("where", spreadTargets, "what carries it", "everything"), onlyAlong(),
          labelField("cables")},
         "Cables, railings, covering, insulation, stores: kg/m is meant per length of members and edges, kg/m2 "
         "per area of sheets and faces, kg/m3 per volume of solids, and kg is shared over all that is named. Less than "
         "nothing takes away: cut-outs that are not drawn."});

    Field load = atLeast(quantityField("load", "the weight, in all or per length or area", K::force, "2 kN"), 0.0);
    load.otherKinds = {K::forcePerLength, K::forcePerArea};
    Field counted = optionalField(atLeast(quantityField("share", "how much of it counts", K::share, "30 %"), 0.0));
    counted.most = 10.0;
    all.push_back(
        {"weight",
         Group::addedMass,
         "a weight, or a load that stands there",
         "{load} of weight on {where}[, {share} of it][, pointing along {direction}][, g being {g}][, only along "
         "{only}][: {label}]",
         {load, whereField("where", spreadTargets | Target::point, "what it stands on", "highest points"), counted,
          optionalField(vectorField("direction", "where it points; down unless said", K::number, "0, 0, -1")),
          optionalField(positiveField(quantityField("g", "gravity", K::acceleration, "9.80665 m/s2"))), onlyAlong(),
          labelField("live load")},
         "Loads as mass, by g: kN/m and lbf/ft are meant per length of members and edges, kN/m2 and psf per area of "
         "sheets and faces, and kN is shared over all that is named. Only what points down counts; a load that points "
         "sideways, as wind does, is refused."});

    Field where = whereField("where", spreadTargets | Target::point, "what it stands on", "everything");
    Field part = optionalField(atLeast(quantityField("share", "how much of it counts", K::share, "100 %"), 0.0));
    part.most = 10.0;
    Field rows{"rows", table, "the loads", {}};
    rows.columns = {where, load, part, optionalField(textField("what", label, "what it is", ""))};
    all.push_back(
        {"loads",
         Group::addedMass,
         "a list of weights and loads",
         "Loads {rows}[, g being {g}][, only along {only}][: {label}]",
         {rows, optionalField(positiveField(quantityField("g", "gravity", K::acceleration, "9.80665 m/s2"))),
          onlyAlong(), labelField("loads")},
         "A load list pasted from a spreadsheet, a line each: where, how much in kN, kN/m, kN/m2, lbf/ft or psf, "
         "and, if need be, the share that counts and what it is. Each is read as \"a weight, or a load that stands "
         "there\" is."});

    all.push_back(
        {"contents",
         Group::addedMass,
         "what pipes are filled with",
         "{density} in {where}[, filled to {share}][: {label}]",
         {positiveField(quantityField("density", "the density", K::density, "1000 kg/m3")),
          whereField("where", Target::member, "the pipes", "everything"),
          [] {
              Field share =
                  optionalField(atLeast(quantityField("share", "how much of the bore", K::share, "100 %"), 0.0));
              share.most = 1.0;
              return share;
          }(),
          labelField("contents")},
         "Liquid in members that are tubes or boxes: it moves with the wall across the pipe and slides along it."});

    all.push_back({"lining",
                   Group::addedMass,
                   "a lining of pipes",
                   "{thickness} of {density} inside {where}[: {label}]",
                   {positiveField(quantityField("thickness", "the thickness", K::length, "3 mm")),
                    positiveField(quantityField("density", "the density", K::density, "1300 kg/m3")),
                    whereField("where", Target::member, "the pipes", "everything"), labelField("lining")},
                   "Rubber, mortar or scale on the inside of members that are tubes or boxes."});

    all.push_back(
        {"coating",
         Group::addedMass,
         "a coating",
         "{thickness} of {density} on {where}[, on {sides} of sheet][: {label}]",
         {atLeast(quantityField("thickness", "the thickness", K::length, "6 mm"), 0.0),
          atLeast(quantityField("density", "the density", K::density, "900 kg/m3"), 0.0),
          whereField("where", Target::member | Target::sheet | Target::face, "what is coated", "everything"),
          optionalField(choiceField("sides", "the sides of sheet", {"one side", "both sides"})), labelField("ice")},
         "Ice, insulation, marine growth, paint: thickness times density, as a layer round the outside of members, on "
         "one side of sheet unless both are said, and on faces of solids."});

    all.push_back({"one-body",
                   Group::addedMass,
                   "members and masses as one body",
                   "The mass of {what} stands at {point} as one body[: {label}]",
                   {whereField("what", Target::member | Target::point,
                               "the members, and the points whose masses they are", "points at z = 3 m"),
                    whereField("point", Target::point, "the point at which it stands", "Floor"),
                    optionalField(textField("label", FieldType::label, "what it is", "first storey"))},
                   "A storey as its equivalent: the mass of its members, what is spread over them and stands at its "
                   "points becomes "
                   "one mass with the centre and the rotary inertia that all of it has. Tie the storey to the point, "
                   "in its plane "
                   "or wholly; switched off, each piece has its mass again."});
    all.push_back(
        {"weighed",
         Group::addedMass,
         "what the scale says",
         "{what} weighs {mass}[ by {source}]",
         {whereField("what", partTargets | Target::point, "what was weighed", "everything"),
          positiveField(quantityField("mass", "the mass as weighed or drawn", K::mass, "100 kg")),
          optionalField(textField("source", label, "who says so", "the scale"))},
         "Changes nothing: the mass book sets it beside what the model has of these parts, with what is spread over "
         "them and stands at the points named; of \"everything\" beside the whole.",
         {Touch::reading}});
}

void addExcitationKinds(std::vector<SentenceKind>& all)
{
    const auto speed = [](std::string key, std::string label, std::string fallback) {
        return positiveField(quantityField(std::move(key), std::move(label), K::frequency, std::move(fallback)));
    };
    const Field orders = textField("orders", FieldType::orders, "the orders", "1");
    const auto source = [](std::string fallback) {
        return textField("name", FieldType::name, "the name of the source", std::move(fallback));
    };

    SentenceKind running{"running-speed",
                         Group::excitation,
                         "a running speed with its orders",
                         "{name} turns at {speed}, orders {orders}",
                         {source("Pump"), speed("speed", "the speed", "1480 rpm"), orders},
                         "A machine at one speed; each order shakes at order times speed."};
    addEntry(running);
    all.push_back(running);

    SentenceKind range{"speed-range",
                       Group::excitation,
                       "a speed range with orders",
                       "{name} runs from {low} to {high}, orders {orders}",
                       {source("Motor"), speed("low", "the lowest speed", "600 rpm"),
                        speed("high", "the highest speed", "1500 rpm"), orders},
                       "A machine whose speed varies; answered in critical speeds."};
    addEntry(range);
    all.push_back(range);

    SentenceKind fixed{"fixed-frequency",
                       Group::excitation,
                       "a fixed frequency",
                       "{name} shakes at {frequency}",
                       {source("Device"), speed("frequency", "the frequency", "50 Hz")},
                       "A device that shakes at one frequency."};
    addEntry(fixed);
    all.push_back(fixed);

    SentenceKind band{
        "frequency-band",
        Group::excitation,
        "a band of frequencies",
        "{name} shakes anywhere from {low} to {high}",
        {source("Walking"), speed("low", "the lower edge", "1.6 Hz"), speed("high", "the upper edge", "2.4 Hz")},
        "Anything that may shake within a band, as walking does."};
    addEntry(band);
    all.push_back(band);
}

void addAskKinds(std::vector<SentenceKind>& all)
{
    all.push_back({"lowest",
                   Group::ask,
                   "so many modes",
                   "Find the {count} lowest modes",
                   {countField("count", "the number of modes", "12", 1, 100000)},
                   "The lowest natural frequencies; modes of equal frequency are never cut apart."});

    all.push_back({"up-to",
                   Group::ask,
                   "all modes up to a frequency",
                   "Find every mode up to {frequency}, at most {most}",
                   {positiveField(quantityField("frequency", "the frequency", K::frequency, "60 Hz")),
                    countField("most", "the largest number of modes", "200", 1, 100000)},
                   "All natural frequencies below a limit."});

    all.push_back({"band",
                   Group::ask,
                   "all modes in a band of frequencies",
                   "Find every mode from {from} to {to}, at most {most}",
                   {positiveField(quantityField("from", "the lower end", K::frequency, "20 Hz")),
                    positiveField(quantityField("to", "the upper end", K::frequency, "60 Hz")),
                    countField("most", "the largest number of modes", "200", 1, 100000)},
                   "The natural frequencies between two limits; nothing below the band is computed."});

    all.push_back({"nearest",
                   Group::ask,
                   "the modes nearest to a frequency",
                   "Find the {count} modes nearest to {frequency}",
                   {countField("count", "the number of modes", "6", 1, 10000),
                    positiveField(quantityField("frequency", "the frequency", K::frequency, "25 Hz"))},
                   "Where one excitation is all that matters; nothing far from it is computed."});

    all.push_back({"every-mode",
                   Group::ask,
                   "every mode of a small model",
                   "Find every mode there is",
                   {},
                   "All of them, up to 2500 unknowns, on the mesh as it is first made."});

    const auto share = [](std::string key, std::string label) {
        Field field = quantityField(std::move(key), std::move(label), K::share, "90 %");
        field.positive = true;
        field.most = 1.0;
        return field;
    };
    all.push_back(
        {"mass-share",
         Group::ask,
         "until enough mass takes part",
         "Find modes until {share} of the {of} mass in {directions} takes part[, but {share-x} along x]"
         "[, but {share-y} along y][, but {share-z} along z], at most {most}",
         {share("share", "the share of the mass"), choiceField("of", "the mass it is a share of", {"total", "movable"}),
          textField("directions", translations, "the directions", "x y"),
          optionalField(share("share-x", "a target of its own along x")),
          optionalField(share("share-y", "a target of its own along y")),
          optionalField(share("share-z", "a target of its own along z")),
          countField("most", "the largest number of modes", "80", 1, 100000)},
         "The run goes on until the effective masses add up to the target in each named direction."});

    all.push_back({"ritz-vectors",
                   Group::ask,
                   "Ritz vectors for given loads",
                   "Build Ritz vectors from {from} along {directions}[ on {at}][ until {share} of the mass takes part]"
                   "[, but {share-x} along x][, but {share-y} along y][, but {share-z} along z], at most {most}",
                   {choiceField("from", "the loads", {"base accelerations", "self weight", "unit forces"}),
                    textField("directions", translations, "the directions", "x y"),
                    optionalField(whereField("at", Target::point, "the loaded points", "p")),
                    optionalField(share("share", "the share of the mass")),
                    optionalField(share("share-x", "a target of its own along x")),
                    optionalField(share("share-y", "a target of its own along y")),
                    optionalField(share("share-z", "a target of its own along z")),
                    countField("most", "the largest number of vectors", "12", 1, 10000)},
                   "Shapes made from the static answers to loads. They reach a share of the mass with far fewer "
                   "vectors than modes do, but they are not modes: drawn as diamonds, neither counted nor paired."});

    all.push_back({"residual-vectors",
                   Group::ask,
                   "residual vectors beside the modes",
                   "Add residual vectors for {from} along {directions}[ on {at}]",
                   {choiceField("from", "the loads", {"base accelerations", "self weight", "unit forces"}),
                    textField("directions", translations, "the directions", "x y z"),
                    optionalField(whereField("at", Target::point, "the loaded points", "p"))},
                   "What the modes found leave of the static flexibility under these loads: with it a response to "
                   "them is exact at rest. Written beside the modes, never counted among them."});

    Field within = quantityField("error", "the largest mesh error of a frequency", K::share, "1 %");
    within.least = 1e-4;
    within.most = 0.2;
    all.push_back({"refine",
                   Group::ask,
                   "refining the mesh until it is fine enough",
                   "Refine until every mode[ below {frequency}] is within {error}",
                   {optionalField(positiveField(
                        quantityField("frequency", "the frequency up to which modes count", K::frequency, "60 Hz"))),
                    within},
                   "Where the estimated mesh error sits the elements are made smaller and the run begins anew, until "
                   "the error of each frequency is as small as this, or no smaller elements can be had.",
                   {Touch::ask, Touch::mesh}});

    Field error = quantityField("error", "the largest error of an eigenvalue", K::number, "1e-8");
    error.least = 1e-12;
    error.most = 1e-3;
    all.push_back({"accuracy",
                   Group::ask,
                   "how accurate a mode must be",
                   "Take a mode when its error is below {error}",
                   {error},
                   "The relative error of an eigenvalue and the residual of its mode: 1e-8 unless said otherwise. "
                   "What the numbers themselves can hold is the limit, and is said."});

    all.push_back(
        {"proof",
         Group::ask,
         "whether the modes are counted",
         "{proof} that none is missed",
         {choiceField("proof", "whether modes are counted", {"Prove", "Do not prove"})},
         "The count by inertia proves that no mode is missing and costs about one more factorisation. Without "
         "it the result says that it is not proven."});

    all.push_back({"leave-out",
                   Group::ask,
                   "masses and supports to do without",
                   "Leave out {what}",
                   {textField("what", label, "labels of masses and supports, with commas", "contents")},
                   "So that one model holds several states: empty and full, bare and loaded, this support or that. "
                   "They keep their place; switch this sentence off to have them back.",
                   {Touch::stiffness, Touch::mass}});

    all.push_back(
        {"state",
         Group::ask,
         "a state beside this one",
         "State {name}: without {without}[, with {with}][, about its rest under {about}]",
         {textField("name", label, "the name of the state", "empty"),
          textField("without", label, "labels of masses and supports, with commas, or nothing", "nothing"),
          optionalField(textField("with", label, "labels or names of sentences that are off", "ice")),
          optionalField(textField("about", label, "the static state of its loads that its modes are about", "hot"))},
         "Full and empty, bare and iced, one mount broken, hot and cold: the state is solved beside the model "
         "and stands below it on the Score, and follows whatever changes in the model.",
         {Touch::reading}});

    all.push_back({"about-state",
                   Group::ask,
                   "modes about a static state",
                   "Find them about the static state {state}",
                   {textField("state", label, "the static state that loads make", "hung")},
                   "What pulls makes a structure stiffer across, what presses makes it softer: the modes are those of "
                   "small motions about the state that these loads hold it in."});

    all.push_back({"mass-matrix",
                   Group::ask,
                   "how mass is put on the nodes",
                   "Use {matrix} mass",
                   {choiceField("matrix", "the mass matrix", {"consistent", "lumped"})},
                   "Consistent unless said otherwise; lumped mass converges from below and more slowly.",
                   {Touch::mass}});

    all.push_back({"mass-acts",
                   Group::ask,
                   "vertical modes only, or those along other directions",
                   "Let mass act only along {directions}",
                   {textField("directions", translations, "the directions", "z")},
                   "As in the vertical check of a floor: all mass, of parts and added, acts along these global "
                   "directions alone and without rotary inertia, so that the modes along others are gone.",
                   {Touch::mass}});

    all.push_back({"fineness",
                   Group::ask,
                   "how finely members are split",
                   "Split every member into {elements} elements",
                   {countField("elements", "the number of elements", "4", 1, 1000)},
                   "Without this, three elements go to each half wave of bending and the estimated error decides.",
                   {Touch::mesh}});

    all.push_back(
        {"sheet-mesh",
         Group::ask,
         "how finely sheet is meshed",
         "Mesh sheet {fineness}",
         {choiceField("fineness", "the fineness", {"coarse", "fair", "fine"})},
         "Without this it is fair: eight elements to each half wave of bending at the highest frequency asked, "
         "and eight across at least. Coarse takes five, fine twelve.",
         {Touch::mesh}});

    all.push_back(
        {"solid-elements",
         Group::ask,
         "the elements of a solid",
         "Make {what} of {elements}[, {through} through the thickness]",
         {whereField("what", Target::solid, "the solids", "Block"),
          choiceField("elements", "the elements",
                      {"what its shape allows", "tetrahedra", "20-node bricks", "8-node bricks"}),
          optionalField(countField("through", "how many at least", "2", 1, 50))},
         "A body that is drawn out or turned is filled with bricks and wedges of 20 and 15 nodes, others with "
         "tetrahedra of 10. Bricks of 8 nodes are quicker, and stiff where they are not rectangular.",
         {Touch::mesh}});

    all.push_back({"size-at",
                   Group::ask,
                   "smaller elements at a place",
                   "Elements of {size} at {where}",
                   {positiveField(quantityField("size", "the size of the elements", K::length, "10 mm")),
                    whereField("where", anyTarget, "what they are at", "rims of Plate")},
                   "On what is named the mesh is as fine as this, and grows coarser away from it.",
                   {Touch::mesh}});

    all.push_back({"reference-point",
                   Group::ask,
                   "where rotations are taken about",
                   "Take rotations about {at}",
                   {textField("at", place, "the reference point", "0, 0, 0 m")},
                   "The mass centre unless said otherwise."});

    all.push_back(
        {"hand-check",
         Group::ask,
         "a hand check by a unit load",
         "Check by hand with a unit {load} on {point} along {direction}",
         {choiceField("load", "the load", {"force", "moment"}), whereField("point", Target::point, "the point", "p"),
          choiceField("direction", "the direction", {"x", "y", "z"})},
         "A static load of one newton (or newton metre): its deflection gives a stiffness, and with the "
         "mass a frequency to lay beside the computed one.",
         {Touch::reading}});

    all.push_back({"call-mode",
                   Group::ask,
                   "a name for a mode",
                   "Call the mode {mode} {name}",
                   {textField("mode", label, "what the mode is called by its motion", "first twisting"),
                    textField("name", label, "its name", "mast twist")},
                   "Wherever the mode is named this name stands in place of what its motion is called, as long as a "
                   "mode is called so: \"first bending in y\".",
                   {Touch::reading}});
}

} // namespace undisona
