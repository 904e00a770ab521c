<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de_DE" sourcelanguage="en">
<context>
    <name>About</name>
    <message>
        <source>typeface, by Łukasz Dziedzic</source>
        <translation>Schrift, von Łukasz Dziedzic</translation>
    </message>
    <message>
        <source>finding faces, landmarks and irises in pictures</source>
        <translation>Findet Gesichter, Landmarken und Iris in Bildern</translation>
    </message>
    <message>
        <source>window</source>
        <translation>Fenster</translation>
    </message>
    <message>
        <source>linear algebra</source>
        <translation>Lineare Algebra</translation>
    </message>
    <message>
        <source>sparse systems (CHOLMOD, supernodal: GPL)</source>
        <translation>Dünn besetzte Systeme (CHOLMOD, supernodal: GPL)</translation>
    </message>
    <message>
        <source>dense linear algebra</source>
        <translation>Dichte lineare Algebra</translation>
    </message>
    <message>
        <source>threads</source>
        <translation>Threads</translation>
    </message>
    <message>
        <source>rays and closest points</source>
        <translation>Strahlen und nächste Punkte</translation>
    </message>
    <message>
        <source>subdivision surfaces</source>
        <translation>Unterteilungsflächen</translation>
    </message>
    <message>
        <source>holes of meshes</source>
        <translation>Löcher in Netzen</translation>
    </message>
    <message>
        <source>cameras of photographs</source>
        <translation>Kameras von Fotos</translation>
    </message>
    <message>
        <source>networks and pictures</source>
        <translation>Netze und Bilder</translation>
    </message>
    <message>
        <source>light versions of large meshes</source>
        <translation>Leichte Fassungen großer Netze</translation>
    </message>
    <message>
        <source>files of meshes</source>
        <translation>Netzdateien</translation>
    </message>
    <message>
        <source>files of pictures</source>
        <translation>Bilddateien</translation>
    </message>
    <message>
        <source>projects and commands</source>
        <translation>Projekte und Befehle</translation>
    </message>
    <message>
        <source>About Veldstone</source>
        <translation>Über Veldstone</translation>
    </message>
    <message>
        <source>&lt;h2&gt;Veldstone %1&lt;/h2&gt;&lt;p&gt;Conforms photographs, scans and sculpts onto a fixed-topology base mesh.&lt;/p&gt;&lt;p&gt;Free software under the GNU General Public License, version 3 or later. It comes without any warranty.&lt;/p&gt;</source>
        <translation>&lt;h2&gt;Veldstone %1&lt;/h2&gt;&lt;p&gt;Passt ein Basisnetz mit fester Topologie an Fotos, Scans und Sculpts an.&lt;/p&gt;&lt;p&gt;Freie Software unter der GNU General Public License, Version 3 oder später. Ohne jede Gewähr.&lt;/p&gt;</translation>
    </message>
    <message>
        <source>&lt;h3&gt;Ships with the program&lt;/h3&gt;</source>
        <translation>&lt;h3&gt;Wird mitgeliefert&lt;/h3&gt;</translation>
    </message>
    <message>
        <source>&lt;h3&gt;Libraries&lt;/h3&gt;</source>
        <translation>&lt;h3&gt;Bibliotheken&lt;/h3&gt;</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
</context>
<context>
    <name>BankController</name>
    <message>
        <source>Slide %1</source>
        <translation>%1 ziehen</translation>
    </message>
    <message>
        <source>Reset all morphs</source>
        <translation>Alle Morphs zurücksetzen</translation>
    </message>
    <message>
        <source>Rename to %1</source>
        <translation>In %1 umbenennen</translation>
    </message>
    <message>
        <source>Delete %1</source>
        <translation>%1 löschen</translation>
    </message>
    <message>
        <source>B</source>
        <translation>B</translation>
    </message>
    <message>
        <source>A</source>
        <translation>A</translation>
    </message>
    <message>
        <source>Keep the mix as %1</source>
        <translation>Mischung als %1 merken</translation>
    </message>
    <message>
        <source>Show setting %1</source>
        <translation>Einstellung %1 zeigen</translation>
    </message>
    <message>
        <source>Blend A and B</source>
        <translation>A und B überblenden</translation>
    </message>
    <message>
        <source>Bake %1</source>
        <translation>%1 zusammenfassen</translation>
    </message>
    <message>
        <source>Mirror %1</source>
        <translation>%1 spiegeln</translation>
    </message>
    <message>
        <source>Left half of %1</source>
        <translation>Linke Hälfte von %1</translation>
    </message>
    <message>
        <source>Right half of %1</source>
        <translation>Rechte Hälfte von %1</translation>
    </message>
    <message>
        <source>%1, left on both sides</source>
        <translation>%1, beidseitig links</translation>
    </message>
    <message>
        <source>%1, right on both sides</source>
        <translation>%1, beidseitig rechts</translation>
    </message>
    <message>
        <source>%1 times %2</source>
        <translation>%1 mal %2</translation>
    </message>
    <message>
        <source>Split %1 by region</source>
        <translation>%1 nach Regionen teilen</translation>
    </message>
    <message>
        <source>%1 of %2</source>
        <translation>%1 von %2</translation>
    </message>
    <message>
        <source>Remove %1 from %2</source>
        <translation>%1 aus %2 entfernen</translation>
    </message>
    <message>
        <source>Mix</source>
        <translation>Mischen</translation>
    </message>
    <message>
        <source>Keep %1</source>
        <translation>%1 behalten</translation>
    </message>
    <message>
        <source>Split %1 into head and body</source>
        <translation>%1 in Kopf und Körper teilen</translation>
    </message>
    <message>
        <source>Paint the head&apos;s share</source>
        <translation>Kopfanteil malen</translation>
    </message>
    <message>
        <source>Head&apos;s share by the neck band</source>
        <translation>Kopfanteil nach dem Halsband</translation>
    </message>
    <message>
        <source>Remove from the head&apos;s share</source>
        <translation>Vom Kopfanteil wegnehmen</translation>
    </message>
    <message>
        <source>Carrying the expressions over</source>
        <translation>Ausdrücke werden übertragen</translation>
    </message>
    <message>
        <source>Expressions of %1</source>
        <translation>Ausdrücke von %1</translation>
    </message>
    <message>
        <source>Look at %1: skin still cuts itself there.</source>
        <translation>%1 ansehen: Dort schneidet sich die Haut noch.</translation>
    </message>
    <message>
        <source>Corrections of %1</source>
        <translation>Korrekturen von %1</translation>
    </message>
    <message>
        <source>Corrections added, mixed in with their expression and %1: %2</source>
        <translation>Korrekturen hinzugefügt, die mit ihrem Ausdruck und %1 eingemischt werden: %2</translation>
    </message>
</context>
<context>
    <name>BankPanel</name>
    <message>
        <source>Bank</source>
        <translation>Bank</translation>
    </message>
    <message>
        <source>Mix</source>
        <translation>Mischen</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Regionen</translation>
    </message>
    <message>
        <source>Make</source>
        <translation>Erstellen</translation>
    </message>
    <message>
        <source>Send and return</source>
        <translation>Senden und zurück</translation>
    </message>
    <message>
        <source>Rest pose</source>
        <translation>Ruhehaltung</translation>
    </message>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
</context>
<context>
    <name>BankStation</name>
    <message>
        <source>Click to select a region.</source>
        <translation>Klicken, um eine Region auszuwählen.</translation>
    </message>
    <message>
        <source>Base  the head&apos;s share</source>
        <translation>Basis  Kopfanteil</translation>
    </message>
    <message>
        <source>Paint what belongs to the head; Ctrl removes.</source>
        <translation>Malen, was zum Kopf gehört; Strg nimmt weg.</translation>
    </message>
    <message>
        <source>%1 from the base</source>
        <translation>%1 von der Basis</translation>
    </message>
    <message>
        <source>Click to select a joint.</source>
        <translation>Klicken, um ein Gelenk zu wählen.</translation>
    </message>
</context>
<context>
    <name>BaseController</name>
    <message>
        <source>Save the kit</source>
        <translation>Kit speichern</translation>
    </message>
    <message>
        <source>Save the kit elsewhere</source>
        <translation>Kit woanders speichern</translation>
    </message>
    <message>
        <source>Move %1 on the base</source>
        <translation>%1 auf der Basis verschieben</translation>
    </message>
    <message>
        <source>%1 is right</source>
        <translation>%1 stimmt</translation>
    </message>
    <message>
        <source>Take from the region %1</source>
        <translation>Aus dem Bereich %1 nehmen</translation>
    </message>
    <message>
        <source>Add to the region %1</source>
        <translation>Zum Bereich %1 hinzufügen</translation>
    </message>
    <message>
        <source>Role of %1</source>
        <translation>Aufgabe von %1</translation>
    </message>
    <message>
        <source>Making a kit from %1</source>
        <translation>Kit aus %1 wird gemacht</translation>
    </message>
    <message numerus="yes">
        <source>Bring %n morph(s) from another base</source>
        <translation>
            <numerusform>%n Morph von einer anderen Basis holen</numerusform>
            <numerusform>%n Morphs von einer anderen Basis holen</numerusform>
        </translation>
    </message>
    <message>
        <source>Bringing morphs from another base</source>
        <translation>Morphs von einer anderen Basis werden geholt</translation>
    </message>
    <message>
        <source>Unit %1: %2. Up %3: %4.</source>
        <translation>Einheit %1: %2. Oben %3: %4.</translation>
    </message>
    <message>
        <source>%1 of the file&apos;s %2 vertices are doubles along seams; they are one here, and go out as they came.</source>
        <translation>%1 der %2 Punkte der Datei liegen doppelt an Nähten; hier sind sie einer und gehen hinaus, wie sie kamen.</translation>
    </message>
    <message>
        <source>Parts: %1.</source>
        <translation>Teile: %1.</translation>
    </message>
    <message>
        <source>%1 of %2 vertices have a partner on the other side.</source>
        <translation>%1 von %2 Punkten haben einen Partner auf der anderen Seite.</translation>
    </message>
    <message>
        <source>Every vertex has a partner on the other side.</source>
        <translation>Jeder Punkt hat einen Partner auf der anderen Seite.</translation>
    </message>
    <message>
        <source>The file&apos;s own %1 joints; %2 roles are open.</source>
        <translation>Die %1 eigenen Gelenke der Datei; %2 Aufgaben sind offen.</translation>
    </message>
    <message>
        <source>Joints and skin weights are carried over from the demo&apos;s figure.</source>
        <translation>Gelenke und Hautgewichte sind von der Demofigur übernommen.</translation>
    </message>
    <message>
        <source>The base&apos;s own %1 expressions.</source>
        <translation>Die %1 eigenen Ausdrücke der Basis.</translation>
    </message>
    <message>
        <source>Expressions are carried over from the demo&apos;s figure.</source>
        <translation>Ausdrücke sind von der Demofigur übernommen.</translation>
    </message>
    <message>
        <source>%1 landmarks were not found.</source>
        <translation>%1 Landmarken wurden nicht gefunden.</translation>
    </message>
    <message>
        <source>Writing %1</source>
        <translation>%1 wird geschrieben</translation>
    </message>
    <message>
        <source>Written: %1</source>
        <translation>Geschrieben: %1</translation>
    </message>
    <message>
        <source>Unpacking %1</source>
        <translation>%1 wird entpackt</translation>
    </message>
    <message>
        <source>Fitting a made-up head</source>
        <translation>Ein erfundener Kopf wird angepasst</translation>
    </message>
    <message>
        <source>Landmarks within %1 are right</source>
        <translation>Landmarken bis %1 stimmen</translation>
    </message>
    <message>
        <source>What %1 goes with</source>
        <translation>Womit %1 geht</translation>
    </message>
    <message>
        <source>Reading %1</source>
        <translation>%1 wird gelesen</translation>
    </message>
    <message>
        <source>Add the reduced version %1</source>
        <translation>Vereinfachte Fassung %1 hinzufügen</translation>
    </message>
    <message>
        <source>Remove the reduced version %1</source>
        <translation>Vereinfachte Fassung %1 entfernen</translation>
    </message>
    <message>
        <source>Tie %1</source>
        <translation>%1 anbinden</translation>
    </message>
    <message>
        <source>Tie %1 as its weights say</source>
        <translation>%1 nach den Gewichten anbinden</translation>
    </message>
</context>
<context>
    <name>BaseLandmarksTab</name>
    <message>
        <source>Landmarks and guide curves of the base</source>
        <translation>Landmarken und Leitkurven der Basis</translation>
    </message>
    <message>
        <source>Landmark</source>
        <translation>Landmarke</translation>
    </message>
    <message>
        <source>±</source>
        <translation>±</translation>
    </message>
    <message>
        <source>How far it may be off; empty: it was set or looked at, or there is no doubt</source>
        <translation>Wie weit sie daneben liegen kann; leer: sie wurde gesetzt oder angesehen, oder es gibt keinen Zweifel</translation>
    </message>
    <message>
        <source>It is right</source>
        <translation>Stimmt so</translation>
    </message>
    <message>
        <source>It stays where it is, and is not asked about again</source>
        <translation>Sie bleibt, wo sie ist, und es wird nicht mehr nach ihr gefragt</translation>
    </message>
    <message>
        <source>%1 landmarks and guide curves; %2 may be off by more than they should: look at those first. Drag a landmark in the view to move it.</source>
        <translation>%1 Landmarken und Leitkurven; %2 liegen vielleicht weiter daneben, als sie sollten: diese zuerst ansehen. Zum Verschieben in der Ansicht ziehen.</translation>
    </message>
    <message>
        <source>%1 landmarks and guide curves. Drag a landmark in the view to move it.</source>
        <translation>%1 Landmarken und Leitkurven. Zum Verschieben in der Ansicht ziehen.</translation>
    </message>
    <message>
        <source>All within</source>
        <translation>Alle bis</translation>
    </message>
    <message>
        <source>Those that may be off by no more than this are right where they are</source>
        <translation>Die höchstens so weit daneben liegen können, stimmen so</translation>
    </message>
    <message>
        <source>What counts as good enough</source>
        <translation>Was als gut genug gilt</translation>
    </message>
</context>
<context>
    <name>BasePanel</name>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>The kit</source>
        <translation>Das Kit</translation>
    </message>
    <message>
        <source>Parts</source>
        <translation>Teile</translation>
    </message>
    <message>
        <source>Landmarks</source>
        <translation>Landmarken</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Bereiche</translation>
    </message>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
    <message>
        <source>Expressions</source>
        <translation>Ausdrücke</translation>
    </message>
    <message>
        <source>From another base</source>
        <translation>Von einer anderen Basis</translation>
    </message>
    <message>
        <source>A kit from your mesh</source>
        <translation>Ein Kit aus Ihrem Netz</translation>
    </message>
    <message>
        <source>Reduced versions</source>
        <translation>Vereinfachte Fassungen</translation>
    </message>
</context>
<context>
    <name>BaseRegionsTab</name>
    <message>
        <source>Regions</source>
        <translation>Bereiche</translation>
    </message>
    <message>
        <source>Region</source>
        <translation>Bereich</translation>
    </message>
    <message>
        <source>Vertices</source>
        <translation>Punkte</translation>
    </message>
    <message>
        <source>Paint</source>
        <translation>Malen</translation>
    </message>
    <message>
        <source>The left button adds to the region; Ctrl takes away; the right button turns</source>
        <translation>Die linke Taste fügt hinzu, Strg nimmt weg; die rechte Taste dreht</translation>
    </message>
    <message>
        <source>Both sides</source>
        <translation>Beide Seiten</translation>
    </message>
    <message>
        <source>Radius of the brush along the surface</source>
        <translation>Radius des Pinsels entlang der Oberfläche</translation>
    </message>
    <message>
        <source>Without a partner on the other side</source>
        <translation>Ohne Partner auf der anderen Seite</translation>
    </message>
    <message>
        <source>Neck ring</source>
        <translation>Halsring</translation>
    </message>
    <message>
        <source>Select a region to see it on the base.</source>
        <translation>Wählen Sie einen Bereich, um ihn auf der Basis zu sehen.</translation>
    </message>
    <message>
        <source>Work on one side is not mirrored to these.</source>
        <translation>Arbeit auf einer Seite wird auf diese nicht gespiegelt.</translation>
    </message>
    <message>
        <source>Where the head and the body meet.</source>
        <translation>Wo Kopf und Körper sich treffen.</translation>
    </message>
</context>
<context>
    <name>BaseStation</name>
    <message>
        <source>The kit can do %1 of %2</source>
        <translation>Das Kit kann %1 von %2</translation>
    </message>
    <message>
        <source>; landmarks to look at: %1</source>
        <translation>; anzusehende Landmarken: %1</translation>
    </message>
    <message>
        <source>Click a piece to select it.</source>
        <translation>Klicken Sie ein Stück an, um es zu wählen.</translation>
    </message>
    <message>
        <source>Drag a landmark to move it.</source>
        <translation>Ziehen Sie eine Landmarke, um sie zu verschieben.</translation>
    </message>
    <message>
        <source>Paint what belongs to the region; Ctrl takes away.</source>
        <translation>Malen Sie, was zum Bereich gehört; Strg nimmt weg.</translation>
    </message>
    <message>
        <source>differs most here</source>
        <translation>weicht hier am meisten ab</translation>
    </message>
    <message>
        <source>A made-up head on this kit</source>
        <translation>Ein erfundener Kopf auf diesem Kit</translation>
    </message>
    <message>
        <source>%1 pose</source>
        <translation>%1-Pose</translation>
    </message>
    <message>
        <source>Paint the skin that tells where the joint is; Ctrl takes away.</source>
        <translation>Die Haut malen, die sagt, wo das Gelenk ist; Strg nimmt weg.</translation>
    </message>
</context>
<context>
    <name>BringTab</name>
    <message>
        <source>Morphs that were made for another base, or for an older version of this one, come into the bank: exactly where the surface is the same, else by laying the old base onto this one.</source>
        <translation>Morphs, die für eine andere Basis oder eine ältere Fassung von dieser gemacht wurden, kommen in die Bank: genau, wo die Oberfläche dieselbe ist, sonst, indem die alte Basis auf diese gelegt wird.</translation>
    </message>
    <message>
        <source>From a project…</source>
        <translation>Aus einem Projekt…</translation>
    </message>
    <message>
        <source>All of its bank</source>
        <translation>Alles aus seiner Bank</translation>
    </message>
    <message>
        <source>Morph files…</source>
        <translation>Morphdateien…</translation>
    </message>
    <message>
        <source>Morph files, and the kit that they were made for</source>
        <translation>Morphdateien und das Kit, für das sie gemacht wurden</translation>
    </message>
    <message>
        <source>Morphs that were brought</source>
        <translation>Geholte Morphs</translation>
    </message>
    <message>
        <source>Morph</source>
        <translation>Morph</translation>
    </message>
    <message>
        <source>Before</source>
        <translation>Vorher</translation>
    </message>
    <message>
        <source>Here</source>
        <translation>Hier</translation>
    </message>
    <message>
        <source>Worst</source>
        <translation>Größte</translation>
    </message>
    <message>
        <source>Its largest move on the old base</source>
        <translation>Seine größte Bewegung auf der alten Basis</translation>
    </message>
    <message>
        <source>Its largest move on this one</source>
        <translation>Seine größte Bewegung auf dieser</translation>
    </message>
    <message>
        <source>The most that it differs anywhere from what it was there; the view shows where</source>
        <translation>Wie weit er irgendwo höchstens von dem abweicht, was er dort war; die Ansicht zeigt, wo</translation>
    </message>
    <message>
        <source>%1 vertices are where the old base has one: exact there.</source>
        <translation>%1 Punkte liegen, wo die alte Basis einen hat: dort genau.</translation>
    </message>
    <message>
        <source>The old base was laid onto this one; %1 apart in the middle.</source>
        <translation>Die alte Basis wurde auf diese gelegt; im Mittel %1 auseinander.</translation>
    </message>
    <message>
        <source>%1 vertices have no place on the old base and stay.</source>
        <translation>%1 Punkte haben keinen Platz auf der alten Basis und bleiben.</translation>
    </message>
    <message>
        <source>Project of the other base</source>
        <translation>Projekt der anderen Basis</translation>
    </message>
    <message>
        <source>Veldstone project (*.veldstone)</source>
        <translation>Veldstone-Projekt (*.veldstone)</translation>
    </message>
    <message>
        <source>Morphs</source>
        <translation>Morphs</translation>
    </message>
    <message>
        <source>Morph files (*.json)</source>
        <translation>Morphdateien (*.json)</translation>
    </message>
    <message>
        <source>The kit that they were made for</source>
        <translation>Das Kit, für das sie gemacht wurden</translation>
    </message>
</context>
<context>
    <name>CommandSearch</name>
    <message>
        <source>Find a command</source>
        <translation>Befehl suchen</translation>
    </message>
    <message>
        <source>What do you want to do?</source>
        <translation>Was möchtest du tun?</translation>
    </message>
    <message>
        <source>Commands</source>
        <translation>Befehle</translation>
    </message>
