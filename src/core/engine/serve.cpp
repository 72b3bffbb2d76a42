#include "core/engine/serve.hpp"

#include "core/base/memory.hpp"
#include "core/base/archive.hpp"
#include "core/engine/messages.hpp"
#include "core/modal/estimate_ahead.hpp"
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
        say(framed(MessageKind::hello, engineVersion()));
        std::thread([this] { listen(); }).detach(); // ends the process when the window has gone
        while (true) {
            const Message message = nextOrder(); // a run, or an estimate of one
            std::optional<MeshPlan> plan;
            auto model = modelOf(message, plan);
            if (message.kind == MessageKind::estimate)
                say(framed(MessageKind::estimated, bodyOf(model ? estimated(*model) : EstimateAnswer{})));
            else
                say(framed(MessageKind::done, bodyOf(model ? solved(*model, plan) : model.findings())));
        }
    }

private:
    Result<std::shared_ptr<const Solution>> solved(const Model& model, const std::optional<MeshPlan>& plan)
    {
        const RunListener listener{
            [this](const std::vector<double>& hertz) { say(framed(MessageKind::frequencies, bodyOf(hertz))); },
            [this](const FoundModes& found) { say(framed(MessageKind::modes, bodyOf(found))); }};
        forgetPeakMemory(); // of the runs before this one
        // A study of other meshes leaves what is kept for the next change of the live model as it is.
        return withinMemory<Result<std::shared_ptr<const Solution>>>(
            [&] { return solve(model, *progress_, {.plan = plan, .kept = plan ? nullptr : &kept_}, listener); },
            memoryRanOut());
    }

    EstimateAnswer estimated(const Model& model)
    {
        return withinMemory<EstimateAnswer>(
            [&]() -> EstimateAnswer {
                const auto estimate = estimateAhead(model, *progress_, kept_);
                if (!estimate) return {};
                const auto refused = tooLarge(*estimate, availableMegabytes());
                return {wordsOf(*estimate), refused ? Findings{*refused} : Findings{}};
            },
            {{}, {memoryRanOut()}});
    }

    /// What the work gives; the other answer where the memory ran out, which then gets back what was kept.
    template <class Answer, class Work>
    Answer withinMemory(const Work& work, Answer otherwise)
    {
        try {
            return work();
        } catch (const std::bad_alloc&) {
        } catch (const std::system_error&) { // no room for a thread's stack
        }
        kept_.clear();
        return otherwise;
    }

    static Result<Model> modelOf(const Message& message, std::optional<MeshPlan>& plan)
    {
        std::string text = message.body;
        if (message.kind == MessageKind::runOnMesh) {
            try {
                MeshOrder order = meshOrderFrom(message.body);
                text = std::move(order.document);
                plan = std::move(order.plan);
            } catch (const ArchiveError& problem) {
                return errorAt({}, std::string("the order cannot be read: ") + problem.what(),
                               "Window and engine must be of one build.");
            }
        }
        auto document = readDocument(text, "the model");
        if (!document) return document.findings();
        return std::move(document->model);
    }

    /// The next run or estimate, with a progress that a stop from now on goes to.
    Message nextOrder()
    {
        std::unique_lock lock(mutex_);
        arrived_.wait(lock, [this] { return !orders_.empty(); });
        Order order = std::move(orders_.front());
        orders_.pop_front();
        progress_ = std::make_unique<Progress>([this](const std::string& stage, double fraction) {
            say(framed(MessageKind::stage, bodyOf(StageWord{stage, fraction})));
        });
        if (order.stopped) progress_->stop();
        return std::move(order.message);
    }

    void listen()
    {
        MessageReader reader;
        std::string piece(1 << 16, '\0');
        while (true) {
            const auto size = read(in_, piece.data(), piece.size());
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

    void say(const std::string& bytes)
    {
        for (std::size_t at = 0; at < bytes.size();) {
            const auto size = write(out_, bytes.data() + at, bytes.size() - at);
            if (size <= 0) _exit(0); // nobody listens any more
            at += static_cast<std::size_t>(size);
        }
    }

    int in_, out_;
    std::mutex mutex_;
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
