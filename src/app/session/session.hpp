#pragma once
#include "app/session/autosave.hpp"
#include "core/assess/by_hand.hpp"
#include "core/assess/clash.hpp"
#include "core/assess/moved_part.hpp"
#include "core/assess/pairing.hpp"
#include "core/assess/settling.hpp"
#include "core/modal/modal_stress.hpp"
#include "core/modal/self_weight.hpp"
#include "core/studies/rest.hpp"
#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"
#include "core/remedy/remedy.hpp"
#include "core/remedy/tolerated_modes.hpp"
#include "core/remedy/word_sweep.hpp"
#include "core/units/display.hpp"

#include <QElapsedTimer>
#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>

namespace undisona {

class Answers;
class EngineProcess;
class KeptResults;
class SolveJob;

/// A row of the Score: the live model, a state of it or a kept take, with what is known of it.
struct Stave {
    QString id; ///< empty for the live model; of a state "state:" and the id of its sentence
    QString name;
    Model model;
    std::shared_ptr<const Solution> solution; ///< what is shown; null if nothing is known
    bool stale = false;                       ///< the solution is of the model before the last change
    Findings failure;                         ///< why there is none
    std::vector<Excitation> excitations;      ///< the live ones of this stave's model
    ClashReading clashes;
    double mass = 0.0;
    ModeNames modeNames{}; ///< that its model gives

    QString nameOf(const Mode& mode) const { return QString::fromStdString(mode.calledBy(modeNames)); }
    /// Id of the sentence that tells the state; empty for what is none.
    std::string stateSentence() const;
};

/// What is lit up in Ledger and Scene: sentences, points, members, sheets and their edges that belong together.
struct Spotlight {
    std::vector<std::string> sentences;
    std::vector<int> points, members, edges, faces;
    std::vector<int> parts;    ///< sheets and solids, as Frame::partName counts them
    std::vector<int> elements; ///< pieces of sheet or solid of the solution that is shown
    bool operator==(const Spotlight&) const = default;
};

/// The one thing that the views share: the document with its undo list, what follows from it, the run that is
/// going on, and what is selected. Views read it and call its verbs; they never compute physics.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    // The document.
    const Document& document() const { return history_[at_].document; }
    const Model& model() const { return document().model; }
    const QString& path() const { return path_; }
    bool unsaved() const;
    bool isOpen() const { return open_; }
    void start(Document, const QString& path, bool unsolved = false);
    Findings open(const QString& path, bool asExample = false);
    std::optional<Finding> save(const QString& path, bool overProtection = false);
    /// Keeps results in a file beside the document's, from now on with each save; false, said, where it lies in none.
    bool keepResults();
    void finishWriting(); ///< waits for what is being written of them
    /// What the document lies in and reads, which nothing else may be written over.
    std::vector<std::string> files() const;
    /// How the file that was opened or saved last differs from that by now, a line each; empty if it does not.
    std::vector<std::string> changedOutside() const;
    void autosave();
    void recover(LeftBehind); ///< what a window that is gone left; unsaved until it is saved
    void discardChanges();    ///< what is not saved need not be kept

    // Changes; each is one step of undo. Steps with the same non-empty merge key flow together.
    void change(const QString& what, Document next, const QString& merge = {});
    void changeModel(const QString& what, Model next, const QString& merge = {});
    void mend(const Cure&); ///< makes the change that a finding offers
    void replaceSentence(const QString& what, Sentence next, const QString& merge = {});
    std::string addSentence(const SentenceKind&, std::size_t index = SIZE_MAX);
    void undo();
    void redo();
    QString undoWords() const; ///< empty if there is nothing to undo
    QString redoWords() const;
    void keepTake(const QString& name);
    void keepTake(const QString& name, Model, const QString& note = {}); ///< of another model beside the live one
    void removeTake(const QString& id);
    void noteTake(const QString& id, const QString& name, const QString& note);
    void useTake(const QString& id); ///< makes its model the live one

    // What follows from the live model at once.
    const Structure& structure() const { return *structure_; }
    std::shared_ptr<const Structure> structurePtr() const { return structure_; }
    const MassSummary& mass() const { return mass_; }
    /// Findings of the model and of the run, worst first.
    const Findings& findings() const { return findings_; }
    DisplayUnits units() const { return DisplayUnits(document().units); }