</context>
<context>
    <name>Core</name>
    <message>
        <source>crown</source>
        <translation>Scheitel</translation>
    </message>
    <message>
        <source>back of the head</source>
        <translation>Hinterkopf</translation>
    </message>
    <message>
        <source>hairline</source>
        <translation>Haaransatz</translation>
    </message>
    <message>
        <source>between the brows</source>
        <translation>zwischen den Brauen</translation>
    </message>
    <message>
        <source>nose root</source>
        <translation>Nasenwurzel</translation>
    </message>
    <message>
        <source>nose tip</source>
        <translation>Nasenspitze</translation>
    </message>
    <message>
        <source>nose base</source>
        <translation>Nasenbasis</translation>
    </message>
    <message>
        <source>upper lip border</source>
        <translation>Oberlippenrand</translation>
    </message>
    <message>
        <source>mouth middle</source>
        <translation>Mundmitte</translation>
    </message>
    <message>
        <source>lower lip border</source>
        <translation>Unterlippenrand</translation>
    </message>
    <message>
        <source>chin crease</source>
        <translation>Kinnfurche</translation>
    </message>
    <message>
        <source>chin front</source>
        <translation>Kinn vorn</translation>
    </message>
    <message>
        <source>chin underside</source>
        <translation>Kinnunterseite</translation>
    </message>
    <message>
        <source>throat angle</source>
        <translation>Kehlwinkel</translation>
    </message>
    <message>
        <source>left outer eye corner</source>
        <translation>linker äußerer Augenwinkel</translation>
    </message>
    <message>
        <source>right outer eye corner</source>
        <translation>rechter äußerer Augenwinkel</translation>
    </message>
    <message>
        <source>left inner eye corner</source>
        <translation>linker innerer Augenwinkel</translation>
    </message>
    <message>
        <source>right inner eye corner</source>
        <translation>rechter innerer Augenwinkel</translation>
    </message>
    <message>
        <source>left upper lid</source>
        <translation>linkes Oberlid</translation>
    </message>
    <message>
        <source>right upper lid</source>
        <translation>rechtes Oberlid</translation>
    </message>
    <message>
        <source>left lower lid</source>
        <translation>linkes Unterlid</translation>
    </message>
    <message>
        <source>right lower lid</source>
        <translation>rechtes Unterlid</translation>
    </message>
    <message>
        <source>left pupil centre</source>
        <translation>linke Pupillenmitte</translation>
    </message>
    <message>
        <source>right pupil centre</source>
        <translation>rechte Pupillenmitte</translation>
    </message>
    <message>
        <source>left inner brow end</source>
        <translation>linkes inneres Brauenende</translation>
    </message>
    <message>
        <source>right inner brow end</source>
        <translation>rechtes inneres Brauenende</translation>
    </message>
    <message>
        <source>left brow peak</source>
        <translation>linker Brauenbogen</translation>
    </message>
    <message>
        <source>right brow peak</source>
        <translation>rechter Brauenbogen</translation>
    </message>
    <message>
        <source>left outer brow end</source>
        <translation>linkes äußeres Brauenende</translation>
    </message>
    <message>
        <source>right outer brow end</source>
        <translation>rechtes äußeres Brauenende</translation>
    </message>
    <message>
        <source>left temple</source>
        <translation>linke Schläfe</translation>
    </message>
    <message>
        <source>right temple</source>
        <translation>rechte Schläfe</translation>
    </message>
    <message>
        <source>left nose wing</source>
        <translation>linker Nasenflügel</translation>
    </message>
    <message>
        <source>right nose wing</source>
        <translation>rechter Nasenflügel</translation>
    </message>
    <message>
        <source>left nose wing base</source>
        <translation>linker Nasenflügelansatz</translation>
    </message>
    <message>
        <source>right nose wing base</source>
        <translation>rechter Nasenflügelansatz</translation>
    </message>
    <message>
        <source>left philtrum crest</source>
        <translation>linke Philtrumkante</translation>
    </message>
    <message>
        <source>right philtrum crest</source>
        <translation>rechte Philtrumkante</translation>
    </message>
    <message>
        <source>left mouth corner</source>
        <translation>linker Mundwinkel</translation>
    </message>
    <message>
        <source>right mouth corner</source>
        <translation>rechter Mundwinkel</translation>
    </message>
    <message>
        <source>left cheekbone</source>
        <translation>linkes Jochbein</translation>
    </message>
    <message>
        <source>right cheekbone</source>
        <translation>rechtes Jochbein</translation>
    </message>
    <message>
        <source>left cheek apple</source>
        <translation>linke Wange</translation>
    </message>
    <message>
        <source>right cheek apple</source>
        <translation>rechte Wange</translation>
    </message>
    <message>
        <source>left jaw angle</source>
        <translation>linker Kieferwinkel</translation>
    </message>
    <message>
        <source>right jaw angle</source>
        <translation>rechter Kieferwinkel</translation>
    </message>
    <message>
        <source>left ear notch</source>
        <translation>linke Ohrkerbe</translation>
    </message>
    <message>
        <source>right ear notch</source>
        <translation>rechte Ohrkerbe</translation>
    </message>
    <message>
        <source>left ear top</source>
        <translation>linkes Ohr oben</translation>
    </message>
    <message>
        <source>right ear top</source>
        <translation>rechtes Ohr oben</translation>
    </message>
    <message>
        <source>left ear lobe</source>
        <translation>linkes Ohrläppchen</translation>
    </message>
    <message>
        <source>right ear lobe</source>
        <translation>rechtes Ohrläppchen</translation>
    </message>
    <message>
        <source>left ear back</source>
        <translation>linkes Ohr hinten</translation>
    </message>
    <message>
        <source>right ear back</source>
        <translation>rechtes Ohr hinten</translation>
    </message>
    <message>
        <source>neck bone</source>
        <translation>Halswirbel</translation>
    </message>
    <message>
        <source>throat notch</source>
        <translation>Halsgrube</translation>
    </message>
    <message>
        <source>breastbone end</source>
        <translation>Brustbeinende</translation>
    </message>
    <message>
        <source>navel</source>
        <translation>Nabel</translation>
    </message>
    <message>
        <source>crotch</source>
        <translation>Schritt</translation>
    </message>
    <message>
        <source>small of the back</source>
        <translation>Kreuz</translation>
    </message>
    <message>
        <source>left shoulder tip</source>
        <translation>linke Schulterspitze</translation>
    </message>
    <message>
        <source>right shoulder tip</source>
        <translation>rechte Schulterspitze</translation>
    </message>
    <message>
        <source>left nipple</source>
        <translation>linke Brustwarze</translation>
    </message>
    <message>
        <source>right nipple</source>
        <translation>rechte Brustwarze</translation>
    </message>
    <message>
        <source>left front armpit fold</source>
        <translation>linke vordere Achselfalte</translation>
    </message>
    <message>
        <source>right front armpit fold</source>
        <translation>rechte vordere Achselfalte</translation>
    </message>
    <message>
        <source>left back armpit fold</source>
        <translation>linke hintere Achselfalte</translation>
    </message>
    <message>
        <source>right back armpit fold</source>
        <translation>rechte hintere Achselfalte</translation>
    </message>
    <message>
        <source>left elbow tip</source>
        <translation>linke Ellbogenspitze</translation>
    </message>
    <message>
        <source>right elbow tip</source>
        <translation>rechte Ellbogenspitze</translation>
    </message>
    <message>
        <source>left outer elbow</source>
        <translation>linker äußerer Ellbogen</translation>
    </message>
    <message>
        <source>right outer elbow</source>
        <translation>rechter äußerer Ellbogen</translation>
    </message>
    <message>
        <source>left wrist</source>
        <translation>linkes Handgelenk</translation>
    </message>
    <message>
        <source>right wrist</source>
        <translation>rechtes Handgelenk</translation>
    </message>
    <message>
        <source>left index knuckle</source>
        <translation>linker Zeigefingerknöchel</translation>
    </message>
    <message>
        <source>right index knuckle</source>
        <translation>rechter Zeigefingerknöchel</translation>
    </message>
    <message>
        <source>left little knuckle</source>
        <translation>linker Kleinfingerknöchel</translation>
    </message>
    <message>
        <source>right little knuckle</source>
        <translation>rechter Kleinfingerknöchel</translation>
    </message>
    <message>
        <source>left thumb tip</source>
        <translation>linke Daumenspitze</translation>
    </message>
    <message>
        <source>right thumb tip</source>
        <translation>rechte Daumenspitze</translation>
    </message>
    <message>
        <source>left index finger tip</source>
        <translation>linke Zeigefingerspitze</translation>
    </message>
    <message>
        <source>right index finger tip</source>
        <translation>rechte Zeigefingerspitze</translation>
    </message>
    <message>
        <source>left middle finger tip</source>
        <translation>linke Mittelfingerspitze</translation>
    </message>
    <message>
        <source>right middle finger tip</source>
        <translation>rechte Mittelfingerspitze</translation>
    </message>
    <message>
        <source>left ring finger tip</source>
        <translation>linke Ringfingerspitze</translation>
    </message>
    <message>
        <source>right ring finger tip</source>
        <translation>rechte Ringfingerspitze</translation>
    </message>
    <message>
        <source>left little finger tip</source>
        <translation>linke Kleinfingerspitze</translation>
    </message>
    <message>
        <source>right little finger tip</source>
        <translation>rechte Kleinfingerspitze</translation>
    </message>
    <message>
        <source>left hip point</source>
        <translation>linker Hüftpunkt</translation>
    </message>
    <message>
        <source>right hip point</source>
        <translation>rechter Hüftpunkt</translation>
    </message>
    <message>
        <source>left hip side</source>
        <translation>linke Hüftseite</translation>
    </message>
    <message>
        <source>right hip side</source>
        <translation>rechte Hüftseite</translation>
    </message>
    <message>
        <source>left seat</source>
        <translation>linkes Gesäß</translation>
    </message>
    <message>
        <source>right seat</source>
        <translation>rechtes Gesäß</translation>
    </message>
    <message>
        <source>left kneecap</source>
        <translation>linke Kniescheibe</translation>
    </message>
    <message>
        <source>right kneecap</source>
        <translation>rechte Kniescheibe</translation>
    </message>
    <message>
        <source>left knee hollow</source>
        <translation>linke Kniekehle</translation>
    </message>
    <message>
        <source>right knee hollow</source>
        <translation>rechte Kniekehle</translation>
    </message>
    <message>
        <source>left outer ankle</source>
        <translation>linker äußerer Knöchel</translation>
    </message>
    <message>
        <source>right outer ankle</source>
        <translation>rechter äußerer Knöchel</translation>
    </message>
    <message>
        <source>left inner ankle</source>
        <translation>linker innerer Knöchel</translation>
    </message>
    <message>
        <source>right inner ankle</source>
        <translation>rechter innerer Knöchel</translation>
    </message>
    <message>
        <source>left heel</source>
        <translation>linke Ferse</translation>
    </message>
    <message>
        <source>right heel</source>
        <translation>rechte Ferse</translation>
    </message>
    <message>
        <source>left toe tip</source>
        <translation>linke Zehenspitze</translation>
    </message>
    <message>
        <source>right toe tip</source>
        <translation>rechte Zehenspitze</translation>
    </message>
    <message>
        <source>left little-toe ball</source>
        <translation>linker Kleinzehenballen</translation>
    </message>
    <message>
        <source>right little-toe ball</source>
        <translation>rechter Kleinzehenballen</translation>
    </message>
    <message>
        <source>left upper lid edge</source>
        <translation>linke Oberlidkante</translation>
    </message>
    <message>
        <source>right upper lid edge</source>
        <translation>rechte Oberlidkante</translation>
    </message>
    <message>
        <source>left lower lid edge</source>
        <translation>linke Unterlidkante</translation>
    </message>
    <message>
        <source>right lower lid edge</source>
        <translation>rechte Unterlidkante</translation>
    </message>
    <message>
        <source>left brow line</source>
        <translation>linke Brauenlinie</translation>
    </message>
    <message>
        <source>right brow line</source>
        <translation>rechte Brauenlinie</translation>
    </message>
    <message>
        <source>left ear rim</source>
        <translation>linker Ohrrand</translation>
    </message>
    <message>
        <source>right ear rim</source>
        <translation>rechter Ohrrand</translation>
    </message>
    <message>
        <source>mouth line</source>
        <translation>Mundlinie</translation>
    </message>
    <message>
        <source>jaw line</source>
        <translation>Kieferlinie</translation>
    </message>
    <message>
        <source>Neck</source>
        <translation>Hals</translation>
    </message>
    <message>
        <source>Face</source>
        <translation>Gesicht</translation>
    </message>
    <message>
        <source>Skull</source>
        <translation>Schädel</translation>
    </message>
    <message>
        <source>Left ear</source>
        <translation>Linkes Ohr</translation>
    </message>
    <message>
        <source>Right ear</source>
        <translation>Rechtes Ohr</translation>
    </message>
    <message>
        <source>Left eye socket</source>
        <translation>Linke Augenhöhle</translation>
    </message>
    <message>
        <source>Right eye socket</source>
        <translation>Rechte Augenhöhle</translation>
    </message>
    <message>
        <source>Mouth inner</source>
        <translation>Mund innen</translation>
    </message>
    <message>
        <source>Nostril inside</source>
        <translation>Nase innen</translation>
    </message>
    <message>
        <source>Lips</source>
        <translation>Lippen</translation>
    </message>
    <message>
        <source>Left lids</source>
        <translation>Linke Lider</translation>
    </message>
    <message>
        <source>Right lids</source>
        <translation>Rechte Lider</translation>
    </message>
    <message>
        <source>Left eye</source>
        <translation>Linkes Auge</translation>
    </message>
    <message>
        <source>Right eye</source>
        <translation>Rechtes Auge</translation>
    </message>
    <message>
        <source>Teeth upper</source>
        <translation>Obere Zähne</translation>
    </message>
    <message>
        <source>Teeth lower</source>
        <translation>Untere Zähne</translation>
    </message>
    <message>
        <source>Tongue</source>
        <translation>Zunge</translation>
    </message>
    <message>
        <source>Left lash</source>
        <translation>Linke Wimpern</translation>
    </message>
    <message>
        <source>Right lash</source>
        <translation>Rechte Wimpern</translation>
    </message>
    <message>
        <source>Left foot</source>
        <translation>Linker Fuß</translation>
    </message>
    <message>
        <source>Right foot</source>
        <translation>Rechter Fuß</translation>
    </message>
    <message>
        <source>Left forearm</source>
        <translation>Linker Unterarm</translation>
    </message>
    <message>
        <source>Right forearm</source>
        <translation>Rechter Unterarm</translation>
    </message>
    <message>
        <source>Left hand</source>
        <translation>Linke Hand</translation>
    </message>
    <message>
        <source>Right hand</source>
        <translation>Rechte Hand</translation>
    </message>
    <message>
        <source>Hip</source>
        <translation>Hüfte</translation>
    </message>
    <message>
        <source>Left index finger</source>
        <translation>Linker Zeigefinger</translation>
    </message>
    <message>
        <source>Right index finger</source>
        <translation>Rechter Zeigefinger</translation>
    </message>
    <message>
        <source>Left little finger</source>
        <translation>Linker kleiner Finger</translation>
    </message>
    <message>
        <source>Right little finger</source>
        <translation>Rechter kleiner Finger</translation>
    </message>
    <message>
        <source>Left middle finger</source>
        <translation>Linker Mittelfinger</translation>
    </message>
    <message>
        <source>Right middle finger</source>
        <translation>Rechter Mittelfinger</translation>
    </message>
    <message>
        <source>Left ring finger</source>
        <translation>Linker Ringfinger</translation>
    </message>
    <message>
        <source>Right ring finger</source>
        <translation>Rechter Ringfinger</translation>
    </message>
    <message>
        <source>Left shin</source>
        <translation>Linker Unterschenkel</translation>
    </message>
    <message>
        <source>Right shin</source>
        <translation>Rechter Unterschenkel</translation>
    </message>
    <message>
        <source>Left thigh</source>
        <translation>Linker Oberschenkel</translation>
    </message>
    <message>
        <source>Right thigh</source>
        <translation>Rechter Oberschenkel</translation>
    </message>
    <message>
        <source>Left thumb</source>
        <translation>Linker Daumen</translation>
    </message>
    <message>
        <source>Right thumb</source>
        <translation>Rechter Daumen</translation>
    </message>
    <message>
        <source>Torso</source>
        <translation>Rumpf</translation>
    </message>
    <message>
        <source>Left upper arm</source>
        <translation>Linker Oberarm</translation>
    </message>
    <message>
        <source>Right upper arm</source>
        <translation>Rechter Oberarm</translation>
    </message>
    <message>
        <source>Left hand with fingers</source>
        <translation>Linke Hand mit Fingern</translation>
    </message>
    <message>
        <source>Right hand with fingers</source>
        <translation>Rechte Hand mit Fingern</translation>
    </message>
    <message>
        <source>Head skin</source>
        <translation>Haut des Kopfes</translation>
    </message>
    <message>
        <source>Body skin</source>
        <translation>Haut des Körpers</translation>
    </message>
    <message>
        <source>Forehead</source>
        <translation>Stirn</translation>
    </message>
    <message>
        <source>Brows</source>
        <translation>Brauen</translation>
    </message>
    <message>
        <source>Eyes</source>
        <translation>Augen</translation>
    </message>
    <message>
        <source>Nose</source>
        <translation>Nase</translation>
    </message>
    <message>
        <source>Cheeks</source>
        <translation>Wangen</translation>
    </message>
    <message>
        <source>Mouth</source>
        <translation>Mund</translation>
    </message>
    <message>
        <source>Chin and jaw</source>
        <translation>Kinn und Kiefer</translation>
    </message>
    <message>
        <source>Ears</source>
        <translation>Ohren</translation>
    </message>
    <message>
        <source>Body</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>Head scan</source>
        <translation>Kopfscan</translation>
    </message>
    <message>
        <source>A scanned head with its skin to be seen; fades over the neck</source>
        <translation>Ein gescannter Kopf mit sichtbarer Haut; läuft über den Hals aus</translation>
    </message>
    <message>
        <source>Bust with clothes</source>
        <translation>Büste mit Kleidung</translation>
    </message>
    <message>
        <source>Hair, a cap or a collar that was not told from skin: neck and skull are not matched and follow the face</source>
        <translation>Haar, Mütze oder Kragen, die nicht von der Haut unterschieden wurden: Hals und Schädel werden nicht angepasst und folgen dem Gesicht</translation>
    </message>
    <message>
        <source>Stylised sculpt</source>
        <translation>Stilisierte Skulptur</translation>
    </message>
    <message>
        <source>Far from the base: long jaws, large ears, a child, a creature. Reaches farther</source>
        <translation>Fern der Basis: lange Kiefer, große Ohren, ein Kind, ein Wesen. Reicht weiter</translation>
    </message>
    <message>
        <source>Whole figure</source>
        <translation>Ganze Figur</translation>
    </message>
    <message>
        <source>Head and body; the pose is taken out</source>
        <translation>Kopf und Körper; die Pose wird herausgerechnet</translation>
    </message>
    <message>
        <source>Landmarks alone</source>
        <translation>Nur Landmarken</translation>
    </message>
    <message>
        <source>No surface: points and guide curves bend the base</source>
        <translation>Keine Fläche: Punkte und Leitkurven biegen die Basis</translation>
    </message>
    <message>
        <source>Straighten</source>
        <translation>Aufrichten</translation>
    </message>
    <message>
        <source>Recognises the head or figure and turns it upright, facing front.</source>
        <translation>Erkennt den Kopf oder die Figur und richtet sie auf, Gesicht nach vorn.</translation>
    </message>
    <message>
        <source>By eyes and nose</source>
        <translation>Nach Augen und Nase</translation>
    </message>
    <message>
        <source>Upright by three picked points: right eye, left eye, nose tip.</source>
        <translation>Aufrecht nach drei gewählten Punkten: rechtes Auge, linkes Auge, Nasenspitze.</translation>
    </message>
    <message>
        <source>By the floor</source>
        <translation>Nach dem Boden</translation>
    </message>
    <message>
        <source>Level by two picked points of the floor.</source>
        <translation>Waagrecht nach zwei gewählten Punkten des Bodens.</translation>
    </message>
    <message>
        <source>Turn</source>
        <translation>Drehen</translation>
    </message>
    <message>
        <source>Turns the source about its middle.</source>
        <translation>Dreht die Quelle um ihre Mitte.</translation>
    </message>
    <message>
        <source>Move</source>
        <translation>Verschieben</translation>
    </message>
    <message>
        <source>Moves the source.</source>
        <translation>Verschiebt die Quelle.</translation>
    </message>
    <message>
        <source>Set on the floor</source>
        <translation>Auf den Boden stellen</translation>
    </message>
    <message>
        <source>Lowest point to the floor, middle over the origin.</source>
        <translation>Tiefster Punkt auf den Boden, Mitte über den Ursprung.</translation>
    </message>
    <message>
        <source>Repair common faults</source>
        <translation>Übliche Fehler reparieren</translation>
    </message>
    <message>
        <source>Safe repairs in one step: seam vertices joined (UVs stay), broken and repeated faces out, edges with many faces cut apart, shells turned outward.</source>
        <translation>Sichere Reparaturen in einem Schritt: Nahtpunkte verbunden (UVs bleiben), defekte und doppelte Flächen entfernt, Kanten mit vielen Flächen getrennt, Schalen nach außen gewendet.</translation>
    </message>
    <message>
        <source>Weld</source>
        <translation>Verschweißen</translation>
    </message>
    <message>
        <source>Joins vertices that lie close together; texture seams stay.</source>
        <translation>Verbindet dicht beieinander liegende Punkte; Texturnähte bleiben.</translation>
    </message>
    <message>
        <source>Small components</source>
        <translation>Kleine Stücke</translation>
    </message>
    <message>
        <source>Removes what is not connected to the subject.</source>
        <translation>Entfernt, was nicht mit der Person verbunden ist.</translation>
    </message>
    <message>
        <source>Cut by a plane</source>
        <translation>Mit Ebene schneiden</translation>
    </message>
    <message>
        <source>What lies in front of the plane stays.</source>
        <translation>Was vor der Ebene liegt, bleibt.</translation>
    </message>
    <message>
        <source>Delete the selection</source>
        <translation>Auswahl löschen</translation>
    </message>
    <message>
        <source>Deletes the selected faces.</source>
        <translation>Löscht die gewählten Flächen.</translation>
    </message>
    <message>
        <source>Remove spikes</source>
        <translation>Spitzen entfernen</translation>
    </message>
    <message>
        <source>Puts points back that stand out alone.</source>
        <translation>Setzt einzeln hervorstehende Punkte zurück.</translation>
    </message>
    <message>
        <source>Fill holes</source>
        <translation>Löcher füllen</translation>
    </message>
    <message>
        <source>Closes holes up to a size; with a selection, only those that touch it.</source>
        <translation>Schließt Löcher bis zu einer Größe; bei einer Auswahl nur die, die sie berühren.</translation>
    </message>
    <message>
        <source>Smooth</source>
        <translation>Glätten</translation>
    </message>
    <message>
        <source>Removes noise and keeps the volume; the whole or a selection.</source>
        <translation>Entfernt Rauschen und behält das Volumen; das Ganze oder eine Auswahl.</translation>
    </message>
    <message>
        <source>Flatten bumps</source>
        <translation>Beulen abflachen</translation>
    </message>
    <message>
        <source>Smooths the selected area to what its rim holds: beard, curls, buttons.</source>
        <translation>Glättet den gewählten Bereich bis auf das, was sein Rand hält: Bart, Locken, Knöpfe.</translation>
    </message>
    <message>
        <source>Reduce</source>
        <translation>Reduzieren</translation>
    </message>
    <message>
        <source>Fewer triangles; form, seams and textures stay.</source>
        <translation>Weniger Dreiecke; Form, Nähte und Texturen bleiben.</translation>
    </message>
    <message>
        <source>Remesh</source>
        <translation>Neu vernetzen</translation>
    </message>
    <message>
        <source>Triangles of one size; the texture is carried over.</source>
        <translation>Dreiecke einer Größe; die Textur wird übertragen.</translation>
    </message>
    <message>
        <source>Flip</source>
        <translation>Umklappen</translation>
    </message>
    <message>
        <source>Reverses faces, all or the selected ones.</source>
        <translation>Wendet Flächen, alle oder die gewählten.</translation>
    </message>
    <message>
        <source>Turn outward</source>
        <translation>Nach außen wenden</translation>
    </message>
    <message>
        <source>Turns shells that are inside out.</source>
        <translation>Wendet Schalen, deren Innenseite außen liegt.</translation>
    </message>
    <message>
        <source>Recompute normals</source>
        <translation>Normalen neu berechnen</translation>
    </message>
    <message>
        <source>Smooth normals for whatever reads the mesh next.</source>
        <translation>Glatte Normalen für das Programm, das das Netz als Nächstes liest.</translation>
    </message>
    <message>
        <source>Ignore</source>
        <translation>Ignorieren</translation>
    </message>
    <message>
        <source>The fit never matches ignored areas: hair, glasses, collar, stand.</source>
        <translation>Die Anpassung trifft ignorierte Bereiche nie: Haar, Brille, Kragen, Ständer.</translation>
    </message>
    <message>
        <source>right eye x</source>
        <translation>rechtes Auge x</translation>
    </message>
    <message>
        <source>right eye y</source>
        <translation>rechtes Auge y</translation>
    </message>
    <message>
        <source>right eye z</source>
        <translation>rechtes Auge z</translation>
    </message>
    <message>
        <source>left eye x</source>
        <translation>linkes Auge x</translation>
    </message>
    <message>
        <source>left eye y</source>
        <translation>linkes Auge y</translation>
    </message>
    <message>
        <source>left eye z</source>
        <translation>linkes Auge z</translation>
    </message>
    <message>
        <source>nose x</source>
        <translation>Nase x</translation>
    </message>
    <message>
        <source>nose y</source>
        <translation>Nase y</translation>
    </message>
    <message>
        <source>nose z</source>
        <translation>Nase z</translation>
    </message>
    <message>
        <source>first x</source>
        <translation>erster x</translation>
    </message>
    <message>
        <source>first y</source>
        <translation>erster y</translation>
    </message>
    <message>
        <source>first z</source>
        <translation>erster z</translation>
    </message>
    <message>
        <source>second x</source>
        <translation>zweiter x</translation>
    </message>
    <message>
        <source>second y</source>
        <translation>zweiter y</translation>
    </message>
    <message>
        <source>second z</source>
        <translation>zweiter z</translation>
    </message>
    <message>
        <source>to its left</source>
        <translation>nach links</translation>
    </message>
    <message>
        <source>up</source>
        <translation>nach oben</translation>
    </message>
    <message>
        <source>forward</source>
        <translation>nach vorn</translation>
    </message>
    <message>
        <source>x</source>
        <translation>x</translation>
    </message>
    <message>
        <source>y</source>
        <translation>y</translation>
    </message>
    <message>
        <source>z</source>
        <translation>z</translation>
    </message>
    <message>
        <source>pitch</source>
        <translation>Nicken</translation>
    </message>
    <message>
        <source>About the axis through the ears</source>
        <translation>Um die Achse durch die Ohren</translation>
    </message>
    <message>
        <source>turn</source>
        <translation>Drehen</translation>
    </message>
    <message>
        <source>About the upright axis</source>
        <translation>Um die Hochachse</translation>
    </message>
    <message>
        <source>roll</source>
        <translation>Rollen</translation>
    </message>
    <message>
        <source>About the axis of view from the front</source>
        <translation>Um die Blickachse von vorn</translation>
    </message>
    <message>
        <source>within</source>
        <translation>im Umkreis von</translation>
    </message>
    <message>
        <source>Vertices nearer than this become one</source>
        <translation>Punkte, die näher liegen, werden einer</translation>
    </message>
    <message>
        <source>keep</source>
        <translation>behalten</translation>
    </message>
    <message>
        <source>only the largest|all but small ones</source>
        <translation>nur das größte|alle außer kleinen</translation>
    </message>
    <message>
        <source>smaller than</source>
        <translation>kleiner als</translation>
    </message>
    <message>
        <source>Of the largest component&apos;s area</source>
        <translation>Der Fläche des größten Stücks</translation>
    </message>
    <message>
        <source>or shorter than</source>
        <translation>oder kürzer als</translation>
    </message>
    <message>
        <source>Longest side of the component</source>
        <translation>Längste Seite des Stücks</translation>
    </message>
    <message>
        <source>keeps x</source>
        <translation>behält x</translation>
    </message>
    <message>
        <source>keeps y</source>
        <translation>behält y</translation>
    </message>
    <message>
        <source>keeps z</source>
        <translation>behält z</translation>
    </message>
    <message>
        <source>stands out</source>
        <translation>steht hervor</translation>
    </message>
    <message>
        <source>Times the median roughness</source>
        <translation>Vielfaches der mittleren Rauheit</translation>
    </message>
    <message>
        <source> times</source>
        <translation> mal</translation>
    </message>
    <message>
        <source>up to</source>
        <translation>bis zu</translation>
    </message>
    <message>
        <source>Diagonal of the largest hole to fill</source>
        <translation>Diagonale des größten zu füllenden Lochs</translation>
    </message>
    <message>
        <source>form</source>
        <translation>Form</translation>
    </message>
    <message>
        <source>continues the curvature|flat</source>
        <translation>setzt die Wölbung fort|flach</translation>
    </message>
    <message>
        <source>rounds</source>
        <translation>Runden</translation>
    </message>
    <message>
        <source>strength</source>
        <translation>Stärke</translation>
    </message>
    <message>
        <source>to</source>
        <translation>auf</translation>
    </message>
    <message>
        <source> triangles</source>
        <translation> Dreiecke</translation>
    </message>
    <message>
        <source>edge length</source>
        <translation>Kantenlänge</translation>
    </message>
    <message>
        <source>selection</source>
        <translation>Auswahl</translation>
    </message>
    <message>
        <source>is ignored|is matched again</source>
        <translation>wird ignoriert|wird wieder getroffen</translation>
    </message>
    <message>
        <source>grab</source>
        <translation>greifen</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>glätten</translation>
    </message>
    <message>
        <source>relax</source>
        <translation>entspannen</translation>
    </message>
    <message>
        <source>inflate</source>
        <translation>aufblasen</translation>
    </message>
    <message>
        <source>deflate</source>
        <translation>einziehen</translation>
    </message>
    <message>
        <source>flatten</source>
        <translation>abflachen</translation>
    </message>
    <message>
        <source>pull to source</source>
        <translation>zur Quelle ziehen</translation>
    </message>
    <message>
        <source>push from eye</source>
        <translation>vom Auge schieben</translation>
    </message>
    <message>
        <source>back to base</source>
        <translation>zurück zur Basis</translation>
    </message>
    <message>
        <source>head fits</source>
        <translation>Köpfe anpassen</translation>
    </message>
    <message>
        <source>parts that follow</source>
        <translation>Teile, die folgen</translation>
    </message>
    <message>
        <source>head and body shares</source>
        <translation>Anteile von Kopf und Körper</translation>
    </message>
    <message>
        <source>body fits, pose taken out</source>
        <translation>Körper anpassen, Pose herausgenommen</translation>
    </message>
    <message>
        <source>heads from photographs</source>
        <translation>Köpfe aus Fotos</translation>
    </message>
    <message>
        <source>expressions</source>
        <translation>Ausdrücke</translation>
    </message>
    <message>
        <source>mirrored work</source>
        <translation>gespiegelte Arbeit</translation>
    </message>
    <message>
        <source>exports in the file&apos;s own order</source>
        <translation>Ausgabe in der eigenen Reihenfolge der Datei</translation>
    </message>
    <message>
        <source>Lid edge</source>
        <translation>Lidkante</translation>
    </message>
    <message>
        <source>Nails</source>
        <translation>Nägel</translation>
    </message>
    <message>
        <source>upper lip inner edge</source>
        <translation>Innenkante der Oberlippe</translation>
    </message>
    <message>
        <source>lower lip inner edge</source>
        <translation>Innenkante der Unterlippe</translation>
    </message>
    <message>
        <source>T</source>
        <translation>T</translation>
    </message>
    <message>
        <source>A</source>
        <translation>A</translation>
    </message>
    <message>
        <source>arms up</source>
        <translation>Arme hoch</translation>
    </message>
    <message>
        <source>sit</source>
        <translation>sitzend</translation>
    </message>
    <message>
        <source>stride</source>
        <translation>Schritt</translation>
    </message>
    <message>
        <source>fists</source>
        <translation>Fäuste</translation>
    </message>
    <message>
        <source>squat</source>
        <translation>Hocke</translation>
    </message>
    <message>
        <source>reach</source>
        <translation>Greifen</translation>
    </message>
    <message>
        <source>twist</source>
        <translation>Drehung</translation>
    </message>
    <message>
        <source>head turned</source>
        <translation>Kopf gedreht</translation>
    </message>
    <message>
        <source>head nodded</source>
        <translation>Kopf genickt</translation>
    </message>
    <message>
        <source>head tilted</source>
        <translation>Kopf geneigt</translation>
    </message>
    <message>
        <source>spread</source>
        <translation>Finger gespreizt</translation>
    </message>
    <message>
        <source>rest</source>
        <translation>Ruhe</translation>
    </message>
    <message>
        <source>gaze</source>
        <translation>Blick</translation>
    </message>
    <message>
        <source>extremes</source>
        <translation>Extreme</translation>
    </message>
    <message>
        <source>skin cuts itself</source>
        <translation>Haut schneidet sich</translation>
    </message>
    <message>
        <source>lids cut each other</source>
        <translation>Lider schneiden sich</translation>
    </message>
    <message>
        <source>lips cross</source>
        <translation>Lippen kreuzen sich</translation>
    </message>
    <message>
        <source>teeth or tongue through skin</source>
        <translation>Zähne oder Zunge durch Haut</translation>
    </message>
    <message>
        <source>lids stay open</source>
        <translation>Lider bleiben offen</translation>
    </message>
    <message>
        <source>lid in the eyeball</source>
        <translation>Lid im Augapfel</translation>
    </message>
    <message>
        <source>volume lost at a joint</source>
        <translation>Volumenverlust am Gelenk</translation>
    </message>
    <message>
        <source>soles off the floor</source>
        <translation>Sohlen nicht am Boden</translation>
    </message>
    <message>
        <source>edges stretched</source>
        <translation>Kanten gedehnt</translation>
    </message>
    <message>
        <source>Shut the lids</source>
        <translation>Lider schließen</translation>
    </message>
    <message>
        <source>Part the lips</source>
        <translation>Lippen trennen</translation>
    </message>
    <message>
        <source>Push apart</source>
        <translation>Auseinanderschieben</translation>
    </message>
    <message>
        <source>Proof sheet</source>
        <translation>Probenblatt</translation>
    </message>
    <message>
        <source>figures to look at</source>
        <translation>Werte zum Ansehen</translation>
    </message>
    <message>
        <source>nothing to look at</source>
        <translation>nichts zum Ansehen</translation>
    </message>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>skinning</source>
        <translation>Skinning</translation>
    </message>
    <message>
        <source>linear</source>
        <translation>linear</translation>
    </message>
    <message>
        <source>dual quaternion</source>
        <translation>Dualquaternionen</translation>
    </message>
    <message>
        <source>stops measured</source>
        <translation>gemessene Stellungen</translation>
    </message>
    <message>
        <source>Base left, shape right; from the front and from three quarters</source>
        <translation>Links die Basis, rechts die Form; von vorn und im Dreiviertelprofil</translation>
    </message>
</context>
<context>
    <name>DeliverPanel</name>
    <message>
        <source>Deliver</source>
        <translation>Ausgeben</translation>
    </message>
    <message>
        <source>Current fit</source>
        <translation>Aktuelle Anpassung</translation>
    </message>
    <message>
        <source>Base&apos;s frame…</source>
        <translation>Rahmen der Basis…</translation>
    </message>
    <message>
        <source>OBJ: at rest, mm, Y up</source>
        <translation>OBJ: in Ruhe, mm, Y oben</translation>
    </message>
    <message>
        <source>Source&apos;s frame…</source>
        <translation>Rahmen der Quelle…</translation>
    </message>
    <message>
        <source>OBJ in the source&apos;s own coordinates and unit: matches the scan</source>
        <translation>OBJ in Koordinaten und Einheit der Quelle: passt auf den Scan</translation>
    </message>
    <message>
        <source>Report (JSON)…</source>
        <translation>Bericht (JSON)…</translation>
    </message>
    <message>
        <source>Figures and settings of the fit</source>
        <translation>Kennzahlen und Einstellungen der Anpassung</translation>
    </message>
    <message>
        <source>Skin (PNG)…</source>
        <translation>Haut (PNG)…</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>Fit on the source</source>
        <translation>Anpassung auf der Quelle</translation>
    </message>
    <message>
        <source>Report</source>
        <translation>Bericht</translation>
    </message>
    <message>
        <source>Morphs to export</source>
        <translation>Morphs zum Exportieren</translation>
    </message>
    <message>
        <source>Search</source>
        <translation>Suchen</translation>
    </message>
    <message>
        <source>All or none</source>
        <translation>Alle oder keine</translation>
    </message>
    <message>
        <source>Of those that are listed</source>
        <translation>Von denen in der Liste</translation>
    </message>
    <message>
        <source>GLB with morph targets…</source>
        <translation>GLB mit Morph-Targets…</translation>
    </message>
    <message>
        <source>The base with the selected morphs as named targets, joints and skin weights; metres</source>
        <translation>Die Basis mit den gewählten Morphs als benannte Targets, mit Gelenken und Gewichten; Meter</translation>
    </message>
    <message>
        <source>Current mix as OBJ…</source>
        <translation>Aktuelle Mischung als OBJ…</translation>
    </message>
    <message>
        <source>One shape, vertex for vertex in the base&apos;s order; mm</source>
        <translation>Eine Form, Punkt für Punkt in der Reihenfolge der Basis; mm</translation>
    </message>
    <message>
        <source>GLB with morph targets</source>
        <translation>GLB mit Morph-Targets</translation>
    </message>
    <message>
        <source>Current mix</source>
        <translation>Aktuelle Mischung</translation>
    </message>
    <message>
        <source>morph files</source>
        <translation>Morph-Dateien</translation>
    </message>
    <message>
        <source>OBJ</source>
        <translation>OBJ</translation>
    </message>
    <message>
        <source>delta lists (CSV)</source>
        <translation>Delta-Listen (CSV)</translation>
    </message>
    <message>
        <source>GLB</source>
        <translation>GLB</translation>
    </message>
    <message>
        <source>File names: {name}, {group} (makes folders), {kind}, {number}</source>
        <translation>Dateinamen: {name}, {group} (macht Ordner), {kind}, {number}</translation>
    </message>
    <message>
        <source>Export separately…</source>
        <translation>Einzeln exportieren…</translation>
    </message>
    <message>
        <source>One file for each selected morph, with its figures and origin</source>
        <translation>Eine Datei je gewähltem Morph, mit Kennzahlen und Herkunft</translation>
    </message>
    <message>
        <source>Folder for the morphs</source>
        <translation>Ordner für die Morphs</translation>
    </message>
    <message>
        <source>Import morphs…</source>
        <translation>Morphs importieren…</translation>
    </message>
    <message>
        <source>Morph files, delta lists, OBJ in the base&apos;s order, GLB with targets, of the same base</source>
        <translation>Morph-Dateien, Delta-Listen, OBJ in der Reihenfolge der Basis, GLB mit Targets, von derselben Basis</translation>
    </message>
    <message>
        <source>Import morphs</source>
        <translation>Morphs importieren</translation>
    </message>
    <message>
        <source>Morphs (*.json *.csv *.obj *.ply *.glb)</source>
        <translation>Morphs (*.json *.csv *.obj *.ply *.glb)</translation>
    </message>
    <message>
        <source>Stop</source>
        <translation>Anhalten</translation>
    </message>
    <message numerus="yes">
        <source>Writing %n morph(s)</source>
        <translation>
            <numerusform>%n Morph wird geschrieben</numerusform>
            <numerusform>%n Morphs werden geschrieben</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Written: %n file(s)</source>
        <translation>
            <numerusform>Geschrieben: %n Datei</numerusform>
            <numerusform>Geschrieben: %n Dateien</numerusform>
        </translation>
    </message>
    <message>
        <source>Reading morphs</source>
        <translation>Morphs werden gelesen</translation>
    </message>
    <message numerus="yes">
        <source>Import %n morph(s)</source>
        <translation>
            <numerusform>%n Morph importieren</numerusform>
            <numerusform>%n Morphs importieren</numerusform>
        </translation>
    </message>
    <message>
        <source>Written: %1</source>
        <translation>Geschrieben: %1</translation>
    </message>
    <message>
        <source>Reduced versions too</source>
        <translation>Auch vereinfachte Fassungen</translation>
    </message>
    <message>
        <source>The same for each reduced version of the base, beside it</source>
        <translation>Dasselbe für jede vereinfachte Fassung der Basis, daneben</translation>
    </message>
    <message>
        <source>Mix with skeleton…</source>
        <translation>Mischung mit Skelett…</translation>
    </message>
    <message>
        <source>The current mix, its joints where its shape takes them, skin weights; ready to be posed; GLB</source>
        <translation>Die aktuelle Mischung, ihre Gelenke dort, wohin ihre Form sie bringt, Hautgewichte; bereit zum Posieren; GLB</translation>
    </message>
    <message>
        <source>Joints…</source>
        <translation>Gelenke…</translation>
    </message>
    <message>
        <source>Where the current mix takes each joint, for rigs elsewhere; JSON, mm</source>
        <translation>Wohin die aktuelle Mischung jedes Gelenk bringt, für Rigs anderswo; JSON, mm</translation>
    </message>
    <message>
        <source>Mix with skeleton</source>
        <translation>Mischung mit Skelett</translation>
    </message>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
    <message>
        <source>How far each joint&apos;s hold on the skin fades in Mix with skeleton, beyond what the kit says</source>
        <translation>Wie weit der Halt jedes Gelenks an der Haut bei „Mischung mit Skelett“ über das Kit hinaus ausläuft</translation>
    </message>
    <message>
        <source>Smooth skin weights</source>
        <translation>Hautgewichte glätten</translation>
    </message>
    <message>
        <source>How many joints one vertex may hang on in Mix with skeleton</source>
        <translation>An wie vielen Gelenken ein Punkt bei „Mischung mit Skelett“ hängen darf</translation>
    </message>
    <message>
        <source>up to %1 joints a vertex</source>
        <translation>bis zu %1 Gelenke je Punkt</translation>
    </message>
    <message>
        <source>Joints per vertex</source>
        <translation>Gelenke je Punkt</translation>
    </message>
    <message>
        <source>Smooth weights</source>
        <translation>Gewichte glätten</translation>
    </message>
    <message>
        <source>The subject&apos;s skin: a picture for each tile. Other maps: station Skin</source>
        <translation>Die Haut der Person: ein Bild je Kachel. Andere Texturen: Station Haut</translation>
    </message>
    <message>
        <source>Folder for the skin</source>
        <translation>Ordner für die Haut</translation>
    </message>
</context>
<context>
    <name>Doubts</name>
    <message>
        <source>guessed</source>
        <translation>erschlossen</translation>
    </message>
    <message>
        <source>fine</source>
        <translation>gut</translation>
    </message>
    <message>
        <source>odd shape</source>
        <translation>auffällige Form</translation>
    </message>
    <message>
        <source>no skin</source>
        <translation>keine Haut</translation>
    </message>
    <message>
        <source>landmarks</source>
        <translation>Landmarken</translation>
    </message>
    <message>
        <source>part guessed</source>
        <translation>teils erschlossen</translation>
    </message>
    <message>
        <source>folds, gaps</source>
        <translation>Falten, Lücken</translation>
    </message>
    <message>
        <source>Little of it was seen: it follows from the rest of the head.</source>
        <translation>Wenig davon war zu sehen: es folgt aus dem Rest des Kopfes.</translation>
    </message>
    <message>
        <source>Nothing speaks against it.</source>
        <translation>Nichts spricht dagegen.</translation>
    </message>
    <message>
        <source>Look at it: its shape is unusual for a head.</source>
        <translation>Ansehen: für einen Kopf ist die Form ungewöhnlich.</translation>
    </message>
    <message>
        <source>Look at it: what it was matched to likely is no skin.</source>
        <translation>Ansehen: Angepasst wurde an etwas, das wohl keine Haut ist.</translation>
    </message>
    <message>
        <source>Look at it: its landmarks are unsure, or the fit does not meet them.</source>
        <translation>Ansehen: Die Landmarken sind unsicher, oder die Anpassung trifft sie nicht.</translation>
    </message>
    <message>
        <source>Look at it: part of it was not seen.</source>
        <translation>Ansehen: Ein Teil war nicht zu sehen.</translation>
    </message>
    <message>
        <source>Look at it: it folds, stretches, or leaves the source.</source>
        <translation>Ansehen: Es faltet oder dehnt sich, oder verlässt die Quelle.</translation>
    </message>
    <message>
        <source>± %1</source>
        <translation>± %1</translation>
    </message>
    <message>
        <source>How far the shape may be off once the pose is out, root mean square.</source>
        <translation>Wie weit die Form danebenliegen kann, wenn die Pose herausgenommen ist (quadratisches Mittel).</translation>
    </message>
    <message>
        <source>Left and right differ by %1 there; %2 % was not seen; what pose and build do not explain: %3.</source>
        <translation>Links und rechts unterscheiden sich dort um %1; %2 % waren nicht zu sehen; was Pose und Körperbau nicht erklären: %3.</translation>
    </message>
    <message>
        <source>%1 ± %2</source>
        <translation>%1 ± %2</translation>
    </message>
</context>
<context>
    <name>ExchangeController</name>
    <message>
        <source>Set the exchange folder</source>
        <translation>Austauschordner festlegen</translation>
    </message>
    <message>
        <source>Send %1</source>
        <translation>%1 senden</translation>
    </message>
    <message>
        <source>Sent: %1</source>
        <translation>Gesendet: %1</translation>
    </message>
    <message>
        <source>%1 came back. See Bank, Send and return.</source>
        <translation>%1 ist zurück. Siehe Bank, Senden und zurück.</translation>
    </message>
    <message>
        <source>Checking %1</source>
        <translation>%1 wird geprüft</translation>
    </message>
    <message>
        <source>Returned  %1</source>
        <translation>Zurück: %1</translation>
    </message>
    <message>
        <source>Update %1</source>
        <translation>%1 erneuern</translation>
    </message>
    <message>
        <source>Keep %1</source>
        <translation>%1 behalten</translation>
    </message>
</context>
<context>
    <name>ExchangeTab</name>
    <message>
        <source>Folder…</source>
        <translation>Ordner…</translation>
    </message>
    <message>
        <source>What is sent goes there; what comes back there is noticed</source>
        <translation>Gesendetes geht dorthin; was dort zurückkommt, wird bemerkt</translation>
    </message>
    <message>
        <source>Exchange folder</source>
        <translation>Austauschordner</translation>
    </message>
    <message>
        <source>whole base</source>
        <translation>ganze Basis</translation>
    </message>
    <message>
        <source>head</source>
        <translation>Kopf</translation>
    </message>
    <message>
        <source>a part</source>
        <translation>ein Teil</translation>
    </message>
    <message>
        <source>a region</source>
        <translation>eine Region</translation>
    </message>
    <message>
        <source>What is sent</source>
        <translation>Was gesendet wird</translation>
    </message>
    <message>
        <source>base level</source>
        <translation>Basisnetz</translation>
    </message>
    <message>
        <source>subdivided once</source>
        <translation>einmal unterteilt</translation>
    </message>
    <message>
        <source>subdivided twice</source>
        <translation>zweimal unterteilt</translation>
    </message>
    <message>
        <source>Unit of the file</source>
        <translation>Einheit der Datei</translation>
    </message>
    <message>
        <source>%1 up</source>
        <translation>%1 oben</translation>
    </message>
    <message>
        <source>Without these shapes</source>
        <translation>Ohne diese Formen</translation>
    </message>
    <message>
        <source>Pose; it is taken out again when the mesh comes back</source>
        <translation>Pose; sie wird herausgerechnet, wenn das Netz zurückkommt</translation>
    </message>
    <message>
        <source>with the mix</source>
        <translation>mit der Mischung</translation>
    </message>
    <message>
        <source>With the bank&apos;s sliders as they are. This is remembered and subtracted from what comes back.</source>
        <translation>Mit den Reglern der Bank, wie sie stehen. Das wird gemerkt und vom Zurückkommenden abgezogen.</translation>
    </message>
    <message>
        <source>What the return is meant for</source>
        <translation>Wofür das Zurückkommende gedacht ist</translation>
    </message>
    <message>
        <source>File name</source>
        <translation>Dateiname</translation>
    </message>
    <message>
        <source>Send</source>
        <translation>Senden</translation>
    </message>
    <message>
        <source>Writes the file, and beside it what was sent</source>
        <translation>Schreibt die Datei und daneben, was gesendet wurde</translation>
    </message>
    <message>
        <source>Check a file…</source>
        <translation>Datei prüfen…</translation>
    </message>
    <message>
        <source>Any mesh that should be the base</source>
        <translation>Jedes Netz, das die Basis sein soll</translation>
    </message>
    <message>
        <source>Mesh that came back</source>
        <translation>Zurückgekommenes Netz</translation>
    </message>
    <message>
        <source>Meshes (*.obj *.ply *.stl *.glb *.gltf);;All files (*)</source>
        <translation>Netze (*.obj *.ply *.stl *.glb *.gltf);;Alle Dateien (*)</translation>
    </message>
    <message>
        <source>Returned</source>
        <translation>Zurück</translation>
    </message>
    <message>
        <source>Nothing yet. What is saved into the folder appears here.</source>
        <translation>Noch nichts. Was im Ordner gespeichert wird, erscheint hier.</translation>
    </message>
    <message>
        <source>What was found</source>
        <translation>Was gefunden wurde</translation>
    </message>
    <message>
        <source>Take it out</source>
        <translation>Herausrechnen</translation>
    </message>
    <message>
        <source>It was an accident: the shape goes back to the size and place it was sent in</source>
        <translation>Es war ein Versehen: die Form kommt an Größe und Ort zurück, in denen sie gesendet wurde</translation>
    </message>
    <message>
        <source>It is meant</source>
        <translation>Es ist Absicht</translation>
    </message>
    <message>
        <source>It stays as it is</source>
        <translation>Es bleibt, wie es ist</translation>
    </message>
    <message>
        <source>Keep the morphs it was sent with</source>
        <translation>Die mitgesendeten Morphs behalten</translation>
    </message>
    <message>
        <source>head as it is</source>
        <translation>Kopf, wie er ist</translation>
    </message>
    <message>
        <source>head to the neck</source>
        <translation>Kopf an den Hals</translation>
    </message>
    <message>
        <source>neck to the head</source>
        <translation>Hals an den Kopf</translation>
    </message>
    <message>
        <source>Fade over</source>
        <translation>Ausblenden über</translation>
    </message>
    <message>
        <source>over </source>
        <translation>über </translation>
    </message>
    <message>
        <source>eyes, teeth as they came</source>
        <translation>Augen, Zähne wie gekommen</translation>
    </message>
    <message>
        <source>eyes, teeth follow the skin</source>
        <translation>Augen, Zähne folgen der Haut</translation>
    </message>
    <message>
        <source>eyes, teeth stay</source>
        <translation>Augen, Zähne bleiben</translation>
    </message>
    <message>
        <source>snap below noise of  </source>
        <translation>Rauschen einrasten unter  </translation>
    </message>
    <message>
        <source>What moved by less goes back to exactly where it was</source>
        <translation>Was sich weniger bewegt hat, geht genau zurück, wo es war</translation>
    </message>
    <message>
        <source>Name of the morph</source>
        <translation>Name des Morphs</translation>
    </message>
    <message>
        <source>New morph</source>
        <translation>Neuer Morph</translation>
    </message>
    <message>
        <source>Update</source>
        <translation>Erneuern</translation>
    </message>
    <message>
        <source>Its slider stays where it is</source>
        <translation>Sein Regler bleibt, wo er ist</translation>
    </message>
    <message>
        <source>Use as a source</source>
        <translation>Als Quelle nehmen</translation>
    </message>
    <message>
        <source>The base is fitted to it, as to a scan</source>
        <translation>Die Basis wird daran angepasst, wie an einen Scan</translation>
    </message>
    <message>
        <source>Discard</source>
        <translation>Verwerfen</translation>
    </message>
    <message>
        <source>The return is not wanted; the file stays where it is</source>
        <translation>Das Zurückgekommene wird nicht gebraucht; die Datei bleibt, wo sie ist</translation>
    </message>
    <message>
        <source>Save the project, or select a folder.</source>
        <translation>Projekt speichern oder einen Ordner wählen.</translation>
    </message>
    <message>
        <source>at rest</source>
        <translation>in Ruhe</translation>
    </message>
    <message>
        <source>as %1 stands</source>
        <translation>wie %1 steht</translation>
    </message>
    <message>
        <source>for a new morph</source>
        <translation>für einen neuen Morph</translation>
    </message>
    <message>
        <source>for %1</source>
        <translation>für %1</translation>
    </message>
    <message>
        <source>all parts</source>
        <translation>alle Teile</translation>
    </message>
    <message>
        <source>%1 parts</source>
        <translation>%1 Teile</translation>
    </message>
    <message>
        <source>Which parts go out</source>
        <translation>Welche Teile mitgehen</translation>
    </message>
    <message>
        <source>Subtract %1 × %2</source>
        <translation>%1 × %2 abziehen</translation>
    </message>
    <message>
        <source>  (still being written)</source>
        <translation>  (wird noch geschrieben)</translation>
    </message>
    <message>
        <source>Checking %1…</source>
        <translation>%1 wird geprüft…</translation>
    </message>
    <message>
        <source>%1 is another mesh. It can be a source, and the base is fitted to it.</source>
        <translation>%1 ist ein anderes Netz. Es kann eine Quelle sein, an die die Basis angepasst wird.</translation>
    </message>
    <message>
        <source>%1 is the base&apos;s own mesh, in its order, unit and place.</source>
        <translation>%1 ist das Netz der Basis, in ihrer Reihenfolge, Einheit und Lage.</translation>
    </message>
    <message>
        <source>%1, known from when it was sent.</source>
        <translation>%1, bekannt vom Senden.</translation>
    </message>
    <message>
        <source>%1 is the base, with differences:</source>
        <translation>%1 ist die Basis, mit Unterschieden:</translation>
    </message>
    <message>
        <source>Update %1</source>
        <translation>%1 erneuern</translation>
    </message>
