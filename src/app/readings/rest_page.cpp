#include "app/readings/rest_page.hpp"

#include "app/readings/part_stress_table.hpp"
#include "app/readings/plot.hpp"
#include "app/readings/values_view.hpp"
#include "core/io/rest_table.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>

namespace undisona {

namespace {

/// What a member carries, as Rest::endForces has it.
const std::array<std::pair<const char*, QuantityKind>, 6> forceNames{{{"axial force", QuantityKind::force},
                                                                      {"shear along 1", QuantityKind::force},
                                                                      {"shear along 2", QuantityKind::force},
                                                                      {"twisting moment", QuantityKind::moment},
                                                                      {"bending about 1", QuantityKind::moment},
                                                                      {"bending about 2", QuantityKind::moment}}};

} // namespace

RestPage::RestPage(Session& session, QWidget* parent) : PartedPage(session, parent)
{
    words_ = richLabel("restWords", this);
    find_ = new QPushButton(this);
    find_->setObjectName("restButton");
    find_->setFocusPolicy(Qt::TabFocus);
    about_ = new QPushButton(tr("Modes about it"), this);
    about_->setObjectName("restAbout");
    about_->setFocusPolicy(Qt::TabFocus);
    about_->setToolTip(tr("Asks for the modes of small motions about this state: a sentence in Ask"));
    const auto box = [this](const char* name, const QString& means) {
        auto* made = new QComboBox(this);
        made->setObjectName(name);
        made->setAccessibleName(means);
        made->setToolTip(means);
        made->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        made->setMinimumContentsLength(8);
        return made;
    };
    states_ = box("restState", tr("the static state"));
    shapes_ = box("restShape", tr("what the scene shows of it"));
    members_ = box("restMember", tr("the member"));
    forces_ = box("restForce", tr("what it carries"));
    for (const auto& [name, kind] : forceNames)
        forces_->addItem(tr(name));
    forces_->setCurrentIndex(4);
    supports_ = new ReadingTable(this);
    supports_->setObjectName("restSupports");
    supports_->foldLastColumns();
    supports_->cutShort(0, 110);
    stresses_ = new PartStressTable(this);
    stresses_->setObjectName("restStresses");
    diagram_ = new Plot(this);
    diagram_->setObjectName("restDiagram");
    diagram_->setMinimumHeight(200);
    diagramWords_ = richLabel("restDiagramWords", this);
    auto* choice = new QHBoxLayout;
    choice->setContentsMargins(12, 0, 8, 6);
    choice->setSpacing(6);
    choice->addWidget(find_);
    choice->addWidget(states_, 1);
    choice->addWidget(shapes_, 1);
    auto* asking = new QHBoxLayout;
    asking->setContentsMargins(12, 0, 8, 6);
    asking->addWidget(about_);
    asking->addStretch();
    auto* column = static_cast<QBoxLayout*>(layout());
    column->addWidget(words_);
    column->addLayout(choice);
    column->addLayout(asking);
    auto* along = new QWidget(this);
    auto* inAlong = new QVBoxLayout(along);
    inAlong->setContentsMargins(0, 0, 0, 0);
    auto* ofMember = new QHBoxLayout;
    ofMember->setContentsMargins(12, 6, 8, 0);
    ofMember->addWidget(members_, 2);
    ofMember->addWidget(forces_, 1);
    inAlong->addLayout(ofMember);
    inAlong->addWidget(diagram_, 1);
    inAlong->addWidget(diagramWords_);
    values_ = new ValuesView(session, "restValues", this);
    makeParts("restParts", {{tr("Supports"), supports_},
                            {tr("Stress"), stresses_},
                            {tr("Along a member"), along},
                            {tr("At places"), values_}});

    connect(about_, &QPushButton::clicked, this, &RestPage::askAboutIt);
    connect(find_, &QPushButton::clicked, this, [this] { session_.findingRest() ? session_.stop() : find(); });
    connect(states_, &QComboBox::activated, this, [this] {
        shapes_->setCurrentIndex(0);
        showChosen();
    });
    connect(shapes_, &QComboBox::activated, this, &RestPage::showChosen);
    for (auto* one : {members_, forces_})
        connect(one, &QComboBox::activated, this, [this] { fill(); });
    for (ReadingTable* table : {supports_, static_cast<ReadingTable*>(stresses_)})
        connect(table, &ReadingTable::told, &session_, &Session::told);
    connect(diagram_, &Plot::told, &session_, &Session::told);
    connect(supports_, &ReadingTable::keyActivated, this,
            [this](int key) { emit sentenceWanted(sentences_[static_cast<std::size_t>(key)]); });
    connect(stresses_, &ReadingTable::keyActivated, this, [this](int key) {
        const PartStress* part = stresses_->part(key);
        if (!part) return;
        if (part->of == OwnerKind::member) {
            const auto at = std::find(listed_.begin(), listed_.end(), part->owner);
            if (at != listed_.end()) members_->setCurrentIndex(static_cast<int>(at - listed_.begin()));
        }
        showChosen();
        emit stressWanted();
        session_.lightOwner(part->of, part->owner, part->sentence);
    });
    connect(&session_, &Session::restMoved, this, [this] {
        const auto* known = session_.rest();
        if (sought_ && known && !session_.findingRest()) {
            sought_ = false;
            if (*known && isVisible()) {
                session_.showRest(0);
                emit stateWanted();
            }
        }
        if (isVisible()) fill();
    });
}

void RestPage::find()
{
    sought_ = true;
    session_.findRest();
}

/// One sentence in Ask, in place of another of its kind.
void RestPage::askAboutIt()
{
    const std::string name = states_->currentText().toStdString();
    const Model& model = session_.model();
    const QString what = tr("modes about %1").arg(states_->currentText());
    for (const auto& sentence : model.activeIn(Group::ask))
        if (sentence->kind->key == "about-state") {
            Sentence next = *sentence;
            next.values["state"] = name;
            return session_.replaceSentence(what, std::move(next));
        }
    Sentence asked = newSentence(*kindNamed("about-state"), model.freeId());
    asked.values["state"] = name;
    session_.changeModel(what, model.inserted(std::move(asked)));
}

/// Which state the shown model's modes are about.
bool RestPage::isAskedAbout(const std::string& state) const
{
    const int about = session_.structure().aboutState;
    const auto& states = session_.structure().staticStates;
    return about >= 0 && states[static_cast<std::size_t>(about)].name == state;
}

int RestPage::state() const
{
    return std::max(0, states_->currentIndex());
}

void RestPage::showChosen()
{
    session_.showRest(static_cast<std::size_t>(state()), shapes_->currentIndex());
    emit stateWanted();
}

void RestPage::fill()
{
    const Theme& theme = Theme::now();
    const bool under = session_.findingRest();
    const auto* known = session_.rest();
    const Rest* rest = known && *known ? &(*known)->found : nullptr;
    find_->setText(under ? tr("Stop") : rest ? tr("Find again") : tr("Come to rest"));
    find_->setEnabled(under || !session_.structure().frame.empty());
    find_->setToolTip(tr("Finds every static state that the sentences under Loads make (Ctrl+Shift+R)"));
    fillChoices(rest);
    for (QWidget* one : {static_cast<QWidget*>(states_), static_cast<QWidget*>(shapes_), static_cast<QWidget*>(about_),
                         static_cast<QWidget*>(which_)})
        one->setVisible(rest);
    supports_->setVisible(rest && shownPart() == 0);
    stresses_->setVisible(rest && shownPart() == 1);
    members_->parentWidget()->setVisible(rest && shownPart() == 2);
    values_->setVisible(rest && shownPart() == 3);
    if (rest) {
        const bool asked = isAskedAbout(states_->currentText().toStdString());
        about_->setText(asked ? tr("The modes are about it") : tr("Modes about it"));
        about_->setEnabled(!asked);
        const RestState& own = rest->states[static_cast<std::size_t>(state())];
        fillWords(own);
        if (shownPart() == 0) fillSupports(own);
        if (shownPart() == 1) stresses_->fill(own.parts, 1.0, false, session_.units());
        if (shownPart() == 2) fillDiagram(**known);
        if (shownPart() == 3) values_->fill();
        return;
    }
    const QString quiet = QString("<span style='color:%1'>%2</span>");
    if (under) return words_->setText(quiet.arg(theme.quiet.name(), tr("Coming to rest …")));
    if (known)
        return words_->setText(
            QString("<span style='color:%1'>✕ </span>%2")
                .arg(theme.red.name(), QString::fromStdString(oneLine(known->findings()[0])).toHtmlEscaped()));
    words_->setText(quiet.arg(
        theme.quiet.name(),
        tr("Where the structure comes to rest under its loads: what each support carries, how far it moves, section "
           "forces and stresses, and by which factor it buckles. Loads are said in the group Loads of the Ledger.")));
}

void RestPage::fillChoices(const Rest* rest)
{
    QStringList states, shapes;
    if (rest) {
        for (const auto& own : rest->states)
            states << QString::fromStdString(own.name);
        const RestState& own = rest->states[std::min(static_cast<std::size_t>(state()), rest->states.size() - 1)];
        shapes << tr("at rest");
        for (std::size_t at = 0; at < own.buckles.size(); ++at)
            shapes << tr("buckling at %1").arg(QString::fromStdString(rounded(own.buckles[at], 4)));
    }
    const auto put = [](QComboBox* box, const QStringList& items) {
        QStringList now;
        for (int at = 0; at < box->count(); ++at)
            now << box->itemText(at);
        if (now == items) return;
        const int chosen = std::clamp(box->currentIndex(), 0, std::max(0, static_cast<int>(items.size()) - 1));
        box->clear();
        box->addItems(items);
        box->setCurrentIndex(chosen);
    };
    put(states_, states);
    put(shapes_, shapes);
    QStringList members;
    listed_.clear();
    const auto& all = session_.structure().frame.members;
    for (std::size_t at = 0; at < all.size() && rest; ++at) {
        members << QString::fromStdString(all[at].name);
        listed_.push_back(static_cast<int>(at));
    }
    put(members_, members);
}

void RestPage::fillWords(const RestState& own)
{
    const DisplayUnits units = session_.units();
    const Theme& theme = Theme::now();
    const auto length = [&](double si) {
        return QString::fromStdString(amplitudeText(si, QuantityKind::length, units)).toHtmlEscaped();
    };
    const double force = own.force.norm();
    const auto number = [&](double si, QuantityKind kind) {
        return QString::fromStdString(rounded(std::abs(si) < 1e-9 * force ? 0.0 : units.value(si, kind), 4));
    };
    QString text =
        force > 0.0
            ? tr("<b>%1 %2</b> <span style='color:%6'>of loads (X %3, Y %4, Z %5)</span>")
                  .arg(number(force, QuantityKind::force), QString::fromStdString(units.unit(QuantityKind::force)),
                       number(own.force.x(), QuantityKind::force), number(own.force.y(), QuantityKind::force),
                       number(own.force.z(), QuantityKind::force), theme.quiet.name())
            : tr("<b>Loads in balance</b>");
    text += tr("<div><b>%1</b> <span style='color:%3'>is the most that it moves, at %2</span></div>")
                .arg(length(own.moves), QString::fromStdString(own.where).toHtmlEscaped(), theme.quiet.name());
    if (own.bucklesKnown > 0.0) {
        const bool near = !own.buckles.empty() && own.buckles[0] > 0.0 && own.buckles[0] < 1.0;
        text += QString("<div style='color:%1'>%2</div>")
                    .arg((near ? theme.red : theme.quiet).name(),
                         (near ? tr("✕ It has buckled: ") : QString()) +
                             tr("it buckles %1").arg(QString::fromStdString(bucklingWords(own))).toHtmlEscaped());
    }
    if (!own.contacts.empty()) {
        long open = 0, all = 0; // places
        for (const auto& contact : own.contacts) {
            open += contact.places - contact.bearing;
            all += contact.places;
        }
        text +=
            QString("<div style='color:%1'>%2</div>")
                .arg(theme.quiet.name(), tr("%1 of %2 that bear on one side alone are open (settled in %3)")
                                             .arg(open)
                                             .arg(all)
                                             .arg(own.passes == 1 ? tr("1 pass") : tr("%1 passes").arg(own.passes)));
    }
    if (const PartStress* most = nearestToStrength(own)) {
        const bool tooMuch = most->share() > 1.0;
        text += QString("<div style='color:%1'>%2</div>")
                    .arg((tooMuch ? theme.red : theme.quiet).name(),
                         (tooMuch ? tr("✕ %1 has %2 % of what its material bears")
                                  : tr("%1 has %2 % of what its material bears"))
                             .arg(QString::fromStdString(most->name).toHtmlEscaped())
                             .arg(100.0 * most->share(), 0, 'g', 3));
    }
    const bool balanced = own.unbalanced < 1e-6;
    if (!balanced)
        text += QString("<div style='color:%1'>%2</div>")
                    .arg(theme.amber.name(),
                         tr("▲ What the supports carry differs from the loads by %1 %: stiffnesses lie far apart.")
                             .arg(QString::fromStdString(rounded(100.0 * own.unbalanced, 2))));
    words_->setText(text);
}

void RestPage::fillSupports(const RestState& own)
{
    const DisplayUnits units = session_.units();
    const QString force = QString::fromStdString(units.unit(QuantityKind::force)),
                  moment = QString::fromStdString(units.unit(QuantityKind::moment));
    supports_->setHeads(
        {tr("carried by"), tr("X, %1").arg(force), "Y", "Z", tr("about x, %1").arg(moment), tr("y"), tr("z")});
    double most = own.force.norm(), turning = own.moment.norm();
    for (const auto& load : own.carried) {
        most = std::max(most, load.force.norm());
        turning = std::max(turning, load.moment.norm());
    }
    const auto cell = [&](double si, QuantityKind kind, double all) {
        return std::abs(si) <= 1e-6 * all ? ReadingTable::Cell{"·", 0.0, Theme::now().quiet, false, true, {}}
                                          : ReadingTable::number(units.value(si, kind), 4);
    };
    std::vector<std::vector<ReadingTable::Cell>> rows;
    std::vector<int> keys;
    sentences_.clear();
    for (const auto& load : own.carried) {
        const QString name = QString::fromStdString(carrierName(session_.shown().model, load));
        std::vector<ReadingTable::Cell> row{{name, {}, {}, false, false, name}};
        for (int axis = 0; axis < 3; ++axis)
            row.push_back(cell(load.force[axis], QuantityKind::force, most));
        for (int axis = 0; axis < 3; ++axis)
            row.push_back(cell(load.moment[axis], QuantityKind::moment, turning));
        rows.push_back(std::move(row));
        keys.push_back(static_cast<int>(sentences_.size()));
        sentences_.push_back(load.sentence);
    }
    for (const auto& contact : own.contacts) {
        const QString remark = QString::fromStdString(contactRemark(contact));
        QString name = QString::fromStdString(contactName(contact));
        const bool partly = contact.bears && contact.bearing < contact.places;
        if (contact.bears && !partly && contact.against.empty() && remark.isEmpty()) continue; // among those that carry
        if (partly)
            name = tr("%1 bear, open by up to %2")
                       .arg(name, QString::fromStdString(amplitudeText(contact.gap, QuantityKind::length, units)));
        if (!contact.bears)
            name = tr("%1, open by %2")
                       .arg(name, QString::fromStdString(amplitudeText(contact.gap, QuantityKind::length, units)));
        name += remark;
        const QColor colour = contact.bears && remark.isEmpty() ? QColor() : Theme::now().amber;
        std::vector<ReadingTable::Cell> row{{name, {}, colour, false, false, name}};
        for (int axis = 0; axis < 3; ++axis)
            row.push_back(
                cell(contact.force * contact.pushes[axis] + contact.sideways[axis], QuantityKind::force, most));
        row.insert(row.end(), 3, {"·", 0.0, Theme::now().quiet, false, true, {}});
        rows.push_back(std::move(row));
        keys.push_back(static_cast<int>(sentences_.size()));
        sentences_.push_back(contact.sentence);
    }
    supports_->setRows(rows, keys);
}

/// What a member carries from its first point on.
void RestPage::fillDiagram(const RestAnswer& answer)
{
    const auto at = members_->currentIndex();
    const auto& frame = session_.structure().frame;
    diagram_->setVisible(at >= 0);
    if (at < 0)
        return diagramWords_->setText(
            QString("<span style='color:%1'>%2</span>").arg(Theme::now().quiet.name(), tr("There are no members.")));
    const auto member = static_cast<std::size_t>(listed_[static_cast<std::size_t>(at)]);
    const auto which = static_cast<std::size_t>(std::max(0, forces_->currentIndex()));
    const DisplayUnits units = session_.units();
    const auto& own = frame.members[member];
    const double length =
        (frame.points[static_cast<std::size_t>(own.to)].place - frame.points[static_cast<std::size_t>(own.from)].place)
            .norm();
    Eigen::Index first = 0; // elements of the members before it
    for (std::size_t before = 0; before < member; ++before)
        first += answer.plan.splits[before];
    const Eigen::Index count = answer.plan.splits[member];
    Plot::Line line{tr(forceNames[which].first), {}, Theme::now().accent};
    double low = 0.0, high = 0.0;
    for (Eigen::Index element = 0; element < count; ++element)
        for (int end = 0; end < 2; ++end) {
            const double value = units.value(
                double(answer.found.endForces(12 * (first + element) + 6 * end + Eigen::Index(which), state())),
                forceNames[which].second);
            const double x =
                units.value(length * double(answer.found.endShares[2 * (first + element) + end]), QuantityKind::length);
            line.points.emplace_back(x, value);
            low = std::min(low, value);
            high = std::max(high, value);
        }
    const double right = units.value(length, QuantityKind::length), room = 0.08 * std::max(high - low, 1e-9);
    diagram_->setTitles(QString::fromStdString(units.unit(QuantityKind::length)),
                        QString::fromStdString(units.unit(forceNames[which].second)));
    diagram_->setRange(0.0, right, low - room, high + room);
    diagram_->show({std::move(line), {QString(), {{0, 0}, {right, 0}}, Theme::now().quiet, false, false, 1.0}});
    diagramWords_->setText(
        tr("<span style='color:%4'>%1 of <b>%2</b>, from its first point on: %3. What pulls is above nothing; moments "
           "as they act on the face towards the member's end.</span>")
            .arg(tr(forceNames[which].first), QString::fromStdString(own.name).toHtmlEscaped(),
                 tr("%1 to %2 %3")
                     .arg(QString::fromStdString(rounded(low, 4)), QString::fromStdString(rounded(high, 4)),
                          QString::fromStdString(units.unit(forceNames[which].second))),
                 Theme::now().quiet.name()));
}

} // namespace undisona
