<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en_US" sourcelanguage="en">
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
</TS>