</context>
<context>
    <name>ExpressionsTab</name>
    <message>
        <source>Expressions</source>
        <translation>Ausdrücke</translation>
    </message>
    <message>
        <source>This kit has no expressions. A base with morph targets, or a folder of expressions given when the kit is made, brings them.</source>
        <translation>Dieses Kit hat keine Ausdrücke. Eine Basis mit Morph-Zielen bringt sie mit, oder ein Ordner mit Ausdrücken, der beim Machen des Kits angegeben wird.</translation>
    </message>
    <message>
        <source>Select one to see it beside the base.</source>
        <translation>Wählen Sie einen, um ihn neben der Basis zu sehen.</translation>
    </message>
</context>
<context>
    <name>FaceMap</name>
    <message>
        <source>Map of the head&apos;s regions</source>
        <translation>Karte der Kopfregionen</translation>
    </message>
    <message>
        <source>Regions from the front</source>
        <translation>Regionen von vorn</translation>
    </message>
    <message>
        <source>Regions from the side</source>
        <translation>Regionen von der Seite</translation>
    </message>
</context>
<context>
    <name>FiguresLine</name>
    <message>
        <source>flipped</source>
        <translation>umgeklappt</translation>
    </message>
    <message>
        <source>self-intersections</source>
        <translation>Selbstschnitte</translation>
    </message>
    <message>
        <source>stretch, 95 %</source>
        <translation>Dehnung, 95 %</translation>
    </message>
    <message>
        <source>The figures&apos; table</source>
        <translation>Tabelle der Kennzahlen</translation>
    </message>
    <message>
        <source>%1 of %2</source>
        <translation>%1 von %2</translation>
    </message>
    <message>
        <source>median</source>
        <translation>Median</translation>
    </message>
    <message>
        <source>95 %</source>
        <translation>95 %</translation>
    </message>
    <message>
        <source>landmarks</source>
        <translation>Landmarken</translation>
    </message>
    <message>
        <source>curves</source>
        <translation>Kurven</translation>
    </message>
    <message>
        <source>matched</source>
        <translation>getroffen</translation>
    </message>
    <message>
        <source>outlines</source>
        <translation>Umrisse</translation>
    </message>
    <message>
        <source>face seen twice</source>
        <translation>Gesicht zweimal gesehen</translation>
    </message>
    <message>
        <source>by none</source>
        <translation>von keinem</translation>
    </message>
    <message>
        <source>How well the head agrees with its photographs: landmarks and outlines, root mean square; how much of the face is seen by two photographs and by none. Click a number of faults to step through them.</source>
        <translation>Wie gut der Kopf zu seinen Fotos passt: Landmarken und Umrisse, quadratisches Mittel; wie viel vom Gesicht zwei Fotos zeigen und keines. Ein Klick auf eine Fehlerzahl geht die Stellen durch.</translation>
    </message>
    <message>
        <source>regions</source>
        <translation>Regionen</translation>
    </message>
    <message>
        <source>fine</source>
        <translation>gut</translation>
    </message>
    <message>
        <source>look at</source>
        <translation>ansehen</translation>
    </message>
    <message>
        <source>guessed</source>
        <translation>erschlossen</translation>
    </message>
    <message>
        <source>How well the fit agrees with the source: distance of its surface, median and 95 %; landmarks and curves, root mean square; how much of it matched something; regions that a look would send back, and those that follow from the rest because they were not seen (the table says why). Click a number of faults to step through them.</source>
        <translation>Wie gut die Anpassung zur Quelle passt: Abstand ihrer Oberfläche, Median und 95 %; Landmarken und Kurven, quadratisches Mittel; wie viel davon angepasst wurde; Regionen, die ein Blick zurückweisen würde, und solche, die sich aus dem Rest ergeben, weil sie nicht gesehen wurden (die Tabelle sagt, warum). Ein Klick auf eine Zahl von Fehlern geht sie der Reihe nach durch.</translation>
    </message>
    <message>
        <source>at rest</source>
        <translation>in Ruhe</translation>
    </message>
    <message>
        <source>sure</source>
        <translation>sicher</translation>
    </message>
</context>
<context>
    <name>FiguresTable</name>
    <message>
        <source>Figures</source>
        <translation>Kennzahlen</translation>
    </message>
    <message>
        <source>Copy as CSV</source>
        <translation>Als CSV kopieren</translation>
    </message>
    <message>
        <source>Copy as text</source>
        <translation>Als Text kopieren</translation>
    </message>
    <message>
        <source>With commas, for a table program</source>
        <translation>Mit Kommas, für eine Tabellenkalkulation</translation>
    </message>
    <message>
        <source>With tabs (Ctrl+C in the table)</source>
        <translation>Mit Tabulatoren (Strg+C in der Tabelle)</translation>
    </message>
    <message>
        <source>The figures are on the clipboard.</source>
        <translation>Die Kennzahlen liegen in der Zwischenablage.</translation>
    </message>
    <message>
        <source>Photograph</source>
        <translation>Foto</translation>
    </message>
    <message>
        <source>focal length, mm</source>
        <translation>Brennweite, mm</translation>
    </message>
    <message>
        <source>Region</source>
        <translation>Region</translation>
    </message>
    <message>
        <source>vertices</source>
        <translation>Punkte</translation>
    </message>
    <message>
        <source>landmarks, rms %1</source>
        <translation>Landmarken, RMS %1</translation>
    </message>
    <message>
        <source>outline, rms %1</source>
        <translation>Umriss, RMS %1</translation>
    </message>
    <message>
        <source>distance, %1</source>
        <translation>Abstand, %1</translation>
    </message>
    <message>
        <source>median, %1</source>
        <translation>Median, %1</translation>
    </message>
    <message>
        <source>95 %, %1</source>
        <translation>95 %, %1</translation>
    </message>
    <message>
        <source>worst, %1</source>
        <translation>größter, %1</translation>
    </message>
    <message>
        <source>guessed, %</source>
        <translation>erschlossen, %</translation>
    </message>
    <message>
        <source>state</source>
        <translation>Zustand</translation>
    </message>
    <message>
        <source>Double click: look at it</source>
        <translation>Doppelklick: ansehen</translation>
    </message>
</context>
<context>
    <name>FitPanel</name>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>Whole</source>
        <translation>Ganz</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Regionen</translation>
    </message>
    <message>
        <source>Fits</source>
        <translation>Anpassungen</translation>
    </message>
    <message>
        <source>Photos</source>
        <translation>Fotos</translation>
    </message>
    <message>
        <source>By hand</source>
        <translation>Von Hand</translation>
    </message>
    <message>
        <source>Start from settings for…</source>
        <translation>Mit Einstellungen beginnen für…</translation>
    </message>
    <message>
        <source>Settings for %1</source>
        <translation>Einstellungen für %1</translation>
    </message>
    <message>
        <source>Head only, fading over the neck</source>
        <translation>Nur der Kopf, am Hals ausgeblendet</translation>
    </message>
    <message>
        <source>Body only</source>
        <translation>Nur der Körper</translation>
    </message>
    <message>
        <source>Head and body</source>
        <translation>Kopf und Körper</translation>
    </message>
    <message>
        <source>Change what is fitted</source>
        <translation>Ändern, was angepasst wird</translation>
    </message>
    <message>
        <source>Keep the subject&apos;s true size</source>
        <translation>Wahre Größe behalten</translation>
    </message>
    <message>
        <source>Otherwise the head is brought to the base&apos;s size, so that clothes and hair still fit</source>
        <translation>Sonst wird der Kopf auf die Größe der Basis gebracht, damit Kleidung und Haare weiter passen</translation>
    </message>
    <message>
        <source>True size</source>
        <translation>Wahre Größe</translation>
    </message>
    <message>
        <source>Match the surface</source>
        <translation>Fläche treffen</translation>
    </message>
    <message>
        <source>Off: landmarks and guide curves alone shape the base</source>
        <translation>Aus: Landmarken und Führungskurven allein formen die Basis</translation>
    </message>
    <message>
        <source>Follow guide curves</source>
        <translation>Führungskurven folgen</translation>
    </message>
    <message>
        <source>Lids, lips, jaw and ears slide along the source&apos;s curves</source>
        <translation>Lider, Lippen, Kiefer und Ohren gleiten an den Kurven der Quelle</translation>
    </message>
    <message>
        <source>Guide curves</source>
        <translation>Führungskurven</translation>
    </message>
    <message>
        <source>Take the pose out</source>
        <translation>Pose herausrechnen</translation>
    </message>
    <message>
        <source>Of a whole figure: the skeleton is bent first, and the shape is kept as it stands at rest</source>
        <translation>Bei ganzen Figuren: erst wird das Skelett gebeugt, dann die Form so behalten, wie sie in Ruhe steht</translation>
    </message>
    <message>
        <source>Features smaller than this keep the base&apos;s own form. Larger is smoother and copies less noise.</source>
        <translation>Feineres behält die Form der Basis. Größer ist glatter und übernimmt weniger Rauschen.</translation>
    </message>
    <message>
        <source>Smoothness</source>
        <translation>Glätte</translation>
    </message>
    <message>
        <source>Smooth below</source>
        <translation>Glatt unter</translation>
    </message>
    <message>
        <source>Over this length above the neck&apos;s ring a head fades into the untouched body</source>
        <translation>Auf dieser Länge über dem Halsring geht ein Kopf in den unberührten Körper über</translation>
    </message>
    <message>
        <source>Neck band</source>
        <translation>Halsband</translation>
    </message>
    <message>
        <source>Neck fades over</source>
        <translation>Hals geht über auf</translation>
    </message>
    <message>
        <source>0 %: as asymmetric as the subject. 100 %: both sides become their mean</source>
        <translation>0 %: so unsymmetrisch wie die Person. 100 %: beide Seiten werden ihr Mittel</translation>
    </message>
    <message>
        <source>Symmetry</source>
        <translation>Symmetrie</translation>
    </message>
    <message>
        <source>Landmarks or settings changed since this fit.</source>
        <translation>Landmarken oder Einstellungen haben sich seit dieser Anpassung geändert.</translation>
    </message>
    <message>
        <source>Fits the base to the source from scratch (Ctrl+Return)</source>
        <translation>Passt die Basis von Grund auf an die Quelle an (Strg+Eingabe)</translation>
    </message>
    <message>
        <source>Refine</source>
        <translation>Verfeinern</translation>
    </message>
    <message>
        <source>A new fit from this one: only what a change reaches is solved again (Ctrl+G)</source>
        <translation>Eine neue Anpassung aus dieser: nur was eine Änderung erreicht, wird neu gelöst (Strg+G)</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Stops; nothing is changed</source>
        <translation>Hält an; nichts wird geändert</translation>
    </message>
    <message>
        <source>Refit automatically</source>
        <translation>Von selbst neu anpassen</translation>
    </message>
    <message>
        <source>Moving a landmark, ignoring an area or changing a region refits at once; undo takes both back</source>
        <translation>Eine Landmarke verschieben, einen Bereich ignorieren oder eine Region ändern passt sofort neu an; Rückgängig nimmt beides zurück</translation>
    </message>
    <message>
        <source>Add a scan first (Gather).</source>
        <translation>Erst einen Scan hinzufügen (Quellen).</translation>
    </message>
    <message>
        <source>Mark at least three landmarks; ten make a good start (Mark).</source>
        <translation>Mindestens drei Landmarken markieren; zehn sind ein guter Anfang (Markieren).</translation>
    </message>
    <message>
        <source>Begin with a likely head</source>
        <translation>Mit einem wahrscheinlichen Kopf beginnen</translation>
    </message>
    <message>
        <source>Of the heads that the kit knows the most likely one is the start, and what is not seen stays as that has it. Off: as the base has it.</source>
        <translation>Der wahrscheinlichste der Köpfe, die das Kit kennt, ist der Anfang, und was nicht zu sehen ist, bleibt wie bei ihm. Aus: wie bei der Basis.</translation>
    </message>
    <message>
        <source>Match all of it</source>
        <translation>Alles anpassen</translation>
    </message>
    <message>
        <source>Nothing is left out any more. Tidy, Ignore paints what the fit must not match.</source>
        <translation>Nichts wird mehr ausgelassen. Säubern, Ignorieren malt, was nicht angepasst werden soll.</translation>
    </message>
    <message>
        <source>%1 % of the source is left out (striped): hair, caps, what is ignored.</source>
        <translation>%1 % der Quelle sind ausgelassen (gestreift): Haare, Mützen, Ignoriertes.</translation>
    </message>
    <message>
        <source>Shut the mouth, open the eyes</source>
        <translation>Mund schließen, Augen öffnen</translation>
    </message>
    <message>
        <source>Of a head whose mouth is open or whose eyes are not: the base&apos;s jaw and lids go down first, and the shape is handed out with the mouth shut and the eyes open. Off: as they are.</source>
        <translation>Bei einem Kopf mit offenem Mund oder nicht offenen Augen: Kiefer und Lider der Basis gehen zuerst herunter, und die Form wird mit geschlossenem Mund und offenen Augen ausgegeben. Aus: so, wie sie sind.</translation>
    </message>
    <message>
        <source>Mouth shut, eyes open</source>
        <translation>Mund zu, Augen offen</translation>
    </message>
</context>
<context>
    <name>FitScene</name>
    <message>
        <source>Teal: seen by two photographs or more.  Ochre: by one.  Grey: by none, the base&apos;s own shape.</source>
        <translation>Türkis: von zwei oder mehr Fotos gesehen.  Ocker: von einem.  Grau: von keinem, die Form der Basis.</translation>
    </message>
    <message>
        <source>Fitting…</source>
        <translation>Wird angepasst…</translation>
    </message>
    <message>
        <source>Source, by its distance to the fit</source>
        <translation>Quelle, nach ihrem Abstand zur Anpassung</translation>
    </message>
    <message>
        <source>Fit  %1</source>
        <translation>Anpassung  %1</translation>
    </message>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>Source</source>
        <translation>Quelle</translation>
    </message>
    <message>
        <source>Distances from the source</source>
        <translation>Abstände von der Quelle</translation>
    </message>
    <message>
        <source>This fit does not know what it guessed: fit again with likely heads.</source>
        <translation>Diese Anpassung weiß nicht, was erschlossen ist: mit wahrscheinlichen Köpfen neu anpassen.</translation>
    </message>
    <message>
        <source>Guessed parts</source>
        <translation>Erschlossene Teile</translation>
    </message>
</context>
<context>
    <name>FitStation</name>
    <message>
        <source>Press on the mesh and drag it to where it is in the photograph.</source>
        <translation>Auf das Netz drücken und dorthin ziehen, wo es im Foto ist.</translation>
    </message>
    <message>
        <source>Base  %1</source>
        <translation>Basis  %1</translation>
    </message>
    <message>
        <source>Swap with what it is compared with</source>
        <translation>Mit dem Verglichenen tauschen</translation>
    </message>
    <message>
        <source>Next colours</source>
        <translation>Nächste Farben</translation>
    </message>
</context>
<context>
    <name>GatherPanel</name>
    <message>
        <source>Gather</source>
        <translation>Quellen</translation>
    </message>
    <message>
        <source>Add a source…</source>
        <translation>Quelle hinzufügen…</translation>
    </message>
    <message>
        <source>Read a scan or sculpt into this subject: OBJ, PLY, STL, GLB, glTF, zip; folders can be dropped</source>
        <translation>Scan oder Sculpt für diese Person lesen: OBJ, PLY, STL, GLB, glTF, zip; Ordner lassen sich hineinziehen</translation>
    </message>
    <message>
        <source>Inbox…</source>
        <translation>Eingang…</translation>
    </message>
    <message>
        <source>A folder that a phone or a capture rig delivers into; complete deliveries are offered here</source>
        <translation>Ein Ordner, in den ein Telefon oder eine Scananlage liefert; vollständige Lieferungen werden hier angeboten</translation>
    </message>
    <message>
        <source>The file on disk is newer than what was read.</source>
        <translation>Die Datei auf der Platte ist neuer als das Gelesene.</translation>
    </message>
    <message>
        <source>Reload and redo the steps</source>
        <translation>Neu laden und Schritte wiederholen</translation>
    </message>
    <message>
        <source>Reads the new file and repeats everything done to the old one</source>
        <translation>Liest die neue Datei und wiederholt alles, was mit der alten gemacht wurde</translation>
    </message>
    <message>
        <source>Unit: %1</source>
        <translation>Einheit: %1</translation>
    </message>
    <message>
        <source>Up: %1</source>
        <translation>Oben: %1</translation>
    </message>
    <message>
        <source>Repair common faults</source>
        <translation>Häufige Fehler reparieren</translation>
    </message>
    <message>
        <source>Remove this source</source>
        <translation>Diese Quelle entfernen</translation>
    </message>
    <message>
        <source>Removes the source from the subject; undo brings it back</source>
        <translation>Entfernt die Quelle von der Person; Rückgängig bringt sie zurück</translation>
    </message>
    <message>
        <source>Inbox: the folder that is watched</source>
        <translation>Eingang: der überwachte Ordner</translation>
    </message>
    <message numerus="yes">
        <source>%1, %n photograph(s)</source>
        <translation>
            <numerusform>%1, %n Foto</numerusform>
            <numerusform>%1, %n Fotos</numerusform>
        </translation>
    </message>
    <message>
        <source>In the inbox: %1</source>
        <translation>Im Eingang: %1</translation>
    </message>
    <message>
        <source>%1 is arriving; waiting for %2.</source>
        <translation>%1 kommt an; es fehlt noch %2.</translation>
    </message>
    <message>
        <source>Import</source>
        <translation>Importieren</translation>
    </message>
    <message>
        <source>Not now</source>
        <translation>Nicht jetzt</translation>
    </message>
    <message>
        <source>No inbox is watched.</source>
        <translation>Kein Eingang wird überwacht.</translation>
    </message>
    <message>
        <source>Watching %1</source>
        <translation>%1 wird überwacht</translation>
    </message>
    <message>
        <source>Stop</source>
        <translation>Anhalten</translation>
    </message>
    <message>
        <source>Unit: %1.</source>
        <translation>Einheit: %1.</translation>
    </message>
    <message>
        <source>Axis: %1.</source>
        <translation>Achse: %1.</translation>
    </message>
    <message>
        <source>Inspecting the mesh…</source>
        <translation>Das Netz wird untersucht…</translation>
    </message>
    <message>
        <source>Inspecting the mesh</source>
        <translation>Das Netz wird untersucht</translation>
    </message>
    <message>
        <source>triangles</source>
        <translation>Dreiecke</translation>
    </message>
    <message>
        <source>textures</source>
        <translation>Texturen</translation>
    </message>
    <message>
        <source>, UV</source>
        <translation>, UV</translation>
    </message>
    <message>
        <source>, vertex colours</source>
        <translation>, Punktfarben</translation>
    </message>
    <message>
        <source>small components</source>
        <translation>kleine Stücke</translation>
    </message>
    <message>
        <source>open borders</source>
        <translation>offene Ränder</translation>
    </message>
    <message>
        <source>Change unit or axis</source>
        <translation>Einheit oder Achse ändern</translation>
    </message>
    <message>
        <source>Remove %1</source>
        <translation>%1 entfernen</translation>
    </message>
    <message>
        <source>size, %1</source>
        <translation>Größe, %1</translation>
    </message>
    <message>
        <source>median edge length, %1</source>
        <translation>mittlere Kantenlänge, %1</translation>
    </message>
</context>
<context>
    <name>GuideWindow</name>
    <message>
        <source>The guide is missing: veldstone-guide.rcc should lie beside the program. Build it again.</source>
        <translation>Das Handbuch fehlt: veldstone-guide.rcc sollte neben dem Programm liegen. Bitte neu bauen.</translation>
    </message>
    <message>
        <source>Guide</source>
        <translation>Handbuch</translation>
    </message>
    <message>
        <source>Find in the guide (Return: the next place)</source>
        <translation>Im Handbuch suchen (Eingabe: nächste Stelle)</translation>
    </message>
    <message>
        <source>Find in the guide</source>
        <translation>Im Handbuch suchen</translation>
    </message>
    <message>
        <source>Headings</source>
        <translation>Überschriften</translation>
    </message>
</context>
<context>
    <name>HandTab</name>
    <message>
        <source>Wider</source>
        <translation>Breiter</translation>
    </message>
    <message>
        <source>Taller</source>
        <translation>Höher</translation>
    </message>
    <message>
        <source>Forward</source>
        <translation>Nach vorn</translation>
    </message>
    <message>
        <source>Up</source>
        <translation>Nach oben</translation>
    </message>
    <message>
        <source>Tip</source>
        <translation>Kippen</translation>
    </message>
    <message>
        <source>Shape, region by region</source>
        <translation>Form, Region für Region</translation>
    </message>
    <message>
        <source>Forward below, back above</source>
        <translation>Unten nach vorn, oben zurück</translation>
    </message>
    <message>
        <source>Lock these photographs</source>
        <translation>Diese Fotos festhalten</translation>
    </message>
    <message>
        <source>What a locked photograph sees moves only along its rays, so it still matches. Shape the front first, lock it, then the side</source>
        <translation>Was ein festgehaltenes Foto sieht, bewegt sich nur entlang seiner Strahlen und passt weiter. Erst von vorn formen, festhalten, dann die Seite</translation>
    </message>
    <message>
        <source>Places</source>
        <translation>Stellen</translation>
    </message>
    <message>
        <source>Drag the mesh onto the photo</source>
        <translation>Das Netz auf das Foto ziehen</translation>
    </message>
    <message>
        <source>In the view through a photograph: press on the mesh and drag it onto the picture. What the photographs show holds the rest</source>
        <translation>In der Ansicht durch ein Foto: auf das Netz drücken und auf das Bild ziehen. Was die Fotos zeigen, hält den Rest</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Removes all dragged places and solves again</source>
        <translation>Entfernt alle gezogenen Stellen und löst neu</translation>
    </message>
    <message>
        <source>Blend with another subject</source>
        <translation>Mit einer anderen Person überblenden</translation>
    </message>
    <message>
        <source>Left: this head, right: the other; shown while it moves</source>
        <translation>Links: dieser Kopf, rechts: der andere; sichtbar, während es sich bewegt</translation>
    </message>
    <message>
        <source>Skins too</source>
        <translation>Häute auch</translation>
    </message>
    <message>
        <source>Keep as a fit</source>
        <translation>Als Anpassung behalten</translation>
    </message>
    <message>
        <source>The blend becomes a fit of this subject. A person who has only photographs is made first</source>
        <translation>Die Überblendung wird eine Anpassung dieser Person. Wer nur Fotos hat, wird erst erstellt</translation>
    </message>
    <message>
        <source>Make a head from photographs first.</source>
        <translation>Erst einen Kopf aus Fotos erstellen.</translation>
    </message>
    <message>
        <source>The shape space is being prepared…</source>
        <translation>Der Formraum wird vorbereitet…</translation>
    </message>
    <message>
        <source>%1 (made first)</source>
        <translation>%1 (wird erst erstellt)</translation>
    </message>
    <message>
        <source>Averaged over the region; likely neighbours move along</source>
        <translation>Im Mittel über den Bereich; wahrscheinliche Nachbarn bewegen sich mit</translation>
    </message>
    <message numerus="yes">
        <source>Remove %n dragged place(s)</source>
        <translation>
            <numerusform>%n gezogene Stelle entfernen</numerusform>
            <numerusform>%n gezogene Stellen entfernen</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>HistoryTools</name>
    <message>
        <source>Undo</source>
        <translation>Rückgängig</translation>
    </message>
    <message>
        <source>Redo</source>
        <translation>Wiederholen</translation>
    </message>
    <message>
        <source>History</source>
        <translation>Verlauf</translation>
    </message>
    <message>
        <source>Click a step to return to it</source>
        <translation>Auf einen Schritt klicken, um dorthin zurückzukehren</translation>
    </message>
    <message>
        <source>History: everything that was done, to return to</source>
        <translation>Verlauf: alles, was getan wurde, zum Zurückkehren</translation>
    </message>
    <message>
        <source>Undo %1</source>
        <translation>%1 rückgängig</translation>
    </message>
    <message>
        <source>Redo %1</source>
        <translation>%1 wiederholen</translation>
    </message>
    <message>
        <source>Opened</source>
        <translation>Geöffnet</translation>
    </message>
</context>
<context>
    <name>JobsBar</name>
    <message>
        <source>Saving…</source>
        <translation>Wird gespeichert…</translation>
    </message>
    <message>
        <source>More work that runs</source>
        <translation>Weitere laufende Arbeit</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Cancel this work; nothing is changed</source>
        <translation>Diese Arbeit abbrechen; nichts wird geändert</translation>
    </message>
    <message>
        <source>being cancelled…</source>
        <translation>wird abgebrochen…</translation>
    </message>
    <message>
        <source>waiting</source>
        <translation>wartet</translation>
    </message>
    <message>
        <source>+%1</source>
        <translation>+%1</translation>
    </message>
    <message>
        <source>What else runs or waits</source>
        <translation>Was sonst läuft oder wartet</translation>
    </message>
    <message>
        <source>being cancelled</source>
        <translation>wird abgebrochen</translation>
    </message>
    <message>
        <source>running</source>
        <translation>läuft</translation>
    </message>
    <message>
        <source>%1 %</source>
        <translation>%1 %</translation>
    </message>
    <message>
        <source>Cancel %1 (%2)</source>
        <translation>%1 abbrechen (%2)</translation>
    </message>
</context>
<context>
    <name>JointController</name>
    <message>
        <source>Move the joint %1</source>
        <translation>Das Gelenk %1 verschieben</translation>
    </message>
    <message>
        <source>Look for the joint %1 again</source>
        <translation>Das Gelenk %1 neu suchen</translation>
    </message>
    <message>
        <source>Find joints</source>
        <translation>Gelenke finden</translation>
    </message>
</context>
<context>
    <name>JointsTab</name>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
    <message>
        <source>Joint</source>
        <translation>Gelenk</translation>
    </message>
    <message>
        <source>In the file</source>
        <translation>In der Datei</translation>
    </message>
    <message>
        <source>The file&apos;s joint that does the work of the selected one</source>
        <translation>Das Gelenk der Datei, das die Arbeit des gewählten macht</translation>
    </message>
    <message>
        <source>nobody</source>
        <translation>niemand</translation>
    </message>
    <message>
        <source>This kit has no joints: poses cannot be taken out.</source>
        <translation>Dieses Kit hat keine Gelenke: Posen können nicht herausgenommen werden.</translation>
    </message>
    <message>
        <source>The file has %1 joints of its own; %2 of ours are theirs. They go out as they came.</source>
        <translation>Die Datei hat %1 eigene Gelenke; %2 von unseren sind ihre. Sie gehen hinaus, wie sie kamen.</translation>
    </message>
    <message>
        <source>Select a joint to see the skin that follows it.</source>
        <translation>Wählen Sie ein Gelenk, um die Haut zu sehen, die ihm folgt.</translation>
    </message>
    <message>
        <source>The pose to look at</source>
        <translation>Die Pose, die gezeigt wird</translation>
    </message>
    <message>
        <source>Look at</source>
        <translation>Zeigen</translation>
    </message>
    <message>
        <source>the rest pose</source>
        <translation>die Ruhepose</translation>
    </message>
    <message>
        <source>%1 pose</source>
        <translation>%1-Pose</translation>
    </message>
    <message>
        <source>What is coloured</source>
        <translation>Was eingefärbt ist</translation>
    </message>
    <message>
        <source>Skin that follows it</source>
        <translation>Haut, die ihm folgt</translation>
    </message>
    <message>
        <source>Skin that tells where it is</source>
        <translation>Haut, die sagt, wo es ist</translation>
    </message>
    <message>
        <source>Paint</source>
        <translation>Malen</translation>
    </message>
    <message>
        <source>The left button adds skin that the joint is tied to; Ctrl takes away; the right button turns</source>
        <translation>Die linke Taste fügt Haut hinzu, an die das Gelenk gebunden ist; Strg nimmt weg; die rechte Taste dreht</translation>
    </message>
    <message>
        <source>Both sides</source>
        <translation>Beide Seiten</translation>
    </message>
    <message>
        <source>Radius of the brush along the surface</source>
        <translation>Radius des Pinsels entlang der Fläche</translation>
    </message>
    <message>
        <source>As the weights say</source>
        <translation>Nach den Gewichten</translation>
    </message>
    <message>
        <source>Takes back what was painted: where its skin bends tells where the joint is</source>
        <translation>Nimmt das Gemalte zurück: Wo sich seine Haut beugt, sagt, wo das Gelenk ist</translation>
    </message>
    <message>
        <source>Tied by hand: in every shape this skin tells where the joint is.</source>
        <translation>Von Hand angebunden: In jeder Form sagt diese Haut, wo das Gelenk ist.</translation>
    </message>
    <message>
        <source>In every shape this skin tells where the joint is.</source>
        <translation>In jeder Form sagt diese Haut, wo das Gelenk ist.</translation>
    </message>
    <message>
        <source>The more colour, the more the skin follows the joint.</source>
        <translation>Je mehr Farbe, desto mehr folgt die Haut dem Gelenk.</translation>
    </message>
</context>
<context>
    <name>KitTab</name>
    <message>
        <source>What this kit can do</source>
        <translation>Was dieses Kit kann</translation>
    </message>
    <message>
        <source>A double click on what is missing goes to where it is mended</source>
        <translation>Ein Doppelklick auf das, was fehlt, führt dahin, wo es behoben wird</translation>
    </message>
    <message>
        <source>Save the kit</source>
        <translation>Kit speichern</translation>
    </message>
    <message>
        <source>Writes what was corrected into the kit&apos;s folder, for every project on it</source>
        <translation>Schreibt das Berichtigte in den Ordner des Kits, für jedes Projekt darauf</translation>
    </message>
    <message>
        <source>Save elsewhere…</source>
        <translation>Woanders speichern…</translation>
    </message>
    <message>
        <source>A copy of the kit in a new folder</source>
        <translation>Eine Kopie des Kits in einem neuen Ordner</translation>
    </message>
    <message>
        <source>Make again</source>
        <translation>Neu machen</translation>
    </message>
    <message>
        <source>No kit is open.</source>
        <translation>Es ist kein Kit offen.</translation>
    </message>
    <message>
        <source>%1 vertices, %2 faces</source>
        <translation>%1 Punkte, %2 Flächen</translation>
    </message>
    <message>
        <source>; made from a file, in whose order and unit everything goes out</source>
        <translation>; aus einer Datei gemacht, in deren Reihenfolge und Einheit alles hinausgeht</translation>
    </message>
    <message>
        <source>; corrected, not saved in its folder yet</source>
        <translation>; berichtigt, noch nicht in seinem Ordner gespeichert</translation>
    </message>
    <message>
        <source>needs %1</source>
        <translation>braucht %1</translation>
    </message>
    <message>
        <source>better with %1</source>
        <translation>besser mit %1</translation>
    </message>
    <message>
        <source>It can do that.</source>
        <translation>Das kann es.</translation>
    </message>
    <message>
        <source>It cannot do that yet.</source>
        <translation>Das kann es noch nicht.</translation>
    </message>
    <message>
        <source>The kit is saved in %1</source>
        <translation>Das Kit ist in %1 gespeichert</translation>
    </message>
    <message>
        <source>A new folder for the kit</source>
        <translation>Ein neuer Ordner für das Kit</translation>
    </message>
    <message>
        <source>Share as zip…</source>
        <translation>Als Zip teilen…</translation>
    </message>
    <message>
        <source>The kit&apos;s folder as one file</source>
        <translation>Der Ordner des Kits als eine Datei</translation>
    </message>
    <message>
        <source>Try a head</source>
        <translation>Kopf probieren</translation>
    </message>
    <message>
        <source>Fits a made-up head onto this kit, and says how well it went</source>
        <translation>Passt einen erfundenen Kopf auf dieses Kit an und sagt, wie gut es ging</translation>
    </message>
    <message>
        <source>A made-up head on this kit: %1 (median), %2 (95 %) apart; %3 faces turned over, %4 new cuts through itself.</source>
        <translation>Ein erfundener Kopf auf diesem Kit: %1 (Median), %2 (95 %) auseinander; %3 Flächen umgeklappt, %4 neue Durchdringungen.</translation>
    </message>
    <message>
        <source>Share the kit</source>
        <translation>Kit teilen</translation>
    </message>
    <message>
        <source>Zip archive (*.zip)</source>
        <translation>Zip-Archiv (*.zip)</translation>
    </message>
    <message>
        <source>What was corrected and is not saved is not in it.</source>
        <translation>Was berichtigt und nicht gespeichert ist, ist nicht darin.</translation>
    </message>
    <message>
        <source>Makes another kit from this one&apos;s file, with the landmarks and parts that you corrected; regions and roles are found anew. This one stays as it is</source>
        <translation>Macht ein weiteres Kit aus der Datei von diesem, mit den Landmarken und Teilen, die Sie berichtigt haben; Bereiche und Aufgaben werden neu gefunden. Dieses bleibt, wie es ist</translation>
    </message>