    // Runs.
    void solve();
    void stop();
    void adopt(std::shared_ptr<const Solution>); ///< of the live model, found elsewhere
    bool solving() const { return job_ != nullptr; }
    /// That, or another long study.
    bool running() const { return solving() || settlingNow() || findingRemedies() || sweeping() || tolerating(); }
    QString stage() const { return stage_; }
    double progress() const { return fraction_; }
    /// Solves the shown stave's model on coarser and finer meshes too, beside everything else.
    void settleFrequencies();
    bool settlingNow() const;
    /// What is known of how the shown frequencies settle; nothing before other meshes were asked for.
    std::optional<Settling> settling() const;
    /// Lets the shown stave's model come to rest under its own weight, beside everything else; and asks how stiff it is
    /// at points of those names.
    void weigh(const std::vector<std::string>& stiffAt = {});
    bool weighing() const;
    /// What is known of that, of the shown stave's model: findings where it has no rest.
    std::optional<Result<SelfWeight>> selfWeight() const;
    /// Finds the static states that the loads of the shown stave's model make, beside everything else.
    void findRest();
    bool findingRest() const;
    /// What is known of them; null before they were asked for.
    const Result<RestAnswer>* rest() const;
    /// A static state, or how one buckles, in the scene's view in place of a mode.
    struct RestShown {
        std::shared_ptr<const Solution> shapes;        ///< a mode a state, or a mode a buckling factor
        int number = 0;                                ///< of the mode
        std::shared_ptr<const StressReading> stresses; ///< of the states; null of buckling
        RestState state;
        double factor = 0.0; ///< of buckling; 0: the state itself
    };
    void showRest(std::size_t state, int factor = 0); ///< factors count from 1; 0: the state itself
    void showModeAgain();
    const RestShown* restShown() const { return restShown_ ? &*restShown_ : nullptr; }
    /// Looks for what moves a mode of the shown stave out of the way, beside everything else.
    void findRemedies(const RemedyOrder&);
    bool findingRemedies() const;
    /// What is known of that, of the shown stave's model; findings where it broke.
    std::optional<Result<Remedy>> remedy() const;
    /// Makes a take with the proposal, which is solved, and remembers what was promised of it.
    void takeRemedy(const Proposal&);
    /// Lets a word of the shown stave's model go from a value to another, beside everything else.
    void sweepWord(const SweepOrder&);
    bool sweeping() const;
    std::optional<Result<WordSweep>> sweep() const; ///< what is known of that
    /// Estimates by hand beside the modes of the stave in view.
    void findByHand();
    bool findingByHand() const;
    std::optional<Result<HandReading>> byHand() const; ///< what is known of that
    /// Stresses of every mode of the stave in view.
    void findStresses();
    bool findingStresses() const;
    /// Those of a stave's solution; null until they are found.
    std::shared_ptr<const StressReading> stressesOf(const std::shared_ptr<const Solution>&) const;
    /// How strongly modes are taken to move where stresses are read, and what the mode in view comes to so.
    const ModalScale& modalScale() const { return modalScale_; }
    void setModalScale(const ModalScale&);
    /// A place whose motion is kept in view in every mode, and by what it is called.
    struct ValuePlace {
        Eigen::Vector3d place;
        QString name;
    };
    const std::vector<ValuePlace>& valuePlaces() const { return valuePlaces_; }
    void toggleValuePlace(const ValuePlace&); ///< keeps it, or lets it go where it is kept
    void dropValuePlace(std::size_t);
    /// Of the node that is nearest to each, in the mode or the static state in view.
    struct ModeValue {
        int node = -1;
        Vector6 moves = Vector6::Zero(); ///< as its shape has it: in a static state m and rad
        Vector6 share = Vector6::Zero(); ///< over the largest translation of any; turns rad/m
        double stress = 0.0; ///< the largest equivalent one there, as the reading of its stresses has it; 0: not known
    };
    const std::vector<ModeValue>& modeValues() const; ///< beside the places; empty without a mode
    /// What the scene shows: a mode's number in a solution, or a static state's or a buckling shape's.
    std::pair<std::shared_ptr<const Solution>, int> inView() const;
    std::optional<Result<ScaledMode>> scaledMode() const;
    void followTolerances(const ToleranceOrder&);
    bool tolerating() const;
    std::optional<Result<ToleratedModes>> tolerances() const; ///< what is known of that
    struct Promise {
        Proposal proposal;
        QString stave; ///< its take
    };
    /// Of the live document's takes, in the order in which they were made.
    std::vector<Promise> promises() const;
    double secondsLeft() const; ///< of the stage, from how far it has come; less than 0 if nobody knows
    const std::vector<double>& arriving() const { return arriving_; }
    /// What a change of the live model that is being tried by hand would come to, told by the modes at hand.
    const std::optional<QuickModes>& tried() const { return tried_; }
    void tryOut(std::optional<QuickModes>);
    /// Effective mass of the modes that the live model's run has found so far; empty before the first.
    const MassSoFar& massSoFar() const { return massSoFar_; }
    /// What a run of the live model would cost, in words; empty where that is not worth saying or not known yet.
    const QString& estimate() const { return estimate_; }
    qint64 engineProcessId() const; ///< 0 while there is none
    bool solvesByItself() const;
    /// Nothing has been said of the shape yet: no reason to complain of anything.
    bool isBlank() const { return open_ && model().group(Group::shape).empty(); }

