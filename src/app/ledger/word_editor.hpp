#pragma once
#include "app/session/session.hpp"

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

namespace undisona {

class SectionDrawing;

/// The small editor that opens in place of a live word: a line to type in, what is understood of it beside
/// it, and the choices there are.
class WordEditor : public QFrame {
    Q_OBJECT
public:
    WordEditor(Session&, QWidget* parent);

    /// Opens on a field of a sentence at the word's place (parent coordinates).
    void open(const std::string& sentence, const QString& field, const QRect& word);
    bool isOpen() const { return !sentence_.empty(); }
    const std::string& sentence() const { return sentence_; }
    const QString& field() const { return field_; }
    /// Takes what is typed; false when it cannot be read and the editor stays open.
    bool accept();
    void cancel();

signals:
    /// After Enter (0), Tab (+1) or Shift+Tab (-1); the word has been taken.
    void left(int direction);
    void closed();

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void typed();
    void close();
    void place();
    void fillChoices();
    void takePicked(const QString& name);
    void offerMoreLike(const std::string& name); ///< rules that find the picked thing and others
    static Session::Picking pickingFor(const Sentence&, const Field&);
    std::variant<Value, QuantityProblem> read(const QString& text) const;

    Session& session_;
    std::string sentence_;
    QString field_, original_;
    QRect word_;
    QLineEdit* line_;
    QLabel* hint_;
    QListWidget* choices_;
    SectionDrawing* drawing_;
    QString suggestion_; ///< taken by a second Enter
};

} // namespace undisona
