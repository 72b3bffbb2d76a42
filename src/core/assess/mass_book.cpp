#include "core/assess/mass_book.hpp"

namespace undisona {

namespace {

/// What a sentence brings: its name or its label, else all that is said.
std::string wordsFor(const Sentence& sentence)
{
    for (const char* key : {"label", "name"})
        if (sentence.has(key)) return sentence.text(key);
    return wordsOf(sentence);
}

/// What the model has of what was weighed, kg.
double massOf(const Weighed& weighed, const MassSummary& summary)
{
    if (weighed.what.empty()) return summary.mass;
    double sum = 0.0;
    for (const auto& owner : weighed.what)
        if (const auto own = summary.byOwner.find(owner); own != summary.byOwner.end()) sum += own->second;
    return sum;
}

} // namespace

MassBook massBook(const Structure& structure, const Model& model, const MassSummary& summary)
{
    MassBook book;
    for (const auto& sentence : model.sentences()) {
        const auto found = summary.bySentence.find(sentence->id);
        if (found == summary.bySentence.end()) continue;
        const SentenceMass& own = found->second;
        const bool added = sentence->kind->group == Group::addedMass;
        (added ? book.added : book.material) += own.mass;
        book.rows.push_back({added ? MassBook::Row::Kind::added : MassBook::Row::Kind::material,
                             wordsFor(*sentence),
                             own.mass,
                             own.mass != 0.0 ? Eigen::Vector3d(own.moment / own.mass) : Eigen::Vector3d::Zero().eval(),
                             {},
                             {},
                             sentence->id});
    }
    std::stable_sort(book.rows.begin(), book.rows.end(), [](const auto& a, const auto& b) { return a.kind < b.kind; });
    for (const auto& weighed : structure.weighed) {
        const SentencePtr sentence = model.sentence(weighed.sentence);
        book.rows.push_back({MassBook::Row::Kind::weighed, sentence ? sentence->text("what") : std::string(),
                             massOf(weighed, summary), Eigen::Vector3d::Zero(), weighed.mass, weighed.source,
                             weighed.sentence});
        if (weighed.what.empty()) book.weighed = weighed.mass;
    }
    book.centre = summary.centre;
    const Matrix6 about = movedTo(summary.aboutOrigin, summary.centre);
    book.inertia = about.bottomRightCorner<3, 3>();
    book.acting = about.diagonal().head<3>();
    return book;
}

} // namespace undisona
