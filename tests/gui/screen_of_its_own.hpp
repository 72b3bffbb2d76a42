#pragma once
#include <csignal>
#include <cstdlib>
#include <string>

#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

namespace undisona {

/// A virtual screen that goes with the program, so that pointer and keys are nobody else's and several programs
/// can be driven at once. Make one before the QApplication; without Xvfb the screen that is there stays in use.
class ScreenOfItsOwn {
public:
    ScreenOfItsOwn()
    {
        int ends[2];
        if (pipe(ends) != 0) return;
        server_ = fork();
        if (server_ == 0) {
            prctl(PR_SET_PDEATHSIG, SIGKILL); // not left behind when the program is killed
            close(ends[0]);
            const std::string end = std::to_string(ends[1]);
            execlp("Xvfb", "Xvfb", "-displayfd", end.c_str(), "-screen", "0", "1920x1200x24", "+extension", "GLX",
                   "+extension", "XTEST", "-nolisten", "tcp", static_cast<char*>(nullptr));
            _exit(127);
        }
        close(ends[1]);
        std::string number;
        for (char letter; read(ends[0], &letter, 1) == 1 && letter != '\n';)
            number += letter;
        close(ends[0]);
        if (!number.empty()) setenv("DISPLAY", (":" + number).c_str(), 1);
    }

    ~ScreenOfItsOwn()
    {
        if (server_ <= 0) return;
        kill(server_, SIGTERM);
        waitpid(server_, nullptr, 0);
    }

    ScreenOfItsOwn(const ScreenOfItsOwn&) = delete;
    ScreenOfItsOwn& operator=(const ScreenOfItsOwn&) = delete;

private:
    pid_t server_ = -1;
};

} // namespace undisona
