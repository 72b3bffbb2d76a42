#pragma once
#include "core/model/model.hpp"

namespace undisona {

/// Keeps a model as a take that was made from another one, or from none; the new one's id.
std::string keepTake(Document&, const std::string& name, Model, const std::string& from);

/// What was made from it comes from what it came from itself.
void removeTake(Document&, const std::string& id);

/// A line of the tree that shows which take came from which.
struct TakeInTree {
    const Take* take = nullptr; ///< of the document; null: its live model
    int depth = 0;              ///< 0 for one that came from none
    const Take* from = nullptr; ///< null: none
};
/// Each take before those that were made from it, oldest first among these; the live model after those beside it.
std::vector<TakeInTree> treeOf(const Document&);

/// A model of a document and what it is called.
struct NamedModel {
    std::string name;
    Model model;
};
/// The live one, "now"; its states; its takes, oldest first.
std::vector<NamedModel> modelsOf(const Document&);

/// "2031-05-04 13:20" of "2031-05-04T13:20:11Z", in the time of the place; as it is where it is no such time.
std::string localTime(const std::string& utc);
/// Now, as it is kept: "2031-05-04T13:20:11Z".
std::string utcNow();

} // namespace undisona
