#pragma once
#include <filesystem>
#include <fstream>
#include <sstream>
#include <string>

#include <sys/wait.h>
#include <unistd.h>

/// A model of one arm.
inline const char* const cantilever = R"({
  "format": "undisona", "version": 1, "name": "arm", "units": "m kg N",
  "model": {
    "shape": [ { "id": "arm", "kind": "run", "name": "Arm", "from": "0, 0, 0 m", "to": "2, 0, 0 m", "parts": 1,
                 "section": "tube 60.3x4 mm" } ],
    "material": [ { "id": "steel", "kind": "material", "what": "everything", "material": "structural steel" } ],
    "supports": [ { "id": "root", "kind": "hold", "points": "Arm.0", "directions": "all" } ],
    "ask": [ { "id": "ask", "kind": "lowest", "count": 4 } ]
  },
  "takes": []
})";

/// The command line as a script runs it.
struct Ran {
    int code;
    std::string out, err;
};

inline std::filesystem::path scratch()
{
    const auto folder = std::filesystem::temp_directory_path() / ("undisona-cli-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder);
    return folder;
}

inline std::string contents(const std::filesystem::path& path)
{
    std::ifstream stream(path, std::ios::binary);
    std::ostringstream text;
    text << stream.rdbuf();
    return text.str();
}

inline Ran run(const std::string& arguments)
{
    const auto out = scratch() / "out", err = scratch() / "err";
    const std::string command =
        std::string(CLI) + " " + arguments + " > \"" + out.string() + "\" 2> \"" + err.string() + "\"";
    const int status = std::system(command.c_str());
    return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, contents(out), contents(err)};
}

inline std::string example(const std::string& name)
{
    return std::string(EXAMPLES) + "/" + name + ".undisona.json";
}

inline std::string written(const std::string& name, const std::string& text)
{
    const auto path = scratch() / name;
    std::ofstream(path, std::ios::binary) << text;
    return "\"" + path.string() + "\"";
}
