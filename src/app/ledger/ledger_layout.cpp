#include "app/ledger/ledger_layout.hpp"

#include "app/session/theme.hpp"
#include "core/model/assembly_file.hpp"
#include "core/statement/touching.hpp"

#include <QFontMetricsF>

namespace undisona {

namespace {

constexpr double left = 26.0, right = 10.0, tickSize = 11.0;

/// Breaks text into pieces that may stand on a line of their own, spaces kept at their ends.
QStringList breakable(const QString& text)
{
    QStringList pieces;
    QString piece;
    for (const QChar letter : text) {
        piece += letter;
        if (letter == ' ') {
            pieces << piece;
            piece.clear();
        }
    }
    if (!piece.isEmpty()) pieces << piece;
    return pieces;
}

class Flow {
public:
    Flow(double top, double width, double height, const QFontMetricsF& metrics)
        : x_(left), y_(top), width_(width), line_(height), metrics_(metrics)
    {
    }

    void add(std::vector<LaidWord>& words, const QString& text, const QString& field)
    {
        for (const auto& piece : breakable(text)) {
            const double wide = metrics_.horizontalAdvance(piece), bare = metrics_.horizontalAdvance(piece.trimmed());
            const bool clings = piece[0] == ',' || piece[0] == ':'; // never at the head of a line
            if (x_ > left && x_ + bare > width_ - right && !clings) {
                x_ = left;
                y_ += line_;
            }
            const bool joins =
                !words.empty() && words.back().field == field && words.back().box.top() == y_ && !field.isEmpty();
            if (joins) {
                words.back().text += piece;
                words.back().box.setRight(x_ + wide);
            } else {
                words.push_back({QRectF(x_, y_, wide, line_), piece, field});
            }
            x_ += wide;
        }
    }
    double bottom() const { return y_ + line_; }
    double x() const { return x_; }
    double y() const { return y_; }

private:
    double x_, y_, width_, line_;
    const QFontMetricsF& metrics_;
};

void layOutSentence(const Session& session, LaidSentence& laid, double& y, double width, bool selected)
{
    const QFontMetricsF metrics(textFont()), small(textFont(-1.0));
    const double line = metrics.height() + 2.0;
    const double top = y;
    Flow flow(y + 2.0, width, line, metrics);
    for (const auto& piece : shownPieces(*laid.sentence))
        flow.add(laid.words, QString::fromStdString(piece.words), QString::fromStdString(piece.field));
    laid.leftOut = laid.sentence->on && session.structure().leftOut.contains(laid.sentence->id);
    if (!laid.sentence->on) flow.add(laid.words, QObject::tr(" — off"), {});
    if (laid.leftOut) flow.add(laid.words, QObject::tr(" — left out"), {});
    for (auto& word : laid.words) // the underline ends with the text, not with a space
        if (!word.field.isEmpty() && word.text.endsWith(' '))
            word.box.setRight(word.box.left() + metrics.horizontalAdvance(word.text.trimmed()));
    bool canTakeMore = mayBeTriedWithout(*laid.sentence) || placesAssembly(*laid.sentence);
    for (const auto& key : laid.sentence->kind->optionalFields())
        canTakeMore |= !laid.sentence->has(key);
    if (selected && canTakeMore) {
        const double wide = metrics.horizontalAdvance(" + ") + 4.0;
        const bool wraps = flow.x() + wide > width - right;
        laid.more = QRectF(wraps ? left : flow.x() + 4.0, flow.y() + (wraps ? line : 0.0), wide, line);
    }
    y = std::max(flow.bottom(), laid.more.bottom()) + 2.0;
    for (const auto& finding : findingsOf(session, laid.sentence->id)) {
        const QString text =
            QString::fromStdString(finding.what + (finding.remedy.empty() ? "" : ". " + finding.remedy));
        const QRectF room =
            small.boundingRect(QRectF(left + 16.0, y, width - left - right - 16.0, 10000.0), Qt::TextWordWrap, text);
        laid.findings.emplace_back(QRectF(left, y, width - left - right, room.height()), finding);
        y += room.height() + 2.0;
    }
    laid.tick = QRectF(9.0, top + 2.0 + (line - tickSize) / 2.0, tickSize, tickSize);
    laid.box = QRectF(0.0, top, width, y - top);
    laid.selected = selected;
}

/// One that was laid out before, if nothing of it has changed but where it stands.
bool reuse(const Session& session, const LaidSentence& before, LaidSentence& laid, double& y, double width,
           bool selected)
{
    if (before.selected != selected || before.box.width() != width ||
        before.leftOut != (laid.sentence->on && session.structure().leftOut.contains(laid.sentence->id)))
        return false;
    const Findings now = findingsOf(session, laid.sentence->id);
    if (!std::equal(now.begin(), now.end(), before.findings.begin(), before.findings.end(),
                    [](const Finding& one, const auto& other) { return one == other.second; }))
        return false;
    laid = before;
    const double shift = y - laid.box.top();
    for (QRectF* box : {&laid.box, &laid.tick, &laid.more})
        if (!box->isEmpty()) box->translate(0.0, shift);
    for (auto& word : laid.words)
        word.box.translate(0.0, shift);
    for (auto& [box, finding] : laid.findings)
        box.translate(0.0, shift);
    y += laid.box.height();
    return true;
}

/// "Joined where they touch, as assumed:" and the pairs, a line each; those within one sentence together.
void layOutAssumptions(const Session& session, LaidGroup& group, double& y, double width)
{
    constexpr std::size_t most = 8;
    const Structure& structure = session.structure();
    std::vector<LaidAssumption> all;
    std::map<std::string, int> within; // edges by sentence
    const auto edges = [](int count) {
        return count == 1 ? QObject::tr("1 edge") : QObject::tr("%1 edges").arg(count);
    };
    const auto faces = [](int count) {
        return count == 1 ? QObject::tr("1 face") : QObject::tr("%1 faces").arg(count);
    };
    for (const auto& pair : touchingParts(structure)) {
        const std::string &first = structure.frame.partName(pair.first),
                          &second = structure.frame.partName(pair.second),
                          &sentence = structure.frame.partSentence(pair.first);
        if (!pair.joined) continue;
        if (sentence == structure.frame.partSentence(pair.second)) {
            within[sentence] += pair.edges;
            continue;
        }
        all.push_back({{},
                       QObject::tr("%1 and %2, %3")
                           .arg(QString::fromStdString(first), QString::fromStdString(second),
                                pair.faces > 0 ? faces(pair.faces) : edges(pair.edges)),
                       first,
                       second});
    }
    for (const auto& [sentence, count] : within)
        if (const auto said = session.model().sentence(sentence); said && said->has("name"))
            all.push_back(
                {{},
                 QObject::tr("the sides of %1, %2").arg(QString::fromStdString(said->text("name")), edges(count)),
                 {},
                 {}});
    const std::size_t more = all.size() > most ? all.size() - most : 0;
    all.resize(all.size() - more);
    if (more > 0) all.push_back({{}, QObject::tr("and %1 more pairs that touch").arg(more), {}, {}});
    if (!all.empty()) all.insert(all.begin(), {{}, QObject::tr("Joined where they touch, as assumed:"), {}, {}});
    const QFontMetricsF small(textFont(-1.0));
    for (auto& line : all) {
        const QRectF room =
            small.boundingRect(QRectF(left, y, width - left - right, 10000.0), Qt::TextWordWrap, line.text);
        line.box = QRectF(left, y, width - left - right, room.height() + 1.0);
        y += line.box.height() + 1.0;
    }
    group.assumptions = std::move(all);
}

} // namespace

bool mayBeTriedWithout(const Sentence& sentence)
{
    const Group group = sentence.kind->group;
    return sentence.on && (group == Group::joints || group == Group::supports || group == Group::addedMass);
}

LedgerLayout LedgerLayout::make(const Session& session, double width, const std::string& selected,
                                const std::set<Group>& folded, const LedgerLayout& before)
{
    LedgerLayout layout;
    const QFontMetricsF bold(textFont(0.0, true)), metrics(textFont());
    layout.line = metrics.height();
    std::map<const Sentence*, const LaidSentence*> known;
    if (before.line == layout.line)
        for (const auto& group : before.groups)
            for (const auto& laid : group.sentences)
                known.emplace(laid.sentence.get(), &laid);
    double y = 8.0;
    for (std::size_t which = 0; which < groupCount; ++which) {
        LaidGroup group{static_cast<Group>(which),
                        summaryOf(session, static_cast<Group>(which)),
                        {},
                        {},
                        {},
                        folded.contains(static_cast<Group>(which)),
                        {}};
        const double headHeight = bold.height() + 6.0;
        group.head = QRectF(0.0, y, width, headHeight);
        const QString title = QString::fromUtf8(groupTitles[which].data(), static_cast<int>(groupTitles[which].size()));
        group.add = QRectF(left + bold.horizontalAdvance(title) + 6.0, y + 2.0, 20.0, headHeight - 4.0);
        group.fold = QRectF(4.0, y, 20.0, headHeight);
        y += headHeight;
        if (!group.folded)
            for (const auto& sentence : session.model().group(group.group)) {
                LaidSentence laid;
                laid.sentence = sentence;
                const auto was = known.find(sentence.get());
                if (was == known.end() || !reuse(session, *was->second, laid, y, width, sentence->id == selected))
                    layOutSentence(session, laid, y, width, sentence->id == selected);
                group.sentences.push_back(std::move(laid));
            }
        if (!group.folded && group.group == Group::joints) layOutAssumptions(session, group, y, width);
        y += 9.0;
        layout.groups.push_back(std::move(group));
    }
    layout.height = y + 4.0;
    return layout;
}

const LaidSentence* LedgerLayout::sentence(std::string_view id) const
{
    for (const auto& group : groups)
        for (const auto& sentence : group.sentences)
            if (sentence.sentence->id == id) return &sentence;
    return nullptr;
}

const LaidWord* LedgerLayout::word(std::string_view id, const QString& field) const
{
    if (const auto* laid = sentence(id))
        for (const auto& word : laid->words)
            if (word.field == field) return &word;
    return nullptr;
}

} // namespace undisona