</context>
<context>
    <name>LookBar</name>
    <message>
        <source>No colours</source>
        <translation>Keine Farben</translation>
    </message>
    <message>
        <source>Distance to source</source>
        <translation>Abstand zur Quelle</translation>
    </message>
    <message>
        <source>Inside or outside</source>
        <translation>Innen oder außen</translation>
    </message>
    <message>
        <source>Source to fit</source>
        <translation>Quelle zur Anpassung</translation>
    </message>
    <message>
        <source>Edge stretch</source>
        <translation>Kantendehnung</translation>
    </message>
    <message>
        <source>Angle change</source>
        <translation>Winkeländerung</translation>
    </message>
    <message>
        <source>Seen by photos</source>
        <translation>Von Fotos gesehen</translation>
    </message>
    <message>
        <source>Base mesh</source>
        <translation>Basisnetz</translation>
    </message>
    <message>
        <source>Subdivided once</source>
        <translation>Einmal unterteilt</translation>
    </message>
    <message>
        <source>Subdivided twice</source>
        <translation>Zweimal unterteilt</translation>
    </message>
    <message>
        <source>Smooth display by Catmull-Clark; what is kept and measured is always the base mesh</source>
        <translation>Glatte Anzeige nach Catmull-Clark; behalten und gemessen wird immer das Basisnetz</translation>
    </message>
    <message>
        <source>What the colours on the fit say (C)</source>
        <translation>Was die Farben auf der Anpassung sagen (C)</translation>
    </message>
    <message>
        <source>End of the colour scale</source>
        <translation>Ende der Farbskala</translation>
    </message>
    <message>
        <source>What the fit is compared with</source>
        <translation>Womit die Anpassung verglichen wird</translation>
    </message>
    <message>
        <source>Fade</source>
        <translation>Überblenden</translation>
    </message>
    <message>
        <source>One faded into the other</source>
        <translation>Eines ins andere überblendet</translation>
    </message>
    <message>
        <source>Split view</source>
        <translation>Geteilt</translation>
    </message>
    <message>
        <source>One beside the other, split where the slider stands</source>
        <translation>Eines neben dem anderen, geteilt wo der Regler steht</translation>
    </message>
    <message>
        <source>Flicker</source>
        <translation>Wechseln</translation>
    </message>
    <message>
        <source>One after the other</source>
        <translation>Eines nach dem anderen</translation>
    </message>
    <message>
        <source>Beside</source>
        <translation>Daneben</translation>
    </message>
    <message>
        <source>In its own view, with the same camera and colours</source>
        <translation>In eigener Ansicht, mit gleicher Kamera und gleichen Farben</translation>
    </message>
    <message>
        <source>Left: the other, right: the fit (X swaps them)</source>
        <translation>Links: das andere, rechts: die Anpassung (X tauscht)</translation>
    </message>
    <message>
        <source>No section</source>
        <translation>Kein Schnitt</translation>
    </message>
    <message>
        <source>Section, sagittal</source>
        <translation>Schnitt, sagittal</translation>
    </message>
    <message>
        <source>Section, horizontal</source>
        <translation>Schnitt, waagrecht</translation>
    </message>
    <message>
        <source>Section, frontal</source>
        <translation>Schnitt, frontal</translation>
    </message>
    <message>
        <source>Section along the view</source>
        <translation>Schnitt in Blickrichtung</translation>
    </message>
    <message>
        <source>Cuts through base, source and fit: the lines show where they differ</source>
        <translation>Schneidet Basis, Quelle und Anpassung: die Linien zeigen, wo sie sich unterscheiden</translation>
    </message>
    <message>
        <source>Where the section lies</source>
        <translation>Wo der Schnitt liegt</translation>
    </message>
    <message>
        <source>With source</source>
        <translation>Mit Quelle</translation>
    </message>
    <message>
        <source>With base</source>
        <translation>Mit Basis</translation>
    </message>
    <message>
        <source>With %1</source>
        <translation>Mit %1</translation>
    </message>
    <message>
        <source>Guessed, ±</source>
        <translation>Erschlossen, ±</translation>
    </message>
</context>
<context>
    <name>MainWindow</name>
    <message>
        <source>Swap sides</source>
        <translation>Seiten tauschen</translation>
    </message>
    <message>
        <source>Leave as it is</source>
        <translation>So lassen</translation>
    </message>
    <message>
        <source>%1 — Veldstone</source>
        <translation>%1 — Veldstone</translation>
    </message>
    <message>
        <source>%1 %, %2</source>
        <translation>%1 %, %2</translation>
    </message>
    <message>
        <source>Veldstone asks</source>
        <translation>Veldstone fragt</translation>
    </message>
    <message>
        <source>Veldstone</source>
        <translation>Veldstone</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
    <message>
        <source>&amp;Project</source>
        <translation>&amp;Projekt</translation>
    </message>
    <message>
        <source>&amp;Edit</source>
        <translation>&amp;Bearbeiten</translation>
    </message>
    <message>
        <source>&amp;View</source>
        <translation>&amp;Ansicht</translation>
    </message>
    <message>
        <source>&amp;Landmarks</source>
        <translation>&amp;Landmarken</translation>
    </message>
    <message>
        <source>&amp;Fit</source>
        <translation>An&amp;passung</translation>
    </message>
    <message>
        <source>&amp;Help</source>
        <translation>&amp;Hilfe</translation>
    </message>
    <message>
        <source>Preferences…</source>
        <translation>Einstellungen…</translation>
    </message>
    <message>
        <source>Go to</source>
        <translation>Gehe zu</translation>
    </message>
    <message>
        <source>New from base kit…</source>
        <translation>Neu mit Basis-Kit…</translation>
    </message>
    <message>
        <source>Open…</source>
        <translation>Öffnen…</translation>
    </message>
    <message>
        <source>Recent</source>
        <translation>Zuletzt benutzt</translation>
    </message>
    <message>
        <source>Open the demo</source>
        <translation>Demo öffnen</translation>
    </message>
    <message>
        <source>Add a source…</source>
        <translation>Quelle hinzufügen…</translation>
    </message>
    <message>
        <source>Save</source>
        <translation>Speichern</translation>
    </message>
    <message>
        <source>Save as…</source>
        <translation>Speichern unter…</translation>
    </message>
    <message>
        <source>Quit</source>
        <translation>Beenden</translation>
    </message>
    <message>
        <source>Things</source>
        <translation>Dinge</translation>
    </message>
    <message>
        <source>Subjects and what they have: show or fold away</source>
        <translation>Personen und was sie haben: zeigen oder einklappen</translation>
    </message>
    <message>
        <source>The station&apos;s panel</source>
        <translation>Das Feld der Station</translation>
    </message>
    <message>
        <source>What the station needs: show or fold away</source>
        <translation>Was die Station braucht: zeigen oder einklappen</translation>
    </message>
    <message>
        <source>The figures&apos; table</source>
        <translation>Tabelle der Kennzahlen</translation>
    </message>
    <message>
        <source>Figures by region: show or fold away</source>
        <translation>Kennzahlen nach Region: zeigen oder einklappen</translation>
    </message>
    <message>
        <source>One view, or all</source>
        <translation>Eine Ansicht, oder alle</translation>
    </message>
    <message>
        <source>The view that has the keys alone, or all again; a double click on its title does it</source>
        <translation>Die Ansicht mit den Tasten allein, oder wieder alle; ein Doppelklick auf ihren Titel tut es auch</translation>
    </message>
    <message>
        <source>Only the picture</source>
        <translation>Nur das Bild</translation>
    </message>
    <message>
        <source>Nothing but the views; again brings the rest back</source>
        <translation>Nur die Ansichten; noch einmal bringt den Rest zurück</translation>
    </message>
    <message>
        <source>Full screen</source>
        <translation>Vollbild</translation>
    </message>
    <message>
        <source>Views</source>
        <translation>Ansichten</translation>
    </message>
    <message>
        <source>One view</source>
        <translation>Eine Ansicht</translation>
    </message>
    <message>
        <source>Two views</source>
        <translation>Zwei Ansichten</translation>
    </message>
    <message>
        <source>Three views</source>
        <translation>Drei Ansichten</translation>
    </message>
    <message>
        <source>Four views</source>
        <translation>Vier Ansichten</translation>
    </message>
    <message>
        <source>As the station shows them</source>
        <translation>Wie die Station sie zeigt</translation>
    </message>
    <message>
        <source>The views that come with the station</source>
        <translation>Die Ansichten, mit denen die Station kommt</translation>
    </message>
    <message>
        <source>Start</source>
        <translation>Starten</translation>
    </message>
    <message>
        <source>A fit needs at least 3 landmarks: go to Mark and find them.</source>
        <translation>Eine Anpassung braucht mindestens 3 Landmarken: zu Markieren gehen und sie suchen lassen.</translation>
    </message>
    <message>
        <source>A fit needs a source: add a scan or a sculpt in Gather.</source>
        <translation>Eine Anpassung braucht eine Quelle: in Quellen einen Scan oder Sculpt hinzufügen.</translation>
    </message>
    <message>
        <source>Refine this fit</source>
        <translation>Diese Anpassung verfeinern</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Find landmarks</source>
        <translation>Landmarken suchen</translation>
    </message>
    <message>
        <source>Next</source>
        <translation>Nächste</translation>
    </message>
    <message>
        <source>Previous</source>
        <translation>Vorige</translation>
    </message>
    <message>
        <source>Next missing</source>
        <translation>Nächste fehlende</translation>
    </message>
    <message>
        <source>Accept</source>
        <translation>Annehmen</translation>
    </message>
    <message>
        <source>Snap to feature</source>
        <translation>Am Merkmal einrasten</translation>
    </message>
    <message>
        <source>Mirror</source>
        <translation>Spiegeln</translation>
    </message>
    <message>
        <source>Delete</source>
        <translation>Löschen</translation>
    </message>
    <message>
        <source>Lock or unlock</source>
        <translation>Sperren oder entsperren</translation>
    </message>
    <message>
        <source>Hide or show</source>
        <translation>Verbergen oder zeigen</translation>
    </message>
    <message>
        <source>Show all</source>
        <translation>Alle zeigen</translation>
    </message>
    <message>
        <source>Swap left and right</source>
        <translation>Links und rechts tauschen</translation>
    </message>
    <message>
        <source>Copy from another scan</source>
        <translation>Von anderem Scan kopieren</translation>
    </message>
    <message>
        <source>New curve on the base</source>
        <translation>Neue Kurve auf der Basis</translation>
    </message>
    <message>
        <source>End the curve</source>
        <translation>Kurve beenden</translation>
    </message>
    <message>
        <source>Rename own landmark…</source>
        <translation>Eigene Landmarke umbenennen…</translation>
    </message>
    <message>
        <source>Store own landmarks in the kit</source>
        <translation>Eigene Landmarken im Kit speichern</translation>
    </message>
    <message>
        <source>Stored beside the kit; new projects ask for them too.</source>
        <translation>Neben dem Kit gespeichert; neue Projekte fragen auch danach.</translation>
    </message>
    <message>
        <source>Read landmark file…</source>
        <translation>Landmarkendatei lesen…</translation>
    </message>
    <message>
        <source>Write landmark file…</source>
        <translation>Landmarkendatei schreiben…</translation>
    </message>
    <message>
        <source>Guide</source>
        <translation>Handbuch</translation>
    </message>
    <message>
        <source>The guide, at the station you are in</source>
        <translation>Das Handbuch, bei der Station, in der man ist</translation>
    </message>
    <message>
        <source>Find a command…</source>
        <translation>Befehl suchen…</translation>
    </message>
    <message>
        <source>Shortcuts…</source>
        <translation>Tastenkürzel…</translation>
    </message>
    <message>
        <source>About Veldstone</source>
        <translation>Über Veldstone</translation>
    </message>
    <message>
        <source>Rename</source>
        <translation>Umbenennen</translation>
    </message>
    <message>
        <source>New name (ending in _l or _r when it has a partner):</source>
        <translation>Neuer Name (endet auf _l oder _r, wenn es einen Partner gibt):</translation>
    </message>
    <message>
        <source>Work is still running: %1.</source>
        <translation>Es läuft noch Arbeit: %1.</translation>
    </message>
    <message>
        <source>Wait for it</source>
        <translation>Darauf warten</translation>
    </message>
    <message>
        <source>Cancel the work</source>
        <translation>Arbeit abbrechen</translation>
    </message>
    <message>
        <source>Stay</source>
        <translation>Bleiben</translation>
    </message>
    <message>
        <source>Goes on when the work is done.</source>
        <translation>Geht weiter, wenn die Arbeit fertig ist.</translation>
    </message>
    <message>
        <source>The project has changes that are not saved.</source>
        <translation>Das Projekt hat ungespeicherte Änderungen.</translation>
    </message>
    <message>
        <source>Discard</source>
        <translation>Verwerfen</translation>
    </message>
    <message>
        <source>Select the kit&apos;s folder…</source>
        <translation>Ordner des Kits wählen…</translation>
    </message>
    <message>
        <source>Base kit</source>
        <translation>Basis-Kit</translation>
    </message>
    <message>
        <source>This project was closed with changes that only autosave has.</source>
        <translation>Dieses Projekt wurde mit Änderungen geschlossen, die nur die Autosicherung hat.</translation>
    </message>
    <message>
        <source>Open the autosave</source>
        <translation>Autosicherung öffnen</translation>
    </message>
    <message>
        <source>Open the saved file</source>
        <translation>Gespeicherte Datei öffnen</translation>
    </message>
    <message>
        <source>Decide later</source>
        <translation>Später entscheiden</translation>
    </message>
    <message>
        <source>A project from %1 was never saved; autosave has it.</source>
        <translation>Ein Projekt vom %1 wurde nie gespeichert; die Autosicherung hat es.</translation>
    </message>
    <message>
        <source>Open it</source>
        <translation>Öffnen</translation>
    </message>
    <message>
        <source>Delete it</source>
        <translation>Löschen</translation>
    </message>
    <message>
        <source>Save project</source>
        <translation>Projekt speichern</translation>
    </message>
    <message>
        <source>Saved</source>
        <translation>Gespeichert</translation>
    </message>
    <message>
        <source>Folder of the base kit</source>
        <translation>Ordner des Basis-Kits</translation>
    </message>
    <message>
        <source>Open project</source>
        <translation>Projekt öffnen</translation>
    </message>
    <message>
        <source>Open a project or a base kit first.</source>
        <translation>Erst ein Projekt oder ein Basis-Kit öffnen.</translation>
    </message>
    <message>
        <source>Add sources</source>
        <translation>Quellen hinzufügen</translation>
    </message>
    <message>
        <source>Read landmarks</source>
        <translation>Landmarken lesen</translation>
    </message>
    <message>
        <source>Write landmarks</source>
        <translation>Landmarken schreiben</translation>
    </message>
    <message>
        <source>Open a project or a base kit first, then drop the scan.</source>
        <translation>Erst ein Projekt oder ein Basis-Kit öffnen, dann den Scan hineinziehen.</translation>
    </message>
    <message>
        <source>Scans, sculpts and photographs (%1)</source>
        <translation>Scans, Sculpts und Fotos (%1)</translation>
    </message>
    <message>
        <source>Opens the project %1</source>
        <translation>Öffnet das Projekt %1</translation>
    </message>
    <message>
        <source>Begins a project with the base kit %1</source>
        <translation>Beginnt ein Projekt mit dem Basis-Kit %1</translation>
    </message>
    <message>
        <source>%1 cannot be read. Drop a scan, a sculpt, photographs, a project or a kit&apos;s folder: %2</source>
        <translation>%1 lässt sich nicht lesen. Hineinziehen lassen sich Scans, Sculpts, Fotos, Projekte und Ordner von Kits: %2</translation>
    </message>
    <message>
        <source>Landmarks belong to a source: add a scan first.</source>
        <translation>Landmarken gehören zu einer Quelle: erst einen Scan hinzufügen.</translation>
    </message>
    <message>
        <source>Reads landmarks for %1</source>
        <translation>Liest Landmarken für %1</translation>
    </message>
    <message numerus="yes">
        <source>Adds %n file(s) to %1</source>
        <translation>
            <numerusform>Fügt %n Datei zu %1 hinzu</numerusform>
            <numerusform>Fügt %n Dateien zu %1 hinzu</numerusform>
        </translation>
    </message>
    <message>
        <source>Begins a base kit with %1; a scan is dropped when a project or a kit is open</source>
        <translation>Beginnt ein Basis-Kit mit %1; ein Scan wird abgelegt, wenn ein Projekt oder ein Kit offen ist</translation>
    </message>
</context>
<context>
    <name>MakeTab</name>
    <message>
        <source>The fit</source>
        <translation>Die Anpassung</translation>
    </message>
    <message>
        <source>The current mix</source>
        <translation>Die aktuelle Mischung</translation>
    </message>
    <message>
        <source>From</source>
        <translation>Aus</translation>
    </message>
    <message>
        <source>Name of the new morph</source>
        <translation>Name des neuen Morphs</translation>
    </message>
    <message>
        <source>Name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>heads/marsh</source>
        <translation>köpfe/marsch</translation>
    </message>
    <message>
        <source>Group</source>
        <translation>Gruppe</translation>
    </message>
    <message>
        <source>Kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>as the shape has them</source>
        <translation>wie die Form sie hat</translation>
    </message>
    <message>
        <source>follow the skin</source>
        <translation>folgen der Haut</translation>
    </message>
    <message>
        <source>stay as on the base</source>
        <translation>bleiben wie auf der Basis</translation>
    </message>
    <message>
        <source>What eyes, teeth, tongue and lashes do</source>
        <translation>Was Augen, Zähne, Zunge und Wimpern tun</translation>
    </message>
    <message>
        <source>Eyes, teeth</source>
        <translation>Augen, Zähne</translation>
    </message>
    <message>
        <source>In place of another: its slider, group and limits stay</source>
        <translation>Anstelle eines anderen: dessen Regler, Gruppe und Grenzen bleiben</translation>
    </message>
    <message>
        <source>Save as</source>
        <translation>Speichern als</translation>
    </message>
    <message>
        <source>Keep as a morph</source>
        <translation>Als Morph behalten</translation>
    </message>
    <message>
        <source>Stores the difference to the base</source>
        <translation>Speichert den Unterschied zur Basis</translation>
    </message>
    <message>
        <source>Head share and body share</source>
        <translation>Kopfanteil und Körperanteil</translation>
    </message>
    <message>
        <source>Grey: the base. Ochre: the shape, moved so that its neck stands at the base&apos;s height. The one that lies farther out hides the other.</source>
        <translation>Grau: die Basis. Ocker: die Form, so verschoben, dass ihr Hals auf Höhe der Basis steht. Was weiter außen liegt, verdeckt das andere.</translation>
    </message>
    <message>
        <source>Found automatically; change it where the neck&apos;s rim misleads</source>
        <translation>Von selbst gefunden; ändern, wo der Halsrand täuscht</translation>
    </message>
    <message>
        <source>Neck raised by</source>
        <translation>Hals angehoben um</translation>
    </message>
    <message>
        <source>Length of neck above the ring over which the shares fade</source>
        <translation>Länge des Halses über dem Ring, auf der die Anteile ineinander übergehen</translation>
    </message>
    <message>
        <source>Neck band</source>
        <translation>Halsband</translation>
    </message>
    <message>
        <source>Fades over</source>
        <translation>Übergang über</translation>
    </message>
    <message>
        <source>Feet on the base&apos;s floor</source>
        <translation>Füße auf den Boden der Basis</translation>
    </message>
    <message>
        <source>The body share keeps the offset as its root height; it is in no vertex</source>
        <translation>Der Körperanteil behält den Versatz als Wurzelhöhe; er steckt in keinem Punkt</translation>
    </message>
    <message>
        <source>Paint the share…</source>
        <translation>Anteil malen…</translation>
    </message>
    <message>
        <source>On the base view: paint what belongs to the head; Ctrl removes</source>
        <translation>In der Ansicht der Basis: malen, was zum Kopf gehört; Strg nimmt weg</translation>
    </message>
    <message>
        <source>Size of the brush</source>
        <translation>Größe des Pinsels</translation>
    </message>
    <message>
        <source>Reset to the band</source>
        <translation>Zurück zum Band</translation>
    </message>
    <message>
        <source>Store in the kit</source>
        <translation>Im Kit speichern</translation>
    </message>
    <message>
        <source>The painted share is written beside the kit and read with it</source>
        <translation>Der gemalte Anteil wird neben das Kit geschrieben und mit ihm gelesen</translation>
    </message>
    <message>
        <source>The head&apos;s share is stored in the kit.</source>
        <translation>Der Kopfanteil ist im Kit gespeichert.</translation>
    </message>
    <message>
        <source>Make both shares</source>
        <translation>Beide Anteile erstellen</translation>
    </message>
    <message>
        <source>Two morphs that add up to the shape exactly</source>
        <translation>Zwei Morphs, die zusammen genau die Form ergeben</translation>
    </message>
    <message>
        <source>There is no fit yet. Make one, or select the mix.</source>
        <translation>Es gibt noch keine Anpassung. Eine erstellen, oder die Mischung wählen.</translation>
    </message>
    <message>
        <source>The bank is empty.</source>
        <translation>Die Bank ist leer.</translation>
    </message>
    <message>
        <source>a new morph</source>
        <translation>ein neuer Morph</translation>
    </message>
    <message>
        <source>in place of %1</source>
        <translation>anstelle von %1</translation>
    </message>
    <message>
        <source>Add its expressions</source>
        <translation>Ihre Ausdrücke hinzufügen</translation>
    </message>
    <message>
        <source>The kit&apos;s expressions as this shape makes them, as morphs: shut lids and lips meet</source>
        <translation>Die Ausdrücke des Kits, wie diese Form sie macht, als Morphs: geschlossene Lider und Lippen treffen sich</translation>
    </message>
    <message>
        <source>Add its corrections</source>
        <translation>Ihre Korrekturen hinzufügen</translation>
    </message>
    <message>
        <source>The kit&apos;s own expressions as morphs, and what each lacks on this shape: mixed in by itself when both sliders are up</source>
        <translation>Die Ausdrücke des Kits als Morphs, und was jedem auf dieser Form fehlt: wird von selbst eingemischt, wenn beide Regler oben sind</translation>
    </message>
</context>
<context>
    <name>MarkController</name>
    <message>
        <source>Use the %1 set</source>
        <translation>Den Satz %1 nehmen</translation>
    </message>
    <message>
        <source>%1 is locked; unlock it first (Shift+L).</source>
        <translation>%1 ist gesperrt; erst entsperren (Umschalt+L).</translation>
    </message>
    <message>
        <source>Draw %1</source>
        <translation>%1 zeichnen</translation>
    </message>
    <message>
        <source>Mark %1</source>
        <translation>%1 markieren</translation>
    </message>
    <message>
        <source>Add %1</source>
        <translation>%1 hinzufügen</translation>
    </message>
    <message>
        <source>Shape %1</source>
        <translation>%1 formen</translation>
    </message>
    <message>
        <source>Move %1</source>
        <translation>%1 verschieben</translation>
    </message>
    <message>
        <source>Move %1 on the base</source>
        <translation>%1 auf der Basis verschieben</translation>
    </message>
    <message>
        <source>Nudge</source>
        <translation>Anstupsen</translation>
    </message>
    <message>
        <source>The definition of %1 names no feature to snap to.</source>
        <translation>Die Beschreibung von %1 nennt kein Merkmal zum Einrasten.</translation>
    </message>
    <message>
        <source>Snap %1</source>
        <translation>%1 einrasten</translation>
    </message>
    <message>
        <source>Click along the new curve on the base; Return ends it.</source>
        <translation>Entlang der neuen Kurve auf die Basis klicken; Eingabe beendet sie.</translation>
    </message>
    <message>
        <source>A curve needs at least two points; nothing was added.</source>
        <translation>Eine Kurve braucht mindestens zwei Punkte; nichts wurde hinzugefügt.</translation>
    </message>
    <message>
        <source>Rename %1</source>
        <translation>%1 umbenennen</translation>
    </message>
    <message>
        <source>Delete %1</source>
        <translation>%1 löschen</translation>
    </message>
    <message>
        <source>A landmark on the midline has no other side.</source>
        <translation>Eine Landmarke auf der Mittellinie hat keine andere Seite.</translation>
    </message>
    <message>
        <source>Mark one of the two sides first.</source>
        <translation>Erst eine der beiden Seiten markieren.</translation>
    </message>
    <message>
        <source>Mark at least four landmarks first; they give the mirror plane.</source>
        <translation>Erst mindestens vier Landmarken markieren; sie ergeben die Spiegelebene.</translation>
    </message>
    <message>
        <source>Mirror %1</source>
        <translation>%1 spiegeln</translation>
    </message>
    <message>
        <source>Mirror all</source>
        <translation>Alle spiegeln</translation>
    </message>
    <message numerus="yes">
        <source>%n landmark(s) mirrored; check them.</source>
        <translation>
            <numerusform>%n Landmarke gespiegelt; bitte prüfen.</numerusform>
            <numerusform>%n Landmarken gespiegelt; bitte prüfen.</numerusform>
        </translation>
    </message>
    <message>
        <source>Every landmark has its partner already.</source>
        <translation>Jede Landmarke hat schon ihren Partner.</translation>
    </message>
    <message>
        <source>Swap sides</source>
        <translation>Seiten tauschen</translation>
    </message>
    <message>
        <source>Lock</source>
        <translation>Sperren</translation>
    </message>
    <message>
        <source>Unlock</source>
        <translation>Entsperren</translation>
    </message>
    <message>
        <source>Hide</source>
        <translation>Verbergen</translation>
    </message>
    <message>
        <source>Show</source>
        <translation>Zeigen</translation>
    </message>
    <message>
        <source>Show all</source>
        <translation>Alle zeigen</translation>
    </message>
    <message>
        <source>Accept %1</source>
        <translation>%1 annehmen</translation>
    </message>
    <message numerus="yes">
        <source>%n landmark(s) accepted.</source>
        <translation>
            <numerusform>%n Landmarke angenommen.</numerusform>
            <numerusform>%n Landmarken angenommen.</numerusform>
        </translation>
    </message>
    <message>
        <source>Left and right look swapped.</source>
        <translation>Links und rechts wirken vertauscht.</translation>
    </message>
    <message>
        <source>%1 and %2 look swapped.</source>
        <translation>%1 und %2 wirken vertauscht.</translation>
    </message>
    <message>
        <source>Repair: %1</source>
        <translation>Reparieren: %1</translation>
    </message>
    <message>
        <source>Copy landmarks from %1</source>
        <translation>Landmarken von %1 kopieren</translation>
    </message>
    <message numerus="yes">
        <source>%n landmark(s) copied; check them.</source>
        <translation>
            <numerusform>%n Landmarke kopiert; bitte prüfen.</numerusform>
            <numerusform>%n Landmarken kopiert; bitte prüfen.</numerusform>
        </translation>
    </message>
    <message>
        <source>Nothing was copied: the two scans do not overlap. Mark three landmarks on both first.</source>
        <translation>Nichts wurde kopiert: die beiden Scans decken sich nicht. Erst auf beiden drei Landmarken markieren.</translation>
    </message>
    <message>
        <source>Read landmarks</source>
        <translation>Landmarken lesen</translation>
    </message>
    <message numerus="yes">
        <source>%n landmark(s) and %1 curves read.</source>
        <translation>
            <numerusform>%n Landmarke und %1 Kurven gelesen.</numerusform>
            <numerusform>%n Landmarken und %1 Kurven gelesen.</numerusform>
        </translation>
    </message>
    <message>
        <source> %1 names are not in the scheme; they are kept.</source>
        <translation> %1 Namen stehen nicht im Schema; sie bleiben erhalten.</translation>
    </message>
    <message numerus="yes">
        <source>Move %n point(s)</source>
        <translation>
            <numerusform>%n Punkt verschieben</numerusform>
            <numerusform>%n Punkte verschieben</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Turn %n point(s)</source>
        <translation>
            <numerusform>%n Punkt drehen</numerusform>
            <numerusform>%n Punkte drehen</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Spread %n point(s)</source>
        <translation>
            <numerusform>%n Punkt spreizen</numerusform>
            <numerusform>%n Punkte spreizen</numerusform>
        </translation>
    </message>
    <message>
        <source>%1 snapped to %2, %3 away.</source>
        <translation>%1 ist auf %2 eingerastet, %3 entfernt.</translation>
    </message>
    <message>
        <source>Accept all within %1</source>
        <translation>Alle bis %1 annehmen</translation>
    </message>
    <message>
        <source>%1 px</source>
        <translation>%1 px</translation>
    </message>
    <message>
        <source>%1 lies %2 from where the others put it.</source>
        <translation>%1 liegt %2 von der Stelle, die die anderen nahelegen.</translation>
    </message>
</context>
<context>
    <name>MarkPanel</name>
    <message>
        <source>How many landmarks to mark</source>
        <translation>Wie viele Landmarken zu markieren sind</translation>
    </message>
    <message>
        <source>Mark</source>
        <translation>Markieren</translation>
    </message>
    <message>
        <source>Where the landmark is on the base</source>
        <translation>Wo die Landmarke auf der Basis liegt</translation>
    </message>
    <message>
        <source>Find landmarks</source>
        <translation>Landmarken suchen</translation>
    </message>
    <message>
        <source>Finds landmarks and guide curves on the scan or photograph (Ctrl+D). What you set or accepted stays.</source>
        <translation>Sucht Landmarken und Führungskurven auf dem Scan oder Foto (Strg+D). Gesetztes und Angenommenes bleibt.</translation>
    </message>
    <message>
        <source>Repair</source>
        <translation>Reparieren</translation>
    </message>
    <message>
        <source>Repairs what is said here</source>
        <translation>Repariert, was hier steht</translation>
    </message>
    <message>
        <source>Landmark</source>
        <translation>Landmarke</translation>
    </message>
    <message>
        <source>±</source>
        <translation>±</translation>
    </message>
    <message>
        <source>residual</source>
        <translation>Rest</translation>
    </message>
    <message>
        <source>Accept</source>
        <translation>Annehmen</translation>
    </message>
    <message>
        <source>Mark it as checked (A)</source>
        <translation>Als geprüft kennzeichnen (A)</translation>
    </message>
    <message>
        <source>All within</source>
        <translation>Alle innerhalb</translation>
    </message>
    <message>
        <source>Accepts everything found whose expected error is below this</source>
        <translation>Nimmt alles Gefundene an, dessen erwarteter Fehler darunter liegt</translation>
    </message>
    <message>
        <source>Mirror</source>
        <translation>Spiegeln</translation>
    </message>
    <message>
        <source>Sets the missing side from the other one (M)</source>
        <translation>Setzt die fehlende Seite nach der anderen (M)</translation>
    </message>
    <message>
        <source>Mirror all</source>
        <translation>Alle spiegeln</translation>
    </message>
    <message>
        <source>Sets every missing side from the marked one</source>
        <translation>Setzt jede fehlende Seite nach der markierten</translation>
    </message>
    <message>
        <source>Delete</source>
        <translation>Löschen</translation>
    </message>
    <message>
        <source>Deletes the landmark (Del)</source>
        <translation>Löscht die Landmarke (Entf)</translation>
    </message>
    <message>
        <source>Snap</source>
        <translation>Einrasten</translation>
    </message>
    <message>
        <source>Magnifier</source>
        <translation>Lupe</translation>
    </message>
    <message>
        <source>Six times larger around the pointer (L)</source>
        <translation>Sechsfach vergrößert um den Zeiger (L)</translation>
    </message>
    <message>
        <source>Hold camera</source>
        <translation>Kamera halten</translation>
    </message>
    <message>
        <source>The views stay where they are when the next landmark comes up (H)</source>
        <translation>Die Ansichten bleiben, wo sie sind, wenn die nächste Landmarke dran ist (H)</translation>
    </message>
    <message>
        <source>not marked</source>
        <translation>nicht markiert</translation>
    </message>
    <message>
        <source>, accepted</source>
        <translation>, angenommen</translation>
    </message>
    <message>
        <source>, locked</source>
        <translation>, gesperrt</translation>
    </message>
    <message>
        <source>, hidden</source>
        <translation>, verborgen</translation>
    </message>
    <message>
        <source>&lt;b&gt;%1&lt;/b&gt; (%2)&lt;br&gt;%3&lt;br&gt;&lt;i&gt;%4&lt;/i&gt;</source>
        <translation>&lt;b&gt;%1&lt;/b&gt; (%2)&lt;br&gt;%3&lt;br&gt;&lt;i&gt;%4&lt;/i&gt;</translation>
    </message>
    <message>
        <source>%1 of %2 marked</source>
        <translation>%1 von %2 markiert</translation>
    </message>
    <message>
        <source>, %1 unsure</source>
        <translation>, %1 unsicher</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source> px</source>
        <translation> px</translation>
    </message>
    <message>
        <source> (and others)</source>
        <translation>  (und weitere)</translation>
    </message>
    <message>
        <source>Your own landmark.</source>
        <translation>Eigene Landmarke.</translation>
    </message>
    <message>
        <source>Add a scan first (Gather).</source>
        <translation>Erst einen Scan hinzufügen (Quellen).</translation>
    </message>
    <message>
        <source>Select a landmark in the list, or press N for the first missing one.</source>
        <translation>Eine Landmarke in der Liste wählen, oder N für die erste fehlende drücken.</translation>
    </message>
    <message>
        <source>&lt;b&gt;%1 landmarks&lt;/b&gt;</source>
        <translation>&lt;b&gt;%1 Landmarken&lt;/b&gt;</translation>
    </message>
    <message>
        <source>Drag one to move all; arrows nudge, Ctrl+arrows turn and spread.</source>
        <translation>Eine ziehen verschiebt alle; Pfeile stupsen an, Strg+Pfeile drehen und spreizen.</translation>
    </message>
    <message>
        <source>Expected error (on photographs: in pixels); empty for what you set yourself</source>
        <translation>Erwarteter Fehler (auf Fotos: in Pixeln); leer, was du selbst gesetzt hast</translation>
    </message>
    <message>
        <source>Distance to the current fit; before a fit: to the base&apos;s own landmark after placing</source>
        <translation>Abstand zur aktuellen Anpassung; vor einer Anpassung: zur eigenen Landmarke der Basis nach dem Platzieren</translation>
    </message>
    <message>
        <source>What counts as good enough</source>
        <translation>Was als gut genug gilt</translation>
    </message>
    <message>
        <source>A landmark set or moved by hand snaps to the feature that its definition names, if that is near; a curve follows its ridge, crease or colour edge (S)</source>
        <translation>Eine von Hand gesetzte oder bewegte Landmarke rastet auf das Merkmal ihrer Definition ein, wenn es nahe ist; eine Kurve folgt ihrem Grat, ihrer Falte oder Farbkante (S)</translation>
    </message>
    <message>
        <source>&lt;br&gt;expected error %1; the views differ by %2; %3 from where its neighbours put it</source>
        <translation>&lt;br&gt;erwarteter Fehler %1; die Ansichten weichen um %2 ab; %3 von der Stelle, die die Nachbarn nahelegen</translation>
    </message>
    <message>
        <source>; %1 rms to the base&apos;s own</source>
        <translation>; %1 RMS zu denen der Basis</translation>
    </message>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
    <message>
        <source>Shows the figure&apos;s joints on the scan. Drag one that is wrong: the others follow, and the fit begins there. Fingers show when you are near.</source>
        <translation>Zeigt die Gelenke der Figur auf dem Scan. Ein falsches lässt sich ziehen: die anderen folgen, und die Anpassung beginnt dort. Finger zeigen sich aus der Nähe.</translation>
    </message>
    <message>
        <source>Find joints</source>
        <translation>Gelenke finden</translation>
    </message>
    <message>
        <source>Looks for all joints of the figure again, also for those that you moved</source>
        <translation>Sucht alle Gelenke der Figur neu, auch die von Hand verschobenen</translation>
    </message>
    <message>
        <source>You placed it; fits keep it there. Del gives it back to the program.</source>
        <translation>Von Hand gesetzt; Anpassungen lassen es dort. Entf gibt es dem Programm zurück.</translation>
    </message>
    <message>
        <source>Found by the program. Drag it to where it belongs; the others follow.</source>
        <translation>Vom Programm gefunden. An seinen Platz ziehen; die anderen folgen.</translation>
    </message>
