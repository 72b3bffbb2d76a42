#include "core/base/helper_process.hpp"

#include <array>
#include <chrono>
#include <csignal>
#include <cstring>
#include <filesystem>

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

extern char** environ;

namespace undisona {

namespace {

std::filesystem::path helperProgram()
{
    std::error_code error;
    const auto self = std::filesystem::read_symlink("/proc/self/exe", error);
    return self.parent_path() / "undisona-cli";
}

} // namespace

bool hasHelper()
{
    std::error_code error;
    return std::filesystem::exists(helperProgram(), error);
}

HelperAnswer askHelper(const std::vector<std::string>& words, double seconds, const Progress* progress,
                       const std::string& input)
{
    if (!hasHelper()) return {{}, "undisona-cli, a part of this program, is not beside it"};
    const std::string program = helperProgram().string();
    std::array<int, 2> pipe{}, into{};
    if (pipe2(pipe.data(), O_CLOEXEC) != 0) return {{}, std::strerror(errno)};
    // A pair of sockets, since writing to one whose reader has died gives an error and no signal.
    if (socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, into.data()) != 0) {
        close(pipe[0]);
        close(pipe[1]);
        return {{}, std::strerror(errno)};
    }
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_adddup2(&actions, into[1], STDIN_FILENO);
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
    close(into[1]);
    HelperAnswer answer;
    if (failed != 0) {
        close(pipe[0]);
        close(into[0]);
        return {{}, std::strerror(failed)};
    }
    const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
    std::vector<char> block(1 << 16);
    std::size_t said = 0;
    bool saying = true;
    for (bool open = true; open;) {
        std::array<pollfd, 2> wait{pollfd{pipe[0], POLLIN, 0}, pollfd{saying ? into[0] : -1, POLLOUT, 0}};
        poll(wait.data(), wait.size(), 50);
        if (progress && progress->stopped())
            answer.problem = "it was stopped";
        else if (std::chrono::steady_clock::now() > end)
            answer.problem = "it took too long";
        if (!answer.problem.empty()) {
            kill(child, SIGKILL);
            break;
        }
        if (saying && (wait[1].revents != 0 || said == input.size())) {
            const auto put = said == input.size()
                                 ? ssize_t(0)
                                 : send(into[0], input.data() + said, input.size() - said, MSG_NOSIGNAL | MSG_DONTWAIT);
            if (put > 0) said += static_cast<std::size_t>(put);
            const bool died = put < 0 && errno != EINTR && errno != EAGAIN;
            if (said == input.size() || died) {
                shutdown(into[0], SHUT_WR);
                saying = false;
            }
        }
        if (wait[0].revents == 0) continue;
        const auto got = read(pipe[0], block.data(), block.size());
        if (got > 0)
            answer.bytes.append(block.data(), static_cast<std::size_t>(got));
        else
            open = got < 0 && errno == EINTR;
    }
    close(pipe[0]);
    close(into[0]);
    int status = 0;
    while (waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    if (answer.problem.empty() && !(WIFEXITED(status) && WEXITSTATUS(status) == 0))
        answer.problem = "it brought the process down that worked on it";
    if (!answer.problem.empty()) answer.bytes.clear();
    return answer;
}

} // namespace undisona
