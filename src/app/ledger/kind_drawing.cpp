#include "app/ledger/kind_drawing.hpp"

#include "app/session/theme.hpp"
#include "core/model/kind_families.hpp"

#include <QPainter>
#include <QPainterPath>
#include <QStringList>

#include <map>

namespace undisona {

namespace {

/// Strokes on a field of 24 by 24, y down, set apart by semicolons: corners "x,y x,y ..." or a circle "o x,y,r". Before
/// them `a`: in the accent; `z`: closed; `f`: closed and filled.
using Drawing = std::string_view;

const std::map<std::string_view, Drawing>& drawings()
{
    static const std::map<std::string_view, Drawing> all{
        // shape
        {"point", "a f o 12,12,3"},
        {"points", "a f o 5,17,2; a f o 12,7,2; a f o 19,14,2"},
        {"members", "5,19 12,6 19,19; a f o 5,19,2; a f o 12,6,2; a f o 19,19,2"},
        {"run", "a 3,18 21,6; f o 3,18,1.6; f o 9,14,1.6; f o 15,10,1.6; f o 21,6,1.6"},
        {"arc", "a 3,19 5,12 10,7 16,5 21,5"},
        {"circle", "a o 12,12,8"},
        {"ring", "a z 12,4 20,9 17,19 7,19 4,9"},
        {"pipe", "a 3,5 12,5 16,8 17,12 17,21; a 3,9 10,9 12,10 13,13 13,21"},
        {"frame", "a 4,21 4,4 20,4 20,21; a 4,12 20,12; a 12,4 12,21"},
        {"lattice-mast", "a 6,22 10,2; a 18,22 14,2; 7,17 16,12 9,7 14,2; 6,22 17,17; 7,12 15,7"},
        {"plate", "a f 3,15 15,18 21,9 9,6"},
        {"plate-through", "a f 4,18 12,20 20,13 16,5 6,8"},
        {"disc", "a f 3,12 6,8 12,6.5 18,8 21,12 18,16 12,17.5 6,16"},
        {"sheet-box", "a z 3,9 14,12 14,21 3,18; a 3,9 10,4 21,7 14,12; a 21,7 21,16 14,21"},
        {"folded-sheet", "a 3,6 3,18 12,20 12,8 21,10"},
        {"rib", "3,19 21,19; a f 6,19 6,9 18,9 18,19"},
        {"cylinder-shell",
         "a o 12,5,0.1; a 5,5 5,19; a 19,5 19,19; a z 5,5 8,3.5 16,3.5 19,5 16,6.5 8,6.5; a 5,19 8,20.5 16,20.5 19,19"},
        {"cone-shell", "a 9,5 4,19; a 15,5 20,19; a z 9,5 12,4 15,5 12,6; a 4,19 8,21 16,21 20,19"},
        {"dome", "a 3,18 5,11 9,7 12,6 15,7 19,11 21,18; 3,18 8,20 16,20 21,18"},
        {"elbow", "a 4,4 4,12 6,17 11,20 20,20; a 11,4 11,9 13,12 20,13"},
        {"taper", "a f 3,10 21,6 21,18 3,14"},
        {"holes", "z 3,15 15,19 21,9 9,5; a o 10,12,2; a o 15,13,2"},
        {"opening", "z 3,15 15,19 21,9 9,5; a z 9,12 13,13.5 15,10.5 11,9"},
        {"solid-box", "a f 3,9 14,12 14,21 3,18; a z 3,9 10,4 21,7 14,12; a 21,7 21,16 14,21"},
        {"solid-cylinder", "a f 5,5 5,19 8,20.5 16,20.5 19,19 19,5; a z 5,5 8,3.5 16,3.5 19,5 16,6.5 8,6.5"},
        {"solid-sphere", "a f o 12,12,8"},
        {"extrusion", "a f 3,20 3,10 8,10 8,15 13,15 13,20; a 3,10 10,4; a 8,10 15,4; a 13,15 20,9; a 13,20 20,14 "
                      "20,9; a 10,4 15,4"},
        {"revolution", "12,2 12,22; a 12,4 17,8 15,13 19,20 12,20; 12,4 7,8 9,13 5,20 12,20"},
        {"solid-cut", "z 3,7 15,7 15,20 3,20; a o 15,9,5"},
        {"solid-union", "a f 3,11 14,11 14,21 3,21; a f o 15,9,5"},
        {"solid-common", "z 3,8 15,8 15,21 3,21; o 15,9,6; a f 10,8 15,8 15,15 11,13"},
        {"copies", "z 2,9 7,9 7,16 2,16; a z 10,9 15,9 15,16 10,16; a z 18,9 23,9 23,16 18,16"},
        {"copies-around", "f o 12,4,2; a f o 20,12,2; a f o 12,20,2; a f o 4,12,2"},
        {"mirror", "12,3 12,21; f 3,8 9,12 3,16; a f 21,8 15,12 21,16"},
        {"moved", "z 2,13 8,13 8,20 2,20; a z 15,4 21,4 21,11 15,11; 8,13 14,8"},
        {"turned", "z 3,16 15,16 15,20 3,20; a z 5,14 14,5 17,8 8,17"},
        {"laid-against", "12,3 12,21; a f 13,8 21,8 21,16 13,16"},
        {"imported", "z 5,2 14,2 19,7 19,22 5,22; a 12,9 12,17; a 9,14 12,17 15,14"},
        {"small-left-out", "z 3,8 21,8 21,20 3,20; a o 8,14,2; a 4,18 12,10"},
        {"mid-face", "z 3,8 21,8 21,16 3,16; a 3,12 21,12"},
        // material
        {"material", "a f 4,6 20,6 20,18 4,18"},
        {"orthotropic", "z 3,6 21,6 21,18 3,18; a 5,9 19,9; a 5,12 19,12; a 5,15 19,15"},
        {"layers", "a f 3,6 21,6 21,9 3,9; z 3,10 21,10 21,14 3,14; a f 3,15 21,15 21,18 3,18"},
        {"strength", "3,20 9,10 13,7 20,6; a 3,8 21,8"},
        {"softening", "z 3,20 3,3; 3,20 21,20; a 3,6 9,7 15,11 20,17"},
        {"section", "a f 5,4 19,4 19,7 13.5,7 13.5,17 19,17 19,20 5,20 5,17 10.5,17 10.5,7 5,7"},
        // joints
        {"rigid", "a 12,12 4,5; a 12,12 20,5; a 12,12 5,19; a 12,12 19,19; f o 4,5,1.6; f o 20,5,1.6; f o 5,19,1.6; f "
                  "o 19,19,1.6; a f o 12,12,2.4"},
        {"mean",
         "4,5 12,12 20,5; 5,19 12,12 19,19; a o 12,12,3; f o 4,5,1.6; f o 20,5,1.6; f o 5,19,1.6; f o 19,19,1.6"},
        {"join", "z 3,5 21,5 21,11 3,11; z 3,13 21,13 21,19 3,19; a 4,12 20,12"},
        {"offset", "3,18 21,18; a 3,8 21,8; a 12,18 12,8"},
        {"spring", "f o 3,12,1.6; a 3,12 6,12 8,7 11,17 14,7 17,17 18,12 21,12; f o 21,12,1.6"},
        {"one-sided", "f o 3,17,1.6; a 4,16 9,15 14,11 20,5; f o 21,4,1.6; a 13,18 20,18; a 17,15 20,18 17,21"},
        {"layer", "z 3,3 21,3 21,9 3,9; a f 3,10 21,10 21,14 3,14; z 3,15 21,15 21,21 3,21"},
        {"bolt", "z 3,8 21,8 21,12 3,12; z 3,12 21,12 21,16 3,16; a f 8,4 16,4 16,8 8,8; a 12,8 12,20; a 9,20 15,20"},
        {"release", "3,18 11,10; 13,10 21,18; a o 12,9,2.6"},
        {"apart", "z 3,4 21,4 21,9 3,9; z 3,15 21,15 21,20 3,20; a 12,10 12,14"},
        // supports
        {"hold", "a f 12,6 18,16 6,16; 4,19 20,19; f o 12,5,1.8"},
        {"rests-on", "o 12,8,4; a f 5,14 19,14 19,17 5,17; a 12,17 12,22; 5,22 19,22"},
        {"ground-spring", "f o 12,3,1.6; a 12,3 12,5 7,7 17,10 7,13 17,16 12,18; 5,20 19,20"},
        {"bed", "3,6 21,6; a 5,6 5,9 3,11 7,14 5,16; a 12,6 12,9 10,11 14,14 12,16; a 19,6 19,9 17,11 21,14 19,16; "
                "2,19 22,19"},
        // mass
        {"mass", "3,20 21,20; 12,20 12,13; a f o 12,8,5"},
        {"carried", "3,20 21,20; a f 6,5 18,5 18,12 6,12; 6,20 12,12 18,20"},
        {"mass-spread", "3,18 21,18; a f o 5,13,2; a f o 10,13,2; a f o 15,13,2; a f o 20,13,2"},
        {"contents", "4,4 4,20 20,20 20,4; a f 4,11 20,11 20,20 4,20"},
        {"one-body", "z 3,9 14,12 14,21 3,18; z 3,9 10,4 21,7 14,12; a f o 12,12,3"},
        // loads
        {"own-weight", "a f 6,4 18,4 18,11 6,11; a 12,11 12,21; a 9,17 12,21 15,17"},
        {"force", "3,20 21,20; a 12,3 12,18; a 8,13 12,18 16,13"},
        {"moment", "a 5,14 7,7 13,5 19,9 19,15; a 15,13 19,15 22,11; f o 12,13,1.6"},
        {"pressure", "3,19 21,19; a 5,4 5,17; a 12,4 12,17; a 19,4 19,17; a 3,14 5,17 7,14; a 10,14 12,17 14,14; a "
                     "17,14 19,17 21,14"},
        {"pretension", "a 8,12 2,12; a 5,9 2,12 5,15; a 16,12 22,12; a 19,9 22,12 19,15; 8,12 16,12; f o 8,12,1.6; f o "
                       "16,12,1.6"},
        {"warming", "12,3 12,15; a f o 12,18,3.5; a 12,8 12,15; 15,5 17,5; 15,9 17,9; 15,13 17,13"},
        {"spin", "12,2 12,22; a 5,9 8,6 16,6 19,9 16,12; a 19,12 16,12 17,15"},
        {"shift", "3,9 10,9 14,13 21,13; 7,9 3,15 11,15 7,9; a f 17,13 13,19 21,19; a 17,3 17,10; a 15,7 17,10 19,7"},
        {"bears-as-said", "o 8,7,4; a f 3,13 13,13 13,16 3,16; a 16,10 18,13 22,6; 3,20 13,20"},
        {"combined-state", "a f 4,12 11,5 18,12 11,19; z 7,12 14,5 21,12 14,19"},
        // excitation
        {"running-speed", "o 12,12,8; a f o 12,12,2; a 12,12 18,7; a 17,3 21,6 17,8"},
        {"speed-range", "3,18 21,18; a f 8,6 16,6 16,18 8,18"},
        {"fixed-frequency", "3,18 21,18; a 12,5 12,18"},
        {"frequency-band", "a 2,12 5,5 8,19 11,5 14,19 17,5 20,19 22,12"},
        // ask
        {"lowest", "2,20 22,20; a 5,20 5,9; a 9,20 9,12; a 14,20 14,7; 19,20 19,11; a f o 5,8,1.6; a f o 9,11,1.6; a f "
                   "o 14,6,1.6"},
        {"refine", "z 3,4 21,4 21,20 3,20; 12,4 12,20; 3,12 21,12; a 7.5,12 7.5,20; a 3,16 12,16"},
        {"state", "z 3,8 15,8 15,20 3,20; a z 9,3 21,3 21,15 9,15"},
    };
    return all;
}

/// Its own, or that of the first of its family that has one.
Drawing drawingOf(const SentenceKind& kind)
{
    const auto& all = drawings();
    if (const auto own = all.find(kind.key); own != all.end()) return own->second;
    for (const auto key : familyOf(kind).keys)
        if (const auto other = all.find(key); other != all.end()) return other->second;
    return "a f o 12,12,3";
}

} // namespace

void drawKind(QPainter& painter, const QRectF& room, const SentenceKind& kind)
{
    const Theme& theme = Theme::now();
    const Drawing drawing = drawingOf(kind);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(room.topLeft());
    painter.scale(room.width() / 24.0, room.height() / 24.0);
    const QString strokes = QString::fromLatin1(drawing.data(), static_cast<qsizetype>(drawing.size()));
    for (const QString& stroke : strokes.split(';')) {
        bool accent = false, closed = false, filled = false, round = false;
        QPainterPath path;
        for (const QString& word : stroke.split(' ', Qt::SkipEmptyParts)) {
            const QStringList numbers = word.split(',');
            if (numbers.size() < 2) {
                accent = accent || word == "a";
                filled = filled || word == "f";
                closed = closed || word == "z" || word == "f";
                round = round || word == "o";
                continue;
            }
            const QPointF place(numbers[0].toDouble(), numbers[1].toDouble());
            if (round)
                path.addEllipse(place, numbers[2].toDouble(), numbers[2].toDouble());
            else if (path.elementCount() == 0)
                path.moveTo(place);
            else
                path.lineTo(place);
        }
        if (closed && !round) path.closeSubpath();
        const QColor colour = accent ? theme.accent : theme.quiet;
        QColor inside = colour;
        inside.setAlphaF(0.35f);
        painter.setPen(QPen(colour, 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.setBrush(filled ? QBrush(inside) : QBrush(Qt::NoBrush));
        painter.drawPath(path);
    }
    painter.restore();
}

} // namespace undisona
