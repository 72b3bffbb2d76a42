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
        book.added += own.added;
        book.material += own.material();
        const auto add = [&](MassBook::Row::Kind kind, const std::string& what, double mass,
                             const Eigen::Vector3d& moment) {
            book.rows.push_back({kind,
                                 what,
                                 mass,
                                 mass != 0.0 ? Eigen::Vector3d(moment / mass) : Eigen::Vector3d::Zero().eval(),
                                 {},
                                 {},
                                 sentence->id});
        };
        const std::string what = wordsFor(*sentence);
        if (sentence->kind->group == Group::addedMass) {
            add(MassBook::Row::Kind::added, what, own.added, own.addedMoment);
            continue;
        }
        add(MassBook::Row::Kind::material, what, own.material(), own.moment - own.addedMoment);
        if (own.added != 0.0) // of a sub-assembly
            add(MassBook::Row::Kind::added, what + ", added mass", own.added, own.addedMoment);
    }
    std::stable_sort(book.rows.begin(), book.rows.end(), [](const auto& a, const auto& b) { return a.kind < b.kind; });
    for (const auto& weighed : structure.weighed) {
        book.rows.push_back({MassBook::Row::Kind::weighed, weighed.called, massOf(weighed, summary),
                             Eigen::Vector3d::Zero(), weighed.mass, weighed.source, weighed.sentence});
        if (weighed.what.empty()) book.weighed = weighed.mass;
    }
    book.centre = summary.centre;
    const Matrix6 about = movedTo(summary.aboutOrigin, summary.centre);
    book.inertia = about.bottomRightCorner<3, 3>();
    book.acting = about.diagonal().head<3>();
    return book;
}

} // namespace undisona