</context>
<context>
    <name>MarkStation</name>
    <message>
        <source>Click along the new curve on the base; Return ends it.</source>
        <translation>Entlang der neuen Kurve auf die Basis klicken; Eingabe beendet sie.</translation>
    </message>
    <message>
        <source>Click along the %1, from one end to the other</source>
        <translation>Entlang %1 klicken, von einem Ende zum anderen</translation>
    </message>
    <message>
        <source>Click the %1</source>
        <translation>Auf %1 klicken</translation>
    </message>
</context>
<context>
    <name>MendController</name>
    <message>
        <source>The shape has changed meanwhile; nothing was kept.</source>
        <translation>Die Form hat sich inzwischen geändert; nichts wurde behalten.</translation>
    </message>
    <message>
        <source>Lids stayed open by %1 mm, now by %2 mm.</source>
        <translation>Die Lider blieben %1 mm offen, jetzt %2 mm.</translation>
    </message>
    <message>
        <source>Cuts: %1 before, %2 now.</source>
        <translation>Durchdringungen: vorher %1, jetzt %2.</translation>
    </message>
    <message>
        <source>reduced</source>
        <translation>verringert</translation>
    </message>
    <message>
        <source>The shape has less of itself there; the correction is in the bank.</source>
        <translation>Die Form ist dort verringert; die Korrektur ist in der Bank.</translation>
    </message>
    <message>
        <source>Reduce the shape</source>
        <translation>Form verringern</translation>
    </message>
    <message>
        <source>By brush: %1</source>
        <translation>Mit Pinsel: %1</translation>
    </message>
    <message>
        <source>The stroke is in the bank&apos;s correction.</source>
        <translation>Der Strich ist in der Korrektur in der Bank.</translation>
    </message>
</context>
<context>
    <name>MendPage</name>
    <message>
        <source>Lids meet where the base&apos;s meet in this proof</source>
        <translation>Lider schließen sich, wo die der Basis sich in dieser Probe schließen</translation>
    </message>
    <message>
        <source>Lips that cross come apart</source>
        <translation>Lippen, die sich kreuzen, kommen auseinander</translation>
    </message>
    <message>
        <source>Skin that cuts itself here, and not on the base, comes apart</source>
        <translation>Haut, die sich hier durchdringt und auf der Basis nicht, kommt auseinander</translation>
    </message>
    <message>
        <source>By brush</source>
        <translation>Mit Pinsel</translation>
    </message>
    <message>
        <source>Brush</source>
        <translation>Pinsel</translation>
    </message>
    <message>
        <source>Strokes on the shape as it is seen, in this pose</source>
        <translation>Striche auf der Form, wie sie zu sehen ist, in dieser Pose</translation>
    </message>
    <message>
        <source>Radius along the surface</source>
        <translation>Radius entlang der Oberfläche</translation>
    </message>
    <message>
        <source>How strong one stroke is</source>
        <translation>Wie stark ein Strich ist</translation>
    </message>
    <message>
        <source>Both sides</source>
        <translation>Beide Seiten</translation>
    </message>
    <message>
        <source>Size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>Strength</source>
        <translation>Stärke</translation>
    </message>
    <message>
        <source>Less of the shape</source>
        <translation>Weniger von der Form</translation>
    </message>
    <message>
        <source>Region</source>
        <translation>Region</translation>
    </message>
    <message>
        <source>How much of its difference from the base goes</source>
        <translation>Wie viel vom Unterschied zur Basis wegfällt</translation>
    </message>
    <message>
        <source>Reduce</source>
        <translation>Verringern</translation>
    </message>
    <message>
        <source>The shape has less of itself in this region, in every proof</source>
        <translation>In dieser Region ist die Form verringert, in jeder Probe</translation>
    </message>
    <message>
        <source>Being mended…</source>
        <translation>Wird ausgebessert…</translation>
    </message>
    <message>
        <source>Corrections in the bank, mixed in by themselves: %1</source>
        <translation>Korrekturen in der Bank, die von selbst eingemischt werden: %1</translation>
    </message>
    <message>
        <source>What is mended is kept in the bank, and is mixed in by itself.</source>
        <translation>Was ausgebessert wird, kommt in die Bank und wird von selbst eingemischt.</translation>
    </message>
</context>
<context>
    <name>MixScene</name>
    <message>
        <source>Mix of the bank&apos;s morphs</source>
        <translation>Mischung der Morphs</translation>
    </message>
</context>
<context>
    <name>MixTab</name>
    <message>
        <source>Search names, groups, notes</source>
        <translation>Namen, Gruppen, Notizen suchen</translation>
    </message>
    <message>
        <source>Favourites only</source>
        <translation>Nur Favoriten</translation>
    </message>
    <message>
        <source>Only those not at 0</source>
        <translation>Nur die nicht auf 0</translation>
    </message>
    <message>
        <source>No morphs yet. Make one from a fit, or send the base out and return what was sculpted.</source>
        <translation>Noch keine Morphs. Einen aus einer Anpassung erstellen, oder die Basis senden und zurückholen, was geformt wurde.</translation>
    </message>
    <message>
        <source>Make a morph…</source>
        <translation>Morph erstellen…</translation>
    </message>
    <message>
        <source>No morph matches.</source>
        <translation>Kein Morph passt.</translation>
    </message>
    <message>
        <source>Mark as favourite</source>
        <translation>Als Favorit kennzeichnen</translation>
    </message>
    <message>
        <source>Remove from favourites</source>
        <translation>Aus den Favoriten nehmen</translation>
    </message>
    <message>
        <source>Solo</source>
        <translation>Solo</translation>
    </message>
    <message>
        <source>Solo off</source>
        <translation>Solo aus</translation>
    </message>
    <message>
        <source>Mute</source>
        <translation>Stumm</translation>
    </message>
    <message>
        <source>Unmute</source>
        <translation>Stumm aus</translation>
    </message>
    <message>
        <source>Sliders beyond their limits</source>
        <translation>Regler über ihre Grenzen</translation>
    </message>
    <message>
        <source>To exaggerate: every slider reaches twice as far</source>
        <translation>Zum Übertreiben: jeder Regler reicht doppelt so weit</translation>
    </message>
    <message>
        <source>From setting A to setting B, and a little beyond</source>
        <translation>Von Einstellung A zu Einstellung B und etwas darüber hinaus</translation>
    </message>
    <message>
        <source>Reset all</source>
        <translation>Alle zurück</translation>
    </message>
    <message>
        <source>Every slider to its usual amount (0 unless you set another), regions cleared</source>
        <translation>Jeder Regler auf seinen üblichen Wert (0, wenn kein anderer gesetzt ist), Regionen geleert</translation>
    </message>
    <message>
        <source>Bake to one morph…</source>
        <translation>Zu einem Morph zusammenfassen…</translation>
    </message>
    <message>
        <source>The current mix becomes a morph at 1, which can be pushed further</source>
        <translation>Die aktuelle Mischung wird ein Morph bei 1, der sich weiter treiben lässt</translation>
    </message>
    <message>
        <source>B</source>
        <translation>B</translation>
    </message>
    <message>
        <source>A</source>
        <translation>A</translation>
    </message>
    <message>
        <source>Keep this mix as %1</source>
        <translation>Diese Mischung als %1 merken</translation>
    </message>
    <message>
        <source>Show setting %1. Right click: keep this mix as %1.</source>
        <translation>Einstellung %1 zeigen. Rechtsklick: diese Mischung als %1 merken.</translation>
    </message>
    <message>
        <source>Keep this mix as setting %1</source>
        <translation>Diese Mischung als Einstellung %1 merken</translation>
    </message>
    <message>
        <source>Bake to one morph</source>
        <translation>Zu einem Morph zusammenfassen</translation>
    </message>
    <message>
        <source>Name:</source>
        <translation>Name:</translation>
    </message>
    <message>
        <source>Mix</source>
        <translation>Mischen</translation>
    </message>
    <message>
        <source>Rename morph</source>
        <translation>Morph umbenennen</translation>
    </message>
    <message>
        <source>Rename…</source>
        <translation>Umbenennen…</translation>
    </message>
    <message>
        <source>Properties…</source>
        <translation>Eigenschaften…</translation>
    </message>
    <message>
        <source>New morph from it</source>
        <translation>Neuer Morph daraus</translation>
    </message>
    <message>
        <source>Mirrored</source>
        <translation>Gespiegelt</translation>
    </message>
    <message>
        <source>Left half</source>
        <translation>Linke Hälfte</translation>
    </message>
    <message>
        <source>Right half</source>
        <translation>Rechte Hälfte</translation>
    </message>
    <message>
        <source>Left on both sides</source>
        <translation>Beidseitig links</translation>
    </message>
    <message>
        <source>Right on both sides</source>
        <translation>Beidseitig rechts</translation>
    </message>
    <message>
        <source>One morph for each region</source>
        <translation>Ein Morph je Region</translation>
    </message>
    <message>
        <source>Scaled…</source>
        <translation>Skaliert…</translation>
    </message>
    <message>
        <source>Scaled morph</source>
        <translation>Skalierter Morph</translation>
    </message>
    <message>
        <source>Times:</source>
        <translation>Mal:</translation>
    </message>
    <message>
        <source>Plus another…</source>
        <translation>Plus ein anderer…</translation>
    </message>
    <message>
        <source>Minus another…</source>
        <translation>Minus ein anderer…</translation>
    </message>
    <message>
        <source>Plus another morph</source>
        <translation>Plus ein anderer Morph</translation>
    </message>
    <message>
        <source>Minus another morph</source>
        <translation>Minus ein anderer Morph</translation>
    </message>
    <message>
        <source>Delete</source>
        <translation>Löschen</translation>
    </message>
</context>
<context>
    <name>MorphDialog</name>
    <message>
        <source>Properties of %1</source>
        <translation>Eigenschaften von %1</translation>
    </message>
    <message>
        <source>heads/marsh</source>
        <translation>köpfe/marsch</translation>
    </message>
    <message>
        <source>Name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>Group</source>
        <translation>Gruppe</translation>
    </message>
    <message>
        <source>Kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>Tag</source>
        <translation>Marke</translation>
    </message>
    <message>
        <source>Slider</source>
        <translation>Regler</translation>
    </message>
    <message>
        <source>to</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>Usual amount</source>
        <translation>Üblicher Wert</translation>
    </message>
    <message>
        <source>Note</source>
        <translation>Notiz</translation>
    </message>
    <message>
        <source>A morph needs a name.</source>
        <translation>Ein Morph braucht einen Namen.</translation>
    </message>
    <message>
        <source>The slider&apos;s lower limit (%1) must be below its upper one (%2).</source>
        <translation>Die untere Grenze des Reglers (%1) muss unter der oberen liegen (%2).</translation>
    </message>
    <message numerus="yes">
        <source>%n vertex(es) move, at most %1.</source>
        <translation>
            <numerusform>%n Punkt bewegt sich, höchstens %1.</numerusform>
            <numerusform>%n Punkte bewegen sich, höchstens %1.</numerusform>
        </translation>
    </message>
    <message>
        <source>Lifts the whole figure by %1.</source>
        <translation>Hebt die ganze Figur um %1.</translation>
    </message>
    <message>
        <source>Mixed in by itself with %1.</source>
        <translation>Wird von selbst mit %1 eingemischt.</translation>
    </message>
    <message>
        <source>Proof sheet…</source>
        <translation>Probenblatt…</translation>
    </message>
    <message>
        <source>The picture of its proofs, as a PNG file</source>
        <translation>Das Bild der Proben, als PNG-Datei</translation>
    </message>
    <message>
        <source>Proof sheet</source>
        <translation>Probenblatt</translation>
    </message>
    <message>
        <source>Pictures (*.png)</source>
        <translation>Bilder (*.png)</translation>
    </message>
</context>
<context>
    <name>MorphRow</name>
    <message>
        <source>Favourite</source>
        <translation>Favorit</translation>
    </message>
    <message>
        <source>S</source>
        <translation>S</translation>
    </message>
    <message>
        <source>Solo: only this one, and others that are solo</source>
        <translation>Solo: nur dieser und andere mit Solo</translation>
    </message>
    <message>
        <source>M</source>
        <translation>M</translation>
    </message>
    <message>
        <source>Mute: as if it stood at 0</source>
        <translation>Stumm: als stünde er auf 0</translation>
    </message>
    <message>
        <source>Rename, properties, make others of it, delete</source>
        <translation>Umbenennen, Eigenschaften, andere daraus erstellen, löschen</translation>
    </message>
    <message>
        <source>%1. %2 of the base&apos;s vertices move. %3 %4</source>
        <translation>%1. %2 Punkte der Basis bewegen sich. %3 %4</translation>
    </message>
    <message>
        <source>From %1 to %2; numbers can be typed beyond. Double click: back to %3.</source>
        <translation>Von %1 bis %2; Zahlen darüber lassen sich tippen. Doppelklick: zurück auf %3.</translation>
    </message>
    <message>
        <source>Mixed in by itself with %1; its slider says how much of that.</source>
        <translation>Wird von selbst mit %1 eingemischt; der Regler sagt, wie viel davon.</translation>
    </message>
</context>
<context>
    <name>MovesController</name>
    <message>
        <source>Move the joint %1 of %2</source>
        <translation>Das Gelenk %1 von %2 verschieben</translation>
    </message>
    <message>
        <source>Fix the joints of %1</source>
        <translation>Die Gelenke von %1 festhalten</translation>
    </message>
    <message>
        <source>Release the joint %1 of %2</source>
        <translation>Das Gelenk %1 von %2 freigeben</translation>
    </message>
    <message>
        <source>Release the joints of %1</source>
        <translation>Die Gelenke von %1 freigeben</translation>
    </message>
</context>
<context>
    <name>MovesTab</name>
    <message>
        <source>Morph</source>
        <translation>Morph</translation>
    </message>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
    <message>
        <source>Joint</source>
        <translation>Gelenk</translation>
    </message>
    <message>
        <source>Moves by</source>
        <translation>Weg</translation>
    </message>
    <message>
        <source>Fixed</source>
        <translation>Fest</translation>
    </message>
    <message>
        <source>To its left</source>
        <translation>Nach links</translation>
    </message>
    <message>
        <source>Up</source>
        <translation>Nach oben</translation>
    </message>
    <message>
        <source>To the front</source>
        <translation>Nach vorn</translation>
    </message>
    <message>
        <source>The joint&apos;s move when the slider is at 1; typing one fixes it to the morph</source>
        <translation>Der Weg des Gelenks, wenn der Regler auf 1 steht; ein getippter gehört fest zum Morph</translation>
    </message>
    <message>
        <source>Left and right alike</source>
        <translation>Links und rechts gleich</translation>
    </message>
    <message>
        <source>Fix all</source>
        <translation>Alle festhalten</translation>
    </message>
    <message>
        <source>Keeps every joint&apos;s move with the morph, as its shape tells it now</source>
        <translation>Hält den Weg jedes Gelenks beim Morph fest, so wie die Form ihn jetzt angibt</translation>
    </message>
    <message>
        <source>Release</source>
        <translation>Freigeben</translation>
    </message>
    <message>
        <source>The shape tells the selected joint&apos;s move again</source>
        <translation>Den Weg des ausgewählten Gelenks gibt wieder die Form an</translation>
    </message>
    <message>
        <source>Release all</source>
        <translation>Alle freigeben</translation>
    </message>
    <message>
        <source>The shape tells every joint&apos;s move again</source>
        <translation>Den Weg jedes Gelenks gibt wieder die Form an</translation>
    </message>
    <message>
        <source>The base has no joints.</source>
        <translation>Die Basis hat keine Gelenke.</translation>
    </message>
    <message>
        <source>The bank has no morphs yet.</source>
        <translation>In der Bank sind noch keine Morphs.</translation>
    </message>
    <message>
        <source>It is not on in the mix: what you move here is not seen there.</source>
        <translation>Er ist in der Mischung nicht an: dort ist davon nichts zu sehen.</translation>
    </message>
    <message numerus="yes">
        <source>%n joint(s) are fixed (◆); the shape tells the others.</source>
        <translation>
            <numerusform>%n Gelenk ist fest (◆); die anderen gibt die Form an.</numerusform>
            <numerusform>%n Gelenke sind fest (◆); die anderen gibt die Form an.</numerusform>
        </translation>
    </message>
    <message>
        <source>The shape tells where the joints go. Drag one on the mix, or type its move: it is fixed then.</source>
        <translation>Die Form gibt an, wohin die Gelenke gehen. Eines auf der Mischung ziehen oder seinen Weg eintippen: dann ist er fest.</translation>
    </message>
</context>
<context>
    <name>NeckView</name>
    <message>
        <source>The neck from the front and from the side</source>
        <translation>Der Hals von vorn und von der Seite</translation>
    </message>
    <message>
        <source>The neck from the front</source>
        <translation>Der Hals von vorn</translation>
    </message>
    <message>
        <source>The neck from the side</source>
        <translation>Der Hals von der Seite</translation>
    </message>
    <message>
        <source>The kit names no neck ring.</source>
        <translation>Das Kit nennt keinen Halsring.</translation>
    </message>
</context>
<context>
    <name>NewBaseTab</name>
    <message>
        <source>Meshes (*.obj *.glb *.gltf *.ply *.stl *.fbx *.dae);;All files (*)</source>
        <translation>Netze (*.obj *.glb *.gltf *.ply *.stl *.fbx *.dae);;Alle Dateien (*)</translation>
    </message>
    <message>
        <source>Keep the kit in…</source>
        <translation>Kit ablegen in…</translation>
    </message>
    <message>
        <source>Make the kit</source>
        <translation>Kit machen</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Base mesh…</source>
        <translation>Basisnetz…</translation>
    </message>
    <message>
        <source>OBJ, GLB, PLY and others; nothing in it is changed</source>
        <translation>OBJ, GLB, PLY und andere; darin wird nichts geändert</translation>
    </message>
    <message>
        <source>Further files…</source>
        <translation>Weitere Dateien…</translation>
    </message>
    <message>
        <source>A head or a body of its own, eyes, teeth: what belongs to the base and is in other files</source>
        <translation>Ein eigener Kopf oder Körper, Augen, Zähne: was zur Basis gehört und in anderen Dateien ist</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Takes the selected file off the list</source>
        <translation>Nimmt die gewählte Datei von der Liste</translation>
    </message>
    <message>
        <source>Expressions…</source>
        <translation>Ausdrücke…</translation>
    </message>
    <message>
        <source>A folder of meshes in the base&apos;s vertex order. Morph targets in the file itself are taken without asking</source>
        <translation>Ein Ordner mit Netzen in der Punktreihenfolge der Basis. Morph-Ziele in der Datei selbst werden ohnehin genommen</translation>
    </message>
    <message>
        <source>None</source>
        <translation>Keine</translation>
    </message>
    <message>
        <source>Without that folder</source>
        <translation>Ohne diesen Ordner</translation>
    </message>
    <message>
        <source>Further files</source>
        <translation>Weitere Dateien</translation>
    </message>
    <message>
        <source>found</source>
        <translation>gefunden</translation>
    </message>
    <message>
        <source>Unit</source>
        <translation>Einheit</translation>
    </message>
    <message>
        <source>Up</source>
        <translation>Oben</translation>
    </message>
    <message>
        <source>Landmarks</source>
        <translation>Landmarken</translation>
    </message>
    <message>
        <source>%1 kit</source>
        <translation>%1 Kit</translation>
    </message>
    <message>
        <source>those set on %1</source>
        <translation>die auf %1 gesetzten</translation>
    </message>
    <message>
        <source>The kit is being made; that takes up to a minute or two for a whole figure.</source>
        <translation>Das Kit wird gemacht; das dauert bei einer ganzen Figur bis zu ein, zwei Minuten.</translation>
    </message>
    <message>
        <source>Select your base mesh first.</source>
        <translation>Wählen Sie zuerst Ihr Basisnetz.</translation>
    </message>
    <message>
        <source>If no face is found: add the mesh as a source in Gather, set three or more landmarks in Mark, and choose them here under Landmarks.</source>
        <translation>Wenn kein Gesicht gefunden wird: Fügen Sie das Netz unter Quellen hinzu, setzen Sie unter Markieren drei oder mehr Landmarken und wählen Sie diese hier unter Landmarken.</translation>
    </message>
    <message>
        <source>Base mesh</source>
        <translation>Basisnetz</translation>
    </message>
    <message>
        <source>Further files of the base</source>
        <translation>Weitere Dateien der Basis</translation>
    </message>
    <message>
        <source>Folder of expressions</source>
        <translation>Ordner mit Ausdrücken</translation>
    </message>
    <message>
        <source>Folder for the kit</source>
        <translation>Ordner für das Kit</translation>
    </message>
    <message>
        <source>Unpack a shared kit…</source>
        <translation>Geteiltes Kit entpacken…</translation>
    </message>
    <message>
        <source>A kit that somebody shared as a zip file</source>
        <translation>Ein Kit, das jemand als Zip-Datei geteilt hat</translation>
    </message>
    <message>
        <source>Shared kit</source>
        <translation>Geteiltes Kit</translation>
    </message>
    <message>
        <source>Zip archive (*.zip)</source>
        <translation>Zip-Archiv (*.zip)</translation>
    </message>
    <message>
        <source>A new or empty folder for it</source>
        <translation>Ein neuer oder leerer Ordner dafür</translation>
    </message>
    <message>
        <source>A new or empty folder; beside one that is taken a number is added</source>
        <translation>Ein neuer oder leerer Ordner; neben einem belegten kommt eine Zahl hinzu</translation>
    </message>
    <message>
        <source>Joints…</source>
        <translation>Gelenke…</translation>
    </message>
    <message>
        <source>A GLB of the rigged base, where the mesh itself has no joints: their names, places and weights are taken from it</source>
        <translation>Eine GLB der Basis mit Gelenken, wenn das Netz selbst keine hat: Namen, Orte und Gewichte werden daraus genommen</translation>
    </message>
    <message>
        <source>Without that file</source>
        <translation>Ohne diese Datei</translation>
    </message>
    <message>
        <source>The rigged base</source>
        <translation>Die Basis mit Gelenken</translation>
    </message>
    <message>
        <source>glTF (*.glb *.gltf)</source>
        <translation>glTF (*.glb *.gltf)</translation>
    </message>
    <message>
        <source>Your base mesh becomes a kit. What is not found right you correct afterwards.</source>
        <translation>Ihr Basisnetz wird ein Kit. Was nicht richtig gefunden wird, berichtigen Sie danach.</translation>
    </message>
</context>
<context>
    <name>NextLine</name>
    <message>
        <source>Next: add a scan or photographs</source>
        <translation>Weiter: Scan oder Fotos hinzufügen</translation>
    </message>
    <message>
        <source>Next: repair the scan</source>
        <translation>Weiter: Scan reparieren</translation>
    </message>
    <message>
        <source>Next: find landmarks</source>
        <translation>Weiter: Landmarken suchen</translation>
    </message>
    <message>
        <source>Next: fit the base</source>
        <translation>Weiter: Basis anpassen</translation>
    </message>
    <message>
        <source>Next: make the head</source>
        <translation>Weiter: Kopf erstellen</translation>
    </message>
    <message>
        <source>Next: keep it as a morph</source>
        <translation>Weiter: als Morph behalten</translation>
    </message>
    <message>
        <source>Next: deliver</source>
        <translation>Weiter: ausgeben</translation>
    </message>
    <message>
        <source>What comes next for this subject; click to do it</source>
        <translation>Was bei dieser Person als Nächstes kommt; ein Klick tut es</translation>
    </message>
</context>
<context>
    <name>OpennessBaker</name>
    <message>
        <source>Shading</source>
        <translation>Schattierung</translation>
    </message>
</context>
<context>
    <name>PartsTab</name>
    <message>
        <source>Parts</source>
        <translation>Teile</translation>
    </message>
    <message>
        <source>Part</source>
        <translation>Teil</translation>
    </message>
    <message>
        <source>Vertices</source>
        <translation>Punkte</translation>
    </message>
    <message>
        <source>What the piece is</source>
        <translation>Was das Stück ist</translation>
    </message>
    <message>
        <source>This piece is</source>
        <translation>Dieses Stück ist</translation>
    </message>
    <message>
        <source>Make again</source>
        <translation>Neu machen</translation>
    </message>
    <message>
        <source>Parts can be told otherwise in kits that were made from a file.</source>
        <translation>Teile lassen sich in Kits anders benennen, die aus einer Datei gemacht wurden.</translation>
    </message>
    <message numerus="yes">
        <source>The piece that you clicked has %n vertices.</source>
        <translation>
            <numerusform>Das angeklickte Stück hat %n Punkt.</numerusform>
            <numerusform>Das angeklickte Stück hat %n Punkte.</numerusform>
        </translation>
    </message>
    <message>
        <source>Click a piece in the view to say what it is.</source>
        <translation>Klicken Sie ein Stück in der Ansicht an, um zu sagen, was es ist.</translation>
    </message>
    <message numerus="yes">
        <source>%n piece(s) will be another part.</source>
        <translation>
            <numerusform>%n Stück wird ein anderer Teil.</numerusform>
            <numerusform>%n Stücke werden ein anderer Teil.</numerusform>
        </translation>
    </message>
    <message>
        <source>Makes another kit from this one&apos;s file, with these parts. This one stays as it is</source>
        <translation>Macht ein weiteres Kit aus der Datei von diesem, mit diesen Teilen. Dieses bleibt, wie es ist</translation>
    </message>
    <message>
        <source>the eyeball</source>
        <translation>dem Augapfel</translation>
    </message>
    <message>
        <source>the upper jaw</source>
        <translation>dem Oberkiefer</translation>
    </message>
    <message>
        <source>the lower jaw</source>
        <translation>dem Unterkiefer</translation>
    </message>
    <message>
        <source>the edge of the lids</source>
        <translation>der Lidkante</translation>
    </message>
    <message>
        <source>the skin around it</source>
        <translation>der Haut darum</translation>
    </message>
    <message>
        <source>What the part goes with</source>
        <translation>Womit der Teil geht</translation>
    </message>
    <message>
        <source>It goes with</source>
        <translation>Er geht mit</translation>
    </message>
</context>
<context>
    <name>PhotoController</name>
    <message>
        <source>Analysing the photographs</source>
        <translation>Die Fotos werden untersucht</translation>
    </message>
    <message>
        <source>A head from photographs</source>
        <translation>Ein Kopf aus Fotos</translation>
    </message>
    <message>
        <source>Blend</source>
        <translation>Überblenden</translation>
    </message>
    <message>
        <source>Another face</source>
        <translation>Ein anderes Gesicht</translation>
    </message>
    <message>
        <source>The photographs are gone; the head made from them was not kept.</source>
        <translation>Die Fotos sind fort; der daraus erstellte Kopf wurde nicht behalten.</translation>
    </message>
    <message>
        <source>Refine with the photographs</source>
        <translation>Mit den Fotos verfeinern</translation>
    </message>
    <message>
        <source>Make a head from photographs</source>
        <translation>Kopf aus Fotos erstellen</translation>
    </message>
    <message>
        <source>The head of %1 is done.</source>
        <translation>Der Kopf von %1 ist fertig.</translation>
    </message>
    <message>
        <source>%1 %2</source>
        <translation>%1 %2</translation>
    </message>
    <message>
        <source>Lock a photograph</source>
        <translation>Foto festhalten</translation>
    </message>
    <message>
        <source>Unlock a photograph</source>
        <translation>Foto freigeben</translation>
    </message>
    <message>
        <source>Press Refine once: the photographs have to be analysed again before places can be dragged.</source>
        <translation>Einmal Verfeinern drücken: die Fotos müssen neu untersucht werden, bevor sich Stellen ziehen lassen.</translation>
    </message>
    <message>
        <source>The bank&apos;s heads changed since this head was made. Press Refine once, then drag.</source>
        <translation>Die Köpfe der Bank haben sich geändert, seit dieser Kopf erstellt wurde. Verfeinern drücken, dann ziehen.</translation>
    </message>
    <message>
        <source>Below the neck band nothing is shaped from photographs.</source>
        <translation>Unterhalb des Halsbands wird aus Fotos nichts geformt.</translation>
    </message>
    <message>
        <source>Drag a place in a photograph</source>
        <translation>Eine Stelle in einem Foto ziehen</translation>
    </message>
    <message>
        <source>Remove dragged places</source>
        <translation>Gezogene Stellen entfernen</translation>
    </message>
    <message>
        <source>One of the two heads is gone; nothing was blended.</source>
        <translation>Einer der beiden Köpfe ist fort; nichts wurde überblendet.</translation>
    </message>
    <message>
        <source>Blend with %1</source>
        <translation>Mit %1 überblenden</translation>
    </message>
    <message>
        <source>Focal length</source>
        <translation>Brennweite</translation>
    </message>
    <message>
        <source>The photographs are being analysed; move the slider again in a moment.</source>
        <translation>Die Fotos werden untersucht; den Regler gleich noch einmal bewegen.</translation>
    </message>
    <message>
        <source>Trying a focal length</source>
        <translation>Eine Brennweite wird probiert</translation>
    </message>
    <message>
        <source>Add a point to an outline</source>
        <translation>Einem Umriss einen Punkt hinzufügen</translation>
    </message>
    <message>
        <source>Draw an outline</source>
        <translation>Umriss zeichnen</translation>
    </message>
    <message>
        <source>Move a point of an outline</source>
        <translation>Punkt eines Umrisses verschieben</translation>
    </message>
    <message>
        <source>Remove a point from an outline</source>
        <translation>Punkt aus einem Umriss entfernen</translation>
    </message>
    <message>
        <source>Remove the drawn outline</source>
        <translation>Gezeichneten Umriss entfernen</translation>
    </message>
</context>
<context>
    <name>PhotosTab</name>
    <message>
        <source>Look through its camera</source>
        <translation>Durch seine Kamera sehen</translation>
    </message>
    <message>
        <source>The view stands where the camera stood, the photograph around the mesh. A fixed view or F leaves it</source>
        <translation>Die Ansicht steht, wo die Kamera stand, das Foto um das Netz. Eine feste Ansicht oder F verlässt sie</translation>
    </message>
    <message>
        <source>How much of the photograph is seen around the mesh</source>
        <translation>Wie viel vom Foto um das Netz zu sehen ist</translation>
    </message>
    <message>
        <source>How much of it is laid over the mesh</source>
        <translation>Wie viel davon über dem Netz liegt</translation>
    </message>
    <message>
        <source>Draw its outline by hand</source>
        <translation>Seinen Umriss von Hand zeichnen</translation>
    </message>
    <message>
        <source>Click along the head&apos;s edge in the photograph at the left: jaw, skull, ear, neck. Drag its points, click on the line for another one, Ctrl+click takes one out. Where you draw it, nothing is looked for</source>
        <translation>Im Foto links entlang dem Rand des Kopfes klicken: Kiefer, Schädel, Ohr, Hals. Punkte ziehen, auf die Linie klicken für einen weiteren, Strg+Klick nimmt einen heraus. Wo gezeichnet ist, wird nichts gesucht</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Removes the drawn outline</source>
        <translation>Entfernt den gezeichneten Umriss</translation>
    </message>
    <message>
        <source>Behind</source>
        <translation>Dahinter</translation>
    </message>
    <message>
        <source>Over</source>
        <translation>Darüber</translation>
    </message>
    <message>
        <source>Focal length from EXIF</source>
        <translation>Brennweite aus EXIF</translation>
    </message>
    <message>
        <source>Focal length typed</source>
        <translation>Brennweite getippt</translation>
    </message>
    <message>
        <source>Focal length estimated</source>
        <translation>Brennweite geschätzt</translation>
    </message>
    <message>
        <source>Orthographic</source>
        <translation>Orthografisch</translation>
    </message>
    <message>
        <source>35 mm equivalent. Estimated: nose, ears and eyes tell how near the camera was</source>
        <translation>Auf Kleinbild bezogen. Geschätzt: Nase, Ohren und Augen sagen, wie nah die Kamera war</translation>
    </message>
    <message>
        <source>Focal length</source>
        <translation>Brennweite</translation>
    </message>
    <message>
        <source>Another focal length: the face widens or narrows while its landmarks stay on the photograph. Shown while you move</source>
        <translation>Eine andere Brennweite: das Gesicht wird breiter oder schmaler, die Landmarken bleiben auf dem Foto. Sichtbar beim Bewegen</translation>
    </message>
    <message>
        <source>%1 mm</source>
        <translation>%1 mm</translation>
    </message>
    <message>
        <source>One lens for all</source>
        <translation>Ein Objektiv für alle</translation>
    </message>
    <message>
        <source>All photographs of one size were taken through the same lens</source>
        <translation>Alle Fotos einer Größe kamen durch dasselbe Objektiv</translation>
    </message>
    <message>
        <source>Guide curves</source>
        <translation>Führungskurven</translation>
    </message>
    <message>
        <source>Lids, lips, brows and ears slide along the curves marked in the photographs</source>
        <translation>Lider, Lippen, Brauen und Ohren gleiten an den Kurven, die in den Fotos markiert sind</translation>
    </message>
    <message>
        <source>Outlines</source>
        <translation>Umrisse</translation>
    </message>
    <message>
        <source>Where the head ends in front of something else: found where skin ends, or where you drew it</source>
        <translation>Wo der Kopf vor etwas anderem endet: gefunden, wo Haut endet, oder wo gezeichnet wurde</translation>
    </message>
    <message>
        <source>What no photograph shows follows the rest as in the bank&apos;s heads (morphs of the kinds Head and Whole)</source>
        <translation>Was kein Foto zeigt, folgt dem Rest wie bei den Köpfen der Bank (Morphs der Arten Kopf und Ganz)</translation>
    </message>
    <message>
        <source>Heads of the bank</source>
        <translation>Köpfe der Bank</translation>
    </message>
    <message>
        <source>not measured</source>
        <translation>nicht gemessen</translation>
    </message>
    <message>
        <source>From pupil to pupil, when it was measured: no photograph tells how large a head is. 0: near the base&apos;s size</source>
        <translation>Von Pupille zu Pupille, wenn gemessen: kein Foto sagt, wie groß ein Kopf ist. 0: nahe der Größe der Basis</translation>
    </message>
    <message>
        <source>Distance of the pupils</source>
        <translation>Abstand der Pupillen</translation>
    </message>
    <message>
        <source>Pupil to pupil</source>
        <translation>Pupille zu Pupille</translation>
    </message>
    <message>
        <source>Make the head</source>
        <translation>Kopf erstellen</translation>
    </message>
    <message>
        <source>Cameras and shape from all photographs; missing landmarks are found first</source>
        <translation>Kameras und Form aus allen Fotos; fehlende Landmarken werden erst gesucht</translation>
    </message>
    <message>
        <source>Refine</source>
        <translation>Verfeinern</translation>
    </message>
    <message>
        <source>A new fit from this one</source>
        <translation>Eine neue Anpassung aus dieser</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Stops; nothing is changed</source>
        <translation>Hält an; nichts wird geändert</translation>
    </message>
    <message>
        <source>the largest</source>
        <translation>das größte</translation>
    </message>
    <message>
        <source>number %1 by size</source>
        <translation>Nummer %1 nach Größe</translation>
    </message>
    <message>
        <source>Which face?</source>
        <translation>Welches Gesicht?</translation>
    </message>
    <message>
        <source>%1 shows %2 faces of nearly one size. Which one is it?</source>
        <translation>%1 zeigt %2 fast gleich große Gesichter. Welches ist es?</translation>
    </message>
    <message>
        <source>   parallel</source>
        <translation>   parallel</translation>
    </message>
    <message>
        <source>   %1 mm</source>
        <translation>    %1 mm</translation>
    </message>
    <message>
        <source>● A good photograph for this.</source>
        <translation>● Ein gutes Foto dafür.</translation>
    </message>
    <message>
        <source>Bank&apos;s heads (%1)</source>
        <translation>Köpfe der Bank (%1)</translation>
    </message>
    <message>
        <source>This subject has no photographs yet. Drop two or three portraits on the window, or use Gather → Add a source: front, three-quarter and side.</source>
        <translation>Diese Person hat noch keine Fotos. Zwei oder drei Porträts auf das Fenster ziehen, oder Quellen → Quelle hinzufügen: von vorn, halb von der Seite, von der Seite.</translation>
    </message>
    <message>
        <source>Left out: mark at least four landmarks on it.</source>
        <translation>Ausgelassen: mindestens vier Landmarken darauf markieren.</translation>
    </message>
    <message>
        <source>Skin: %1 % photographs, %2 % mirrored, %3 % base</source>
        <translation>Haut: %1 % Fotos, %2 % gespiegelt, %3 % Basis</translation>
    </message>
    <message>
        <source>%1 landmarks, %2 rms; outline %3 (%4 points); %5 away</source>
        <translation>%1 Landmarken, %2 RMS; Umriss %3 (%4 Punkte); %5 entfernt</translation>
    </message>
    <message>
        <source>Skin</source>
        <translation>Haut</translation>
    </message>
    <message>
        <source>The photographs as a layer of the subject&apos;s skin: light and seams out, the unseen side mirrored, the rest from the base in the same tone. Go on with it in the station Skin</source>
        <translation>Die Fotos als Ebene der Haut der Person: Licht und Nähte heraus, die ungesehene Seite gespiegelt, der Rest von der Basis im selben Ton. Weiter geht es in der Station Haut</translation>
    </message>
