#include "core/statement/read_groups.hpp"

#include "core/statement/statement_reader.hpp"

namespace undisona {

namespace {

class AskReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::ask,
                 {{"lowest", &AskReader::lowest},
                  {"up-to", &AskReader::upTo},
                  {"band", &AskReader::band},
                  {"nearest", &AskReader::nearest},
                  {"every-mode", &AskReader::everyMode},
                  {"mass-share", &AskReader::massShare},
                  {"ritz-vectors", &AskReader::ritzVectors},
                  {"residual-vectors", &AskReader::residualVectors},
                  {"refine", &AskReader::refine},
                  {"accuracy", &AskReader::accuracy},
                  {"proof", &AskReader::proof},
                  {"mass-matrix", &AskReader::massMatrix},
                  {"mass-acts", &AskReader::massActs},
                  {"fineness", &AskReader::fineness},
                  {"reference-point", &AskReader::referencePoint},
                  {"hand-check", &AskReader::handCheck},
                  {"call-mode", &AskReader::callMode}});
        structure_.modeNames = modeNamesOf(model);
    }

private:
    Ask& ask() { return structure_.ask; }

    /// Whether this is the first sentence that asks for modes, so many of them at most.
    bool asks(Ask::Until until, std::string_view most = {})
    {
        if (asked_) complain("modes are asked for twice", "Keep one of the two sentences on.");
        if (std::exchange(asked_, true)) return false;
        ask().sentence = sentence_->id;
        ask().until = until;
        if (!most.empty()) ask().count = sentence_->count(most);
        return true;
    }

    void lowest() { asks(Ask::Until::count, "count"); }
    void everyMode() { asks(Ask::Until::all); }
    void upTo()
    {
        if (asks(Ask::Until::frequency, "most")) ask().frequency = sentence_->number("frequency");
    }
    void nearest()
    {
        if (asks(Ask::Until::nearest, "count")) ask().frequency = sentence_->number("frequency");
    }
    void band()
    {
        if (!asks(Ask::Until::band, "most")) return;
        ask().from = sentence_->number("from");
        ask().frequency = sentence_->number("to");
        if (!(ask().from < ask().frequency))
            complain("the band ends before it begins", "Give the lower frequency first.");
    }
    void massShare()
    {
        if (!asks(Ask::Until::massShare, "most")) return;
        ask().directions = translations("directions");
        shares();
    }
    void ritzVectors()
    {
        if (!asks(Ask::Until::ritz, "most")) return;
        ask().ritz = patterns();
        ask().directions = ask().ritz.directions;
        shares();
    }
    void shares()
    {
        if (!sentence_->has("share")) return;
        ask().share = sentence_->number("share");
        const char* along[3] = {"share-x", "share-y", "share-z"};
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (sentence_->has(along[axis])) ask().shareAlong[axis] = sentence_->number(along[axis]);
        ask().ofMovable = sentence_->has("of") && sentence_->text("of") == "movable";
    }
    void residualVectors()
    {
        if (ask().residual) return complain("residual vectors are asked for twice", "Keep one of the sentences on.");
        ask().residual = patterns();
    }
    void refine()
    {
        ask().refine = {sentence_->number("error"), sentence_->has("frequency") ? sentence_->number("frequency") : 0.0,
                        sentence_->id};
    }
    void accuracy() { ask().tolerance = sentence_->number("error"); }
    void proof() { ask().prove = sentence_->text("proof") == "Prove"; }
    void massMatrix() { structure_.discretised.lumped = sentence_->text("matrix") == "lumped"; }
    void massActs() { structure_.discretised.acts = translations("directions"); }
    void fineness() { structure_.discretised.elements = sentence_->count("elements"); }
    void referencePoint() { ask().reference = place("at"); }
    void handCheck()
    {
        for (const int point : points("point"))
            structure_.handChecks.push_back(
                {point, sentence_->text("load") == "moment", sentence_->text("direction")[0] - 'x', sentence_->id});
    }

    void callMode()
    {
        const std::string mode = sentence_->text("mode");
        if (mode.empty() || sentence_->text("name").empty())
            return complain("a name or the mode that it is for is missing",
                            "Write what the table calls the mode, and what it is to be called.");
        if (!named_.insert(mode).second)
            complain(fmt::format("the mode \"{}\" is given two names", mode), "Keep one of the sentences on.");
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

    bool asked_ = false;
    std::set<std::string> named_; ///< modes
};

} // namespace

void readAsk(const Model& model, Structure& structure, Findings& findings)
{
    AskReader(structure, findings).read(model);
}

} // namespace undisona
