// Takes remember what they came from, when they were kept, and what was noted of them.
#include "core/model/takes.hpp"

#include "core/model/differences.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::ElementsAre;
using testing::HasSubstr;

namespace {

Model massOf(const char* mass)
{
    SaidModel said;
    said.say("run", {{"name", "M"}}).say("mass", {{"mass", mass}, {"points", "M.1"}});
    return said.model();
}

/// "built", from it "light" and "heavy", from "light" "lighter"; the live model from "heavy".
Document fourTakes()
{
    Document document;
    document.model = massOf("30 kg");
    const auto built = keepTake(document, "built", massOf("20 kg"), {});
    const auto light = keepTake(document, "light", massOf("10 kg"), built);
    document.from = keepTake(document, "heavy", massOf("29 kg"), built);
    keepTake(document, "lighter", massOf("5 kg"), light);
    return document;
}

std::vector<std::string> drawn(const Document& document)
{
    std::vector<std::string> lines;
    for (const auto& row : treeOf(document))
        lines.push_back(std::string(static_cast<std::size_t>(row.depth), '-') + (row.take ? row.take->name : "now"));
    return lines;
}

} // namespace

TEST(Takes, StandBelowWhatTheyCameFrom)
{
    Document document = fourTakes();
    EXPECT_THAT(drawn(document), ElementsAre("built", "-light", "--lighter", "-heavy", "--now"));
    EXPECT_EQ(treeOf(document)[2].from->name, "light");
    removeTake(document, "t2");
    EXPECT_THAT(drawn(document), ElementsAre("built", "-heavy", "--now", "-lighter"))
        << "what came from the one that is gone comes from what that came from";
    removeTake(document, "t1");
    EXPECT_THAT(drawn(document), ElementsAre("heavy", "-now", "lighter"));
    EXPECT_EQ(keepTake(document, "again", massOf("1 kg"), "t1"), "t5") << "no id comes twice";
    EXPECT_EQ(document.takes.back().from, "") << "t1 is gone";
}

TEST(Takes, KeepTheirWordsInTheFile)
{
    Document document = fourTakes();
    document.takes[1].note = "as the yard wants it: \"lighter\",\nnot cheaper";
    EXPECT_EQ(document.takes[0].kept.size(), 20u);
    const auto read = readDocument(writeDocument(document), "kept");
    ASSERT_TRUE(read);
    EXPECT_EQ(*read, document);
    Document other = document;
    other.takes[1].note = "no more";
    EXPECT_THAT(differences(document, other), ElementsAre("what is noted of the take light differs"));

    std::string text = writeDocument(document);
    text.replace(text.find("\"from\": \"t2\""), 12, "\"from\": \"t4\"");
    const auto refused = readDocument(text, "kept");
    ASSERT_FALSE(refused) << "a take cannot come from itself";
    EXPECT_THAT(refused.findings()[0].what, HasSubstr("no take before this has the id \"t4\""));
    EXPECT_THAT(refused.findings()[0].place, HasSubstr("kept"));
}

TEST(Takes, TimesAreThoseOfThePlace)
{
    setenv("TZ", "Etc/GMT-2", 1);
    tzset();
    EXPECT_EQ(localTime("2031-05-04T23:20:11Z"), "2031-05-05 01:20");
    EXPECT_EQ(localTime("last week"), "last week");
    unsetenv("TZ");
    tzset();
}