</context>
<context>
    <name>Preferences</name>
    <message>
        <source>As the machine</source>
        <translation>Wie der Rechner</translation>
    </message>
    <message>
        <source>Language</source>
        <translation>Sprache</translation>
    </message>
    <message>
        <source>Preferences</source>
        <translation>Einstellungen</translation>
    </message>
    <message>
        <source>Reset all</source>
        <translation>Alle zurück</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
    <message>
        <source>Dark</source>
        <translation>Dunkel</translation>
    </message>
    <message>
        <source>Light</source>
        <translation>Hell</translation>
    </message>
    <message>
        <source>Theme</source>
        <translation>Aussehen</translation>
    </message>
    <message>
        <source>%1 %</source>
        <translation>%1 %</translation>
    </message>
    <message>
        <source>Size of text</source>
        <translation>Textgröße</translation>
    </message>
    <message>
        <source>Left turns, right and middle move</source>
        <translation>Links dreht, rechts und Mitte verschieben</translation>
    </message>
    <message>
        <source>Middle turns, with Shift it moves</source>
        <translation>Mitte dreht, mit Umschalt verschiebt sie</translation>
    </message>
    <message>
        <source>Right turns, middle moves</source>
        <translation>Rechts dreht, Mitte verschiebt</translation>
    </message>
    <message>
        <source>Mouse in the views</source>
        <translation>Maus in den Ansichten</translation>
    </message>
    <message>
        <source>Wheel the other way</source>
        <translation>Mausrad andersherum</translation>
    </message>
    <message>
        <source> min</source>
        <translation> min</translation>
    </message>
    <message>
        <source>Autosave every</source>
        <translation>Autosicherung alle</translation>
    </message>
    <message>
        <source>all</source>
        <translation>alle</translation>
    </message>
    <message>
        <source>Threads</source>
        <translation>Threads</translation>
    </message>
    <message>
        <source>Left button</source>
        <translation>Linke Taste</translation>
    </message>
    <message>
        <source>Middle button</source>
        <translation>Mittlere Taste</translation>
    </message>
    <message>
        <source>Right button</source>
        <translation>Rechte Taste</translation>
    </message>
    <message>
        <source>Shift and %1</source>
        <translation>Umschalt und %1</translation>
    </message>
    <message>
        <source>Alt and %1</source>
        <translation>Alt und %1</translation>
    </message>
    <message>
        <source>Ctrl and %1</source>
        <translation>Strg und %1</translation>
    </message>
    <message>
        <source>Usual</source>
        <translation>Üblich</translation>
    </message>
    <message>
        <source>For eyes weak in red</source>
        <translation>Für Augen mit Rotschwäche</translation>
    </message>
    <message>
        <source>For eyes weak in green</source>
        <translation>Für Augen mit Grünschwäche</translation>
    </message>
    <message>
        <source>For eyes weak in blue</source>
        <translation>Für Augen mit Blauschwäche</translation>
    </message>
    <message>
        <source>Greys</source>
        <translation>Graustufen</translation>
    </message>
    <message>
        <source>Colours of figures</source>
        <translation>Farben der Kennzahlen</translation>
    </message>
    <message>
        <source>My own</source>
        <translation>Eigene Belegung</translation>
    </message>
    <message>
        <source>Turn with</source>
        <translation>Drehen mit</translation>
    </message>
    <message>
        <source>Move with</source>
        <translation>Verschieben mit</translation>
    </message>
    <message>
        <source>The language changes when the program starts the next time.</source>
        <translation>Die Sprache wechselt beim nächsten Start des Programms.</translation>
    </message>
    <message>
        <source>Millimetres</source>
        <translation>Millimeter</translation>
    </message>
    <message>
        <source>Centimetres</source>
        <translation>Zentimeter</translation>
    </message>
    <message>
        <source>Inches</source>
        <translation>Zoll</translation>
    </message>
    <message>
        <source>Lengths in the window. Projects, reports and messages of checks keep to millimetres.</source>
        <translation>Längen im Fenster. Projekte, Berichte und Meldungen von Prüfungen bleiben bei Millimetern.</translation>
    </message>
    <message>
        <source>Lengths in</source>
        <translation>Längen in</translation>
    </message>
    <message>
        <source>Change…</source>
        <translation>Ändern…</translation>
    </message>
    <message>
        <source>Where the program keeps what it would have to compute again: shading, looks at bases</source>
        <translation>Wo das Programm aufhebt, was es sonst neu berechnen müsste: Schattierung, Blicke auf Basen</translation>
    </message>
    <message>
        <source>Cache folder</source>
        <translation>Cache-Ordner</translation>
    </message>
    <message>
        <source> MB at most</source>
        <translation> MB höchstens</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keiner</translation>
    </message>
    <message>
        <source>Everything in it is made again when it is needed</source>
        <translation>Alles darin wird neu gemacht, wenn es gebraucht wird</translation>
    </message>
    <message>
        <source>Cache</source>
        <translation>Cache</translation>
    </message>
    <message>
        <source>Empty (%1 MB)</source>
        <translation>Leeren (%1 MB)</translation>
    </message>
</context>
<context>
    <name>ProveController</name>
    <message>
        <source>Carrying the expressions over</source>
        <translation>Ausdrücke werden übertragen</translation>
    </message>
    <message>
        <source>Keep the proof %1</source>
        <translation>Probe %1 behalten</translation>
    </message>
    <message>
        <source>Motion %1</source>
        <translation>Bewegung %1</translation>
    </message>
    <message>
        <source>Remove the proof %1</source>
        <translation>Probe %1 entfernen</translation>
    </message>
    <message>
        <source>Measuring the proofs</source>
        <translation>Proben werden gemessen</translation>
    </message>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>Mix</source>
        <translation>Mischung</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Fit</translation>
    </message>
    <message>
        <source>Proof sheet</source>
        <translation>Probenblatt</translation>
    </message>
    <message>
        <source>The proof sheet is written, as PNG and as PDF.</source>
        <translation>Das Probenblatt ist geschrieben, als PNG und als PDF.</translation>
    </message>
    <message>
        <source>Keep the proof sheet with %1</source>
        <translation>Probenblatt bei %1 behalten</translation>
    </message>
</context>
<context>
    <name>ProvePanel</name>
    <message>
        <source>Shape</source>
        <translation>Form</translation>
    </message>
    <message>
        <source>The fit</source>
        <translation>Die Anpassung</translation>
    </message>
    <message>
        <source>The current mix</source>
        <translation>Die aktuelle Mischung</translation>
    </message>
    <message>
        <source>The base itself</source>
        <translation>Die Basis selbst</translation>
    </message>
    <message>
        <source>Skinning</source>
        <translation>Skinning</translation>
    </message>
    <message>
        <source>Linear</source>
        <translation>Linear</translation>
    </message>
    <message>
        <source>Dual quaternions</source>
        <translation>Duale Quaternionen</translation>
    </message>
    <message>
        <source>How the program that the shape goes to bends skin</source>
        <translation>Wie das Programm, an das die Form geht, Haut beugt</translation>
    </message>
    <message>
        <source>Proofs</source>
        <translation>Proben</translation>
    </message>
    <message>
        <source>Poses, expressions and motions to look at the shape in</source>
        <translation>Haltungen, Ausdrücke und Bewegungen, in denen die Form angesehen wird</translation>
    </message>
    <message>
        <source>Expressions by hand</source>
        <translation>Ausdrücke von Hand</translation>
    </message>
    <message>
        <source>Several expressions at once, on top of the proof</source>
        <translation>Mehrere Ausdrücke zugleich, zusätzlich zur Probe</translation>
    </message>
    <message>
        <source>Figures</source>
        <translation>Kennzahlen</translation>
    </message>
    <message>
        <source>What was measured, worst first</source>
        <translation>Was gemessen wurde, das Schlimmste zuerst</translation>
    </message>
    <message>
        <source>Proof</source>
        <translation>Probe</translation>
    </message>
    <message>
        <source>To look at</source>
        <translation>Anzusehen</translation>
    </message>
    <message>
        <source>How far</source>
        <translation>Wie weit</translation>
    </message>
    <message>
        <source>From rest to the end of the proof</source>
        <translation>Von der Ruhe bis zum Ende der Probe</translation>
    </message>
    <message>
        <source>Play</source>
        <translation>Abspielen</translation>
    </message>
    <message>
        <source>From rest to the end, again and again</source>
        <translation>Von der Ruhe bis zum Ende, immer wieder</translation>
    </message>
    <message>
        <source>Motion…</source>
        <translation>Bewegung…</translation>
    </message>
    <message>
        <source>A BVH file, as a proof of your own</source>
        <translation>Eine BVH-Datei als eigene Probe</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Removes this proof of your own</source>
        <translation>Entfernt diese eigene Probe</translation>
    </message>
    <message>
        <source>The kit has no expressions.</source>
        <translation>Das Kit hat keine Ausdrücke.</translation>
    </message>
    <message>
        <source>All at 0</source>
        <translation>Alle auf 0</translation>
    </message>
    <message>
        <source>No expression by hand</source>
        <translation>Kein Ausdruck von Hand</translation>
    </message>
    <message>
        <source>Name of the new proof</source>
        <translation>Name der neuen Probe</translation>
    </message>
    <message>
        <source>Keep as proof</source>
        <translation>Als Probe behalten</translation>
    </message>
    <message>
        <source>What is seen now, pose and expressions, as a proof of your own</source>
        <translation>Was jetzt zu sehen ist, Haltung und Ausdrücke, als eigene Probe</translation>
    </message>
    <message>
        <source>own proof</source>
        <translation>eigene Probe</translation>
    </message>
    <message>
        <source>Measure all proofs</source>
        <translation>Alle Proben messen</translation>
    </message>
    <message>
        <source>Each proof at each of its stops, beside the base</source>
        <translation>Jede Probe an jedem ihrer Halte, neben der Basis</translation>
    </message>
    <message>
        <source>Value</source>
        <translation>Wert</translation>
    </message>
    <message>
        <source>Colours</source>
        <translation>Farben</translation>
    </message>
    <message>
        <source>No colours</source>
        <translation>Keine Farben</translation>
    </message>
    <message>
        <source>Skin that cuts itself</source>
        <translation>Haut, die sich schneidet</translation>
    </message>
    <message>
        <source>Stretch against the base</source>
        <translation>Dehnung gegen die Basis</translation>
    </message>
    <message>
        <source>Motion</source>
        <translation>Bewegung</translation>
    </message>
    <message>
        <source>Motions (*.bvh);;All files (*)</source>
        <translation>Bewegungen (*.bvh);;Alle Dateien (*)</translation>
    </message>
    <message>
        <source>Poses</source>
        <translation>Haltungen</translation>
    </message>
    <message>
        <source>Face</source>
        <translation>Gesicht</translation>
    </message>
    <message>
        <source>Motions</source>
        <translation>Bewegungen</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>Being measured…</source>
        <translation>Wird gemessen…</translation>
    </message>
    <message>
        <source>%1 stops measured. Click a figure to see it.</source>
        <translation>%1 Halte gemessen. Eine Kennzahl anklicken, um sie zu sehen.</translation>
    </message>
    <message>
        <source>The expressions are carried over to this shape first.</source>
        <translation>Zuerst werden die Ausdrücke auf diese Form übertragen.</translation>
    </message>
    <message>
        <source>Nothing is measured yet.</source>
        <translation>Noch ist nichts gemessen.</translation>
    </message>
    <message>
        <source>Mend</source>
        <translation>Ausbessern</translation>
    </message>
    <message>
        <source>What does not hold, put right in the proof</source>
        <translation>Was nicht hält, in der Probe berichtigen</translation>
    </message>
    <message>
        <source>From a scan</source>
        <translation>Aus einem Scan</translation>
    </message>
    <message>
        <source>A person&apos;s own expressions</source>
        <translation>Eigene Ausdrücke einer Person</translation>
    </message>
    <message>
        <source>Proof sheet…</source>
        <translation>Probenblatt…</translation>
    </message>
    <message>
        <source>A page of pictures with these figures, as PNG and PDF; kept with the morph, too</source>
        <translation>Eine Seite mit Bildern und diesen Werten, als PNG und PDF; bleibt auch beim Morph</translation>
    </message>
    <message>
        <source>Proof sheet</source>
        <translation>Probenblatt</translation>
    </message>
    <message>
        <source>proofs</source>
        <translation>Proben</translation>
    </message>
    <message>
        <source>Pictures and pages (*.png *.pdf)</source>
        <translation>Bilder und Seiten (*.png *.pdf)</translation>
    </message>
    <message>
        <source>Proof and figure</source>
        <translation>Probe und Wert</translation>
    </message>
    <message>
        <source>%1: %2</source>
        <comment>proof: figure</comment>
        <translation>%1: %2</translation>
    </message>
</context>
<context>
    <name>ProveStation</name>
    <message>
        <source>The expressions are carried over to this shape…</source>
        <translation>Die Ausdrücke werden auf diese Form übertragen…</translation>
    </message>
    <message>
        <source>Not measured yet</source>
        <translation>Noch nicht gemessen</translation>
    </message>
    <message>
        <source>Proofs measured at %1 stops; figures to look at: %2</source>
        <translation>Proben an %1 Halten gemessen; Kennzahlen anzusehen: %2</translation>
    </message>
    <message>
        <source>Proofs measured at %1 stops; nothing to look at</source>
        <translation>Proben an %1 Halten gemessen; nichts anzusehen</translation>
    </message>
    <message>
        <source>Base  %1</source>
        <translation>Basis  %1</translation>
    </message>
    <message>
        <source>%1  %2</source>
        <translation>%1  %2</translation>
    </message>
    <message>
        <source>Carrying the expressions over…</source>
        <translation>Ausdrücke werden übertragen…</translation>
    </message>
</context>
<context>
    <name>QObject</name>
    <message>
        <source>nearly done</source>
        <translation>fast fertig</translation>
    </message>
    <message>
        <source>%1 s left</source>
        <translation>noch %1 s</translation>
    </message>
    <message>
        <source>%1 min left</source>
        <translation>noch %1 min</translation>
    </message>
</context>
<context>
    <name>QToolButton</name>
    <message>
        <source>What this view shows, its camera, and how many views there are</source>
        <translation>Was diese Ansicht zeigt, ihre Kamera, und wie viele Ansichten es gibt</translation>
    </message>
    <message>
        <source>This view</source>
        <translation>Diese Ansicht</translation>
    </message>
</context>
<context>
    <name>Rail</name>
    <message>
        <source>Go to %1</source>
        <translation>Zu %1 gehen</translation>
    </message>
</context>
<context>
    <name>ReducedTab</name>
    <message>
        <source>Reduced versions</source>
        <translation>Vereinfachte Fassungen</translation>
    </message>
    <message>
        <source>Version</source>
        <translation>Fassung</translation>
    </message>
    <message>
        <source>Vertices</source>
        <translation>Punkte</translation>
    </message>
    <message>
        <source>Add…</source>
        <translation>Hinzufügen…</translation>
    </message>
    <message>
        <source>A mesh of fewer vertices that lies on the base</source>
        <translation>Ein Netz mit weniger Punkten, das auf der Basis liegt</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Takes the selected version out of the kit</source>
        <translation>Nimmt die gewählte Fassung aus dem Kit</translation>
    </message>
    <message>
        <source>Reduced versions of the base</source>
        <translation>Vereinfachte Fassungen der Basis</translation>
    </message>
    <message>
        <source>Meshes (*.obj *.glb *.ply)</source>
        <translation>Netze (*.obj *.glb *.ply)</translation>
    </message>
    <message>
        <source>Every shape of the base is one of theirs too. Deliver writes them with the morphs.</source>
        <translation>Jede Form der Basis ist auch eine von ihnen. Ausgeben schreibt sie mit den Morphs.</translation>
    </message>
    <message>
        <source>Meshes of fewer vertices (levels of detail) that lie on the base. Every morph can then be written for each of them.</source>
        <translation>Netze mit weniger Punkten (Detailstufen), die auf der Basis liegen. Jeder Morph kann dann für jedes davon geschrieben werden.</translation>
    </message>
    <message>
        <source>%1 from the base (median), at most %2</source>
        <translation>%1 von der Basis (Median), höchstens %2</translation>
    </message>
</context>
<context>
    <name>RegionController</name>
    <message>
        <source> painted</source>
        <translation> gemalt</translation>
    </message>
    <message>
        <source>Painted</source>
        <translation>Gemalt</translation>
    </message>
    <message>
        <source>New painted region</source>
        <translation>Neue gemalte Region</translation>
    </message>
    <message>
        <source>Remove the region %1</source>
        <translation>Region %1 entfernen</translation>
    </message>
    <message>
        <source>Paint %1 on the base; Ctrl removes.</source>
        <translation>%1 auf die Basis malen; Strg nimmt weg.</translation>
    </message>
    <message>
        <source>Remove from a region</source>
        <translation>Aus einer Region wegnehmen</translation>
    </message>
    <message>
        <source>Paint a region</source>
        <translation>Region malen</translation>
    </message>
</context>
<context>
    <name>RegionTab</name>
    <message>
        <source>Or click the region on the map, or on the model</source>
        <translation>Oder auf die Region klicken, auf der Karte oder am Modell</translation>
    </message>
    <message>
        <source>Shape to add</source>
        <translation>Form zum Hinzufügen</translation>
    </message>
    <message>
        <source>Nothing in this region</source>
        <translation>Nichts in dieser Region</translation>
    </message>
    <message>
        <source>Clear %1</source>
        <translation>%1 leeren</translation>
    </message>
    <message>
        <source>Remove it from this region</source>
        <translation>Aus dieser Region entfernen</translation>
    </message>
    <message>
        <source>Add a shape here…</source>
        <translation>Hier eine Form hinzufügen…</translation>
    </message>
    <message>
        <source>The bank is empty: keep a morph first.</source>
        <translation>Die Bank ist leer: erst einen Morph behalten.</translation>
    </message>
    <message>
        <source>A region holds at most eight shapes.</source>
        <translation>Eine Region hält höchstens acht Formen.</translation>
    </message>
    <message>
        <source>Nothing of its own here yet; it shows what the sliders mix.</source>
        <translation>Hier noch nichts Eigenes; sie zeigt, was die Regler mischen.</translation>
    </message>
    <message>
        <source>Added to what the sliders mix.</source>
        <translation>Kommt zu dem hinzu, was die Regler mischen.</translation>
    </message>
</context>
<context>
    <name>RegionsTab</name>
    <message>
        <source>keeps</source>
        <translation>behält</translation>
    </message>
    <message>
        <source>follows</source>
        <translation>folgt</translation>
    </message>
    <message>
        <source>half</source>
        <translation>halb</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Regionen</translation>
    </message>
    <message>
        <source>Region</source>
        <translation>Region</translation>
    </message>
    <message>
        <source>In the fit</source>
        <translation>In der Anpassung</translation>
    </message>
    <message>
        <source>Match</source>
        <translation>Treffen</translation>
    </message>
    <message>
        <source>Matched to the source</source>
        <translation>Wird an die Quelle angepasst</translation>
    </message>
    <message>
        <source>Follow</source>
        <translation>Folgen</translation>
    </message>
    <message>
        <source>Not matched: follows its neighbours in the base&apos;s form. For what a cap, hair or clothes hide</source>
        <translation>Wird nicht angepasst: folgt den Nachbarn in der Form der Basis. Für das, was Mütze, Haar oder Kleidung verdecken</translation>
    </message>
    <message>
        <source>Keep base</source>
        <translation>Basis behalten</translation>
    </message>
    <message>
        <source>Stays where the base has it</source>
        <translation>Bleibt, wo die Basis sie hat</translation>
    </message>
    <message>
        <source>Stiffer than the rest; below 1: softer</source>
        <translation>Steifer als der Rest; unter 1: weicher</translation>
    </message>
    <message>
        <source>Features smaller than this are ignored here; 0: as the whole</source>
        <translation>Feineres wird hier übersehen; 0: wie im Ganzen</translation>
    </message>
    <message>
        <source>as the whole</source>
        <translation>wie im Ganzen</translation>
    </message>
    <message>
        <source>Stiffness</source>
        <translation>Steifheit</translation>
    </message>
    <message>
        <source>Smooth below</source>
        <translation>Glatt unter</translation>
    </message>
    <message>
        <source>Length over which the kit&apos;s regions fade out</source>
        <translation>Länge, auf der die Regionen des Kits auslaufen</translation>
    </message>
    <message>
        <source>Fade of regions</source>
        <translation>Auslaufen der Regionen</translation>
    </message>
    <message>
        <source>Edges fade over</source>
        <translation>Ränder laufen aus über</translation>
    </message>
    <message>
        <source>New painted</source>
        <translation>Neu gemalt</translation>
    </message>
    <message>
        <source>An empty region of your own, for the brush</source>
        <translation>Eine leere eigene Region, für den Pinsel</translation>
    </message>
    <message>
        <source>Paint on this</source>
        <translation>Hierauf malen</translation>
    </message>
    <message>
        <source>A region of your own that starts as the selected one</source>
        <translation>Eine eigene Region, die wie die gewählte beginnt</translation>
    </message>
    <message>
        <source>Paint</source>
        <translation>Malen</translation>
    </message>
    <message>
        <source>The left button paints on the base; Ctrl removes; the right button turns</source>
        <translation>Die linke Taste malt auf die Basis; Strg nimmt weg; die rechte Taste dreht</translation>
    </message>
    <message>
        <source>Both sides</source>
        <translation>Beide Seiten</translation>
    </message>
    <message>
        <source>Radius of the brush along the surface</source>
        <translation>Radius des Pinsels auf der Fläche</translation>
    </message>
    <message>
        <source>Remove this region</source>
        <translation>Diese Region entfernen</translation>
    </message>
    <message>
        <source>Undo brings it back</source>
        <translation>Rückgängig bringt sie zurück</translation>
    </message>
    <message>
        <source>%1 in the fit</source>
        <translation>%1 in der Anpassung</translation>
    </message>
</context>
<context>
    <name>RestController</name>
    <message>
        <source>Finding the pose</source>
        <translation>Haltung suchen</translation>
    </message>
    <message>
        <source>Use as rest pose: %1</source>
        <translation>Als Ruhehaltung verwenden: %1</translation>
    </message>
    <message>
        <source>Find the pose</source>
        <translation>Pose finden</translation>
    </message>
    <message>
        <source>No pose to take out</source>
        <translation>Keine Pose herausnehmen</translation>
    </message>
    <message>
        <source>Arms from %1</source>
        <translation>Arme aus %1</translation>
    </message>
    <message>
        <source>Turn %1</source>
        <translation>%1 drehen</translation>
    </message>
</context>
<context>
    <name>RestTab</name>
    <message>
        <source>as it stands</source>
        <translation>wie sie steht</translation>
    </message>
    <message>
        <source>at rest</source>
        <translation>in Ruhe</translation>
    </message>
    <message>
        <source>The fit</source>
        <translation>Die Anpassung</translation>
    </message>
    <message>
        <source>The current mix</source>
        <translation>Die aktuelle Mischung</translation>
    </message>
    <message>
        <source>Shape</source>
        <translation>Form</translation>
    </message>
    <message>
        <source>Take a pose out</source>
        <translation>Haltung herausnehmen</translation>
    </message>
    <message>
        <source>Finds how the joints of this shape are turned against the base</source>
        <translation>Findet, wie die Gelenke dieser Form gegen die Basis gedreht sind</translation>
    </message>
    <message>
        <source>None</source>
        <translation>Keine</translation>
    </message>
    <message>
        <source>Takes nothing out</source>
        <translation>Nimmt nichts heraus</translation>
    </message>
    <message>
        <source>Joint</source>
        <translation>Gelenk</translation>
    </message>
    <message>
        <source>Turned by</source>
        <translation>Gedreht um</translation>
    </message>
    <message>
        <source>Arms from A</source>
        <translation>Arme aus A</translation>
    </message>
    <message>
        <source>The arms stand 45 degrees down in this shape</source>
        <translation>In dieser Form hängen die Arme 45 Grad</translation>
    </message>
    <message>
        <source>Arms from T</source>
        <translation>Arme aus T</translation>
    </message>
    <message>
        <source>The arms stand level in this shape</source>
        <translation>In dieser Form sind die Arme waagrecht</translation>
    </message>
    <message>
        <source>About the base&apos;s axis from side to side</source>
        <translation>Um die Achse der Basis von Seite zu Seite</translation>
    </message>
    <message>
        <source>About the base&apos;s upright axis</source>
        <translation>Um die senkrechte Achse der Basis</translation>
    </message>
    <message>
        <source>About the base&apos;s axis from back to front</source>
        <translation>Um die Achse der Basis von hinten nach vorn</translation>
    </message>
    <message>
        <source>Left and right alike</source>
        <translation>Links und rechts gleich</translation>
    </message>
    <message>
        <source>Name of the new morph</source>
        <translation>Name des neuen Morphs</translation>
    </message>
    <message>
        <source>Use as rest pose</source>
        <translation>Als Ruhehaltung verwenden</translation>
    </message>
    <message>
        <source>Keeps the shape without the pose as a morph</source>
        <translation>Behält die Form ohne die Haltung als Morph</translation>
    </message>
    <message>
        <source>At rest</source>
        <translation>In Ruhe</translation>
    </message>
    <message>
        <source>There is no fit yet.</source>
        <translation>Es gibt noch keine Anpassung.</translation>
    </message>
    <message>
        <source>The base has no joints: it knows no poses.</source>
        <translation>Die Basis hat keine Gelenke: sie kennt keine Haltungen.</translation>
    </message>
    <message>
        <source>A pose that is still in the shape is found, or turned by hand: select a joint in the list or on the figure.</source>
        <translation>Eine Haltung, die noch in der Form steckt, wird gefunden oder von Hand gedreht: ein Gelenk in der Liste oder an der Figur wählen.</translation>
    </message>
    <message>
        <source>No joint is turned: the shape stands as the base.</source>
        <translation>Kein Gelenk ist gedreht: die Form steht wie die Basis.</translation>
    </message>
    <message numerus="yes">
        <source>%n joint(s) are turned. What no turn explains, median: %1.</source>
        <translation>
            <numerusform>%n Gelenk ist gedreht. Was keine Drehung erklärt, Median: %1.</numerusform>
            <numerusform>%n Gelenke sind gedreht. Was keine Drehung erklärt, Median: %1.</numerusform>
        </translation>
    </message>
    <message>
        <source>About X</source>
        <translation>Um X</translation>
    </message>
    <message>
        <source>About Y</source>
        <translation>Um Y</translation>
    </message>
    <message>
        <source>About Z</source>
        <translation>Um Z</translation>
    </message>
    <message>
        <source>First view</source>
        <translation>Erste Ansicht</translation>
    </message>
    <message>
        <source>Second view</source>
        <translation>Zweite Ansicht</translation>
    </message>
    <message>
        <source>Third view</source>
        <translation>Dritte Ansicht</translation>
    </message>
    <message>
        <source>Joints</source>
        <translation>Gelenke</translation>
    </message>
    <message>
        <source>Least sure: %1.</source>
        <translation>Am wenigsten sicher: %1.</translation>
    </message>
</context>
<context>
    <name>ScanPage</name>
    <message>
        <source>A further scan of the same person with an expression. The fit is the neutral face; how the head was held goes out.</source>
        <translation>Ein weiterer Scan derselben Person mit einem Ausdruck. Der Fit ist das neutrale Gesicht; die Kopfhaltung wird herausgerechnet.</translation>
    </message>
    <message>
        <source>Scan</source>
        <translation>Scan</translation>
    </message>
    <message>
        <source>Expression</source>
        <translation>Ausdruck</translation>
    </message>
    <message>
        <source>Left and right</source>
        <translation>Links und rechts</translation>
    </message>
    <message>
        <source>Each half as a morph, too</source>
        <translation>Auch jede Hälfte als Morph</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Regionen</translation>
    </message>
    <message>
        <source>What each region of the face has of it as a morph, too</source>
        <translation>Auch der Anteil jeder Gesichtsregion als Morph</translation>
    </message>
    <message>
        <source>Make the expression</source>
        <translation>Ausdruck erzeugen</translation>
    </message>
    <message>
        <source>Fits the scan; the morphs come into the bank</source>
        <translation>Fittet den Scan; die Morphs kommen in die Bank</translation>
    </message>
    <message>
        <source>Make a fit of the neutral face first.</source>
        <translation>Zuerst das neutrale Gesicht fitten.</translation>
    </message>
    <message>
        <source>Gather a further scan of %1 first.</source>
        <translation>Zuerst einen weiteren Scan von %1 holen.</translation>
    </message>
    <message>
        <source>Expression %1</source>
        <translation>Ausdruck %1</translation>
    </message>
    <message>
        <source>%1 is in the bank, with %2 parts.</source>
        <translation>%1 ist in der Bank, mit %2 Teilen.</translation>
    </message>
    <message>
        <source>The scan is being fitted…</source>
        <translation>Der Scan wird gefittet…</translation>
    </message>
</context>
<context>
    <name>Scene</name>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>No base kit is open.
Use Project → New from base kit.</source>
        <translation>Kein Basis-Kit ist offen.
Projekt → Neu mit Basis-Kit benutzen.</translation>
    </message>
</context>
<context>
    <name>Session</name>
    <message>
        <source>This earlier state cannot be read back: its temporary file is gone. Nothing was changed.</source>
        <translation>Dieser frühere Stand lässt sich nicht zurücklesen: seine Hilfsdatei ist fort. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>untitled</source>
        <translation>unbenannt</translation>
    </message>
    <message>
        <source>Preparing %1</source>
        <translation>%1 wird vorbereitet</translation>
    </message>
    <message>
        <source>Reading %1</source>
        <translation>%1 wird gelesen</translation>
    </message>
    <message>
        <source>The subject has been removed; nothing was added.</source>
        <translation>Die Person wurde entfernt; nichts wurde hinzugefügt.</translation>
    </message>
    <message>
        <source>Add %1</source>
        <translation>%1 hinzufügen</translation>
    </message>
    <message>
        <source>Wait until the work on this subject is done, or cancel it.</source>
        <translation>Warten, bis die Arbeit an dieser Person fertig ist, oder sie abbrechen.</translation>
    </message>
    <message>
        <source>Preparing the source</source>
        <translation>Die Quelle wird vorbereitet</translation>
    </message>
    <message>
        <source>Fit of %1</source>
        <translation>Anpassung von %1</translation>
    </message>
    <message>
        <source>What was being fitted has been removed; the fit was discarded.</source>
        <translation>Was angepasst wurde, ist entfernt; die Anpassung wurde verworfen.</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>Refine the fit</source>
        <translation>Anpassung verfeinern</translation>
    </message>
    <message>
        <source>%1 of %2</source>
        <translation>%1 von %2</translation>
    </message>
    <message>
        <source>The fit of %1 is done.</source>
        <translation>Die Anpassung von %1 ist fertig.</translation>
    </message>
    <message>
        <source>Close the inbox</source>
        <translation>Eingang schließen</translation>
    </message>
    <message>
        <source>Set the inbox</source>
        <translation>Eingang festlegen</translation>
    </message>
    <message>
        <source>Finding landmarks on a photograph</source>
        <translation>Landmarken werden auf einem Foto gesucht</translation>
    </message>
    <message>
        <source>Finding landmarks of %1</source>
        <translation>Landmarken von %1 werden gesucht</translation>
    </message>
    <message>
        <source>What was being marked has been removed; the result was discarded.</source>
        <translation>Was markiert wurde, ist entfernt; das Ergebnis wurde verworfen.</translation>
    </message>
    <message>
        <source>Find landmarks</source>
        <translation>Landmarken suchen</translation>
    </message>
    <message>
        <source> %1 left out.</source>
        <translation> %1 ausgelassen.</translation>
    </message>
    <message>
        <source>Autosave did not work and is tried again: %1</source>
        <translation>Die Autosicherung gelang nicht und wird wiederholt: %1</translation>
    </message>
    <message>
        <source>The source has changed since; the result was discarded.</source>
        <translation>Die Quelle hat sich seitdem geändert; das Ergebnis wurde verworfen.</translation>
    </message>
    <message>
        <source>The source has been removed; the result was discarded.</source>
        <translation>Die Quelle wurde entfernt; das Ergebnis wurde verworfen.</translation>
    </message>
    <message>
        <source>Measuring</source>
        <translation>Messen</translation>
    </message>
    <message numerus="yes">
        <source>%n landmark(s) found; %1 of them unsure, first in the list.</source>
        <translation>
            <numerusform>%n Landmarke gefunden; %1 davon unsicher, zuerst in der Liste.</numerusform>
            <numerusform>%n Landmarken gefunden; %1 davon unsicher, zuerst in der Liste.</numerusform>
        </translation>
    </message>
    <message>
        <source> The fit does not match %1, which is covered or missing (Fit, Regions: Follow).</source>
        <translation> Beim Anpassen bleibt %1 frei, weil es verdeckt ist oder fehlt (Anpassen, Regionen: Folgen).</translation>
    </message>
    <message>
        <source>the left ear</source>
        <translation>das linke Ohr</translation>
    </message>
    <message>
        <source>the right ear</source>
        <translation>das rechte Ohr</translation>
    </message>
    <message>
        <source> %1 % of it is likely no skin and left out of the fit; undo matches it.</source>
        <translation> %1 % davon sind wahrscheinlich keine Haut und bleiben beim Anpassen aus; Rückgängig passt sie an.</translation>
    </message>
    <message>
        <source>Leave out what is no skin</source>
        <translation>Auslassen, was keine Haut ist</translation>
    </message>
    <message>
        <source>Match all of the source</source>
        <translation>Die ganze Quelle anpassen</translation>
    </message>
    <message>
        <source> It is a whole figure: start from settings for a whole figure (Fit) to fit all of it.</source>
        <translation> Es ist eine ganze Figur: Mit den Einstellungen für eine ganze Figur (Anpassen) wird alles angepasst.</translation>
    </message>
    <message>
        <source>Finding joints of %1</source>
        <translation>Gelenke von %1 finden</translation>
    </message>
