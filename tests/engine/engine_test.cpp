#include "core/engine/messages.hpp"
#include "core/model/document_io.hpp"
#include "core/studies/cost.hpp"
#include "core/studies/self_weight.hpp"
#include "core/studies/remedy.hpp"
#include "core/studies/rest.hpp"
#include "core/studies/settling.hpp"
#include "core/studies/by_hand.hpp"
#include "core/studies/stress.hpp"
#include "core/studies/sweep.hpp"
#include "core/studies/tolerances.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <csignal>
#include <random>

#include <sys/wait.h>
#include <unistd.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// The command line program as the window starts it.
class EngineProgram {
public:
    explicit EngineProgram(const char* memoryLimit = nullptr)
    {
        std::signal(SIGPIPE, SIG_IGN);
        std::array<int, 2> in{}, out{};
        if (pipe(in.data()) != 0 || pipe(out.data()) != 0) ADD_FAILURE() << "no pipe";
        process_ = fork();
        if (process_ == 0) {
            dup2(in[0], STDIN_FILENO);
            dup2(out[1], STDOUT_FILENO);
            for (const int end : {in[0], in[1], out[0], out[1]})
                close(end);
            if (memoryLimit)
                execl(CLI, CLI, "engine", "--memory-limit", memoryLimit, nullptr);
            else
                execl(CLI, CLI, "engine", nullptr);
            _exit(127);
        }
        close(in[0]);
        close(out[1]);
        to_ = in[1];
        from_ = out[0];
    }
    ~EngineProgram()
    {
        hangUp();
        if (process_ > 0) wait();
        close(from_);
    }

    void say(const std::string& bytes) { EXPECT_EQ(write(to_, bytes.data(), bytes.size()), ssize_t(bytes.size())); }
    void order(const Model& model) { order("modes", textOf(model), ModesStudy::bytesOf(ModesOrder{})); }
    void order(const std::string& study, const std::string& document, const std::string& options)
    {
        say(framed(MessageKind::order, ++orders_, bytesOf(StudyOrder{study, document, options})));
    }
    static std::string textOf(const Model& model)
    {
        Document document;
        document.model = model;
        return writeDocument(document);
    }
    /// The next message; nothing when the stream has ended.
    std::optional<Message> hear()
    {
        std::string piece(1 << 16, '\0');
        while (true) {
            if (auto message = reader_.next()) return message;
            const auto size = read(from_, piece.data(), piece.size());
            if (size <= 0) return std::nullopt;
            reader_.feed(std::string_view(piece).substr(0, std::size_t(size)));
        }
    }
    /// The answer of the run that goes on; each message before it is counted and handed over.
    std::string answer(const std::function<void(const Message&)>& each = {})
    {
        while (auto message = hear()) {
            if (message->kind != MessageKind::hello) EXPECT_EQ(message->order, orders_);
            if (message->kind == MessageKind::done) return message->body;
            if (each) each(*message);
        }
        ADD_FAILURE() << "the engine left without an answer";
        return {};
    }
    void hangUp()
    {
        if (to_ >= 0) close(to_);
        to_ = -1;
    }
    int wait()
    {
        int status = 0;
        waitpid(process_, &status, 0);
        process_ = -1;
        return WIFEXITED(status) ? WEXITSTATUS(status) : -WTERMSIG(status);
    }

private:
    pid_t process_ = -1;
    int to_ = -1, from_ = -1;
    std::uint64_t orders_ = 0;
    MessageReader reader_;
};

using Solved = Result<std::shared_ptr<const Solution>>;

Solved answerFrom(const std::string& body, const Model& model)
{
    return solutionOf(model, ModesStudy::answerFrom(body));
}

bool isPartly(const Message& message, std::string_view what)
{
    return message.kind == MessageKind::partly && valueFrom<PartlyWord>(message.body).what == what;
}

SaidModel tower(const char* height = "12 m", const char* bays = "10")
{
    SaidModel said;
    said.say("lattice-mast", {{"height", height}, {"bays", bays}});
    said.say("material", {{"what", "everything"}, {"material", "structural steel"}});
    said.say("hold", {{"where", "4 feet of Mast"}, {"directions", "all"}});
    said.say("mass-share", {{"share", "90 %"}, {"directions", "x y"}, {"most", "60"}});
    if (std::string(bays) == "10") said.say("hand-check", {{"point", "Mast.10.1"}, {"direction", "x"}});
    return said;
}

} // namespace