    // Staves, live first; selection.
    const std::vector<Stave>& staves() const { return staves_; }
    const Stave& live() const { return staves_.front(); }
    const Stave& shown() const { return staves_[shownStave_]; }
    std::size_t shownStave() const { return shownStave_; }
    int shownMode() const { return shownMode_; } ///< number, 0 for none
    const Mode* mode() const;
    void showMode(std::size_t stave, int number);
    void stepMode(int by);         ///< over those that are folded away
    void nameMode(const QString&); ///< the one in view; empty takes its name back
    /// Whether modes of a small part alone are left out of tables and Score, but those that meet an excitation.
    bool foldsLocalModes() const { return foldsLocal_; }
    void foldLocalModes(bool);
    bool isFolded(std::size_t stave, const Mode&) const;
    int foldedIn(std::size_t stave) const;
    void stepStave(int by);
    /// The pairs of the stave with the next one in the Score's order (index + 1), if both are solved.
    const std::vector<ModePair>& pairsWithNext(std::size_t stave) const;
    const std::vector<MixedMode>& mixedWithNext(std::size_t stave) const; ///< modes that mix two of the next one's

    const std::string& selectedSentence() const { return selected_; }
    void selectSentence(const std::string& id);
    /// A joint, support or mass as its words stand in an open editor, beside nothing else that is said; nothing while
    /// there is none.
    struct Draft {
        Sentence sentence;
        Structure structure;
        QString words; ///< what it comes to, as the Scene finds it
    };
    const std::optional<Draft>& draft() const { return draft_; }
    void setDraft(const std::optional<Sentence>&);
    void tellOfDraft(const QString& words);
    const Spotlight& spotlight() const { return spotlight_; }
    void light(const Spotlight&);
    /// What a row of a reading is about, with its sentence.
    void lightOwner(OwnerKind, int owner, const std::string& sentence);
    Spotlight spotlightOf(const std::string& sentence) const;
    Spotlight spotlightOf(const Sentence&) const;

    /// While a word that names points, members or one place is open, clicks in the Scene go to it; a place is a
    /// point by name or coordinates on the Scene's work plane.
    /// What a click in the scene names for the word that is being written.
    struct Picking {
        Targets targets;    ///< none: nothing
        bool place = false; ///< a place, on a point or on the grid
        bool operator==(const Picking&) const = default;
        bool anyOf(Targets some) const { return !(targets & some).none(); }
    };
    Picking picking() const { return picking_; }
    void setPicking(Picking);
    void pick(const QString& name) { emit picked(name); }