</context>
<context>
    <name>ShortcutSheet</name>
    <message>
        <source>Shortcuts</source>
        <translation>Tastenkürzel</translation>
    </message>
    <message>
        <source>Command</source>
        <translation>Befehl</translation>
    </message>
    <message>
        <source>Key</source>
        <translation>Taste</translation>
    </message>
    <message>
        <source>Click a key and press another. Backspace removes it.</source>
        <translation>Auf eine Taste klicken und eine andere drücken. Rücktaste entfernt sie.</translation>
    </message>
    <message>
        <source>Reset all keys</source>
        <translation>Alle Tasten zurücksetzen</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
    <message>
        <source>Kept.</source>
        <translation>Gemerkt.</translation>
    </message>
    <message>
        <source>%1 belongs to “%2”: change that one first.</source>
        <translation>%1 gehört zu „%2“: erst dort ändern.</translation>
    </message>
</context>
<context>
    <name>SkinBrushController</name>
    <message>
        <source>Make a skin first: bake a layer, or begin a painted one.</source>
        <translation>Zuerst eine Haut anlegen: eine Ebene backen oder eine gemalte beginnen.</translation>
    </message>
    <message>
        <source>The skin is being composed…</source>
        <translation>Die Haut wird zusammengesetzt …</translation>
    </message>
    <message>
        <source>Select the layer to erase from.</source>
        <translation>Die Ebene auswählen, von der radiert wird.</translation>
    </message>
    <message>
        <source>Alt and click: the place to take from.</source>
        <translation>Alt und Klick: die Stelle, von der genommen wird.</translation>
    </message>
    <message>
        <source>Painted</source>
        <translation>Gemalt</translation>
    </message>
    <message>
        <source>Brush on skin</source>
        <translation>Pinsel auf der Haut</translation>
    </message>
    <message>
        <source>The selected layer is off: tick it first.</source>
        <translation>Die gewählte Ebene ist ausgeschaltet: zuerst ankreuzen.</translation>
    </message>
    <message>
        <source>A map is shown: show all layers to paint on them.</source>
        <translation>Eine Textur wird gezeigt: zum Malen alle Ebenen anzeigen.</translation>
    </message>
    <message>
        <source>The selected layer belongs to another stage: choose that first.</source>
        <translation>Die gewählte Ebene gehört zu einer anderen Stufe: zuerst diese wählen.</translation>
    </message>
</context>
<context>
    <name>SkinController</name>
    <message>
        <source>Open a project first.</source>
        <translation>Zuerst ein Projekt öffnen.</translation>
    </message>
    <message>
        <source>This base has no UVs, so it can wear no skin. Lay them out in the program that it comes from, and make the kit again.</source>
        <translation>Diese Basis hat keine UVs und kann darum keine Haut tragen. Die UVs im Herkunftsprogramm auslegen und das Kit neu anlegen.</translation>
    </message>
    <message>
        <source>There is no subject yet: gather a scan or photographs first.</source>
        <translation>Es gibt noch keine Person: zuerst einen Scan oder Fotos sammeln.</translation>
    </message>
    <message>
        <source>Skin</source>
        <translation>Haut</translation>
    </message>
    <message>
        <source>New skin</source>
        <translation>Neue Haut</translation>
    </message>
    <message>
        <source>Copy of a skin</source>
        <translation>Kopie einer Haut</translation>
    </message>
    <message>
        <source>Remove skin</source>
        <translation>Haut entfernen</translation>
    </message>
    <message>
        <source>Rename skin</source>
        <translation>Haut umbenennen</translation>
    </message>
    <message>
        <source>Another skin</source>
        <translation>Andere Haut</translation>
    </message>
    <message>
        <source>Size of the skin</source>
        <translation>Größe der Haut</translation>
    </message>
    <message>
        <source>Bake a layer</source>
        <translation>Ebene backen</translation>
    </message>
    <message>
        <source>Painted</source>
        <translation>Gemalt</translation>
    </message>
    <message>
        <source>New painted layer</source>
        <translation>Neue gemalte Ebene</translation>
    </message>
    <message>
        <source>Putting a skin on</source>
        <translation>Haut wird angezogen</translation>
    </message>
    <message>
        <source>Wear another skin</source>
        <translation>Andere Haut tragen</translation>
    </message>
    <message>
        <source>Remove layer</source>
        <translation>Ebene entfernen</translation>
    </message>
    <message>
        <source>Order of layers</source>
        <translation>Reihenfolge der Ebenen</translation>
    </message>
    <message>
        <source>Baking the skin of %1</source>
        <translation>Haut von %1 wird gebacken</translation>
    </message>
    <message>
        <source>Bake skin</source>
        <translation>Haut backen</translation>
    </message>
    <message>
        <source>Composing the skin</source>
        <translation>Haut wird zusammengesetzt</translation>
    </message>
    <message>
        <source>Writing maps</source>
        <translation>Texturen werden geschrieben</translation>
    </message>
    <message numerus="yes">
        <source>Written: %n file(s)</source>
        <translation>
            <numerusform>%n Datei geschrieben</numerusform>
            <numerusform>%n Dateien geschrieben</numerusform>
        </translation>
    </message>
    <message>
        <source>Writing the skin&apos;s GLB</source>
        <translation>GLB der Haut wird geschrieben</translation>
    </message>
    <message>
        <source>Written: %1</source>
        <translation>Geschrieben: %1</translation>
    </message>
    <message>
        <source>Writing the kit</source>
        <translation>Kit wird geschrieben</translation>
    </message>
    <message>
        <source>New stage of a skin</source>
        <translation>Neue Stufe einer Haut</translation>
    </message>
    <message>
        <source>Remove stage</source>
        <translation>Stufe entfernen</translation>
    </message>
    <message>
        <source>Mixing skins</source>
        <translation>Häute werden gemischt</translation>
    </message>
    <message>
        <source>Wear the mix</source>
        <translation>Mischung tragen</translation>
    </message>
    <message>
        <source>The mix</source>
        <translation>Die Mischung</translation>
    </message>
    <message>
        <source>Carrying a skin over</source>
        <translation>Haut wird übertragen</translation>
    </message>
    <message>
        <source>Wear a skin of another project</source>
        <translation>Haut eines anderen Projekts tragen</translation>
    </message>
    <message>
        <source>Wear a kit&apos;s skin</source>
        <translation>Haut eines Kits tragen</translation>
    </message>
    <message>
        <source>Finding the region</source>
        <translation>Region wird gesucht</translation>
    </message>
    <message>
        <source>Show a layer in a region</source>
        <translation>Ebene in einer Region zeigen</translation>
    </message>
    <message>
        <source>Looking at the picture</source>
        <translation>Bild wird angesehen</translation>
    </message>
    <message>
        <source>Tone of a layer</source>
        <translation>Ton einer Ebene</translation>
    </message>
    <message>
        <source>Relief is baked from a scan or sculpt, and the current fit was made from none.</source>
        <translation>Relief wird aus einem Scan oder einer Skulptur gebacken, und der aktuelle Fit ist aus keinem von beiden entstanden.</translation>
    </message>
</context>
<context>
    <name>SkinPanel</name>
    <message>
        <source>Show</source>
        <translation>Anzeige</translation>
    </message>
    <message>
        <source>No light</source>
        <translation>Ohne Licht</translation>
    </message>
    <message>
        <source>The skin&apos;s colours as they are, without shading</source>
        <translation>Die Farben der Haut, wie sie sind, ohne Schattierung</translation>
    </message>
    <message>
        <source>Layers</source>
        <translation>Ebenen</translation>
    </message>
    <message>
        <source>What the skin is made of, from below upwards</source>
        <translation>Woraus die Haut besteht, von unten nach oben</translation>
    </message>
    <message>
        <source>Brush</source>
        <translation>Pinsel</translation>
    </message>
    <message>
        <source>Paint, heal and erase on the model or on its UVs</source>
        <translation>Auf dem Modell oder den UVs malen, ausbessern und radieren</translation>
    </message>
    <message>
        <source>UVs and regions</source>
        <translation>UVs und Regionen</translation>
    </message>
    <message>
        <source>How the UVs lie, and what each region shows</source>
        <translation>Wie die UVs liegen und was jede Region zeigt</translation>
    </message>
    <message>
        <source>Maps out</source>
        <translation>Texturen ausgeben</translation>
    </message>
    <message>
        <source>Colours, normals, heights and masks as files</source>
        <translation>Farben, Normalen, Höhen und Masken als Dateien</translation>
    </message>
    <message>
        <source>Skin</source>
        <translation>Haut</translation>
    </message>
    <message>
        <source>More</source>
        <translation>Mehr</translation>
    </message>
    <message>
        <source>Another skin for the subject, a copy, another name</source>
        <translation>Weitere Haut der Person, eine Kopie, ein anderer Name</translation>
    </message>
    <message>
        <source>New skin</source>
        <translation>Neue Haut</translation>
    </message>
    <message>
        <source>Copy</source>
        <translation>Kopieren</translation>
    </message>
    <message>
        <source>Rename…</source>
        <translation>Umbenennen …</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Layer</source>
        <translation>Ebene</translation>
    </message>
    <message>
        <source>Seen</source>
        <translation>Gesehen</translation>
    </message>
    <message>
        <source>Bake the fit</source>
        <translation>Fit backen</translation>
    </message>
    <message>
        <source>A layer of the current fit&apos;s scan, sculpt or photographs</source>
        <translation>Eine Ebene aus Scan, Skulptur oder Fotos des aktuellen Fits</translation>
    </message>
    <message>
        <source>Painted layer</source>
        <translation>Gemalte Ebene</translation>
    </message>
    <message>
        <source>An empty layer to paint on</source>
        <translation>Eine leere Ebene zum Bemalen</translation>
    </message>
    <message>
        <source>Wear another</source>
        <translation>Andere tragen</translation>
    </message>
    <message>
        <source>Another subject&apos;s skin, or another of this one, as a layer</source>
        <translation>Die Haut einer anderen Person, oder eine andere von dieser, als Ebene</translation>
    </message>
    <message>
        <source>Up</source>
        <translation>Nach oben</translation>
    </message>
    <message>
        <source>Down</source>
        <translation>Nach unten</translation>
    </message>
    <message>
        <source>Fits have changed since these layers were baked</source>
        <translation>Fits haben sich geändert, seit diese Ebenen gebacken wurden</translation>
    </message>
    <message>
        <source>Amount</source>
        <translation>Anteil</translation>
    </message>
    <message>
        <source>Amount of a layer</source>
        <translation>Anteil einer Ebene</translation>
    </message>
    <message>
        <source>Blend</source>
        <translation>Mischung</translation>
    </message>
    <message>
        <source>Blend of a layer</source>
        <translation>Mischung einer Ebene</translation>
    </message>
    <message>
        <source>Light out</source>
        <translation>Licht heraus</translation>
    </message>
    <message>
        <source>How a layer is baked</source>
        <translation>Wie eine Ebene gebacken wird</translation>
    </message>
    <message>
        <source>Leave out what is no skin</source>
        <translation>Weglassen, was keine Haut ist</translation>
    </message>
    <message>
        <source>Hair, caps, collars: by what the source says, and by their colours</source>
        <translation>Haare, Mützen, Kragen: nach Angabe der Quelle und nach ihren Farben</translation>
    </message>
    <message>
        <source>Keep brows and beard</source>
        <translation>Brauen und Bart behalten</translation>
    </message>
    <message>
        <source>What lies within the face stays, unless it goes on beyond it</source>
        <translation>Was im Gesicht liegt, bleibt, wenn es nicht darüber hinausgeht</translation>
    </message>
    <message>
        <source>Fill from the other side first</source>
        <translation>Zuerst von der anderen Seite füllen</translation>
    </message>
    <message>
        <source>What is missed comes from the other half where that was seen, else from the base&apos;s skin</source>
        <translation>Was fehlt, kommt von der anderen Hälfte, wo diese gesehen wurde, sonst von der Haut der Basis</translation>
    </message>
    <message>
        <source>Bake again</source>
        <translation>Neu backen</translation>
    </message>
    <message>
        <source>The colour to paint with; Alt and click picks one from the skin</source>
        <translation>Die Farbe zum Malen; Alt und Klick nimmt eine von der Haut</translation>
    </message>
    <message>
        <source>Colour to paint with</source>
        <translation>Farbe zum Malen</translation>
    </message>
    <message>
        <source>Radius on the surface; [ and ] change it</source>
        <translation>Radius auf der Oberfläche; mit [ und ] zu ändern</translation>
    </message>
    <message>
        <source>How much of the radius gets all of the stroke</source>
        <translation>Wie viel vom Radius den ganzen Strich bekommt</translation>
    </message>
    <message>
        <source>How much a stroke covers; a pen&apos;s pressure is part of it</source>
        <translation>Wie stark ein Strich deckt; der Druck eines Stifts gehört dazu</translation>
    </message>
    <message>
        <source>Colour</source>
        <translation>Farbe</translation>
    </message>
    <message>
        <source>Size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>Hardness</source>
        <translation>Härte</translation>
    </message>
    <message>
        <source>Strength</source>
        <translation>Stärke</translation>
    </message>
    <message>
        <source>Tile</source>
        <translation>Kachel</translation>
    </message>
    <message>
        <source>Edges of the UVs</source>
        <translation>Kanten der UVs</translation>
    </message>
    <message>
        <source>What each region shows</source>
        <translation>Was jede Region zeigt</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Regionen</translation>
    </message>
    <message>
        <source>Region</source>
        <translation>Region</translation>
    </message>
    <message>
        <source>Reach</source>
        <translation>Reichweite</translation>
    </message>
    <message>
        <source>Texels a side</source>
        <translation>Texel je Seite</translation>
    </message>
    <message>
        <source>Of the skin: layers are baked anew at another size</source>
        <translation>Der Haut: bei anderer Größe werden Ebenen neu gebacken</translation>
    </message>
    <message>
        <source>Format</source>
        <translation>Format</translation>
    </message>
    <message>
        <source>Format of displacement</source>
        <translation>Format der Verschiebung</translation>
    </message>
    <message>
        <source>How often the base is subdivided where normals and displacement are used</source>
        <translation>Wie oft die Basis unterteilt ist, wo Normalen und Verschiebung verwendet werden</translation>
    </message>
    <message>
        <source>{name}, {map}, {tile} and {udim} are filled in</source>
        <translation>{name}, {map}, {tile} und {udim} werden ausgefüllt</translation>
    </message>
    <message>
        <source>Displacement</source>
        <translation>Verschiebung</translation>
    </message>
    <message>
        <source>Subdivided</source>
        <translation>Unterteilt</translation>
    </message>
    <message>
        <source>Names</source>
        <translation>Namen</translation>
    </message>
    <message>
        <source>Write maps…</source>
        <translation>Texturen schreiben …</translation>
    </message>
    <message>
        <source>Into a folder, with a sheet that says what they are</source>
        <translation>In einen Ordner, mit einer Liste, die sagt, was sie sind</translation>
    </message>
    <message>
        <source>Write GLB…</source>
        <translation>GLB schreiben …</translation>
    </message>
    <message numerus="yes">
        <source>Bake %n layer(s) again</source>
        <translation>
            <numerusform>%n Ebene neu backen</numerusform>
            <numerusform>%n Ebenen neu backen</numerusform>
        </translation>
    </message>
    <message>
        <source>to bake</source>
        <translation>zu backen</translation>
    </message>
    <message>
        <source>Painted; it lies on the base&apos;s own surface and stays.</source>
        <translation>Gemalt; liegt auf der Oberfläche der Basis und bleibt.</translation>
    </message>
    <message>
        <source>Another skin, as it was when it was put on.</source>
        <translation>Eine andere Haut, wie sie beim Anziehen war.</translation>
    </message>
    <message>
        <source>Baking…</source>
        <translation>Wird gebacken …</translation>
    </message>
    <message>
        <source>Not baked yet.</source>
        <translation>Noch nicht gebacken.</translation>
    </message>
    <message>
        <source>Its fit or how it is baked has changed since.</source>
        <translation>Ihr Fit oder wie sie gebacken wird hat sich seither geändert.</translation>
    </message>
    <message>
        <source>Seen %1 %, from the other side %2 %, filled %3 %.</source>
        <translation>Gesehen %1 %, von der anderen Seite %2 %, gefüllt %3 %.</translation>
    </message>
    <message>
        <source>Light: from %1 to %2 times a well lit place.</source>
        <translation>Licht: das %1- bis %2-Fache einer gut beleuchteten Stelle.</translation>
    </message>
    <message>
        <source>No skin by its colour: %1 % of what is seen.</source>
        <translation>Nach der Farbe keine Haut: %1 % des Gesehenen.</translation>
    </message>
    <message>
        <source>The skin is the base&apos;s own until a layer is baked, worn or painted.</source>
        <translation>Die Haut ist die der Basis, bis eine Ebene gebacken, getragen oder gemalt wird.</translation>
    </message>
    <message>
        <source>Islands: %1. Used: %2 %. Texels per mm: %3. Overlapping: %4 %. Mirrored faces: %5, without area: %6.</source>
        <translation>Inseln: %1. Genutzt: %2 %. Texel je mm: %3. Überlappend: %4 %. Gespiegelte Flächen: %5, ohne Fläche: %6.</translation>
    </message>
    <message>
        <source>From the other side %1 %, on another sheet %2 %</source>
        <translation>Von der anderen Seite %1 %, auf einer anderen Schicht %2 %</translation>
    </message>
    <message>
        <source>The project has no other skin</source>
        <translation>Das Projekt hat keine andere Haut</translation>
    </message>
    <message>
        <source>Rename skin</source>
        <translation>Haut umbenennen</translation>
    </message>
    <message>
        <source>Name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>Folder for the maps</source>
        <translation>Ordner für die Texturen</translation>
    </message>
    <message>
        <source>Tick at least one map to write.</source>
        <translation>Mindestens eine Textur ankreuzen.</translation>
    </message>
    <message>
        <source>Base wearing this skin</source>
        <translation>Basis in dieser Haut</translation>
    </message>
    <message>
        <source>glTF binary (*.glb)</source>
        <translation>glTF binär (*.glb)</translation>
    </message>
    <message>
        <source>To bake one, fit the base to a scan or photographs first.</source>
        <translation>Um eine zu backen, zuerst die Basis an einen Scan oder Fotos anpassen.</translation>
    </message>
    <message>
        <source>Halves</source>
        <translation>Hälften</translation>
    </message>
    <message>
        <source>Both, as they are</source>
        <translation>Beide, wie sie sind</translation>
    </message>
    <message>
        <source>The left for both</source>
        <translation>Die linke für beide</translation>
    </message>
    <message>
        <source>The right for both</source>
        <translation>Die rechte für beide</translation>
    </message>
    <message>
        <source>The person&apos;s own left and right; which one shows more is said under UVs and regions</source>
        <translation>Links und rechts der Person; welche Hälfte mehr zeigt, steht unter UVs und Regionen</translation>
    </message>
    <message>
        <source>Better</source>
        <translation>Besser</translation>
    </message>
    <message>
        <source>left</source>
        <translation>links</translation>
    </message>
    <message>
        <source>right</source>
        <translation>rechts</translation>
    </message>
    <message>
        <source>Beside</source>
        <translation>Daneben</translation>
    </message>
    <message>
        <source>A photograph, with the model seen through its camera</source>
        <translation>Ein Foto, das Modell durch dessen Kamera gesehen</translation>
    </message>
    <message>
        <source>Against</source>
        <translation>Verglichen mit</translation>
    </message>
    <message>
        <source>What is seen at the left of the line</source>
        <translation>Was links der Linie zu sehen ist</translation>
    </message>
    <message>
        <source>Line</source>
        <translation>Linie</translation>
    </message>
    <message>
        <source>Shut lids and an open mouth are looked at in Prove: the shapes there wear this skin.</source>
        <translation>Geschlossene Lider und offener Mund werden unter Prüfen angesehen: die Formen dort tragen diese Haut.</translation>
    </message>
    <message>
        <source>The scan</source>
        <translation>Der Scan</translation>
    </message>
    <message>
        <source>The tile</source>
        <translation>Die Kachel</translation>
    </message>
    <message>
        <source>Nothing</source>
        <translation>Nichts</translation>
    </message>
    <message>
        <source>Without the selected layer</source>
        <translation>Ohne die gewählte Ebene</translation>
    </message>
    <message>
        <source>The base&apos;s own skin</source>
        <translation>Die eigene Haut der Basis</translation>
    </message>
    <message>
        <source>Only in</source>
        <translation>Nur in</translation>
    </message>
    <message>
        <source>Shows the selected layer in one region, softly bordered</source>
        <translation>Zeigt die gewählte Ebene in einer Region, mit weichem Rand</translation>
    </message>
    <message>
        <source>Stage of a layer</source>
        <translation>Stufe einer Ebene</translation>
    </message>
    <message>
        <source>Tone</source>
        <translation>Ton</translation>
    </message>
    <message>
        <source>How far it is brought to another tone, region by region; at 0 what is filled, the body too, is brought to this one&apos;s</source>
        <translation>Wie weit sie Region für Region an einen anderen Ton angeglichen wird; bei 0 wird Gefülltes, auch der Körper, an diesen angeglichen</translation>
    </message>
    <message>
        <source>Tone of</source>
        <translation>Ton von</translation>
    </message>
    <message>
        <source>Fill with the person&apos;s own grain</source>
        <translation>Mit der eigenen Körnung füllen</translation>
    </message>
    <message>
        <source>Pores and freckles of what is seen, in place of the base&apos;s own skin</source>
        <translation>Poren und Sommersprossen des Gesehenen statt der Haut der Basis</translation>
    </message>
    <message>
        <source>Squares show how evenly the UVs lie: all should be as large and as square. Relief is lit by the view&apos;s light: let it fall along the surface</source>
        <translation>Quadrate zeigen, wie gleichmäßig die UVs liegen: alle sollten gleich groß und quadratisch sein. Das Relief steht im Licht der Ansicht: lassen Sie es streifend einfallen</translation>
    </message>
    <message>
        <source>Compare</source>
        <translation>Vergleichen</translation>
    </message>
    <message>
        <source>What stands beside the model, and what it is held against</source>
        <translation>Was neben dem Modell steht und womit es verglichen wird</translation>
    </message>
    <message>
        <source>New stage…</source>
        <translation>Neue Stufe …</translation>
    </message>
    <message>
        <source>Remove the stage</source>
        <translation>Stufe entfernen</translation>
    </message>
    <message>
        <source>Stage</source>
        <translation>Stufe</translation>
    </message>
    <message>
        <source>What the skin becomes in an expression or a pose: flushed, wrinkled. New layers belong to the stage that is chosen</source>
        <translation>Was die Haut in einem Ausdruck oder einer Pose wird: gerötet, faltig. Neue Ebenen gehören zur gewählten Stufe</translation>
    </message>
    <message>
        <source>Write kit…</source>
        <translation>Kit schreiben …</translation>
    </message>
    <message>
        <source>The kit with this skin in place of its own pictures, as a folder</source>
        <translation>Das Kit mit dieser Haut statt seiner eigenen Bilder, als Ordner</translation>
    </message>
    <message>
        <source>As the bank is mixed</source>
        <translation>Wie die Bank gemischt ist</translation>
    </message>
    <message>
        <source>From another project…</source>
        <translation>Aus einem anderen Projekt …</translation>
    </message>
    <message>
        <source>What another kit wears…</source>
        <translation>Was ein anderes Kit trägt …</translation>
    </message>
    <message>
        <source>A kit&apos;s folder</source>
        <translation>Ordner eines Kits</translation>
    </message>
    <message>
        <source>Everywhere</source>
        <translation>Überall</translation>
    </message>
    <message>
        <source>A project with skins</source>
        <translation>Ein Projekt mit Häuten</translation>
    </message>
    <message>
        <source>Projects (*.veldstone)</source>
        <translation>Projekte (*.veldstone)</translation>
    </message>
    <message>
        <source>That project has no skin.</source>
        <translation>Dieses Projekt hat keine Haut.</translation>
    </message>
    <message>
        <source>Which skin?</source>
        <translation>Welche Haut?</translation>
    </message>
    <message>
        <source>A colour…</source>
        <translation>Eine Farbe …</translation>
    </message>
    <message>
        <source>A picture&apos;s face…</source>
        <translation>Das Gesicht eines Bildes …</translation>
    </message>
    <message>
        <source>What the face is to look like</source>
        <translation>Wie das Gesicht aussehen soll</translation>
    </message>
    <message>
        <source>A picture of a face</source>
        <translation>Ein Bild eines Gesichts</translation>
    </message>
    <message>
        <source>Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.heic)</source>
        <translation>Bilder (*.jpg *.jpeg *.png *.tif *.tiff *.heic)</translation>
    </message>
    <message>
        <source>Tone of a layer</source>
        <translation>Ton einer Ebene</translation>
    </message>
    <message>
        <source>No stage</source>
        <translation>Keine Stufe</translation>
    </message>
    <message>
        <source>New stage</source>
        <translation>Neue Stufe</translation>
    </message>
    <message>
        <source>None</source>
        <translation>Keiner</translation>
    </message>
    <message>
        <source>Of a scan of that expression: its wrinkles go out as this stage&apos;s normals</source>
        <translation>Von einem Scan dieses Ausdrucks: seine Falten werden als Normalen der Stufe ausgegeben</translation>
    </message>
    <message>
        <source>The skin&apos;s own</source>
        <translation>Der Haut selbst</translation>
    </message>
    <message>
        <source>Expression</source>
        <translation>Ausdruck</translation>
    </message>
    <message>
        <source>Relief of</source>
        <translation>Relief von</translation>
    </message>
    <message>
        <source>New folder for the kit</source>
        <translation>Neuer Ordner für das Kit</translation>
    </message>
    <message>
        <source>Of the stage %1</source>
        <translation>Von der Stufe %1</translation>
    </message>
    <message>
        <source>Only in the stage %1</source>
        <translation>Nur in der Stufe %1</translation>
    </message>
    <message>
        <source>A region…</source>
        <translation>Eine Region …</translation>
    </message>
    <message>
        <source>A skin that is no longer there</source>
        <translation>Eine Haut, die es nicht mehr gibt</translation>
    </message>
    <message>
        <source>How much of the light it was taken in goes out of the colours, with the shadows that a lamp casts</source>
        <translation>Wie viel vom Licht der Aufnahme aus den Farben genommen wird, samt den Schatten, die eine Lampe wirft</translation>
    </message>
    <message>
        <source>Shine out</source>
        <translation>Glanz heraus</translation>
    </message>
    <message>
        <source>How much of the highlights goes out: what is lighter and whiter than the skin around it</source>
        <translation>Wie viel von den Glanzlichtern herausgeht: was heller und weißer ist als die Haut ringsum</translation>
    </message>
    <message>
        <source>A lamp&apos;s shadow on %1 % of what is seen.</source>
        <translation>Schatten einer Lampe auf %1 % des Gesehenen.</translation>
    </message>
    <message>
        <source>Shine on %1 % of it.</source>
        <translation>Glanz auf %1 % davon.</translation>
    </message>
    <message>
        <source>What is written together</source>
        <translation>Was zusammen geschrieben wird</translation>
    </message>
    <message>
        <source>This skin</source>
        <translation>Diese Haut</translation>
    </message>
    <message>
        <source>With its stages</source>
        <translation>Mit ihren Stufen</translation>
    </message>
    <message>
        <source>All skins and stages</source>
        <translation>Alle Häute und Stufen</translation>
    </message>
    <message>
        <source>Each under its own name; a stage with the relief of its expression&apos;s scan. In a GLB they are variants of its materials</source>
        <translation>Jede unter eigenem Namen; eine Stufe mit dem Relief vom Scan ihres Ausdrucks. In einer GLB sind es Varianten ihrer Materialien</translation>
    </message>
    <message>
        <source>Together</source>
        <translation>Zusammen</translation>
    </message>
    <message>
        <source>The base wearing this skin, with the bank&apos;s morphs and its joints; normals and occlusion where ticked</source>
        <translation>Die Basis in dieser Haut, mit den Morphs der Bank und ihren Gelenken; Normalen und Verdeckung, wo angekreuzt</translation>
    </message>
</context>
<context>
    <name>SkinStation</name>
    <message>
        <source>Baking…</source>
        <translation>Wird gebacken …</translation>
    </message>
    <message>
        <source>Layers to be baked again: %1</source>
        <comment>of the fit, which has changed</comment>
        <translation>Neu zu backende Ebenen: %1</translation>
    </message>
    <message>
        <source>%1: seen %2 %, from the other side %3 %, filled %4 %</source>
        <translation>%1: gesehen %2 %, von der anderen Seite %3 %, gefüllt %4 %</translation>
    </message>
    <message numerus="yes">
        <source>%1: %n layer(s)</source>
        <translation>
            <numerusform>%1: %n Ebene</numerusform>
            <numerusform>%1: %n Ebenen</numerusform>
        </translation>
    </message>
    <message>
        <source>%1  %2</source>
        <translation>%1  %2</translation>
    </message>
    <message>
        <source>Skin</source>
        <translation>Haut</translation>
    </message>
    <message>
        <source>Composing the skin…</source>
        <translation>Haut wird zusammengesetzt …</translation>
    </message>
    <message>
        <source>from the other side</source>
        <translation>von der anderen Seite</translation>
    </message>
    <message>
        <source>filled</source>
        <translation>gefüllt</translation>
    </message>
    <message>
        <source>another sheet, filled</source>
        <translation>andere Schicht, gefüllt</translation>
    </message>
    <message>
        <source>Tile %1</source>
        <translation>Kachel %1</translation>
    </message>
    <message>
        <source>%1 above the base</source>
        <translation>%1 über der Basis</translation>
    </message>
    <message>
        <source>%1 below</source>
        <translation>%1 darunter</translation>
    </message>
</context>
<context>
    <name>SkinWords</name>
    <message>
        <source>Over</source>
        <translation>Darüber</translation>
    </message>
    <message>
        <source>Multiply</source>
        <translation>Multiplizieren</translation>
    </message>
    <message>
        <source>Screen</source>
        <translation>Negativ multiplizieren</translation>
    </message>
    <message>
        <source>Soft light</source>
        <translation>Weiches Licht</translation>
    </message>
    <message>
        <source>Only its hue</source>
        <translation>Nur ihr Farbton</translation>
    </message>
    <message>
        <source>Only its lightness</source>
        <translation>Nur ihre Helligkeit</translation>
    </message>
    <message>
        <source>Paint</source>
        <translation>Malen</translation>
    </message>
    <message>
        <source>Smooth</source>
        <translation>Glätten</translation>
    </message>
    <message>
        <source>Sharpen</source>
        <translation>Schärfen</translation>
    </message>
    <message>
        <source>Clone</source>
        <translation>Klonen</translation>
    </message>
    <message>
        <source>Heal</source>
        <translation>Ausbessern</translation>
    </message>
    <message>
        <source>From the other side</source>
        <translation>Von der anderen Seite</translation>
    </message>
    <message>
        <source>Erase</source>
        <translation>Radieren</translation>
    </message>
    <message>
        <source>Bring back</source>
        <translation>Zurückholen</translation>
    </message>
    <message>
        <source>Paints with the colour. Alt and click picks one from the skin.</source>
        <translation>Malt mit der Farbe. Alt und Klick nimmt eine von der Haut.</translation>
    </message>
    <message>
        <source>Evens out what is there.</source>
        <translation>Gleicht aus, was da ist.</translation>
    </message>
    <message>
        <source>Brings out what is there.</source>
        <translation>Hebt hervor, was da ist.</translation>
    </message>
    <message>
        <source>Copies another place of the skin. Alt and click says which.</source>
        <translation>Kopiert eine andere Stelle der Haut. Alt und Klick sagt, welche.</translation>
    </message>
    <message>
        <source>Copies another place in the tone that is here. Alt and click says which.</source>
        <translation>Kopiert eine andere Stelle im Ton, der hier ist. Alt und Klick sagt, welche.</translation>
    </message>
    <message>
        <source>Copies what the other half shows.</source>
        <translation>Kopiert, was die andere Hälfte zeigt.</translation>
    </message>
    <message>
        <source>Lets the layers below the selected one show through.</source>
        <translation>Lässt die Ebenen unter der gewählten durchscheinen.</translation>
    </message>
    <message>
        <source>Brings back what was erased from the selected layer.</source>
        <translation>Holt zurück, was von der gewählten Ebene radiert wurde.</translation>
    </message>
    <message>
        <source>Colours</source>
        <translation>Farben</translation>
    </message>
    <message>
        <source>Normals</source>
        <translation>Normalen</translation>
    </message>
    <message>
        <source>Displacement</source>
        <translation>Verschiebung</translation>
    </message>
    <message>
        <source>Occlusion</source>
        <translation>Verdeckung</translation>
    </message>
    <message>
        <source>Curvature</source>
        <translation>Krümmung</translation>
    </message>
    <message>
        <source>Cavity</source>
        <translation>Vertiefung</translation>
    </message>
    <message>
        <source>Mask of parts</source>
        <translation>Maske der Teile</translation>
    </message>
    <message>
        <source>Mask of regions</source>
        <translation>Maske der Regionen</translation>
    </message>
    <message>
        <source>PNG, 8 bits</source>
        <translation>PNG, 8 Bit</translation>
    </message>
    <message>
        <source>PNG, 16 bits</source>
        <translation>PNG, 16 Bit</translation>
    </message>
    <message>
        <source>TIFF, 8 bits</source>
        <translation>TIFF, 8 Bit</translation>
    </message>
    <message>
        <source>TIFF, 16 bits</source>
        <translation>TIFF, 16 Bit</translation>
    </message>
    <message>
        <source>TIFF, 32 bits</source>
        <translation>TIFF, 32 Bit</translation>
    </message>
    <message>
        <source>EXR, 16 bits</source>
        <translation>EXR, 16 Bit</translation>
    </message>
    <message>
        <source>EXR, 32 bits</source>
        <translation>EXR, 32 Bit</translation>
    </message>
    <message>
        <source>All layers</source>
        <translation>Alle Ebenen</translation>
    </message>
    <message>
        <source>The selected layer alone</source>
        <translation>Nur die gewählte Ebene</translation>
    </message>
    <message>
        <source>Where it comes from</source>
        <translation>Woher sie kommt</translation>
    </message>
    <message>
        <source>Squares</source>
        <translation>Quadrate</translation>
    </message>
    <message>
        <source>Relief on clay</source>
        <translation>Relief auf Ton</translation>
    </message>
    <message>
        <source>All layers in relief</source>
        <translation>Alle Ebenen mit Relief</translation>
    </message>
</context>
<context>
    <name>SourceScene</name>
    <message>
        <source>Drop a scan or sculpt here, or use Gather → Add a source.</source>
        <translation>Einen Scan oder Sculpt hierher ziehen, oder Quellen → Quelle hinzufügen benutzen.</translation>
    </message>
    <message>
        <source>Finding landmarks…</source>
        <translation>Landmarken werden gesucht…</translation>
    </message>
    <message>
        <source>Reading…</source>
        <translation>Wird gelesen…</translation>
    </message>
    <message>
        <source>Source</source>
        <translation>Quelle</translation>
    </message>
    <message>
        <source>Preview  %1</source>
        <translation>Vorschau  %1</translation>
    </message>
    <message>
        <source>Source  %1</source>
        <translation>Quelle  %1</translation>
    </message>
    <message>
        <source>Preparing…</source>
        <translation>Wird vorbereitet…</translation>
    </message>
