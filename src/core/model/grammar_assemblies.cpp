// The sentences of the group Shape that place the model of another file.
#include "core/model/grammar_fields.hpp"

namespace undisona {

namespace {
using K = QuantityKind;
}

void addAssemblyKinds(std::vector<SentenceKind>& all)
{
    const std::string help = " Its parts, supports and masses come with it, as its file says them; what shakes it and "
                             "what is asked does not. Its parts are picked as Float.Deck; its points stay its own "
                             "until a sentence joins them.";
    const auto add = [&](SentenceKind kind) {
        kind.help += help;
        kind.fields.push_back(
            optionalField(choiceField("mirrored", "the direction that is reversed", {"x", "y", "z"})));
        kind.fields.push_back(optionalField(
            vectorField("turned", "the turns about x, then y, then z, through its origin", K::angle, "0, 0, 90 deg")));
        kind.phrase += "[, mirrored along {mirrored}][, turned by {turned} about x, y, z]";
        kind.touches = {Touch::shape, Touch::mesh, Touch::stiffness, Touch::mass};
        all.push_back(std::move(kind));
    };
    const Field file = textField("file", FieldType::file, "the file of its model", "float.undisona.json"),
                at = placeField("at", "where its origin comes to stand", "0, 0, 0 m"),
                count = countField("count", "how many there are", "2", 1, 1000);
    add({"assembly",
         Group::shape,
         "a sub-assembly from another file",
         "{name}: the model in {file}, its origin at {at}",
         {nameOf("the sub-assembly", "Float"), file, at},
         "The model of another file as a part of this one."});
    add({"assembly-row",
         Group::shape,
         "a row of sub-assemblies",
         "{name}: {count} times the model in {file}, the first one's origin at {at}, each {step} from the last",
         {nameOf("the sub-assemblies", "Floats"), count, file, at,
          vectorField("step", "the step from one to the next", K::length, "5, 0, 0 m")},
         "The model of another file several times, named Floats.1, Floats.2 and so on."});
    add({"assembly-around",
         Group::shape,
         "sub-assemblies round an axis",
         "{name}: {count} times the model in {file}, its origin at {at}, each turned on by {angle} about {axis} "
         "through "
         "{through}",
         {nameOf("the sub-assemblies", "Arms"), count, file, at,
          quantityField("angle", "the turn from one to the next", K::angle, "90 deg"),
          choiceField("axis", "the axis", {"z", "x", "y"}), placeField("through", "a point of the axis", "0, 0, 0 m")},
         "The model of another file several times round an axis, named Arms.1, Arms.2 and so on."});
}

} // namespace undisona
