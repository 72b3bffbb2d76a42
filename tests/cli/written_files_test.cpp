// What commands write: never over what they read, never half, and in forms that others play and run.
#include "tests/cli/ran.hpp"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

TEST(CommandLine, NeverWritesOverWhatItReads)
{
    const std::string model = written("own.undisona.json", cantilever);
    const std::string flap = written("flap.undisona.json", contents(example("ramp-flap")));
    for (const auto& [order, own] : {std::pair("modes " + model + " --format json --out " + model, model),
                                     std::pair("export " + flap + " --what shapes --to " + flap, flap),
                                     std::pair("settle " + model + " --out " + model, model)}) {
        const std::string path = own.substr(1, own.size() - 2), before = contents(path);
        const Ran ran = run(order);
        EXPECT_EQ(ran.code, 2) << order;
        EXPECT_NE(ran.err.find("read by the same run"), std::string::npos) << ran.err;
        EXPECT_EQ(contents(path), before) << order;
    }
    const auto folder = scratch() / "system";
    ASSERT_EQ(run("export " + model + " --what system --to \"" + folder.string() + "\"").code, 0);
    const auto k = folder / "K.mtx", m = folder / "M.mtx";
    const std::string stiffness = contents(k);
    EXPECT_EQ(run("modes --system " + k.string() + " " + m.string() + " --out " + k.string()).code, 2);
    EXPECT_EQ(contents(k), stiffness);
}

TEST(CommandLine, SaysWhenItsOutputIsCutShort)
{
    for (const std::string& order : {std::string("schema"), "check " + example("signal-lamps"),
                                     "modes " + example("signal-lamps"), std::string("units '18 kN' lbf")}) {
        const auto err = scratch() / "err";
        const int status = std::system((std::string(CLI) + " " + order + " > /dev/full 2> " + err.string()).c_str());
        EXPECT_EQ(WEXITSTATUS(status), 2) << order;
        EXPECT_NE(contents(err).find("standard output"), std::string::npos) << order << ": " << contents(err);
    }
}

TEST(CommandLine, AFileThatDoesNotFitLeavesTheEarlierOneAndNothingBeside)
{
    const auto folder = scratch() / "full";
    std::filesystem::create_directories(folder);
    const auto out = folder / "modes.json";
    std::ofstream(out) << "kept";
    // What the process may write of one file ends after a kilobyte, as on a disk that has no more room.
    const std::string order = "ulimit -f 1; exec " + std::string(CLI) + " modes " + example("signal-lamps") +
                              " --format json --out " + out.string();
    const auto err = scratch() / "err";
    const int status = std::system(("bash -c '" + order + "' 2> " + err.string()).c_str());
    ASSERT_TRUE(WIFEXITED(status)) << "it must not die of it";
    EXPECT_EQ(WEXITSTATUS(status), 2);
    EXPECT_NE(contents(err).find("modes.json"), std::string::npos) << contents(err);
    EXPECT_EQ(contents(out), "kept");
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder), {}), 1) << "no half a file is left beside it";
}

TEST(CommandLine, AFileSystemThatFillsKeepsTheEarlierFileAndIsNamed)
{
    const auto folder = scratch() / "small";
    std::filesystem::create_directories(folder);
    // A file system of its own in memory, where the machine lets a user make one.
    const std::string inside =
        "unshare -rm sh -c 'mount -t tmpfs -o size=64k none " + folder.string() + " && cd " + folder.string() + " && ";
    if (std::system((inside + "true' 2> /dev/null").c_str()) != 0) GTEST_SKIP() << "no file system can be made here";
    const auto err = (scratch() / "err").string(), left = (scratch() / "left").string();
    const struct {
        std::string order, file;
    } all[] = {{"modes " + example("radar-mast") + " --format json --out", "modes.json"},
               {"export " + example("radar-mast") + " --what modes --to", "modes.vtu"}};
    for (const auto& [order, file] : all) {
        const std::string command = inside + "head -c 40000 /dev/zero > other && printf kept > " + file + " && { " +
                                    CLI + " " + order + " " + file + " 2> " + err + "; echo $?; cat " + file +
                                    "; echo; ls; } > " + left + "'";
        ASSERT_EQ(std::system(command.c_str()), 0) << command;
        EXPECT_EQ(contents(left), "2\nkept\n" + file + "\nother\n") << order;
        EXPECT_NE(contents(err).find("the disk is full"), std::string::npos) << order << contents(err);
    }
}

