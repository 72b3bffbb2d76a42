#include "core/engine/messages.hpp"

#include <cstring>

namespace undisona {

namespace {

struct Head {
    std::uint32_t mark = 0x4e554431; // "1DUN"
    MessageKind kind = MessageKind::hello;
    std::uint64_t order = 0, length = 0;
};
static_assert(sizeof(Head) == 24);
static_assert(allNamed<StudyOrder, StageWord, PartlyWord>());

} // namespace

const char* engineVersion()
{
    return "undisona " UNDISONA_VERSION ", messages 6";
}

std::string headOf(MessageKind kind, std::uint64_t order, std::uint64_t length)
{
    const Head head{.kind = kind, .order = order, .length = length};
    return std::string(reinterpret_cast<const char*>(&head), sizeof head);
}

std::string framed(MessageKind kind, std::uint64_t order, std::string_view body)
{
    return headOf(kind, order, body.size()).append(body);
}

std::optional<Message> MessageReader::next()
{
    Head head;
    if (broken_ || bytes_.size() - at_ < sizeof head) return std::nullopt;
    std::memcpy(&head, bytes_.data() + at_, sizeof head);
    if (head.mark != Head{}.mark || head.kind > MessageKind::done || head.length > (std::uint64_t(1) << 40)) {
        broken_ = true;
        return std::nullopt;
    }
    if (bytes_.size() - at_ - sizeof head < head.length) return std::nullopt;
    Message message{head.kind, head.order, bytes_.substr(at_ + sizeof head, head.length)};
    at_ += sizeof head + head.length;
    if (at_ > bytes_.size() / 2) {
        bytes_.erase(0, at_);
        at_ = 0;
    }
    return message;
}

} // namespace undisona
