#include "core/engine/serve.hpp"

#include "core/base/memory.hpp"
#include "core/engine/messages.hpp"
#include "core/model/document_io.hpp"
#include "core/numerics/blas_threads.hpp"

#include <condition_variable>
#include <deque>
#include <mutex>
#include <system_error>
#include <thread>

#include <unistd.h>

namespace undisona {

namespace {

class Engine {
public:
    Engine(int in, int out) : in_(in), out_(out) {}

    int serve()
    {
        say(MessageKind::hello, 0, {engineVersion()});
        std::thread([this] { listen(); }).detach(); // ends the process when the window has gone
        while (true) {
            const Message message = nextOrder();
            const std::string answer = answerTo(message);
            say(MessageKind::done, message.order, {answer});
        }
    }

private:
    /// A study's answer as bytes; findings where there is none.
    std::string answerTo(const Message& message)
    {
        using Refusal = StudyOf<NoOptions, NoOptions>; // findings look alike whatever the answer would be
        StudyOrder order;
        try {
            order = valueFrom<StudyOrder>(message.body);
        } catch (const ArchiveError& problem) {
            return Refusal::bytesOf(errorAt({}, std::string("the order cannot be read: ") + problem.what(),
                                            "Window and engine must be of one build."));
        }
        const Study* study = studyNamed(order.study);
        if (!study)
            return Refusal::bytesOf(errorAt({}, "there is no study called \"" + order.study + "\"",
                                            "Window and engine must be of one build."));
        const auto document = readDocument(order.document, "the model");
        if (!document) return Refusal::bytesOf(document.findings());
        const StudyRun with{*progress_, kept_, [&](std::string_view what, const std::string& bytes) {
                                const std::string lead = bytesOf(PartlyWord{std::string(what), {}});
                                const std::string_view word(lead.data(), lead.size() - sizeof(std::uint64_t));
                                const std::string length = bytesOf(std::uint64_t(bytes.size()));
                                say(MessageKind::partly, message.order, {word, length, bytes}); // not copied
                            }};
        try {
            return study->run(document->model, order.options, with);
        } catch (const ArchiveError& problem) {
            return Refusal::bytesOf(errorAt({}, std::string("the options cannot be read: ") + problem.what(),
                                            "Window and engine must be of one build."));
        } catch (const std::bad_alloc&) {
        } catch (const std::system_error&) { // no room for a thread's stack
        }
        kept_.clear();
        return Refusal::bytesOf(memoryRanOut());
    }

    /// The next one, with a progress that a stop from now on goes to.
    Message nextOrder()
    {
        std::unique_lock lock(mutex_);
        arrived_.wait(lock, [this] { return !orders_.empty(); });
        Order order = std::move(orders_.front());
        orders_.pop_front();
        const std::uint64_t number = order.message.order;
        progress_ = std::make_unique<Progress>([this, number](const std::string& stage, double fraction) {
            say(MessageKind::stage, number, {bytesOf(StageWord{stage, fraction})});
        });
        if (order.stopped) progress_->stop();
        return std::move(order.message);
    }

    void listen()
    {
        MessageReader reader;
        std::string piece(1 << 16, '\0');
        while (true) {
            const auto size = ::read(in_, piece.data(), piece.size());
            if (size <= 0) _exit(0);
            reader.feed(std::string_view(piece).substr(0, static_cast<std::size_t>(size)));
            while (auto message = reader.next()) {
                const std::lock_guard lock(mutex_);
                if (message->kind == MessageKind::stop) {
                    for (auto& order : orders_) // which have not begun
                        order.stopped = true;
                    if (progress_) progress_->stop();
                    continue;
                }
                orders_.push_back({std::move(*message)});
                arrived_.notify_one();
            }
            if (reader.broken()) _exit(2);
        }
    }

    /// A message whose body comes in pieces.
    void say(MessageKind kind, std::uint64_t order, std::initializer_list<std::string_view> pieces)
    {
        std::uint64_t length = 0;
        for (const auto piece : pieces)
            length += piece.size();
        const std::lock_guard lock(saying_);
        write(headOf(kind, order, length));
        for (const auto piece : pieces)
            write(piece);
    }
    void write(std::string_view bytes)
    {
        while (!bytes.empty()) {
            const auto size = ::write(out_, bytes.data(), bytes.size());
            if (size <= 0) _exit(0); // nobody listens any more
            bytes.remove_prefix(static_cast<std::size_t>(size));
        }
    }

    int in_, out_;
    std::mutex mutex_, saying_;
    std::condition_variable arrived_;
    struct Order {
        Message message;
        bool stopped = false;
    };
    std::deque<Order> orders_;
    std::unique_ptr<Progress> progress_;
    KeptRuns kept_;
};

} // namespace

int serveEngine(int in, int out, double memoryLimit)
{
    if (memoryLimit > 0.0) {
        reserveBlasMemory();
        limitMemory(memoryLimit);
    }
    return Engine(in, out).serve();
}

} // namespace undisona