TEST(Engine, ItsAnswerIsThatOfTheSameRunInPlace)
{
    const Model model = tower().model();
    Progress progress;
    KeptRuns kept; // as the engine has them
    const auto own = *solve(model, progress, {.kept = &kept});
    EngineProgram engine;
    engine.order(model);
    int stages = 0, modes = 0;
    std::vector<double> heard;
    const std::string body = engine.answer([&](const Message& message) {
        stages += message.kind == MessageKind::stage;
        if (isPartly(message, frequenciesOnTheWay))
            heard = valueFrom<std::vector<double>>(valueFrom<PartlyWord>(message.body).bytes);
        if (isPartly(message, modesOnTheWay)) {
            ++modes;
            const FoundHead head = headOfFound(valueFrom<PartlyWord>(message.body).bytes);
            EXPECT_GT(head.mass.sums(0, 0) + head.mass.sums(0, 1), 0.1);
        }
    });
    EXPECT_GT(stages, 3);
    EXPECT_GE(modes, 1) << "at the latest when they have been counted";
    EXPECT_GE(heard.size(), own->modes.size());
    const auto answer = answerFrom(body, model);
    ASSERT_TRUE(answer);
    const Solution& got = **answer;
    ASSERT_EQ(got.modes.size(), own->modes.size());
    for (std::size_t at = 0; at < got.modes.size(); ++at) {
        EXPECT_EQ(got.modes[at].lambda, own->modes[at].lambda);
        EXPECT_EQ(got.modes[at].name, own->modes[at].name);
        EXPECT_EQ(got.motion(5, at), own->motion(5, at));
    }
    EXPECT_EQ(got.participation.effective, own->participation.effective);
    EXPECT_EQ(got.energies.strain, own->energies.strain);
    EXPECT_EQ(got.findings, own->findings);
    ASSERT_EQ(got.handChecks.size(), own->handChecks.size());
    EXPECT_EQ(got.key, own->key);
    EXPECT_EQ(got.mass.mass, own->mass.mass);
    EXPECT_EQ(certificateOf(got).words, certificateOf(*own).words);
    EXPECT_EQ(got.mesh.elements.size(), own->mesh.elements.size());
}

