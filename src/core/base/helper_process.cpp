#include "core/base/helper_process.hpp"

#include <array>
#include <chrono>
#include <csignal>
#include <cstring>
#include <filesystem>

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

extern char** environ;

namespace undisona {

HelperAnswer askHelper(const std::vector<std::string>& words, double seconds, const Progress* progress)
{
    std::error_code error;
    const auto self = std::filesystem::read_symlink("/proc/self/exe", error);
    const std::string program = (self.parent_path() / "undisona-cli").string();
    if (error || !std::filesystem::exists(program))
        return {{}, "undisona-cli, a part of this program, is not beside it"};
    std::array<int, 2> pipe{};
    if (pipe2(pipe.data(), O_CLOEXEC) != 0) return {{}, std::strerror(errno)};
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_adddup2(&actions, pipe[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<char*> arguments{const_cast<char*>(program.c_str())};
    for (const auto& word : words)
        arguments.push_back(const_cast<char*>(word.c_str()));
    arguments.push_back(nullptr);
    pid_t child = 0;
    const int failed = posix_spawn(&child, program.c_str(), &actions, nullptr, arguments.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    close(pipe[1]);
    HelperAnswer answer;
    if (failed != 0) {
        close(pipe[0]);
        return {{}, std::strerror(failed)};
    }
    const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
    std::vector<char> block(1 << 16);
    for (bool open = true; open;) {
        pollfd wait{pipe[0], POLLIN, 0};
        const int ready = poll(&wait, 1, 50);
        if (progress && progress->stopped())
            answer.problem = "it was stopped";
        else if (std::chrono::steady_clock::now() > end)
            answer.problem = "it took too long";
        if (!answer.problem.empty()) {
            kill(child, SIGKILL);
            break;
        }
        if (ready <= 0) continue;
        const auto got = read(pipe[0], block.data(), block.size());
        if (got > 0)
            answer.bytes.append(block.data(), static_cast<std::size_t>(got));
        else
            open = got < 0 && errno == EINTR;
    }
    close(pipe[0]);
    int status = 0;
    while (waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    if (answer.problem.empty() && !(WIFEXITED(status) && WEXITSTATUS(status) == 0))
        answer.problem = "it brought the reader down";
    if (!answer.problem.empty()) answer.bytes.clear();
    return answer;
}

} // namespace undisona
