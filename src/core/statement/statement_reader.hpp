#pragma once
#include "core/picks/sentence_reader.hpp"
#include "core/statement/structure.hpp"

namespace undisona {

/// Reads the sentences of a group into a structure whose frame is there; each group's reader stands in a file of its
/// own.
class StatementReader : protected SentenceReader {
public:
    StatementReader(Structure& structure, Findings& findings)
        : SentenceReader(structure.frame, findings), structure_(structure)
    {
    }

protected:
    /// What is done with a sentence of each kind; kinds that are missing are read elsewhere.
    template <class Reader>
    using ByKind = std::map<std::string_view, void (Reader::*)()>;

    /// One after the other.
    template <class Reader>
    void readEach(Reader& reader, const Model& model, Group group, const ByKind<Reader>& byKind)
    {
        for (const auto& sentence : model.activeIn(group)) {
            const auto found = byKind.find(sentence->kind->key);
            if (found == byKind.end()) continue;
            sentence_ = sentence.get();
            (reader.*found->second)();
        }
    }

    /// The frame stated by "its x towards ..., its y near ..."; global axes if neither is said.
    Eigen::Matrix3d axes();
    /// N/m and N m/rad along and about x, y, z; 0 where nothing is said.
    std::array<double, 6> sixStiffnesses() const;
    /// Of the model's own ones, or of the library; complains and gives none where there is none of the name.
    std::shared_ptr<const Material> materialNamed(const std::string& name);
    double lengthOf(int member) const; ///< m, between its ends beside its points

    /// Spreads an amount over what the field "where" names: per length, area or volume as the unit of the sentence's
    /// quantity says, or shared over all of it; of a mass, over points too.
    void spread(Attachment::Effect, double amount, const Mask3& along);
    /// Joins a point to what is picked, as one rigid body or as its mean.
    void carryBy(int point, const Picked&, bool rigidly);
    void attach(Attachment::Effect, Target over, int at, double perExtent, const Mask3& along = {true, true, true});

    /// What the amount of the sentence is divided by on each of what its field "where" names: one where it is meant per
    /// length, area or volume; else all that is there, m, m2, m3 or points. Nothing, and a finding, where one total is
    /// not shared evenly.
    std::optional<double> sharedExtent(const Picked&);

    Structure& structure_;

private:
    double extentOf(Target, int at) const; ///< m, m2 or m3
};

} // namespace undisona
