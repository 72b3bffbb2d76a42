#include "app/session/answers.hpp"

#include "app/session/engine_process.hpp"

namespace undisona {

namespace {

constexpr int graceOfStudies = 4000; // ms: with the engine goes what it keeps for the next run

}

Answers::Answers(EngineProcess& engine) : engine_(engine)
{
    connect(&engine_, &EngineProcess::stageChanged, this,
            [this](std::uint64_t order, const QString& stage, double fraction) {
                const auto waiting = waiting_.find(order);
                if (waiting != waiting_.end()) emit stageChanged(waiting->second.first, stage, fraction);
            });
    connect(&engine_, &EngineProcess::partly, this, [this](std::uint64_t order, const PartlyWord& word) {
        const auto waiting = waiting_.find(order);
        if (waiting != waiting_.end() && word.what == answerOnTheWay) keep(waiting->second, word.bytes);
    });
    connect(&engine_, &EngineProcess::done, this, [this](std::uint64_t order, const std::string& bytes) {
        const auto waiting = waiting_.find(order);
        if (waiting == waiting_.end()) return;
        const Key key = waiting->second;
        const bool ended = waiting->first <= stopped_;
        waiting_.erase(waiting);
        if (waiting_.empty() || waiting_.begin()->first > stopped_) patience_.stop();
        if (StudyOf<NoOptions, NoOptions>::isAnswer(bytes) || !ended)
            keep(key, bytes); // why it was refused stays with the question
        else
            emit arrived(key.first); // what was stopped may be asked again
    });
    // What was on its way went with the engine. It may have been what ended it, so it is not asked again by itself.
    connect(&engine_, &EngineProcess::died, this, [this](const Finding& why) {
        patience_.stop();
        for (const auto& [order, key] : std::exchange(waiting_, {})) {
            emit failed(key.first, why);
            if (answers_.contains(key))
                emit arrived(key.first); // with what it had
            else
                keep(key, StudyOf<NoOptions, NoOptions>::bytesOf(why));
        }
    });
    connect(&engine_, &EngineProcess::killed, this, [this] {
        patience_.stop();
        for (const auto& [order, key] : std::exchange(waiting_, {}))
            emit arrived(key.first);
    });
    patience_.setSingleShot(true);
    connect(&patience_, &QTimer::timeout, &engine_, &EngineProcess::kill);
}

void Answers::stop()
{
    if (waiting_.empty() || waiting_.rbegin()->first == stopped_) return;
    stopped_ = waiting_.rbegin()->first;
    engine_.stop();
    if (!patience_.isActive()) patience_.start(graceOfStudies);
}

void Answers::order(const Key& key, const Model& model, std::string options)
{
    if (answers_.contains(key) ||
        std::any_of(waiting_.begin(), waiting_.end(), [&](const auto& waiting) { return waiting.second == key; }))
        return;
    waiting_.emplace(engine_.order(key.first, model, std::move(options)), key);
}

void Answers::keep(const Key& key, std::string bytes)
{
    constexpr std::size_t most = 200;
    if (answers_.size() >= most) answers_.clear();
    answers_[key] = std::move(bytes);
    emit arrived(key.first);
}

} // namespace undisona
