#include "core/statement/read_groups.hpp"

#include "core/geometry/sentence_reader.hpp"

namespace undisona {

namespace {

class AskReader : SentenceReader {
public:
    AskReader(Structure& structure, Findings& findings)
        : SentenceReader(structure.frame, findings), structure_(structure), ask_(structure.ask)
    {
    }

    void read(const Sentence& sentence)
    {
        sentence_ = &sentence;
        const std::string& kind = sentence.kind->key;
        static const std::set<std::string> asks{"lowest",     "up-to",      "band",        "nearest",
                                                "every-mode", "mass-share", "ritz-vectors"};
        if (asks.contains(kind)) {
            if (asked_) return complain("modes are asked for twice", "Keep one of the two sentences on.");
            asked_ = true;
            ask_.sentence = sentence.id;
            modes(kind);
        }
        if (kind == "residual-vectors") {
            if (ask_.residual) return complain("residual vectors are asked for twice", "Keep one of the sentences on.");
            ask_.residual = patterns();
        }
        if (kind == "refine")
            ask_.refine = {sentence.number("error"), sentence.has("frequency") ? sentence.number("frequency") : 0.0,
                           sentence.id};
        if (kind == "accuracy") ask_.tolerance = sentence.number("error");
        if (kind == "proof") ask_.prove = sentence.text("proof") == "Prove";
        if (kind == "mass-matrix") ask_.lumped = sentence.text("matrix") == "lumped";
        if (kind == "fineness") ask_.elements = sentence.count("elements");
        if (kind == "reference-point") ask_.reference = place("at");
        if (kind == "hand-check")
            for (const int point : points("point"))
                structure_.handChecks.push_back(
                    {point, sentence.text("load") == "moment", sentence.text("direction")[0] - 'x', sentence.id});
    }

private:
    void modes(const std::string& kind)
    {
        if (kind == "every-mode") {
            ask_.until = Ask::Until::all;
            return;
        }
        ask_.count = sentence_->count(kind == "lowest" || kind == "nearest" ? "count" : "most");
        if (kind == "nearest") {
            ask_.until = Ask::Until::nearest;
            ask_.frequency = sentence_->number("frequency");
        }
        if (kind == "band") {
            ask_.until = Ask::Until::band;
            ask_.from = sentence_->number("from");
            ask_.frequency = sentence_->number("to");
            if (!(ask_.from < ask_.frequency))
                complain("the band ends before it begins", "Give the lower frequency first.");
        }
        if (kind == "up-to") {
            ask_.until = Ask::Until::frequency;
            ask_.frequency = sentence_->number("frequency");
        }
        if (kind == "ritz-vectors") {
            ask_.until = Ask::Until::ritz;
            ask_.ritz = patterns();
            ask_.directions = ask_.ritz.directions;
        }
        if (kind == "mass-share") {
            ask_.until = Ask::Until::massShare;
            ask_.directions = translations("directions");
        }
        if (!sentence_->has("share")) return;
        ask_.share = sentence_->number("share");
        const char* along[3] = {"share-x", "share-y", "share-z"};
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (sentence_->has(along[axis])) ask_.shareAlong[axis] = sentence_->number(along[axis]);
        ask_.ofMovable = sentence_->has("of") && sentence_->text("of") == "movable";
    }

    LoadPatterns patterns()
    {
        const std::string from = sentence_->text("from");
        LoadPatterns loads{.from = from == "base accelerations" ? LoadPatterns::From::base
                                   : from == "self weight"      ? LoadPatterns::From::weight
                                                                : LoadPatterns::From::force,
                           .directions = translations("directions"),
                           .points = {},
                           .sentence = sentence_->id};
        if (sentence_->has("at")) loads.points = points("at");
        if (loads.from == LoadPatterns::From::force && loads.points.empty())
            complain("it is not said where the unit forces act", "Name the points.");
        return loads;
    }

    Structure& structure_;
    Ask& ask_;
    bool asked_ = false;
};

} // namespace

void readAsk(const Model& model, Structure& structure, Findings& findings)
{
    AskReader reader(structure, findings);
    for (const auto& sentence : model.activeIn(Group::ask))
        reader.read(*sentence);
}

} // namespace undisona