TEST(CommandLine, HandsOverModesInMotionThatABrowserPlays)
{
    const auto page = scratch() / "modes.html", file = scratch() / "modes.glb";
    const Ran ran = run("export " + example("hoist-gantry") + " --what modes --to " + page.string());
    ASSERT_EQ(ran.code, 0) << ran.err;
    EXPECT_EQ(run("export " + example("hoist-gantry") + " --what modes --to " + file.string()).code, 0);
    EXPECT_EQ(contents(file).substr(0, 4), "glTF");
    EXPECT_EQ(run("export " + example("hoist-gantry") + " --what modes --to modes.obj").code, 2);
    if (std::system("command -v chromium > /dev/null 2>&1") != 0) GTEST_SKIP() << "no chromium to play it in";
    const auto dom = scratch() / "dom.html";
    const std::string command = "timeout 50 chromium --headless --no-sandbox --use-gl=angle --use-angle=swiftshader "
                                "--enable-unsafe-swiftshader --virtual-time-budget=3000 --dump-dom file://" +
                                page.string() + " > " + dom.string() + " 2> /dev/null";
    ASSERT_EQ(std::system(command.c_str()), 0);
    const std::string after = contents(dom);
    EXPECT_NE(after.find("data-ready=\"19\""), std::string::npos) << "all modes taken in by the page's player";
    EXPECT_NE(after.find("first twisting</option>"), std::string::npos);
}

TEST(CommandLine, TheScriptsOfTheManualRun)
{
    // Each block of Python in it, as it stands there.
    const std::string manual = contents(std::string(EXAMPLES) + "/../docs/scripting.md");
    std::vector<std::string> scripts;
    for (std::size_t at = manual.find("```python\n"); at != std::string::npos;
         at = manual.find("```python\n", at + 1)) {
        const std::size_t begin = at + 10;
        scripts.push_back(manual.substr(begin, manual.find("```", begin) - begin));
    }
    ASSERT_EQ(scripts.size(), 4u);
    std::vector<std::string> said;
    for (const auto& script : scripts) {
        EXPECT_LE(std::count(script.begin(), script.end(), '\n'), 20);
        std::ofstream(scratch() / "script.py") << script;
        const std::string command = "cd " + scratch().string() + " && UNDISONA=" + CLI + " MODEL=" + EXAMPLES +
                                    "/radar-mast.undisona.json /usr/bin/python3 script.py > said 2> wrong";
        ASSERT_EQ(std::system(command.c_str()), 0) << contents(scratch() / "wrong");
        said.push_back(contents(scratch() / "said"));
    }
    EXPECT_EQ(std::count(said[0].begin(), said[0].end(), '\n'), 5) << said[0];
    EXPECT_NE(said[0].find("2.9189"), std::string::npos) << "85 kg is the model as it is: " << said[0];
    EXPECT_NE(said[1].find("as it is: 856.2 kg, 1 clashes"), std::string::npos) << said[1];
    EXPECT_NE(said[1].find("Ventilator x 1: mode 4, second bending in y, +5.1 %"), std::string::npos) << said[1];
    EXPECT_NE(said[3].find("now, found 20"), std::string::npos) << said[3];
    EXPECT_NE(said[3].find("  mode 1, 2.9189 Hz: most at "), std::string::npos) << said[3];
    EXPECT_NE(contents(scratch() / "taking-part.svg").find("</svg>"), std::string::npos);
}
