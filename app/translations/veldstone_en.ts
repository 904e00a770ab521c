<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en_US" sourcelanguage="en">
    <context>
        <name>BaseController</name>
        <message numerus="yes">
            <source>Bring %n morph(s) from another base</source>
            <translation>
                <numerusform>Bring %n morph from another base</numerusform>
                <numerusform>Bring %n morphs from another base</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>PartsTab</name>
        <message numerus="yes">
            <source>The piece that you clicked has %n vertices.</source>
            <translation>
                <numerusform>The piece that you clicked has %n vertex.</numerusform>
                <numerusform>The piece that you clicked has %n vertices.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n piece(s) will be another part.</source>
            <translation>
                <numerusform>%n piece will be another part.</numerusform>
                <numerusform>%n pieces will be another part.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>DeliverPanel</name>
        <message numerus="yes">
            <source>Writing %n morph(s)</source>
            <translation>
                <numerusform>Writing %n morph</numerusform>
                <numerusform>Writing %n morphs</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Written: %n file(s)</source>
            <translation>
                <numerusform>Written: %n file</numerusform>
                <numerusform>Written: %n files</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Import %n morph(s)</source>
            <translation>
                <numerusform>Import %n morph</numerusform>
                <numerusform>Import %n morphs</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>GatherPanel</name>
        <message numerus="yes">
            <source>%1, %n photograph(s)</source>
            <translation>
                <numerusform>%1, %n photograph</numerusform>
                <numerusform>%1, %n photographs</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>HandTab</name>
        <message numerus="yes">
            <source>Remove %n dragged place(s)</source>
            <translation>
                <numerusform>Remove the dragged place</numerusform>
                <numerusform>Remove %n dragged places</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>MainWindow</name>
        <message numerus="yes">
            <source>Adds %n file(s) to %1</source>
            <translation>
                <numerusform>Adds %n file to %1</numerusform>
                <numerusform>Adds %n files to %1</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>MarkController</name>
        <message numerus="yes">
            <source>%n landmark(s) mirrored; check them.</source>
            <translation>
                <numerusform>%n landmark mirrored; check it.</numerusform>
                <numerusform>%n landmarks mirrored; check them.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n landmark(s) accepted.</source>
            <translation>
                <numerusform>%n landmark accepted.</numerusform>
                <numerusform>%n landmarks accepted.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n landmark(s) copied; check them.</source>
            <translation>
                <numerusform>%n landmark copied; check it.</numerusform>
                <numerusform>%n landmarks copied; check them.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n landmark(s) and %1 curves read.</source>
            <translation>
                <numerusform>%n landmark and %1 curves read.</numerusform>
                <numerusform>%n landmarks and %1 curves read.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Move %n point(s)</source>
            <translation>
                <numerusform>Move %n point</numerusform>
                <numerusform>Move %n points</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Turn %n point(s)</source>
            <translation>
                <numerusform>Turn %n point</numerusform>
                <numerusform>Turn %n points</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Spread %n point(s)</source>
            <translation>
                <numerusform>Spread %n point</numerusform>
                <numerusform>Spread %n points</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>MorphDialog</name>
        <message numerus="yes">
            <source>%n vertex(es) move, at most %1.</source>
            <translation>
                <numerusform>%n vertex moves, at most %1.</numerusform>
                <numerusform>%n vertices move, at most %1.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>MovesTab</name>
        <message numerus="yes">
            <source>%n joint(s) are fixed (◆); the shape tells the others.</source>
            <translation>
                <numerusform>%n joint is fixed (◆); the shape tells the others.</numerusform>
                <numerusform>%n joints are fixed (◆); the shape tells the others.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>RestTab</name>
        <message numerus="yes">
            <source>%n joint(s) are turned. What no turn explains, median: %1.</source>
            <translation>
                <numerusform>%n joint is turned. What no turn explains, median: %1.</numerusform>
                <numerusform>%n joints are turned. What no turn explains, median: %1.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>Session</name>
        <message numerus="yes">
            <source>%n landmark(s) found; %1 of them unsure, first in the list.</source>
            <translation>
                <numerusform>%n landmark found; %1 of them unsure, first in the list.</numerusform>
                <numerusform>%n landmarks found; %1 of them unsure, first in the list.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>SubjectTree</name>
        <message numerus="yes">
            <source>%n landmark(s), %1 curves</source>
            <translation>
                <numerusform>%n landmark, %1 curves</numerusform>
                <numerusform>%n landmarks, %1 curves</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%1, %n photograph(s)</source>
            <translation>
                <numerusform>%1, %n photograph</numerusform>
                <numerusform>%1, %n photographs</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%1, %n landmark(s)</source>
            <translation>
                <numerusform>%1, %n landmark</numerusform>
                <numerusform>%1, %n landmarks</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Bank, %n morph(s)</source>
            <translation>
                <numerusform>Bank, %n morph</numerusform>
                <numerusform>Bank, %n morphs</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>TidyController</name>
        <message numerus="yes">
            <source>Run %n step(s)</source>
            <translation>
                <numerusform>Run %n step</numerusform>
                <numerusform>Run %n steps</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>TidyPanel</name>
        <message numerus="yes">
            <source>%n of %1 faces selected</source>
            <translation>
                <numerusform>%n of %1 faces selected</numerusform>
                <numerusform>%n of %1 faces selected</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Works on the %n selected face(s).</source>
            <translation>
                <numerusform>Works on the %n selected face.</numerusform>
                <numerusform>Works on the %n selected faces.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>TouchPanel</name>
        <message numerus="yes">
            <source>Touch-up: %n vertex(es), at most %1</source>
            <translation>
                <numerusform>Touch-up: %n vertex, at most %1</numerusform>
                <numerusform>Touch-up: %n vertices, at most %1</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>SkinController</name>
        <message numerus="yes">
            <source>Written: %n file(s)</source>
            <translation>
                <numerusform>Written: %n file</numerusform>
                <numerusform>Written: %n files</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>SkinPanel</name>
        <message numerus="yes">
            <source>Bake %n layer(s) again</source>
            <translation>
                <numerusform>Bake %n layer again</numerusform>
                <numerusform>Bake %n layers again</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>SkinStation</name>
        <message numerus="yes">
            <source>%1: %n layer(s)</source>
            <translation>
                <numerusform>%1: %n layer</numerusform>
                <numerusform>%1: %n layers</numerusform>
            </translation>
        </message>
    </context>
</TS>
