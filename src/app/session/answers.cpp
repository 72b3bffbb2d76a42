#include "app/session/answers.hpp"

#include "app/session/engine_process.hpp"

namespace undisona {

Answers::Answers(EngineProcess& engine) : engine_(engine)
{
    connect(&engine_, &EngineProcess::done, this, [this](std::uint64_t order, const std::string& bytes) {
        const auto waiting = waiting_.find(order);
        if (waiting == waiting_.end()) return;
        const Key key = waiting->second;
        waiting_.erase(waiting);
        if (StudyOf<NoOptions, NoOptions>::isAnswer(bytes)) keep(key, bytes); // what was refused may be asked again
    });
    // What was on its way went with the engine. It may have been what ended it, so it is not asked again by itself.
    connect(&engine_, &EngineProcess::died, this, [this](const Finding& why) {
        for (const auto& [order, key] : std::exchange(waiting_, {}))
            keep(key, StudyOf<NoOptions, NoOptions>::bytesOf(why));
    });
    connect(&engine_, &EngineProcess::killed, this, [this] { waiting_.clear(); });
}

void Answers::ask(const Study& study, const Model& model)
{
    const Key key{study.key, keyOf(study, model)};
    if (answers_.contains(key) ||
        std::any_of(waiting_.begin(), waiting_.end(), [&](const auto& waiting) { return waiting.second == key; }))
        return;
    waiting_.emplace(engine_.order(study.key, model, study.usual), key);
}

void Answers::keep(const Key& key, std::string bytes)
{
    constexpr std::size_t most = 200;
    if (answers_.size() >= most) answers_.clear();
    answers_[key] = std::move(bytes);
    emit arrived();
}

} // namespace undisona