    /// Which way the energy reading paints the Scene: row name, empty for none.
    void say(const QString& message) { emit told(message); }

signals:
    void documentChanged();  ///< sentences, takes, units or name
    void derivedChanged();   ///< structure, mass, findings
    void stavesChanged();    ///< solutions, clashes
    void massMoved();        ///< massSoFar
    void settlingMoved();    ///< settling
    void weightMoved();      ///< selfWeight
    void restMoved();        ///< static states, and which of them is in view
    void remedyMoved();      ///< remedy
    void sweepMoved();       ///< sweep
    void tolerancesMoved();  ///< tolerances
    void byHandMoved();      ///< estimates by hand
    void valuesMoved();      ///< places whose motion is kept in view
    void stressesMoved();    ///< stresses, and how strongly modes are taken to move
    void triedChanged();     ///< tried
    void draftChanged();     ///< draft
    void draftTold();        ///< its words
    void runChanged();       ///< progress, arriving modes, start and end of a run
    void selectionChanged(); ///< shown mode
    void sentenceSelected();
    void spotlightChanged();
    void pickingChanged();
    void picked(const QString& name);
    void told(const QString& message); ///< a line for the status of the window

private:
    struct Step {
        Document document;
        QString what, merge;
    };
    /// What follows from a model at once.
    struct Derived {
        Model model;
        std::shared_ptr<const Structure> structure;
        MassSummary mass;
        Findings findings;
        std::int64_t unknowns = 0; ///< about
    };
    static Derived derivedFrom(const Model&);
    /// Does that ahead of a change, beside the window where it takes long; false where it was stopped.
    bool prepare(const Model&);
    void documentMoved();
    void watchFiles();
    void filesMoved();
    void derive();
    void refreshStaves();
    void startNext();
    /// Asks about the modes in view; false, with why, where there are none.
    template <class Study, class Order>
    bool askAboutModes(const Study&, const Order&, const QString& otherwise);
    void answerArrived(std::string_view study);
    void stageMoved(const QString& stage, double fraction);
    void runMoved();
    void estimateAgain();
    void readEstimate();
    void jobFinished(std::shared_ptr<const Solution>, const Findings&);
    void bringResultsUpToDate(); ///< where they are kept, and more is known
    void writeResults();

    std::vector<Step> history_;
    std::size_t at_ = 0, savedAt_ = 0;
    bool open_ = false;
    QString path_;
    std::shared_ptr<const Structure> structure_;
    MassSummary mass_;
    std::int64_t unknowns_ = 0;
    Findings modelFindings_, findings_;
    std::uint64_t liveKey_ = 0; ///< the live model's solveKey
    std::optional<Derived> prepared_;
    std::map<std::uint64_t, std::shared_ptr<const Solution>> solutions_;
    std::map<std::uint64_t, Findings> failures_;
    KeptResults* kept_;
    std::set<std::uint64_t> toLookUp_;                         ///< keys that the results file may have
    std::set<std::uint64_t> inResults_;                        ///< and those that it has, of what is known
    Findings ofResults_;                                       ///< what is wrong with it
    std::vector<std::pair<std::uint64_t, Proposal>> promises_; ///< by the solveKey of the model that has it
    std::shared_ptr<const Solution> lastLive_;
    std::vector<Stave> staves_;
    struct Paired {
        std::vector<ModePair> pairs;
        std::vector<MixedMode> mixed;
    };
    const Paired& pairedWithNext(std::size_t stave) const;
    mutable std::map<std::pair<const Solution*, const Solution*>, Paired> pairs_;
    std::size_t shownStave_ = 0;
    int shownMode_ = 0;
    bool foldsLocal_ = false;
    mutable std::optional<std::pair<std::uint64_t, Result<RestAnswer>>> rest_; ///< the last that was read, by its key
    std::optional<RestShown> restShown_;
    ModalScale modalScale_;
    std::vector<ValuePlace> valuePlaces_;
    mutable std::vector<ModeValue> modeValues_;
    mutable std::tuple<std::shared_ptr<const Solution>, int, std::size_t, std::shared_ptr<const StressReading>>
        valuesOf_{nullptr, 0, 0, nullptr};
    mutable std::pair<std::shared_ptr<const Solution>, std::shared_ptr<const StressReading>> stresses_; ///< the last
    std::string selected_;
    Spotlight spotlight_;
    Picking picking_;
    SolveJob* job_ = nullptr;
    std::unique_ptr<EngineProcess> engine_;
    std::unique_ptr<Answers> answers_; ///< of studies, by the engine
    MassSoFar massSoFar_;
    QString estimate_;
    Findings refused_; ///< what the estimate says against a run
    QTimer estimateSoon_;
    bool askedToSolve_ = false, stopAsked_ = false;
    bool waitsToBeAsked_ = false; ///< it ended a window while it was solved
    QString stage_;
    double fraction_ = -1.0;
    QElapsedTimer stageBegan_;
    std::vector<double> arriving_;
    std::optional<QuickModes> tried_;
    std::optional<Draft> draft_;
    QTimer autosaveSoon_;
    QTimer runMovesSoon_; ///< what a run says is shown ten times a second at most
    Autosave autosave_;
    QFileSystemWatcher watcher_; ///< of files that the document names
    QTimer filesMovedSoon_;      ///< when what writes them is done
    QStringList movedFiles_, missingFiles_;
    bool autosaveFailed_ = false;       ///< and that has been said
    std::optional<std::string> inFile_; ///< the bytes that the file had when it was read or saved
};

} // namespace undisona
