#include "bench/stated_frames.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

void say(Model& model, const char* kindKey, const std::map<std::string, std::string>& values)
{
    const SentenceKind& kind = *kindNamed(kindKey);
    Sentence sentence = newSentence(kind, model.freeId());
    for (const auto& [key, text] : values)
        sentence = sentence.with(key, std::get<Value>(readValue(*kind.field(key), text, NumberStyle::file)));
    model = model.inserted(std::move(sentence));
}

} // namespace

Model statedMast(long bays, long modes)
{
    Model model;
    say(model, "lattice-mast",
        {{"bays", std::to_string(bays)}, {"height", fmt::format("{} m", bays)}, {"bottom", "4 m"}, {"top", "2 m"}});
    say(model, "material", {});
    say(model, "hold", {{"where", "feet of Mast"}, {"directions", "all"}});
    say(model, "fineness", {{"elements", "1"}});
    say(model, "lowest", {{"count", std::to_string(modes)}});
    return model;
}

Model statedPlate(long side, long modes)
{
    Model model;
    say(model, "plate",
        {{"length", "10 m"},
         {"width", "10 m"},
         {"thickness", "40 mm"},
         {"size", fmt::format("{} m", 10.0 / double(side))}});
    say(model, "material", {});
    say(model, "hold", {{"where", "edges of Plate"}, {"directions", "x y z"}});
    say(model, "lowest", {{"count", std::to_string(modes)}});
    return model;
}

Model statedCube(long side, long modes)
{
    Model model;
    say(model, "solid-box",
        {{"name", "Cube"},
         {"x", "1 m"},
         {"y", "1 m"},
         {"z", "1 m"},
         {"size", fmt::format("{} m", 1.0 / double(side))}});
    say(model, "material", {});
    say(model, "hold", {{"where", "faces at z = 0 m of Cube"}, {"directions", "all"}});
    say(model, "lowest", {{"count", std::to_string(modes)}});
    return model;
}

Model statedHouse(long bays, long storeys, const std::string& at, const std::string& mass, long modes, long elements)
{
    Model model;
    say(model, "frame",
        {{"bays-x", std::to_string(bays)}, {"bays-y", std::to_string(bays)}, {"storeys", std::to_string(storeys)}});
    say(model, "material", {});
    say(model, "hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    say(model, "mass", {{"points", at}, {"mass", mass}});
    say(model, "fineness", {{"elements", std::to_string(elements)}});
    say(model, "lowest", {{"count", std::to_string(modes)}});
    return model;
}

} // namespace undisona
