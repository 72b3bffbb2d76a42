#include "cli/film.hpp"

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <sstream>
#include <vector>

#include <unistd.h>

namespace undisona {

namespace {

bool isOnPath(const std::string& program)
{
    const char* path = std::getenv("PATH");
    std::istringstream folders(path ? path : "");
    for (std::string folder; std::getline(folders, folder, ':');)
        if (::access((folder + "/" + program).c_str(), X_OK) == 0) return true;
    return false;
}

/// A list of options with their values; those without a value are left out.
class Words {
public:
    Words& add(const char* name, const std::string& value)
    {
        if (!value.empty()) words.insert(words.end(), {name, value});
        return *this;
    }
    Words& flag(const char* name, bool on)
    {
        if (on) words.push_back(name);
        return *this;
    }
    std::vector<std::string> words;
};

/// Becomes the window's program with these words and a model.
std::string windowInstead(const std::string& what, const Words& options, const std::string& model)
{
    const std::filesystem::path window = std::filesystem::read_symlink("/proc/self/exe").parent_path() / "undisona";
    if (!std::filesystem::exists(window))
        return what + " are drawn by the window's program, which is not at " + window.string();
    std::vector<std::string> words;
    if (!std::getenv("DISPLAY") && !std::getenv("WAYLAND_DISPLAY")) {
        if (!isOnPath("xvfb-run"))
            return "there is no display to draw on; xvfb-run would make one, and is not installed: apt install "
                   "xvfb xauth";
        words = {"xvfb-run", "-a", "-s", "-screen 0 640x480x24 +extension GLX"};
        ::setenv("QT_QPA_PLATFORM", "xcb", 0);
    }
    words.push_back(window.string());
    words.insert(words.end(), options.words.begin(), options.words.end());
    words.insert(words.end(), {"--", model});
    std::vector<char*> arguments;
    for (auto& word : words)
        arguments.push_back(word.data());
    arguments.push_back(nullptr);
    ::execvp(arguments.front(), arguments.data());
    return "the program that draws " + what + " did not start: " + std::string(std::strerror(errno));
}

} // namespace

std::string filmInstead(const FilmOptions& options)
{
    Words words;
    words.add("--film", options.to)
        .add("--modes", options.modes)
        .add("--take", options.take)
        .add("--size", options.size)
        .add("--seconds", options.seconds)
        .add("--turns", options.turns)
        .add("--from", options.from)
        .flag("--bare", options.bare)
        .flag("--dark", options.dark);
    return windowInstead("films", words, options.model);
}

std::string reportInstead(const ReportOptions& options)
{
    Words words;
    words.add("--report", options.to)
        .add("--modes", options.modes)
        .add("--take", options.take)
        .add("--without", options.without)
        .add("--from", options.from);
    return windowInstead("reports", words, options.model);
}

} // namespace undisona
