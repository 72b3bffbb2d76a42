#include "core/base/alike_findings.hpp"

#include <gtest/gtest.h>

using namespace undisona;

TEST(AlikeFindings, AreOneWithItsPlaces)
{
    Findings all{warningAt("s1", "nothing uses it", "Leave it out.")};
    all[0].place = "a";
    for (const char* place : {"b", "c", "d", "e", "f"}) {
        all.push_back(all[0]);
        all.back().place = place;
        all.back().sentence = std::string("of ") + place;
    }
    all.insert(all.begin() + 2, errorAt("s9", "its modulus is nothing"));
    all.push_back(errorAt("s8", "its modulus is nothing"));
    all.push_back(errorAt("s8", "its modulus is nothing")); // word for word the same is no third one
    all.push_back(noteAt("s1", "nothing uses it", "Leave it out."));
    const Findings one = alikeAsOne(all);
    ASSERT_EQ(one.size(), 3u) << "a note is no warning";
    EXPECT_EQ(one[0].place, "a, b, c, d and 2 more");
    EXPECT_EQ(one[0].sentence, "s1") << "where it stood first";
    EXPECT_EQ(one[1].what, "its modulus is nothing, 2 times");
    EXPECT_EQ(oneLine(one[2]), "note: nothing uses it (sentence s1). Leave it out.");
}