</context>
<context>
    <name>StartPage</name>
    <message>
        <source>Scans, sculpts and photographs onto your base mesh</source>
        <translation>Scans, Sculpts und Fotos auf dein Basisnetz</translation>
    </message>
    <message>
        <source>Mark</source>
        <translation>Markieren</translation>
    </message>
    <message>
        <source>Landmarks are found; the unsure ones come first.</source>
        <translation>Landmarken werden gefunden; die unsicheren kommen zuerst.</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>The base wraps onto the scan; figures say how close.</source>
        <translation>Die Basis legt sich auf den Scan; Kennzahlen sagen, wie genau.</translation>
    </message>
    <message>
        <source>Bank</source>
        <translation>Bank</translation>
    </message>
    <message>
        <source>Morph targets are mixed, checked and sent out.</source>
        <translation>Morph-Targets werden gemischt, geprüft und ausgegeben.</translation>
    </message>
    <message>
        <source>Open the demo</source>
        <translation>Demo öffnen</translation>
    </message>
    <message>
        <source>A base figure and three made-up people</source>
        <translation>Eine Basisfigur und drei erfundene Personen</translation>
    </message>
    <message>
        <source>New from a base kit…</source>
        <translation>Neu mit einem Basis-Kit…</translation>
    </message>
    <message>
        <source>A new project for your base mesh</source>
        <translation>Ein neues Projekt für dein Basisnetz</translation>
    </message>
    <message>
        <source>Open a project…</source>
        <translation>Projekt öffnen…</translation>
    </message>
    <message>
        <source>Recent</source>
        <translation>Zuletzt benutzt</translation>
    </message>
    <message>
        <source>Make a kit from your mesh…</source>
        <translation>Kit aus Ihrem Netz machen…</translation>
    </message>
    <message>
        <source>Your base mesh becomes a kit: landmarks, parts, regions and joints are found</source>
        <translation>Ihr Basisnetz wird ein Kit: Landmarken, Teile, Bereiche und Gelenke werden gefunden</translation>
    </message>
</context>
<context>
    <name>StationPage</name>
    <message>
        <source>%1: %2 triangles, %3 vertices</source>
        <translation>%1: %2 Dreiecke, %3 Punkte</translation>
    </message>
    <message>
        <source>Morphs in the bank: %1; in the mix: %2</source>
        <translation>Morphs in der Bank: %1; in der Mischung: %2</translation>
    </message>
    <message>
        <source>Larger brush</source>
        <translation>Größerer Pinsel</translation>
    </message>
    <message>
        <source>Smaller brush</source>
        <translation>Kleinerer Pinsel</translation>
    </message>
</context>
<context>
    <name>Stations</name>
    <message>
        <source>Gather</source>
        <translation>Quellen</translation>
    </message>
    <message>
        <source>Tidy</source>
        <translation>Säubern</translation>
    </message>
    <message>
        <source>Mark</source>
        <translation>Markieren</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>Touch up</source>
        <translation>Nacharbeit</translation>
    </message>
    <message>
        <source>Bank</source>
        <translation>Bank</translation>
    </message>
    <message>
        <source>Deliver</source>
        <translation>Ausgeben</translation>
    </message>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>Prove</source>
        <translation>Proben</translation>
    </message>
    <message>
        <source>Skin</source>
        <translation>Haut</translation>
    </message>
</context>
<context>
    <name>SubjectTree</name>
    <message>
        <source>The project&apos;s things</source>
        <translation>Die Dinge des Projekts</translation>
    </message>
    <message>
        <source>New subject…</source>
        <translation>Neue Person…</translation>
    </message>
    <message>
        <source>no source yet</source>
        <translation>noch keine Quelle</translation>
    </message>
    <message>
        <source>↻ %1</source>
        <translation>↻ %1</translation>
    </message>
    <message>
        <source>%1: the file on disk is newer</source>
        <translation>%1: die Datei auf der Platte ist neuer</translation>
    </message>
    <message numerus="yes">
        <source>%n landmark(s), %1 curves</source>
        <translation>
            <numerusform>%n Landmarke, %1 Kurven</numerusform>
            <numerusform>%n Landmarken, %1 Kurven</numerusform>
        </translation>
    </message>
    <message>
        <source>no landmarks yet</source>
        <translation>noch keine Landmarken</translation>
    </message>
    <message numerus="yes">
        <source>%1, %n photograph(s)</source>
        <translation>
            <numerusform>%1, %n Foto</numerusform>
            <numerusform>%1, %n Fotos</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%1, %n landmark(s)</source>
        <translation>
            <numerusform>%1, %n Landmarke</numerusform>
            <numerusform>%1, %n Landmarken</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Bank, %n morph(s)</source>
        <translation>
            <numerusform>Bank, %n Morph</numerusform>
            <numerusform>Bank, %n Morphs</numerusform>
        </translation>
    </message>
    <message>
        <source>Make %1 current</source>
        <translation>%1 zur aktuellen machen</translation>
    </message>
    <message>
        <source>New subject</source>
        <translation>Neue Person</translation>
    </message>
    <message>
        <source>Name:</source>
        <translation>Name:</translation>
    </message>
    <message>
        <source>Add %1</source>
        <translation>%1 hinzufügen</translation>
    </message>
    <message>
        <source>Rename</source>
        <translation>Umbenennen</translation>
    </message>
    <message>
        <source>Rename %1</source>
        <translation>%1 umbenennen</translation>
    </message>
    <message>
        <source>Rename…</source>
        <translation>Umbenennen…</translation>
    </message>
    <message>
        <source>Duplicate</source>
        <translation>Verdoppeln</translation>
    </message>
    <message>
        <source>Duplicate %1</source>
        <translation>%1 verdoppeln</translation>
    </message>
    <message>
        <source>Move up</source>
        <translation>Nach oben</translation>
    </message>
    <message>
        <source>Move %1</source>
        <translation>%1 verschieben</translation>
    </message>
    <message>
        <source>Move down</source>
        <translation>Nach unten</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Remove %1</source>
        <translation>%1 entfernen</translation>
    </message>
</context>
<context>
    <name>TidyController</name>
    <message>
        <source>Select none</source>
        <translation>Auswahl aufheben</translation>
    </message>
    <message>
        <source>Select by brush</source>
        <translation>Mit Pinsel auswählen</translation>
    </message>
    <message>
        <source>Select by lasso</source>
        <translation>Mit Lasso auswählen</translation>
    </message>
    <message>
        <source>Select by rectangle</source>
        <translation>Mit Rechteck auswählen</translation>
    </message>
    <message>
        <source>Select connected</source>
        <translation>Verbundenes auswählen</translation>
    </message>
    <message>
        <source>Select smooth area</source>
        <translation>Glatte Fläche auswählen</translation>
    </message>
    <message>
        <source>Select by colour</source>
        <translation>Nach Farbe auswählen</translation>
    </message>
    <message>
        <source>Click the middle of the subject&apos;s right eye (at the left of the picture).</source>
        <translation>Auf die Mitte des rechten Auges der Person klicken (im Bild links).</translation>
    </message>
    <message>
        <source>Now the left eye.</source>
        <translation>Jetzt das linke Auge.</translation>
    </message>
    <message>
        <source>Now the tip of the nose.</source>
        <translation>Jetzt die Nasenspitze.</translation>
    </message>
    <message>
        <source>Click a point of the floor under one foot.</source>
        <translation>Auf eine Stelle des Bodens unter einem Fuß klicken.</translation>
    </message>
    <message>
        <source>Now one under the other foot.</source>
        <translation>Jetzt eine unter dem anderen Fuß.</translation>
    </message>
    <message>
        <source>Click a component to select all of it. Shift adds, Ctrl removes.</source>
        <translation>Auf ein Stück klicken, um es ganz auszuwählen. Umschalt nimmt dazu, Strg nimmt weg.</translation>
    </message>
    <message>
        <source>Click an area to select it up to its sharp edges.</source>
        <translation>Auf eine Fläche klicken, um sie bis zu ihren scharfen Kanten auszuwählen.</translation>
    </message>
    <message>
        <source>Click a colour to select all that looks like it.</source>
        <translation>Auf eine Farbe klicken, um alles auszuwählen, was ihr gleicht.</translation>
    </message>
    <message>
        <source>Draw around what you want. Shift adds, Ctrl removes. Right button turns the view.</source>
        <translation>Um das Gewünschte zeichnen. Umschalt nimmt dazu, Strg nimmt weg. Rechte Taste dreht die Ansicht.</translation>
    </message>
    <message>
        <source>Paint what you want. Ctrl removes. Right button turns the view.</source>
        <translation>Das Gewünschte malen. Strg nimmt weg. Rechte Taste dreht die Ansicht.</translation>
    </message>
    <message>
        <source>Paint what the fit must ignore. Ctrl stops ignoring.</source>
        <translation>Malen, was die Anpassung ignorieren muss. Strg hebt es auf.</translation>
    </message>
    <message>
        <source>Paint what the fit should match again.</source>
        <translation>Malen, was die Anpassung wieder treffen soll.</translation>
    </message>
    <message>
        <source>Draw a line where the cut goes. What is above it stays; draw again to change it.</source>
        <translation>Eine Linie zeichnen, wo der Schnitt verläuft. Was darüber ist, bleibt; neu zeichnen ändert ihn.</translation>
    </message>
    <message>
        <source>Paint where the surface is too rough.</source>
        <translation>Malen, wo die Fläche zu rau ist.</translation>
    </message>
    <message>
        <source>Reload and redo</source>
        <translation>Neu laden und wiederholen</translation>
    </message>
    <message numerus="yes">
        <source>Run %n step(s)</source>
        <translation>
            <numerusform>%n Schritt ausführen</numerusform>
            <numerusform>%n Schritte ausführen</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>TidyPanel</name>
    <message>
        <source>Tidy</source>
        <translation>Säubern</translation>
    </message>
    <message>
        <source>Orient</source>
        <translation>Ausrichten</translation>
    </message>
    <message>
        <source>Select</source>
        <translation>Auswählen</translation>
    </message>
    <message>
        <source>Clean</source>
        <translation>Reinigen</translation>
    </message>
    <message>
        <source>Ignore</source>
        <translation>Ignorieren</translation>
    </message>
    <message>
        <source>Straighten</source>
        <translation>Aufrichten</translation>
    </message>
    <message>
        <source>Recognises the head or figure and turns it upright, facing front</source>
        <translation>Erkennt den Kopf oder die Figur und richtet sie auf, Gesicht nach vorn</translation>
    </message>
    <message>
        <source>Eyes and nose</source>
        <translation>Augen und Nase</translation>
    </message>
    <message>
        <source>Click both eyes and the nose tip</source>
        <translation>Auf beide Augen und die Nasenspitze klicken</translation>
    </message>
    <message>
        <source>Floor</source>
        <translation>Boden</translation>
    </message>
    <message>
        <source>Click two points of the floor</source>
        <translation>Auf zwei Stellen des Bodens klicken</translation>
    </message>
    <message>
        <source>Degrees of one press</source>
        <translation>Grad je Druck</translation>
    </message>
    <message>
        <source>Pitch</source>
        <translation>Nicken</translation>
    </message>
    <message>
        <source>Turn</source>
        <translation>Drehen</translation>
    </message>
    <message>
        <source>Roll</source>
        <translation>Rollen</translation>
    </message>
    <message>
        <source>by</source>
        <translation>um</translation>
    </message>
    <message>
        <source>Set on the floor</source>
        <translation>Auf den Boden stellen</translation>
    </message>
    <message>
        <source>Lowest point to the floor, centred over the origin</source>
        <translation>Tiefster Punkt auf den Boden, mittig über den Ursprung</translation>
    </message>
    <message>
        <source>Base overlay</source>
        <translation>Basis darüber</translation>
    </message>
    <message>
        <source>Shows the base mesh over the source to check how they line up</source>
        <translation>Zeigt das Basisnetz über der Quelle, um ihre Lage zu prüfen</translation>
    </message>
    <message>
        <source>Rectangle</source>
        <translation>Rechteck</translation>
    </message>
    <message>
        <source>Draw a rectangle</source>
        <translation>Ein Rechteck zeichnen</translation>
    </message>
    <message>
        <source>Lasso</source>
        <translation>Lasso</translation>
    </message>
    <message>
        <source>Draw freely around it</source>
        <translation>Frei darum zeichnen</translation>
    </message>
    <message>
        <source>Brush</source>
        <translation>Pinsel</translation>
    </message>
    <message>
        <source>Paint it; [ and ] change the size</source>
        <translation>Malen; [ und ] ändern die Größe</translation>
    </message>
    <message>
        <source>Connected</source>
        <translation>Verbunden</translation>
    </message>
    <message>
        <source>Click: the whole component</source>
        <translation>Klick: das ganze Stück</translation>
    </message>
    <message>
        <source>Smooth area</source>
        <translation>Glatte Fläche</translation>
    </message>
    <message>
        <source>Click: spreads up to sharp edges</source>
        <translation>Klick: breitet sich bis zu scharfen Kanten aus</translation>
    </message>
    <message>
        <source>Colour</source>
        <translation>Farbe</translation>
    </message>
    <message>
        <source>Click: all of this colour</source>
        <translation>Klick: alles in dieser Farbe</translation>
    </message>
    <message>
        <source>Only what is visible</source>
        <translation>Nur was sichtbar ist</translation>
    </message>
    <message>
        <source>Radius of every brush ([ and ])</source>
        <translation>Radius jedes Pinsels ([ und ])</translation>
    </message>
    <message>
        <source>° edge</source>
        <translation>° Kante</translation>
    </message>
    <message>
        <source>Smooth areas end at edges sharper than this</source>
        <translation>Glatte Flächen enden an schärferen Kanten</translation>
    </message>
    <message>
        <source> % colour difference</source>
        <translation> % Farbunterschied</translation>
    </message>
    <message>
        <source>How alike colours must be</source>
        <translation>Wie ähnlich Farben sein müssen</translation>
    </message>
    <message>
        <source>Grow</source>
        <translation>Erweitern</translation>
    </message>
    <message>
        <source>Shrink</source>
        <translation>Verkleinern</translation>
    </message>
    <message>
        <source>Invert</source>
        <translation>Umkehren</translation>
    </message>
    <message>
        <source>All</source>
        <translation>Alle</translation>
    </message>
    <message>
        <source>None</source>
        <translation>Keine</translation>
    </message>
    <message>
        <source>Delete</source>
        <translation>Löschen</translation>
    </message>
    <message>
        <source>Deletes the selected faces (Delete)</source>
        <translation>Löscht die gewählten Flächen (Entf)</translation>
    </message>
    <message>
        <source>Draw the cut</source>
        <translation>Schnitt zeichnen</translation>
    </message>
    <message>
        <source>Draw a line across the picture; the plane goes through it along the view</source>
        <translation>Eine Linie quer über das Bild zeichnen; die Ebene geht in Blickrichtung hindurch</translation>
    </message>
    <message>
        <source>Apply</source>
        <translation>Anwenden</translation>
    </message>
    <message>
        <source>Preview</source>
        <translation>Vorschau</translation>
    </message>
    <message>
        <source>Shows the result before anything is changed</source>
        <translation>Zeigt das Ergebnis, bevor etwas geändert wird</translation>
    </message>
    <message>
        <source>Keep</source>
        <translation>Behalten</translation>
    </message>
    <message>
        <source>Discard</source>
        <translation>Verwerfen</translation>
    </message>
    <message>
        <source>Smooth by brush</source>
        <translation>Mit Pinsel glätten</translation>
    </message>
    <message>
        <source>Paint over rough places; pen pressure counts</source>
        <translation>Über raue Stellen malen; Stiftdruck zählt</translation>
    </message>
    <message>
        <source>Strength of the brush</source>
        <translation>Stärke des Pinsels</translation>
    </message>
    <message>
        <source>The fit never matches ignored areas: hair, glasses, collar, stand. They stay in the source.</source>
        <translation>Die Anpassung trifft ignorierte Bereiche nie: Haar, Brille, Kragen, Ständer. Sie bleiben in der Quelle.</translation>
    </message>
    <message>
        <source>Paint what the fit must ignore</source>
        <translation>Malen, was die Anpassung ignorieren muss</translation>
    </message>
    <message>
        <source>Stop ignoring</source>
        <translation>Nicht mehr ignorieren</translation>
    </message>
    <message>
        <source>Paint what the fit should match again</source>
        <translation>Malen, was die Anpassung wieder treffen soll</translation>
    </message>
    <message>
        <source>Suggest</source>
        <translation>Vorschlagen</translation>
    </message>
    <message>
        <source>Selects what is likely hair, clothes or furniture: far from the base, rough, or with sharp steps. Straighten first.</source>
        <translation>Wählt aus, was wohl Haar, Kleidung oder Möbel ist: fern der Basis, rau oder mit scharfen Stufen. Erst aufrichten.</translation>
    </message>
    <message>
        <source>Ignore the selection</source>
        <translation>Auswahl ignorieren</translation>
    </message>
    <message>
        <source>Stop ignoring it</source>
        <translation>Auswahl nicht mehr ignorieren</translation>
    </message>
    <message>
        <source>Select none</source>
        <translation>Auswahl aufheben</translation>
    </message>
    <message>
        <source>Discards the suggestion</source>
        <translation>Verwirft den Vorschlag</translation>
    </message>
    <message>
        <source>Done to this source</source>
        <translation>Mit dieser Quelle gemacht</translation>
    </message>
    <message>
        <source>Save steps…</source>
        <translation>Schritte speichern…</translation>
    </message>
    <message>
        <source>As a recipe for other scans and the command line</source>
        <translation>Als Rezept für andere Scans und die Befehlszeile</translation>
    </message>
    <message>
        <source>Run steps…</source>
        <translation>Schritte ausführen…</translation>
    </message>
    <message>
        <source>Runs a recipe on this source</source>
        <translation>Führt ein Rezept an dieser Quelle aus</translation>
    </message>
    <message>
        <source>Write the source…</source>
        <translation>Quelle schreiben…</translation>
    </message>
    <message>
        <source>OBJ with textures, PLY, STL or GLB; as it came in, or upright in mm</source>
        <translation>OBJ mit Texturen, PLY, STL oder GLB; wie gekommen, oder aufrecht in mm</translation>
    </message>
    <message>
        <source>Nothing is selected.</source>
        <translation>Nichts ist ausgewählt.</translation>
    </message>
    <message>
        <source>Select an area first (page Select).</source>
        <translation>Erst einen Bereich auswählen (Abschnitt Auswählen).</translation>
    </message>
    <message>
        <source>Works on the whole mesh; select an area to limit it.</source>
        <translation>Wirkt auf das ganze Netz; ein gewählter Bereich begrenzt es.</translation>
    </message>
    <message>
        <source>Nothing is ignored.</source>
        <translation>Nichts wird ignoriert.</translation>
    </message>
    <message>
        <source>%1 % of the source is ignored (striped).</source>
        <translation>%1 % der Quelle werden ignoriert (gestreift).</translation>
    </message>
    <message>
        <source> %1 brush</source>
        <translation> %1 Pinsel</translation>
    </message>
    <message numerus="yes">
        <source>%n of %1 faces selected</source>
        <translation>
            <numerusform>%n von %1 Flächen ausgewählt</numerusform>
            <numerusform>%n von %1 Flächen ausgewählt</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Works on the %n selected face(s).</source>
        <translation>
            <numerusform>Wirkt auf die %n gewählte Fläche.</numerusform>
            <numerusform>Wirkt auf die %n gewählten Flächen.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>TidyStation</name>
    <message>
        <source>Working… Esc stops it.</source>
        <translation>Läuft… Esc hält an.</translation>
    </message>
    <message>
        <source>This is a preview. Keep or discard it.</source>
        <translation>Das ist eine Vorschau. Behalten oder verwerfen.</translation>
    </message>
    <message>
        <source>Tidy steps (*.json)</source>
        <translation>Schritte (*.json)</translation>
    </message>
    <message>
        <source>Run steps</source>
        <translation>Schritte ausführen</translation>
    </message>
    <message>
        <source>Save steps</source>
        <translation>Schritte speichern</translation>
    </message>
    <message>
        <source>In which frame should the source be written?</source>
        <translation>In welchem Rahmen soll die Quelle geschrieben werden?</translation>
    </message>
    <message>
        <source>As imported</source>
        <translation>Wie importiert</translation>
    </message>
    <message>
        <source>Upright, in mm</source>
        <translation>Aufrecht, in mm</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Write the source</source>
        <translation>Quelle schreiben</translation>
    </message>
    <message>
        <source>Meshes (*.obj *.ply *.stl *.glb)</source>
        <translation>Netze (*.obj *.ply *.stl *.glb)</translation>
    </message>
    <message>
        <source>Written: %1</source>
        <translation>Geschrieben: %1</translation>
    </message>
</context>
<context>
    <name>TouchController</name>
    <message>
        <source>There is no fit to touch up yet: make one in the Fit station.</source>
        <translation>Es gibt noch keine Anpassung zum Nacharbeiten: in der Station Anpassen eine erstellen.</translation>
    </message>
    <message>
        <source>A fit is running.</source>
        <translation>Eine Anpassung läuft.</translation>
    </message>
    <message>
        <source>The touch-up is off or at 0 %: switch it on to continue.</source>
        <translation>Die Nacharbeit ist aus oder auf 0 %: einschalten, um fortzufahren.</translation>
    </message>
    <message>
        <source>The source is being prepared; try again in a moment.</source>
        <translation>Die Quelle wird vorbereitet; gleich noch einmal versuchen.</translation>
    </message>
    <message>
        <source>This fit has no source to be pulled to.</source>
        <translation>Diese Anpassung hat keine Quelle, zu der gezogen werden könnte.</translation>
    </message>
    <message>
        <source>Scale the touch-up</source>
        <translation>Nacharbeit skalieren</translation>
    </message>
    <message>
        <source>Touch-up on</source>
        <translation>Nacharbeit an</translation>
    </message>
    <message>
        <source>Touch-up off</source>
        <translation>Nacharbeit aus</translation>
    </message>
    <message>
        <source>Clear touch-up</source>
        <translation>Nacharbeit löschen</translation>
    </message>
    <message>
        <source>Clear touch-up in a region</source>
        <translation>Nacharbeit in einer Region löschen</translation>
    </message>
    <message>
        <source>By brush: %1</source>
        <translation>Mit Pinsel: %1</translation>
    </message>
</context>
<context>
    <name>TouchPanel</name>
    <message>
        <source>Grab</source>
        <translation>Greifen</translation>
    </message>
    <message>
        <source>Move skin with the hand, in the plane of the view</source>
        <translation>Haut mit der Hand bewegen, in der Ebene der Ansicht</translation>
    </message>
    <message>
        <source>Smooth</source>
        <translation>Glätten</translation>
    </message>
    <message>
        <source>Take bumps away that the base has not; with Shift held every brush does this</source>
        <translation>Nimmt Beulen weg, die die Basis nicht hat; mit Umschalt tut das jeder Pinsel</translation>
    </message>
    <message>
        <source>Relax</source>
        <translation>Entspannen</translation>
    </message>
    <message>
        <source>Bring back the base&apos;s even edge flow; the form stays</source>
        <translation>Bringt den gleichmäßigen Kantenfluss der Basis zurück; die Form bleibt</translation>
    </message>
    <message>
        <source>Inflate</source>
        <translation>Aufblasen</translation>
    </message>
    <message>
        <source>Outwards</source>
        <translation>Nach außen</translation>
    </message>
    <message>
        <source>Deflate</source>
        <translation>Einziehen</translation>
    </message>
    <message>
        <source>Inwards</source>
        <translation>Nach innen</translation>
    </message>
    <message>
        <source>Flatten</source>
        <translation>Abflachen</translation>
    </message>
    <message>
        <source>Towards the plane of what is under the brush</source>
        <translation>Zur Ebene dessen, was unter dem Pinsel ist</translation>
    </message>
    <message>
        <source>Pull</source>
        <translation>Heranziehen</translation>
    </message>
    <message>
        <source>Onto the source&apos;s surface</source>
        <translation>Auf die Fläche der Quelle</translation>
    </message>
    <message>
        <source>Off eye</source>
        <translation>Vom Auge</translation>
    </message>
    <message>
        <source>Skin that sank into an eyeball comes out, by a lid&apos;s thickness</source>
        <translation>In den Augapfel gesunkene Haut kommt heraus, um die Dicke eines Lids</translation>
    </message>
    <message>
        <source>To base</source>
        <translation>Zur Basis</translation>
    </message>
    <message>
        <source>Back to the base&apos;s own form, laid into its surroundings</source>
        <translation>Zurück zur Form der Basis, in ihre Umgebung gelegt</translation>
    </message>
    <message>
        <source>Touch up</source>
        <translation>Nacharbeit</translation>
    </message>
    <message>
        <source>Radius along the surface ([ and ])</source>
        <translation>Radius auf der Fläche ([ und ])</translation>
    </message>
    <message>
        <source>How strong one stroke is; pen pressure scales it. At half, skin moves as far as the pointer.</source>
        <translation>Wie stark ein Strich ist; Stiftdruck wirkt mit. Bei der Hälfte bewegt sich Haut so weit wie der Zeiger.</translation>
    </message>
    <message>
        <source>Size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>Strength</source>
        <translation>Stärke</translation>
    </message>
    <message>
        <source>Soft edge</source>
        <translation>Weicher Rand</translation>
    </message>
    <message>
        <source>Round edge</source>
        <translation>Runder Rand</translation>
    </message>
    <message>
        <source>Pointed</source>
        <translation>Spitz</translation>
    </message>
    <message>
        <source>Constant</source>
        <translation>Gleichmäßig</translation>
    </message>
    <message>
        <source>How the strength falls towards the brush&apos;s rim</source>
        <translation>Wie die Stärke zum Rand des Pinsels abfällt</translation>
    </message>
    <message>
        <source>Both sides</source>
        <translation>Beide Seiten</translation>
    </message>
    <message>
        <source>The other side gets the mirrored stroke, matched by the base&apos;s own pairs, also on an asymmetric face</source>
        <translation>Die andere Seite bekommt den gespiegelten Strich, nach den Paaren der Basis, auch auf einem unsymmetrischen Gesicht</translation>
    </message>
    <message>
        <source>Front only</source>
        <translation>Nur vorn</translation>
    </message>
    <message>
        <source>Skin that faces away from the camera stays</source>
        <translation>Von der Kamera abgewandte Haut bleibt</translation>
    </message>
    <message>
        <source>Only in (none: everywhere)</source>
        <translation>Nur in (keine: überall)</translation>
    </message>
    <message>
        <source>On</source>
        <translation>An</translation>
    </message>
    <message>
        <source>The fit with or without manual edits</source>
        <translation>Die Anpassung mit oder ohne Handarbeit</translation>
    </message>
    <message>
        <source>How much of it: 100 % is as painted</source>
        <translation>Wie viel davon: 100 % ist wie gemalt</translation>
    </message>
    <message>
        <source>Where the touch-up is cleared</source>
        <translation>Wo die Nacharbeit gelöscht wird</translation>
    </message>
    <message>
        <source>Clear</source>
        <translation>Löschen</translation>
    </message>
    <message>
        <source>Removes the touch-up there; undo brings it back</source>
        <translation>Entfernt die Nacharbeit dort; Rückgängig bringt sie zurück</translation>
    </message>
    <message>
        <source>All of it</source>
        <translation>Alles</translation>
    </message>
    <message>
        <source>Measuring again…</source>
        <translation>Wird neu gemessen…</translation>
    </message>
    <message numerus="yes">
        <source>Touch-up: %n vertex(es), at most %1</source>
        <translation>
            <numerusform>Nacharbeit: %n Punkt, höchstens %1</numerusform>
            <numerusform>Nacharbeit: %n Punkte, höchstens %1</numerusform>
        </translation>
    </message>
    <message>
        <source>Median %1, flips %2, new self-intersections %3</source>
        <translation>Median %1, umgeklappt %2, neue Selbstdurchdringungen %3</translation>
    </message>
</context>
<context>
    <name>TriesTab</name>
    <message>
        <source>smooth below, mm</source>
        <translation>glatt unter, mm</translation>
    </message>
    <message>
        <source>neck fades over, mm</source>
        <translation>Hals geht über auf, mm</translation>
    </message>
    <message>
        <source>symmetry</source>
        <translation>Symmetrie</translation>
    </message>
    <message>
        <source>guide curves</source>
        <translation>Führungskurven</translation>
    </message>
    <message>
        <source>surface</source>
        <translation>Fläche</translation>
    </message>
    <message>
        <source>true size</source>
        <translation>wahre Größe</translation>
    </message>
    <message>
        <source>region fade, mm</source>
        <translation>Regionen laufen aus, mm</translation>
    </message>
    <message>
        <source>Fits</source>
        <translation>Anpassungen</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Anpassen</translation>
    </message>
    <message>
        <source>faults</source>
        <translation>Fehler</translation>
    </message>
    <message>
        <source>Make current</source>
        <translation>Zur aktuellen machen</translation>
    </message>
    <message>
        <source>Makes this the current fit; the others stay (double click)</source>
        <translation>Macht diese zur aktuellen Anpassung; die anderen bleiben (Doppelklick)</translation>
    </message>
    <message>
        <source>Use these settings</source>
        <translation>Diese Einstellungen nehmen</translation>
    </message>
    <message>
        <source>The next fit starts with these settings</source>
        <translation>Die nächste Anpassung beginnt mit diesen Einstellungen</translation>
    </message>
    <message>
        <source>Rename…</source>
        <translation>Umbenennen…</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Undo brings it back</source>
        <translation>Rückgängig bringt sie zurück</translation>
    </message>
    <message>
        <source>Fits side by side</source>
        <translation>Anpassungen nebeneinander</translation>
    </message>
    <message>
        <source>Make %1 current</source>
        <translation>%1 zur aktuellen machen</translation>
    </message>
    <message>
        <source>Settings of %1</source>
        <translation>Einstellungen von %1</translation>
    </message>
    <message>
        <source>Rename</source>
        <translation>Umbenennen</translation>
    </message>
    <message>
        <source>Name of the fit:</source>
        <translation>Name der Anpassung:</translation>
    </message>
    <message>
        <source>Rename a fit</source>
        <translation>Anpassung umbenennen</translation>
    </message>
    <message>
        <source>Remove %1</source>
        <translation>%1 entfernen</translation>
    </message>
    <message>
        <source>current</source>
        <translation>aktuell</translation>
    </message>
    <message>
        <source>matched area</source>
        <translation>getroffene Fläche</translation>
    </message>
    <message>
        <source>flips, self-int.</source>
        <translation>umgeklappt, Selbstschn.</translation>
    </message>
    <message>
        <source>stretch 95 %</source>
        <translation>Dehnung 95 %</translation>
    </message>
    <message>
        <source>Same settings.</source>
        <translation>Gleiche Einstellungen.</translation>
    </message>
    <message>
        <source>Settings, this fit → current: %1</source>
        <translation>Einstellungen, diese Anpassung → aktuelle: %1</translation>
    </message>
    <message>
        <source>median, %1</source>
        <translation>Median, %1</translation>
    </message>
    <message>
        <source>95 %, %1</source>
        <translation>95 %, %1</translation>
    </message>
    <message>
        <source>landmarks, %1</source>
        <translation>Landmarken, %1</translation>
    </message>
    <message>
        <source>asymmetry, %1</source>
        <translation>Asymmetrie, %1</translation>
    </message>
</context>
<context>
    <name>ViewSeats</name>
    <message>
        <source>Camera of its own</source>
        <translation>Eigene Kamera</translation>
    </message>
    <message>
        <source>Another view beside it</source>
        <translation>Noch eine Ansicht daneben</translation>
    </message>
    <message>
        <source>Close this view</source>
        <translation>Diese Ansicht schließen</translation>
    </message>
    <message>
        <source>All views</source>
        <translation>Alle Ansichten</translation>
    </message>
    <message>
        <source>This view alone</source>
        <translation>Nur diese Ansicht</translation>
    </message>
    <message>
        <source>As the station shows them</source>
        <translation>Wie die Station sie zeigt</translation>
    </message>
    <message>
        <source>Base</source>
        <translation>Basis</translation>
    </message>
    <message>
        <source>Source</source>
        <translation>Quelle</translation>
    </message>
    <message>
        <source>Photograph</source>
        <translation>Foto</translation>
    </message>
    <message>
        <source>Result</source>
        <translation>Ergebnis</translation>
    </message>
</context>
<context>
    <name>ViewSet</name>
    <message>
        <source>Photograph  %1</source>
        <translation>Foto  %1</translation>
    </message>
</context>
<context>
    <name>ViewTools</name>
    <message>
        <source>Front</source>
        <translation>Von vorn</translation>
    </message>
    <message>
        <source>Three-quarter</source>
        <translation>Halb von der Seite</translation>
    </message>
    <message>
        <source>Side</source>
        <translation>Von der Seite</translation>
    </message>
    <message>
        <source>Back</source>
        <translation>Von hinten</translation>
    </message>
    <message>
        <source>From below</source>
        <translation>Von unten</translation>
    </message>
    <message>
        <source>The other side</source>
        <translation>Die andere Seite</translation>
    </message>
    <message>
        <source>Frame</source>
        <translation>Einpassen</translation>
    </message>
    <message>
        <source>Frame the selected point, or the head</source>
        <translation>Den gewählten Punkt einpassen, oder den Kopf</translation>
    </message>
    <message>
        <source>Frame everything</source>
        <translation>Alles einpassen</translation>
    </message>
    <message>
        <source>Orthographic</source>
        <translation>Orthografisch</translation>
    </message>
    <message>
        <source>Orthographic or perspective</source>
        <translation>Orthografisch oder perspektivisch</translation>
    </message>
    <message>
        <source>FOV </source>
        <translation>FOV </translation>
    </message>
    <message>
        <source>Vertical field of view; the subject keeps its size (Ctrl+wheel)</source>
        <translation>Senkrechter Bildwinkel; die Größe im Bild bleibt (Strg+Rad)</translation>
    </message>
    <message>
        <source>Wireframe</source>
        <translation>Drahtgitter</translation>
    </message>
    <message>
        <source>Wireframe over the surface</source>
        <translation>Drahtgitter über der Fläche</translation>
    </message>
    <message>
        <source>Darken hollows</source>
        <translation>Vertiefungen abdunkeln</translation>
    </message>
    <message>
        <source>Nostrils, mouth, lids and ears read darker; takes a moment to make</source>
        <translation>Nasenlöcher, Mund, Lider und Ohren wirken dunkler; braucht einen Moment</translation>
    </message>
    <message>
        <source>Clay</source>
        <translation>Ton</translation>
    </message>
    <message>
        <source>Textured</source>
        <translation>Texturiert</translation>
    </message>
    <message>
        <source>Flat colour</source>
        <translation>Flache Farbe</translation>
    </message>
    <message>
        <source>How surfaces are shown (T)</source>
        <translation>Wie Flächen gezeigt werden (T)</translation>
    </message>
    <message>
        <source>Next shading</source>
        <translation>Nächste Darstellung</translation>
    </message>
    <message>
        <source>Soft light</source>
        <translation>Weiches Licht</translation>
    </message>
    <message>
        <source>Raking, left</source>
        <translation>Streiflicht, links</translation>
    </message>
    <message>
        <source>Raking, right</source>
        <translation>Streiflicht, rechts</translation>
    </message>
    <message>
        <source>Rim light</source>
        <translation>Kantenlicht</translation>
    </message>
    <message>
        <source>Silhouette</source>
        <translation>Silhouette</translation>
    </message>
    <message>
        <source>At the pointer</source>
        <translation>Am Zeiger</translation>
    </message>
    <message>
        <source>The light that shapes are looked at in (K)</source>
        <translation>Das Licht, in dem Formen betrachtet werden (K)</translation>
    </message>
    <message>
        <source>Next light</source>
        <translation>Nächstes Licht</translation>
    </message>
</context>
<context>
    <name>Viewport</name>
    <message>
        <source>%1, parallel</source>
        <translation>%1, parallel</translation>
    </message>
    <message>
        <source>%1, %2 mm</source>
        <translation>%1, %2 mm</translation>
    </message>
    <message>
        <source>orthographic</source>
        <translation>orthografisch</translation>
    </message>
    <message>
        <source>FOV %1°</source>
        <translation>FOV %1°</translation>
    </message>
    <message>
        <source> %1 and more</source>
        <translation> %1 und mehr</translation>
    </message>
</context>
</TS>
