#pragma once
#include "app/session/session.hpp"

#include <QFrame>
#include <QLabel>
#include <QTableWidget>

namespace undisona {

/// The folded table of a sentence, opened in place: cells with units, rows pasted from a spreadsheet.
class TableEditor : public QFrame {
    Q_OBJECT
public:
    TableEditor(Session&, QWidget* parent);

    void open(const std::string& sentence, const QString& field, int top);
    bool isOpen() const { return !sentence_.empty(); }
    bool accept();
    void cancel();
    /// Puts tab- or semicolon-separated rows in from the current cell on; bare numbers take the set's unit.
    void paste(const QString& text);

signals:
    void closed();

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void close();
    void addRow();
    std::variant<Table, QString> read();
    QString completed(const Field& column, const QString& text) const;

    Session& session_;
    std::string sentence_;
    QString field_;
    QTableWidget* table_;
    QLabel* hint_;
};

} // namespace undisona
