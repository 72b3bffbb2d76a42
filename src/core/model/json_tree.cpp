#include "core/model/json_tree.hpp"

#include <nlohmann/json.hpp>

#include <fmt/format.h>

namespace undisona {

namespace {

/// Walks over the text and counts the lines it has passed.
class LineCounting {
public:
    using difference_type = std::ptrdiff_t;
    using value_type = char;
    using pointer = const char*;
    using reference = const char&;
    using iterator_category = std::input_iterator_tag;

    LineCounting(const char* at, int* line) : at_(at), line_(line) {}
    reference operator*() const { return *at_; }
    LineCounting& operator++()
    {
        if (*at_ == '\n') ++*line_;
        ++at_;
        return *this;
    }
    LineCounting operator++(int)
    {
        LineCounting before = *this;
        ++*this;
        return before;
    }
    bool operator==(const LineCounting& other) const { return at_ == other.at_; }
    bool operator!=(const LineCounting& other) const { return at_ != other.at_; }

private:
    const char* at_;
    int* line_;
};

constexpr std::size_t deepest = 64;

class TreeBuilder : public nlohmann::json_sax<nlohmann::json> {
public:
    TreeBuilder(const std::string& file, int& line) : file_(file), line_(line) {}

    JsonNode root;
    Findings findings;

    bool null() override { return place({}); }
    bool boolean(bool value) override
    {
        JsonNode node{JsonNode::Kind::boolean};
        node.boolean = value;
        return place(std::move(node));
    }
    bool number_integer(number_integer_t value) override
    {
        return number(static_cast<double>(value), std::to_string(value));
    }
    bool number_unsigned(number_unsigned_t value) override
    {
        return number(static_cast<double>(value), std::to_string(value));
    }
    bool number_float(number_float_t value, const string_t& digits) override { return number(value, digits); }
    bool string(string_t& value) override
    {
        JsonNode node{JsonNode::Kind::text};
        node.text = std::move(value);
        return place(std::move(node));
    }
    bool binary(binary_t&) override { return false; }
    bool start_object(std::size_t) override { return open(JsonNode::Kind::object); }
    bool start_array(std::size_t) override { return open(JsonNode::Kind::list); }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }

    bool key(string_t& name) override
    {
        if (open_.back()->member(name)) {
            complain(fmt::format("the key \"{}\" stands twice in one object", name), "Keep one of the two.");
            return false;
        }
        key_ = name;
        keyLine_ = line_;
        return true;
    }

    bool parse_error(std::size_t, const std::string& token, const nlohmann::detail::exception& error) override
    {
        std::string reason = error.what();
        if (const auto at = reason.find("syntax error"); at != std::string::npos) reason = reason.substr(at);
        const bool cut = reason.find("end of input") != std::string::npos;
        complain(cut ? "the file ends in the middle of its contents" : "this is not JSON: " + reason,
                 cut ? "It may have been cut off when it was copied or saved; take another copy."
                     : fmt::format("Look at or just before \"{}\".", token.substr(0, 40)));
        return false;
    }

private:
    bool number(double value, std::string digits)
    {
        JsonNode node{JsonNode::Kind::number};
        node.number = value;
        node.text = std::move(digits);
        return place(std::move(node));
    }

    bool place(JsonNode node)
    {
        node.line = line_;
        insert(std::move(node));
        return true;
    }

    JsonNode* insert(JsonNode node)
    {
        if (open_.empty()) {
            root = std::move(node);
            return &root;
        }
        JsonNode& parent = *open_.back();
        if (parent.kind == JsonNode::Kind::list) return &parent.items.emplace_back(std::move(node));
        node.line = keyLine_;
        parent.members.push_back({key_, std::move(node)});
        return &parent.members.back().value;
    }

    bool open(JsonNode::Kind kind)
    {
        if (open_.size() >= deepest) {
            complain("the file is nested too deeply to be a model", "");
            return false;
        }
        JsonNode node{kind};
        node.line = line_;
        open_.push_back(insert(std::move(node)));
        return true;
    }

    bool close()
    {
        open_.pop_back();
        return true;
    }

    void complain(std::string what, std::string remedy)
    {
        findings.push_back(
            {Severity::error, std::move(what), std::move(remedy), {}, fmt::format("{}, line {}", file_, line_)});
    }

    const std::string& file_;
    int& line_;
    std::vector<JsonNode*> open_; // stable: a container grows only while its last child is open
    std::string key_;
    int keyLine_ = 0;
};

} // namespace

const JsonNode* JsonNode::member(std::string_view key) const
{
    for (const auto& [name, node] : members)
        if (name == key) return &node;
    return nullptr;
}

std::string JsonNode::kindWords() const
{
    switch (kind) {
    case Kind::null:
        return "null";
    case Kind::boolean:
        return "true or false";
    case Kind::number:
        return "a number";
    case Kind::text:
        return "a text";
    case Kind::list:
        return "a list";
    case Kind::object:
        break;
    }
    return "an object";
}

Result<JsonNode> readJson(std::string_view text, const std::string& file)
{
    int line = 1;
    TreeBuilder builder(file, line);
    const LineCounting begin(text.data(), &line), end(text.data() + text.size(), &line);
    if (!nlohmann::json::sax_parse(begin, end, &builder)) return builder.findings;
    return std::move(builder.root);
}

} // namespace undisona