TEST(Engine, SettlesOnOtherMeshesAsInPlaceAndHandsOutEachRound)
{
    SaidModel said = steel();
    said.say("plate", {{"name", "P"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "4 mm"}})
        .say("run", {{"name", "Leg"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, -1 m"}, {"section", "rectangle 40x40 mm"}})
        .say("size-at", {{"where", "P.1"}, {"size", "10 mm"}})
        .say("lowest", {{"count", "9"}});
    Progress progress;
    const auto own = said.solved();
    const auto coarse = *solve(said.model(), progress, {.plan = scaled(planOf(own->mesh), 2.0)});
    EXPECT_LT(double(coarse->system->size()), 0.5 * double(own->system->size())) << "the place of its own too";
    const auto inPlace = *settle(said.model(), *own, progress);
    EngineProgram engine;
    const std::string order = SettlingStudy::bytesOf({answerOf(*own)});
    engine.order("settling", EngineProgram::textOf(said.model()), order);
    std::vector<std::size_t> rounds;
    const auto answer = settlingStudy().answerFrom(engine.answer([&](const Message& message) {
        if (isPartly(message, answerOnTheWay))
            rounds.push_back(settlingStudy().answerFrom(valueFrom<PartlyWord>(message.body).bytes)->rounds.size());
    }));
    ASSERT_TRUE(answer);
    EXPECT_EQ(rounds, (std::vector<std::size_t>{1, 2, 3, 4}));
    ASSERT_EQ(answer->rounds.size(), inPlace.rounds.size());
    for (std::size_t at = 0; at < inPlace.rounds.size(); ++at) {
        EXPECT_EQ(answer->rounds[at].unknowns, inPlace.rounds[at].unknowns);
        for (std::size_t mode = 6; mode < own->modes.size(); ++mode)
            EXPECT_NEAR(answer->rounds[at].hertz[mode], inPlace.rounds[at].hertz[mode],
                        1e-6 * own->modes[mode].frequency);
    }
    ASSERT_TRUE(answer->settled[7]);
    EXPECT_NEAR(answer->settled[7]->hertz, inPlace.settled[7]->hertz, 1e-4 * own->modes[7].frequency);
    engine.order("settling", EngineProgram::textOf(tower().model()), order);
    const auto refused = settlingStudy().answerFrom(engine.answer());
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.findings().front().what, HasSubstr("another model"));
}

TEST(Engine, ASecondRunTakesOverWhatTheFirstLeft)
{
    EngineProgram engine;
    engine.order(tower().model());
    engine.answer();
    SaidModel heavier = tower();
    heavier.say("mass", {{"points", "Mast.10.1"}, {"mass", "40 kg"}});
    engine.order(heavier.model());
    const auto answer = answerFrom(engine.answer(), heavier.model());
    ASSERT_TRUE(answer);
    EXPECT_TRUE((*answer)->record.keptFactor);
    EXPECT_TRUE((*answer)->count.proven);
}

TEST(Engine, StoppedAtFiftyMomentsItAnswersAndGoesOn)
{
    const Model model = tower("30 m", "24").model();
    EngineProgram engine;
    engine.order(model);
    int messages = 0;
    const auto whole = answerFrom(engine.answer([&](const Message&) { ++messages; }), model);
    ASSERT_TRUE(whole);
    std::mt19937 random(7);
    int kept = 0, none = 0;
    for (int round = 0; round < 50; ++round) {
        const int moment = std::uniform_int_distribution(0, messages)(random);
        engine.order(model);
        if (moment == 0) engine.say(framed(MessageKind::stop)); // perhaps before it has begun
        int heard = 0;
        const auto answer = answerFrom(engine.answer([&](const Message&) {
            if (++heard == moment) engine.say(framed(MessageKind::stop));
        }),
                                       model);
        if (!answer) {
            ++none;
            EXPECT_FALSE(answer.findings().empty());
            continue;
        }
        const Solution& solution = **answer;
        kept += solution.stopped;
        EXPECT_NE(solution.stopped, solution.count.proven);
        for (std::size_t at = 0; at < solution.modes.size() && at < (*whole)->modes.size(); ++at)
            EXPECT_LT(solution.modes[at].acceptedError, 1e-7) << "moment " << moment;
    }
    EXPECT_GT(kept + none, 5) << "or nothing was stopped";
    engine.order(model);
    const auto after = answerFrom(engine.answer(), model);
    ASSERT_TRUE(after);
    ASSERT_EQ((*after)->modes.size(), (*whole)->modes.size());
    for (std::size_t at = 0; at < (*after)->modes.size(); ++at)
        EXPECT_NEAR((*after)->modes[at].frequency, (*whole)->modes[at].frequency,
                    1e-10 * (*whole)->modes[at].frequency);
}

TEST(Engine, AStopIsHeardWhileThePartsAreMadeAndNothingComesOfThem)
{
    SaidModel said = steel();
    said.say("plate", {{"name", "P"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "4 mm"}})
        .say("solid-box", {{"name", "Foot"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "0.1 m"}})
        .say("lowest", {{"count", "3"}});
    std::vector<std::string> stages;
    Progress* running = nullptr;
    Progress progress([&](const std::string& stage, double) {
        if (stages.empty() || stages.back() != stage) stages.push_back(stage);
        if (stage == "read") running->stop();
    });
    running = &progress;
    const auto stopped = solve(said.model(), progress);
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.findings().size(), 1u);
    EXPECT_THAT(stopped.findings().front().what, HasSubstr("stopped before a mode was found"));
    EXPECT_THAT(stages, testing::ElementsAre("read")) << "neither a mesh nor equations";
    Progress again;
    EXPECT_TRUE(solve(said.model(), again)) << "what was begun is kept nowhere";
}

TEST(Engine, ModesHandedOutOnTheWayMakeAResultOfTheirOwn)
{
    const Model model = tower("60 m", "60").model();
    Progress progress;
    std::optional<FoundModes> last;
    SolveOptions options;
    Ask ask;
    ask.count = 150;
    options.ask = ask;
    const auto whole = *solve(model, progress, options, {.modes = [&](const FoundModes& found) {
                                  if (!found.extraction.check.proven) last = found;
                              }});
    ASSERT_TRUE(last) << "a run of this length hands modes out";
    const auto kept = solutionFrom(model, *last, progress);
    ASSERT_TRUE(kept);
    EXPECT_TRUE((*kept)->stopped);
    EXPECT_FALSE((*kept)->count.proven);
    ASSERT_GT((*kept)->modes.size(), 3u);
    for (const auto& mode : (*kept)->modes) {
        EXPECT_LT(mode.acceptedError, 1e-8);
        EXPECT_LT(mode.residual, std::max(1e-6, 10.0 * mode.floor)) << "of vectors that have not been polished";
        double nearest = 1e300;
        for (const auto& other : whole->modes)
            nearest = std::min(nearest, std::abs(other.frequency / mode.frequency - 1.0));
        EXPECT_LT(nearest, 1e-8) << mode.frequency << " Hz is a mode";
    }
}

TEST(Engine, ARunThatWouldNotFitIsRefusedWithFiguresAndMemoryThatRunsOutIsSaid)
{
    SaidModel large;
    large.say("frame", {{"bays-x", "14"}, {"bays-y", "14"}, {"storeys", "14"}});
    large.say("material", {{"what", "everything"}, {"material", "structural steel"}});
    large.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    large.say("lowest", {{"count", "30"}});
    std::set<std::string> said;
    for (const char* limit : {"5", "40", "120"}) { // from too little for the equations to too little for the factor
        EngineProgram engine(limit);
        engine.order(large.model());
        while (auto message = engine.hear()) {
            if (message->kind != MessageKind::done) continue;
            const auto answer = answerFrom(message->body, large.model());
            ASSERT_FALSE(answer) << "at " << limit << " MB";
            const Finding finding = answer.findings().front();
            EXPECT_EQ(finding.severity, Severity::error);
            EXPECT_FALSE(finding.remedy.empty());
            said.insert(finding.what.substr(0, 14));
            // It has not broken: a small model is solved as ever.
            const Model small = tower("4 m", "3").model();
            engine.order(small);
            const auto after = answerFrom(engine.answer(), small);
            EXPECT_TRUE(after) << "at " << limit << " MB: " << after.findings().front().what;
            break;
        }
    }
    EXPECT_THAT(said, testing::Contains("the run needs ")) << "refused before anything is factorised";
}

TEST(Engine, WhatIsNoModelOrNoMessageIsAnsweredOrRefused)
{
    {
        EngineProgram engine;
        const std::string text = EngineProgram::textOf(tower().model()), usual = ModesStudy::bytesOf(ModesOrder{});
        std::set<std::string> said;
        for (const auto& [study, document, options] :
             std::vector<std::array<std::string, 3>>{{"modes", "{ \"format\": 3 }", usual},
                                                     {"moods", text, usual},
                                                     {"modes", text, "x"},
                                                     {"modes", text, usual + "x"}}) {
            engine.order(study, document, options);
            const auto answer = answerFrom(engine.answer(), {});
            ASSERT_FALSE(answer) << study;
            said.insert(answer.findings().front().what);
        }
        EXPECT_GE(said.size(), 3u);
        engine.say(framed(MessageKind::order, 0, "no order"));
        const auto unread = engine.hear();
        EXPECT_THAT(unread->body, HasSubstr("cannot be read"));
        engine.order(tower().model()); // and it goes on
        EXPECT_TRUE(answerFrom(engine.answer(), tower().model()));
    }
    {
        EngineProgram engine;
        engine.say("this is no message, and longer than a head");
        while (engine.hear()) {
        }
        EXPECT_EQ(engine.wait(), 2);
    }
    {
        EngineProgram engine;
        engine.order(tower("60 m", "60").model());
        engine.hear();
        engine.hangUp(); // the window has gone
        EXPECT_EQ(engine.wait(), 0);
    }
    // Answers that were cut or damaged are refused, never half read.
    Progress progress;
    const Model model = tower().model();
    const auto solution = solve(model, progress);
    const std::string body = ModesStudy::bytesOf(answerOf(**solution));
    for (const std::size_t length : {std::size_t(0), std::size_t(1), std::size_t(40), body.size() / 2, body.size() - 1})
        EXPECT_THROW((void)answerFrom(body.substr(0, length), model), ArchiveError) << length;
    EXPECT_THROW((void)answerFrom(body, tower("12 m", "9").model()), ArchiveError) << "the answer of another model";
    std::string huge = body;
    huge[1] = '\xff';
    huge[7] = '\x7f'; // a list of 2^55 things
    EXPECT_THROW((void)answerFrom(huge, model), ArchiveError);
}

namespace {

/// Fills whatever has fields with values of its own, so that one that is lost or taken for another shows.
class Filler {
public:
    void fill(bool& value) { value = !value; }
    template <class T>
    requires std::is_arithmetic_v<T>
    void fill(T& value) { value = static_cast<T>(++number_); }
    template <class T>
    requires std::is_enum_v<T>
    void fill(T& value) { value = static_cast<T>(1); }
    void fill(std::string& text) { text = "word " + std::to_string(++number_); }
    template <Dense T>
    void fill(T& matrix)
    {
        matrix.resize(T::RowsAtCompileTime > 0 ? Eigen::Index(T::RowsAtCompileTime) : 3,
                      T::ColsAtCompileTime > 0 ? Eigen::Index(T::ColsAtCompileTime) : 2);
        for (Eigen::Index at = 0; at < matrix.size(); ++at)
            fill(matrix.data()[at]);
    }
    template <class T>
    void fill(std::vector<T>& values)
    {
        values.resize(2);
        for (auto& value : values)
            fill(value);
    }
    template <class T, std::size_t n>
    void fill(std::array<T, n>& values)
    {
        for (auto& value : values)
            fill(value);
    }
    template <class T>
    void fill(std::optional<T>& value)
    {
        fill(value.emplace());
    }
    template <class T>
    void fill(std::map<std::string, T>& values)
    {
        fill(values["key " + std::to_string(++number_)]);
    }
    template <Tied T>
    void fill(T& value)
    {
        std::apply([&](auto&... each) { (fill(each), ...); }, fields(value).values);
    }

private:
    int number_ = 0;
};

/// Every member, also of members, by name and value.
std::map<std::string, std::string> leaves(const Json& json)
{
    std::map<std::string, std::string> all;
    const Json flat = json.flatten();
    for (const auto& [name, value] : flat.items())
        all[name] = value.dump();
    return all;
}

template <class Options, class Answer>
void sendsEveryField(const StudyOf<Options, Answer>& study)
{
    Filler filler;
    Answer answer;
    filler.fill(answer);
    const auto sent = leaves(jsonOf(answer));
    EXPECT_GT(sent.size(), 5u) << study.key;
    const std::string bytes = study.bytesOf(answer);
    const auto got = study.answerFrom(bytes);
    ASSERT_TRUE(got);
    EXPECT_EQ(leaves(jsonOf(*got)), sent) << study.key;
    std::map<std::string, int> values; // no two alike, or one might stand for another
    for (const auto& [name, value] : sent)
        if (value.size() > 2 && value != "true" && value != "null" && value.find("word") == 1) ++values[value];
    for (const auto& [value, count] : values)
        EXPECT_EQ(count, 1) << study.key << ": " << value;
    Options options;
    filler.fill(options);
    EXPECT_EQ(leaves(jsonOf(valueFrom<Options>(study.bytesOf(options)))), leaves(jsonOf(options)));
    const Study* untyped = studyNamed(study.key);
    ASSERT_NE(untyped, nullptr) << study.key;
    EXPECT_EQ(leaves(Json::parse(untyped->json(bytes).text)), sent) << "printed whole";
}

} // namespace

TEST(Engine, EveryFieldOfEveryAnswerGoesThroughItAndBack)
{
    sendsEveryField(modesStudy());
    sendsEveryField(settlingStudy());
    sendsEveryField(selfWeightStudy());
    sendsEveryField(costStudy());
    sendsEveryField(remedyStudy());
    sendsEveryField(sweepStudy());
    sendsEveryField(toleranceStudy());
    sendsEveryField(stressStudy());
    sendsEveryField(handStudy());
    sendsEveryField(restStudy());
    EXPECT_EQ(studies().size(), 10u) << "one that is new is to stand above";
}

TEST(Engine, TellsWhatARunWouldCostUnderTheNumberItWasAskedWith)
{
    EngineProgram engine;
    engine.order("cost", EngineProgram::textOf(tower().model()), CostStudy::bytesOf(NoOptions{}));
    const auto cost = costStudy().answerFrom(engine.answer());
    ASSERT_TRUE(cost);
    EXPECT_GT(cost->unknowns, 100);
    EXPECT_THAT(cost->words, HasSubstr("s, "));
    EXPECT_GT(cost->seconds, 0.0);
    EXPECT_TRUE(cost->refused.empty());
}
