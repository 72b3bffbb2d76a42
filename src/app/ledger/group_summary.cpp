#include "app/ledger/group_summary.hpp"

namespace undisona {

Findings findingsOf(const Session& session, const std::string& sentence)
{
    Findings own;
    for (const auto& finding : session.findings())
        if (finding.sentence == sentence && finding.severity != Severity::note) own.push_back(finding);
    return own;
}

GroupSummary summaryOf(const Session& session, Group group)
{
    const Structure& structure = session.structure();
    const auto count = [](std::size_t number, const char* one, const char* many) {
        return QString("%1 %2").arg(number).arg(number == 1 ? one : many);
    };
    const auto massOf = [&](bool members) {
        double sum = 0.0;
        for (const auto& [sentence, mass] : session.mass().bySentence)
            sum += members ? mass.material() : mass.added;
        return QString::fromStdString(session.units().text(sum, QuantityKind::mass));
    };
    GroupSummary summary;
    switch (group) {
    case Group::shape:
        if (!structure.frame.members.empty()) summary.sum = count(structure.frame.members.size(), "member", "members");
        if (!structure.frame.sheets.empty())
            summary.sum +=
                (summary.sum.isEmpty() ? "" : ", ") + count(structure.frame.sheets.size(), "sheet", "sheets");
        if (const auto solids = std::count_if(structure.frame.solids.begin(), structure.frame.solids.end(),
                                              [](const Solid& solid) { return !solid.spent; });
            solids > 0)
            summary.sum +=
                (summary.sum.isEmpty() ? "" : ", ") + count(static_cast<std::size_t>(solids), "solid", "solids");
        if (summary.sum.isEmpty()) summary.sum = QObject::tr("nothing yet");
        break;
    case Group::material:
        summary.sum = massOf(true);
        break;
    case Group::joints: {
        const auto stated = session.model().activeIn(group).size();
        summary.sum = stated > 0                        ? count(stated, "joint sentence", "joint sentences")
                      : structure.frame.members.empty() ? QObject::tr("joined where they touch")
                                                        : QObject::tr("all members rigid at their ends");
        break;
    }
    case Group::supports: {
        int directions = 0;
        std::array<std::set<int>, everyTarget.size()> of;
        for (const auto& hold : structure.holds) {
            of[static_cast<std::size_t>(hold.on)].insert(hold.at);
            for (std::size_t at = 0; at < 6; ++at)
                directions += hold.rigid[at] || hold.elastic[at] > 0.0;
        }
        for (const auto& contact : structure.contacts)
            directions += contact.over
                              ? of[static_cast<std::size_t>(contact.over->first)].insert(contact.over->second).second
                              : of[static_cast<std::size_t>(Target::point)].insert(contact.point).second;
        const bool bedded =
            std::any_of(structure.attachments.begin(), structure.attachments.end(),
                        [](const Attachment& own) { return own.effect == Attachment::Effect::stiffness; });
        QStringList held;
        for (const Target target : everyTarget)
            if (const auto& some = of[static_cast<std::size_t>(target)]; !some.empty()) {
                const std::string noun(nounOf(target));
                held << count(some.size(), noun.c_str(), (noun + "s").c_str());
            }
        summary.sum = !held.isEmpty() ? QObject::tr("%1, %2 directions").arg(held.join(", ")).arg(directions)
                      : bedded        ? QObject::tr("on an elastic bed")
                                      : QObject::tr("floats freely");
        break;
    }
    case Group::addedMass:
        summary.sum = massOf(false);
        break;
    case Group::loads: {
        const auto stated = session.model().activeIn(group).size();
        summary.sum =
            stated == 0 ? QObject::tr("none") : count(structure.staticStates.size(), "static state", "static states");
        break;
    }
    case Group::excitation:
        summary.sum = count(structure.excitations.size(), "source", "sources");
        break;
    case Group::ask:
        summary.sum = structure.ask.sentence.empty() ? QObject::tr("the 12 lowest") : QString();
        break;
    }
    for (const auto& finding : session.findings()) {
        const auto said = session.model().sentence(finding.sentence);
        const bool own = said ? said->kind->group == group : false;
        if (!own || finding.severity == Severity::note) continue;
        if (finding.severity == Severity::error)
            summary.state = GroupState::wrong;
        else if (summary.state == GroupState::settled)
            summary.state = GroupState::open;
    }
    return summary;
}

} // namespace undisona
