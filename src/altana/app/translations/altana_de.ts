<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage="en">
<context>
    <name></name>
    <message>
        <source>Vertical edges: how far each deviates, in pixels of the output</source>
        <extracomment>The aids by name, with what each shows.</extracomment>
        <translation>Senkrechte Kanten: wie weit jede abweicht, in Pixeln der Ausgabe</translation>
    </message>
    <message>
        <source>Vanishing points of verticals and walls, and which way they lie</source>
        <translation>Fluchtpunkte der Senkrechten und der Wände, und in welcher Richtung sie liegen</translation>
    </message>
    <message>
        <source>Cut faces: where a bound opens something</source>
        <translation>Schnittflächen: wo eine Grenze etwas öffnet</translation>
    </message>
    <message>
        <source>Gaps: openings that nothing closes, ground that ends</source>
        <translation>Lücken: Öffnungen, die nichts schließt, Gelände, das endet</translation>
    </message>
    <message>
        <source>No vertical edge in view is long enough to be judged</source>
        <extracomment>The aids that are hatched over the picture.</extracomment>
        <translation>Keine senkrechte Kante im Bild ist lang genug, um beurteilt zu werden</translation>
    </message>
    <message numerus="yes">
        <source>%n vertical edges, at worst {worst:.1f} px off</source>
        <translation>
            <numerusform>%n senkrechte Kante, höchstens {worst:.1f} px daneben</numerusform>
            <numerusform>%n senkrechte Kanten, höchstens {worst:.1f} px daneben</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n vertical edges, all true</source>
        <translation>
            <numerusform>%n senkrechte Kante, sie stimmt</numerusform>
            <numerusform>%n senkrechte Kanten, alle stimmen</numerusform>
        </translation>
    </message>
    <message>
        <source>walls {name}</source>
        <translation>Wände {name}</translation>
    </message>
    <message>
        <source>{name} vanish here</source>
        <translation>{name} fluchten hier</translation>
    </message>
    <message>
        <source>{wide:.1f} frame widths away</source>
        <translation>{wide:.1f} Bildbreiten entfernt</translation>
    </message>
    <message>
        <source>very far</source>
        <translation>sehr weit</translation>
    </message>
    <message>
        <source>verticals stay vertical</source>
        <translation>Senkrechte bleiben senkrecht</translation>
    </message>
    <message>
        <source>walls {name} stay level</source>
        <translation>Wände {name} bleiben waagrecht</translation>
    </message>
    <message>
        <source>ground ends</source>
        <translation>Gelände endet</translation>
    </message>
    <message>
        <source>Walking keeps the eye&apos;s height above the floor.</source>
        <extracomment>A surface is level when the upright part of its normal is at least this. The drag that goes on, or the camera that is being stood.</extracomment>
        <translation>Beim Gehen bleibt die Augenhöhe über dem Boden.</translation>
    </message>
    <message>
        <source>Walking stays level, whatever the floor does.</source>
        <translation>Gehen bleibt waagrecht, was der Boden auch tut.</translation>
    </message>
    <message>
        <source>There is no wall there. Press on the wall to look past.</source>
        <translation>Dort ist keine Wand. Drücken Sie auf die Wand, an der vorbei gesehen werden soll.</translation>
    </message>
    <message>
        <source>There is no floor there. Press on a floor seen in the picture.</source>
        <translation>Dort ist kein Boden. Drücken Sie auf einen Boden im Bild.</translation>
    </message>
    <message>
        <source>That is not a floor. Press on a floor seen in the picture.</source>
        <translation>Das ist kein Boden. Drücken Sie auf einen Boden im Bild.</translation>
    </message>
    <message numerus="yes">
        <source>%n objects hidden here: the picture shows them</source>
        <extracomment>The line below the picture that says what it is for. Pixels at the Frame&apos;s edge where its tools lie. Whether the chosen object is outlined.</extracomment>
        <translation>
            <numerusform>%n Objekt ist hier verborgen: das Bild zeigt es</numerusform>
            <numerusform>%n Objekte sind hier verborgen: das Bild zeigt sie</numerusform>
        </translation>
    </message>
    <message>
        <source>Press on a floor: the eye. Drag: what it looks at. Escape leaves.</source>
        <translation>Auf einen Boden drücken: das Auge. Ziehen: worauf es blickt. Esc verlässt.</translation>
    </message>
    <message>
        <source>Press on the wall to look past, here or on the plan or section. Escape leaves.</source>
        <translation>Auf die Wand drücken, an der vorbei gesehen wird, hier oder in Grundriss oder Schnitt. Esc verlässt.</translation>
    </message>
    <message>
        <source>Kept plumb: the lens is shifted as far as it goes ({limit:.0f}°). Let it tilt to look further.</source>
        <translation>Lotrecht gehalten: das Objektiv ist bis zum Anschlag versetzt ({limit:.0f}°). Neigen erlauben, um weiter zu blicken.</translation>
    </message>
    <message>
        <source>speed × {speed:g}</source>
        <translation>Tempo × {speed:g}</translation>
    </message>
    <message>
        <source>Frame</source>
        <extracomment>The waiting time after the last movement before the picture sharpens. A narrower Frame has no room beside the picture. Room left and right of the picture for what stands there, as long as nothing wider does; above and below it, and everywhere in a small Frame. On the Walk desk the picture is a film frame. Room that the buttons left and right of the picture take. The next press stands a camera, or picks a wall for a wall cut. Steps and drags are this many times as large.
----------
What the drawings and the Frame answer to while they have the focus; it stands on the page of shortcuts.</extracomment>
        <translation>Sucher</translation>
    </message>
    <message>
        <source>Stand a camera: press “Stand a camera”, then press on the plan and drag to what it looks at.</source>
        <translation>Eine Kamera aufstellen: „Kamera aufstellen“ drücken, dann auf den Grundriss drücken und zu dem ziehen, was sie sieht.</translation>
    </message>
    <message>
        <source>Drawing the picture…</source>
        <translation>Das Bild wird gezeichnet…</translation>
    </message>
    <message>
        <source>{way} camera</source>
        <extracomment>The sixth way moves no camera: the picture within the lens. A press that moves less than this is no drag. Shifts this small, in mm, are held at nothing.</extracomment>
        <translation>Kamera: {way}</translation>
    </message>
    <message>
        <source>Rise and cross</source>
        <translation>Hoch- und Querversatz</translation>
    </message>
    <message>
        <source>Drag an edge</source>
        <translation>Kante ziehen</translation>
    </message>
    <message>
        <source>Move camera</source>
        <extracomment>So long after the last move they no longer follow each other.</extracomment>
        <translation>Kamera bewegen</translation>
    </message>
    <message>
        <source>Move eye</source>
        <extracomment>A rise this small is held at nothing.</extracomment>
        <translation>Auge bewegen</translation>
    </message>
    <message>
        <source>Move eye alone</source>
        <translation>Nur das Auge bewegen</translation>
    </message>
    <message>
        <source>Aim</source>
        <extracomment>While an overlay is shown, who answers to presses on it. Where the last press was, and what it took: pressing there again takes the next thing.</extracomment>
        <translation>Ziel</translation>
    </message>
    <message>
        <source>Change lens</source>
        <extracomment>Usual sensors and film gates, width before height.</extracomment>
        <translation>Objektiv ändern</translation>
    </message>
    <message>
        <source>Tilt</source>
        <translation>Neigung</translation>
    </message>
    <message>
        <source>Rise</source>
        <translation>Hochversatz</translation>
    </message>
    <message>
        <source>Hide nearer than</source>
        <extracomment>A wall cut this near to the wall&apos;s face is held there. How near to a grip the pointer takes it.</extracomment>
        <translation>Näheres verbergen</translation>
    </message>
    <message>
        <source>Hide beyond</source>
        <translation>Ferneres verbergen</translation>
    </message>
    <message>
        <source>Move wall cut</source>
        <translation>Wandschnitt bewegen</translation>
    </message>
    <message>
        <source>There is no ground here; the eye stands as if that beside the building went on.</source>
        <translation>Hier ist kein Gelände; das Auge steht, als ginge das neben dem Gebäude weiter.</translation>
    </message>
    <message>
        <source>No model is open yet.</source>
        <translation>Noch ist kein Modell offen.</translation>
    </message>
    <message>
        <source>Stand a camera</source>
        <extracomment>Pictures asked for at one time; more would only wait.</extracomment>
        <translation>Kamera aufstellen</translation>
    </message>
    <message>
        <source>As it will be made</source>
        <translation>Wie es gemacht wird</translation>
    </message>
    <message>
        <source>The picture as its row of the shot list makes it. Escape or F4: back to the Frame.</source>
        <translation>Das Bild, wie seine Zeile der Bildliste es macht. Esc oder F4: zurück zum Sucher.</translation>
    </message>
    <message>
        <source>Back to the Frame</source>
        <translation>Zurück zum Sucher</translation>
    </message>
    <message>
        <source>The camera&apos;s picture to move in (F4 or Escape)</source>
        <translation>Das Bild der Kamera, in dem man sich bewegt (F4 oder Esc)</translation>
    </message>
    <message>
        <source>As it will be made: drawing it as {rendition}…</source>
        <extracomment>What the picture in sight is of; None while another is wanted.</extracomment>
        <translation>Wie es gemacht wird: es wird gezeichnet als {rendition}…</translation>
    </message>
    <message>
        <source>, not in the shot list yet</source>
        <translation>, noch nicht in der Bildliste</translation>
    </message>
    <message>
        <source>, {quality} follows</source>
        <translation>, {quality} folgt</translation>
    </message>
    <message>
        <source>As it will be made: {rendition}, {word}{more}{whose}{note}</source>
        <translation>Wie es gemacht wird: {rendition}, {word}{more}{whose}{note}</translation>
    </message>
    <message>
        <source>Look round</source>
        <extracomment>The heading of the panorama&apos;s middle, and what it is called where two are beside each other. Another panorama that is turned with this one, to the same point of the compass.</extracomment>
        <translation>Umsehen</translation>
    </message>
    <message>
        <source>Drag to look round, turn the wheel for the angle of view; arrow keys turn by ten degrees</source>
        <translation>Ziehen, um sich umzusehen, Rad für den Bildwinkel; Pfeiltasten drehen um zehn Grad</translation>
    </message>
    <message>
        <source>No panorama chosen</source>
        <translation>Kein Panorama gewählt</translation>
    </message>
    <message>
        <source>{heading_deg:.0f}° · {angle_deg:.0f}° wide</source>
        <translation>{heading_deg:.0f}° · {angle_deg:.0f}° weit</translation>
    </message>
    <message>
        <source>Keep as new</source>
        <translation>Als neue behalten</translation>
    </message>
    <message>
        <source>Make a new camera of this view with the lens it has now (key N)</source>
        <translation>Aus dieser Ansicht eine neue Kamera machen, mit dem jetzigen Objektiv (Taste N)</translation>
    </message>
    <message>
        <source>Keep with the usual lens</source>
        <translation>Mit dem üblichen Objektiv behalten</translation>
    </message>
    <message>
        <source>Make a new camera with the usual lens, the subject as large as it is now (key Shift+N)</source>
        <translation>Eine neue Kamera mit dem üblichen Objektiv machen, das Motiv so groß wie jetzt (Taste Umschalt+N)</translation>
    </message>
    <message>
        <source>Move camera here</source>
        <translation>Kamera hierher</translation>
    </message>
    <message>
        <source>Give the camera this view; one undo step (key M)</source>
        <translation>Der Kamera diese Ansicht geben; ein Schritt im Widerruf (Taste M)</translation>
    </message>
    <message>
        <source>Back to camera</source>
        <translation>Zurück zur Kamera</translation>
    </message>
    <message>
        <source>Show the camera as it stands (key L)</source>
        <translation>Die Kamera zeigen, wie sie steht (Taste L)</translation>
    </message>
    <message>
        <source>No camera yet: looking round the building</source>
        <translation>Noch keine Kamera: Blick um das Gebäude</translation>
    </message>
    <message>
        <source>Locked: looking around only</source>
        <translation>Gesperrt: nur umsehen</translation>
    </message>
    <message>
        <source>Looking around: camera not moved</source>
        <translation>Umsehen: die Kamera bleibt, wo sie ist</translation>
    </message>
    <message>
        <source>Keep as new ({focal_mm:.4g} mm)</source>
        <translation>Als neue behalten ({focal_mm:.4g} mm)</translation>
    </message>
    <message>
        <source>Keep at {usual:g} mm</source>
        <translation>Mit {usual:g} mm behalten</translation>
    </message>
    <message>
        <source>Keep view as camera</source>
        <translation>Ansicht als Kamera behalten</translation>
    </message>
    <message numerus="yes">
        <source>%n objects never seen: outlined</source>
        <translation>
            <numerusform>%n nie gesehenes Objekt: umrandet</numerusform>
            <numerusform>%n nie gesehene Objekte: umrandet</numerusform>
        </translation>
    </message>
    <message>
        <source>last version</source>
        <extracomment>What is compared: usually a picture with what it was before.</extracomment>
        <translation>letzte Fassung</translation>
    </message>
    <message>
        <source>now</source>
        <translation>jetzt</translation>
    </message>
    <message>
        <source>Picture</source>
        <extracomment>Pictures above this many bytes are not opened in the window. The place of the picture, in its pixels, that lies in the middle of the view.</extracomment>
        <translation>Bild</translation>
    </message>
    <message>
        <source>Drag to move the picture, turn the wheel to zoom; 1 shows actual pixels, F the whole</source>
        <translation>Ziehen bewegt das Bild, das Rad vergrößert; 1 zeigt echte Pixel, F das Ganze</translation>
    </message>
    <message>
        <source>difference, four times as strong</source>
        <translation>Unterschied, vierfach verstärkt</translation>
    </message>
    <message>
        <source>No picture yet</source>
        <translation>Noch kein Bild</translation>
    </message>
    <message>
        <source>, fixed</source>
        <translation>, fest</translation>
    </message>
    <message>
        <source>far {far:.1f} m{fixed}</source>
        <translation>fern {far:.1f} m{fixed}</translation>
    </message>
    <message>
        <source>far {far_m:.0f} m</source>
        <translation>fern {far_m:.0f} m</translation>
    </message>
    <message>
        <source>locked</source>
        <extracomment>A camera&apos;s ring and some air. Where names of rooms stand, which names of cameras leave free. What the camera drawn last sees, of which model.</extracomment>
        <translation>gesperrt</translation>
    </message>
    <message>
        <source>eye {eye} above the floor</source>
        <translation>Auge {eye} über dem Boden</translation>
    </message>
    <message>
        <source>Storey</source>
        <translation>Geschoss</translation>
    </message>
    <message>
        <source>The storey that the plan shows (keys Ctrl+Page up and Ctrl+Page down)</source>
        <translation>Das Geschoss, das der Grundriss zeigt (Tasten Strg+Bild auf und Strg+Bild ab)</translation>
    </message>
    <message>
        <source>Cut height</source>
        <translation>Schnitthöhe</translation>
    </message>
    <message>
        <source>Height of the cut above the storey&apos;s floor (keys [ and ])</source>
        <translation>Höhe des Schnitts über dem Boden des Geschosses (Tasten [ und ])</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Einpassen</translation>
    </message>
    <message>
        <source>Show the whole building (key F on the plan)</source>
        <translation>Das ganze Gebäude zeigen (Taste F im Grundriss)</translation>
    </message>
    <message>
        <source>Reference lines of drawings: on or off (key K), and which of their layers</source>
        <translation>Bezugslinien aus Zeichnungen: ein oder aus (Taste K), und welche ihrer Ebenen</translation>
    </message>
    <message>
        <source>Lines ▾</source>
        <translation>Linien ▾</translation>
    </message>
    <message>
        <source>Reference lines	K</source>
        <translation>Bezugslinien	K</translation>
    </message>
    <message>
        <source>no layer</source>
        <translation>keine Ebene</translation>
    </message>
    <message>
        <source>Press where the eye is, drag to what it looks at (Return: in the middle). Escape leaves.</source>
        <extracomment>What a press does while something is armed, in a long and a short form.</extracomment>
        <translation>Drücken, wo das Auge ist, zu dem ziehen, was es sieht (Eingabe: in der Mitte). Esc verlässt.</translation>
    </message>
    <message>
        <source>Press: eye. Drag: aim. Escape leaves.</source>
        <translation>Drücken: Auge. Ziehen: Ziel. Esc verlässt.</translation>
    </message>
    <message>
        <source>Press on the wall to look past: a cut along its inner face. Escape leaves.</source>
        <translation>Auf die Wand drücken, an der vorbei gesehen wird: ein Schnitt entlang ihrer Innenseite. Esc verlässt.</translation>
    </message>
    <message>
        <source>Press on a wall. Escape leaves.</source>
        <translation>Auf eine Wand drücken. Esc verlässt.</translation>
    </message>
    <message>
        <source>Plan</source>
        <translation>Grundriss</translation>
    </message>
    <message>
        <source>{shown} of {whole}</source>
        <extracomment>The camera that is being stood. The next press picks a wall for a wall cut. Objects that no picture shows, laid over the drawing while coverage is looked at.</extracomment>
        <translation>{shown} von {whole}</translation>
    </message>
    <message>
        <source>off</source>
        <translation>aus</translation>
    </message>
    <message>
        <source>Lines: {words} ▾</source>
        <translation>Linien: {words} ▾</translation>
    </message>
    <message>
        <source>Drawing the plan…</source>
        <translation>Der Grundriss wird gezeichnet…</translation>
    </message>
    <message>
        <source>No model yet</source>
        <translation>Noch kein Modell</translation>
    </message>
    <message>
        <source>cut {cut_above_m} above {name}</source>
        <translation>Schnitt {cut_above_m} über {name}</translation>
    </message>
    <message>
        <source>All round from here</source>
        <extracomment>Panoramas are drawn so wide while something moves, and no wider than the draft once it rests. What stands near was found out.</extracomment>
        <translation>Rundblick von hier</translation>
    </message>
    <message>
        <source>Drag to turn the front; move the eye on the plan; arrow keys turn and step. Escape or Z: back to the Frame.</source>
        <translation>Ziehen dreht die Mitte; das Auge im Grundriss bewegen; Pfeiltasten drehen und gehen. Esc oder Z: zurück zum Sucher.</translation>
    </message>
    <message>
        <source>Panorama to shot list</source>
        <translation>Panorama in die Bildliste</translation>
    </message>
    <message>
        <source>A row of the shot list: a panorama from here</source>
        <translation>Eine Zeile der Bildliste: ein Panorama von hier</translation>
    </message>
    <message>
        <source>The camera&apos;s picture (Z or Escape)</source>
        <translation>Das Bild der Kamera (Z oder Esc)</translation>
    </message>
    <message>
        <source> (the camera leans by {hypot:.1f}°)</source>
        <translation> (die Kamera steht um {hypot:.1f}° schief)</translation>
    </message>
    <message>
        <source> · ! {near} nearer than {near_m:g} m</source>
        <translation> · ! {near} näher als {near_m:g} m</translation>
    </message>
    <message>
        <source>All round, level{lean} · front {heading_deg:.0f}°{near} · {set_aside}</source>
        <translation>Rundblick, waagrecht{lean} · Mitte {heading_deg:.0f}°{near} · {set_aside}</translation>
    </message>
    <message>
        <source>Add panoramas</source>
        <translation>Panoramen hinzufügen</translation>
    </message>
    <message>
        <source>Turn camera</source>
        <translation>Kamera drehen</translation>
    </message>
    <message>
        <source>Section</source>
        <extracomment>After the last movement the beyond-lines are drawn as well.</extracomment>
        <translation>Schnitt</translation>
    </message>
    <message>
        <source>Drawing the section…</source>
        <extracomment>The next press picks a wall for a wall cut.</extracomment>
        <translation>Der Schnitt wird gezeichnet…</translation>
    </message>
    <message>
        <source>Press on the wall to look past, between eye and subject. Escape leaves.</source>
        <translation>Auf die Wand drücken, an der vorbei gesehen wird, zwischen Auge und Motiv. Esc verlässt.</translation>
    </message>
    <message>
        <source>along the line of sight</source>
        <translation>entlang der Blicklinie</translation>
    </message>
    <message>
        <source>Section · {along} along · z {height}</source>
        <translation>Schnitt · {along} weit · z {height}</translation>
    </message>
    <message>
        <source>near {depth:.2f} m{fixed}</source>
        <translation>nah {depth:.2f} m{fixed}</translation>
    </message>
    <message>
        <source>far {depth}</source>
        <translation>fern {depth}</translation>
    </message>
    <message>
        <source>far {depth:.0f} m</source>
        <translation>fern {depth:.0f} m</translation>
    </message>
    <message>
        <source>{aim_m} · tilt {tilt_deg:.1f}°</source>
        <translation>{aim_m} · Neigung {tilt_deg:.1f}°</translation>
    </message>
    <message>
        <source>rise {rise_mm:.1f} mm</source>
        <translation>Hochversatz {rise_mm:.1f} mm</translation>
    </message>
    <message>
        <source>Time of day</source>
        <extracomment>The horizon lies so far from the middle, as a share of the sheet&apos;s shorter side.</extracomment>
        <translation>Tageszeit</translation>
    </message>
    <message>
        <source>Variants</source>
        <translation>Varianten</translation>
    </message>
    <message>
        <source>Take this one</source>
        <translation>Diese nehmen</translation>
    </message>
    <message>
        <source>The chosen try becomes the camera (Return)</source>
        <translation>Der gewählte Versuch wird zur Kamera (Eingabe)</translation>
    </message>
    <message>
        <source>The camera&apos;s picture to move in (Escape)</source>
        <translation>Das Bild der Kamera, in dem man sich bewegt (Esc)</translation>
    </message>
    <message>
        <source>as it is · {focal_mm:.4g} mm</source>
        <translation>wie sie ist · {focal_mm:.4g} mm</translation>
    </message>
    <message>
        <source>No variants yet: keep a try (T) or take a ladder</source>
        <translation>Noch keine Varianten: einen Versuch behalten (T) oder eine Reihe machen</translation>
    </message>
    <message>
        <source>Keep variant</source>
        <translation>Variante behalten</translation>
    </message>
    <message>
        <source>Remove variant</source>
        <translation>Variante entfernen</translation>
    </message>
    <message>
        <source>Turn: rotate in place (key 1)</source>
        <translation>Drehen: am Ort drehen (Taste 1)</translation>
    </message>
    <message>
        <source>Slide: sideways (key 2)</source>
        <translation>Seitwärts: nach links und rechts (Taste 2)</translation>
    </message>
    <message>
        <source>Lift: up and down (key 3)</source>
        <translation>Heben: auf und ab (Taste 3)</translation>
    </message>
    <message>
        <source>Step: forward and back (key 4)</source>
        <translation>Gehen: vor und zurück (Taste 4)</translation>
    </message>
    <message>
        <source>Circle: around what the camera looks at; with Alt around the point under the pointer (key 5)</source>
        <translation>Kreisen: um das, was die Kamera sieht; mit Alt um den Punkt unter dem Zeiger (Taste 5)</translation>
    </message>
    <message>
        <source>Rise: shift the lens up or down, or across, with the camera where it is (key 6)</source>
        <translation>Versatz: das Objektiv nach oben, unten oder quer versetzen, die Kamera bleibt stehen (Taste 6)</translation>
    </message>
    <message>
        <source>All of the far wall, floor to ceiling</source>
        <translation>Die ganze ferne Wand, vom Boden bis zur Decke</translation>
    </message>
    <message>
        <source>Its whole width</source>
        <translation>Ihre ganze Breite</translation>
    </message>
    <message>
        <source>Its whole height</source>
        <translation>Ihre ganze Höhe</translation>
    </message>
    <message>
        <source>{width:g} m of it</source>
        <translation>{width:g} m davon</translation>
    </message>
    <message>
        <source>Another width…</source>
        <translation>Andere Breite…</translation>
    </message>
    <message>
        <source>Back through wall</source>
        <translation>Zurück durch die Wand</translation>
    </message>
    <message>
        <source>Width of the far wall that should be in the picture</source>
        <translation>Breite der fernen Wand, die ins Bild soll</translation>
    </message>
    <message>
        <source>Go to this camera</source>
        <extracomment>Rows are filled so many at a time, so that a page of hundreds never holds the window up. What mends one camera&apos;s picture; the others change the project for all.</extracomment>
        <translation>Zu dieser Kamera</translation>
    </message>
    <message>
        <source>Go to {name}</source>
        <translation>Zu {name}</translation>
    </message>
    <message>
        <source>not looked at yet</source>
        <translation>noch nicht angesehen</translation>
    </message>
    <message>
        <source>{points}-point</source>
        <translation>{points} Fluchtpunkt(e)</translation>
    </message>
    <message>
        <source>verticals {worst_px:.1f} px ({count})</source>
        <translation>Senkrechte {worst_px:.1f} px ({count})</translation>
    </message>
    <message>
        <source>cut faces {share:.1f} %</source>
        <translation>Schnittflächen {share:.1f} %</translation>
    </message>
    <message>
        <source>gaps {out:.1f} %</source>
        <translation>Lücken {out:.1f} %</translation>
    </message>
    <message>
        <source>nothing found</source>
        <translation>nichts gefunden</translation>
    </message>
    <message>
        <source>{mends}: {name}; can be undone</source>
        <translation>{mends}: {name}; lässt sich widerrufen</translation>
    </message>
    <message>
        <source>Check all</source>
        <translation>Alle prüfen</translation>
    </message>
    <message>
        <source>Stop</source>
        <translation>Anhalten</translation>
    </message>
    <message>
        <source>Leave the rest unlooked at; what was found stays</source>
        <translation>Den Rest nicht ansehen; was gefunden ist, bleibt</translation>
    </message>
    <message>
        <source>Look again</source>
        <translation>Neu ansehen</translation>
    </message>
    <message>
        <source>Check what has changed since</source>
        <translation>Prüfen, was sich seither geändert hat</translation>
    </message>
    <message>
        <source>Leave this page (Escape)</source>
        <translation>Diese Seite verlassen (Esc)</translation>
    </message>
    <message>
        <source>All cameras</source>
        <translation>Alle Kameras</translation>
    </message>
    <message>
        <source>Every camera</source>
        <translation>Jede Kamera</translation>
    </message>
    <message>
        <source>With trouble</source>
        <translation>Mit Mängeln</translation>
    </message>
    <message>
        <source>Only cameras in whose picture something is wrong</source>
        <translation>Nur Kameras, in deren Bild etwas nicht stimmt</translation>
    </message>
    <message>
        <source>Check of all cameras</source>
        <translation>Prüfung aller Kameras</translation>
    </message>
    <message>
        <source>Plumb all</source>
        <translation>Alle lotrecht</translation>
    </message>
    <message>
        <source>Plumb every camera whose vertical edges are off; one undo step</source>
        <translation>Jede Kamera lotrecht stellen, deren senkrechte Kanten abweichen; ein Schritt im Widerruf</translation>
    </message>
    <message>
        <source>List gaps…</source>
        <translation>Lücken auflisten…</translation>
    </message>
    <message>
        <source>Write a page with pictures of all gaps, for whoever models</source>
        <translation>Eine Seite mit Bildern aller Lücken schreiben, für alle, die modellieren</translation>
    </message>
    <message>
        <source>{known} of {cameras} looked at · {wrong} with trouble</source>
        <translation>{known} von {cameras} angesehen · {wrong} mit Mängeln</translation>
    </message>
    <message numerus="yes">
        <source>Plumb %n cameras</source>
        <translation>
            <numerusform>%n Kamera lotrecht</numerusform>
            <numerusform>%n Kameras lotrecht</numerusform>
        </translation>
    </message>
    <message>
        <source>Near</source>
        <translation>Nah</translation>
    </message>
    <message>
        <source>Distance from the eye along the line of sight</source>
        <translation>Abstand vom Auge entlang der Blicklinie</translation>
    </message>
    <message>
        <source>Far</source>
        <translation>Fern</translation>
    </message>
    <message>
        <source>Cut-away</source>
        <translation>Freischnitt</translation>
    </message>
    <message>
        <source>See past what stands between eye and subject; it keeps casting its shadow</source>
        <translation>Vorbei sehen an dem, was zwischen Auge und Motiv steht; sein Schatten bleibt</translation>
    </message>
    <message>
        <source>Near bound</source>
        <translation>Nahe Grenze</translation>
    </message>
    <message>
        <source>Past… ▾</source>
        <translation>Vorbei… ▾</translation>
    </message>
    <message>
        <source>Put the near bound just past a thing on the line of sight</source>
        <translation>Die nahe Grenze knapp hinter etwas auf der Blicklinie setzen</translation>
    </message>
    <message>
        <source>Just clear</source>
        <translation>Knapp frei</translation>
    </message>
    <message>
        <source>Move the near bound as little as needed so that it opens nothing</source>
        <translation>Die nahe Grenze so wenig wie nötig verschieben, bis sie nichts öffnet</translation>
    </message>
    <message>
        <source>Limit the depth behind; the sky stays</source>
        <translation>Die Tiefe hinten begrenzen; der Himmel bleibt</translation>
    </message>
    <message>
        <source>Far bound</source>
        <translation>Ferne Grenze</translation>
    </message>
    <message>
        <source>Dark beyond</source>
        <translation>Dahinter dunkel</translation>
    </message>
    <message>
        <source>What lies wholly beyond the far bound throws no sun shadow either</source>
        <translation>Was ganz hinter der fernen Grenze liegt, wirft auch keinen Sonnenschatten</translation>
    </message>
    <message>
        <source>Cap the cut</source>
        <translation>Schnitt füllen</translation>
    </message>
    <message>
        <source>Fill cut faces with poché, as in a drawing</source>
        <translation>Schnittflächen als Poché füllen, wie in einer Zeichnung</translation>
    </message>
    <message>
        <source>Wall cut…</source>
        <translation>Wandschnitt…</translation>
    </message>
    <message>
        <source>Pick a wall in the Frame, on the plan or section: a cut along its inner face (key U)</source>
        <translation>Eine Wand im Sucher, Grundriss oder Schnitt wählen: ein Schnitt entlang ihrer Innenseite (Taste U)</translation>
    </message>
    <message>
        <source>To wall cut</source>
        <translation>Zum Wandschnitt</translation>
    </message>
    <message>
        <source>Turn the near bound into a wall cut on the wall it passes</source>
        <translation>Aus der nahen Grenze einen Wandschnitt an der Wand machen, durch die sie geht</translation>
    </message>
    <message>
        <source>Far bound and light</source>
        <translation>Ferne Grenze und Licht</translation>
    </message>
    <message>
        <source>near bound {near_m}</source>
        <translation>nahe Grenze {near_m}</translation>
    </message>
    <message>
        <source>wall cut along it</source>
        <translation>Wandschnitt daran</translation>
    </message>
    <message>
        <source>opens {opened}</source>
        <translation>öffnet {opened}</translation>
    </message>
    <message>
        <source>opens nothing</source>
        <translation>öffnet nichts</translation>
    </message>
    <message>
        <source>Nothing stands before what is looked at</source>
        <translation>Vor dem Motiv steht nichts</translation>
    </message>
    <message>
        <source>Past what stands ahead</source>
        <translation>Vorbei an dem, was davor steht</translation>
    </message>
    <message>
        <source>Wall cut</source>
        <translation>Wandschnitt</translation>
    </message>
    <message>
        <source>Bound to wall cut</source>
        <translation>Grenze zu Wandschnitt</translation>
    </message>
    <message>
        <source>The near bound lies behind the eye: it hides nothing.</source>
        <translation>Die nahe Grenze liegt hinter dem Auge: sie verbirgt nichts.</translation>
    </message>
    <message>
        <source>{model_share:.0f} % of the model left out</source>
        <translation>{model_share:.0f} % des Modells weggelassen</translation>
    </message>
    <message>
        <source>{time_saved:.0f} % of the time saved</source>
        <translation>{time_saved:.0f} % der Zeit gespart</translation>
    </message>
    <message>
        <source>{removed} seen things gone; {name} is back at {back_at_m}</source>
        <translation>{removed} sichtbare Dinge fehlen; {name} ist ab {back_at_m} wieder da</translation>
    </message>
    <message>
        <source>{name}: back at {back_at_m}</source>
        <translation>{name}: ab {back_at_m} wieder da</translation>
    </message>
    <message numerus="yes">
        <source>%n wall cuts</source>
        <translation>
            <numerusform>%n Wandschnitt</numerusform>
            <numerusform>%n Wandschnitte</numerusform>
        </translation>
    </message>
    <message>
        <source>fixed</source>
        <translation>fest</translation>
    </message>
    <message>
        <source>The {which} bound stays where it is in the building when the eye moves; otherwise it goes with the eye</source>
        <translation>Die Grenze ({which}) bleibt im Gebäude, wo sie ist, wenn das Auge sich bewegt; sonst geht sie mit dem Auge</translation>
    </message>
    <message>
        <source>{which} bound fixed in the building</source>
        <translation>Grenze ({which}) im Gebäude fest</translation>
    </message>
    <message>
        <source>Heading</source>
        <translation>Blickrichtung</translation>
    </message>
    <message>
        <source>Degrees clockwise from north</source>
        <translation>Grad im Uhrzeigersinn von Norden</translation>
    </message>
    <message>
        <source>Turn</source>
        <translation>Drehen</translation>
    </message>
    <message>
        <source>Tilt: degrees, up positive</source>
        <translation>Neigung: Grad, nach oben positiv</translation>
    </message>
    <message>
        <source>Roll</source>
        <translation>Verkantung</translation>
    </message>
    <message>
        <source>Roll: degrees clockwise</source>
        <translation>Verkantung: Grad im Uhrzeigersinn</translation>
    </message>
    <message>
        <source>Looks at</source>
        <translation>Blickt auf</translation>
    </message>
    <message>
        <source>Distance of what is looked at</source>
        <translation>Abstand zu dem, was sie sieht</translation>
    </message>
    <message>
        <source>Distance</source>
        <translation>Abstand</translation>
    </message>
    <message>
        <source>Direction</source>
        <translation>Ausrichtung</translation>
    </message>
    <message>
        <source>Tilt, roll</source>
        <translation>Neigung, Roll</translation>
    </message>
    <message>
        <source>The camera looks at a point: circling and holding its size go by it</source>
        <translation>Die Kamera blickt auf einen Punkt: Kreisen und Größe halten richten sich nach ihm</translation>
    </message>
    <message>
        <source>point</source>
        <translation>Punkt</translation>
    </message>
    <message>
        <source>It only looks that way</source>
        <translation>Sie blickt nur in diese Richtung</translation>
    </message>
    <message>
        <source>ahead</source>
        <translation>voraus</translation>
    </message>
    <message>
        <source>Exactly across the line of sight: a one-point view (key Q)</source>
        <translation>Genau quer zur Blicklinie: eine Ansicht mit einem Fluchtpunkt (Taste Q)</translation>
    </message>
    <message>
        <source>Square to wall</source>
        <translation>Quer zur Wand</translation>
    </message>
    <message>
        <source>Tilt to 0°</source>
        <translation>Neigung auf 0°</translation>
    </message>
    <message>
        <source>Level the line of sight (key 0)</source>
        <translation>Die Blicklinie waagrecht (Taste 0)</translation>
    </message>
    <message>
        <source>About-face</source>
        <translation>Kehrt</translation>
    </message>
    <message>
        <source>Turn by {degrees:+.0f}°</source>
        <translation>Um {degrees:+.0f}° drehen</translation>
    </message>
    <message>
        <source>About-face: turn by exactly 180°</source>
        <translation>Kehrt: um genau 180° drehen</translation>
    </message>
    <message>
        <source>Turn by exactly {turn:+.0f}°</source>
        <translation>Um genau {turn:+.0f}° drehen</translation>
    </message>
    <message>
        <source>Drawn as</source>
        <translation>Darstellung</translation>
    </message>
    <message>
        <source>Materials, white card, lines or pencil; F4 shows it</source>
        <translation>Materialien, weißer Karton, Linien oder Bleistift; F4 zeigt es</translation>
    </message>
    <message>
        <source>Line style</source>
        <translation>Linienart</translation>
    </message>
    <message>
        <source>How lines are drawn; its figures are set in Hand over</source>
        <translation>Wie Linien gezeichnet werden; ihre Werte stehen unter Abgabe</translation>
    </message>
    <message>
        <source>Style</source>
        <translation>Stil</translation>
    </message>
    <message>
        <source>Background of the picture</source>
        <translation>Hintergrund des Bildes</translation>
    </message>
    <message>
        <source>What stands behind the building</source>
        <translation>Was hinter dem Gebäude steht</translation>
    </message>
    <message>
        <source>Background</source>
        <translation>Hintergrund</translation>
    </message>
    <message>
        <source>Not in the shot list in this format: a choice puts it there.</source>
        <translation>In diesem Format nicht in der Bildliste: eine Wahl bringt es dorthin.</translation>
    </message>
    <message>
        <source>Its row in the shot list. F4 shows it so.</source>
        <translation>Seine Zeile in der Bildliste. F4 zeigt es so.</translation>
    </message>
    <message numerus="yes">
        <source>Its %n rows in the shot list.</source>
        <translation>
            <numerusform>Seine %n Zeile in der Bildliste.</numerusform>
            <numerusform>Seine %n Zeilen in der Bildliste.</numerusform>
        </translation>
    </message>
    <message>
        <source>no row yet</source>
        <translation>noch keine Zeile</translation>
    </message>
    <message>
        <source>Picture size</source>
        <translation>Bildgröße</translation>
    </message>
    <message>
        <source>Angles of view, across and up</source>
        <translation>Bildwinkel, quer und hoch</translation>
    </message>
    <message>
        <source>How much the worst corner is drawn out</source>
        <translation>Wie stark die schlimmste Ecke verzogen ist</translation>
    </message>
    <message>
        <source>Lean of verticals at the frame&apos;s edge, and how far the worst vertical edge in view is off, in pixels</source>
        <translation>Schiefe der Senkrechten am Bildrand, und wie weit die schlimmste senkrechte Kante abweicht, in Pixeln</translation>
    </message>
    <message>
        <source>One-, two- or three-point, and the turn that is missing to the next simpler one</source>
        <translation>Ein, zwei oder drei Fluchtpunkte, und die Drehung, die zum nächsteinfacheren fehlt</translation>
    </message>
    <message>
        <source>What the bounds open; with nothing opened there is nothing to say</source>
        <translation>Was die Grenzen öffnen; ist nichts geöffnet, gibt es nichts zu sagen</translation>
    </message>
    <message>
        <source>How many times larger the nearest subject appears than the farthest of equal size</source>
        <translation>Wievielmal größer das nächste Motiv erscheint als das fernste von gleicher Größe</translation>
    </message>
    <message>
        <source>Shares of the frame: floor, ceiling, sky, ground</source>
        <translation>Anteile am Bild: Boden, Decke, Himmel, Gelände</translation>
    </message>
    <message>
        <source>Verticals lean. Press: Plumb makes them upright.</source>
        <extracomment>Which facts stay when there is little room, most wanted first. Trouble, worst first: where there is no room for all of it, the least is folded into a list.</extracomment>
        <translation>Senkrechte stehen schief. Drücken: Lotrecht richtet sie auf.</translation>
    </message>
    <message>
        <source>What else the checks found</source>
        <extracomment>What is in trouble, and what of it stands in the list behind ``more``.</extracomment>
        <translation>Was die Prüfungen noch fanden</translation>
    </message>
    <message numerus="yes">
        <source>%n more</source>
        <translation>
            <numerusform>%n weitere</numerusform>
            <numerusform>%n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source>view &lt;b&gt;{across:.1f}° × {high:.1f}°&lt;/b&gt;</source>
        <translation>Winkel &lt;b&gt;{across:.1f}° × {high:.1f}°&lt;/b&gt;</translation>
    </message>
    <message>
        <source>edge stretch &lt;b&gt;×{stretch:.2f}&lt;/b&gt;</source>
        <translation>Randzug &lt;b&gt;×{stretch:.2f}&lt;/b&gt;</translation>
    </message>
    <message>
        <source>Calm is up to ×{wide:.2f}, strong from ×{very:.2f}. Press: the next longer lens, with the subject&apos;s size held.</source>
        <translation>Ruhig bis ×{wide:.2f}, stark ab ×{very:.2f}. Drücken: die nächstlängere Brennweite, das Motiv bleibt gleich groß.</translation>
    </message>
    <message>
        <source>! edge stretch ×{stretch:.2f}</source>
        <translation>! Randzug ×{stretch:.2f}</translation>
    </message>
    <message>
        <source>lean {lean:.1f}°</source>
        <translation>schief {lean:.1f}°</translation>
    </message>
    <message>
        <source>lean &lt;b&gt;0.0°&lt;/b&gt;</source>
        <translation>schief &lt;b&gt;0.0°&lt;/b&gt;</translation>
    </message>
    <message>
        <source>lean &lt;b&gt;{lean:.1f}°&lt;/b&gt;</source>
        <translation>schief &lt;b&gt;{lean:.1f}°&lt;/b&gt;</translation>
    </message>
    <message>
        <source>&lt;b&gt;straight down&lt;/b&gt;</source>
        <translation>&lt;b&gt;senkrecht nach unten&lt;/b&gt;</translation>
    </message>
    <message>
        <source>{leaning} · plumb</source>
        <translation>{leaning} · lotrecht</translation>
    </message>
    <message>
        <source>, {missing_deg:.1f}° off</source>
        <translation>, {missing_deg:.1f}° daneben</translation>
    </message>
    <message>
        <source>as a plan</source>
        <translation>als Grundriss</translation>
    </message>
    <message>
        <source>&lt;b&gt;{points}-point&lt;/b&gt;{missing}</source>
        <translation>&lt;b&gt;{points} Fluchtp.&lt;/b&gt;{missing}</translation>
    </message>
    <message>
        <source>Press: back to standing height on the floor</source>
        <translation>Drücken: zurück auf Standhöhe über dem Boden</translation>
    </message>
    <message>
        <source>view &lt;b&gt;360° × 180°&lt;/b&gt;</source>
        <translation>Winkel &lt;b&gt;360° × 180°&lt;/b&gt;</translation>
    </message>
    <message>
        <source>&lt;b&gt;{width_px:.1f}&lt;/b&gt; px a degree</source>
        <translation>&lt;b&gt;{width_px:.1f}&lt;/b&gt; px je Grad</translation>
    </message>
    <message>
        <source>front &lt;b&gt;{heading_deg:.0f}°&lt;/b&gt;</source>
        <translation>Mitte &lt;b&gt;{heading_deg:.0f}°&lt;/b&gt;</translation>
    </message>
    <message>
        <source>nearest &lt;b&gt;{away_m}&lt;/b&gt;</source>
        <translation>nächstes &lt;b&gt;{away_m}&lt;/b&gt;</translation>
    </message>
    <message>
        <source>depth &lt;b&gt;×{deep:.1f}&lt;/b&gt;</source>
        <translation>Tiefe &lt;b&gt;×{deep:.1f}&lt;/b&gt;</translation>
    </message>
    <message>
        <source>{sentence}
Press: mends, and going there</source>
        <translation>{sentence}
Drücken: Abhilfen, und dorthin gehen</translation>
    </message>
    <message>
        <source>{sentence}
Press: mends</source>
        <translation>{sentence}
Drücken: Abhilfen</translation>
    </message>
    <message>
        <source>cut by the frame: {name}, {share_inside:.0f} % inside</source>
        <translation>vom Bildrand geschnitten: {name}, {share_inside:.0f} % innen</translation>
    </message>
    <message>
        <source>only grazed: {name}, {share_inside:.0f} % inside</source>
        <translation>nur gestreift: {name}, {share_inside:.0f} % innen</translation>
    </message>
    <message>
        <source>! edge grazes {name}</source>
        <translation>! Rand streift {name}</translation>
    </message>
    <message>
        <source>
Press: chooses it in the Frame</source>
        <translation>
Drücken: wählt es im Sucher</translation>
    </message>
    <message numerus="yes">
        <source> and %n more</source>
        <translation>
            <numerusform> und %n weiteres</numerusform>
            <numerusform> und %n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source>The bounds open: {names}
Press: mends, and the opened objects</source>
        <translation>Die Grenzen öffnen: {names}
Drücken: Abhilfen, und die geöffneten Objekte</translation>
    </message>
    <message>
        <source>cut faces &lt;b&gt;0 %&lt;/b&gt;</source>
        <translation>Schnittflächen &lt;b&gt;0 %&lt;/b&gt;</translation>
    </message>
    <message>
        <source>Begin in a room:</source>
        <extracomment>More rooms than this are found on the Model desk, and by Find.</extracomment>
        <translation>In einem Raum beginnen:</translation>
    </message>
    <message>
        <source>Stand a camera in “{name}”, in the corner that shows most of it</source>
        <translation>Eine Kamera in „{name}“ aufstellen, in der Ecke, die am meisten zeigt</translation>
    </message>
    <message numerus="yes">
        <source>%n more on the Model desk, and by Find.</source>
        <translation>
            <numerusform>%n weiterer unter Modell und mit Finden.</numerusform>
            <numerusform>%n weitere unter Modell und mit Finden.</numerusform>
        </translation>
    </message>
    <message>
        <source>Format</source>
        <translation>Format</translation>
    </message>
    <message>
        <source>Format ▾</source>
        <translation>Format ▾</translation>
    </message>
    <message>
        <source>Formats: change this one, take another or add one</source>
        <translation>Formate: dieses ändern, ein anderes nehmen oder eines hinzufügen</translation>
    </message>
    <message>
        <source>Wide / high</source>
        <translation>Breit / hoch</translation>
    </message>
    <message>
        <source>Swap width and height (key W)</source>
        <translation>Breite und Höhe tauschen (Taste W)</translation>
    </message>
    <message>
        <source>Width</source>
        <translation>Breite</translation>
    </message>
    <message>
        <source>Pixels across; 10 in, 10 x 7 in, 250 mm and ×2 are understood</source>
        <translation>Pixel quer; 10 in, 10 x 7 in, 250 mm und ×2 werden verstanden</translation>
    </message>
    <message>
        <source>Height</source>
        <translation>Höhe</translation>
    </message>
    <message>
        <source>Pixels up; 10 in, 10 x 7 in, 250 mm and ×2 are understood</source>
        <translation>Pixel hoch; 10 in, 10 x 7 in, 250 mm und ×2 werden verstanden</translation>
    </message>
    <message>
        <source>Size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>Guides ▾</source>
        <translation>Hilfslinien ▾</translation>
    </message>
    <message>
        <source>Guides: lines over the Frame, never in the picture (key G: on or off)</source>
        <translation>Hilfslinien: über dem Sucher, nie im Bild (Taste G: ein oder aus)</translation>
    </message>
    <message>
        <source>Proportion</source>
        <translation>Seitenverhältnis</translation>
    </message>
    <message>
        <source>Width to height, such as 16:9 or 2.39:1; the height follows</source>
        <translation>Breite zu Höhe, wie 16:9 oder 2.39:1; die Höhe folgt</translation>
    </message>
    <message>
        <source>Width and height each by itself</source>
        <translation>Breite und Höhe jede für sich</translation>
    </message>
    <message>
        <source>free</source>
        <translation>frei</translation>
    </message>
    <message>
        <source>The proportion is kept: the other side follows</source>
        <translation>Das Verhältnis bleibt: die andere Seite folgt</translation>
    </message>
    <message>
        <source>linked</source>
        <translation>verbunden</translation>
    </message>
    <message>
        <source>Sides</source>
        <translation>Seiten</translation>
    </message>
    <message>
        <source>same view</source>
        <translation>gleiche Ansicht</translation>
    </message>
    <message>
        <source>Another size shows the same width of view</source>
        <translation>Eine andere Größe zeigt dieselbe Breite</translation>
    </message>
    <message>
        <source>shows more</source>
        <translation>zeigt mehr</translation>
    </message>
    <message>
        <source>Another size shows more or less, things keep their size</source>
        <translation>Eine andere Größe zeigt mehr oder weniger, die Dinge bleiben gleich groß</translation>
    </message>
    <message>
        <source>Resizing</source>
        <translation>Größe ändern</translation>
    </message>
    <message>
        <source>The sensor&apos;s width is kept when the proportion changes</source>
        <translation>Die Breite des Sensors bleibt, wenn das Verhältnis sich ändert</translation>
    </message>
    <message>
        <source>width</source>
        <translation>Breite</translation>
    </message>
    <message>
        <source>The sensor&apos;s height is kept when the proportion changes</source>
        <translation>Die Höhe des Sensors bleibt, wenn das Verhältnis sich ändert</translation>
    </message>
    <message>
        <source>height</source>
        <translation>Höhe</translation>
    </message>
    <message>
        <source>Sensor fit</source>
        <translation>Sensor anpassen</translation>
    </message>
    <message>
        <source>Sensor keeps</source>
        <translation>Sensor behält</translation>
    </message>
    <message>
        <source>Swap wide and high</source>
        <translation>Breit und hoch tauschen</translation>
    </message>
    <message>
        <source>Another format for this camera</source>
        <translation>Ein weiteres Format für diese Kamera</translation>
    </message>
    <message>
        <source>Remove {name}</source>
        <translation>{name} entfernen</translation>
    </message>
    <message>
        <source>Add format</source>
        <translation>Format hinzufügen</translation>
    </message>
    <message>
        <source>Choose format</source>
        <translation>Format wählen</translation>
    </message>
    <message>
        <source>Remove format</source>
        <translation>Format entfernen</translation>
    </message>
    <message>
        <source>Guides</source>
        <translation>Hilfslinien</translation>
    </message>
    <message>
        <source>Guides: {guides} ▾</source>
        <translation>Hilfslinien: {guides} ▾</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>Held</source>
        <translation>Fest</translation>
    </message>
    <message>
        <source>Held: moving here edits the camera. Loose: only looking about. (key L)</source>
        <translation>Fest: Bewegen ändert die Kamera. Frei: nur umsehen. (Taste L)</translation>
    </message>
    <message>
        <source>The view before (key Backspace)</source>
        <translation>Die Ansicht davor (Rücktaste)</translation>
    </message>
    <message>
        <source>The view after (key Shift+Backspace)</source>
        <translation>Die Ansicht danach (Umschalt+Rücktaste)</translation>
    </message>
    <message>
        <source>View before</source>
        <translation>Ansicht davor</translation>
    </message>
    <message>
        <source>View after</source>
        <translation>Ansicht danach</translation>
    </message>
    <message>
        <source>Around</source>
        <translation>Umfeld</translation>
    </message>
    <message>
        <source>Surround: see what lies outside the frame, dimmed (key A)</source>
        <translation>Umfeld: sehen, was außerhalb des Bildes liegt, gedämpft (Taste A)</translation>
    </message>
    <message>
        <source>not yet</source>
        <translation>noch nicht</translation>
    </message>
    <message>
        <source>Look ▾</source>
        <translation>Ansehen ▾</translation>
    </message>
    <message>
        <source>Look otherwise: as it will be made, all round from here</source>
        <translation>Anders ansehen: wie es gemacht wird, Rundblick von hier</translation>
    </message>
    <message>
        <source>Tries ▾</source>
        <translation>Versuche ▾</translation>
    </message>
    <message>
        <source>Variants: side by side, flick through, ladders</source>
        <translation>Varianten: nebeneinander, durchblättern, Reihen</translation>
    </message>
    <message>
        <source>Check ▾</source>
        <translation>Prüfen ▾</translation>
    </message>
    <message>
        <source>Checks shown over the picture: verticals, vanishing points, cut faces, gaps</source>
        <translation>Prüfungen über dem Bild: Senkrechte, Fluchtpunkte, Schnittflächen, Lücken</translation>
    </message>
    <message>
        <source>As it will be made	F4</source>
        <translation>Wie es gemacht wird	F4</translation>
    </message>
    <message>
        <source>All round from here	Z</source>
        <translation>Rundblick von hier	Z</translation>
    </message>
    <message>
        <source>Outline of the chosen object	Alt+O</source>
        <translation>Umriss des gewählten Objekts	Alt+O</translation>
    </message>
    <message>
        <source>Keep a try of this	T</source>
        <translation>Einen Versuch davon behalten	T</translation>
    </message>
    <message>
        <source>Side by side	Shift+T</source>
        <translation>Nebeneinander	Umschalt+T</translation>
    </message>
    <message>
        <source>Flick through	V</source>
        <translation>Durchblättern	V</translation>
    </message>
    <message>
        <source>Ladder of {words}</source>
        <translation>Reihe: {words}</translation>
    </message>
    <message>
        <source>Ladder of lenses of one&apos;s own…</source>
        <translation>Reihe eigener Brennweiten…</translation>
    </message>
    <message>
        <source>Ladder of lenses of one&apos;s own, the subject as large…</source>
        <translation>Reihe eigener Brennweiten, das Motiv gleich groß…</translation>
    </message>
    <message>
        <source>Check all cameras…	F8</source>
        <translation>Alle Kameras prüfen…	F8</translation>
    </message>
    <message>
        <source>Loose</source>
        <translation>Frei</translation>
    </message>
    <message>
        <source>{name}, {width_px} × {height_px} (keys F3 and Shift+F3 step through)</source>
        <translation>{name}, {width_px} × {height_px} (F3 und Umschalt+F3 gehen sie durch)</translation>
    </message>
    <message>
        <source>Intent</source>
        <extracomment>Typing that pauses this long is one undo step.</extracomment>
        <translation>Absicht</translation>
    </message>
    <message>
        <source>What should this picture show?</source>
        <translation>Was soll dieses Bild zeigen?</translation>
    </message>
    <message>
        <source>One line: what the picture is for; goes to captions and the contact sheet</source>
        <translation>Eine Zeile: wozu das Bild dient; sie steht in Bildunterschriften und im Kontaktbogen</translation>
    </message>
    <message>
        <source>Note</source>
        <translation>Notiz</translation>
    </message>
    <message>
        <source>A note for yourself</source>
        <translation>Eine Notiz für sich selbst</translation>
    </message>
    <message>
        <source>Done</source>
        <translation>Fertig</translation>
    </message>
    <message>
        <source>This picture is composed as it should be</source>
        <translation>Dieses Bild ist gestaltet, wie es sein soll</translation>
    </message>
    <message>
        <source>To do</source>
        <translation>Offen</translation>
    </message>
    <message>
        <source>to do</source>
        <translation>offen</translation>
    </message>
    <message>
        <source>done</source>
        <translation>fertig</translation>
    </message>
    <message>
        <source>Left out</source>
        <translation>Weggelassen</translation>
    </message>
    <message>
        <source>Left out of this camera&apos;s picture</source>
        <translation>Aus dem Bild dieser Kamera weggelassen</translation>
    </message>
    <message>
        <source>Left out of, or nudged for, this camera alone; Delete takes a line back</source>
        <translation>Nur für diese Kamera weggelassen oder verrückt; Entf nimmt eine Zeile zurück</translation>
    </message>
    <message>
        <source>Press on an object in the Frame</source>
        <translation>Auf ein Objekt im Sucher drücken</translation>
    </message>
    <message>
        <source>Leave out</source>
        <translation>Weglassen</translation>
    </message>
    <message>
        <source>Leave the chosen object out of this camera&apos;s picture (key O)</source>
        <translation>Das gewählte Objekt aus dem Bild dieser Kamera weglassen (Taste O)</translation>
    </message>
    <message>
        <source>Take back</source>
        <translation>Zurücknehmen</translation>
    </message>
    <message>
        <source>Show the chosen line&apos;s object as it is in the model</source>
        <translation>Das Objekt der gewählten Zeile zeigen, wie es im Modell ist</translation>
    </message>
    <message>
        <source>Move {axis}</source>
        <translation>Verrücken {axis}</translation>
    </message>
    <message>
        <source>Nudge the chosen object {axis}, for this camera only</source>
        <translation>Das gewählte Objekt {axis} verrücken, nur für diese Kamera</translation>
    </message>
    <message>
        <source>Turn the chosen object clockwise, for this camera only</source>
        <translation>Das gewählte Objekt im Uhrzeigersinn drehen, nur für diese Kamera</translation>
    </message>
    <message>
        <source>Nudge east, north, up (m), turn (°)</source>
        <translation>Verrücken: Ost, Nord, hoch (m), drehen (°)</translation>
    </message>
    <message>
        <source>Take nudge back</source>
        <translation>Verrücken zurücknehmen</translation>
    </message>
    <message>
        <source>Show again</source>
        <translation>Wieder zeigen</translation>
    </message>
    <message>
        <source>Nudge object</source>
        <translation>Objekt verrücken</translation>
    </message>
    <message>
        <source>storey {name}</source>
        <translation>Geschoss {name}</translation>
    </message>
    <message>
        <source>all {name}</source>
        <translation>alle {name}</translation>
    </message>
    <message>
        <source>{name} (not in the model now)</source>
        <translation>{name} (jetzt nicht im Modell)</translation>
    </message>
    <message>
        <source>{name}: left out</source>
        <translation>{name}: weggelassen</translation>
    </message>
    <message>
        <source>taken out</source>
        <translation>herausgenommen</translation>
    </message>
    <message>
        <source> turned {turn_deg:.0f}°</source>
        <translation> um {turn_deg:.0f}° gedreht</translation>
    </message>
    <message>
        <source>Chosen: {name}</source>
        <translation>Gewählt: {name}</translation>
    </message>
    <message>
        <source>Press on an object in the Frame to choose it.</source>
        <translation>Auf ein Objekt im Sucher drücken, um es zu wählen.</translation>
    </message>
    <message>
        <source>{lines} here</source>
        <translation>{lines} hier</translation>
    </message>
    <message>
        <source>nothing here</source>
        <translation>hier nichts</translation>
    </message>
    <message>
        <source> · {whole} in all</source>
        <translation> · {whole} insgesamt</translation>
    </message>
    <message>
        <source>façade, square to it,</source>
        <translation>Fassade, quer dazu,</translation>
    </message>
    <message>
        <source>Lens</source>
        <translation>Objektiv</translation>
    </message>
    <message>
        <source>Focal length: the camera stays where it is, unless the subject&apos;s size is held</source>
        <translation>Brennweite: die Kamera bleibt, wo sie ist, außer das Motiv soll gleich groß bleiben</translation>
    </message>
    <message>
        <source>Focal length</source>
        <extracomment>Shares are shown in percent. What a place says of its camera: field, name, what it is, unit, decimals, step, lowest and highest.</extracomment>
        <translation>Brennweite</translation>
    </message>
    <message>
        <source>Common focal lengths and own ones</source>
        <translation>Übliche Brennweiten und eigene</translation>
    </message>
    <message>
        <source>View across</source>
        <translation>Winkel quer</translation>
    </message>
    <message>
        <source>View up</source>
        <translation>Winkel hoch</translation>
    </message>
    <message>
        <source>across</source>
        <translation>quer</translation>
    </message>
    <message>
        <source>up</source>
        <translation>hoch</translation>
    </message>
    <message>
        <source>View</source>
        <translation>Bildwinkel</translation>
    </message>
    <message>
        <source>Changing the lens walks as well, so that what is looked at keeps its size (key H)</source>
        <translation>Das Objektiv zu ändern heißt auch zu gehen, damit das Motiv gleich groß bleibt (Taste H)</translation>
    </message>
    <message>
        <source>Hold subject size</source>
        <translation>Motivgröße halten</translation>
    </message>
    <message>
        <source>Fit ▾</source>
        <translation>Einpassen ▾</translation>
    </message>
    <message>
        <source>Fit a chosen object, a room or a façade into the frame, by lens or by distance</source>
        <translation>Ein gewähltes Objekt, einen Raum oder eine Fassade ins Bild einpassen, mit Objektiv oder Abstand</translation>
    </message>
    <message>
        <source>Sensor width: what the focal length refers to</source>
        <translation>Sensorbreite: worauf sich die Brennweite bezieht</translation>
    </message>
    <message>
        <source>Sensor width</source>
        <extracomment>Groups that begin unfolded. More at the top would push the others out of sight beside the Frame at 800 px; the format stands below all but one. While something is dragged the numbers follow at this interval.</extracomment>
        <translation>Sensorbreite</translation>
    </message>
    <message>
        <source>Sensor</source>
        <translation>Sensor</translation>
    </message>
    <message>
        <source>Sensor sizes by their dimensions</source>
        <translation>Sensoren nach ihren Maßen</translation>
    </message>
    <message>
        <source>Angle of view {way} the picture</source>
        <translation>Bildwinkel {way} durch das Bild</translation>
    </message>
    <message>
        <source>Fit {target} by {by}</source>
        <translation>{target} einpassen: {by}</translation>
    </message>
    <message>
        <source>Keep {here:g} mm as an own length</source>
        <translation>{here:g} mm als eigene Brennweite behalten</translation>
    </message>
    <message>
        <source>Forget {here:g} mm as an own length</source>
        <translation>{here:g} mm als eigene Brennweite vergessen</translation>
    </message>
    <message>
        <source>Own values</source>
        <translation>Eigene Werte</translation>
    </message>
    <message>
        <source>Next longer	Ctrl++</source>
        <translation>Nächstlängere	Strg++</translation>
    </message>
    <message>
        <source>Next shorter	Ctrl+-</source>
        <translation>Nächstkürzere	Strg+-</translation>
    </message>
    <message>
        <source>{name} by {by}</source>
        <translation>{name}: {by}</translation>
    </message>
    <message>
        <source> · wide</source>
        <translation> · weit</translation>
    </message>
    <message>
        <source> · ! very wide</source>
        <translation> · ! sehr weit</translation>
    </message>
    <message>
        <source>Exposure</source>
        <extracomment>The page shows pictures no larger than this; the files are written in full. Photographers count the other way round than the bend does.</extracomment>
        <translation>Belichtung</translation>
    </message>
    <message>
        <source>EV; lower is brighter</source>
        <translation>LW; kleiner ist heller</translation>
    </message>
    <message>
        <source>The smaller, the less is sharp</source>
        <translation>Je kleiner, desto weniger ist scharf</translation>
    </message>
    <message>
        <source>Focus</source>
        <translation>Schärfe</translation>
    </message>
    <message>
        <source>Distance in focus; to begin with what the camera looks at</source>
        <translation>Entfernung, die scharf ist; zu Beginn die des Motivs</translation>
    </message>
    <message>
        <source>Light</source>
        <translation>Licht</translation>
    </message>
    <message>
        <source>f-number and shutter of this exposure at ISO 100</source>
        <translation>Blende und Zeit dieser Belichtung bei ISO 100</translation>
    </message>
    <message>
        <source>The exposure at which the middle of the picture comes out as middle grey</source>
        <translation>Die Belichtung, bei der die Bildmitte als mittleres Grau herauskommt</translation>
    </message>
    <message>
        <source>Propose</source>
        <translation>Vorschlagen</translation>
    </message>
    <message>
        <source>Depth of field</source>
        <translation>Schärfentiefe</translation>
    </message>
    <message>
        <source>Blur what is not in focus, by the lens&apos;s own figures; not while things move</source>
        <translation>Verwischen, was nicht scharf ist, nach den Werten des Objektivs; nicht während sich etwas bewegt</translation>
    </message>
    <message>
        <source>Light of the camera</source>
        <translation>Licht der Kamera</translation>
    </message>
    <message>
        <source>Its own: {own}.</source>
        <translation>Eigenes: {own}.</translation>
    </message>
    <message>
        <source>Follows the project&apos;s light.</source>
        <translation>Folgt dem Licht des Projekts.</translation>
    </message>
    <message>
        <source>Choose {name}</source>
        <translation>{name} wählen</translation>
    </message>
    <message>
        <source>The view is loose: go back to the camera first</source>
        <translation>Die Ansicht ist frei: erst zurück zur Kamera</translation>
    </message>
    <message>
        <source>The view is loose: go back to the camera, or move it here, then mend it.</source>
        <translation>Die Ansicht ist frei: zurück zur Kamera, oder sie hierher bewegen, dann beheben.</translation>
    </message>
    <message>
        <source>Calmer lens</source>
        <translation>Ruhigeres Objektiv</translation>
    </message>
    <message>
        <source>Keep a try</source>
        <extracomment>The variant that is shown in the Frame; -1 for the camera itself.</extracomment>
        <translation>Versuch behalten</translation>
    </message>
    <message>
        <source>Ladder of {ladder_words}</source>
        <translation>Reihe: {ladder_words}</translation>
    </message>
    <message>
        <source>Ladder of lenses</source>
        <translation>Brennweitenreihe</translation>
    </message>
    <message>
        <source>Focal lengths in mm, 2 to {most_variants}, with commas between</source>
        <translation>Brennweiten in mm, 2 bis {most_variants}, durch Kommas getrennt</translation>
    </message>
    <message>
        <source>Make stills…</source>
        <translation>Standbilder machen…</translation>
    </message>
    <message>
        <source>Pictures of the chosen cameras as files, in the background (key Ctrl+E)</source>
        <translation>Bilder der gewählten Kameras als Dateien, im Hintergrund (Strg+E)</translation>
    </message>
    <message>
        <source>In shot list</source>
        <translation>In Bildliste</translation>
    </message>
    <message>
        <source>Whether this camera is delivered with the shot list (key S)</source>
        <translation>Ob diese Kamera mit der Bildliste abgegeben wird (Taste S)</translation>
    </message>
    <message>
        <source>Out of shot list</source>
        <translation>Aus der Bildliste</translation>
    </message>
    <message numerus="yes">
        <source>Make %n stills…</source>
        <translation>
            <numerusform>%n Standbild machen…</numerusform>
            <numerusform>%n Standbilder machen…</numerusform>
        </translation>
    </message>
    <message>
        <source>In list ✓</source>
        <translation>In Liste ✓</translation>
    </message>
    <message>
        <source>Standing</source>
        <translation>Stehen</translation>
    </message>
    <message>
        <source>Eye 1.60 m above the floor under it</source>
        <translation>Auge 1,60 m über dem Boden darunter</translation>
    </message>
    <message>
        <source>Seated</source>
        <translation>Sitzen</translation>
    </message>
    <message>
        <source>Eye 1.20 m above the floor under it</source>
        <translation>Auge 1,20 m über dem Boden darunter</translation>
    </message>
    <message>
        <source>Child</source>
        <translation>Kind</translation>
    </message>
    <message>
        <source>Eye 1.00 m above the floor under it</source>
        <translation>Auge 1,00 m über dem Boden darunter</translation>
    </message>
    <message>
        <source>Middle</source>
        <translation>Mitte</translation>
    </message>
    <message>
        <source>Eye in the middle of the room&apos;s height</source>
        <translation>Auge auf halber Raumhöhe</translation>
    </message>
    <message>
        <source>Back to wall</source>
        <translation>Zur Wand</translation>
    </message>
    <message>
        <source>Standpoint</source>
        <translation>Standpunkt</translation>
    </message>
    <message>
        <source>Height of the eye above the floor that is really under it</source>
        <translation>Höhe des Auges über dem Boden, der wirklich darunter ist</translation>
    </message>
    <message>
        <source>Eye above floor</source>
        <translation>Augenhöhe</translation>
    </message>
    <message>
        <source>Eye height</source>
        <translation>Augenhöhe</translation>
    </message>
    <message>
        <source>heights ▾</source>
        <translation>Höhen ▾</translation>
    </message>
    <message>
        <source>Heights of the eye: your own</source>
        <translation>Höhen des Auges: eigene</translation>
    </message>
    <message>
        <source>East, x</source>
        <translation>Ost, x</translation>
    </message>
    <message>
        <source>east</source>
        <translation>Ost</translation>
    </message>
    <message>
        <source>North, y</source>
        <translation>Nord, y</translation>
    </message>
    <message>
        <source>north</source>
        <translation>Nord</translation>
    </message>
    <message>
        <source>Place x, y</source>
        <translation>Ort x, y</translation>
    </message>
    <message>
        <source>Free distance to the left and to the right, at eye height</source>
        <translation>Freier Abstand nach links und rechts, in Augenhöhe</translation>
    </message>
    <message>
        <source>To side walls</source>
        <translation>Seitenwände</translation>
    </message>
    <message>
        <source>Between walls</source>
        <translation>Zwischen Wände</translation>
    </message>
    <message>
        <source>Slide until the side walls are equally far (key B)</source>
        <translation>Seitwärts, bis die Seitenwände gleich weit sind (Taste B)</translation>
    </message>
    <message>
        <source>Corner</source>
        <translation>Ecke</translation>
    </message>
    <message>
        <source>Into the nearest corner behind, looking across the room</source>
        <translation>In die nächste Ecke hinten, mit Blick quer durch den Raum</translation>
    </message>
    <message>
        <source>Middle of room</source>
        <translation>Raummitte</translation>
    </message>
    <message>
        <source>To the middle both ways</source>
        <translation>In die Mitte, nach beiden Seiten</translation>
    </message>
    <message>
        <source>Step back to the wall behind; outdoors as far as there is free ground</source>
        <translation>Zurück bis zur Wand dahinter; im Freien so weit Gelände frei ist</translation>
    </message>
    <message>
        <source>Back, out through the wall behind if need be, until a width of the far wall fits; the bound lands on the wall&apos;s inner face</source>
        <translation>Zurück, wenn nötig durch die Wand hinaus, bis eine Breite der fernen Wand hineinpasst; die Grenze liegt dann auf der Innenseite der Wand</translation>
    </message>
    <message>
        <source>Back through wall ▾</source>
        <translation>Zurück durch die Wand ▾</translation>
    </message>
    <message>
        <source>There is no floor under the eye; move it over a floor first.</source>
        <translation>Unter dem Auge ist kein Boden; erst über einen Boden bewegen.</translation>
    </message>
    <message>
        <source>Eye in the middle</source>
        <translation>Auge in die Mitte</translation>
    </message>
    <message>
        <source>Keep {here} as an own height</source>
        <translation>{here} als eigene Höhe behalten</translation>
    </message>
    <message>
        <source>Forget {height}</source>
        <translation>{height} vergessen</translation>
    </message>
    <message>
        <source>Tidy the place to 1 cm</source>
        <translation>Ort auf 1 cm glätten</translation>
    </message>
    <message>
        <source>Tidy place</source>
        <translation>Ort glätten</translation>
    </message>
    <message>
        <source>Tidy the place to 10 cm</source>
        <translation>Ort auf 10 cm glätten</translation>
    </message>
    <message>
        <source>open</source>
        <translation>offen</translation>
    </message>
    <message numerus="yes">
        <source>%n cameras</source>
        <translation>
            <numerusform>%n Kamera</numerusform>
            <numerusform>%n Kameras</numerusform>
        </translation>
    </message>
    <message>
        <source>Place of the eye: {way}</source>
        <translation>Ort des Auges: {way}</translation>
    </message>
    <message>
        <source>Press on the plan, or on a floor in the Frame, where the eye is; drag to what it looks at (key C)</source>
        <translation>Auf den Grundriss oder einen Boden im Sucher drücken, wo das Auge ist; zu dem ziehen, was es sieht (Taste C)</translation>
    </message>
    <message>
        <source>Find a camera</source>
        <translation>Kamera suchen</translation>
    </message>
    <message>
        <source>Type part of a name or intent</source>
        <translation>Einen Teil von Name oder Absicht eingeben</translation>
    </message>
    <message>
        <source>Cameras</source>
        <translation>Kameras</translation>
    </message>
    <message>
        <source>rise {rise_mm:.1f}</source>
        <translation>Hochversatz {rise_mm:.1f}</translation>
    </message>
    <message>
        <source>planned: no camera yet</source>
        <translation>geplant: noch keine Kamera</translation>
    </message>
    <message>
        <source>off plan</source>
        <translation>nicht im Grundriss</translation>
    </message>
    <message numerus="yes">
        <source>%n tries</source>
        <translation>
            <numerusform>%n Versuch</numerusform>
            <numerusform>%n Versuche</numerusform>
        </translation>
    </message>
    <message>
        <source>Inside</source>
        <translation>Innen</translation>
    </message>
    <message>
        <source>Outside</source>
        <translation>Außen</translation>
    </message>
    <message>
        <source>Camera {name}</source>
        <translation>Kamera {name}</translation>
    </message>
    <message>
        <source>Planned: {intent}</source>
        <translation>Geplant: {intent}</translation>
    </message>
    <message numerus="yes">
        <source>{name}, %n cameras</source>
        <translation>
            <numerusform>{name}, %n Kamera</numerusform>
            <numerusform>{name}, %n Kameras</numerusform>
        </translation>
    </message>
    <message>
        <source>Planned, no camera yet: press to stand one for it</source>
        <translation>Geplant, noch keine Kamera: drücken, um eine dafür aufzustellen</translation>
    </message>
    <message>
        <source>Reorder cameras</source>
        <translation>Kameras ordnen</translation>
    </message>
    <message>
        <source>Rise: shifts the lens up, more of what is above</source>
        <translation>Hochversatz: verschiebt das Objektiv nach oben, mehr von dem, was oben ist</translation>
    </message>
    <message>
        <source>Cross</source>
        <translation>Querversatz</translation>
    </message>
    <message>
        <source>Cross: shifts the lens to the right</source>
        <translation>Querversatz: verschiebt das Objektiv nach rechts</translation>
    </message>
    <message>
        <source>Verticals</source>
        <translation>Senkrechte</translation>
    </message>
    <message>
        <source>Rise, cross</source>
        <translation>Hoch, quer</translation>
    </message>
    <message>
        <source>Amount of plumb</source>
        <translation>Maß des Lots</translation>
    </message>
    <message>
        <source>How much of the tilt Plumb takes out, per cent</source>
        <translation>Wie viel der Neigung Lotrecht herausnimmt, Prozent</translation>
    </message>
    <message>
        <source>Amount</source>
        <translation>Maß</translation>
    </message>
    <message>
        <source>Keep size</source>
        <translation>Größe halten</translation>
    </message>
    <message>
        <source>Plumb keeps the subject&apos;s size at the middle of the frame</source>
        <translation>Lotrecht hält die Größe des Motivs in der Bildmitte</translation>
    </message>
    <message>
        <source>Upright verticals by levelling and shifting the lens; the subject stays (key P)</source>
        <translation>Aufrechte Senkrechte durch waagrechten Blick und Versatz des Objektivs; das Motiv bleibt (Taste P)</translation>
    </message>
    <message>
        <source>Plumb</source>
        <translation>Lotrecht</translation>
    </message>
    <message>
        <source>Turned up or down the camera stays true: turning becomes rise, until a limit that is said</source>
        <translation>Nach oben oder unten gedreht bleibt die Kamera lotrecht: Drehen wird Hochversatz, bis zu einer Grenze, die gesagt wird</translation>
    </message>
    <message>
        <source>Keep plumb</source>
        <translation>Lotrecht halten</translation>
    </message>
    <message>
        <source>Roll to 0°</source>
        <translation>Verkantung auf 0°</translation>
    </message>
    <message>
        <source>Level the horizon exactly</source>
        <translation>Den Horizont genau waagrecht stellen</translation>
    </message>
    <message>
        <source>Let it tilt</source>
        <translation>Neigen erlauben</translation>
    </message>
    <message>
        <source>Already true</source>
        <translation>Schon lotrecht</translation>
    </message>
    <message>
        <source>{rise_mm:+.0f} % · {cross_mm:+.0f} % of the frame</source>
        <translation>{rise_mm:+.0f} % · {cross_mm:+.0f} % des Bildes</translation>
    </message>
    <message>
        <source>lean {lean_deg:.1f}°</source>
        <translation>schief {lean_deg:.1f}°</translation>
    </message>
    <message>
        <source> · rise {rise_mm:.1f}</source>
        <translation> · Hochversatz {rise_mm:.1f}</translation>
    </message>
    <message>
        <source> · kept</source>
        <translation> · gehalten</translation>
    </message>
    <message>
        <source>true</source>
        <translation>lotrecht</translation>
    </message>
    <message>
        <source>This wall cut on or off</source>
        <extracomment>How deep a cut goes that takes away only the wall, metres.</extracomment>
        <translation>Dieser Wandschnitt ein oder aus</translation>
    </message>
    <message>
        <source>Offset</source>
        <translation>Abstand</translation>
    </message>
    <message>
        <source>How far the cut lies into the room</source>
        <translation>Wie weit der Schnitt in den Raum hinein liegt</translation>
    </message>
    <message>
        <source>More: turn over, how deep it cuts, remove</source>
        <translation>Mehr: wenden, wie tief er schneidet, entfernen</translation>
    </message>
    <message>
        <source>wall cut {number}</source>
        <translation>Wandschnitt {number}</translation>
    </message>
    <message>
        <source>Wall cut: {name}</source>
        <translation>Wandschnitt: {name}</translation>
    </message>
    <message>
        <source>Wall cut on {name}, {size}: on or off</source>
        <translation>Wandschnitt an {name}, {size}: ein oder aus</translation>
    </message>
    <message>
        <source>Wall cut on</source>
        <translation>Wandschnitt ein</translation>
    </message>
    <message>
        <source>Wall cut off</source>
        <translation>Wandschnitt aus</translation>
    </message>
    <message>
        <source>Keep the other side</source>
        <translation>Die andere Seite behalten</translation>
    </message>
    <message>
        <source>Turn wall cut over</source>
        <translation>Wandschnitt wenden</translation>
    </message>
    <message>
        <source>Take away only the wall</source>
        <translation>Nur die Wand wegnehmen</translation>
    </message>
    <message>
        <source>Take away all before it</source>
        <translation>Alles davor wegnehmen</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Remove wall cut</source>
        <translation>Wandschnitt entfernen</translation>
    </message>
    <message>
        <source>Depth of wall cut</source>
        <translation>Tiefe des Wandschnitts</translation>
    </message>
    <message>
        <source>Pages for the client ▾</source>
        <translation>Seiten für die Kundschaft ▾</translation>
    </message>
    <message>
        <source>Pages for the client: contact sheet, presentation, look round</source>
        <translation>Seiten für die Kundschaft: Kontaktbogen, Präsentation, Umsehen</translation>
    </message>
    <message>
        <source>Open the folder</source>
        <translation>Ordner öffnen</translation>
    </message>
    <message>
        <source>Show what was made in the file manager</source>
        <translation>Zeigen, was gemacht wurde, in der Dateiverwaltung</translation>
    </message>
    <message>
        <source>Contact sheet (PNG)</source>
        <translation>Kontaktbogen (PNG)</translation>
    </message>
    <message>
        <source>Presentation, a picture a page (PDF)</source>
        <translation>Präsentation, ein Bild je Seite (PDF)</translation>
    </message>
    <message>
        <source>Presentation, four a page (PDF)</source>
        <translation>Präsentation, vier je Seite (PDF)</translation>
    </message>
    <message>
        <source>Look round in a browser (HTML)</source>
        <translation>Umsehen im Browser (HTML)</translation>
    </message>
    <message>
        <source>Everything for the client (ZIP)</source>
        <translation>Alles für die Kundschaft (ZIP)</translation>
    </message>
    <message>
        <source>Writing pages for the client…</source>
        <translation>Seiten für die Kundschaft werden geschrieben…</translation>
    </message>
    <message>
        <source>{name} in {out}.</source>
        <translation>{name} in {out}.</translation>
    </message>
    <message>
        <source>No pages were written.</source>
        <translation>Es wurden keine Seiten geschrieben.</translation>
    </message>
    <message>
        <source>writing pages for the client</source>
        <translation>Seiten für die Kundschaft schreiben</translation>
    </message>
    <message>
        <source>Tone curve</source>
        <extracomment>A press this near to a point takes it; points keep this far from each other. Dragged this far out of the drawing, a point is taken away.</extracomment>
        <translation>Tonwertkurve</translation>
    </message>
    <message>
        <source>What each brightness becomes. Press to add a point and drag it; drag it out or press Delete to take it away.
Keys: Page up and down choose a point, the arrows move it, Insert adds one.</source>
        <translation>Was aus jeder Helligkeit wird. Drücken fügt einen Punkt hinzu, ziehen bewegt ihn; hinausziehen oder Entf nimmt ihn weg.
Tasten: Bild auf und ab wählen einen Punkt, die Pfeile bewegen ihn, Einfg fügt einen hinzu.</translation>
    </message>
    <message>
        <source>From</source>
        <translation>Von</translation>
    </message>
    <message>
        <source>Brightness of the chosen point</source>
        <translation>Helligkeit des gewählten Punkts</translation>
    </message>
    <message>
        <source>To</source>
        <translation>Nach</translation>
    </message>
    <message>
        <source>What this brightness becomes</source>
        <translation>Was aus dieser Helligkeit wird</translation>
    </message>
    <message>
        <source>Add</source>
        <translation>Hinzufügen</translation>
    </message>
    <message>
        <source>Another point on the curve (Insert)</source>
        <translation>Ein weiterer Punkt auf der Kurve (Einfg)</translation>
    </message>
    <message>
        <source>Away</source>
        <translation>Weg</translation>
    </message>
    <message>
        <source>Take the chosen point away (Delete)</source>
        <translation>Den gewählten Punkt wegnehmen (Entf)</translation>
    </message>
    <message>
        <source>Shot list</source>
        <extracomment>The file whose tone is being set. How many files the run had made when that was looked at last.</extracomment>
        <translation>Bildliste</translation>
    </message>
    <message>
        <source>What is delivered</source>
        <translation>Was abgegeben wird</translation>
    </message>
    <message>
        <source>Results</source>
        <translation>Ergebnisse</translation>
    </message>
    <message>
        <source>What was made</source>
        <extracomment>A file could not be thrown away, with the reason. The folder whose newest file is to be looked at, until the list has been read anew.</extracomment>
        <translation>Was gemacht wurde</translation>
    </message>
    <message>
        <source>Tone</source>
        <extracomment>Light and coverage of the master that is toned. What is shown.</extracomment>
        <translation>Ton</translation>
    </message>
    <message>
        <source>Exposure, highlights, contrast of what was made, without drawing again</source>
        <translation>Belichtung, Lichter, Kontrast des Gemachten, ohne neu zu zeichnen</translation>
    </message>
    <message>
        <source>To its camera</source>
        <translation>Zu seiner Kamera</translation>
    </message>
    <message>
        <source>Go to the camera as it stood for this picture</source>
        <translation>Zur Kamera gehen, wie sie für dieses Bild stand</translation>
    </message>
    <message>
        <source>Materials, white card, lines or pencil</source>
        <translation>Materialien, weißer Karton, Linien oder Bleistift</translation>
    </message>
    <message>
        <source>Background colour</source>
        <translation>Farbe des Hintergrunds</translation>
    </message>
    <message>
        <source>Colour of a plain background</source>
        <translation>Farbe eines einfachen Hintergrunds</translation>
    </message>
    <message>
        <source>Colour</source>
        <translation>Farbe</translation>
    </message>
    <message>
        <source>Choose a picture…</source>
        <translation>Bild wählen…</translation>
    </message>
    <message>
        <source>It is copied into the project&apos;s folder; its middle lies on the horizon</source>
        <translation>Es wird in den Ordner des Projekts kopiert; seine Mitte liegt auf dem Horizont</translation>
    </message>
    <message>
        <source>Ground</source>
        <translation>Gelände</translation>
    </message>
    <message>
        <source>What lies below the horizon where the model ends</source>
        <translation>Was unter dem Horizont liegt, wo das Modell endet</translation>
    </message>
    <message>
        <source>Ground colour</source>
        <translation>Farbe des Geländes</translation>
    </message>
    <message>
        <source>Colour of a plain ground</source>
        <translation>Farbe eines einfachen Geländes</translation>
    </message>
    <message>
        <source>Background picture</source>
        <translation>Hintergrundbild</translation>
    </message>
    <message>
        <source>Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp *.hdr *.exr)</source>
        <translation>Bilder (*.png *.jpg *.jpeg *.tif *.tiff *.webp *.hdr *.exr)</translation>
    </message>
    <message numerus="yes">
        <source>%n rows</source>
        <translation>
            <numerusform>%n Zeile</numerusform>
            <numerusform>%n Zeilen</numerusform>
        </translation>
    </message>
    <message>
        <source>File</source>
        <translation>Datei</translation>
    </message>
    <message>
        <source>Kind of file</source>
        <translation>Art der Datei</translation>
    </message>
    <message>
        <source>Name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>Name of the file. Fields: </source>
        <translation>Name der Datei. Felder: </translation>
    </message>
    <message>
        <source>Name of the file</source>
        <translation>Name der Datei</translation>
    </message>
    <message>
        <source>Folder</source>
        <translation>Ordner</translation>
    </message>
    <message>
        <source>Folder below the delivery; the same fields as in the name</source>
        <translation>Ordner unter der Abgabe; dieselben Felder wie im Namen</translation>
    </message>
    <message>
        <source>Folder of the file</source>
        <translation>Ordner der Datei</translation>
    </message>
    <message>
        <source>becomes {file}</source>
        <translation>wird {file}</translation>
    </message>
    <message>
        <source>{file} and {rows} more</source>
        <translation>{file} und {rows} weitere</translation>
    </message>
    <message>
        <source>varies</source>
        <translation>verschieden</translation>
    </message>
    <message>
        <source>Film</source>
        <extracomment>Another film that is played in step with this one. What it is called where two are beside each other.</extracomment>
        <translation>Film</translation>
    </message>
    <message>
        <source>Space plays and stops, the arrow keys go by a film frame</source>
        <translation>Leertaste spielt und hält an, die Pfeiltasten gehen ein Filmbild weiter</translation>
    </message>
    <message>
        <source>No film chosen</source>
        <translation>Kein Film gewählt</translation>
    </message>
    <message>
        <source>Lines</source>
        <translation>Linien</translation>
    </message>
    <message>
        <source>Ink ▾</source>
        <translation>Tinte ▾</translation>
    </message>
    <message>
        <source>Line style: one by name, or one of your own</source>
        <translation>Linienart: eine mit Namen, oder eine eigene</translation>
    </message>
    <message>
        <source>Outlines</source>
        <extracomment>The figures of a style: field, name, what it is, unit, decimals, step, lowest and highest.</extracomment>
        <translation>Umrisse</translation>
    </message>
    <message>
        <source>Width of outlines, pixels in a picture 1080 px high</source>
        <translation>Breite der Umrisse, Pixel in einem 1080 px hohen Bild</translation>
    </message>
    <message>
        <source>Creases</source>
        <translation>Kanten</translation>
    </message>
    <message>
        <source>Width of lines within bodies; 0 draws none</source>
        <translation>Breite der Linien innerhalb der Körper; 0 zeichnet keine</translation>
    </message>
    <message>
        <source>Roughness</source>
        <translation>Rauheit</translation>
    </message>
    <message>
        <source>How far pencil wavers and overshoots</source>
        <translation>Wie weit der Bleistift schwankt und übersteht</translation>
    </message>
    <message>
        <source>Hatching</source>
        <translation>Schraffur</translation>
    </message>
    <message>
        <source>How dark shadows are hatched</source>
        <translation>Wie dunkel Schatten schraffiert sind</translation>
    </message>
    <message>
        <source>Hand</source>
        <translation>Hand</translation>
    </message>
    <message>
        <source>Another number draws the same picture with another hand</source>
        <translation>Eine andere Zahl zeichnet dasselbe Bild mit anderer Hand</translation>
    </message>
    <message>
        <source>Ink</source>
        <translation>Tinte</translation>
    </message>
    <message>
        <source>Colour of the lines</source>
        <translation>Farbe der Linien</translation>
    </message>
    <message>
        <source>Paper</source>
        <translation>Papier</translation>
    </message>
    <message>
        <source>Colour of the paper</source>
        <translation>Farbe des Papiers</translation>
    </message>
    <message>
        <source>Hidden lines dashed</source>
        <translation>Verdeckte Linien gestrichelt</translation>
    </message>
    <message>
        <source>What is behind shows as dashed lines</source>
        <translation>Was dahinter liegt, erscheint als gestrichelte Linien</translation>
    </message>
    <message>
        <source>Hidden lines</source>
        <translation>Verdeckte Linien</translation>
    </message>
    <message>
        <source>{name} (damaged)</source>
        <translation>{name} (beschädigt)</translation>
    </message>
    <message>
        <source>Keep this style…</source>
        <translation>Diesen Stil behalten…</translation>
    </message>
    <message>
        <source>Use a style&apos;s file…</source>
        <translation>Datei eines Stils nehmen…</translation>
    </message>
    <message>
        <source>Style {name}</source>
        <translation>Stil {name}</translation>
    </message>
    <message>
        <source>The style was not kept: {strerror}.</source>
        <translation>Der Stil wurde nicht behalten: {strerror}.</translation>
    </message>
    <message>
        <source>Keep this style</source>
        <translation>Diesen Stil behalten</translation>
    </message>
    <message>
        <source>Use a style</source>
        <translation>Stil nehmen</translation>
    </message>
    <message>
        <source>Line styles (*{style_suffix})</source>
        <translation>Linienarten (*{style_suffix})</translation>
    </message>
    <message>
        <source>Varies</source>
        <translation>Verschieden</translation>
    </message>
    <message>
        <source>{items} of {rows} rows are on</source>
        <translation>{items} von {rows} Zeilen sind ein</translation>
    </message>
    <message numerus="yes">
        <source> %n cannot be made as they are.</source>
        <translation>
            <numerusform> %n kann so nicht gemacht werden.</numerusform>
            <numerusform> %n können so nicht gemacht werden.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n cameras are chosen in Compose.</source>
        <translation>
            <numerusform>Unter Gestalten ist %n Kamera gewählt.</numerusform>
            <numerusform>Unter Gestalten sind %n Kameras gewählt.</numerusform>
        </translation>
    </message>
    <message>
        <source>Add chosen cameras</source>
        <translation>Gewählte hinzufügen</translation>
    </message>
    <message>
        <source>A row for each camera chosen in Compose, in the format it is in</source>
        <translation>Eine Zeile für jede Kamera, die unter Gestalten gewählt ist, in ihrem jetzigen Format</translation>
    </message>
    <message>
        <source>A panorama from the place of each camera chosen in Compose</source>
        <translation>Ein Panorama vom Ort jeder Kamera, die unter Gestalten gewählt ist</translation>
    </message>
    <message>
        <source>Add a film ▾</source>
        <translation>Film hinzufügen ▾</translation>
    </message>
    <message>
        <source>A film of a walk or a turntable</source>
        <translation>Ein Film eines Rundgangs oder einer Umrundung</translation>
    </message>
    <message>
        <source>Later</source>
        <translation>Später</translation>
    </message>
    <message>
        <source>The chosen rows one place later (Control and Down)</source>
        <translation>Die gewählten Zeilen um einen Platz später (Strg und Ab)</translation>
    </message>
    <message>
        <source>Earlier</source>
        <translation>Früher</translation>
    </message>
    <message>
        <source>The chosen rows one place earlier (Control and Up)</source>
        <translation>Die gewählten Zeilen um einen Platz früher (Strg und Auf)</translation>
    </message>
    <message>
        <source>Duplicate</source>
        <translation>Verdoppeln</translation>
    </message>
    <message>
        <source>A copy of the chosen rows behind them</source>
        <translation>Eine Kopie der gewählten Zeilen dahinter</translation>
    </message>
    <message>
        <source>Take out</source>
        <translation>Herausnehmen</translation>
    </message>
    <message>
        <source>Take the chosen rows out of the list (Delete)</source>
        <translation>Die gewählten Zeilen aus der Liste nehmen (Entf)</translation>
    </message>
    <message>
        <source>Send…</source>
        <translation>Senden…</translation>
    </message>
    <message>
        <source>Cameras, walks, viewpoints, plans or the list as an edit, for other tools and people</source>
        <translation>Kameras, Rundgänge, Blickpunkte, Grundrisse oder die Liste als Schnittfolge, für andere Werkzeuge und Leute</translation>
    </message>
    <message>
        <source>Take in…</source>
        <translation>Übernehmen…</translation>
    </message>
    <message>
        <source>Cameras, walks and remarks of other people&apos;s files, offered first</source>
        <translation>Kameras, Rundgänge und Anmerkungen aus Dateien anderer, erst zur Ansicht</translation>
    </message>
    <message>
        <source>Remarks…</source>
        <translation>Anmerkungen…</translation>
    </message>
    <message>
        <source>What others said, and what answers it</source>
        <translation>Was andere sagten, und was darauf antwortet</translation>
    </message>
    <message>
        <source>Choose cameras in Compose first.</source>
        <translation>Erst unter Gestalten Kameras wählen.</translation>
    </message>
    <message>
        <source>Add to shot list</source>
        <translation>Zur Bildliste hinzufügen</translation>
    </message>
    <message>
        <source>In the list already: {names}. Duplicate a row to have it twice.</source>
        <translation>Schon in der Liste: {names}. Eine Zeile verdoppeln, um sie zweimal zu haben.</translation>
    </message>
    <message>
        <source>No walks yet</source>
        <translation>Noch keine Rundgänge</translation>
    </message>
    <message>
        <source>Add film</source>
        <translation>Film hinzufügen</translation>
    </message>
    <message>
        <source>Order of rows</source>
        <translation>Folge der Zeilen</translation>
    </message>
    <message>
        <source>Duplicate rows</source>
        <translation>Zeilen verdoppeln</translation>
    </message>
    <message>
        <source>Take rows out</source>
        <translation>Zeilen herausnehmen</translation>
    </message>
    <message>
        <source>{path}: made before Altana kept a list of what it makes.</source>
        <extracomment>What was made, with what has changed since.</extracomment>
        <translation>{path}: gemacht, bevor Altana eine Liste des Gemachten führte.</translation>
    </message>
    <message>
        <source>{name} · not made, {day}: {sentence}</source>
        <translation>{name} · nicht gemacht, {day}: {sentence}</translation>
    </message>
    <message>
        <source>out of date: {changed}</source>
        <translation>veraltet: {changed}</translation>
    </message>
    <message>
        <source>current</source>
        <translation>aktuell</translation>
    </message>
    <message>
        <source>test, </source>
        <translation>Probe, </translation>
    </message>
    <message>
        <source>set aside</source>
        <translation>beiseite gelegt</translation>
    </message>
    <message>
        <source>out of date</source>
        <translation>veraltet</translation>
    </message>
    <message>
        <source>Nothing was made yet. Everything that is made for this project is listed here.</source>
        <translation>Noch nichts gemacht. Alles, was für dieses Projekt gemacht wird, steht hier.</translation>
    </message>
    <message>
        <source>Into the trash</source>
        <translation>In den Papierkorb</translation>
    </message>
    <message>
        <source>Put {name} into the trash? The row of the shot list stays.</source>
        <translation>{name} in den Papierkorb? Die Zeile der Bildliste bleibt.</translation>
    </message>
    <message>
        <source>Keep it</source>
        <translation>Behalten</translation>
    </message>
    <message>
        <source>{name} could not be put into the trash of this disk. It is where it was; delete it in its folder.</source>
        <translation>{name} konnte nicht in den Papierkorb dieser Platte. Die Datei ist, wo sie war; löschen Sie sie in ihrem Ordner.</translation>
    </message>
    <message>
        <source>Making</source>
        <translation>Ausführung</translation>
    </message>
    <message>
        <source>How many passes it takes</source>
        <translation>Wie viele Durchgänge es braucht</translation>
    </message>
    <message>
        <source>Quality</source>
        <translation>Güte</translation>
    </message>
    <message>
        <source>What the words stand for…</source>
        <translation>Wofür die Wörter stehen…</translation>
    </message>
    <message>
        <source>Passes and shadows of proof, review and final in this project</source>
        <translation>Durchgänge und Schatten von Probe, Durchsicht und Endfassung in diesem Projekt</translation>
    </message>
    <message>
        <source>Keep the linear master</source>
        <translation>Linearen Master behalten</translation>
    </message>
    <message>
        <source>An EXR beside the delivery: tone is changed without drawing again</source>
        <translation>Ein EXR neben der Abgabe: der Ton lässt sich ohne Neuzeichnen ändern</translation>
    </message>
    <message>
        <source>Master</source>
        <translation>Master</translation>
    </message>
    <message>
        <source>Layers for compositing</source>
        <translation>Ebenen zum Zusammensetzen</translation>
    </message>
    <message>
        <source>Stills: an EXR beside the picture with light, albedo, normal, depth, objects and materials</source>
        <translation>Standbilder: ein EXR neben dem Bild mit Licht, Grundfarbe, Normalen, Tiefe, Objekten und Materialien</translation>
    </message>
    <message>
        <source>Layers</source>
        <translation>Ebenen</translation>
    </message>
    <message>
        <source>Contact strip, a picture a second</source>
        <translation>Kontaktstreifen, ein Bild je Sekunde</translation>
    </message>
    <message>
        <source>Films: small pictures with their times, beside the film</source>
        <translation>Filme: kleine Bilder mit ihren Zeiten, neben dem Film</translation>
    </message>
    <message>
        <source>Contact strip</source>
        <translation>Kontaktstreifen</translation>
    </message>
    <message>
        <source>Samples</source>
        <translation>Abtastungen</translation>
    </message>
    <message>
        <source>Of final pictures, a pixel; 0 takes what final stands for</source>
        <translation>Bei Endfassungen, je Pixel; 0 nimmt, wofür Endfassung steht</translation>
    </message>
    <message>
        <source>as final</source>
        <translation>wie Endfassung</translation>
    </message>
    <message>
        <source>Minutes</source>
        <translation>Minuten</translation>
    </message>
    <message>
        <source>Of final pictures: stop after so long; 0 for no limit</source>
        <translation>Bei Endfassungen: nach dieser Zeit aufhören; 0 für unbegrenzt</translation>
    </message>
    <message>
        <source>no limit</source>
        <translation>unbegrenzt</translation>
    </message>
    <message>
        <source>Stop after</source>
        <translation>Aufhören nach</translation>
    </message>
    <message>
        <source>Until clean</source>
        <translation>Bis sauber</translation>
    </message>
    <message>
        <source>As many samples as it takes until hardly any grain is left</source>
        <translation>So viele Abtastungen, bis kaum noch Korn bleibt</translation>
    </message>
    <message>
        <source>Light of rows</source>
        <translation>Licht der Zeilen</translation>
    </message>
    <message>
        <source>Figures of proof, review and final</source>
        <translation>Werte von Probe, Durchsicht und Endfassung</translation>
    </message>
    <message>
        <source>differ</source>
        <translation>verschieden</translation>
    </message>
    <message numerus="yes">
        <source>%n samples</source>
        <translation>
            <numerusform>%n Abtastung</numerusform>
            <numerusform>%n Abtastungen</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n passes</source>
        <translation>
            <numerusform>%n Durchgang</numerusform>
            <numerusform>%n Durchgänge</numerusform>
        </translation>
    </message>
    <message>
        <source>{still} a picture, {film} a film frame</source>
        <translation>{still} je Bild, {film} je Filmbild</translation>
    </message>
    <message>
        <source>: light is followed to its end</source>
        <translation>: das Licht wird bis zum Ende verfolgt</translation>
    </message>
    <message>
        <source>Write into the file what makes a host take it as a panorama; its picture is not touched</source>
        <extracomment>The file was given other tags.</extracomment>
        <translation>In die Datei schreiben, was sie für einen Betrachter zum Panorama macht; ihr Bild bleibt unberührt</translation>
    </message>
    <message>
        <source>Mend tags</source>
        <translation>Angaben richten</translation>
    </message>
    <message>
        <source>Phone</source>
        <translation>Telefon</translation>
    </message>
    <message>
        <source>Turned</source>
        <translation>Gedreht</translation>
    </message>
    <message>
        <source>How far the phone is turned about the vertical</source>
        <translation>Wie weit das Telefon um die Senkrechte gedreht ist</translation>
    </message>
    <message>
        <source>Tipped</source>
        <translation>Gekippt</translation>
    </message>
    <message>
        <source>How far the phone is tipped: upright in the middle</source>
        <translation>Wie weit das Telefon gekippt ist: aufrecht in der Mitte</translation>
    </message>
    <message>
        <source>Play a motion</source>
        <translation>Bewegung abspielen</translation>
    </message>
    <message>
        <source>A recorded turning of a phone: once round, with a look up and a look down</source>
        <translation>Eine aufgenommene Drehung eines Telefons: einmal herum, mit einem Blick nach oben und einem nach unten</translation>
    </message>
    <message>
        <source>Phone {name}</source>
        <translation>Telefon {name}</translation>
    </message>
    <message>
        <source>! A host would not take it as a panorama: {reasons}</source>
        <translation>! Ein Betrachter nähme es nicht als Panorama: {reasons}</translation>
    </message>
    <message>
        <source>Region of {called}: draw a rectangle in its picture.</source>
        <extracomment>The row whose region is being drawn.</extracomment>
        <translation>Ausschnitt von {called}: ein Rechteck in seinem Bild ziehen.</translation>
    </message>
    <message>
        <source>Draw a rectangle over the picture: only that part is made, at its own pixels.</source>
        <translation>Ein Rechteck über dem Bild ziehen: nur dieser Teil wird gemacht, mit seinen eigenen Pixeln.</translation>
    </message>
    <message>
        <source>Region</source>
        <translation>Ausschnitt</translation>
    </message>
    <message>
        <source>Whole</source>
        <translation>Ganz</translation>
    </message>
    <message>
        <source>The whole picture (key F)</source>
        <translation>Das ganze Bild (Taste F)</translation>
    </message>
    <message>
        <source>Actual pixels</source>
        <translation>Echte Pixel</translation>
    </message>
    <message>
        <source>A pixel of the picture on a pixel of the screen (key 1)</source>
        <translation>Ein Pixel des Bildes auf einem des Bildschirms (Taste 1)</translation>
    </message>
    <message>
        <source>Against</source>
        <translation>Vergleich</translation>
    </message>
    <message>
        <source>This and the last version, or another file, side by side and moved together</source>
        <translation>Dieses und die letzte Fassung, oder eine andere Datei, nebeneinander und gemeinsam bewegt</translation>
    </message>
    <message>
        <source>Difference</source>
        <translation>Unterschied</translation>
    </message>
    <message>
        <source>What differs from it, four times as strong</source>
        <translation>Was davon abweicht, vierfach verstärkt</translation>
    </message>
    <message>
        <source>Last version ▾</source>
        <translation>Letzte Fassung ▾</translation>
    </message>
    <message>
        <source>Compared with: the last version of the file, or another one</source>
        <extracomment>What the file is compared with: its last version, or another file that was chosen for it. What is known of the file: from what it was made, when, and what has changed since.</extracomment>
        <translation>Verglichen mit: der letzten Fassung der Datei, oder einer anderen</translation>
    </message>
    <message>
        <source>Last version</source>
        <translation>Letzte Fassung</translation>
    </message>
    <message>
        <source>Leave out ▾</source>
        <translation>Weglassen ▾</translation>
    </message>
    <message>
        <source>Leave out of these rows alone: categories, storeys, the chosen object</source>
        <translation>Nur aus diesen Zeilen weglassen: Gattungen, Geschosse, das gewählte Objekt</translation>
    </message>
    <message>
        <source>The model is not open yet</source>
        <translation>Das Modell ist noch nicht offen</translation>
    </message>
    <message>
        <source>A whole category</source>
        <translation>Eine ganze Gattung</translation>
    </message>
    <message>
        <source>A whole storey</source>
        <translation>Ein ganzes Geschoss</translation>
    </message>
    <message>
        <source>Rows differ</source>
        <translation>Zeilen verschieden</translation>
    </message>
    <message>
        <source>{names} here</source>
        <translation>{names} hier</translation>
    </message>
    <message>
        <source>Add to the run: </source>
        <translation>Zum Lauf hinzu: </translation>
    </message>
    <message>
        <source>{verb}everything that is on</source>
        <translation>{verb}alles, was ein ist</translation>
    </message>
    <message>
        <source>{verb}what is out of date or missing</source>
        <translation>{verb}was veraltet ist oder fehlt</translation>
    </message>
    <message>
        <source>{verb}the chosen rows</source>
        <translation>{verb}die gewählten Zeilen</translation>
    </message>
    <message>
        <source>{verb}the rows of {name}</source>
        <translation>{verb}die Zeilen von {name}</translation>
    </message>
    <message>
        <source>The rows of the camera</source>
        <translation>Die Zeilen der Kamera</translation>
    </message>
    <message>
        <source>The chosen rows as test pictures</source>
        <translation>Die gewählten Zeilen als Probebilder</translation>
    </message>
    <message>
        <source>The chosen rows in {word} quality</source>
        <translation>Die gewählten Zeilen in der Güte {word}</translation>
    </message>
    <message>
        <source>No row is chosen</source>
        <translation>Keine Zeile ist gewählt</translation>
    </message>
    <message>
        <source>Add to the run</source>
        <translation>Zum Lauf hinzufügen</translation>
    </message>
    <message>
        <source>Make</source>
        <translation>Machen</translation>
    </message>
    <message>
        <source>First in the run</source>
        <translation>Zuerst im Lauf</translation>
    </message>
    <message>
        <source>Take out of the run</source>
        <translation>Aus dem Lauf nehmen</translation>
    </message>
    <message>
        <source>Switch on	Space</source>
        <translation>Einschalten	Leertaste</translation>
    </message>
    <message>
        <source>Switch off	Space</source>
        <translation>Ausschalten	Leertaste</translation>
    </message>
    <message>
        <source>Duplicate	Ctrl+D</source>
        <translation>Verdoppeln	Strg+D</translation>
    </message>
    <message>
        <source>Earlier	Ctrl+Up</source>
        <translation>Früher	Strg+Auf</translation>
    </message>
    <message>
        <source>Later	Ctrl+Down</source>
        <translation>Später	Strg+Ab</translation>
    </message>
    <message>
        <source>Take out of the list	Delete</source>
        <translation>Aus der Liste nehmen	Entf</translation>
    </message>
    <message>
        <source>Presets ▾</source>
        <translation>Vorgaben ▾</translation>
    </message>
    <message>
        <source>How rows are made, kept for other rows and other projects</source>
        <translation>Wie Zeilen gemacht werden, aufgehoben für andere Zeilen und andere Projekte</translation>
    </message>
    <message>
        <source>Keep how this row is made…</source>
        <translation>Behalten, wie diese Zeile gemacht wird…</translation>
    </message>
    <message>
        <source>Use a file…</source>
        <translation>Datei nehmen…</translation>
    </message>
    <message>
        <source>Keep preset</source>
        <translation>Vorgabe behalten</translation>
    </message>
    <message>
        <source>Presets (*{suffix})</source>
        <translation>Vorgaben (*{suffix})</translation>
    </message>
    <message>
        <source>Use preset</source>
        <translation>Vorgabe nehmen</translation>
    </message>
    <message>
        <source>Preset {stem}</source>
        <translation>Vorgabe {stem}</translation>
    </message>
    <message>
        <source>Choose rows in the list: what is set here goes to all of them.</source>
        <translation>Zeilen in der Liste wählen: was hier gesetzt wird, gilt für alle davon.</translation>
    </message>
    <message>
        <source>The chosen rows (or all that are on) as proofs of a quarter of the size, also while a run goes on</source>
        <extracomment>From this width on all of its buttons stand in one row; narrower than the other it does not become. All is made, and somebody wants to be told: what it came to. Test pictures are made beside the run, however long that goes on.</extracomment>
        <translation>Die gewählten Zeilen (oder alle, die ein sind) als Proben in einem Viertel der Größe, auch während ein Lauf geht</translation>
    </message>
    <message>
        <source>Test pictures</source>
        <translation>Probebilder</translation>
    </message>
    <message>
        <source>Every row that is on, in a process of its own that outlives the window</source>
        <translation>Jede Zeile, die ein ist, in einem eigenen Prozess, der das Fenster überlebt</translation>
    </message>
    <message>
        <source>Make all</source>
        <translation>Alles machen</translation>
    </message>
    <message>
        <source>The chosen rows alone; while a run goes on they are added to it</source>
        <translation>Nur die gewählten Zeilen; läuft schon etwas, kommen sie dazu</translation>
    </message>
    <message>
        <source>Make chosen</source>
        <translation>Gewählte machen</translation>
    </message>
    <message>
        <source>Make: the chosen rows, what is out of date, in which quality</source>
        <translation>Machen: die gewählten Zeilen, was veraltet ist, in welcher Güte</translation>
    </message>
    <message>
        <source>Make ▾</source>
        <translation>Machen ▾</translation>
    </message>
    <message>
        <source>How far the run is</source>
        <translation>Wie weit der Lauf ist</translation>
    </message>
    <message>
        <source>Pause after the pass in hand; press again to go on</source>
        <translation>Nach dem laufenden Durchgang ruhen; nochmals drücken, um fortzufahren</translation>
    </message>
    <message>
        <source>Pause</source>
        <translation>Ruhen</translation>
    </message>
    <message>
        <source>The final picture in hand has samples enough: clean it, write it as it is, and go on</source>
        <translation>Das laufende Endbild hat genug Abtastungen: entrauschen, schreiben, wie es ist, und weiter</translation>
    </message>
    <message>
        <source>Enough</source>
        <translation>Genug</translation>
    </message>
    <message>
        <source>Stop; what is finished stays</source>
        <translation>Anhalten; was fertig ist, bleibt</translation>
    </message>
    <message>
        <source>The chosen rows before all that still wait</source>
        <translation>Die gewählten Zeilen vor allen, die noch warten</translation>
    </message>
    <message>
        <source>Chosen first</source>
        <translation>Gewählte zuerst</translation>
    </message>
    <message>
        <source>Then: nothing ▾</source>
        <translation>Danach: nichts ▾</translation>
    </message>
    <message>
        <source>What happens when all is made</source>
        <translation>Was geschieht, wenn alles gemacht ist</translation>
    </message>
    <message>
        <source>Row {number}: {wrong} Nothing was started.</source>
        <translation>Zeile {number}: {wrong} Es wurde nichts begonnen.</translation>
    </message>
    <message>
        <source>Keep the machine awake meanwhile</source>
        <translation>Den Rechner währenddessen wach halten</translation>
    </message>
    <message>
        <source>When all is made</source>
        <translation>Wenn alles gemacht ist</translation>
    </message>
    <message>
        <source>Command to run</source>
        <translation>Auszuführender Befehl</translation>
    </message>
    <message>
        <source>Then: {ends} ▾</source>
        <translation>Danach: {ends} ▾</translation>
    </message>
    <message>
        <source>, {left} min left</source>
        <translation>, noch {left} min</translation>
    </message>
    <message>
        <source>, {value} s left</source>
        <translation>, noch {value} s</translation>
    </message>
    <message>
        <source>Starting</source>
        <translation>Beginnt</translation>
    </message>
    <message numerus="yes">
        <source>{what} (%n machines)</source>
        <translation>
            <numerusform>{what} (%n Rechner)</numerusform>
            <numerusform>{what} (%n Rechner)</numerusform>
        </translation>
    </message>
    <message>
        <source>{what}. The machine stays awake</source>
        <translation>{what}. Der Rechner bleibt wach</translation>
    </message>
    <message>
        <source>{made} of {whole} made{aside}{remaining}. {what}{tests_told}</source>
        <translation>{made} von {whole} gemacht{aside}{remaining}. {what}{tests_told}</translation>
    </message>
    <message>
        <source>, {aside} set aside</source>
        <translation>, {aside} beiseite gelegt</translation>
    </message>
    <message>
        <source>Keep it on</source>
        <translation>Anbehalten</translation>
    </message>
    <message>
        <source>Go on</source>
        <translation>Weiter</translation>
    </message>
    <message>
        <source> Test pictures: {count} of {pieces}.</source>
        <translation> Probebilder: {count} von {pieces}.</translation>
    </message>
    <message>
        <source>All is made.</source>
        <translation>Alles ist gemacht.</translation>
    </message>
    <message>
        <source>Rows</source>
        <extracomment>How what was made stands is known anew. Everything that was made, with what has changed since; and the rows that are on and not current, by id.</extracomment>
        <translation>Zeilen</translation>
    </message>
    <message>
        <source>Row</source>
        <translation>Zeile</translation>
    </message>
    <message>
        <source>{note} Nearer than 0.5 m: {names}.</source>
        <translation>{note} Näher als 0,5 m: {names}.</translation>
    </message>
    <message>
        <source>Of</source>
        <translation>Von</translation>
    </message>
    <message>
        <source>Drawn</source>
        <translation>Darstellung</translation>
    </message>
    <message>
        <source>Expected</source>
        <translation>Erwartet</translation>
    </message>
    <message>
        <source>State</source>
        <translation>Stand</translation>
    </message>
    <message>
        <source>! set aside</source>
        <extracomment>Columns that are left out of a list narrower than this, by their number: the file, and how it is drawn. From this width of the list on its pictures are larger.</extracomment>
        <translation>! beiseite gelegt</translation>
    </message>
    <message>
        <source>gone</source>
        <translation>weg</translation>
    </message>
    <message>
        <source>Not made: {sentence}</source>
        <translation>Nicht gemacht: {sentence}</translation>
    </message>
    <message>
        <source>Out of date: {second} changed since it was made</source>
        <translation>Veraltet: {second} hat sich seither geändert</translation>
    </message>
    <message>
        <source>{first}, made {second}</source>
        <translation>{first}, gemacht {second}</translation>
    </message>
    <message>
        <source>Nothing is in the shot list yet. Choose cameras in Compose; Add chosen cameras makes a row of each.</source>
        <translation>Noch nichts in der Bildliste. Unter Gestalten Kameras wählen; „Gewählte hinzufügen“ macht aus jeder eine Zeile.</translation>
    </message>
    <message>
        <source>Made with the list, or left out of it for now</source>
        <translation>Mit der Liste gemacht, oder vorerst ausgelassen</translation>
    </message>
    <message>
        <source>{name}
stereo panorama</source>
        <translation>{name}
Stereopanorama</translation>
    </message>
    <message>
        <source>{name}
panorama</source>
        <translation>{name}
Panorama</translation>
    </message>
    <message>
        <source>turntable</source>
        <translation>Umrundung</translation>
    </message>
    <message>
        <source>walk</source>
        <translation>Rundgang</translation>
    </message>
    <message>
        <source> · region</source>
        <translation> · Ausschnitt</translation>
    </message>
    <message>
        <source>film</source>
        <translation>Film</translation>
    </message>
    <message>
        <source>{rendition}, no background</source>
        <translation>{rendition}, ohne Hintergrund</translation>
    </message>
    <message>
        <source>Draft</source>
        <extracomment>What the panorama&apos;s usual sizes are for.</extracomment>
        <translation>Entwurf</translation>
    </message>
    <message>
        <source>Page</source>
        <translation>Seite</translation>
    </message>
    <message>
        <source>Large</source>
        <translation>Groß</translation>
    </message>
    <message>
        <source>Largest</source>
        <translation>Größte</translation>
    </message>
    <message>
        <source>Which of the camera&apos;s formats; for a panorama one of the usual sizes</source>
        <translation>Welches der Formate der Kamera; bei einem Panorama eine der üblichen Größen</translation>
    </message>
    <message>
        <source>Own width</source>
        <translation>Eigene Breite</translation>
    </message>
    <message>
        <source>Scale</source>
        <translation>Maßstab</translation>
    </message>
    <message>
        <source>Per cent of the format&apos;s size</source>
        <translation>Prozent der Größe des Formats</translation>
    </message>
    <message>
        <source>Pixels across; 0 goes back to the format&apos;s own</source>
        <translation>Pixel quer; 0 geht zurück auf die des Formats</translation>
    </message>
    <message>
        <source>format&apos;s</source>
        <translation>des Formats</translation>
    </message>
    <message>
        <source>Resolution</source>
        <translation>Auflösung</translation>
    </message>
    <message>
        <source>Dots an inch, written into the file; 0 writes none</source>
        <translation>Punkte je Zoll, in die Datei geschrieben; 0 schreibt keine</translation>
    </message>
    <message>
        <source>Print width</source>
        <translation>Druckbreite</translation>
    </message>
    <message>
        <source>Width on paper at this resolution, also in cm or in (11 in); the pixels follow</source>
        <translation>Breite auf Papier bei dieser Auflösung, auch in cm oder in (11 in); die Pixel folgen</translation>
    </message>
    <message>
        <source>Region…</source>
        <translation>Ausschnitt…</translation>
    </message>
    <message>
        <source>Make a part of the picture only: draw it in the picture below</source>
        <translation>Nur einen Teil des Bildes machen: ihn im Bild unten zeichnen</translation>
    </message>
    <message>
        <source>The whole picture again</source>
        <translation>Wieder das ganze Bild</translation>
    </message>
    <message>
        <source>Whole picture</source>
        <translation>Ganzes Bild</translation>
    </message>
    <message>
        <source>A front of this row&apos;s own, not the camera&apos;s heading</source>
        <translation>Eine eigene Mitte dieser Zeile, nicht die Blickrichtung der Kamera</translation>
    </message>
    <message>
        <source>Front</source>
        <translation>Mitte</translation>
    </message>
    <message>
        <source>Heading of the panorama&apos;s middle: 0 north, 90 east</source>
        <translation>Richtung der Mitte des Panoramas: 0 Norden, 90 Osten</translation>
    </message>
    <message>
        <source>Front of the panorama</source>
        <translation>Mitte des Panoramas</translation>
    </message>
    <message>
        <source>Front towards ▾</source>
        <translation>Mitte nach ▾</translation>
    </message>
    <message>
        <source>What the panorama&apos;s middle looks at</source>
        <translation>Worauf die Mitte des Panoramas blickt</translation>
    </message>
    <message>
        <source>Stereo, eyes 64 mm apart</source>
        <translation>Stereo, Augen 64 mm auseinander</translation>
    </message>
    <message>
        <source>Two panoramas, one above the other</source>
        <translation>Zwei Panoramen, eines über dem anderen</translation>
    </message>
    <message>
        <source>Stereo</source>
        <translation>Stereo</translation>
    </message>
    <message>
        <source>Six faces as files too</source>
        <translation>Sechs Seiten auch als Dateien</translation>
    </message>
    <message>
        <source>Front, right, back, left, up and down beside the panorama</source>
        <translation>Vorn, rechts, hinten, links, oben und unten neben dem Panorama</translation>
    </message>
    <message>
        <source>Six faces</source>
        <translation>Sechs Seiten</translation>
    </message>
    <message>
        <source>Size of the panorama</source>
        <translation>Größe des Panoramas</translation>
    </message>
    <message>
        <source>{name} (chosen)</source>
        <translation>{name} (gewählt)</translation>
    </message>
    <message>
        <source>The middle of a room</source>
        <translation>Die Mitte eines Raums</translation>
    </message>
    <message>
        <source>Where a camera stands</source>
        <translation>Wo eine Kamera steht</translation>
    </message>
    <message>
        <source>on</source>
        <translation>an</translation>
    </message>
    <message>
        <source>+1 doubles the light</source>
        <translation>+1 verdoppelt das Licht</translation>
    </message>
    <message>
        <source>Highlights</source>
        <translation>Lichter</translation>
    </message>
    <message>
        <source>Below 0 brings back what is bright, above 0 lets it go to white sooner</source>
        <translation>Unter 0 holt Helles zurück, über 0 lässt es früher weiß werden</translation>
    </message>
    <message>
        <source>Contrast</source>
        <translation>Kontrast</translation>
    </message>
    <message>
        <source>An S about the middle</source>
        <translation>Ein S um die Mitte</translation>
    </message>
    <message>
        <source>White</source>
        <translation>Weiß</translation>
    </message>
    <message>
        <source>The colour temperature that comes out white</source>
        <translation>Die Farbtemperatur, die weiß herauskommt</translation>
    </message>
    <message>
        <source>Saturation</source>
        <translation>Sättigung</translation>
    </message>
    <message>
        <source>0 as it is, -1 grey</source>
        <translation>0 wie es ist, -1 grau</translation>
    </message>
    <message>
        <source>Vignette</source>
        <translation>Randabfall</translation>
    </message>
    <message>
        <source>How much darker the corners are</source>
        <translation>Wie viel dunkler die Ecken sind</translation>
    </message>
    <message>
        <source>Glow</source>
        <translation>Schein</translation>
    </message>
    <message>
        <source>How far bright things shine over</source>
        <translation>Wie weit Helles überstrahlt</translation>
    </message>
    <message>
        <source>Sharpen</source>
        <translation>Schärfen</translation>
    </message>
    <message>
        <source>At the size of the file</source>
        <translation>In der Größe der Datei</translation>
    </message>
    <message>
        <source>This row has no linear master yet. Switch “Keep the linear master” on (Making) and make it once; tone then needs no drawing.</source>
        <translation>Diese Zeile hat noch keinen linearen Master. „Linearen Master behalten“ einschalten (Ausführung) und einmal machen; dann braucht der Ton kein Zeichnen.</translation>
    </message>
    <message>
        <source>Histogram</source>
        <translation>Histogramm</translation>
    </message>
    <message>
        <source>Black: {black:.1%} of the picture, white in a channel: {white:.1%}</source>
        <translation>Schwarz: {black:.1%} des Bildes, weiß in einem Kanal: {white:.1%}</translation>
    </message>
    <message>
        <source>black {clipped:.1%}</source>
        <translation>schwarz {clipped:.1%}</translation>
    </message>
    <message>
        <source>white {clipped:.1%}</source>
        <translation>weiß {clipped:.1%}</translation>
    </message>
    <message>
        <source>Write the files again</source>
        <translation>Dateien neu schreiben</translation>
    </message>
    <message>
        <source>From the masters: nothing is drawn again</source>
        <translation>Aus den Mastern: nichts wird neu gezeichnet</translation>
    </message>
    <message>
        <source>All rows</source>
        <translation>Alle Zeilen</translation>
    </message>
    <message>
        <source>The project&apos;s tone, for all rows without one of their own</source>
        <translation>Der Ton des Projekts, für alle Zeilen ohne eigenen</translation>
    </message>
    <message>
        <source>This row</source>
        <translation>Diese Zeile</translation>
    </message>
    <message>
        <source>A tone of this row&apos;s own</source>
        <translation>Ein eigener Ton dieser Zeile</translation>
    </message>
    <message>
        <source>Curve</source>
        <translation>Kurve</translation>
    </message>
    <message>
        <source>As drawn</source>
        <translation>Wie gezeichnet</translation>
    </message>
    <message>
        <source>Back to how the Frame shows it</source>
        <translation>Zurück zu dem, was der Sucher zeigt</translation>
    </message>
    <message>
        <source>Tone as drawn</source>
        <translation>Ton wie gezeichnet</translation>
    </message>
    <message>
        <source>Mark black and white</source>
        <translation>Schwarz und Weiß markieren</translation>
    </message>
    <message>
        <source>Blue where all is black, red where a channel is white</source>
        <translation>Blau, wo alles schwarz ist, rot, wo ein Kanal weiß ist</translation>
    </message>
    <message>
        <source>Before</source>
        <translation>Vorher</translation>
    </message>
    <message>
        <source>As drawn, while it is pressed</source>
        <translation>Wie gezeichnet, solange es gedrückt ist</translation>
    </message>
    <message>
        <source>Reading the linear master…</source>
        <translation>Der lineare Master wird gelesen…</translation>
    </message>
    <message>
        <source>Tone of this row</source>
        <translation>Ton dieser Zeile</translation>
    </message>
    <message>
        <source>Tone of all rows</source>
        <translation>Ton aller Zeilen</translation>
    </message>
    <message>
        <source>Proposed exposure</source>
        <extracomment>Cameras that were asked for by hand, and the one that was just stood, as it was then.</extracomment>
        <translation>Vorgeschlagene Belichtung</translation>
    </message>
    <message>
        <source>none ▾</source>
        <translation>keine ▾</translation>
    </message>
    <message>
        <source>Colour table: a .cube file in the project&apos;s folder, put over everything else</source>
        <translation>Farbtabelle: eine .cube-Datei im Ordner des Projekts, über alles andere gelegt</translation>
    </message>
    <message>
        <source>Colour table</source>
        <translation>Farbtabelle</translation>
    </message>
    <message>
        <source>Share of the table</source>
        <translation>Anteil der Tabelle</translation>
    </message>
    <message>
        <source>How far the colour table counts</source>
        <translation>Wie weit die Farbtabelle zählt</translation>
    </message>
    <message>
        <source>Share of it</source>
        <translation>Ihr Anteil</translation>
    </message>
    <message>
        <source>None</source>
        <translation>Keine</translation>
    </message>
    <message>
        <source>Choose a file…</source>
        <translation>Datei wählen…</translation>
    </message>
    <message>
        <source>Colour tables (*{suffix})</source>
        <translation>Farbtabellen (*{suffix})</translation>
    </message>
    <message>
        <source>Machine</source>
        <translation>Rechner</translation>
    </message>
    <message>
        <source>Pieces</source>
        <translation>Stücke</translation>
    </message>
    <message>
        <source>Each</source>
        <translation>Je Stück</translation>
    </message>
    <message>
        <source>Came over the network</source>
        <translation>Über das Netz gekommen</translation>
    </message>
    <message>
        <source>Last</source>
        <translation>Zuletzt</translation>
    </message>
    <message>
        <source>Trouble</source>
        <translation>Mangel</translation>
    </message>
    <message>
        <source>On this machine ▾</source>
        <extracomment>So narrow the button becomes, where there is little width.</extracomment>
        <translation>Auf diesem Rechner ▾</translation>
    </message>
    <message>
        <source>Where the list is made, and who does what</source>
        <translation>Wo die Liste gemacht wird, und wer was tut</translation>
    </message>
    <message>
        <source>This machine</source>
        <translation>Dieser Rechner</translation>
    </message>
    <message numerus="yes">
        <source>This machine, %n processes</source>
        <translation>
            <numerusform>Dieser Rechner, %n Prozess</numerusform>
            <numerusform>Dieser Rechner, %n Prozesse</numerusform>
        </translation>
    </message>
    <message>
        <source>Machines at {held}</source>
        <translation>Rechner bei {held}</translation>
    </message>
    <message>
        <source>Other machines…</source>
        <translation>Andere Rechner…</translation>
    </message>
    <message>
        <source>Who does what…</source>
        <translation>Wer was tut…</translation>
    </message>
    <message>
        <source>On machines at {partition}</source>
        <translation>Auf Rechnern bei {partition}</translation>
    </message>
    <message numerus="yes">
        <source>In %n processes</source>
        <translation>
            <numerusform>In %n Prozess</numerusform>
            <numerusform>In %n Prozessen</numerusform>
        </translation>
    </message>
    <message>
        <source>On this machine</source>
        <translation>Auf diesem Rechner</translation>
    </message>
    <message>
        <source>Other machines</source>
        <translation>Andere Rechner</translation>
    </message>
    <message>
        <source>Address of the scheduler</source>
        <translation>Adresse des Verteilers</translation>
    </message>
    <message>
        <source>Folder of certificates</source>
        <translation>Ordner der Zertifikate</translation>
    </message>
    <message>
        <source>none: models and light travel over the network</source>
        <translation>keiner: Modelle und Licht reisen über das Netz</translation>
    </message>
    <message>
        <source>Shared folder</source>
        <translation>Gemeinsamer Ordner</translation>
    </message>
    <message>
        <source>A folder that all these machines see; “altana worker --shared” names it there</source>
        <translation>Ein Ordner, den alle diese Rechner sehen; dort nennt ihn „altana worker --shared“</translation>
    </message>
    <message>
        <source>On one machine run “altana scheduler --listen” with its address, on each machine that helps “altana worker” with the same address. Models and light travel by themselves; the pictures are the same to the byte.</source>
        <translation>Auf einem Rechner „altana scheduler --listen“ mit seiner Adresse starten, auf jedem helfenden „altana worker“ mit derselben Adresse. Modelle und Licht reisen von selbst; die Bilder sind bis aufs Byte dieselben.</translation>
    </message>
    <message>
        <source>Choose the folder that the machines share</source>
        <translation>Den Ordner wählen, den die Rechner teilen</translation>
    </message>
    <message>
        <source>Choose…</source>
        <translation>Wählen…</translation>
    </message>
    <message>
        <source>Choose the folder of certificates</source>
        <translation>Den Ordner der Zertifikate wählen</translation>
    </message>
    <message>
        <source>none: only here and nearby, not encrypted</source>
        <translation>keine: nur hier und nebenan, unverschlüsselt</translation>
    </message>
    <message>
        <source>Scheduler</source>
        <translation>Verteiler</translation>
    </message>
    <message>
        <source>Certificates</source>
        <translation>Zertifikate</translation>
    </message>
    <message>
        <source>Look who is there</source>
        <translation>Nachsehen, wer da ist</translation>
    </message>
    <message>
        <source>Ask the scheduler which machines are lent</source>
        <translation>Den Verteiler fragen, welche Rechner geliehen sind</translation>
    </message>
    <message>
        <source>Use these</source>
        <translation>Diese nehmen</translation>
    </message>
    <message>
        <source>Make the list on these machines from now on</source>
        <translation>Die Liste von nun an auf diesen Rechnern machen</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Change nothing</source>
        <translation>Nichts ändern</translation>
    </message>
    <message>
        <source>{folder} is no folder that this machine sees.</source>
        <translation>{folder} ist kein Ordner, den dieser Rechner sieht.</translation>
    </message>
    <message>
        <source>Asking…</source>
        <translation>Frage läuft…</translation>
    </message>
    <message>
        <source>Nobody answered.</source>
        <translation>Niemand antwortete.</translation>
    </message>
    <message>
        <source>Who does what</source>
        <translation>Wer was tut</translation>
    </message>
    <message>
        <source>Machines</source>
        <translation>Rechner</translation>
    </message>
    <message>
        <source>One process of this machine makes it all: nothing is shared out.</source>
        <translation>Ein Prozess dieses Rechners macht alles: nichts ist verteilt.</translation>
    </message>
    <message>
        <source>Pictures (*.hdr *.exr *.jpg *.jpeg *.png *.tif *.tiff *.webp)</source>
        <translation>Bilder (*.hdr *.exr *.jpg *.jpeg *.png *.tif *.tiff *.webp)</translation>
    </message>
    <message>
        <source>Surroundings</source>
        <translation>Umgebung</translation>
    </message>
    <message>
        <source>A picture all round, twice as wide as high (HDR, EXR, JPEG); it is copied beside the project</source>
        <translation>Ein Bild ringsum, doppelt so breit wie hoch (HDR, EXR, JPEG); es wird neben das Projekt kopiert</translation>
    </message>
    <message>
        <source>No surroundings</source>
        <translation>Keine Umgebung</translation>
    </message>
    <message>
        <source>It lights the building</source>
        <translation>Sie beleuchtet das Gebäude</translation>
    </message>
    <message>
        <source>It stands behind the building</source>
        <translation>Sie steht hinter dem Gebäude</translation>
    </message>
    <message>
        <source>Both</source>
        <translation>Beides</translation>
    </message>
    <message>
        <source>Turns the surroundings, clockwise</source>
        <translation>Dreht die Umgebung im Uhrzeigersinn</translation>
    </message>
    <message>
        <source>Turn surroundings</source>
        <translation>Umgebung drehen</translation>
    </message>
    <message>
        <source>Strength</source>
        <translation>Stärke</translation>
    </message>
    <message>
        <source>+1 doubles their light</source>
        <translation>+1 verdoppelt ihr Licht</translation>
    </message>
    <message>
        <source>Strength of surroundings</source>
        <translation>Stärke der Umgebung</translation>
    </message>
    <message>
        <source>Sun in the picture</source>
        <translation>Sonne im Bild</translation>
    </message>
    <message>
        <source>The sun that is found in the picture shines, where it lights</source>
        <translation>Die Sonne, die im Bild gefunden wird, scheint, wo sie beleuchtet</translation>
    </message>
    <message>
        <source>Sun of the hour</source>
        <translation>Sonne der Stunde</translation>
    </message>
    <message>
        <source>The sun of date and hour shines; the one in the picture goes out</source>
        <translation>Die Sonne von Datum und Stunde scheint; die im Bild geht aus</translation>
    </message>
    <message>
        <source>Which sun shines</source>
        <translation>Welche Sonne scheint</translation>
    </message>
    <message>
        <source>Lamps</source>
        <extracomment>So long after sunset.</extracomment>
        <translation>Lampen</translation>
    </message>
    <message>
        <source>Lamps are on</source>
        <translation>Lampen sind an</translation>
    </message>
    <message>
        <source>All lamps of the project, as their groups say</source>
        <translation>Alle Lampen des Projekts, wie ihre Gruppen sagen</translation>
    </message>
    <message>
        <source>Lamps on</source>
        <translation>Lampen an</translation>
    </message>
    <message>
        <source>Lamps off</source>
        <translation>Lampen aus</translation>
    </message>
    <message>
        <source>Dimmed to</source>
        <translation>Gedimmt auf</translation>
    </message>
    <message>
        <source>How much of their light all lamps give while they are on</source>
        <translation>Wie viel ihres Lichts alle Lampen geben, solange sie an sind</translation>
    </message>
    <message>
        <source>Dimming lamps</source>
        <translation>Lampen dimmen</translation>
    </message>
    <message>
        <source>Day</source>
        <translation>Tag</translation>
    </message>
    <message>
        <source>Noon, lamps off</source>
        <translation>Mittag, Lampen aus</translation>
    </message>
    <message>
        <source>Dusk</source>
        <translation>Dämmerung</translation>
    </message>
    <message>
        <source>Twenty minutes after sunset, lamps on</source>
        <translation>Zwanzig Minuten nach Sonnenuntergang, Lampen an</translation>
    </message>
    <message>
        <source>Evening</source>
        <translation>Abend</translation>
    </message>
    <message>
        <source>An hour after sunset, lamps on</source>
        <translation>Eine Stunde nach Sonnenuntergang, Lampen an</translation>
    </message>
    <message>
        <source>Chosen object is a lamp</source>
        <translation>Gewähltes ist eine Lampe</translation>
    </message>
    <message>
        <source>Its surface gives light; again: no longer</source>
        <translation>Seine Oberfläche leuchtet; nochmals: nicht mehr</translation>
    </message>
    <message>
        <source>Groups of lamps</source>
        <translation>Gruppen von Lampen</translation>
    </message>
    <message>
        <source>Groups of lamps; the box switches one</source>
        <translation>Gruppen von Lampen; das Kästchen schaltet eine</translation>
    </message>
    <message>
        <source>+1 doubles the light of the chosen group</source>
        <translation>+1 verdoppelt das Licht der gewählten Gruppe</translation>
    </message>
    <message>
        <source>Strength of lamps</source>
        <translation>Stärke der Lampen</translation>
    </message>
    <message>
        <source>Warmth</source>
        <translation>Wärme</translation>
    </message>
    <message>
        <source>2700 is warm, 4000 neutral; 0 for as they are</source>
        <translation>2700 ist warm, 4000 neutral; 0 für wie sie sind</translation>
    </message>
    <message>
        <source>as they are</source>
        <translation>wie sie sind</translation>
    </message>
    <message>
        <source>Warmth of lamps</source>
        <translation>Wärme der Lampen</translation>
    </message>
    <message>
        <source>Choose an object in the Frame first.</source>
        <translation>Erst ein Objekt im Sucher wählen.</translation>
    </message>
    <message>
        <source>No lamp</source>
        <translation>Keine Lampe</translation>
    </message>
    <message>
        <source>A lamp</source>
        <translation>Eine Lampe</translation>
    </message>
    <message>
        <source>Chosen object is no lamp</source>
        <translation>Gewähltes ist keine Lampe</translation>
    </message>
    <message>
        <source>Spring begins</source>
        <translation>Frühlingsanfang</translation>
    </message>
    <message>
        <source>Longest day</source>
        <translation>Längster Tag</translation>
    </message>
    <message>
        <source>Autumn begins</source>
        <translation>Herbstanfang</translation>
    </message>
    <message>
        <source>Shortest day</source>
        <translation>Kürzester Tag</translation>
    </message>
    <message>
        <source>Date, time and sky</source>
        <translation>Datum, Zeit und Himmel</translation>
    </message>
    <message>
        <source>Time</source>
        <translation>Zeit</translation>
    </message>
    <message>
        <source>Clock time, such as 17:30</source>
        <translation>Uhrzeit, wie 17:30</translation>
    </message>
    <message>
        <source>Date</source>
        <translation>Datum</translation>
    </message>
    <message>
        <source>Such as 2026-06-21</source>
        <translation>Wie 2026-06-21</translation>
    </message>
    <message>
        <source>Day of the year</source>
        <translation>Tag des Jahres</translation>
    </message>
    <message>
        <source>Turning days ▾</source>
        <translation>Wendetage ▾</translation>
    </message>
    <message>
        <source>The four days on which the year turns</source>
        <translation>Die vier Tage, an denen das Jahr wendet</translation>
    </message>
    <message>
        <source>Clear sky with sun</source>
        <translation>Klarer Himmel mit Sonne</translation>
    </message>
    <message>
        <source>Hazy: a weak sun, a bright sky</source>
        <translation>Dunstig: schwache Sonne, heller Himmel</translation>
    </message>
    <message>
        <source>Overcast: no sun</source>
        <translation>Bedeckt: keine Sonne</translation>
    </message>
    <message>
        <source>{name}; drag, or left and right keys</source>
        <translation>{name}; ziehen, oder Pfeiltasten links und rechts</translation>
    </message>
    <message>
        <source>Sky</source>
        <translation>Himmel</translation>
    </message>
    <message>
        <source>The sun is up from {begin} to {end}.</source>
        <translation>Die Sonne steht von {begin} bis {end} am Himmel.</translation>
    </message>
    <message>
        <source>The sun does not rise on this day.</source>
        <translation>Die Sonne geht an diesem Tag nicht auf.</translation>
    </message>
    <message>
        <source>{elevation:.1f}° high</source>
        <translation>{elevation:.1f}° hoch</translation>
    </message>
    <message>
        <source>{elevation:.1f}° below the horizon</source>
        <translation>{elevation:.1f}° unter dem Horizont</translation>
    </message>
    <message>
        <source>Sun at {azimuth:.1f}°, {height}; {brightness} lux. {day_words}</source>
        <translation>Sonne bei {azimuth:.1f}°, {height}; {brightness} Lux. {day_words}</translation>
    </message>
    <message>
        <source>Light of the project</source>
        <extracomment>As wide as the settings of the desks.</extracomment>
        <translation>Licht des Projekts</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
    <message>
        <source>Close this panel (key Shift+L)</source>
        <translation>Diese Tafel schließen (Umschalt+L)</translation>
    </message>
    <message>
        <source>Place</source>
        <translation>Ort</translation>
    </message>
    <message>
        <source>A town, or degrees in any usual notation: 47.5, 9.4 or 47°30&apos;N 9°24&apos;E</source>
        <translation>Eine Stadt, oder Grad in üblicher Schreibweise: 47.5, 9.4 oder 47°30&apos;N 9°24&apos;E</translation>
    </message>
    <message>
        <source>A town, or 47.5, 9.4</source>
        <translation>Eine Stadt, oder 47.5, 9.4</translation>
    </message>
    <message>
        <source>Place and north as the model file says</source>
        <translation>Ort und Norden, wie die Modelldatei sagt</translation>
    </message>
    <message>
        <source>From the model</source>
        <translation>Aus dem Modell</translation>
    </message>
    <message>
        <source>Time zone</source>
        <translation>Zeitzone</translation>
    </message>
    <message>
        <source>By name, with daylight saving (Europe/Zurich), or hours ahead of UTC (+2)</source>
        <translation>Mit Namen, samt Sommerzeit (Europe/Zurich), oder Stunden vor UTC (+2)</translation>
    </message>
    <message>
        <source>North</source>
        <translation>Norden</translation>
    </message>
    <message>
        <source>Degrees from up on the plan to true north, clockwise</source>
        <translation>Grad von oben im Grundriss bis wahr Nord, im Uhrzeigersinn</translation>
    </message>
    <message>
        <source>Place of the sun</source>
        <translation>Ort der Sonne</translation>
    </message>
    <message>
        <source>Place from the model</source>
        <translation>Ort aus dem Modell</translation>
    </message>
    <message>
        <source>{begin} to {end}</source>
        <extracomment>So many spans and things are told; all stand in the command line&apos;s answer.</extracomment>
        <translation>{begin} bis {end}</translation>
    </message>
    <message>
        <source>{hours:.1f} h of sun{more}{sun}{more_2}</source>
        <translation>{hours:.1f} h Sonne{more}{sun}{more_2}</translation>
    </message>
    <message>
        <source>{name} before it for {hours:.1f} h</source>
        <translation>{name} davor während {hours:.1f} h</translation>
    </message>
    <message numerus="yes">
        <source>… and %n things more</source>
        <translation>
            <numerusform>… und %n weiteres</numerusform>
            <numerusform>… und %n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source>Shade</source>
        <extracomment>The camera&apos;s id or the storey&apos;s name, and whether over the whole year.</extracomment>
        <translation>Schatten</translation>
    </message>
    <message>
        <source>What shades the middle</source>
        <translation>Was die Mitte beschattet</translation>
    </message>
    <message>
        <source>When the sun shines on what stands in the middle of the view, and what keeps it off</source>
        <translation>Wann die Sonne auf das scheint, was in der Mitte der Ansicht steht, und was sie abhält</translation>
    </message>
    <message>
        <source>Look from above</source>
        <translation>Von oben sehen</translation>
    </message>
    <message>
        <source>A camera straight above the building, for plans with shadows</source>
        <translation>Eine Kamera gerade über dem Gebäude, für Lagepläne mit Schatten</translation>
    </message>
    <message>
        <source>Plan of the storey</source>
        <translation>Grundriss des Geschosses</translation>
    </message>
    <message>
        <source>A camera straight above this camera&apos;s storey, which is cut at 1.2 m</source>
        <translation>Eine Kamera gerade über dem Geschoss dieser Kamera, das auf 1,2 m geschnitten ist</translation>
    </message>
    <message>
        <source>Hours of sun here…</source>
        <translation>Sonnenstunden hier…</translation>
    </message>
    <message>
        <source>On what this camera sees, in false colour</source>
        <translation>Auf dem, was diese Kamera sieht, in Falschfarben</translation>
    </message>
    <message>
        <source>…on the plan</source>
        <translation>…im Grundriss</translation>
    </message>
    <message>
        <source>Over this camera&apos;s storey, in false colour</source>
        <translation>Über dem Geschoss dieser Kamera, in Falschfarben</translation>
    </message>
    <message>
        <source>The study begins, clock time</source>
        <translation>Beginn der Studie, Uhrzeit</translation>
    </message>
    <message>
        <source>The study ends, clock time</source>
        <translation>Ende der Studie, Uhrzeit</translation>
    </message>
    <message>
        <source>Every</source>
        <translation>Alle</translation>
    </message>
    <message>
        <source>Hours and minutes from picture to picture, such as 1:00</source>
        <translation>Stunden und Minuten von Bild zu Bild, wie 1:00</translation>
    </message>
    <message>
        <source>On the four turning days</source>
        <translation>An den vier Wendetagen</translation>
    </message>
    <message>
        <source>Spring, summer, autumn and winter of the date&apos;s year</source>
        <translation>Frühling, Sommer, Herbst und Winter des Jahres</translation>
    </message>
    <message>
        <source>A film of the day too</source>
        <translation>Auch ein Film des Tages</translation>
    </message>
    <message>
        <source>The day goes by before the camera, 1.5 s an hour</source>
        <translation>Der Tag zieht an der Kamera vorbei, 1,5 s je Stunde</translation>
    </message>
    <message>
        <source>Into the shot list</source>
        <translation>In die Bildliste</translation>
    </message>
    <message>
        <source>A row for each time at which the sun is up</source>
        <translation>Eine Zeile für jede Zeit, zu der die Sonne am Himmel steht</translation>
    </message>
    <message>
        <source>Shade study: {name}</source>
        <translation>Schattenstudie: {name}</translation>
    </message>
    <message>
        <source>Choose a camera first.</source>
        <translation>Erst eine Kamera wählen.</translation>
    </message>
    <message>
        <source>Choose a camera that stands on a storey first.</source>
        <translation>Erst eine Kamera wählen, die auf einem Geschoss steht.</translation>
    </message>
    <message>
        <source>looking from above</source>
        <translation>von oben sehen</translation>
    </message>
    <message numerus="yes">
        <source>%n pictures into the shot list</source>
        <translation>
            <numerusform>%n Bild in die Bildliste</numerusform>
            <numerusform>%n Bilder in die Bildliste</numerusform>
        </translation>
    </message>
    <message>
        <source>Shade study</source>
        <translation>Schattenstudie</translation>
    </message>
    <message numerus="yes">
        <source>%n rows were added to the shot list on Hand over.</source>
        <translation>
            <numerusform>%n Zeile wurde unter Abgabe in die Bildliste gesetzt.</numerusform>
            <numerusform>%n Zeilen wurden unter Abgabe in die Bildliste gesetzt.</numerusform>
        </translation>
    </message>
    <message>
        <source>The line of sight meets nothing.</source>
        <translation>Die Blicklinie trifft nichts.</translation>
    </message>
    <message>
        <source>This camera stands on no storey; its plan cannot be chosen.</source>
        <translation>Diese Kamera steht auf keinem Geschoss; dessen Grundriss lässt sich nicht wählen.</translation>
    </message>
    <message>
        <source>Before and after</source>
        <translation>Vorher und nachher</translation>
    </message>
    <message>
        <source>Coverage</source>
        <translation>Abdeckung</translation>
    </message>
    <message>
        <source>What the cameras see</source>
        <translation>Was die Kameras sehen</translation>
    </message>
    <message>
        <source>And walks</source>
        <translation>Und Rundgänge</translation>
    </message>
    <message>
        <source>What the cameras and the walks see</source>
        <translation>Was die Kameras und die Rundgänge sehen</translation>
    </message>
    <message>
        <source>Look</source>
        <translation>Nachsehen</translation>
    </message>
    <message>
        <source>Find out what is seen, how large and from where; in the background</source>
        <translation>Herausfinden, was gesehen wird, wie groß und von wo; im Hintergrund</translation>
    </message>
    <message>
        <source>Leave off</source>
        <translation>Aufhören</translation>
    </message>
    <message>
        <source>Not looked at yet.</source>
        <translation>Noch nicht nachgesehen.</translation>
    </message>
    <message>
        <source>Never seen</source>
        <translation>Nie gesehen</translation>
    </message>
    <message>
        <source>Overlay</source>
        <translation>Überlagern</translation>
    </message>
    <message>
        <source>What is never seen stands out here and on the plan; the rest is faint</source>
        <translation>Was nie gesehen wird, hebt sich hier und im Grundriss ab; der Rest ist blass</translation>
    </message>
    <message>
        <source>Save table…</source>
        <translation>Tabelle sichern…</translation>
    </message>
    <message>
        <source>All objects with share, distance and camera, as CSV</source>
        <translation>Alle Objekte mit Anteil, Abstand und Kamera, als CSV</translation>
    </message>
    <message>
        <source>There is no camera whose picture could be looked at.</source>
        <translation>Es gibt keine Kamera, deren Bild angesehen werden könnte.</translation>
    </message>
    <message>
        <source>Looking…</source>
        <translation>Wird nachgesehen…</translation>
    </message>
    <message>
        <source>Never seen. Press: goes there</source>
        <translation>Nie gesehen. Drücken: geht dorthin</translation>
    </message>
    <message>
        <source>{seen} of {result} objects are seen</source>
        <translation>{seen} von {result} Objekten werden gesehen</translation>
    </message>
    <message>
        <source>, never:</source>
        <translation>, nie:</translation>
    </message>
    <message>
        <source>{never} never seen</source>
        <translation>{never} nie gesehen</translation>
    </message>
    <message>
        <source>Save the table</source>
        <translation>Tabelle sichern</translation>
    </message>
    <message>
        <source>Table (*.csv)</source>
        <translation>Tabelle (*.csv)</translation>
    </message>
    <message>
        <source>Nothing else was changed.</source>
        <translation>Sonst wurde nichts geändert.</translation>
    </message>
    <message numerus="yes">
        <source>The table of %n objects is in {path}.</source>
        <translation>
            <numerusform>Die Tabelle mit %n Objekt liegt in {path}.</numerusform>
            <numerusform>Die Tabelle mit %n Objekten liegt in {path}.</numerusform>
        </translation>
    </message>
    <message>
        <source>By storey</source>
        <translation>Nach Geschoss</translation>
    </message>
    <message>
        <source>Storeys, then categories</source>
        <translation>Geschosse, dann Gattungen</translation>
    </message>
    <message>
        <source>By category</source>
        <translation>Nach Gattung</translation>
    </message>
    <message>
        <source>Categories, then storeys</source>
        <translation>Gattungen, dann Geschosse</translation>
    </message>
    <message>
        <source>Find an object</source>
        <translation>Objekt suchen</translation>
    </message>
    <message>
        <source>Type part of a name, category or storey</source>
        <translation>Einen Teil von Name, Gattung oder Geschoss eingeben</translation>
    </message>
    <message>
        <source>Here: hidden while working, never changes a picture. Pictures: left out of all pictures of the project.</source>
        <translation>Hier: bei der Arbeit verborgen, ändert nie ein Bild. Bilder: aus allen Bildern des Projekts weggelassen.</translation>
    </message>
    <message>
        <source>Only these</source>
        <translation>Nur diese</translation>
    </message>
    <message>
        <source>Show only the chosen rows while working</source>
        <translation>Bei der Arbeit nur die gewählten Zeilen zeigen</translation>
    </message>
    <message>
        <source>Others faint</source>
        <translation>Andere blass</translation>
    </message>
    <message>
        <source>Show the chosen rows, and the rest faintly</source>
        <translation>Die gewählten Zeilen zeigen, und den Rest blass</translation>
    </message>
    <message>
        <source>Show all</source>
        <translation>Alles zeigen</translation>
    </message>
    <message>
        <source>Nothing hidden while working</source>
        <translation>Bei der Arbeit nichts verborgen</translation>
    </message>
    <message>
        <source>As before</source>
        <translation>Wie vorher</translation>
    </message>
    <message>
        <source>Back to what was hidden before</source>
        <translation>Zurück zu dem, was vorher verborgen war</translation>
    </message>
    <message>
        <source>Model</source>
        <translation>Modell</translation>
    </message>
    <message>
        <source>Reload</source>
        <translation>Neu lesen</translation>
    </message>
    <message>
        <source>Read the model files again; cameras stay, and each says what changed in its view (key F5)</source>
        <translation>Die Modelldateien neu lesen; Kameras bleiben, und jede sagt, was sich in ihrem Bild geändert hat (Taste F5)</translation>
    </message>
    <message>
        <source>Add a model…</source>
        <translation>Modell dazu…</translation>
    </message>
    <message>
        <source>Another model or a DXF drawing into this project</source>
        <translation>Ein weiteres Modell oder eine DXF-Zeichnung in dieses Projekt</translation>
    </message>
    <message>
        <source>{faces:,} triangles in {objects} objects</source>
        <translation>{faces:,} Dreiecke in {objects} Objekten</translation>
    </message>
    <message>
        <source>{size} m, unit {unit}</source>
        <translation>{size} m, {unit}</translation>
    </message>
    <message>
        <source>{storeys} storeys, {rooms} rooms, {materials} materials</source>
        <translation>{storeys} Geschosse, {rooms} Räume, {materials} Materialien</translation>
    </message>
    <message numerus="yes">
        <source>{lines} reference lines on %n layers</source>
        <translation>
            <numerusform>{lines} Bezugslinien auf %n Ebene</numerusform>
            <numerusform>{lines} Bezugslinien auf %n Ebenen</numerusform>
        </translation>
    </message>
    <message>
        <source>Leave out of pictures</source>
        <translation>Aus Bildern weglassen</translation>
    </message>
    <message>
        <source>Show in pictures</source>
        <translation>In Bildern zeigen</translation>
    </message>
    <message>
        <source>As the file says</source>
        <translation>Wie die Datei sagt</translation>
    </message>
    <message>
        <source>Metres</source>
        <translation>Meter</translation>
    </message>
    <message>
        <source>Centimetres</source>
        <translation>Zentimeter</translation>
    </message>
    <message>
        <source>Millimetres</source>
        <translation>Millimeter</translation>
    </message>
    <message>
        <source>Feet</source>
        <translation>Fuß</translation>
    </message>
    <message>
        <source>Inches</source>
        <translation>Zoll</translation>
    </message>
    <message>
        <source>Z is up</source>
        <translation>Z ist oben</translation>
    </message>
    <message>
        <source>Y is up</source>
        <translation>Y ist oben</translation>
    </message>
    <message>
        <source>Model file</source>
        <translation>Modelldatei</translation>
    </message>
    <message>
        <source>The model file that the fields below are of</source>
        <translation>Die Modelldatei, für die die Felder unten gelten</translation>
    </message>
    <message>
        <source>Unit</source>
        <translation>Einheit</translation>
    </message>
    <message>
        <source>How long one unit of the file is</source>
        <translation>Wie lang eine Einheit der Datei ist</translation>
    </message>
    <message>
        <source>Up</source>
        <translation>Oben</translation>
    </message>
    <message>
        <source>Which axis of the file points up</source>
        <translation>Welche Achse der Datei nach oben zeigt</translation>
    </message>
    <message>
        <source>Moved {word}</source>
        <translation>Verschoben {word}</translation>
    </message>
    <message>
        <source>How far the model is moved {word}, metres</source>
        <translation>Wie weit das Modell {word} verschoben ist, Meter</translation>
    </message>
    <message>
        <source>How far the model is turned clockwise about its own zero</source>
        <translation>Wie weit das Modell im Uhrzeigersinn um seinen Nullpunkt gedreht ist</translation>
    </message>
    <message>
        <source>East, north</source>
        <translation>Ost, Nord</translation>
    </message>
    <message>
        <source>Up, turned</source>
        <translation>Hoch, gedreht</translation>
    </message>
    <message>
        <source>Turn the model</source>
        <translation>Modell drehen</translation>
    </message>
    <message>
        <source>Part of the scene</source>
        <translation>Teil der Szene</translation>
    </message>
    <message>
        <source>Whether this file is shown, throws shadows and is stood on; it stays in the project either way</source>
        <translation>Ob diese Datei gezeigt wird, Schatten wirft und man auf ihr steht; im Projekt bleibt sie so oder so</translation>
    </message>
    <message>
        <source>Unit of the model</source>
        <translation>Einheit des Modells</translation>
    </message>
    <message>
        <source>Axis of the model</source>
        <translation>Achse des Modells</translation>
    </message>
    <message>
        <source>Show the model</source>
        <translation>Modell zeigen</translation>
    </message>
    <message>
        <source>Hide the model</source>
        <translation>Modell verbergen</translation>
    </message>
    <message>
        <source>Move the model</source>
        <translation>Modell verschieben</translation>
    </message>
    <message>
        <source>Take as {name} ›</source>
        <translation>Als {name} nehmen ›</translation>
    </message>
    <message>
        <source>Take {value} as up ›</source>
        <translation>{value} als oben nehmen ›</translation>
    </message>
    <message>
        <source>Cameras in the file</source>
        <translation>Kameras in der Datei</translation>
    </message>
    <message>
        <source>Make the chosen camera of the file one of the project&apos;s</source>
        <translation>Die gewählte Kamera der Datei ins Projekt nehmen</translation>
    </message>
    <message>
        <source>Take this</source>
        <translation>Diese nehmen</translation>
    </message>
    <message>
        <source>Take all</source>
        <translation>Alle nehmen</translation>
    </message>
    <message>
        <source>Make all cameras of the file the project&apos;s</source>
        <translation>Alle Kameras der Datei ins Projekt nehmen</translation>
    </message>
    <message>
        <source>Cameras, walks and remarks of another file: glTF, USD, BCF, CSV; offered first</source>
        <translation>Kameras, Rundgänge und Anmerkungen einer anderen Datei: glTF, USD, BCF, CSV; erst zur Ansicht</translation>
    </message>
    <message>
        <source>The project&apos;s cameras and walks for other tools: glTF, USD, BCF, tables</source>
        <translation>Kameras und Rundgänge des Projekts für andere Werkzeuge: glTF, USD, BCF, Tabellen</translation>
    </message>
    <message>
        <source>Press Return or “Take this” to make it one of the project&apos;s cameras</source>
        <translation>Eingabe oder „Diese nehmen“ drücken, um sie ins Projekt zu nehmen</translation>
    </message>
    <message>
        <source>Take over cameras</source>
        <translation>Kameras übernehmen</translation>
    </message>
    <message>
        <source>Mends of ours</source>
        <translation>Eigene Abhilfen</translation>
    </message>
    <message>
        <source>On or off</source>
        <translation>Ein oder aus</translation>
    </message>
    <message>
        <source>Switch the chosen mend</source>
        <translation>Die gewählte Abhilfe schalten</translation>
    </message>
    <message>
        <source>Remove the chosen mend; undo brings it back</source>
        <translation>Die gewählte Abhilfe entfernen; Widerrufen bringt sie zurück</translation>
    </message>
    <message>
        <source>A mend of ours on the model; the model&apos;s file is not changed. Press: goes there</source>
        <translation>Eine eigene Abhilfe am Modell; die Modelldatei bleibt, wie sie ist. Drücken: geht dorthin</translation>
    </message>
    <message>
        <source>Take mend back</source>
        <translation>Abhilfe zurücknehmen</translation>
    </message>
    <message>
        <source>Problems</source>
        <translation>Mängel</translation>
    </message>
    <message>
        <source>  Go there ›</source>
        <translation>  Dorthin ›</translation>
    </message>
    <message>
        <source>Press: {words}</source>
        <translation>Drücken: {words}</translation>
    </message>
    <message>
        <source>Press: goes there; press again: the next one</source>
        <translation>Drücken: geht dorthin; nochmals: zum nächsten</translation>
    </message>
    <message>
        <source>Nothing to report.</source>
        <translation>Nichts zu melden.</translation>
    </message>
    <message>
        <source>Changed</source>
        <extracomment>Does something slow in a thread, under a name, and what it returns in the window afterwards.</extracomment>
        <translation>Geändert</translation>
    </message>
    <message>
        <source>What the reload changed</source>
        <translation>Was das Neulesen geändert hat</translation>
    </message>
    <message>
        <source>Back to the model</source>
        <translation>Zurück zum Modell</translation>
    </message>
    <message>
        <source>Show the building again</source>
        <translation>Wieder das Gebäude zeigen</translation>
    </message>
    <message>
        <source>Comparing with the model before</source>
        <translation>Vergleich mit dem Modell davor</translation>
    </message>
    <message>
        <source>{name}: {lines} changed, {share:.1f} %</source>
        <translation>{name}: {lines} geändert, {share:.1f} %</translation>
    </message>
    <message>
        <source>{added} new, {removed} gone, {altered} altered</source>
        <translation>{added} neu, {removed} weg, {altered} geändert</translation>
    </message>
    <message>
        <source>nothing changed</source>
        <translation>nichts geändert</translation>
    </message>
    <message>
        <source>new</source>
        <translation>neu</translation>
    </message>
    <message>
        <source>altered</source>
        <translation>geändert</translation>
    </message>
    <message>
        <source>nothing</source>
        <translation>nichts</translation>
    </message>
    <message>
        <source>No camera sees a difference.</source>
        <translation>Keine Kamera sieht einen Unterschied.</translation>
    </message>
    <message>
        <source>The model was read again: {words}. {changes} cameras see a difference, {unchanged} do not.</source>
        <translation>Das Modell wurde neu gelesen: {words}. {changes} Kameras sehen einen Unterschied, {unchanged} nicht.</translation>
    </message>
    <message>
        <source>Rooms</source>
        <translation>Räume</translation>
    </message>
    <message>
        <source>A camera in the chosen room, from the corner that shows most of it (Return in the list)</source>
        <translation>Eine Kamera im gewählten Raum, in der Ecke, die am meisten zeigt (Eingabe in der Liste)</translation>
    </message>
    <message>
        <source>Stand here</source>
        <translation>Hier aufstellen</translation>
    </message>
    <message>
        <source>Press Return, or twice, to stand a camera in it</source>
        <translation>Eingabe oder zweimal drücken, um darin eine Kamera aufzustellen</translation>
    </message>
    <message>
        <source>Objects</source>
        <translation>Objekte</translation>
    </message>
    <message>
        <source>Object</source>
        <translation>Objekt</translation>
    </message>
    <message>
        <source>Here</source>
        <translation>Hier</translation>
    </message>
    <message>
        <source>Pictures</source>
        <translation>Bilder</translation>
    </message>
    <message>
        <source>Seen</source>
        <translation>Gesehen</translation>
    </message>
    <message>
        <source>On no storey</source>
        <translation>Auf keinem Geschoss</translation>
    </message>
    <message>
        <source>never</source>
        <translation>nie</translation>
    </message>
    <message>
        <source>largest in {largest_in}; nearest {nearest_m} in {nearest_in}; in {pictures} pictures</source>
        <translation>am größten in {largest_in}; am nächsten {nearest_m} in {nearest_in}; in {pictures} Bildern</translation>
    </message>
    <message>
        <source>In no picture</source>
        <translation>In keinem Bild</translation>
    </message>
    <message>
        <source>{never} never</source>
        <translation>{never} nie</translation>
    </message>
    <message>
        <source>all</source>
        <translation>alle</translation>
    </message>
    <message>
        <source>{seen} of {whole} seen</source>
        <translation>{seen} von {whole} gesehen</translation>
    </message>
    <message>
        <source>shown while working</source>
        <translation>bei der Arbeit gezeigt</translation>
    </message>
    <message>
        <source>shown in pictures</source>
        <translation>in Bildern gezeigt</translation>
    </message>
    <message>
        <source>Lato (fonts)</source>
        <extracomment>What ships with Altana and is no package.</extracomment>
        <translation>Lato (Schriften)</translation>
    </message>
    <message>
        <source>SIL Open Font License 1.1</source>
        <translation>SIL Open Font License 1.1</translation>
    </message>
    <message>
        <source>GeoNames (towns and time zones)</source>
        <translation>GeoNames (Städte und Zeitzonen)</translation>
    </message>
    <message>
        <source>CC BY 4.0</source>
        <translation>CC BY 4.0</translation>
    </message>
    <message>
        <source>FFmpeg with x264 and x265, inside the package av (films)</source>
        <translation>FFmpeg mit x264 und x265, im Paket av (Filme)</translation>
    </message>
    <message>
        <source>GPL 2 or later; a program of its own beside Altana&apos;s code</source>
        <translation>GPL 2 oder später; ein eigenes Programm neben Altanas Code</translation>
    </message>
    <message>
        <source>About Altana</source>
        <translation>Über Altana</translation>
    </message>
    <message>
        <source>Altana {version_words}</source>
        <translation>Altana {version_words}</translation>
    </message>
    <message>
        <source>Apache License 2.0. Altana asks nothing over a network; what it is made with:</source>
        <translation>Apache License 2.0. Altana fragt nichts über ein Netz; womit es gemacht ist:</translation>
    </message>
    <message>
        <source>Licences</source>
        <translation>Lizenzen</translation>
    </message>
    <message>
        <source>Part</source>
        <translation>Teil</translation>
    </message>
    <message>
        <source>Version</source>
        <translation>Fassung</translation>
    </message>
    <message>
        <source>Licence</source>
        <translation>Lizenz</translation>
    </message>
    <message>
        <source>Close this page (Escape)</source>
        <translation>Diese Seite schließen (Esc)</translation>
    </message>
    <message>
        <source>not said</source>
        <translation>nicht gesagt</translation>
    </message>
    <message>
        <source>Computing light</source>
        <extracomment>What the journal of a run calls things, and what is said.</extracomment>
        <translation>Licht wird berechnet</translation>
    </message>
    <message>
        <source>How far the work is</source>
        <extracomment>What was made last is to be seen; the folder that it lies in. Set where what is being read is not wanted any more; None while nothing is read.</extracomment>
        <translation>Wie weit die Arbeit ist</translation>
    </message>
    <message>
        <source>Stop; what is finished is kept</source>
        <translation>Anhalten; was fertig ist, bleibt</translation>
    </message>
    <message>
        <source>Open folder</source>
        <translation>Ordner öffnen</translation>
    </message>
    <message>
        <source>Show the files that were made</source>
        <translation>Die gemachten Dateien zeigen</translation>
    </message>
    <message>
        <source>What was made, large, among the results</source>
        <translation>Was gemacht wurde, groß, unter den Ergebnissen</translation>
    </message>
    <message>
        <source>{left_s} min left</source>
        <translation>noch {left_s} min</translation>
    </message>
    <message>
        <source>{value} s left</source>
        <translation>noch {value} s</translation>
    </message>
    <message>
        <source>Making {text}</source>
        <translation>{text} wird gemacht</translation>
    </message>
    <message>
        <source>Duplicate camera</source>
        <translation>Kamera verdoppeln</translation>
    </message>
    <message>
        <source>Remove camera</source>
        <translation>Kamera entfernen</translation>
    </message>
    <message numerus="yes">
        <source>Remove %n cameras</source>
        <translation>
            <numerusform>%n Kamera entfernen</numerusform>
            <numerusform>%n Kameras entfernen</numerusform>
        </translation>
    </message>
    <message>
        <source>Choose more cameras in the strip first (Control-press adds one); the one with the firm border gives its settings.</source>
        <translation>Erst weitere Kameras im Streifen wählen (Strg und Drücken nimmt eine dazu); die mit dem festen Rand gibt ihre Werte.</translation>
    </message>
    <message>
        <source>Copy {which}</source>
        <translation>{which} weitergeben</translation>
    </message>
    <message>
        <source>Hide on plan</source>
        <translation>Im Grundriss verbergen</translation>
    </message>
    <message>
        <source>Show on plan</source>
        <translation>Im Grundriss zeigen</translation>
    </message>
    <message>
        <source>Suggest name</source>
        <translation>Name vorschlagen</translation>
    </message>
    <message>
        <source>Inside or outside</source>
        <translation>Innen oder außen</translation>
    </message>
    <message>
        <source>Group</source>
        <translation>Gruppe</translation>
    </message>
    <message>
        <source>Group of the chosen cameras (empty: inside or outside)</source>
        <translation>Gruppe der gewählten Kameras (leer: innen oder außen)</translation>
    </message>
    <message>
        <source>Group cameras</source>
        <translation>Kameras gruppieren</translation>
    </message>
    <message>
        <source>Plan a shot</source>
        <translation>Bild planen</translation>
    </message>
    <message>
        <source>Move by steps</source>
        <translation>In Schritten bewegen</translation>
    </message>
    <message>
        <source>Metres ahead, right, up, with commas between</source>
        <translation>Meter nach vorn, rechts, oben, durch Kommas getrennt</translation>
    </message>
    <message>
        <source>“{text}” is not three numbers. Write metres ahead, right and up, such as 1.5, 0, 0.</source>
        <translation>„{text}“ sind nicht drei Zahlen. Schreiben Sie Meter nach vorn, rechts und oben, wie 1.5, 0, 0.</translation>
    </message>
    <message>
        <source>Type eye and aim</source>
        <translation>Auge und Ziel eingeben</translation>
    </message>
    <message>
        <source>Lens limits</source>
        <translation>Grenzen der Objektive</translation>
    </message>
    <message>
        <source>Called wide below this lens, very wide below that one (mm), and depth ratio</source>
        <translation>Heißt weit unter dieser Brennweite, sehr weit unter jener (mm), und Tiefenverhältnis</translation>
    </message>
    <message>
        <source>“{text}” is not two focal lengths and a ratio. Write them such as 18, 12, 12.</source>
        <translation>„{text}“ sind nicht zwei Brennweiten und ein Verhältnis. Schreiben Sie sie wie 18, 12, 12.</translation>
    </message>
    <message>
        <source>are kept plumb: turned up or down, they rise</source>
        <translation>bleiben lotrecht: nach oben oder unten gedreht versetzen sie das Objektiv</translation>
    </message>
    <message>
        <source>tilt when they are turned up or down</source>
        <translation>neigen sich, wenn sie nach oben oder unten gedreht werden</translation>
    </message>
    <message>
        <source>New cameras {kept}.</source>
        <translation>Neue Kameras {kept}.</translation>
    </message>
    <message>
        <source>Rename camera</source>
        <translation>Kamera umbenennen</translation>
    </message>
    <message>
        <source>Lock camera</source>
        <translation>Kamera sperren</translation>
    </message>
    <message>
        <source>Unlock camera</source>
        <translation>Kamera entsperren</translation>
    </message>
    <message>
        <source>Camera</source>
        <translation>Kamera</translation>
    </message>
    <message>
        <source>left-out objects</source>
        <extracomment>Settings whose name alone says too little.</extracomment>
        <translation>weggelassene Objekte</translation>
    </message>
    <message>
        <source>Next camera</source>
        <translation>Nächste Kamera</translation>
    </message>
    <message>
        <source>Camera before</source>
        <translation>Vorige Kamera</translation>
    </message>
    <message>
        <source>Rename…</source>
        <translation>Umbenennen…</translation>
    </message>
    <message>
        <source>Suggest a name</source>
        <translation>Namen vorschlagen</translation>
    </message>
    <message>
        <source>Lock or unlock</source>
        <translation>Sperren oder entsperren</translation>
    </message>
    <message>
        <source>Hide on plan, or show</source>
        <translation>Im Grundriss verbergen oder zeigen</translation>
    </message>
    <message>
        <source>In shot list, or out</source>
        <translation>In die Bildliste, oder heraus</translation>
    </message>
    <message>
        <source>Done, or to do</source>
        <translation>Fertig, oder offen</translation>
    </message>
    <message>
        <source>Move up in the strip</source>
        <translation>Im Streifen nach oben</translation>
    </message>
    <message>
        <source>Move down in the strip</source>
        <translation>Im Streifen nach unten</translation>
    </message>
    <message>
        <source>Group…</source>
        <translation>Gruppe…</translation>
    </message>
    <message>
        <source>Plan a shot…</source>
        <translation>Bild planen…</translation>
    </message>
    <message>
        <source>Inside or outside again</source>
        <translation>Wieder innen oder außen</translation>
    </message>
    <message>
        <source>Choose all cameras</source>
        <translation>Alle Kameras wählen</translation>
    </message>
    <message>
        <source>Copy the Frame</source>
        <translation>Sucher kopieren</translation>
    </message>
    <message>
        <source>Save the Frame as a picture</source>
        <translation>Sucher als Bild sichern</translation>
    </message>
    <message>
        <source>The same {settings} for all chosen cameras</source>
        <translation>Gleich für alle gewählten Kameras: {settings}</translation>
    </message>
    <message>
        <source>Plan and section</source>
        <translation>Grundriss und Schnitt</translation>
    </message>
    <message>
        <source>Plan large, or back</source>
        <translation>Grundriss groß, oder zurück</translation>
    </message>
    <message>
        <source>Section large, or back</source>
        <translation>Schnitt groß, oder zurück</translation>
    </message>
    <message>
        <source>Storey above</source>
        <translation>Geschoss darüber</translation>
    </message>
    <message>
        <source>Storey below</source>
        <translation>Geschoss darunter</translation>
    </message>
    <message>
        <source>Show camera on plan</source>
        <translation>Kamera im Grundriss zeigen</translation>
    </message>
    <message>
        <source>Reference lines on or off</source>
        <translation>Bezugslinien ein oder aus</translation>
    </message>
    <message>
        <source>Fit the plan</source>
        <translation>Grundriss einpassen</translation>
    </message>
    <message>
        <source>Fit the section</source>
        <translation>Schnitt einpassen</translation>
    </message>
    <message>
        <source>Edit</source>
        <translation>Bearbeiten</translation>
    </message>
    <message>
        <source>Undo</source>
        <translation>Widerrufen</translation>
    </message>
    <message>
        <source>Redo</source>
        <translation>Wiederholen</translation>
    </message>
    <message>
        <source>Find</source>
        <translation>Finden</translation>
    </message>
    <message>
        <source>Find a camera in the strip</source>
        <translation>Kamera im Streifen suchen</translation>
    </message>
    <message>
        <source>Model desk</source>
        <translation>Zum Modell</translation>
    </message>
    <message>
        <source>Compose desk</source>
        <translation>Zum Gestalten</translation>
    </message>
    <message>
        <source>Walk desk</source>
        <translation>Zum Rundgang</translation>
    </message>
    <message>
        <source>Hand-over desk</source>
        <translation>Zur Abgabe</translation>
    </message>
    <message>
        <source>Guides on or off</source>
        <translation>Hilfslinien ein oder aus</translation>
    </message>
    <message>
        <source>Surround on or off</source>
        <translation>Umfeld ein oder aus</translation>
    </message>
    <message>
        <source>Walking keeps the eye&apos;s height, or not</source>
        <translation>Gehen hält die Augenhöhe, oder nicht</translation>
    </message>
    <message>
        <source>As it will be made, or the Frame</source>
        <translation>Wie es gemacht wird, oder der Sucher</translation>
    </message>
    <message>
        <source>All round from here, or the Frame</source>
        <translation>Rundblick von hier, oder der Sucher</translation>
    </message>
    <message>
        <source>Variants side by side</source>
        <translation>Varianten nebeneinander</translation>
    </message>
    <message>
        <source>Flick through variants</source>
        <translation>Varianten durchblättern</translation>
    </message>
    <message>
        <source>Leave the chosen object out</source>
        <translation>Gewähltes Objekt weglassen</translation>
    </message>
    <message>
        <source>Take the nudge or leaving out back</source>
        <translation>Verrücken oder Weglassen zurücknehmen</translation>
    </message>
    <message>
        <source>Hold the view, or let it loose</source>
        <translation>Ansicht festhalten, oder frei lassen</translation>
    </message>
    <message>
        <source>Keep view as a new camera</source>
        <translation>Ansicht als neue Kamera behalten</translation>
    </message>
    <message>
        <source>Keep view with the usual lens</source>
        <translation>Ansicht mit dem üblichen Objektiv behalten</translation>
    </message>
    <message>
        <source>Outline of the chosen object, or none</source>
        <translation>Umriss des gewählten Objekts, oder keiner</translation>
    </message>
    <message>
        <source>Hand over</source>
        <translation>Abgabe</translation>
    </message>
    <message>
        <source>Results: everything that was made</source>
        <translation>Ergebnisse: alles, was gemacht wurde</translation>
    </message>
    <message>
        <source>Add the chosen cameras to the shot list</source>
        <translation>Gewählte Kameras in die Bildliste</translation>
    </message>
    <message>
        <source>Add panoramas from the chosen cameras&apos; places</source>
        <translation>Panoramen von den Orten der gewählten Kameras</translation>
    </message>
    <message>
        <source>Send cameras and walks to other tools…</source>
        <translation>Kameras und Rundgänge an andere Werkzeuge senden…</translation>
    </message>
    <message>
        <source>Send the model as it is shown…</source>
        <translation>Das Modell senden, wie es gezeigt wird…</translation>
    </message>
    <message>
        <source>Take in cameras, walks, remarks…</source>
        <translation>Kameras, Rundgänge, Anmerkungen übernehmen…</translation>
    </message>
    <message>
        <source>Make all rows that are on</source>
        <translation>Alle Zeilen machen, die ein sind</translation>
    </message>
    <message>
        <source>Make the chosen rows</source>
        <translation>Die gewählten Zeilen machen</translation>
    </message>
    <message>
        <source>Make what is out of date or missing</source>
        <translation>Machen, was veraltet ist oder fehlt</translation>
    </message>
    <message>
        <source>Make test pictures</source>
        <translation>Probebilder machen</translation>
    </message>
    <message>
        <source>Contact sheet of the list (PNG)</source>
        <translation>Kontaktbogen der Liste (PNG)</translation>
    </message>
    <message>
        <source>Help</source>
        <translation>Hilfe</translation>
    </message>
    <message>
        <source>Keys</source>
        <translation>Tasten</translation>
    </message>
    <message>
        <source>Preferences…</source>
        <translation>Einstellungen…</translation>
    </message>
    <message>
        <source>About Altana, licences</source>
        <translation>Über Altana, Lizenzen</translation>
    </message>
    <message>
        <source>Menu</source>
        <translation>Menü</translation>
    </message>
    <message>
        <source>Full screen</source>
        <translation>Ganzer Bildschirm</translation>
    </message>
    <message>
        <source>Turn, slide, lift, step, circle; rise (the picture within the lens)</source>
        <translation>Drehen, seitwärts, heben, gehen, kreisen; Versatz (das Bild im Objektiv)</translation>
    </message>
    <message>
        <source>Arrows, Shift+arrows</source>
        <translation>Pfeile, Umschalt+Pfeile</translation>
    </message>
    <message>
        <source>Move the chosen way, larger</source>
        <translation>In der gewählten Art bewegen, größer</translation>
    </message>
    <message>
        <source>, and .</source>
        <translation>, und .</translation>
    </message>
    <message>
        <source>Smaller and larger steps</source>
        <translation>Kleinere und größere Schritte</translation>
    </message>
    <message>
        <source>X or Y held, or Shift</source>
        <translation>X oder Y gehalten, oder Umschalt</translation>
    </message>
    <message>
        <source>Keep a drag to one axis</source>
        <translation>Ziehen auf einer Achse halten</translation>
    </message>
    <message>
        <source>Wheel; Shift, Control</source>
        <translation>Rad; Umschalt, Strg</translation>
    </message>
    <message>
        <source>Step forward and back; far, a little</source>
        <translation>Vor und zurück; weit, ein wenig</translation>
    </message>
    <message>
        <source>Choose the object in the middle</source>
        <translation>Das Objekt in der Mitte wählen</translation>
    </message>
    <message>
        <source>Alt while circling</source>
        <translation>Alt beim Kreisen</translation>
    </message>
    <message>
        <source>Go round the point under the pointer</source>
        <translation>Um den Punkt unter dem Zeiger</translation>
    </message>
    <message>
        <source>Arrows; Control+arrows</source>
        <translation>Pfeile; Strg+Pfeile</translation>
    </message>
    <message>
        <source>Move the eye by 10 cm; move the aim (Shift: 1 m)</source>
        <translation>Das Auge um 10 cm; das Ziel (Umschalt: 1 m)</translation>
    </message>
    <message>
        <source>[ and ]</source>
        <translation>[ und ]</translation>
    </message>
    <message>
        <source>Lower and raise the cut</source>
        <translation>Den Schnitt senken und heben</translation>
    </message>
    <message>
        <source>Zoom, show the whole building</source>
        <translation>Vergrößern, ganzes Gebäude</translation>
    </message>
    <message>
        <source>Shift while dragging the eye</source>
        <translation>Umschalt beim Ziehen des Auges</translation>
    </message>
    <message>
        <source>The eye alone, the aim stays</source>
        <translation>Nur das Auge, das Ziel bleibt</translation>
    </message>
    <message>
        <source>Control while dragging</source>
        <translation>Strg beim Ziehen</translation>
    </message>
    <message>
        <source>Nothing holds the pointer</source>
        <translation>Nichts hält den Zeiger fest</translation>
    </message>
    <message>
        <source>Alt while pressing</source>
        <translation>Alt beim Drücken</translation>
    </message>
    <message>
        <source>Take cameras only; press again for what lies below</source>
        <translation>Nur Kameras greifen; nochmals für das Darunterliegende</translation>
    </message>
    <message>
        <source>Return while standing</source>
        <translation>Eingabe beim Aufstellen</translation>
    </message>
    <message>
        <source>Stand in the middle of the sheet</source>
        <translation>In der Mitte des Blatts aufstellen</translation>
    </message>
    <message>
        <source>Arrows; Control+up, down</source>
        <translation>Pfeile; Strg+auf, ab</translation>
    </message>
    <message>
        <source>Step and lift the eye; tilt</source>
        <translation>Auge gehen und heben; neigen</translation>
    </message>
    <message>
        <source>Zoom, fit</source>
        <translation>Vergrößern, einpassen</translation>
    </message>
    <message>
        <source>Fields</source>
        <translation>Felder</translation>
    </message>
    <message>
        <source>Up, down; Shift</source>
        <translation>Auf, ab; Umschalt</translation>
    </message>
    <message>
        <source>Step the number; ten steps</source>
        <translation>Zahl um einen Schritt; um zehn</translation>
    </message>
    <message>
        <source>In the </source>
        <translation>In: </translation>
    </message>
    <message>
        <source>In number fields</source>
        <translation>In Zahlenfeldern</translation>
    </message>
    <message>
        <source>Lens and format</source>
        <translation>Objektiv und Format</translation>
    </message>
    <message>
        <source>Fit {name} by {by}</source>
        <translation>{name} einpassen: {by}</translation>
    </message>
    <message>
        <source>Fit façade squarely by {by}</source>
        <translation>Fassade quer einpassen: {by}</translation>
    </message>
    <message>
        <source>Longer lens</source>
        <translation>Längere Brennweite</translation>
    </message>
    <message>
        <source>Shorter lens</source>
        <translation>Kürzere Brennweite</translation>
    </message>
    <message>
        <source>Propose the exposure</source>
        <translation>Belichtung vorschlagen</translation>
    </message>
    <message>
        <source>Next format</source>
        <translation>Nächstes Format</translation>
    </message>
    <message>
        <source>Format before</source>
        <translation>Voriges Format</translation>
    </message>
    <message>
        <source>Sun and light: place, date, time, sky</source>
        <translation>Sonne und Licht: Ort, Datum, Zeit, Himmel</translation>
    </message>
    <message>
        <source>Sun later: half an hour</source>
        <translation>Sonne später: eine halbe Stunde</translation>
    </message>
    <message>
        <source>Sun earlier: half an hour</source>
        <translation>Sonne früher: eine halbe Stunde</translation>
    </message>
    <message>
        <source>Next sky: clear, hazy, overcast</source>
        <translation>Nächster Himmel: klar, dunstig, bedeckt</translation>
    </message>
    <message>
        <source>Shade study, hours of sun…</source>
        <translation>Schattenstudie, Sonnenstunden…</translation>
    </message>
    <message>
        <source>Place and north from the model file</source>
        <translation>Ort und Norden aus der Modelldatei</translation>
    </message>
    <message>
        <source>Reload models</source>
        <translation>Modelle neu lesen</translation>
    </message>
    <message>
        <source>Coverage: what is seen</source>
        <translation>Abdeckung: was gesehen wird</translation>
    </message>
    <message>
        <source>Go to the chosen object</source>
        <translation>Zum gewählten Objekt</translation>
    </message>
    <message>
        <source>Hide the chosen object here</source>
        <translation>Gewähltes Objekt hier verbergen</translation>
    </message>
    <message>
        <source>Hidden as before</source>
        <translation>Verborgen wie vorher</translation>
    </message>
    <message>
        <source>new add create place view viewpoint</source>
        <translation>neu hinzufügen anlegen setzen ansicht blickpunkt</translation>
    </message>
    <message>
        <source>copy clone</source>
        <translation>kopieren klonen duplizieren</translation>
    </message>
    <message>
        <source>name label title</source>
        <translation>name titel bezeichnung</translation>
    </message>
    <message>
        <source>delete erase</source>
        <translation>löschen</translation>
    </message>
    <message>
        <source>protect freeze fix</source>
        <translation>schützen einfrieren fixieren</translation>
    </message>
    <message>
        <source>render image export picture jpeg png output</source>
        <translation>rendern bild exportieren jpeg png ausgabe</translation>
    </message>
    <message>
        <source>clipboard screenshot</source>
        <translation>zwischenablage bildschirmfoto</translation>
    </message>
    <message>
        <source>screenshot export image</source>
        <translation>bildschirmfoto exportieren bild</translation>
    </message>
    <message>
        <source>deliver batch queue</source>
        <translation>abgeben stapel warteschlange</translation>
    </message>
    <message>
        <source>vertical perspective correction straighten converging lines two-point shift</source>
        <translation>vertikale perspektive korrektur entzerren stürzende linien shift</translation>
    </message>
    <message>
        <source>horizon horizontal</source>
        <translation>horizont horizontal</translation>
    </message>
    <message>
        <source>clip clipping plane cut section</source>
        <translation>schnittebene schneiden clipping</translation>
    </message>
    <message>
        <source>clip clipping plane depth range</source>
        <translation>schnittebene tiefe bereich clipping</translation>
    </message>
    <message>
        <source>clip clipping section remove wall see through</source>
        <translation>schnitt wand entfernen durchsehen clipping</translation>
    </message>
    <message>
        <source>clip outside dollhouse</source>
        <translation>schnitt außen puppenhaus</translation>
    </message>
    <message>
        <source>brightness auto exposure ev</source>
        <translation>helligkeit automatisch belichtung ev</translation>
    </message>
    <message>
        <source>zoom focal length tele</source>
        <translation>zoom brennweite tele</translation>
    </message>
    <message>
        <source>zoom focal length wide angle fov field of view</source>
        <translation>zoom brennweite weitwinkel bildwinkel</translation>
    </message>
    <message>
        <source>portrait landscape rotate orientation</source>
        <translation>hochformat querformat drehen</translation>
    </message>
    <message>
        <source>aspect ratio size resolution</source>
        <translation>seitenverhältnis größe auflösung</translation>
    </message>
    <message>
        <source>hide remove object exclude</source>
        <translation>ausblenden entfernen objekt ausschließen</translation>
    </message>
    <message>
        <source>coordinates position xyz eye target</source>
        <translation>koordinaten position xyz auge ziel</translation>
    </message>
    <message>
        <source>coordinates offset shift</source>
        <translation>koordinaten versatz verschieben</translation>
    </message>
    <message>
        <source>variant option alternative snapshot</source>
        <translation>variante option alternative schnappschuss</translation>
    </message>
    <message>
        <source>options alternatives compare</source>
        <translation>optionen alternativen vergleichen</translation>
    </message>
    <message>
        <source>panorama 360 vr sphere</source>
        <translation>panorama 360 vr kugel</translation>
    </message>
    <message>
        <source>preview render pencil sketch lines white clay background final</source>
        <translation>vorschau rendern bleistift skizze linien weiß hintergrund final</translation>
    </message>
    <message>
        <source>thirds grid golden composition</source>
        <translation>drittel raster goldener schnitt komposition</translation>
    </message>
    <message>
        <source>orbit fly navigate explore</source>
        <translation>kreisen fliegen navigieren erkunden</translation>
    </message>
    <message>
        <source>section cut elevation</source>
        <translation>schnitt ansicht</translation>
    </message>
    <message>
        <source>floor plan map top</source>
        <translation>grundriss plan karte oben</translation>
    </message>
    <message>
        <source>dxf drawing layers linework</source>
        <translation>dxf zeichnung ebenen linien</translation>
    </message>
    <message>
        <source>sun shadow shadows place location date time north daylight lamps environment hdri sky background</source>
        <translation>sonne schatten ort datum zeit norden tageslicht lampen umgebung hdri himmel hintergrund</translation>
    </message>
    <message>
        <source>sun study shadow shading solar hours plan above site</source>
        <translation>sonnenstudie schatten besonnung stunden lageplan von oben</translation>
    </message>
    <message>
        <source>weather cloud clear overcast</source>
        <translation>wetter wolken klar bedeckt</translation>
    </message>
    <message>
        <source>sun time hour shadow</source>
        <translation>sonne zeit stunde schatten</translation>
    </message>
    <message>
        <source>problems issues faults errors audit</source>
        <translation>probleme fehler mängel prüfung</translation>
    </message>
    <message>
        <source>visibility seen unseen</source>
        <translation>sichtbarkeit gesehen ungesehen</translation>
    </message>
    <message>
        <source>missing holes faults modelling</source>
        <translation>fehlend löcher fehler modellierung</translation>
    </message>
    <message>
        <source>update refresh relink</source>
        <translation>aktualisieren neu laden verknüpfen</translation>
    </message>
    <message>
        <source>terrain floor lawn</source>
        <translation>gelände boden rasen</translation>
    </message>
    <message>
        <source>import link reference ifc gltf obj dxf</source>
        <translation>importieren verknüpfen referenz ifc gltf obj dxf</translation>
    </message>
    <message>
        <source>import open model ifc gltf obj</source>
        <translation>importieren öffnen modell ifc gltf obj</translation>
    </message>
    <message>
        <source>history back earlier backup restore previous saves</source>
        <translation>verlauf zurück früher sicherung wiederherstellen</translation>
    </message>
    <message>
        <source>focal minimum maximum</source>
        <translation>brennweite minimum maximum</translation>
    </message>
    <message>
        <source>walkthrough animation path route film movie video fly through</source>
        <translation>animation pfad route film video durchgang kamerafahrt</translation>
    </message>
    <message>
        <source>preview animation film movie video</source>
        <translation>vorschau animation film video</translation>
    </message>
    <message>
        <source>batch queue deliverables sheet render list</source>
        <translation>stapel warteschlange abgabe blatt rendern liste</translation>
    </message>
    <message>
        <source>output renders gallery images history</source>
        <translation>ausgabe bilder galerie verlauf</translation>
    </message>
    <message>
        <source>batch queue</source>
        <translation>stapel warteschlange</translation>
    </message>
    <message>
        <source>panorama 360 vr equirectangular stereo</source>
        <translation>panorama 360 vr stereo</translation>
    </message>
    <message>
        <source>batch render queue start night</source>
        <translation>stapel rendern warteschlange starten nacht</translation>
    </message>
    <message>
        <source>batch render changed outdated update</source>
        <translation>stapel rendern geändert veraltet aktualisieren</translation>
    </message>
    <message>
        <source>draft preview proof low quality</source>
        <translation>entwurf vorschau probe niedrige qualität</translation>
    </message>
    <message>
        <source>export gltf usd csv json exchange cameras animation</source>
        <translation>exportieren gltf usd csv json austausch kameras animation</translation>
    </message>
    <message>
        <source>contact sheet pdf presentation client html zip</source>
        <translation>kontaktbogen pdf präsentation kunde html zip</translation>
    </message>
    <message>
        <source>shortcuts keyboard hotkeys</source>
        <translation>tastenkürzel tastatur</translation>
    </message>
    <message>
        <source>settings options dark mode shortcuts units</source>
        <translation>optionen dunkel modus tasten einheiten sprache</translation>
    </message>
    <message>
        <source>back revert</source>
        <translation>zurück rückgängig</translation>
    </message>
    <message>
        <source>Project</source>
        <translation>Projekt</translation>
    </message>
    <message>
        <source>New from a model…</source>
        <translation>Neu aus einem Modell…</translation>
    </message>
    <message>
        <source>Open…</source>
        <translation>Öffnen…</translation>
    </message>
    <message>
        <source>Save</source>
        <translation>Sichern</translation>
    </message>
    <message>
        <source>Save as…</source>
        <translation>Sichern als…</translation>
    </message>
    <message>
        <source>Versions…</source>
        <translation>Fassungen…</translation>
    </message>
    <message>
        <source>Add a model or drawing…</source>
        <translation>Modell oder Zeichnung hinzufügen…</translation>
    </message>
    <message>
        <source>Rename project…</source>
        <translation>Projekt umbenennen…</translation>
    </message>
    <message>
        <source>Lens limits…</source>
        <translation>Grenzen der Objektive…</translation>
    </message>
    <message>
        <source>Quit</source>
        <translation>Beenden</translation>
    </message>
    <message>
        <source>Middle of the room</source>
        <translation>Mitte des Raums</translation>
    </message>
    <message>
        <source>Standing height</source>
        <translation>Stehhöhe</translation>
    </message>
    <message>
        <source>Seated height</source>
        <translation>Sitzhöhe</translation>
    </message>
    <message>
        <source>Child&apos;s height</source>
        <translation>Kinderhöhe</translation>
    </message>
    <message>
        <source>Middle of the room&apos;s height</source>
        <translation>Halbe Raumhöhe</translation>
    </message>
    <message>
        <source>Turn left by 15°</source>
        <translation>Um 15° nach links</translation>
    </message>
    <message>
        <source>Turn right by 15°</source>
        <translation>Um 15° nach rechts</translation>
    </message>
    <message>
        <source>Turn left by 90°</source>
        <translation>Um 90° nach links</translation>
    </message>
    <message>
        <source>Turn right by 90°</source>
        <translation>Um 90° nach rechts</translation>
    </message>
    <message>
        <source>Move by typed steps…</source>
        <translation>Um eingegebene Schritte bewegen…</translation>
    </message>
    <message>
        <source>Type eye and aim…</source>
        <translation>Auge und Ziel eingeben…</translation>
    </message>
    <message>
        <source>Verticals and cut-away</source>
        <translation>Senkrechte und Freischnitt</translation>
    </message>
    <message>
        <source>Walk</source>
        <translation>Rundgang</translation>
    </message>
    <message>
        <source>Show {name}</source>
        <translation>{name} zeigen</translation>
    </message>
    <message>
        <source>Keep plumb, or let it tilt</source>
        <translation>Lotrecht halten, oder neigen</translation>
    </message>
    <message>
        <source>New cameras kept plumb, or not</source>
        <translation>Neue Kameras lotrecht, oder nicht</translation>
    </message>
    <message>
        <source>Back through wall by width…</source>
        <translation>Zurück durch die Wand nach Breite…</translation>
    </message>
    <message>
        <source>Hide nearer than, on or off</source>
        <translation>Näheres verbergen, ein oder aus</translation>
    </message>
    <message>
        <source>Hide beyond, on or off</source>
        <translation>Ferneres verbergen, ein oder aus</translation>
    </message>
    <message>
        <source>Wall cut: pick a wall</source>
        <translation>Wandschnitt: eine Wand wählen</translation>
    </message>
    <message>
        <source>Near bound just clear</source>
        <translation>Nahe Grenze knapp frei</translation>
    </message>
    <message>
        <source>Near bound to wall cut</source>
        <translation>Nahe Grenze zu Wandschnitt</translation>
    </message>
    <message>
        <source>Cap the cut, or not</source>
        <translation>Schnitt füllen, oder nicht</translation>
    </message>
    <message>
        <source>Check all cameras</source>
        <translation>Alle Kameras prüfen</translation>
    </message>
    <message>
        <source>Ground to the horizon</source>
        <translation>Gelände bis zum Horizont</translation>
    </message>
    <message>
        <source>List gaps for whoever models</source>
        <translation>Lücken auflisten für alle, die modellieren</translation>
    </message>
    <message>
        <source>Draw a route</source>
        <translation>Route zeichnen</translation>
    </message>
    <message>
        <source>Play</source>
        <translation>Spielen</translation>
    </message>
    <message>
        <source>Walk the chosen cameras</source>
        <translation>Gewählte Kameras abgehen</translation>
    </message>
    <message>
        <source>Turntable round the chosen object</source>
        <translation>Umrundung des gewählten Objekts</translation>
    </message>
    <message>
        <source>Walk up the chosen stair</source>
        <translation>Die gewählte Treppe hinaufgehen</translation>
    </message>
    <message>
        <source>Look at the building all along the walk</source>
        <translation>Während des ganzen Rundgangs auf das Gebäude blicken</translation>
    </message>
    <message>
        <source>Look at the chosen object all along the walk</source>
        <translation>Während des ganzen Rundgangs auf das gewählte Objekt blicken</translation>
    </message>
    <message>
        <source>Make film…</source>
        <translation>Film machen…</translation>
    </message>
    <message>
        <source>Viewpoints with pictures (BCF 3.0)</source>
        <translation>Blickpunkte mit Bildern (BCF 3.0)</translation>
    </message>
    <message>
        <source>Plan at 1:100 (PDF)</source>
        <translation>Grundriss 1:100 (PDF)</translation>
    </message>
    <message>
        <source>Plan at 1:100 (SVG)</source>
        <translation>Grundriss 1:100 (SVG)</translation>
    </message>
    <message>
        <source>Plan at 1:100 (DXF)</source>
        <translation>Grundriss 1:100 (DXF)</translation>
    </message>
    <message>
        <source>Shot list as an edit (OTIO)</source>
        <translation>Bildliste als Schnittfolge (OTIO)</translation>
    </message>
    <message>
        <source>Captions (WebVTT)</source>
        <translation>Untertitel (WebVTT)</translation>
    </message>
    <message>
        <source>Captions (SubRip)</source>
        <translation>Untertitel (SubRip)</translation>
    </message>
    <message>
        <source>There is no camera and no walk to send yet.</source>
        <translation>Es gibt noch keine Kamera und keinen Rundgang zu senden.</translation>
    </message>
    <message>
        <source>Send cameras and walks</source>
        <translation>Kameras und Rundgänge senden</translation>
    </message>
    <message>
        <source>Send the model as it is shown</source>
        <translation>Das Modell senden, wie es gezeigt wird</translation>
    </message>
    <message>
        <source>{name}: {cameras} and {walks} for other tools.{lost}</source>
        <translation>{name}: {cameras} und {walks} für andere Werkzeuge.{lost}</translation>
    </message>
    <message numerus="yes">
        <source>%n walks</source>
        <translation>
            <numerusform>%n Rundgang</numerusform>
            <numerusform>%n Rundgänge</numerusform>
        </translation>
    </message>
    <message>
        <source>Writing {name}</source>
        <translation>{name} wird geschrieben</translation>
    </message>
    <message>
        <source>Send answers back</source>
        <translation>Antworten zurücksenden</translation>
    </message>
    <message>
        <source>Remarks (*.bcf)</source>
        <translation>Anmerkungen (*.bcf)</translation>
    </message>
    <message>
        <source>Something is being made already. Wait for it, or cancel it below.</source>
        <extracomment>The test that is being made for the sheet that is open. What was chosen the last time, for stills and for films; as long as the window is open.</extracomment>
        <translation>Es wird schon etwas gemacht. Warten Sie darauf, oder brechen Sie es unten ab.</translation>
    </message>
    <message>
        <source>Cameras, walks, remarks ({suffix})</source>
        <translation>Kameras, Rundgänge, Anmerkungen ({suffix})</translation>
    </message>
    <message>
        <source>Take in</source>
        <extracomment>A row has room for its box.</extracomment>
        <translation>Übernehmen</translation>
    </message>
    <message>
        <source>Reading {name}</source>
        <translation>{name} wird gelesen</translation>
    </message>
    <message numerus="yes">
        <source>%n things taken in.{more}</source>
        <translation>
            <numerusform>%n Ding übernommen.{more}</numerusform>
            <numerusform>%n Dinge übernommen.{more}</numerusform>
        </translation>
    </message>
    <message>
        <source>A small test, {test_px} px</source>
        <translation>Ein kleiner Versuch, {test_px} px</translation>
    </message>
    <message>
        <source>Each as set</source>
        <extracomment>Per cent of every camera&apos;s own size.</extracomment>
        <translation>Jedes wie eingestellt</translation>
    </message>
    <message>
        <source>Half</source>
        <translation>Halb</translation>
    </message>
    <message>
        <source>Quarter</source>
        <translation>Viertel</translation>
    </message>
    <message>
        <source>Twice as large</source>
        <translation>Doppelt so groß</translation>
    </message>
    <message>
        <source>Four times as large</source>
        <translation>Viermal so groß</translation>
    </message>
    <message>
        <source>Make nothing (Escape)</source>
        <translation>Nichts machen (Esc)</translation>
    </message>
    <message>
        <source>Passes: {film_passes}</source>
        <translation>Durchgänge: {film_passes}</translation>
    </message>
    <message>
        <source>Largest width and height; every camera keeps its proportion</source>
        <translation>Größte Breite und Höhe; jede Kamera behält ihr Verhältnis</translation>
    </message>
    <message>
        <source>Kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>The kind of file, and what it is for</source>
        <translation>Die Art der Datei, und wofür sie ist</translation>
    </message>
    <message>
        <source>From what was measured on this machine; another light or model takes longer or shorter</source>
        <translation>Nach dem, was auf diesem Rechner gemessen wurde; anderes Licht oder Modell dauert länger oder kürzer</translation>
    </message>
    <message>
        <source>Make film</source>
        <translation>Film machen</translation>
    </message>
    <message>
        <source>Make stills</source>
        <translation>Standbilder machen</translation>
    </message>
    <message>
        <source>Start in the background</source>
        <translation>Im Hintergrund beginnen</translation>
    </message>
    <message>
        <source>Where the files go</source>
        <translation>Wohin die Dateien gehen</translation>
    </message>
    <message>
        <source>Choose another folder</source>
        <translation>Anderen Ordner wählen</translation>
    </message>
    <message>
        <source>Second of the walk at which the film begins</source>
        <translation>Sekunde des Rundgangs, bei der der Film beginnt</translation>
    </message>
    <message>
        <source>Second of the walk at which the film ends</source>
        <translation>Sekunde des Rundgangs, bei der der Film endet</translation>
    </message>
    <message>
        <source>Film frames</source>
        <translation>Filmbilder</translation>
    </message>
    <message>
        <source>Fewer film frames for a quick look; the film lasts as long</source>
        <translation>Weniger Filmbilder für einen schnellen Blick; der Film dauert gleich lang</translation>
    </message>
    <message>
        <source>Every one</source>
        <translation>Jedes</translation>
    </message>
    <message>
        <source>Every second</source>
        <translation>Jedes zweite</translation>
    </message>
    <message>
        <source>Every fourth</source>
        <translation>Jedes vierte</translation>
    </message>
    <message>
        <source>Materials, white card, lines or pencil; lines stand still from film frame to film frame</source>
        <translation>Materialien, weißer Karton, Linien oder Bleistift; Linien stehen von Filmbild zu Filmbild still</translation>
    </message>
    <message>
        <source>As its row says</source>
        <translation>Wie seine Zeile sagt</translation>
    </message>
    <message>
        <source>One PNG of small pictures with their times, beside the film</source>
        <translation>Ein PNG kleiner Bilder mit ihren Zeiten, neben dem Film</translation>
    </message>
    <message>
        <source>Keep the film frames as PNG</source>
        <translation>Filmbilder als PNG behalten</translation>
    </message>
    <message>
        <source>In a folder beside the film, by number</source>
        <translation>In einem Ordner neben dem Film, nach Nummern</translation>
    </message>
    <message>
        <source>to</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>Stamp</source>
        <translation>Stempel</translation>
    </message>
    <message>
        <source>None ▾</source>
        <translation>Keiner ▾</translation>
    </message>
    <message>
        <source>Stamp: what is written into a corner of each film frame</source>
        <translation>Stempel: was in eine Ecke jedes Filmbilds geschrieben wird</translation>
    </message>
    <message>
        <source>Corner of the stamp</source>
        <translation>Ecke des Stempels</translation>
    </message>
    <message>
        <source>The corner that the stamp stands in</source>
        <translation>Die Ecke, in der der Stempel steht</translation>
    </message>
    <message>
        <source>Stamp size</source>
        <translation>Stempelgröße</translation>
    </message>
    <message>
        <source>Height of the stamp&apos;s text, per cent of the film&apos;s height</source>
        <translation>Höhe des Stempeltexts, Prozent der Filmhöhe</translation>
    </message>
    <message>
        <source>{frames} film frames: </source>
        <translation>{frames} Filmbilder: </translation>
    </message>
    <message>
        <source>Folder for the files</source>
        <translation>Ordner für die Dateien</translation>
    </message>
    <message>
        <source>Building models (</source>
        <translation>Gebäudemodelle (</translation>
    </message>
    <message>
        <source>Altana ended without saving. Changes up to {when} were kept; the saved project is open.</source>
        <extracomment>Where a project that was not saved yet would lie: beside its model. Where such a project is offered to be saved, where the person prefers one place for all. The project whose kept changes are still offered.</extracomment>
        <translation>Altana endete ohne Sichern. Änderungen bis {when} wurden aufgehoben; das gesicherte Projekt ist offen.</translation>
    </message>
    <message>
        <source>Take the kept changes</source>
        <translation>Aufgehobenes nehmen</translation>
    </message>
    <message>
        <source>Take kept changes</source>
        <translation>Aufgehobene Änderungen nehmen</translation>
    </message>
    <message>
        <source>{name} holds what this Altana does not know ({unknown}). It is lost when you save; save under another name to keep it.</source>
        <translation>{name} enthält, was dieses Altana nicht kennt ({unknown}). Beim Sichern geht es verloren; sichern Sie unter anderem Namen, um es zu behalten.</translation>
    </message>
    <message>
        <source>The project is not saved yet, so there are no versions of it.</source>
        <translation>Das Projekt ist noch nicht gesichert, daher gibt es keine Fassungen davon.</translation>
    </message>
    <message>
        <source>Choose building models</source>
        <translation>Gebäudemodelle wählen</translation>
    </message>
    <message>
        <source>Choose a building model</source>
        <translation>Gebäudemodell wählen</translation>
    </message>
    <message>
        <source>Add model</source>
        <translation>Modell hinzufügen</translation>
    </message>
    <message>
        <source>Rename project</source>
        <translation>Projekt umbenennen</translation>
    </message>
    <message>
        <source>Projects and models ({kinds})</source>
        <translation>Projekte und Modelle ({kinds})</translation>
    </message>
    <message>
        <source>Open</source>
        <translation>Öffnen</translation>
    </message>
    <message>
        <source>Save as</source>
        <translation>Sichern als</translation>
    </message>
    <message>
        <source>Altana projects (*{suffix})</source>
        <translation>Altana-Projekte (*{suffix})</translation>
    </message>
    <message>
        <source>Unsaved changes</source>
        <translation>Ungesicherte Änderungen</translation>
    </message>
    <message>
        <source>“{name}” has changes that are not saved.</source>
        <translation>„{name}“ hat Änderungen, die nicht gesichert sind.</translation>
    </message>
    <message>
        <source>Discard changes</source>
        <translation>Änderungen verwerfen</translation>
    </message>
    <message>
        <source>Stay here</source>
        <translation>Hier bleiben</translation>
    </message>
    <message>
        <source>Choose an object first: press on it in the Frame, or in the list of the Model desk.</source>
        <translation>Erst ein Objekt wählen: im Sucher darauf drücken, oder in der Liste unter Modell.</translation>
    </message>
    <message>
        <source>This is how {camera} stood for {picture}. “Move camera here” puts it back.</source>
        <translation>So stand {camera} für {picture}. „Kamera hierher“ stellt sie wieder so.</translation>
    </message>
    <message>
        <source>planned shot</source>
        <extracomment>Other words for it.</extracomment>
        <translation>geplantes Bild</translation>
    </message>
    <message>
        <source>Stand in {name}</source>
        <translation>In {name} aufstellen</translation>
    </message>
    <message>
        <source>Look at {name}, all along the walk</source>
        <translation>Blick auf {name}, den ganzen Rundgang lang</translation>
    </message>
    <message>
        <source>Walk up {name}</source>
        <translation>Hinauf: {name}</translation>
    </message>
    <message>
        <source>There is no display, so the window cannot open. Set DISPLAY, or use the command line: altana --help.</source>
        <translation>Es gibt keinen Bildschirm, daher kann das Fenster nicht öffnen. Setzen Sie DISPLAY, oder nehmen Sie die Befehlszeile: altana --help.</translation>
    </message>
    <message>
        <source>Building the demo, the Larkwater ferry terminal</source>
        <translation>Die Vorführung wird gebaut, das Fährhaus Larkwater</translation>
    </message>
    <message>
        <source>{chosen} cameras, each in its own proportion and as its row of the shot list says</source>
        <translation>{chosen} Kameras, jede in ihrem Verhältnis und wie ihre Zeile der Bildliste sagt</translation>
    </message>
    <message>
        <source>{name}: {seconds:g} s at {rate} film frames a second</source>
        <translation>{name}: {seconds:g} s mit {rate} Filmbildern je Sekunde</translation>
    </message>
    <message>
        <source>{what}. The building&apos;s soft light is still being computed; pictures wait for it first.</source>
        <translation>{what}. Das weiche Licht des Gebäudes wird noch berechnet; Bilder warten erst darauf.</translation>
    </message>
    <message>
        <source>{date} turning days</source>
        <translation>{date} Wendetage</translation>
    </message>
    <message>
        <source>drawn as {rendition}, background {background}</source>
        <translation>dargestellt als {rendition}, Hintergrund {background}</translation>
    </message>
    <message>
        <source>There is no picture yet. Open a model and stand a camera first.</source>
        <translation>Es gibt noch kein Bild. Öffnen Sie ein Modell und stellen Sie erst eine Kamera auf.</translation>
    </message>
    <message>
        <source>{name} is on the clipboard, {size}.</source>
        <translation>{name} ist in der Zwischenablage, {size}.</translation>
    </message>
    <message>
        <source>Written: {path}, {size}.</source>
        <translation>Geschrieben: {path}, {size}.</translation>
    </message>
    <message>
        <source>Seeing what changed</source>
        <extracomment>Orders whose progress stands in the line at the bottom.</extracomment>
        <translation>Sieht nach, was sich geändert hat</translation>
    </message>
    <message>
        <source>Looking at what is covered</source>
        <translation>Sieht nach, was abgedeckt ist</translation>
    </message>
    <message>
        <source>Checking all cameras</source>
        <translation>Alle Kameras werden geprüft</translation>
    </message>
    <message>
        <source>Opening {names}</source>
        <translation>{names} wird geöffnet</translation>
    </message>
    <message>
        <source>There is no model to read again.</source>
        <translation>Es gibt kein Modell, das neu zu lesen wäre.</translation>
    </message>
    <message>
        <source>Open your own model…</source>
        <extracomment>What is done, or is as it was, is told for so long; trouble, and what offers something, until it is closed. Nobody has read what stood for less than this, seconds; so many wait at most. What stands at the lower edge of a desk and is pressed there: notices leave it free.</extracomment>
        <translation>Eigenes Modell öffnen…</translation>
    </message>
    <message>
        <source>Start a project from a building model (Ctrl+N)</source>
        <translation>Ein Projekt aus einem Gebäudemodell beginnen (Strg+N)</translation>
    </message>
    <message>
        <source>Take</source>
        <translation>Nehmen</translation>
    </message>
    <message>
        <source>Do what is offered</source>
        <translation>Tun, was angeboten wird</translation>
    </message>
    <message>
        <source>Copy details</source>
        <translation>Einzelheiten kopieren</translation>
    </message>
    <message>
        <source>Put what is known of the fault on the clipboard, for whoever mends Altana</source>
        <translation>Was über den Fehler bekannt ist, in die Zwischenablage, für alle, die Altana reparieren</translation>
    </message>
    <message>
        <source>Close this line</source>
        <translation>Diese Zeile schließen</translation>
    </message>
    <message>
        <source>East</source>
        <translation>Ost</translation>
    </message>
    <message>
        <source>Eye and aim</source>
        <translation>Auge und Ziel</translation>
    </message>
    <message>
        <source>{name}. Metres, or 5&apos;3&quot;, 160 cm, 63 in.</source>
        <translation>{name}. Meter, oder 5&apos;3&quot;, 160 cm, 63 in.</translation>
    </message>
    <message>
        <source>Above floor</source>
        <translation>Über Boden</translation>
    </message>
    <message>
        <source>Eye</source>
        <translation>Auge</translation>
    </message>
    <message>
        <source>{name} above floor</source>
        <translation>{name} über Boden</translation>
    </message>
    <message>
        <source>{name}: height above the floor under it</source>
        <translation>{name}: Höhe über dem Boden darunter</translation>
    </message>
    <message>
        <source>Leave the camera as it is (Escape)</source>
        <translation>Die Kamera lassen, wie sie ist (Esc)</translation>
    </message>
    <message>
        <source>Move the camera</source>
        <translation>Kamera bewegen</translation>
    </message>
    <message>
        <source>Stand it there, looking there</source>
        <translation>Dort aufstellen, mit Blick dorthin</translation>
    </message>
    <message>
        <source>no floor</source>
        <translation>kein Boden</translation>
    </message>
    <message>
        <source>light</source>
        <comment>window</comment>
        <extracomment>What light and dark are called of a window; light is also what falls into a room.</extracomment>
        <translation>hell</translation>
    </message>
    <message>
        <source>dark</source>
        <comment>window</comment>
        <translation>dunkel</translation>
    </message>
    <message>
        <source>Preferences</source>
        <translation>Einstellungen</translation>
    </message>
    <message>
        <source>All keys as usual</source>
        <translation>Alle Tasten wie üblich</translation>
    </message>
    <message>
        <source>Give up the keys that were changed</source>
        <translation>Die geänderten Tasten aufgeben</translation>
    </message>
    <message>
        <source>Folder of projects</source>
        <translation>Ordner der Projekte</translation>
    </message>
    <message>
        <source>beside the model</source>
        <translation>neben dem Modell</translation>
    </message>
    <message>
        <source>Where a project that was not saved yet is offered to be saved</source>
        <translation>Wo ein noch nicht gesichertes Projekt zum Sichern angeboten wird</translation>
    </message>
    <message>
        <source>Window</source>
        <translation>Fenster</translation>
    </message>
    <message>
        <source>Language</source>
        <translation>Sprache</translation>
    </message>
    <message>
        <source>Size of everything</source>
        <translation>Größe von allem</translation>
    </message>
    <message>
        <source>Frame at rest</source>
        <translation>Sucher in Ruhe</translation>
    </message>
    <message>
        <source>Keep changes after</source>
        <translation>Änderungen aufheben nach</translation>
    </message>
    <message>
        <source>Lens inside</source>
        <translation>Objektiv innen</translation>
    </message>
    <message>
        <source>Lens outside</source>
        <translation>Objektiv außen</translation>
    </message>
    <message>
        <source>Lengths in</source>
        <translation>Längen in</translation>
    </message>
    <message>
        <source>Decimals</source>
        <translation>Dezimalen</translation>
    </message>
    <message>
        <source>Light or dark; pictures stand on neutral grey either way</source>
        <translation>Hell oder dunkel; Bilder stehen so oder so auf neutralem Grau</translation>
    </message>
    <message>
        <source>The unit of lengths in fields, plans and sections; any unit can be typed anywhere</source>
        <translation>Die Einheit der Längen in Feldern, Grundrissen und Schnitten; eingeben lässt sich jede</translation>
    </message>
    <message>
        <source>What parts the decimals of a number; both signs can be typed anywhere</source>
        <translation>Was die Dezimalen einer Zahl trennt; eingeben lassen sich beide Zeichen</translation>
    </message>
    <message>
        <source>What the window speaks; from the next start</source>
        <translation>Was das Fenster spricht; ab dem nächsten Start</translation>
    </message>
    <message>
        <source>How often the Frame is drawn over itself while nothing moves: smoother, and slower; from the next start</source>
        <translation>Wie oft der Sucher in Ruhe über sich gezeichnet wird: glatter, und langsamer; ab dem nächsten Start</translation>
    </message>
    <message>
        <source>passes</source>
        <translation>Durchgänge</translation>
    </message>
    <message>
        <source>How large everything is, letters first: 100 to 200 %; from the next start</source>
        <translation>Wie groß alles ist, zuerst die Schrift: 100 bis 200 %; ab dem nächsten Start</translation>
    </message>
    <message>
        <source>So long after a change it is kept for the case of a crash</source>
        <translation>So lange nach einer Änderung wird sie für den Fall eines Absturzes aufgehoben</translation>
    </message>
    <message>
        <source>How high a new camera stands, until another height is chosen beside it</source>
        <translation>Wie hoch eine neue Kamera steht, bis daneben eine andere Höhe gewählt wird</translation>
    </message>
    <message>
        <source>Lens {side}</source>
        <translation>Objektiv {side}</translation>
    </message>
    <message>
        <source>Focal length of a new camera {side}</source>
        <translation>Brennweite einer neuen Kamera {side}</translation>
    </message>
    <message>
        <source>Find a command</source>
        <translation>Befehl suchen</translation>
    </message>
    <message>
        <source>Part of its name, menu or keys</source>
        <translation>Teil seines Namens, Menüs oder seiner Tasten</translation>
    </message>
    <message>
        <source>Commands and their keys</source>
        <translation>Befehle und ihre Tasten</translation>
    </message>
    <message>
        <source>Command</source>
        <translation>Befehl</translation>
    </message>
    <message>
        <source>Keys of the chosen command</source>
        <translation>Tasten des gewählten Befehls</translation>
    </message>
    <message>
        <source>Empty the field</source>
        <translation>Feld leeren</translation>
    </message>
    <message>
        <source>Choose a command, press here and press the keys it is to have.</source>
        <translation>Einen Befehl wählen, hier drücken und die Tasten drücken, die er haben soll.</translation>
    </message>
    <message>
        <source>“{keys}” is the key of {others}. Nothing was changed; choose another, or change that one first.</source>
        <translation>„{keys}“ ist die Taste von {others}. Nichts wurde geändert; wählen Sie eine andere, oder ändern Sie erst jene.</translation>
    </message>
    <message>
        <source>no key</source>
        <translation>keine Taste</translation>
    </message>
    <message>
        <source>All keys are as usual.</source>
        <translation>Alle Tasten sind wie üblich.</translation>
    </message>
    <message>
        <source>Picture of the remark</source>
        <translation>Bild der Anmerkung</translation>
    </message>
    <message>
        <source>no camera yet</source>
        <translation>noch keine Kamera</translation>
    </message>
    <message>
        <source>Remarks</source>
        <translation>Anmerkungen</translation>
    </message>
    <message>
        <source>Remarks of a BCF file, offered first</source>
        <translation>Anmerkungen einer BCF-Datei, erst zur Ansicht</translation>
    </message>
    <message>
        <source>Send answers back…</source>
        <translation>Antworten zurücksenden…</translation>
    </message>
    <message>
        <source>The answered remarks as BCF, each with a new picture</source>
        <translation>Die beantworteten Anmerkungen als BCF, jede mit neuem Bild</translation>
    </message>
    <message>
        <source>Answered by</source>
        <translation>Beantwortet von</translation>
    </message>
    <message>
        <source>Camera that answers it</source>
        <translation>Kamera, die sie beantwortet</translation>
    </message>
    <message>
        <source>The camera whose picture goes back with the answer</source>
        <translation>Die Kamera, deren Bild mit der Antwort zurückgeht</translation>
    </message>
    <message>
        <source>Go there</source>
        <translation>Dorthin</translation>
    </message>
    <message>
        <source>Show this camera in Compose</source>
        <translation>Diese Kamera unter Gestalten zeigen</translation>
    </message>
    <message>
        <source>Answer</source>
        <translation>Antwort</translation>
    </message>
    <message>
        <source>What is said with it</source>
        <translation>Was dazu gesagt wird</translation>
    </message>
    <message>
        <source>Goes back as a comment, with a new picture of the camera</source>
        <translation>Geht als Kommentar zurück, mit einem neuen Bild der Kamera</translation>
    </message>
    <message>
        <source>Answered</source>
        <translation>Beantwortet</translation>
    </message>
    <message>
        <source>Answered by this camera, with these words</source>
        <translation>Von dieser Kamera beantwortet, mit diesen Worten</translation>
    </message>
    <message>
        <source>Open again</source>
        <translation>Wieder öffnen</translation>
    </message>
    <message>
        <source>It waits for its answer again</source>
        <translation>Sie wartet wieder auf ihre Antwort</translation>
    </message>
    <message>
        <source>Drop</source>
        <translation>Fallen lassen</translation>
    </message>
    <message>
        <source>Without this remark; its camera stays</source>
        <translation>Ohne diese Anmerkung; ihre Kamera bleibt</translation>
    </message>
    <message numerus="yes">
        <source>%n remarks, {done} answered.</source>
        <translation>
            <numerusform>%n Anmerkung, {done} beantwortet.</numerusform>
            <numerusform>%n Anmerkungen, {done} beantwortet.</numerusform>
        </translation>
    </message>
    <message>
        <source>No remarks yet. Take in a BCF file, or drop one on the window.</source>
        <translation>Noch keine Anmerkungen. Eine BCF-Datei übernehmen, oder eine auf das Fenster ziehen.</translation>
    </message>
    <message>
        <source>Camera of a remark</source>
        <translation>Kamera einer Anmerkung</translation>
    </message>
    <message>
        <source>Answer a remark</source>
        <translation>Anmerkung beantworten</translation>
    </message>
    <message>
        <source>Open a remark again</source>
        <translation>Anmerkung wieder öffnen</translation>
    </message>
    <message>
        <source>Drop a remark</source>
        <translation>Anmerkung fallen lassen</translation>
    </message>
    <message>
        <source>nobody named</source>
        <translation>niemand genannt</translation>
    </message>
    <message>
        <source>Find camera, room, action</source>
        <translation>Kamera, Raum, Befehl finden</translation>
    </message>
    <message>
        <source>Cameras, rooms, objects, walks and actions (Ctrl+F); down and Return choose</source>
        <translation>Kameras, Räume, Objekte, Rundgänge und Befehle (Strg+F); Ab und Eingabe wählen</translation>
    </message>
    <message>
        <source>Found</source>
        <translation>Gefunden</translation>
    </message>
    <message>
        <source>Nothing of that name</source>
        <translation>Nichts mit diesem Namen</translation>
    </message>
    <message>
        <source>Changed by somebody else</source>
        <translation>Von jemand anderem geändert</translation>
    </message>
    <message>
        <source>{name} was saved by somebody else since you opened it. Nothing of either is lost yet.</source>
        <translation>{name} wurde von jemand anderem gesichert, seit Sie es geöffnet haben. Von beidem ist noch nichts verloren.</translation>
    </message>
    <message>
        <source>They changed</source>
        <translation>Dort geändert</translation>
    </message>
    <message>
        <source>You changed</source>
        <translation>Hier geändert</translation>
    </message>
    <message>
        <source>Both changed, differently</source>
        <translation>Beide geändert, verschieden</translation>
    </message>
    <message>
        <source>Both changes in one project</source>
        <translation>Beide Änderungen in einem Projekt</translation>
    </message>
    <message>
        <source>; where both changed the same, yours</source>
        <translation>; wo beide dasselbe änderten, Ihre</translation>
    </message>
    <message>
        <source>Take both</source>
        <translation>Beide nehmen</translation>
    </message>
    <message>
        <source>Keep mine as a copy</source>
        <translation>Meine als Kopie behalten</translation>
    </message>
    <message>
        <source>Yours goes into another file; theirs is opened</source>
        <translation>Ihres geht in eine andere Datei; das andere wird geöffnet</translation>
    </message>
    <message>
        <source>Read theirs</source>
        <translation>Das andere lesen</translation>
    </message>
    <message>
        <source>Give up your changes</source>
        <translation>Ihre Änderungen aufgeben</translation>
    </message>
    <message>
        <source>Nothing for now (Escape)</source>
        <translation>Vorerst nichts (Esc)</translation>
    </message>
    <message numerus="yes">
        <source> and %n more things</source>
        <extracomment>The file&apos;s content by its digest, and the project that was in it.</extracomment>
        <translation>
            <numerusform> und %n weiteres</numerusform>
            <numerusform> und %n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source>Look at it</source>
        <translation>Ansehen</translation>
    </message>
    <message>
        <source>Read it</source>
        <translation>Lesen</translation>
    </message>
    <message>
        <source>{name} was changed by somebody else: {told}{more}.</source>
        <translation>{name} wurde von jemand anderem geändert: {told}{more}.</translation>
    </message>
    <message>
        <source>Yours is kept as {name}; theirs is open.</source>
        <translation>Ihres ist als {name} behalten; das andere ist offen.</translation>
    </message>
    <message>
        <source>{stem} mine{suffix}</source>
        <translation>{stem} meines{suffix}</translation>
    </message>
    <message>
        <source>{stem} mine {number}{suffix}</source>
        <translation>{stem} meines {number}{suffix}</translation>
    </message>
    <message>
        <source>Where to begin?</source>
        <translation>Womit beginnen?</translation>
    </message>
    <message>
        <source>Projects opened lately</source>
        <translation>Zuletzt geöffnete Projekte</translation>
    </message>
    <message>
        <source>Opened lately</source>
        <translation>Zuletzt geöffnet</translation>
    </message>
    <message>
        <source>Open a building model (IFC, glTF, USD, OBJ, DAE, DXF …) or a project; or look round in the demo first.</source>
        <translation>Ein Gebäudemodell (IFC, glTF, USD, OBJ, DAE, DXF …) oder ein Projekt öffnen; oder sich erst in der Vorführung umsehen.</translation>
    </message>
    <message>
        <source>Open a model or project…</source>
        <translation>Modell oder Projekt öffnen…</translation>
    </message>
    <message>
        <source>A file of your own</source>
        <translation>Eine eigene Datei</translation>
    </message>
    <message>
        <source>Look at the demo</source>
        <translation>Die Vorführung ansehen</translation>
    </message>
    <message>
        <source>The made-up Larkwater ferry terminal</source>
        <translation>Das erdachte Fährhaus Larkwater</translation>
    </message>
    <message>
        <source>As what each is</source>
        <translation>Als was jedes ist</translation>
    </message>
    <message>
        <source>As cameras</source>
        <translation>Als Kameras</translation>
    </message>
    <message>
        <source>As planned shots</source>
        <translation>Als geplante Bilder</translation>
    </message>
    <message>
        <source>As walks</source>
        <translation>Als Rundgänge</translation>
    </message>
    <message numerus="yes">
        <source>{file} holds %n things. Only what is ticked is taken; undo takes it back.</source>
        <translation>
            <numerusform>{file} enthält %n Ding. Nur was angekreuzt ist, wird übernommen; Widerrufen nimmt es zurück.</numerusform>
            <numerusform>{file} enthält %n Dinge. Nur was angekreuzt ist, wird übernommen; Widerrufen nimmt es zurück.</numerusform>
        </translation>
    </message>
    <message>
        <source>What the file holds</source>
        <translation>Was die Datei enthält</translation>
    </message>
    <message>
        <source>All</source>
        <translation>Alle</translation>
    </message>
    <message>
        <source>Tick everything</source>
        <translation>Alles ankreuzen</translation>
    </message>
    <message>
        <source>Tick nothing</source>
        <translation>Nichts ankreuzen</translation>
    </message>
    <message>
        <source>As what it is taken</source>
        <translation>Als was es übernommen wird</translation>
    </message>
    <message>
        <source>A remark may become a planned shot; a walk the camera that it begins with</source>
        <translation>Eine Anmerkung kann ein geplantes Bild werden; ein Rundgang die Kamera, mit der er beginnt</translation>
    </message>
    <message>
        <source>Take nothing (Escape)</source>
        <translation>Nichts übernehmen (Esc)</translation>
    </message>
    <message>
        <source>Make what is ticked part of the project, as one step</source>
        <translation>Was angekreuzt ist, ins Projekt nehmen, in einem Schritt</translation>
    </message>
    <message>
        <source>Take {count}</source>
        <translation>{count} nehmen</translation>
    </message>
    <message>
        <source>Eye {x:.2f}, {y:.2f}, {z:.2f} m · {focal_mm:.1f} mm · {width_px} × {height_px}</source>
        <translation>Auge {x:.2f}, {y:.2f}, {z:.2f} m · {focal_mm:.1f} mm · {width_px} × {height_px}</translation>
    </message>
    <message numerus="yes">
        <source>{seconds:g} s at {rate} film frames a second, %n places</source>
        <translation>
            <numerusform>{seconds:g} s mit {rate} Filmbildern je Sekunde, %n Ort</numerusform>
            <numerusform>{seconds:g} s mit {rate} Filmbildern je Sekunde, %n Orte</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n objects only are shown</source>
        <translation>
            <numerusform>nur %n Objekt wird gezeigt</numerusform>
            <numerusform>nur %n Objekte werden gezeigt</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n objects are not shown</source>
        <translation>
            <numerusform>%n Objekt wird nicht gezeigt</numerusform>
            <numerusform>%n Objekte werden nicht gezeigt</numerusform>
        </translation>
    </message>
    <message>
        <source>The building: objects, what is hidden, problems (Ctrl+1)</source>
        <translation>Das Gebäude: Objekte, was verborgen ist, Mängel (Strg+1)</translation>
    </message>
    <message>
        <source>Compose</source>
        <translation>Gestalten</translation>
    </message>
    <message>
        <source>Stand, aim and frame cameras (Ctrl+2)</source>
        <translation>Kameras aufstellen, ausrichten und einrahmen (Strg+2)</translation>
    </message>
    <message>
        <source>Routes and films (Ctrl+3)</source>
        <translation>Routen und Filme (Strg+3)</translation>
    </message>
    <message>
        <source>The shot list, its making, and what was made (Ctrl+4)</source>
        <translation>Die Bildliste, ihre Ausführung, und was gemacht wurde (Strg+4)</translation>
    </message>
    <message>
        <source>Everything that can be done, by menus (F10)</source>
        <translation>Alles, was sich tun lässt, nach Menüs (F10)</translation>
    </message>
    <message>
        <source>Take the last change back (Ctrl+Z)</source>
        <translation>Die letzte Änderung zurücknehmen (Strg+Z)</translation>
    </message>
    <message>
        <source>Do it again (Ctrl+Shift+Z)</source>
        <translation>Sie wiederholen (Strg+Umschalt+Z)</translation>
    </message>
    <message>
        <source>changes not saved</source>
        <translation>Änderungen nicht gesichert</translation>
    </message>
    <message>
        <source>saved</source>
        <translation>gesichert</translation>
    </message>
    <message>
        <source>not saved yet</source>
        <translation>noch nicht gesichert</translation>
    </message>
    <message>
        <source>Versions</source>
        <extracomment>What was read of them, by place; None where it cannot be.</extracomment>
        <translation>Fassungen</translation>
    </message>
    <message>
        <source>The last saves of {name}, and what is another there than now.</source>
        <translation>Was zuletzt von {name} gesichert wurde, und was dort anders ist als jetzt.</translation>
    </message>
    <message>
        <source>No earlier save is kept yet.</source>
        <translation>Noch ist keine frühere Fassung aufgehoben.</translation>
    </message>
    <message>
        <source>What is another there</source>
        <translation>Was dort anders ist</translation>
    </message>
    <message>
        <source>Cameras that are another there</source>
        <translation>Kameras, die dort anders sind</translation>
    </message>
    <message>
        <source>Another there than now</source>
        <translation>Dort anders als jetzt</translation>
    </message>
    <message>
        <source>Its cameras that differ</source>
        <translation>Ihre Kameras, die anders sind</translation>
    </message>
    <message>
        <source>The project as it was then; undo brings this one back</source>
        <translation>Das Projekt, wie es damals war; Widerrufen bringt dieses zurück</translation>
    </message>
    <message>
        <source>Take the whole version</source>
        <translation>Ganze Fassung nehmen</translation>
    </message>
    <message>
        <source>Only these cameras as they were then</source>
        <translation>Nur diese Kameras, wie sie damals waren</translation>
    </message>
    <message>
        <source>Take the chosen cameras</source>
        <translation>Gewählte Kameras nehmen</translation>
    </message>
    <message>
        <source>This version cannot be read any more.</source>
        <translation>Diese Fassung lässt sich nicht mehr lesen.</translation>
    </message>
    <message>
        <source>Take a version</source>
        <translation>Fassung nehmen</translation>
    </message>
    <message>
        <source>Take cameras of a version</source>
        <translation>Kameras einer Fassung nehmen</translation>
    </message>
    <message>
        <source>Until {when}</source>
        <translation>Bis {when}</translation>
    </message>
    <message>
        <source>{name} – Altana</source>
        <translation>{name} – Altana</translation>
    </message>
    <message>
        <source>Look at the results</source>
        <translation>Ergebnisse ansehen</translation>
    </message>
    <message>
        <source>While Altana was closed: {summary}</source>
        <translation>Während Altana geschlossen war: {summary}</translation>
    </message>
    <message>
        <source>Go on with it</source>
        <translation>Fortfahren</translation>
    </message>
    <message>
        <source>A run of the shot list was broken off. What was made is kept.</source>
        <translation>Ein Lauf der Bildliste wurde unterbrochen. Was gemacht ist, bleibt.</translation>
    </message>
    <message>
        <source>Computing the light of the building</source>
        <translation>Das Licht des Gebäudes wird berechnet</translation>
    </message>
    <message>
        <source>Refining the light of this picture</source>
        <translation>Das Licht dieses Bildes wird verfeinert</translation>
    </message>
    <message>
        <source>This is the demo, the made-up Larkwater ferry terminal. Try everything: your own model is one step away.</source>
        <translation>Das ist die Vorführung, das erdachte Fährhaus Larkwater. Probieren Sie alles: Ihr eigenes Modell ist einen Schritt entfernt.</translation>
    </message>
    <message>
        <source>Stand a camera for it</source>
        <translation>Eine Kamera dafür aufstellen</translation>
    </message>
    <message>
        <source>Drop it</source>
        <translation>Fallen lassen</translation>
    </message>
    <message>
        <source>Drop planned shot</source>
        <translation>Geplantes Bild fallen lassen</translation>
    </message>
    <message>
        <source>{tip}
Type it as #rrggbb, or press its swatch.</source>
        <translation>{tip}
Als #rrggbb eingeben, oder auf das Farbfeld drücken.</translation>
    </message>
    <message>
        <source>{name}: choose</source>
        <translation>{name}: wählen</translation>
    </message>
    <message>
        <source>Passes, pictures</source>
        <extracomment>Column by column: field, heading, what it does, step, lowest and highest.</extracomment>
        <translation>Durchgänge, Bilder</translation>
    </message>
    <message>
        <source>Each pass draws the whole picture once more, the sun and the pixels a little elsewhere: smoother</source>
        <translation>Jeder Durchgang zeichnet das ganze Bild noch einmal, Sonne und Pixel ein wenig versetzt: glatter</translation>
    </message>
    <message>
        <source>Passes, film frames</source>
        <translation>Durchgänge, Filmbilder</translation>
    </message>
    <message>
        <source>The same for a film frame, and for stills made straight from a camera</source>
        <translation>Dasselbe für ein Filmbild, und für Standbilder direkt von einer Kamera</translation>
    </message>
    <message>
        <source>Shadow map, px</source>
        <translation>Schattenkarte, px</translation>
    </message>
    <message>
        <source>Side of the map that the sun&apos;s shadows are read from: larger gives finer edges</source>
        <translation>Seite der Karte, aus der die Schatten der Sonne gelesen werden: größer gibt feinere Ränder</translation>
    </message>
    <message>
        <source>Samples, pictures</source>
        <translation>Abtastungen, Bilder</translation>
    </message>
    <message>
        <source>Light is followed to its end along so many paths a pixel instead of passes; 0 draws in passes</source>
        <translation>Statt in Durchgängen wird das Licht auf so vielen Wegen je Pixel bis zum Ende verfolgt; 0 zeichnet in Durchgängen</translation>
    </message>
    <message>
        <source>Samples, film frames</source>
        <translation>Abtastungen, Filmbilder</translation>
    </message>
    <message>
        <source>The same for a film frame</source>
        <translation>Dasselbe für ein Filmbild</translation>
    </message>
    <message>
        <source>Light rays, pictures</source>
        <translation>Lichtstrahlen, Bilder</translation>
    </message>
    <message>
        <source>Of stills and panoramas drawn in passes: so many rays look for the light of each place that is seen, as for the Frame at rest; 0 takes the light of the whole model, which is there at once</source>
        <translation>Bei Standbildern und Panoramen, die in Durchgängen gezeichnet werden: So viele Strahlen suchen das Licht jeder Stelle, die zu sehen ist, wie beim ruhenden Bild; 0 nimmt das Licht des ganzen Modells, das gleich da ist</translation>
    </message>
    <message>
        <source>What proof, review and final stand for</source>
        <translation>Wofür Probe, Durchsicht und Endfassung stehen</translation>
    </message>
    <message>
        <source>In this project, for all rows, films and stills. Twice the passes take twice as long.</source>
        <translation>In diesem Projekt, für alle Zeilen, Filme und Standbilder. Doppelt so viele Durchgänge dauern doppelt so lange.</translation>
    </message>
    <message>
        <source>The usual figures</source>
        <translation>Die üblichen Werte</translation>
    </message>
    <message>
        <source>As they come with Altana</source>
        <translation>Wie sie mit Altana kommen</translation>
    </message>
    <message>
        <source>Change nothing (Escape)</source>
        <translation>Nichts ändern (Esc)</translation>
    </message>
    <message>
        <source>For everything that is made from now on</source>
        <translation>Für alles, was von nun an gemacht wird</translation>
    </message>
    <message>
        <source>{tip}
Type it, drag sideways, or use the up and down keys.</source>
        <extracomment>What was wrong with what was typed is shown at the field for so long. Pixels: both sides were typed. What nought is called, where it means that there is none. What a typed percentage refers to, where one makes sense. Pixels: how fine it is printed, for sides typed in inches or millimetres. The usual tooltip, while another says what was wrong.</extracomment>
        <translation>{tip}
Eingeben, seitwärts ziehen, oder mit den Tasten Auf und Ab.</translation>
    </message>
    <message>
        <source>{typed} is outside {low} to {high}: {taken} is taken.</source>
        <translation>{typed} liegt außerhalb von {low} bis {high}: {taken} wird genommen.</translation>
    </message>
    <message>
        <source>as the project</source>
        <translation>wie das Projekt</translation>
    </message>
    <message>
        <source>Own time</source>
        <translation>Eigene Zeit</translation>
    </message>
    <message>
        <source>Clock time of its own, such as 17:30; empty follows the project</source>
        <translation>Eigene Uhrzeit, wie 17:30; leer folgt sie dem Projekt</translation>
    </message>
    <message>
        <source>Own date</source>
        <translation>Eigenes Datum</translation>
    </message>
    <message>
        <source>A date of its own, such as 2026-12-21; empty follows the project</source>
        <translation>Eigenes Datum, wie 2026-12-21; leer folgt es dem Projekt</translation>
    </message>
    <message>
        <source>Own sky</source>
        <translation>Eigener Himmel</translation>
    </message>
    <message>
        <source>A sky of its own</source>
        <translation>Ein eigener Himmel</translation>
    </message>
    <message>
        <source>Own lamps</source>
        <translation>Eigene Lampen</translation>
    </message>
    <message>
        <source>Lamps on or off for this alone</source>
        <translation>Lampen nur hierfür an oder aus</translation>
    </message>
    <message>
        <source>lamps on</source>
        <translation>Lampen an</translation>
    </message>
    <message>
        <source>lamps off</source>
        <translation>Lampen aus</translation>
    </message>
    <message>
        <source>10 in, 250 mm, ×2 and 1920 x 1080 are understood; the other side follows</source>
        <extracomment>Names of sizes with their width and height. Height over width, exact: sides that were rounded would bend it a little at every value typed. The size that is offered as the camera&apos;s or walk&apos;s own.</extracomment>
        <translation>10 in, 250 mm, ×2 und 1920 x 1080 werden verstanden; die andere Seite folgt</translation>
    </message>
    <message>
        <source>Pixels across; {note}</source>
        <translation>Pixel quer; {note}</translation>
    </message>
    <message>
        <source>Pixels up; {note}</source>
        <translation>Pixel hoch; {note}</translation>
    </message>
    <message>
        <source>Sizes ▾</source>
        <translation>Größen ▾</translation>
    </message>
    <message>
        <source>Sizes: common ones by name, larger, smaller</source>
        <translation>Größen: übliche mit Namen, größer, kleiner</translation>
    </message>
    <message>
        <source>As set	{wide} × {high}</source>
        <translation>Wie eingestellt	{wide} × {high}</translation>
    </message>
    <message>
        <source>A small test	{wide} × {high}</source>
        <translation>Ein kleiner Versuch	{wide} × {high}</translation>
    </message>
    <message>
        <source>{title}: fold or unfold</source>
        <translation>{title}: auf- oder zuklappen</translation>
    </message>
    <message>
        <source>{title}, fold or unfold</source>
        <translation>{title}, auf- oder zuklappen</translation>
    </message>
    <message>
        <source>Camera here</source>
        <translation>Kamera hier</translation>
    </message>
    <message>
        <source>Focal length here; between places it changes smoothly</source>
        <translation>Brennweite hier; zwischen Orten ändert sie sich stetig</translation>
    </message>
    <message>
        <source>Exposure here; lower is brighter</source>
        <translation>Belichtung hier; kleiner ist heller</translation>
    </message>
    <message>
        <source>Shift of the lens up (or down) here</source>
        <translation>Versatz des Objektivs nach oben (oder unten) hier</translation>
    </message>
    <message>
        <source>Shift of the lens to the right (or left) here</source>
        <translation>Versatz des Objektivs nach rechts (oder links) hier</translation>
    </message>
    <message>
        <source>Where the walk looks here, when it looks as keyed</source>
        <translation>Wohin der Rundgang hier blickt, wenn er nach Vorgabe blickt</translation>
    </message>
    <message>
        <source>How far it looks up, when it looks as keyed</source>
        <translation>Wie weit er nach oben blickt, wenn er nach Vorgabe blickt</translation>
    </message>
    <message>
        <source>Hide nearer</source>
        <extracomment>What a place may say or leave open.</extracomment>
        <translation>Näheres weg</translation>
    </message>
    <message>
        <source>The near bound here, metres from the eye; between two places it moves evenly</source>
        <translation>Die nahe Grenze hier, Meter vom Auge; zwischen zwei Orten bewegt sie sich gleichmäßig</translation>
    </message>
    <message>
        <source>The far bound here, metres from the eye</source>
        <translation>Die ferne Grenze hier, Meter vom Auge</translation>
    </message>
    <message>
        <source>Local hour here: the sun moves on between places that have one</source>
        <translation>Ortszeit hier: die Sonne wandert zwischen Orten, die eine haben</translation>
    </message>
    <message>
        <source>How much of their light lamps give here; it changes evenly between places that say so</source>
        <translation>Wie viel ihres Lichts Lampen hier geben; es ändert sich gleichmäßig zwischen Orten, die es sagen</translation>
    </message>
    <message>
        <source>{text}: on or off here</source>
        <translation>{text}: hier an oder aus</translation>
    </message>
    <message>
        <source>{text} off</source>
        <translation>{text} aus</translation>
    </message>
    <message>
        <source>walk plan</source>
        <extracomment>Film frames are drawn ahead so long after a play. What routes and their timing need is loaded so long after a project came that nobody looks at them, and what it is. The walk changed while the desk was out of sight.</extracomment>
        <translation>Rundgang im Grundriss</translation>
    </message>
    <message>
        <source>Height of a place</source>
        <extracomment>Loaded here it would hold the window when the desk is first come to.</extracomment>
        <translation>Höhe eines Orts</translation>
    </message>
    <message>
        <source>“{name}” is chosen.</source>
        <extracomment>Film frames drawn while nothing else is are this much smaller than the Frame. A film frame: its camera, and what of its light is keyed. Film frames on order by revision: what they depend on, and their number.</extracomment>
        <translation>„{name}“ ist gewählt.</translation>
    </message>
    <message>
        <source>Checks</source>
        <translation>Prüfungen</translation>
    </message>
    <message>
        <source>What the checks found</source>
        <translation>Was die Prüfungen fanden</translation>
    </message>
    <message>
        <source>Press: goes there, and offers what mends it</source>
        <translation>Drücken: geht dorthin, und bietet an, was hilft</translation>
    </message>
    <message>
        <source>{flags} found</source>
        <translation>{flags} gefunden</translation>
    </message>
    <message>
        <source>Long section</source>
        <extracomment>What is cut is at least so wide and high, pixels.</extracomment>
        <translation>Längsschnitt</translation>
    </message>
    <message>
        <source>The building along the whole route. Drag to scrub; press a place to choose it</source>
        <translation>Das Gebäude entlang der ganzen Route. Ziehen fährt; auf einen Ort drücken wählt ihn</translation>
    </message>
    <message>
        <source>A turntable goes round level: it has no long section</source>
        <translation>Eine Umrundung bleibt auf einer Höhe: sie hat keinen Längsschnitt</translation>
    </message>
    <message>
        <source>No walk yet</source>
        <translation>Noch kein Rundgang</translation>
    </message>
    <message>
        <source>Looking</source>
        <extracomment>A new span of looking lasts so long.</extracomment>
        <translation>Blick</translation>
    </message>
    <message>
        <source>Ahead</source>
        <translation>Voraus</translation>
    </message>
    <message>
        <source>Look along the route, corners anticipated</source>
        <translation>Entlang der Route blicken, Ecken im Voraus</translation>
    </message>
    <message>
        <source>As keyed</source>
        <translation>Nach Vorgabe</translation>
    </message>
    <message>
        <source>Look as the cameras do, turning the short way</source>
        <translation>Blicken wie die Kameras, auf dem kurzen Weg drehen</translation>
    </message>
    <message>
        <source>Walk looking</source>
        <translation>Blick des Rundgangs</translation>
    </message>
    <message>
        <source>The walk looks</source>
        <translation>Blickt</translation>
    </message>
    <message>
        <source>Anticipation</source>
        <translation>Vorausblick</translation>
    </message>
    <message>
        <source>Corners are looked round so many metres early</source>
        <translation>Um Ecken wird so viele Meter früher geblickt</translation>
    </message>
    <message>
        <source>Spans of looking</source>
        <translation>Abschnitte des Blicks</translation>
    </message>
    <message>
        <source>Second at which this span begins</source>
        <translation>Sekunde, bei der dieser Abschnitt beginnt</translation>
    </message>
    <message>
        <source>Second at which this span ends</source>
        <translation>Sekunde, bei der dieser Abschnitt endet</translation>
    </message>
    <message>
        <source>From, to</source>
        <translation>Von, bis</translation>
    </message>
    <message>
        <source>Look at an object</source>
        <translation>Auf ein Objekt blicken</translation>
    </message>
    <message>
        <source>From here on, for three seconds, look at the chosen object</source>
        <translation>Von hier an drei Sekunden lang auf das gewählte Objekt blicken</translation>
    </message>
    <message>
        <source>Span ▾</source>
        <translation>Abschnitt ▾</translation>
    </message>
    <message>
        <source>More spans of looking, and what the chosen one does</source>
        <translation>Weitere Abschnitte des Blicks, und was der gewählte tut</translation>
    </message>
    <message>
        <source>Look at {name}</source>
        <translation>Auf {name}</translation>
    </message>
    <message>
        <source>From here on, for three seconds, look at “{name}”. Press another in the Frame to choose it.</source>
        <translation>Von hier an drei Sekunden lang auf „{name}“ blicken. Ein anderes im Sucher drücken, um es zu wählen.</translation>
    </message>
    <message>
        <source>Press an object in the Frame to choose it; then the walk looks at it from here on, for three seconds.</source>
        <translation>Ein Objekt im Sucher drücken, um es zu wählen; dann blickt der Rundgang von hier an drei Sekunden darauf.</translation>
    </message>
    <message>
        <source>Choose an object first: press on it in the Frame.</source>
        <translation>Erst ein Objekt wählen: im Sucher darauf drücken.</translation>
    </message>
    <message>
        <source>The walk stands still there. Choose a moment at which it walks.</source>
        <translation>Der Rundgang steht dort still. Wählen Sie einen Moment, in dem er geht.</translation>
    </message>
    <message>
        <source>Span of looking</source>
        <translation>Abschnitt des Blicks</translation>
    </message>
    <message>
        <source>A turntable looks at its middle. Choose a walk, then say what it looks at.</source>
        <translation>Eine Umrundung blickt auf ihre Mitte. Wählen Sie einen Rundgang und sagen Sie dann, wohin er blickt.</translation>
    </message>
    <message>
        <source>Look all along</source>
        <translation>Die ganze Zeit blicken</translation>
    </message>
    <message>
        <source>the building</source>
        <translation>das Gebäude</translation>
    </message>
    <message>
        <source>New: look ahead here</source>
        <translation>Neu: hier vorausblicken</translation>
    </message>
    <message>
        <source>New: look as keyed here</source>
        <translation>Neu: hier nach Vorgabe blicken</translation>
    </message>
    <message>
        <source>All along: the building</source>
        <translation>Die ganze Zeit: das Gebäude</translation>
    </message>
    <message>
        <source>All along: the chosen object</source>
        <translation>Die ganze Zeit: das gewählte Objekt</translation>
    </message>
    <message>
        <source>Move on to the chosen object</source>
        <translation>Weiter zum gewählten Objekt</translation>
    </message>
    <message>
        <source>Stay at one point</source>
        <translation>An einem Punkt bleiben</translation>
    </message>
    <message>
        <source>Look at one point</source>
        <translation>Auf einen Punkt blicken</translation>
    </message>
    <message>
        <source>Remove this span</source>
        <translation>Diesen Abschnitt entfernen</translation>
    </message>
    <message>
        <source>a point</source>
        <translation>ein Punkt</translation>
    </message>
    <message>
        <source>Look at a moving point</source>
        <translation>Auf einen wandernden Punkt blicken</translation>
    </message>
    <message>
        <source>{first}, on to {middle}</source>
        <translation>{first}, weiter zu {middle}</translation>
    </message>
    <message>
        <source>Remove span of looking</source>
        <translation>Abschnitt des Blicks entfernen</translation>
    </message>
    <message>
        <source>as keyed</source>
        <translation>nach Vorgabe</translation>
    </message>
    <message numerus="yes">
        <source>{way}, %n spans</source>
        <translation>
            <numerusform>{way}, %n Abschnitt</numerusform>
            <numerusform>{way}, %n Abschnitte</numerusform>
        </translation>
    </message>
    <message>
        <source>‹ Before</source>
        <translation>‹ Davor</translation>
    </message>
    <message>
        <source>The place before (key Down in the timeline)</source>
        <translation>Der Ort davor (Taste Ab in der Zeitleiste)</translation>
    </message>
    <message>
        <source>Next ›</source>
        <translation>Danach ›</translation>
    </message>
    <message>
        <source>The next place (key Up in the timeline)</source>
        <translation>Der nächste Ort (Taste Auf in der Zeitleiste)</translation>
    </message>
    <message>
        <source>Dwell</source>
        <translation>Verweilen</translation>
    </message>
    <message>
        <source>Pause here for so long</source>
        <translation>So lange hier verweilen</translation>
    </message>
    <message>
        <source>Passed at</source>
        <translation>Erreicht bei</translation>
    </message>
    <message>
        <source>The second at which the walk comes here; typed, it stays there</source>
        <translation>Die Sekunde, bei der der Rundgang hierher kommt; eingegeben bleibt sie</translation>
    </message>
    <message>
        <source>Second of a place</source>
        <translation>Sekunde eines Orts</translation>
    </message>
    <message>
        <source>by pace</source>
        <translation>nach Tempo</translation>
    </message>
    <message>
        <source>Let the pace decide when the walk comes here</source>
        <translation>Das Tempo entscheiden lassen, wann der Rundgang hierher kommt</translation>
    </message>
    <message>
        <source>Second by pace</source>
        <translation>Sekunde nach Tempo</translation>
    </message>
    <message>
        <source>The route passes smoothly</source>
        <translation>Die Route geht glatt durch</translation>
    </message>
    <message>
        <source>With an even curvature: along the circle through the places beside it</source>
        <translation>Mit gleichmäßiger Krümmung: auf dem Kreis durch die Orte daneben</translation>
    </message>
    <message>
        <source>Straight in and straight out</source>
        <translation>Gerade hinein und gerade hinaus</translation>
    </message>
    <message>
        <source>Bend</source>
        <translation>Bogen</translation>
    </message>
    <message>
        <source>Turns here the long way round</source>
        <translation>Lang herum drehen</translation>
    </message>
    <message>
        <source>Where the walk looks as keyed: round the other side, not the short way</source>
        <translation>Wo der Rundgang nach Vorgabe blickt: anders herum, nicht auf dem kurzen Weg</translation>
    </message>
    <message>
        <source>Way of turning</source>
        <translation>Drehsinn</translation>
    </message>
    <message>
        <source>Eye over storey</source>
        <translation>Auge über Geschoss</translation>
    </message>
    <message>
        <source>Height of the eye above the floor of its storey; set by hand where the walk does not follow the floor</source>
        <translation>Höhe des Auges über dem Boden seines Geschosses; von Hand, wo der Rundgang nicht dem Boden folgt</translation>
    </message>
    <message>
        <source>Take the chosen places out of the route (key Delete in the timeline)</source>
        <translation>Die gewählten Orte aus der Route nehmen (Entf in der Zeitleiste)</translation>
    </message>
    <message>
        <source>Copy, put in ▾</source>
        <translation>Kopieren ▾</translation>
    </message>
    <message>
        <source>Copied places: put in, or their camera only</source>
        <translation>Kopierte Orte: einsetzen, oder nur ihre Kamera</translation>
    </message>
    <message>
        <source>Remove places</source>
        <translation>Orte entfernen</translation>
    </message>
    <message>
        <source>Remove place</source>
        <translation>Ort entfernen</translation>
    </message>
    <message>
        <source>Copy	Ctrl+C</source>
        <translation>Kopieren	Strg+C</translation>
    </message>
    <message>
        <source>Put in behind	Ctrl+V</source>
        <translation>Dahinter einsetzen	Strg+V</translation>
    </message>
    <message>
        <source>Their camera only	Ctrl+Shift+V</source>
        <translation>Nur ihre Kamera	Strg+Umschalt+V</translation>
    </message>
    <message>
        <source>Choose all	Ctrl+A</source>
        <translation>Alle wählen	Strg+A</translation>
    </message>
    <message>
        <source>{chosen} of {count}</source>
        <translation>{chosen} von {count}</translation>
    </message>
    <message>
        <source>{index} of {count}</source>
        <translation>{index} von {count}</translation>
    </message>
    <message>
        <source>none of {count} chosen</source>
        <translation>keiner von {count} gewählt</translation>
    </message>
    <message>
        <source>{now:.2f} s of {whole:g} s · frame {number}</source>
        <extracomment>The walk that was played last.</extracomment>
        <translation>{now:.2f} s von {whole:g} s · Bild {number}</translation>
    </message>
    <message>
        <source>Play or stop, at the real rate (Space)</source>
        <translation>Abspielen oder anhalten, in echtem Tempo (Leertaste)</translation>
    </message>
    <message>
        <source>Moment</source>
        <translation>Moment</translation>
    </message>
    <message>
        <source>The moment shown; drag to scrub</source>
        <translation>Der gezeigte Moment; ziehen, um zu fahren</translation>
    </message>
    <message>
        <source>Loop</source>
        <translation>Schleife</translation>
    </message>
    <message>
        <source>Begin anew at the end; with several places chosen, between the first and the last of them</source>
        <translation>Am Ende neu beginnen; sind mehrere Orte gewählt, zwischen dem ersten und dem letzten davon</translation>
    </message>
    <message>
        <source>Handle of a place</source>
        <extracomment>The stretch that is pulled at: its number, and the share of it that is held. Which parts of the route lie on the storey shown, and of what that holds.</extracomment>
        <translation>Griff eines Orts</translation>
    </message>
    <message>
        <source>Bend the route</source>
        <translation>Weg biegen</translation>
    </message>
    <message>
        <source>Move place</source>
        <translation>Ort bewegen</translation>
    </message>
    <message>
        <source>Handle by itself</source>
        <translation>Griff von selbst</translation>
    </message>
    <message>
        <source>New place</source>
        <translation>Neuer Ort</translation>
    </message>
    <message>
        <source>Route</source>
        <translation>Route</translation>
    </message>
    <message>
        <source>Height of the eye above the floor under the route; stairs become ramps</source>
        <translation>Höhe des Auges über dem Boden unter der Route; Treppen werden Rampen</translation>
    </message>
    <message>
        <source>Walk eye height</source>
        <translation>Augenhöhe des Rundgangs</translation>
    </message>
    <message>
        <source>Over the floor</source>
        <translation>Über dem Boden</translation>
    </message>
    <message>
        <source>The eye keeps its height over the floor under it; stairs become ramps</source>
        <translation>Das Auge hält seine Höhe über dem Boden darunter; Treppen werden Rampen</translation>
    </message>
    <message>
        <source>As set</source>
        <translation>Wie gesetzt</translation>
    </message>
    <message>
        <source>Each place has its own height; lift places in the long section</source>
        <translation>Jeder Ort hat seine eigene Höhe; Orte im Längsschnitt heben</translation>
    </message>
    <message>
        <source>Heights</source>
        <translation>Höhen</translation>
    </message>
    <message>
        <source>Verticals stay upright throughout: tilt becomes rise</source>
        <translation>Senkrechte bleiben durchweg aufrecht: Neigung wird Hochversatz</translation>
    </message>
    <message>
        <source>Reverse</source>
        <translation>Umkehren</translation>
    </message>
    <message>
        <source>Walk the route the other way</source>
        <translation>Die Route andersherum gehen</translation>
    </message>
    <message>
        <source>Remove this walk; undo brings it back</source>
        <translation>Diesen Rundgang entfernen; Widerrufen bringt ihn zurück</translation>
    </message>
    <message>
        <source>More ▾</source>
        <translation>Mehr ▾</translation>
    </message>
    <message>
        <source>Rename, duplicate, part, join, lock</source>
        <translation>Umbenennen, verdoppeln, teilen, verbinden, sperren</translation>
    </message>
    <message>
        <source>Part at the chosen place</source>
        <translation>Am gewählten Ort teilen</translation>
    </message>
    <message>
        <source>Join with {name}</source>
        <translation>Mit {name} verbinden</translation>
    </message>
    <message>
        <source>Unlock</source>
        <translation>Entsperren</translation>
    </message>
    <message>
        <source>Lock</source>
        <translation>Sperren</translation>
    </message>
    <message>
        <source>Unlock walk</source>
        <translation>Rundgang entsperren</translation>
    </message>
    <message>
        <source>Lock walk</source>
        <translation>Rundgang sperren</translation>
    </message>
    <message>
        <source>Rename walk</source>
        <translation>Rundgang umbenennen</translation>
    </message>
    <message>
        <source>Duplicate walk</source>
        <translation>Rundgang verdoppeln</translation>
    </message>
    <message>
        <source>Part walk</source>
        <translation>Rundgang teilen</translation>
    </message>
    <message>
        <source>Join walks</source>
        <translation>Rundgänge verbinden</translation>
    </message>
    <message>
        <source>Reverse walk</source>
        <translation>Rundgang umkehren</translation>
    </message>
    <message>
        <source>Remove walk</source>
        <translation>Rundgang entfernen</translation>
    </message>
    <message>
        <source>{eye_height_m} over the floor</source>
        <translation>{eye_height_m} über dem Boden</translation>
    </message>
    <message>
        <source>heights as set</source>
        <translation>Höhen wie gesetzt</translation>
    </message>
    <message>
        <source>Film size</source>
        <translation>Filmgröße</translation>
    </message>
    <message>
        <source>{wide} × {high}, {rate} a s</source>
        <translation>{wide} × {high}, {rate} je s</translation>
    </message>
    <message>
        <source>A film of this walk, or of a part of it, in the background (key Ctrl+E)</source>
        <translation>Ein Film dieses Rundgangs, oder eines Teils davon, im Hintergrund (Strg+E)</translation>
    </message>
    <message>
        <source>Centre of a turntable</source>
        <translation>Mitte einer Umrundung</translation>
    </message>
    <message>
        <source>Radius and begin</source>
        <translation>Radius und Beginn</translation>
    </message>
    <message>
        <source>Sweep</source>
        <translation>Umlauf</translation>
    </message>
    <message>
        <source>Choose places in the timeline and copy them (Control C), then choose where they go.</source>
        <translation>Orte in der Zeitleiste wählen und kopieren (Strg C), dann wählen, wohin sie gehen.</translation>
    </message>
    <message>
        <source>Camera of a place</source>
        <translation>Kamera eines Orts</translation>
    </message>
    <message>
        <source>Put in places</source>
        <translation>Orte einsetzen</translation>
    </message>
    <message>
        <source>Drag to scrub; press a flag or a place to go there; the wheel zooms</source>
        <extracomment>How near, in pixels, a press must come to a flag or a place. With Control: choose all, copy, put in; with Shift too the camera only. The place whose second is dragged, from where, and whether it has moved.</extracomment>
        <translation>Ziehen fährt; auf eine Fahne oder einen Ort drücken geht dorthin; das Rad vergrößert</translation>
    </message>
    <message>
        <source>Looks {look_words}. Drag it, or its ends</source>
        <translation>Blickt {look_words}. Ziehen, oder an den Enden</translation>
    </message>
    <message>
        <source>Timeline</source>
        <extracomment>The lane of looking, above the places. The timeline shows at least so much of a walk, in seconds. What lies behind the line of the moment, and what it shows. The place that was chosen last, and all that are chosen. The part of the walk that is shown, seconds.</extracomment>
        <translation>Zeitleiste</translation>
    </message>
    <message>
        <source>pace</source>
        <translation>Tempo</translation>
    </message>
    <message>
        <source>turning</source>
        <translation>Drehung</translation>
    </message>
    <message>
        <source>looking</source>
        <translation>Blick</translation>
    </message>
    <message>
        <source>places</source>
        <translation>Orte</translation>
    </message>
    <message>
        <source>at {name}</source>
        <translation>auf {name}</translation>
    </message>
    <message>
        <source>at a moving point from {x:.1f}, {y:.1f}, {z:.1f}</source>
        <translation>auf einen wandernden Punkt ab {x:.1f}, {y:.1f}, {z:.1f}</translation>
    </message>
    <message>
        <source>at {x:.1f}, {y:.1f}, {z:.1f}</source>
        <translation>auf {x:.1f}, {y:.1f}, {z:.1f}</translation>
    </message>
    <message>
        <source>Another rate…</source>
        <extracomment>The last entry of the rates: one that is typed.</extracomment>
        <translation>Andere Rate…</translation>
    </message>
    <message>
        <source>Timing</source>
        <translation>Zeiten</translation>
    </message>
    <message>
        <source>Length</source>
        <translation>Länge</translation>
    </message>
    <message>
        <source>Length of the film in seconds; the pace follows</source>
        <translation>Länge des Films in Sekunden; das Tempo folgt</translation>
    </message>
    <message>
        <source>Walk length</source>
        <translation>Länge des Rundgangs</translation>
    </message>
    <message>
        <source>Pace</source>
        <translation>Tempo</translation>
    </message>
    <message>
        <source>Metres a second between eases and pauses; the length follows</source>
        <translation>Meter je Sekunde zwischen Anfahren und Verweilen; die Länge folgt</translation>
    </message>
    <message>
        <source>Film frames a second</source>
        <translation>Filmbilder je Sekunde</translation>
    </message>
    <message>
        <source>Film frames a second; changing it keeps the seconds</source>
        <translation>Filmbilder je Sekunde; sie zu ändern lässt die Sekunden stehen</translation>
    </message>
    <message>
        <source>Rate</source>
        <translation>Rate</translation>
    </message>
    <message>
        <source>How many film frames at this rate; the length follows</source>
        <translation>Wie viele Filmbilder bei dieser Rate; die Länge folgt</translation>
    </message>
    <message>
        <source>Ease in</source>
        <translation>Anfahren</translation>
    </message>
    <message>
        <source>Setting off takes so long</source>
        <translation>So lange dauert das Losgehen</translation>
    </message>
    <message>
        <source>Ease out</source>
        <translation>Auslaufen</translation>
    </message>
    <message>
        <source>Coming to rest takes so long</source>
        <translation>So lange dauert das Anhalten</translation>
    </message>
    <message>
        <source>Ease in, out</source>
        <translation>An-, auslaufen</translation>
    </message>
    <message>
        <source>Film frames a second, such as 20 or 24000/1001</source>
        <translation>Filmbilder je Sekunde, wie 20 oder 24000/1001</translation>
    </message>
    <message>
        <source>Walk rate</source>
        <translation>Rate des Rundgangs</translation>
    </message>
    <message>
        <source>Walk pace</source>
        <translation>Tempo des Rundgangs</translation>
    </message>
    <message>
        <source>{seconds:.6g} s, held</source>
        <translation>{seconds:.6g} s, fest</translation>
    </message>
    <message>
        <source>{count} film frames, {step:.2f}° each; the last is one step before the first.</source>
        <translation>{count} Filmbilder, je {step:.2f}°; das letzte liegt einen Schritt vor dem ersten.</translation>
    </message>
    <message>
        <source>The route is {length_m}, walked at {pace_m_s:.2f} m/s.</source>
        <translation>Die Route ist {length_m} lang, gegangen mit {pace_m_s:.2f} m/s.</translation>
    </message>
    <message>
        <source>Turntable</source>
        <translation>Umrundung</translation>
    </message>
    <message>
        <source>Radius</source>
        <translation>Radius</translation>
    </message>
    <message>
        <source>Metres from the centre</source>
        <translation>Meter von der Mitte</translation>
    </message>
    <message>
        <source>Height of the eye above zero</source>
        <translation>Höhe des Auges über null</translation>
    </message>
    <message>
        <source>Begins at</source>
        <translation>Beginnt bei</translation>
    </message>
    <message>
        <source>Where it begins, seen from the centre: 180° is south</source>
        <translation>Wo sie beginnt, von der Mitte aus gesehen: 180° ist Süden</translation>
    </message>
    <message>
        <source>How far it goes, clockwise where positive</source>
        <translation>Wie weit sie geht, im Uhrzeigersinn positiv</translation>
    </message>
    <message>
        <source>At the centre</source>
        <translation>Zur Mitte</translation>
    </message>
    <message>
        <source>Tilted so that the centre lies in the middle</source>
        <translation>So geneigt, dass die Mitte in der Bildmitte liegt</translation>
    </message>
    <message>
        <source>Level</source>
        <translation>Waagrecht</translation>
    </message>
    <message>
        <source>Level, whatever the height</source>
        <translation>Waagrecht, wie hoch auch immer</translation>
    </message>
    <message>
        <source>Eight stops as cameras</source>
        <translation>Acht Halte als Kameras</translation>
    </message>
    <message>
        <source>Keep eight even stops of this turntable as cameras</source>
        <translation>Acht gleichmäßige Halte dieser Umrundung als Kameras behalten</translation>
    </message>
    <message>
        <source>Stops as cameras</source>
        <translation>Halte als Kameras</translation>
    </message>
    <message>
        <source>Press places on the plan one after the other; Return ends the route, Escape drops it (key R)</source>
        <translation>Orte im Grundriss nacheinander drücken; Eingabe beendet die Route, Esc verwirft sie (Taste R)</translation>
    </message>
    <message>
        <source>A walk through the cameras chosen in the strip, in the order they were chosen (Control-press adds one)</source>
        <translation>Ein Rundgang durch die im Streifen gewählten Kameras, in der Folge ihrer Wahl (Strg und Drücken nimmt eine dazu)</translation>
    </message>
    <message>
        <source>Turntable: whole building</source>
        <translation>Umrundung: ganzes Gebäude</translation>
    </message>
    <message>
        <source>Round the chosen object, or the whole building where none is: closes without a repeated frame. Press an object in the Frame to choose it</source>
        <translation>Um das gewählte Objekt, oder um das ganze Gebäude, wo keines gewählt ist: schließt ohne doppeltes Bild. Ein Objekt im Sucher drücken, um es zu wählen</translation>
    </message>
    <message>
        <source>Up the chosen stair</source>
        <translation>Gewählte Treppe hinauf</translation>
    </message>
    <message>
        <source>A walk up the chosen object, a stair of any shape, at the eye&apos;s height over its treads, from floor to floor. Press a stair in the Frame to choose it</source>
        <translation>Ein Rundgang das gewählte Objekt hinauf, eine Treppe jeder Form, in Augenhöhe über ihren Stufen, von Boden zu Boden. Eine Treppe wird mit einem Druck im Sucher gewählt</translation>
    </message>
    <message>
        <source>WALKS AND TURNTABLES</source>
        <extracomment>Fills the menu of a walk that is pressed with the right button.</extracomment>
        <translation>RUNDGÄNGE</translation>
    </message>
    <message>
        <source>There is no floor here to walk on. Press a place on the building or the ground around it.</source>
        <translation>Hier ist kein Boden zum Gehen. Drücken Sie auf das Gebäude oder das Gelände darum.</translation>
    </message>
    <message>
        <source>Choose the stair first: press it in the Frame, or find it by its name.</source>
        <translation>Zuerst die Treppe wählen: im Sucher auf sie drücken oder sie mit ihrem Namen finden.</translation>
    </message>
    <message>
        <source>Add walk</source>
        <translation>Rundgang hinzufügen</translation>
    </message>
    <message>
        <source>No walks yet.</source>
        <translation>Noch keine Rundgänge.</translation>
    </message>
    <message>
        <source> · locked</source>
        <translation> · gesperrt</translation>
    </message>
    <message>
        <source>{name}: {facts}, {rate} film frames a second</source>
        <translation>{name}: {facts}, {rate} Filmbilder je Sekunde</translation>
    </message>
    <message>
        <source>Plan</source>
        <comment>button</comment>
        <translation>Plan</translation>
    </message>
    <message>
        <source>Show its route on the plan while another walk is worked on, or not</source>
        <translation>Seine Route im Grundriss zeigen, während an einem anderen Rundgang gearbeitet wird, oder nicht</translation>
    </message>
    <message>
        <source>Show the route of {name} on the plan</source>
        <translation>Die Route von {name} im Grundriss zeigen</translation>
    </message>
    <message numerus="yes">
        <source>%n places</source>
        <translation>
            <numerusform>%n Ort</numerusform>
            <numerusform>%n Orte</numerusform>
        </translation>
    </message>
    <message>
        <source>Hide route</source>
        <translation>Route verbergen</translation>
    </message>
    <message>
        <source>Show route</source>
        <translation>Route zeigen</translation>
    </message>
    <message>
        <source>Turntable: {name}</source>
        <translation>Umrundung: {name}</translation>
    </message>
    <message>
        <source>Up: {name}</source>
        <translation>Hinauf: {name}</translation>
    </message>
    <message numerus="yes">
        <source>%n places. Press the next one on the plan; Return ends the route.</source>
        <translation>
            <numerusform>%n Ort. Den nächsten im Grundriss drücken; Eingabe beendet die Route.</numerusform>
            <numerusform>%n Orte. Den nächsten im Grundriss drücken; Eingabe beendet die Route.</numerusform>
        </translation>
    </message>
    <message>
        <source>Press the first place on the plan.</source>
        <translation>Den ersten Ort im Grundriss drücken.</translation>
    </message>
    <message numerus="yes">
        <source>%n cameras are chosen.</source>
        <translation>
            <numerusform>%n Kamera ist gewählt.</numerusform>
            <numerusform>%n Kameras sind gewählt.</numerusform>
        </translation>
    </message>
    <message>
        <source>Or choose several cameras in Compose with Control.</source>
        <translation>Oder unter Gestalten mit Strg mehrere Kameras wählen.</translation>
    </message>
    <message>
        <source>{name} has not been looked at yet. Wait for its picture.</source>
        <extracomment>So many checks are kept for one camera, and so many orders are remembered. A few checks for each camera, newest last: the camera as it stands, and the views loose from it.</extracomment>
        <translation>{name} wurde noch nicht angesehen. Warten Sie auf das Bild.</translation>
    </message>
    <message>
        <source>The part of Altana for {name} ended twice at the same thing, which is left off. Nothing is lost; try it again later.</source>
        <extracomment>A child that dies this often in a row is given up: something on this machine kills it each time. One that lived this long did not die in a row. An order at which the child died is tried so often. The child died too often and does nothing any more. Lasting orders by channel, until they are answered.</extracomment>
        <translation>Der Teil von Altana für {name} endete zweimal bei derselben Sache, die nun ausgelassen wird. Nichts ist verloren; versuchen Sie es später wieder.</translation>
    </message>
    <message>
        <source>Something went wrong. What was open is kept as it was before; try it another way.</source>
        <extracomment>A fault that comes again at every move of the pointer is logged this often. What was said before no longer counts: another project is open. Whether something said still stands.</extracomment>
        <translation>Etwas ist schiefgegangen. Was offen war, ist geblieben, wie es vorher war; versuchen Sie es anders.</translation>
    </message>
    <message>
        <source>“{name}” stands {there} now; its exposure and name are still of {other}.</source>
        <extracomment>A name as Altana gives it: a place, a direction, and perhaps a number.</extracomment>
        <translation>„{name}“ steht jetzt {there}; Belichtung und Name sind noch die von {other}.</translation>
    </message>
    <message>
        <source>“{name}” stands {there} now; its exposure, group and name are still of {other}.</source>
        <translation>„{name}“ steht jetzt {there}; Belichtung, Gruppe und Name sind noch die von {other}.</translation>
    </message>
    <message>
        <source>“{name}” stands {there} now; its exposure is still of {other}.</source>
        <translation>„{name}“ steht jetzt {there}; die Belichtung ist noch die von {other}.</translation>
    </message>
    <message>
        <source>“{name}” stands {there} now; its exposure and group are still of {other}.</source>
        <translation>„{name}“ steht jetzt {there}; Belichtung und Gruppe sind noch die von {other}.</translation>
    </message>
    <message>
        <source>inside</source>
        <translation>innen</translation>
    </message>
    <message>
        <source>outside</source>
        <translation>außen</translation>
    </message>
    <message>
        <source>Take those of {there}</source>
        <translation>Die von {there} nehmen</translation>
    </message>
    <message>
        <source>Nothing</source>
        <extracomment>What happens when all is made.</extracomment>
        <translation>Nichts</translation>
    </message>
    <message>
        <source>Say so</source>
        <translation>Bescheid sagen</translation>
    </message>
    <message>
        <source>Close Altana</source>
        <translation>Altana schließen</translation>
    </message>
    <message>
        <source>Switch the machine off</source>
        <translation>Rechner ausschalten</translation>
    </message>
    <message>
        <source>Run a command…</source>
        <translation>Befehl ausführen…</translation>
    </message>
    <message numerus="yes">
        <source> %n were set aside.</source>
        <extracomment>What is written into the job&apos;s folder once somebody has seen its end.</extracomment>
        <translation>
            <numerusform> %n wurde beiseite gelegt.</numerusform>
            <numerusform> %n wurden beiseite gelegt.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n files made in {out}.{more}{off}</source>
        <translation>
            <numerusform>%n Datei in {out} gemacht.{more}{off}</numerusform>
            <numerusform>%n Dateien in {out} gemacht.{more}{off}</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Stopped. %n files were finished; what was made is kept in {out}.</source>
        <translation>
            <numerusform>Angehalten. %n Datei wurde fertig; was gemacht ist, bleibt in {out}.</numerusform>
            <numerusform>Angehalten. %n Dateien wurden fertig; was gemacht ist, bleibt in {out}.</numerusform>
        </translation>
    </message>
    <message>
        <source>The run came to a sudden end. What was made is kept; it can go on where it was.</source>
        <translation>Der Lauf kam zu einem plötzlichen Ende. Was gemacht ist, bleibt; er kann weitergehen, wo er war.</translation>
    </message>
    <message>
        <source>The part of Altana for {name} ended again and again and is left off. Nothing is lost: save the project and start Altana anew.</source>
        <extracomment>The models could not be opened; what is open stays. An order came to nothing: its channel, its revision and its Failure. The light of a picture&apos;s places, by its channel: how far it has come; whether more is to be seen. The models of an opening, by its number, were read: they are kept now, and whoever else reads them has them at once. Finds objects by what names them: known a moment before the scene is. Lights beside the project&apos;s that were asked for, and those that are known.</extracomment>
        <translation>Der Teil von Altana für {name} endete immer wieder und wird ausgelassen. Nichts ist verloren: sichern Sie das Projekt und starten Sie Altana neu.</translation>
    </message>
    <message numerus="yes">
        <source>%n files made in {out}{checked}</source>
        <extracomment>How it is drawn instead of as its row of the shot list says; empty: as that says. Largest width and height, where they are not the camera&apos;s own. The file&apos;s name without its kind, where it is not the camera&apos;s; whether it is listed among what was made. Whether the last job made pictures or films, which are among the results.</extracomment>
        <translation>
            <numerusform>%n Datei in {out} gemacht{checked}</numerusform>
            <numerusform>%n Dateien in {out} gemacht{checked}</numerusform>
        </translation>
    </message>
    <message>
        <source>The job came to a sudden end. Pictures made before are kept; start it again.</source>
        <translation>Die Arbeit kam zu einem plötzlichen Ende. Vorher gemachte Bilder bleiben; beginnen Sie sie neu.</translation>
    </message>
    <message>
        <source>. Differs: {differs}</source>
        <translation>. Weicht ab: {differs}</translation>
    </message>
    <message>
        <source>. Checked: {frames} film frames, {seconds:.2f} s at {rate}, like the Frame</source>
        <translation>. Geprüft: {frames} Filmbilder, {seconds:.2f} s bei {rate}, wie der Sucher</translation>
    </message>
    <message numerus="yes">
        <source>. %n films checked</source>
        <translation>
            <numerusform>. %n Film geprüft</numerusform>
            <numerusform>. %n Filme geprüft</numerusform>
        </translation>
    </message>
    <message>
        <source>{low} to {high}</source>
        <translation>{low} bis {high}</translation>
    </message>
    <message>
        <source>about {time}</source>
        <translation>etwa {time}</translation>
    </message>
    <message>
        <source>A small one of the first, {test_px} px at most, shown here; this sheet stays open</source>
        <extracomment>The picture lies in a field of this size. Whether one is being made, and the last that was.</extracomment>
        <translation>Eine kleine vom ersten, höchstens {test_px} px, hier gezeigt; dieses Blatt bleibt offen</translation>
    </message>
    <message>
        <source>Make a test</source>
        <translation>Probe machen</translation>
    </message>
    <message>
        <source>The test is being made…</source>
        <translation>Die Probe wird gemacht…</translation>
    </message>
    <message>
        <source>The test: {name}</source>
        <translation>Die Probe: {name}</translation>
    </message>
    <message>
        <source>d MMMM HH:mm:ss</source>
        <extracomment>The languages there are, each by its own name. Where the choice is kept; empty follows the desktop. Sentences from behind the window stand in this context of the catalogue. Patterns of sentences from behind, by the word they begin with; those that begin with a place under an empty one. What the window speaks. A moment in Qt&apos;s letters for day, month and time of day, as dates are written in the language.</extracomment>
        <translation>d. MMMM HH:mm:ss</translation>
    </message>
    <message>
        <source>d MMM HH:mm</source>
        <translation>d. MMM HH:mm</translation>
    </message>
</context>
<context>
    <name>Behind</name>
    <message>
        <source>{0} The far wall&apos;s {1} {2} out of the picture however far back: change tilt or shift.</source>
        <translation>{0} {1} der fernen Wand {2} außerhalb des Bildes, wie weit zurück auch immer: Neigung oder Versatz ändern.</translation>
    </message>
    <message>
        <source>a wall cut lies on it{0}</source>
        <translation>ein Wandschnitt liegt darauf{0}</translation>
    </message>
    <message>
        <source>left end</source>
        <translation>linkes Ende</translation>
    </message>
    <message>
        <source>right end</source>
        <translation>rechtes Ende</translation>
    </message>
    <message>
        <source>It fits already; the camera was not moved.</source>
        <translation>Es passt schon; die Kamera wurde nicht bewegt.</translation>
    </message>
    <message>
        <source>There is no wall ahead whose width could be wanted.</source>
        <translation>Voraus ist keine Wand, deren Breite gewünscht sein könnte.</translation>
    </message>
    <message>
        <source>The wall ahead is {0} m wide; a width of {1} m does not fit on it.</source>
        <translation>Die Wand voraus ist {0} m breit; eine Breite von {1} m passt nicht darauf.</translation>
    </message>
    <message>
        <source>hides nearer than {0} m{1}</source>
        <translation>verbirgt Näheres als {0} m{1}</translation>
    </message>
    <message>
        <source> and {0} more</source>
        <translation> und {0} weitere</translation>
    </message>
    <message>
        <source>Stepped back {0} m and still inside: nothing needs to be cut away.</source>
        <translation>{0} m zurückgetreten und noch drinnen: nichts muss weggeschnitten werden.</translation>
    </message>
    <message>
        <source>Stands {0} m behind the inner face of “{1}”; {2}, fixed in the building.</source>
        <translation>Steht {0} m hinter der Innenseite von „{1}“; {2}, im Gebäude fest.</translation>
    </message>
    <message>
        <source>The amount of plumb lies between 0 and 1.</source>
        <translation>Das Maß des Lots liegt zwischen 0 und 1.</translation>
    </message>
    <message>
        <source>Plumb would shift the lens {0}° off its axis; more than {1}° makes no usable picture. Tilt less, or plumb by a smaller amount.</source>
        <translation>Lotrecht würde das Objektiv um {0}° aus der Achse versetzen; mehr als {1}° gibt kein brauchbares Bild. Neigen Sie weniger, oder nehmen Sie ein kleineres Maß.</translation>
    </message>
    <message>
        <source>A camera without a direction cannot be taken.</source>
        <translation>Eine Kamera ohne Richtung lässt sich nicht übernehmen.</translation>
    </message>
    <message>
        <source>The eye and the aim are the same point.</source>
        <translation>Auge und Ziel sind derselbe Punkt.</translation>
    </message>
    <message>
        <source>An angle of view lies between 0° and 180°.</source>
        <translation>Ein Bildwinkel liegt zwischen 0° und 180°.</translation>
    </message>
    <message>
        <source>Focal length and sensor width are greater than zero.</source>
        <translation>Brennweite und Sensorbreite sind größer als null.</translation>
    </message>
    <message>
        <source>Cap the cut</source>
        <translation>Schnitt füllen</translation>
    </message>
    <message>
        <source>Leave the objects out</source>
        <translation>Objekte weglassen</translation>
    </message>
    <message>
        <source>Move the bound clear</source>
        <translation>Grenze frei stellen</translation>
    </message>
    <message>
        <source>Make it a wall cut</source>
        <translation>Zum Wandschnitt machen</translation>
    </message>
    <message>
        <source>Panel across the gaps</source>
        <translation>Lücken mit Platten schließen</translation>
    </message>
    <message>
        <source>Ground to the horizon</source>
        <translation>Gelände bis zum Horizont</translation>
    </message>
    <message>
        <source>Show all beyond</source>
        <translation>Alles dahinter zeigen</translation>
    </message>
    <message>
        <source>Move the far bound back</source>
        <translation>Ferne Grenze zurück</translation>
    </message>
    <message>
        <source>Calmer lens</source>
        <translation>Ruhigeres Objektiv</translation>
    </message>
    <message>
        <source>Onto the floor</source>
        <translation>Auf den Boden</translation>
    </message>
    <message>
        <source>Go there</source>
        <translation>Dorthin</translation>
    </message>
    <message>
        <source>{0} % of the frame shows cut faces of {1}{2}.</source>
        <translation>{0} % des Bildes zeigen Schnittflächen von {1}{2}.</translation>
    </message>
    <message>
        <source>{0} % of the frame looks out through holes that are not glazed.</source>
        <translation>{0} % des Bildes blicken durch Löcher hinaus, die nicht verglast sind.</translation>
    </message>
    <message>
        <source>The ground ends in view: {0} % of the frame below the horizon is empty.</source>
        <translation>Das Gelände endet im Bild: {0} % des Bildes unter dem Horizont sind leer.</translation>
    </message>
    <message>
        <source>Vertical edges deviate by up to {0} px from vertical.</source>
        <translation>Senkrechte Kanten weichen bis zu {0} px von der Senkrechten ab.</translation>
    </message>
    <message>
        <source>The far bound takes {0} objects out of the picture; {1} is back at {2} m.</source>
        <translation>Die ferne Grenze nimmt {0} Objekte aus dem Bild; {1} ist ab {2} m wieder da.</translation>
    </message>
    <message>
        <source>{0} % cut faces</source>
        <translation>{0} % Schnittflächen</translation>
    </message>
    <message>
        <source>edge stretch ×{0}</source>
        <translation>Randzug ×{0}</translation>
    </message>
    <message>
        <source>The corners are drawn out ×{0}.</source>
        <translation>Die Ecken sind ×{0} verzogen.</translation>
    </message>
    <message>
        <source>{0} % through a gap</source>
        <translation>{0} % durch eine Lücke</translation>
    </message>
    <message>
        <source>ground ends in view</source>
        <translation>Gelände endet im Bild</translation>
    </message>
    <message>
        <source>verticals {0} px off</source>
        <translation>Senkrechte {0} px daneben</translation>
    </message>
    <message>
        <source>far bound cuts {0} %</source>
        <translation>ferne Grenze schneidet {0} %</translation>
    </message>
    <message>
        <source>{0}: altered, {1} % of the picture</source>
        <translation>{0}: geändert, {1} % des Bildes</translation>
    </message>
    <message>
        <source>{0}: {1}, {2} % of the picture</source>
        <translation>{0}: {1}, {2} % des Bildes</translation>
    </message>
    <message>
        <source>Light fixture</source>
        <translation>Leuchte</translation>
    </message>
    <message>
        <source>square to the building</source>
        <translation>quer zum Gebäude</translation>
    </message>
    <message>
        <source>tilt {0}° off two-point</source>
        <translation>Neigung {0}° neben zwei Fluchtpunkten</translation>
    </message>
    <message>
        <source>roll {0}° off level</source>
        <translation>Verkantung {0}° neben waagrecht</translation>
    </message>
    <message>
        <source>turn {0}° for one-point</source>
        <translation>{0}° drehen für einen Fluchtpunkt</translation>
    </message>
    <message>
        <source>no main direction</source>
        <translation>keine Hauptrichtung</translation>
    </message>
    <message>
        <source>The model has {0} million triangles; sun and shadow are exact, the soft light of the sky is estimated.</source>
        <translation>Das Modell hat {0} Millionen Dreiecke; Sonne und Schatten sind genau, das weiche Licht des Himmels ist geschätzt.</translation>
    </message>
    <message>
        <source>{0} objects lie</source>
        <translation>{0} Objekte liegen</translation>
    </message>
    <message>
        <source>{0} more than a kilometre from everything else.</source>
        <translation>{0} mehr als einen Kilometer von allem anderen.</translation>
    </message>
    <message>
        <source>{} not closed: light and sections may show gaps.</source>
        <translation>{} nicht geschlossen: Licht und Schnitte können Lücken zeigen.</translation>
    </message>
    <message>
        <source>{} some faces turned the wrong way; they are drawn from both sides.</source>
        <translation>{} einige Flächen, die falsch herum gedreht sind; sie werden von beiden Seiten gezeichnet.</translation>
    </message>
    <message>
        <source>{} turned inside out; they are drawn from both sides.</source>
        <translation>{} umgestülpt; sie werden von beiden Seiten gezeichnet.</translation>
    </message>
    <message>
        <source>{} no usable material; a plain one stands in.</source>
        <translation>{} kein brauchbares Material; ein einfaches steht dafür.</translation>
    </message>
    <message>
        <source>{} on no storey.</source>
        <translation>{} auf keinem Geschoss.</translation>
    </message>
    <message>
        <source>A rate of {0} frames a second is outside 1 to 240.</source>
        <translation>Eine Rate von {0} Bildern je Sekunde liegt außerhalb von 1 bis 240.</translation>
    </message>
    <message>
        <source>“{0}” is not a frame rate; write 25, 23.976 or 24000/1001.</source>
        <translation>„{0}“ ist keine Bildrate; schreiben Sie 25, 23.976 oder 24000/1001.</translation>
    </message>
    <message>
        <source>near bound</source>
        <translation>nahe Grenze</translation>
    </message>
    <message>
        <source>There is no wall cut {0}; the camera has {1}.</source>
        <translation>Es gibt keinen Wandschnitt {0}; die Kamera hat {1}.</translation>
    </message>
    <message>
        <source>There is no near bound to turn into a wall cut.</source>
        <translation>Es gibt keine nahe Grenze, aus der ein Wandschnitt werden könnte.</translation>
    </message>
    <message>
        <source>A focal length</source>
        <translation>Eine Brennweite</translation>
    </message>
    <message>
        <source>A sensor width</source>
        <translation>Eine Sensorbreite</translation>
    </message>
    <message>
        <source>An exposure</source>
        <translation>Eine Belichtung</translation>
    </message>
    <message>
        <source>An f-number</source>
        <translation>Eine Blende</translation>
    </message>
    <message>
        <source>There is no camera {0}.</source>
        <translation>Es gibt keine Kamera {0}.</translation>
    </message>
    <message>
        <source>From the file</source>
        <translation>Aus der Datei</translation>
    </message>
    <message>
        <source>A camera needs finite coordinates and angles.</source>
        <translation>Eine Kamera braucht endliche Koordinaten und Winkel.</translation>
    </message>
    <message>
        <source>A focus distance</source>
        <translation>Eine Schärfeentfernung</translation>
    </message>
    <message>
        <source>A picture side</source>
        <translation>Eine Bildseite</translation>
    </message>
    <message>
        <source>The near bound lies in front of the eye: more than 0 m.</source>
        <translation>Die nahe Grenze liegt vor dem Auge: mehr als 0 m.</translation>
    </message>
    <message>
        <source>The far bound lies beyond the near bound.</source>
        <translation>Die ferne Grenze liegt hinter der nahen.</translation>
    </message>
    <message>
        <source>A camera needs a name.</source>
        <translation>Eine Kamera braucht einen Namen.</translation>
    </message>
    <message>
        <source>The format in use is not one of the camera&apos;s formats.</source>
        <translation>Das benutzte Format ist keines der Formate der Kamera.</translation>
    </message>
    <message>
        <source>“{0}” is no guide. Guides: {1}.</source>
        <translation>„{0}“ ist keine Hilfslinie. Hilfslinien: {1}.</translation>
    </message>
    <message>
        <source>A wall cut needs a finite place and direction.</source>
        <translation>Ein Wandschnitt braucht einen endlichen Ort und eine Richtung.</translation>
    </message>
    <message>
        <source>A wall cut has a width and a height.</source>
        <translation>Ein Wandschnitt hat eine Breite und eine Höhe.</translation>
    </message>
    <message>
        <source>A bound that is fixed in the building needs a finite place.</source>
        <translation>Eine im Gebäude feste Grenze braucht einen endlichen Ort.</translation>
    </message>
    <message>
        <source>A side of the format “{0}”</source>
        <translation>Eine Seite des Formats „{0}“</translation>
    </message>
    <message>
        <source>The format “{0}” has a sensor or shift that makes no picture.</source>
        <translation>Das Format „{0}“ hat einen Sensor oder Versatz, der kein Bild ergibt.</translation>
    </message>
    <message>
        <source>An object is nudged by finite distances and angles.</source>
        <translation>Ein Objekt wird um endliche Strecken und Winkel verrückt.</translation>
    </message>
    <message>
        <source>A variant has no variants of its own.</source>
        <translation>Eine Variante hat keine eigenen Varianten.</translation>
    </message>
    <message>
        <source>Screen, small</source>
        <translation>Bildschirm, klein</translation>
    </message>
    <message>
        <source>Print A4 300 dpi</source>
        <translation>Druck A4 300 dpi</translation>
    </message>
    <message>
        <source>Print A3 300 dpi</source>
        <translation>Druck A3 300 dpi</translation>
    </message>
    <message>
        <source>Film, small</source>
        <translation>Film, klein</translation>
    </message>
    <message>
        <source>Film HD</source>
        <translation>Film HD</translation>
    </message>
    <message>
        <source>Social, square</source>
        <translation>Netz, quadratisch</translation>
    </message>
    <message>
        <source>Social, tall 4:5</source>
        <translation>Netz, hoch 4:5</translation>
    </message>
    <message>
        <source>Social, tall 9:16</source>
        <translation>Netz, hoch 9:16</translation>
    </message>
    <message>
        <source>An edge is moved on a sensor whose width is kept.</source>
        <translation>Eine Kante wird bei einem Sensor bewegt, dessen Breite bleibt.</translation>
    </message>
    <message>
        <source>An edge is left, right, top or bottom.</source>
        <translation>Eine Kante ist links, rechts, oben oder unten.</translation>
    </message>
    <message>
        <source>Give two of width, height and proportion.</source>
        <translation>Geben Sie zwei von Breite, Höhe und Verhältnis.</translation>
    </message>
    <message>
        <source>A proportion is more than 0.</source>
        <translation>Ein Verhältnis ist mehr als 0.</translation>
    </message>
    <message>
        <source>“{0}” is not a proportion; write 16:9 or 2.39:1.</source>
        <translation>„{0}“ ist kein Verhältnis; schreiben Sie 16:9 oder 2.39:1.</translation>
    </message>
    <message>
        <source>The camera has {0} formats.</source>
        <translation>Die Kamera hat {0} Formate.</translation>
    </message>
    <message>
        <source>A camera keeps at least one format.</source>
        <translation>Eine Kamera behält mindestens ein Format.</translation>
    </message>
    <message>
        <source>Own size</source>
        <translation>Eigene Größe</translation>
    </message>
    <message>
        <source>What lamps are dimmed to</source>
        <translation>Worauf Lampen gedimmt sind</translation>
    </message>
    <message>
        <source>A time zone</source>
        <translation>Eine Zeitzone</translation>
    </message>
    <message>
        <source>An hour</source>
        <translation>Eine Stunde</translation>
    </message>
    <message>
        <source>Turning the surroundings</source>
        <translation>Die Drehung der Umgebung</translation>
    </message>
    <message>
        <source>A strength of the surroundings</source>
        <translation>Eine Stärke der Umgebung</translation>
    </message>
    <message>
        <source>“{0}” is no sky. Choose {1}.</source>
        <translation>„{0}“ ist kein Himmel. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>“{0}” is no use of surroundings. Choose {1}.</source>
        <translation>„{0}“ ist kein Gebrauch der Umgebung. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>The surroundings “{0}” do not lie in the project&apos;s folder.</source>
        <translation>Die Umgebung „{0}“ liegt nicht im Ordner des Projekts.</translation>
    </message>
    <message>
        <source>A strength of lamps</source>
        <translation>Eine Stärke der Lampen</translation>
    </message>
    <message>
        <source>A warmth of lamps</source>
        <translation>Eine Wärme der Lampen</translation>
    </message>
    <message>
        <source>The model file does not say where on earth it stands. Type a place or a town.</source>
        <translation>Die Modelldatei sagt nicht, wo auf der Erde sie steht. Geben Sie einen Ort oder eine Stadt ein.</translation>
    </message>
    <message>
        <source>Unlock it (key Ctrl+L), then change it.</source>
        <translation>Entsperren (Strg+L), dann ändern.</translation>
    </message>
    <message>
        <source>{0} is locked. {1}</source>
        <translation>{0} ist gesperrt. {1}</translation>
    </message>
    <message>
        <source>Unlock it (More ▾), then change it.</source>
        <translation>Entsperren (Mehr ▾), dann ändern.</translation>
    </message>
    <message>
        <source>There is no model {0}.</source>
        <translation>Es gibt kein Modell {0}.</translation>
    </message>
    <message>
        <source>At least one model of a project is shown.</source>
        <translation>Mindestens ein Modell eines Projekts wird gezeigt.</translation>
    </message>
    <message>
        <source>a unit is a length in metres, and y or z points up.</source>
        <translation>eine Einheit ist eine Länge in Metern, und y oder z zeigt nach oben.</translation>
    </message>
    <message>
        <source>a model is moved by {0} km at most.</source>
        <translation>ein Modell wird höchstens um {0} km verschoben.</translation>
    </message>
    <message>
        <source>A project needs a model. Add another one first.</source>
        <translation>Ein Projekt braucht ein Modell. Fügen Sie erst ein anderes hinzu.</translation>
    </message>
    <message>
        <source>A planned shot says what it should show.</source>
        <translation>Ein geplantes Bild sagt, was es zeigen soll.</translation>
    </message>
    <message>
        <source>none yet</source>
        <translation>noch keine</translation>
    </message>
    <message>
        <source>There is no remark “{0}”. Remarks: {1}.</source>
        <translation>Es gibt keine Anmerkung „{0}“. Anmerkungen: {1}.</translation>
    </message>
    <message>
        <source>There is no camera {0} to answer it.</source>
        <translation>Es gibt keine Kamera {0}, die darauf antwortet.</translation>
    </message>
    <message>
        <source>left out</source>
        <translation>weggelassen</translation>
    </message>
    <message>
        <source>There are no settings called “{0}”. There are {1}.</source>
        <translation>Es gibt keine Werte namens „{0}“. Es gibt {1}.</translation>
    </message>
    <message>
        <source>The row</source>
        <translation>Die Zeile</translation>
    </message>
    <message>
        <source>“{0}” is no kind of row. Kinds: {1}.</source>
        <translation>„{0}“ ist keine Art von Zeile. Arten: {1}.</translation>
    </message>
    <message>
        <source>“{0}” is no file of a {1}. Files: {2}.</source>
        <translation>„{0}“ ist keine Datei dieser Art ({1}). Dateien: {2}.</translation>
    </message>
    <message>
        <source>way to draw</source>
        <translation>Art der Darstellung</translation>
    </message>
    <message>
        <source>A panorama is drawn as materials or white card.</source>
        <translation>Ein Panorama wird als Materialien oder weißer Karton gezeichnet.</translation>
    </message>
    <message>
        <source>A JPEG cannot be transparent. Choose PNG, TIFF or EXR.</source>
        <translation>Ein JPEG kann nicht durchsichtig sein. Wählen Sie PNG, TIFF oder EXR.</translation>
    </message>
    <message>
        <source>{0} dpi is outside 1 to 4800 (0 writes none).</source>
        <translation>{0} dpi liegt außerhalb von 1 bis 4800 (0 schreibt keine).</translation>
    </message>
    <message>
        <source>Eyes stand 0 to 50 cm apart; 0 makes one picture.</source>
        <translation>Augen stehen 0 bis 50 cm auseinander; 0 macht ein Bild.</translation>
    </message>
    <message>
        <source>A front of {0}° is no heading. Write 0 for north, 90 for east.</source>
        <translation>Eine Mitte von {0}° ist keine Richtung. Schreiben Sie 0 für Norden, 90 für Osten.</translation>
    </message>
    <message>
        <source>“{0}” is no colour. Write it as #rrggbb.</source>
        <translation>„{0}“ ist keine Farbe. Schreiben Sie sie als #rrggbb.</translation>
    </message>
    <message>
        <source>The seed of a hand is a number from 0 to 999999.</source>
        <translation>Die Zahl einer Hand liegt zwischen 0 und 999999.</translation>
    </message>
    <message>
        <source>Lines are 0.2 to 40 px wide; creases may be 0.</source>
        <translation>Linien sind 0,2 bis 40 px breit; Kanten dürfen 0 sein.</translation>
    </message>
    <message>
        <source>Roughness and hatching lie between 0 and 1.</source>
        <translation>Rauheit und Schraffur liegen zwischen 0 und 1.</translation>
    </message>
    <message>
        <source>“{0}” is no quality. Choose {1}.</source>
        <translation>„{0}“ ist keine Güte. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>The points of a curve follow each other from 0 to 1.</source>
        <translation>Die Punkte einer Kurve folgen einander von 0 bis 1.</translation>
    </message>
    <message>
        <source>There is no row {0} in the shot list.</source>
        <translation>Es gibt keine Zeile {0} in der Bildliste.</translation>
    </message>
    <message>
        <source>“{0}” is no {1}. Choose {2}.</source>
        <translation>„{0}“ ist keine {1}. Wählen Sie {2}.</translation>
    </message>
    <message>
        <source>A region lies within the frame: left, top, right, bottom from 0 to 1.</source>
        <translation>Ein Ausschnitt liegt im Bild: links, oben, rechts, unten von 0 bis 1.</translation>
    </message>
    <message>
        <source>Samples for {0}: a number</source>
        <translation>Abtastungen für {0}: eine Zahl</translation>
    </message>
    <message>
        <source>A shadow map of {0} px for {1} is outside 256 to 8192.</source>
        <translation>Eine Schattenkarte von {0} px für {1} liegt außerhalb von 256 bis 8192.</translation>
    </message>
    <message>
        <source>{0} {1} is outside {2} to {3}.</source>
        <translation>{0} {1} liegt außerhalb von {2} bis {3}.</translation>
    </message>
    <message>
        <source>There is no walk {0}.</source>
        <translation>Es gibt keinen Rundgang {0}.</translation>
    </message>
    <message>
        <source>{0} passes for {1} are outside 1 to 256.</source>
        <translation>{0} Durchgänge für {1} liegen außerhalb von 1 bis 256.</translation>
    </message>
    <message>
        <source>lenses, the subject as large</source>
        <translation>Brennweiten, das Motiv gleich groß</translation>
    </message>
    <message>
        <source>lenses from this place</source>
        <translation>Brennweiten von diesem Ort</translation>
    </message>
    <message>
        <source>eye heights</source>
        <translation>Augenhöhen</translation>
    </message>
    <message>
        <source>rise {:.1f} mm</source>
        <translation>Hochversatz {:.1f} mm</translation>
    </message>
    <message>
        <source>cross {:.1f} mm</source>
        <translation>Querversatz {:.1f} mm</translation>
    </message>
    <message>
        <source>the same</source>
        <translation>dasselbe</translation>
    </message>
    <message>
        <source>another place</source>
        <translation>anderer Ort</translation>
    </message>
    <message>
        <source>A ladder has 2 to {0} lenses. Write them with commas between: 18, 24, 35.</source>
        <translation>Eine Reihe hat 2 bis {0} Brennweiten. Schreiben Sie sie mit Kommas: 18, 24, 35.</translation>
    </message>
    <message>
        <source>{0} wall cut{1}</source>
        <translation>{0} Wandschnitt{1}</translation>
    </message>
    <message>
        <source>no wall cut</source>
        <translation>kein Wandschnitt</translation>
    </message>
    <message>
        <source>A camera holds up to {0} variants. Remove one first.</source>
        <translation>Eine Kamera hält bis zu {0} Varianten. Entfernen Sie erst eine.</translation>
    </message>
    <message>
        <source>as it was</source>
        <translation>wie es war</translation>
    </message>
    <message>
        <source>There is no such variant.</source>
        <translation>Es gibt keine solche Variante.</translation>
    </message>
    <message>
        <source>There is no ladder “{0}”. Ladders: {1}.</source>
        <translation>Es gibt keine Reihe „{0}“. Reihen: {1}.</translation>
    </message>
    <message>
        <source>A pause or an ease</source>
        <translation>Ein Verweilen oder Anfahren</translation>
    </message>
    <message>
        <source>Corners are looked round 0 to 50 m early.</source>
        <translation>Um Ecken wird 0 bis 50 m früher geblickt.</translation>
    </message>
    <message>
        <source>A turntable needs a finite centre and height, and a radius of 5 cm to 100 km.</source>
        <translation>Eine Umrundung braucht eine endliche Mitte und Höhe, und einen Radius von 5 cm bis 100 km.</translation>
    </message>
    <message>
        <source>A turntable sweeps 0.1° to 3600°, either way.</source>
        <translation>Eine Umrundung läuft 0,1° bis 3600°, so oder so herum.</translation>
    </message>
    <message>
        <source>There is no place {0}; the walk has {1}.</source>
        <translation>Es gibt keinen Ort {0}; der Rundgang hat {1}.</translation>
    </message>
    <message>
        <source>The copied places lie where the route already passes there. Choose another place to put them in behind.</source>
        <translation>Die kopierten Orte liegen, wo die Route dort schon durchgeht. Wählen Sie einen anderen Ort, hinter den sie sollen.</translation>
    </message>
    <message>
        <source>There is no span {0} of looking; the walk has {1}.</source>
        <translation>Es gibt keinen Abschnitt {0} des Blicks; der Rundgang hat {1}.</translation>
    </message>
    <message>
        <source>A walk is parted at a place between its first and its last.</source>
        <translation>Ein Rundgang wird an einem Ort zwischen seinem ersten und letzten geteilt.</translation>
    </message>
    <message>
        <source>Two walkthroughs can be joined, not a turntable, and not one with itself.</source>
        <translation>Zwei Rundgänge lassen sich verbinden, keine Umrundung, und keiner mit sich selbst.</translation>
    </message>
    <message>
        <source>Only a turntable has even stops.</source>
        <translation>Nur eine Umrundung hat gleichmäßige Halte.</translation>
    </message>
    <message>
        <source>A turntable is kept as 1 to 360 cameras.</source>
        <translation>Eine Umrundung wird als 1 bis 360 Kameras behalten.</translation>
    </message>
    <message>
        <source>A project needs a name.</source>
        <translation>Ein Projekt braucht einen Namen.</translation>
    </message>
    <message>
        <source>A walk needs at least two places to pass.</source>
        <translation>Ein Rundgang braucht mindestens zwei Orte.</translation>
    </message>
    <message>
        <source>Two places of the walk that follow each other are the same.</source>
        <translation>Zwei aufeinander folgende Orte des Rundgangs sind dieselben.</translation>
    </message>
    <message>
        <source>“{0}” is no way to pass a place. Ways: {1}, {2}, {3}.</source>
        <translation>„{0}“ ist keine Art, einen Ort zu durchgehen. Arten: {1}, {2}, {3}.</translation>
    </message>
    <message>
        <source>A handle of a place reaches 1 cm to 100 m.</source>
        <translation>Ein Griff eines Orts reicht 1 cm bis 100 m.</translation>
    </message>
    <message>
        <source>A place passed at {0} s lies outside the walk&apos;s {1} s.</source>
        <translation>Ein bei {0} s erreichter Ort liegt außerhalb der {1} s des Rundgangs.</translation>
    </message>
    <message>
        <source>A look has a kind and a span between 0 and 1 of the route.</source>
        <translation>Ein Blick hat eine Art und einen Abschnitt zwischen 0 und 1 der Route.</translation>
    </message>
    <message>
        <source>Something went wrong.</source>
        <translation>Etwas ist schiefgegangen.</translation>
    </message>
    <message>
        <source>PNG, 8 bits: opens everywhere</source>
        <translation>PNG, 8 Bit: öffnet überall</translation>
    </message>
    <message>
        <source>PNG, 16 bits: room for grading</source>
        <translation>PNG, 16 Bit: Raum zum Nachbearbeiten</translation>
    </message>
    <message>
        <source>JPEG: small</source>
        <translation>JPEG: klein</translation>
    </message>
    <message>
        <source>TIFF, 16 bits: for print</source>
        <translation>TIFF, 16 Bit: für den Druck</translation>
    </message>
    <message>
        <source>EXR: linear light</source>
        <translation>EXR: lineares Licht</translation>
    </message>
    <message>
        <source>MP4, H.264: plays everywhere</source>
        <translation>MP4, H.264: läuft überall</translation>
    </message>
    <message>
        <source>MP4, H.265: smaller, newer players</source>
        <translation>MP4, H.265: kleiner, neuere Abspieler</translation>
    </message>
    <message>
        <source>MOV, ProRes: for cutting</source>
        <translation>MOV, ProRes: für den Filmschnitt</translation>
    </message>
    <message>
        <source>WebM, VP9: for pages</source>
        <translation>WebM, VP9: für Webseiten</translation>
    </message>
    <message>
        <source>AVI, motion JPEG: for old players</source>
        <translation>AVI, Motion JPEG: für alte Abspieler</translation>
    </message>
    <message>
        <source>GIF: short loops for pages and mail</source>
        <translation>GIF: kurze Schleifen für Seiten und Post</translation>
    </message>
    <message>
        <source>PNG frames: a folder, for cutting without loss</source>
        <translation>PNG-Bilder: ein Ordner, zum Schneiden ohne Verlust</translation>
    </message>
    <message>
        <source>JPEG frames: a folder, smaller</source>
        <translation>JPEG-Bilder: ein Ordner, kleiner</translation>
    </message>
    <message>
        <source>EXR frames: a folder of linear light, for grading</source>
        <translation>EXR-Bilder: ein Ordner mit linearem Licht, zum Nachbearbeiten</translation>
    </message>
    <message>
        <source>wall face</source>
        <translation>Wandfläche</translation>
    </message>
    <message>
        <source>wall centre</source>
        <translation>Wandmitte</translation>
    </message>
    <message>
        <source>It reaches beside or behind the eye, so no lens holds it. Step back, or fit by distance.</source>
        <translation>Es reicht neben oder hinter das Auge, daher fasst es kein Objektiv. Treten Sie zurück, oder passen Sie mit dem Abstand ein.</translation>
    </message>
    <message>
        <source>From here it would take a lens of {0} mm. Step back, or fit by distance.</source>
        <translation>Von hier bräuchte es ein Objektiv von {0} mm. Treten Sie zurück, oder passen Sie mit dem Abstand ein.</translation>
    </message>
    <message>
        <source>From here it would take a lens of {0} mm. Step closer, or fit by distance.</source>
        <translation>Von hier bräuchte es ein Objektiv von {0} mm. Treten Sie näher, oder passen Sie mit dem Abstand ein.</translation>
    </message>
    <message>
        <source>Seen squarely it lies {0}° beside the line of sight. Fit it square by distance, or step along it first.</source>
        <translation>Quer gesehen liegt sie {0}° neben der Blicklinie. Passen Sie sie mit dem Abstand quer ein, oder gehen Sie erst an ihr entlang.</translation>
    </message>
    <message>
        <source>There is no place from which this lens holds it. Choose a wider lens.</source>
        <translation>Es gibt keinen Ort, von dem dieses Objektiv es fasst. Wählen Sie ein weiteres Objektiv.</translation>
    </message>
    <message>
        <source>From above</source>
        <translation>Von oben</translation>
    </message>
    <message>
        <source>A time of day</source>
        <translation>Eine Tageszeit</translation>
    </message>
    <message>
        <source>“{0}” is no time of day. Write it as 17:30.</source>
        <translation>„{0}“ ist keine Tageszeit. Schreiben Sie sie als 17:30.</translation>
    </message>
    <message>
        <source>“{0}” is not a date; write it as 2026-06-21.</source>
        <translation>„{0}“ ist kein Datum; schreiben Sie es als 2026-06-21.</translation>
    </message>
    <message>
        <source>“{0}” is no time zone. Write it as Europe/Zurich, or as hours like +2.</source>
        <translation>„{0}“ ist keine Zeitzone. Schreiben Sie sie als Europe/Zurich, oder als Stunden wie +2.</translation>
    </message>
    <message>
        <source>{0}: an hour</source>
        <translation>{0}: eine Stunde</translation>
    </message>
    <message>
        <source>{0}: “{1}” is no sky. Choose {2}.</source>
        <translation>{0}: „{1}“ ist kein Himmel. Wählen Sie {2}.</translation>
    </message>
    <message>
        <source>An end</source>
        <translation>Ein Ende</translation>
    </message>
    <message>
        <source>A study goes from one time to a later one, in steps of five minutes at least.</source>
        <translation>Eine Studie geht von einer Zeit zu einer späteren, in Schritten von mindestens fünf Minuten.</translation>
    </message>
    <message>
        <source>That is more than {0} pictures. Take larger steps, or fewer hours.</source>
        <translation>Das sind mehr als {0} Bilder. Nehmen Sie größere Schritte, oder weniger Stunden.</translation>
    </message>
    <message>
        <source>The sun is not up at any of these times.</source>
        <translation>Die Sonne steht zu keiner dieser Zeiten am Himmel.</translation>
    </message>
    <message>
        <source>There is no such camera.</source>
        <translation>Es gibt keine solche Kamera.</translation>
    </message>
    <message>
        <source>The sun does not rise on this day.</source>
        <translation>Die Sonne geht an diesem Tag nicht auf.</translation>
    </message>
    <message>
        <source>it has {0} colours where {1} are announced</source>
        <translation>sie hat {0} Farben, wo {1} angekündigt sind</translation>
    </message>
    <message>
        <source>not all of its figures are numbers within its domain</source>
        <translation>nicht alle ihre Werte sind Zahlen in ihrem Bereich</translation>
    </message>
    <message>
        <source>line {0} is no line of a colour table</source>
        <translation>Zeile {0} ist keine Zeile einer Farbtabelle</translation>
    </message>
    <message>
        <source>“{0}” is not a length; write 1.6, 160 cm or 5&apos;3&quot;.</source>
        <translation>„{0}“ ist keine Länge; schreiben Sie 1.6, 160 cm oder 5&apos;3&quot;.</translation>
    </message>
    <message>
        <source>not a side</source>
        <translation>keine Seite</translation>
    </message>
    <message>
        <source>“{0}” is not a number</source>
        <translation>„{0}“ ist keine Zahl</translation>
    </message>
    <message>
        <source>“{0}” is too large.</source>
        <translation>„{0}“ ist zu groß.</translation>
    </message>
    <message>
        <source>“{0}” is not a size; write 1920, 1920 x 1080, 10 in, 10 x 7 in, 250 mm or ×2.</source>
        <translation>„{0}“ ist keine Größe; schreiben Sie 1920, 1920 x 1080, 10 in, 10 x 7 in, 250 mm oder ×2.</translation>
    </message>
    <message>
        <source>“{0}” mends nothing here.</source>
        <translation>„{0}“ hilft hier nichts.</translation>
    </message>
    <message>
        <source>No bound of this camera opens anything.</source>
        <translation>Keine Grenze dieser Kamera öffnet etwas.</translation>
    </message>
    <message>
        <source>The rims of the gaps lie in no plane, so no panel can be put across them. List them for whoever models.</source>
        <translation>Die Ränder der Lücken liegen in keiner Ebene, daher lässt sich keine Platte darüber legen. Listen Sie sie für alle auf, die modellieren.</translation>
    </message>
    <message>
        <source>The far bound takes nothing out of the picture.</source>
        <translation>Die ferne Grenze nimmt nichts aus dem Bild.</translation>
    </message>
    <message>
        <source>There is no longer common lens.</source>
        <translation>Es gibt keine längere übliche Brennweite.</translation>
    </message>
    <message>
        <source>There is no floor under the eye. Move it over a floor.</source>
        <translation>Unter dem Auge ist kein Boden. Bewegen Sie es über einen Boden.</translation>
    </message>
    <message>
        <source>planned shot</source>
        <translation>geplantes Bild</translation>
    </message>
    <message>
        <source>the figures of proof, review and final</source>
        <translation>die Werte von Probe, Durchsicht und Endfassung</translation>
    </message>
    <message>
        <source>in another order</source>
        <translation>in anderer Folge</translation>
    </message>
    <message>
        <source>{0} “{1}”: changed by one and removed by the other; it stays</source>
        <translation>{0} „{1}“: hier geändert und dort entfernt; bleibt</translation>
    </message>
    <message>
        <source>There is no object “{0}” in the model. Its tree names what there is.</source>
        <translation>Im Modell gibt es kein Objekt „{0}“. Sein Baum nennt, was es gibt.</translation>
    </message>
    <message>
        <source>There is no model to show.</source>
        <translation>Es gibt kein Modell zu zeigen.</translation>
    </message>
    <message>
        <source>“{{0}}” is no field of a name. Fields: {1}.</source>
        <translation>„{{0}}“ ist kein Feld eines Namens. Felder: {1}.</translation>
    </message>
    <message>
        <source>A brace of the name&apos;s pattern is not closed.</source>
        <translation>Eine Klammer im Muster des Namens ist nicht geschlossen.</translation>
    </message>
    <message>
        <source>Nothing is left of the name. Write letters or fields such as {camera}.</source>
        <translation>Vom Namen bleibt nichts. Schreiben Sie Buchstaben oder Felder wie {camera}.</translation>
    </message>
    <message>
        <source>No near bound before what is looked at opens nothing. Use a wall cut, or cap the cut.</source>
        <translation>Keine nahe Grenze vor dem Motiv öffnet nichts. Nehmen Sie einen Wandschnitt, oder füllen Sie den Schnitt.</translation>
    </message>
    <message>
        <source>There is no near bound to move.</source>
        <translation>Es gibt keine nahe Grenze zu verschieben.</translation>
    </message>
    <message>
        <source>No wall stands before the near bound on the line of sight. Pick a wall for a wall cut.</source>
        <translation>Vor der nahen Grenze steht auf der Blicklinie keine Wand. Wählen Sie eine Wand für einen Wandschnitt.</translation>
    </message>
    <message>
        <source>Mend of ours</source>
        <translation>Eigene Abhilfe</translation>
    </message>
    <message>
        <source>Plain panel</source>
        <translation>Einfache Platte</translation>
    </message>
    <message>
        <source>Plain ceiling</source>
        <translation>Einfache Decke</translation>
    </message>
    <message>
        <source>Plain ground</source>
        <translation>Einfaches Gelände</translation>
    </message>
    <message>
        <source>Ceiling carried on</source>
        <translation>Fortgesetzte Decke</translation>
    </message>
    <message>
        <source>Plain ground to the horizon</source>
        <translation>Einfaches Gelände bis zum Horizont</translation>
    </message>
    <message>
        <source>“{0}” is no kind of mend. Kinds: {1}.</source>
        <translation>„{0}“ ist keine Art von Abhilfe. Arten: {1}.</translation>
    </message>
    <message>
        <source>A mend has {0} to {1} corners.</source>
        <translation>Eine Abhilfe hat {0} bis {1} Ecken.</translation>
    </message>
    <message>
        <source>A mend has finite corners and a thickness.</source>
        <translation>Eine Abhilfe hat endliche Ecken und eine Dicke.</translation>
    </message>
    <message>
        <source>The corners of a mend span a surface.</source>
        <translation>Die Ecken einer Abhilfe spannen eine Fläche auf.</translation>
    </message>
    <message>
        <source>There is no mend “{0}”. Mends: {1}.</source>
        <translation>Es gibt keine Abhilfe „{0}“. Abhilfen: {1}.</translation>
    </message>
    <message>
        <source>The rim of this gap lies in no plane, so no panel can be put across it. List it for whoever models.</source>
        <translation>Der Rand dieser Lücke liegt in keiner Ebene, daher lässt sich keine Platte darüber legen. Listen Sie sie für alle auf, die modellieren.</translation>
    </message>
    <message>
        <source>There is plain ground to the horizon already.</source>
        <translation>Es gibt schon einfaches Gelände bis zum Horizont.</translation>
    </message>
    <message>
        <source>title margin</source>
        <translation>Titelrand</translation>
    </message>
    <message>
        <source>There is no camera “{0}”. Cameras: {1}.</source>
        <translation>Es gibt keine Kamera „{0}“. Kameras: {1}.</translation>
    </message>
    <message>
        <source>There is no walk “{0}”. Walks: {1}.</source>
        <translation>Es gibt keinen Rundgang „{0}“. Rundgänge: {1}.</translation>
    </message>
    <message>
        <source>as behind</source>
        <translation>wie dahinter</translation>
    </message>
    <message>
        <source>white card</source>
        <translation>weißer Karton</translation>
    </message>
    <message>
        <source>paper white</source>
        <translation>papierweiß</translation>
    </message>
    <message>
        <source>no Radiance picture</source>
        <translation>kein Radiance-Bild</translation>
    </message>
    <message>
        <source>a Radiance picture of {0} x {1} pixels</source>
        <translation>ein Radiance-Bild von {0} x {1} Pixeln</translation>
    </message>
    <message>
        <source>a Radiance picture that breaks off</source>
        <translation>ein Radiance-Bild, das abbricht</translation>
    </message>
    <message>
        <source>a Radiance picture with a damaged row</source>
        <translation>ein Radiance-Bild mit einer beschädigten Zeile</translation>
    </message>
    <message>
        <source>{0} of {1}{2}{3} is outside {4}{5} to {6}{7}{8}.</source>
        <translation>{0} von {1}{2}{3} liegt außerhalb von {4}{5} bis {6}{7}{8}.</translation>
    </message>
    <message>
        <source>There is no place to stand in “{0}”.</source>
        <translation>In „{0}“ gibt es keinen Platz zum Stehen.</translation>
    </message>
    <message>
        <source>Square to wall</source>
        <translation>Quer zur Wand</translation>
    </message>
    <message>
        <source>Between walls</source>
        <translation>Zwischen Wände</translation>
    </message>
    <message>
        <source>Middle of the room</source>
        <translation>Mitte des Raums</translation>
    </message>
    <message>
        <source>Things stand in the way here, so there is no middle at this height.</source>
        <translation>Hier stehen Dinge im Weg, daher gibt es auf dieser Höhe keine Mitte.</translation>
    </message>
    <message>
        <source>There is no floor here to stand on. Stand the camera on the building or the ground around it.</source>
        <translation>Hier ist kein Boden zum Stehen. Stellen Sie die Kamera auf das Gebäude oder das Gelände darum.</translation>
    </message>
    <message>
        <source>There is no wall in front of the camera to stand square to.</source>
        <translation>Vor der Kamera ist keine Wand, zu der sie quer stehen könnte.</translation>
    </message>
    <message>
        <source>No two walls meet behind the camera. Turn it away from the corner you mean.</source>
        <translation>Hinter der Kamera treffen keine zwei Wände zusammen. Drehen Sie sie von der gemeinten Ecke weg.</translation>
    </message>
    <message>
        <source>There is no room to step back here.</source>
        <translation>Hier ist kein Platz zum Zurücktreten.</translation>
    </message>
    <message>
        <source>There is no ceiling here, so the room has no middle height.</source>
        <translation>Hier ist keine Decke, daher hat der Raum keine halbe Höhe.</translation>
    </message>
    <message>
        <source>The eye is inside something solid.</source>
        <translation>Das Auge steckt in etwas Festem.</translation>
    </message>
    <message>
        <source>There is no wall on one side, so there is no middle between walls here.</source>
        <translation>Auf einer Seite ist keine Wand, daher gibt es hier keine Mitte zwischen Wänden.</translation>
    </message>
    <message>
        <source>The room is open on one side, so it has no middle here.</source>
        <translation>Der Raum ist auf einer Seite offen, daher hat er hier keine Mitte.</translation>
    </message>
    <message>
        <source>The eye is below ground.</source>
        <translation>Das Auge ist unter dem Gelände.</translation>
    </message>
    <message>
        <source>There is no floor under the eye.</source>
        <translation>Unter dem Auge ist kein Boden.</translation>
    </message>
    <message>
        <source>Fine pen</source>
        <translation>Feine Feder</translation>
    </message>
    <message>
        <source>Broad pen</source>
        <translation>Breite Feder</translation>
    </message>
    <message>
        <source>Outlines only</source>
        <translation>Nur Umrisse</translation>
    </message>
    <message>
        <source>White on slate</source>
        <translation>Weiß auf Schiefer</translation>
    </message>
    <message>
        <source>Hard pencil</source>
        <translation>Harter Bleistift</translation>
    </message>
    <message>
        <source>Soft pencil</source>
        <translation>Weicher Bleistift</translation>
    </message>
    <message>
        <source>Quick hand</source>
        <translation>Schnelle Hand</translation>
    </message>
    <message>
        <source>There is no line style “{0}”. Styles: {1}; or a style&apos;s file.</source>
        <translation>Es gibt keine Linienart „{0}“. Arten: {1}; oder die Datei eines Stils.</translation>
    </message>
    <message>
        <source>Curtain wall</source>
        <translation>Vorhangfassade</translation>
    </message>
    <message>
        <source>“{0}” is nothing to fit. There are: {1}.</source>
        <translation>„{0}“ lässt sich nicht einpassen. Es gibt: {1}.</translation>
    </message>
    <message>
        <source>There is no upright façade in the middle of the picture.</source>
        <translation>In der Bildmitte steht keine aufrechte Fassade.</translation>
    </message>
    <message>
        <source>Whole building</source>
        <translation>Ganzes Gebäude</translation>
    </message>
    <message>
        <source>The camera neither stands in a room nor looks into one.</source>
        <translation>Die Kamera steht in keinem Raum und blickt in keinen.</translation>
    </message>
    <message>
        <source>Too little of the room lies ahead. Step back, or turn towards it.</source>
        <translation>Zu wenig vom Raum liegt voraus. Treten Sie zurück, oder wenden Sie sich ihm zu.</translation>
    </message>
    <message>
        <source>Choose an object first: press on it in the Frame.</source>
        <translation>Erst ein Objekt wählen: im Sucher darauf drücken.</translation>
    </message>
    <message>
        <source>goes through something solid</source>
        <translation>geht durch etwas Festes</translation>
    </message>
    <message>
        <source>comes within {:.2f} m of something</source>
        <translation>kommt etwas auf {:.2f} m nahe</translation>
    </message>
    <message>
        <source>has only {:.2f} m of headroom</source>
        <translation>hat nur {:.2f} m über dem Kopf</translation>
    </message>
    <message>
        <source>is walked at {:.2f} m/s</source>
        <translation>wird mit {:.2f} m/s gegangen</translation>
    </message>
    <message>
        <source>speeds up or slows down by {:.2f} m/s²</source>
        <translation>wird um {:.2f} m/s² schneller oder langsamer</translation>
    </message>
    <message>
        <source>turns at {:.0f}°/s</source>
        <translation>dreht mit {:.0f}°/s</translation>
    </message>
    <message>
        <source>goes up or down at {:.2f} m/s</source>
        <translation>steigt oder fällt mit {:.2f} m/s</translation>
    </message>
    <message>
        <source>goes over a void, {:.1f} m above the nearest floor</source>
        <translation>geht über eine Leere, {:.1f} m über dem nächsten Boden</translation>
    </message>
    <message>
        <source>makes the eye jump ({:.1f} m/s² up or down)</source>
        <translation>lässt das Auge springen ({:.1f} m/s² auf oder ab)</translation>
    </message>
    <message>
        <source>shows cut faces on {:.1%} of the film frame</source>
        <translation>zeigt Schnittflächen auf {:.1%} des Filmbilds</translation>
    </message>
    <message>
        <source>looks out through an opening that nothing closes, {:.1%} of the film frame</source>
        <translation>blickt durch eine Öffnung hinaus, die nichts schließt, {:.1%} des Filmbilds</translation>
    </message>
    <message>
        <source>sees the ground end, {:.1%} of the film frame</source>
        <translation>sieht das Gelände enden, {:.1%} des Filmbilds</translation>
    </message>
    <message>
        <source>changes its lens by {:.0%} a second</source>
        <translation>ändert das Objektiv um {:.0%} je Sekunde</translation>
    </message>
    <message>
        <source>At {0} s the walk {1}.</source>
        <translation>Bei {0} s: der Rundgang {1}.</translation>
    </message>
    <message>
        <source>Slow down here</source>
        <translation>Hier langsamer</translation>
    </message>
    <message>
        <source>The places about the flag come later; before and after nothing changes its pace</source>
        <translation>Die Orte um die Fahne kommen später; davor und danach ändert nichts sein Tempo</translation>
    </message>
    <message>
        <source>Round the corner</source>
        <translation>Ecke runden</translation>
    </message>
    <message>
        <source>The corner is walked as a bend and looked round earlier</source>
        <translation>Die Ecke wird als Bogen gegangen und früher eingesehen</translation>
    </message>
    <message>
        <source>Keep clear</source>
        <translation>Abstand halten</translation>
    </message>
    <message>
        <source>The route passes farther from what is near</source>
        <translation>Die Route geht weiter entfernt an Nahem vorbei</translation>
    </message>
    <message>
        <source>Near bound off here</source>
        <translation>Nahe Grenze hier aus</translation>
    </message>
    <message>
        <source>The places about the flag lose their near bound</source>
        <translation>Die Orte um die Fahne verlieren ihre nahe Grenze</translation>
    </message>
    <message>
        <source>Keeping clear needs the model.</source>
        <translation>Abstand halten braucht das Modell.</translation>
    </message>
    <message>
        <source>Nothing stands there that the route could keep clear of. Move the place by hand.</source>
        <translation>Dort steht nichts, von dem die Route Abstand halten könnte. Bewegen Sie den Ort von Hand.</translation>
    </message>
    <message>
        <source>“{0}” does not mend what the flag says.</source>
        <translation>„{0}“ hilft nicht gegen das, was die Fahne sagt.</translation>
    </message>
    <message>
        <source>“{0}” is no mend.</source>
        <translation>„{0}“ ist keine Abhilfe.</translation>
    </message>
    <message>
        <source>A route needs at least two places.</source>
        <translation>Eine Route braucht mindestens zwei Orte.</translation>
    </message>
    <message>
        <source>The places of the route all lie in one point.</source>
        <translation>Die Orte der Route liegen alle in einem Punkt.</translation>
    </message>
    <message>
        <source>The seconds of keys follow each other, within the length of the walk.</source>
        <translation>Die Sekunden der Orte folgen einander, innerhalb der Länge des Rundgangs.</translation>
    </message>
    <message>
        <source>Pauses and eases take longer than the walk lasts there. Make it longer, or the pauses shorter.</source>
        <translation>Verweilen, Anfahren und Auslaufen dauern länger als der Rundgang dort. Machen Sie ihn länger, oder das Verweilen kürzer.</translation>
    </message>
    <message>
        <source>Between two pauses there is no room for their eases. Make them shorter.</source>
        <translation>Zwischen zwei Halten ist kein Platz für Anfahren und Auslaufen. Machen Sie sie kürzer.</translation>
    </message>
    <message>
        <source>That is no wall: its face leans by more than {0}°. Pick a wall.</source>
        <translation>Das ist keine Wand: ihre Fläche neigt sich um mehr als {0}°. Wählen Sie eine Wand.</translation>
    </message>
    <message>
        <source>Pick a wall, not the eye itself.</source>
        <translation>Wählen Sie eine Wand, nicht das Auge selbst.</translation>
    </message>
    <message>
        <source>There is no wall here. Pick a wall that stands between the camera and what it shows.</source>
        <translation>Hier ist keine Wand. Wählen Sie eine Wand, die zwischen der Kamera und ihrem Motiv steht.</translation>
    </message>
    <message>
        <source>An order could not be read: {0}.</source>
        <translation>Ein Auftrag konnte nicht gelesen werden: {0}.</translation>
    </message>
    <message>
        <source>Remarks (BCF)</source>
        <translation>Anmerkungen (BCF)</translation>
    </message>
    <message>
        <source>glTF, text</source>
        <translation>glTF, Text</translation>
    </message>
    <message>
        <source>glTF, binary</source>
        <translation>glTF, binär</translation>
    </message>
    <message>
        <source>USD, text</source>
        <translation>USD, Text</translation>
    </message>
    <message>
        <source>USD, binary</source>
        <translation>USD, binär</translation>
    </message>
    <message>
        <source>Table (CSV)</source>
        <translation>Tabelle (CSV)</translation>
    </message>
    <message>
        <source>Table with placements (JSON)</source>
        <translation>Tabelle mit Aufstellungen (JSON)</translation>
    </message>
    <message>
        <source>{0} is no file that cameras are taken from. Choose one that ends in {1}.</source>
        <translation>Aus {0} lassen sich keine Kameras übernehmen. Wählen Sie eine Datei, die auf {1} endet.</translation>
    </message>
    <message>
        <source>{0} is not there. Nothing was taken. Find the file, or choose another.</source>
        <translation>{0} ist nicht da. Nichts wurde übernommen. Suchen Sie die Datei, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} holds no camera. Nothing was taken.</source>
        <translation>{0} enthält keine Kamera. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} is damaged. Nothing was taken.</source>
        <translation>{0} ist beschädigt. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>About {0} GB are needed and {1} GB are free in {2}. Make room, or the run will wait for it.</source>
        <translation>Etwa {0} GB werden gebraucht, und in {2} sind {1} GB frei. Schaffen Sie Platz, sonst wartet der Lauf darauf.</translation>
    </message>
    <message>
        <source>{0} needs about {1} GB of memory and {2} GB are free. Make it smaller, or close other programs.</source>
        <translation>{0} braucht etwa {1} GB Speicher, und {2} GB sind frei. Machen Sie es kleiner, oder schließen Sie andere Programme.</translation>
    </message>
    <message>
        <source>Checked: {0} film frames, {1} s at {2}, {3} × {4} px; {5} film frames sought and like the Frame (within {6} of 255).</source>
        <translation>Geprüft: {0} Filmbilder, {1} s bei {2}, {3} × {4} px; {5} Filmbilder gesucht und wie der Sucher (innerhalb {6} von 255).</translation>
    </message>
    <message>
        <source>film frame {0}</source>
        <translation>Filmbild {0}</translation>
    </message>
    <message>
        <source>The film is kept.</source>
        <translation>Der Film bleibt.</translation>
    </message>
    <message>
        <source>{0}: contact strip</source>
        <translation>{0}: Kontaktstreifen</translation>
    </message>
    <message>
        <source>{0} read back with {1} of {2} frames and was not kept. The frames are in {3}; start again with --resume.</source>
        <translation>{0} hatte beim Zurücklesen {1} von {2} Bildern und wurde nicht behalten. Die Bilder liegen in {3}; beginnen Sie neu mit --resume.</translation>
    </message>
    <message>
        <source>It is {0} × {1} px, not {2} × {3}.</source>
        <translation>Es hat {0} × {1} px, nicht {2} × {3}.</translation>
    </message>
    <message>
        <source>It lasts {0} s, not {1}.</source>
        <translation>Es dauert {0} s, nicht {1}.</translation>
    </message>
    <message>
        <source>comparing with the Frame</source>
        <translation>Vergleich mit dem Sucher</translation>
    </message>
    <message>
        <source>Film frame {0} of {1} is missing. Start again with --resume.</source>
        <translation>Filmbild {0} von {1} fehlt. Beginnen Sie neu mit --resume.</translation>
    </message>
    <message>
        <source>Film frame {0} differs from the Frame.</source>
        <translation>Filmbild {0} weicht vom Sucher ab.</translation>
    </message>
    <message>
        <source>Seeking to {0} s finds no film frame.</source>
        <translation>Bei {0} s findet sich kein Filmbild.</translation>
    </message>
    <message>
        <source>Film frame {0} differs from the Frame by {1} of 255 on average.</source>
        <translation>Filmbild {0} weicht vom Sucher im Mittel um {1} von 255 ab.</translation>
    </message>
    <message>
        <source>writing the film</source>
        <translation>der Film wird geschrieben</translation>
    </message>
    <message>
        <source>film frame {0} of {1}</source>
        <translation>Filmbild {0} von {1}</translation>
    </message>
    <message>
        <source>Frames made before are kept.</source>
        <translation>Vorher gemachte Bilder bleiben.</translation>
    </message>
    <message>
        <source>set aside</source>
        <translation>beiseite gelegt</translation>
    </message>
    <message>
        <source>materials</source>
        <translation>Materialien</translation>
    </message>
    <message>
        <source>lines</source>
        <translation>Linien</translation>
    </message>
    <message>
        <source>pencil</source>
        <translation>Bleistift</translation>
    </message>
    <message>
        <source>sky</source>
        <translation>Himmel</translation>
    </message>
    <message>
        <source>plain</source>
        <translation>einfarbig</translation>
    </message>
    <message>
        <source>picture</source>
        <translation>Bild</translation>
    </message>
    <message>
        <source>transparent</source>
        <translation>durchsichtig</translation>
    </message>
    <message>
        <source>proof</source>
        <translation>Probe</translation>
    </message>
    <message>
        <source>review</source>
        <translation>Durchsicht</translation>
    </message>
    <message>
        <source>final</source>
        <translation>Endfassung</translation>
    </message>
    <message>
        <source>clear</source>
        <translation>klar</translation>
    </message>
    <message>
        <source>hazy</source>
        <translation>dunstig</translation>
    </message>
    <message>
        <source>overcast</source>
        <translation>bedeckt</translation>
    </message>
    <message>
        <source>light</source>
        <translation>Licht</translation>
    </message>
    <message>
        <source>background</source>
        <translation>Hintergrund</translation>
    </message>
    <message>
        <source>both</source>
        <translation>beides</translation>
    </message>
    <message>
        <source>thirds</source>
        <translation>Drittel</translation>
    </message>
    <message>
        <source>centre</source>
        <translation>Mitte</translation>
    </message>
    <message>
        <source>diagonals</source>
        <translation>Diagonalen</translation>
    </message>
    <message>
        <source>golden</source>
        <translation>Goldener Schnitt</translation>
    </message>
    <message>
        <source>horizon</source>
        <translation>Horizont</translation>
    </message>
    <message>
        <source>turn</source>
        <translation>drehen</translation>
    </message>
    <message>
        <source>slide</source>
        <translation>seitwärts</translation>
    </message>
    <message>
        <source>lift</source>
        <translation>heben</translation>
    </message>
    <message>
        <source>step</source>
        <translation>gehen</translation>
    </message>
    <message>
        <source>circle</source>
        <translation>kreisen</translation>
    </message>
    <message>
        <source>Screen 16:9</source>
        <translation>Bildschirm 16:9</translation>
    </message>
    <message>
        <source>Screen 1440p</source>
        <translation>Bildschirm 1440p</translation>
    </message>
    <message>
        <source>Screen 4K</source>
        <translation>Bildschirm 4K</translation>
    </message>
    <message>
        <source>Square 1:1</source>
        <translation>Quadrat 1:1</translation>
    </message>
    <message>
        <source>Tall 4:5</source>
        <translation>Hoch 4:5</translation>
    </message>
    <message>
        <source>Tall 9:16</source>
        <translation>Hoch 9:16</translation>
    </message>
    <message>
        <source>Wide 2:1</source>
        <translation>Breit 2:1</translation>
    </message>
    <message>
        <source>Wide 2.39:1</source>
        <translation>Breit 2.39:1</translation>
    </message>
    <message>
        <source>Photo 3:2</source>
        <translation>Foto 3:2</translation>
    </message>
    <message>
        <source>Film 1440p</source>
        <translation>Film 1440p</translation>
    </message>
    <message>
        <source>Film 4K</source>
        <translation>Film 4K</translation>
    </message>
    <message>
        <source>Cinema 2K</source>
        <translation>Kino 2K</translation>
    </message>
    <message>
        <source>Cinema 4K</source>
        <translation>Kino 4K</translation>
    </message>
    <message>
        <source>Ink</source>
        <translation>Tinte</translation>
    </message>
    <message>
        <source>Sepia</source>
        <translation>Sepia</translation>
    </message>
    <message>
        <source>object</source>
        <translation>Objekt</translation>
    </message>
    <message>
        <source>room</source>
        <translation>Raum</translation>
    </message>
    <message>
        <source>façade</source>
        <translation>Fassade</translation>
    </message>
    <message>
        <source>waiting</source>
        <translation>wartet</translation>
    </message>
    <message>
        <source>drawing</source>
        <translation>in Arbeit</translation>
    </message>
    <message>
        <source>made</source>
        <translation>gemacht</translation>
    </message>
    <message>
        <source>taken out</source>
        <translation>herausgenommen</translation>
    </message>
    <message>
        <source>metres</source>
        <translation>Meter</translation>
    </message>
    <message>
        <source>centimetres</source>
        <translation>Zentimeter</translation>
    </message>
    <message>
        <source>millimetres</source>
        <translation>Millimeter</translation>
    </message>
    <message>
        <source>feet and inches</source>
        <translation>Fuß und Zoll</translation>
    </message>
    <message>
        <source>as the desktop</source>
        <translation>wie der Desktop</translation>
    </message>
    <message>
        <source>project</source>
        <translation>Projekt</translation>
    </message>
    <message>
        <source>camera</source>
        <translation>Kamera</translation>
    </message>
    <message>
        <source>frame</source>
        <translation>Filmbild</translation>
    </message>
    <message>
        <source>time</source>
        <translation>Zeit</translation>
    </message>
    <message>
        <source>sun</source>
        <translation>Sonne</translation>
    </message>
    <message>
        <source>size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>quality</source>
        <translation>Güte</translation>
    </message>
    <message>
        <source>tone</source>
        <translation>Ton</translation>
    </message>
    <message>
        <source>mends</source>
        <translation>Abhilfen</translation>
    </message>
    <message>
        <source>model</source>
        <translation>Modell</translation>
    </message>
    <message>
        <source>floor</source>
        <translation>Boden</translation>
    </message>
    <message>
        <source>ceiling</source>
        <translation>Decke</translation>
    </message>
    <message>
        <source>ground</source>
        <translation>Gelände</translation>
    </message>
    <message>
        <source>lens</source>
        <translation>Objektiv</translation>
    </message>
    <message>
        <source>distance</source>
        <translation>Abstand</translation>
    </message>
    <message>
        <source>inside</source>
        <translation>innen</translation>
    </message>
    <message>
        <source>outside</source>
        <translation>außen</translation>
    </message>
    <message>
        <source>east</source>
        <translation>Ost</translation>
    </message>
    <message>
        <source>north</source>
        <translation>Nord</translation>
    </message>
    <message>
        <source>up</source>
        <translation>hoch</translation>
    </message>
    <message>
        <source>rise</source>
        <translation>Versatz</translation>
    </message>
    <message>
        <source>kept</source>
        <translation>behalten</translation>
    </message>
    <message>
        <source>still</source>
        <translation>Standbild</translation>
    </message>
    <message>
        <source>film</source>
        <translation>Film</translation>
    </message>
    <message>
        <source>panorama</source>
        <translation>Panorama</translation>
    </message>
    <message>
        <source>walk</source>
        <translation>Rundgang</translation>
    </message>
    <message>
        <source>turntable</source>
        <translation>Umrundung</translation>
    </message>
    <message>
        <source>near</source>
        <translation>nah</translation>
    </message>
    <message>
        <source>far</source>
        <translation>fern</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>glatt</translation>
    </message>
    <message>
        <source>action</source>
        <translation>Befehl</translation>
    </message>
    <message>
        <source>intent</source>
        <translation>Absicht</translation>
    </message>
    <message>
        <source>storey</source>
        <translation>Geschoss</translation>
    </message>
    <message>
        <source>even</source>
        <translation>gleich</translation>
    </message>
    <message>
        <source>corner</source>
        <translation>Ecke</translation>
    </message>
    <message>
        <source>metre</source>
        <translation>Meter</translation>
    </message>
    <message>
        <source>foot</source>
        <translation>Fuß</translation>
    </message>
    <message>
        <source>inch</source>
        <translation>Zoll</translation>
    </message>
    <message>
        <source>millimetre</source>
        <translation>Millimeter</translation>
    </message>
    <message>
        <source>centimetre</source>
        <translation>Zentimeter</translation>
    </message>
    <message>
        <source>format</source>
        <translation>Format</translation>
    </message>
    <message>
        <source>exposure</source>
        <translation>Belichtung</translation>
    </message>
    <message>
        <source>tilt</source>
        <translation>Neigung</translation>
    </message>
    <message>
        <source>plumb</source>
        <translation>Lot</translation>
    </message>
    <message>
        <source>bounds</source>
        <translation>Grenzen</translation>
    </message>
    <message>
        <source>shift</source>
        <translation>Versatz</translation>
    </message>
    <message>
        <source>eye</source>
        <translation>Auge</translation>
    </message>
    <message>
        <source>direction</source>
        <translation>Ausrichtung</translation>
    </message>
    <message>
        <source>remark</source>
        <translation>Anmerkung</translation>
    </message>
    <message>
        <source>Wall</source>
        <translation>Wand</translation>
    </message>
    <message>
        <source>Window</source>
        <translation>Fenster</translation>
    </message>
    <message>
        <source>Door</source>
        <translation>Tür</translation>
    </message>
    <message>
        <source>Roof</source>
        <translation>Dach</translation>
    </message>
    <message>
        <source>Slab</source>
        <translation>Deckenplatte</translation>
    </message>
    <message>
        <source>Floor</source>
        <translation>Boden</translation>
    </message>
    <message>
        <source>Ceiling</source>
        <translation>Decke</translation>
    </message>
    <message>
        <source>Column</source>
        <translation>Stütze</translation>
    </message>
    <message>
        <source>Beam</source>
        <translation>Träger</translation>
    </message>
    <message>
        <source>Member</source>
        <translation>Stab</translation>
    </message>
    <message>
        <source>Plate</source>
        <translation>Platte</translation>
    </message>
    <message>
        <source>Covering</source>
        <translation>Verkleidung</translation>
    </message>
    <message>
        <source>Railing</source>
        <translation>Geländer</translation>
    </message>
    <message>
        <source>Stair</source>
        <translation>Treppe</translation>
    </message>
    <message>
        <source>Ramp</source>
        <translation>Rampe</translation>
    </message>
    <message>
        <source>Furniture</source>
        <translation>Möbel</translation>
    </message>
    <message>
        <source>Glazing</source>
        <translation>Verglasung</translation>
    </message>
    <message>
        <source>Sign</source>
        <translation>Schild</translation>
    </message>
    <message>
        <source>Land</source>
        <translation>Gelände</translation>
    </message>
    <message>
        <source>Lamp</source>
        <translation>Lampe</translation>
    </message>
    <message>
        <source>Plant</source>
        <translation>Pflanze</translation>
    </message>
    <message>
        <source>Site</source>
        <translation>Grundstück</translation>
    </message>
    <message>
        <source>Space</source>
        <translation>Raum</translation>
    </message>
    <message>
        <source>Footing</source>
        <translation>Fundament</translation>
    </message>
    <message>
        <source>Pipe</source>
        <translation>Rohr</translation>
    </message>
    <message>
        <source>Duct</source>
        <translation>Kanal</translation>
    </message>
    <message>
        <source>Equipment</source>
        <translation>Gerät</translation>
    </message>
    <message>
        <source>Water</source>
        <translation>Wasser</translation>
    </message>
    <message>
        <source>Tree</source>
        <translation>Baum</translation>
    </message>
    <message>
        <source>Vehicle</source>
        <translation>Fahrzeug</translation>
    </message>
    <message>
        <source>Person</source>
        <translation>Person</translation>
    </message>
    <message>
        <source>Other</source>
        <translation>Anderes</translation>
    </message>
    <message>
        <source>{0} objects are</source>
        <translation>{0} Objekte sind</translation>
    </message>
    <message>
        <source>{0} objects have</source>
        <translation>{0} Objekte haben</translation>
    </message>
    <message>
        <source>“{0}” is</source>
        <translation>„{0}“ ist</translation>
    </message>
    <message>
        <source>“{0}” has</source>
        <translation>„{0}“ hat</translation>
    </message>
    <message>
        <source>Rays of light for {0}: a number</source>
        <translation>Lichtstrahlen für {0}: eine Zahl</translation>
    </message>
    <message>
        <source>Both ends of this stretch are sharp corners. Make one of them smooth, then pull again.</source>
        <translation>Beide Enden dieses Stücks sind scharfe Ecken. Machen Sie eine davon weich und ziehen Sie noch einmal.</translation>
    </message>
    <message>
        <source>There are no treads in this object, so there is no stair to walk up. Choose a stair.</source>
        <translation>Dieses Objekt hat keine Stufen, also gibt es keine Treppe hinaufzugehen. Bitte eine Treppe wählen.</translation>
    </message>
    <message>
        <source>its light is being refined</source>
        <translation>sein Licht wird verfeinert</translation>
    </message>
    <message>
        <source>{0} {1} made in {2}, in {3}.</source>
        <translation>{0} {1} in {2} gemacht, in {3}.</translation>
    </message>
    <message>
        <source>{0} {1} set aside: {2}</source>
        <translation>{0} {1} beiseite gelegt: {2}</translation>
    </message>
    <message>
        <source>an opening that nothing closes</source>
        <translation>eine Öffnung, die nichts schließt</translation>
    </message>
    <message>
        <source>ground that ends in view</source>
        <translation>Gelände, das im Bild endet</translation>
    </message>
    <message>
        <source>body{font:15px/1.5 sans-serif;max-width:1280px;margin:2em auto;padding:0 1em;color:#24211C;background:#FBFAF6}img{width:100%}</source>
        <translation>body{font:15px/1.5 sans-serif;max-width:1280px;margin:2em auto;padding:0 1em;color:#24211C;background:#FBFAF6}img{width:100%}</translation>
    </message>
    <message>
        <source>The pictures are kept.</source>
        <translation>Die Bilder bleiben.</translation>
    </message>
    <message>
        <source>{0}: gaps to be closed in the model</source>
        <translation>{0}: Lücken, die im Modell zu schließen sind</translation>
    </message>
    <message>
        <source>What was listed before is kept.</source>
        <translation>Was vorher aufgelistet war, bleibt.</translation>
    </message>
    <message>
        <source>No panorama was made yet. Add one to the shot list and make it; the page shows what was made.</source>
        <translation>Noch wurde kein Panorama gemacht. Fügen Sie eines zur Bildliste hinzu und machen Sie es; die Seite zeigt, was gemacht wurde.</translation>
    </message>
    <message>
        <source>It was not wanted any more.</source>
        <translation>Es wurde nicht mehr gewünscht.</translation>
    </message>
    <message>
        <source>There is not enough memory on {0}. Make the row smaller, or make it on another machine.</source>
        <translation>Auf {0} ist nicht genug Speicher. Machen Sie die Zeile kleiner, oder auf einem anderen Rechner.</translation>
    </message>
    <message>
        <source>{0}.{1} is not among what may be named between machines</source>
        <translation>{0}.{1} gehört nicht zu dem, was zwischen Rechnern genannt werden darf</translation>
    </message>
    <message>
        <source>A file is larger than the cache may become. Nothing was kept; set ALTANA_CACHE_GB.</source>
        <translation>Eine Datei ist größer, als der Zwischenspeicher werden darf. Nichts wurde behalten; setzen Sie ALTANA_CACHE_GB.</translation>
    </message>
    <message>
        <source>A file arrived otherwise than it was sent. It was not used; start the run once more.</source>
        <translation>Eine Datei kam anders an, als sie gesendet wurde. Sie wurde nicht benutzt; starten Sie den Lauf noch einmal.</translation>
    </message>
    <message>
        <source>A file that a piece needs is gone. Start the run once more with --resume.</source>
        <translation>Eine Datei, die ein Stück braucht, ist weg. Starten Sie den Lauf noch einmal mit --resume.</translation>
    </message>
    <message>
        <source>No scheduler answers at {0}. Nothing was begun. Start one there with `altana scheduler`.</source>
        <translation>Bei {0} antwortet kein Verteiler. Nichts wurde begonnen. Starten Sie dort einen mit `altana scheduler`.</translation>
    </message>
    <message>
        <source>The scheduler is gone. What was finished is kept; start the run once more with --resume.</source>
        <translation>Der Verteiler ist weg. Was fertig war, bleibt; starten Sie den Lauf noch einmal mit --resume.</translation>
    </message>
    <message>
        <source>the machines that had it ended</source>
        <translation>die Rechner, die es hatten, endeten</translation>
    </message>
    <message>
        <source>{0} cannot make the same pictures as this machine (another Altana, or another way of drawing)</source>
        <translation>{0} kann nicht dieselben Bilder machen wie dieser Rechner (ein anderes Altana, oder eine andere Art zu zeichnen)</translation>
    </message>
    <message>
        <source>no machine is lent</source>
        <translation>kein Rechner ist geliehen</translation>
    </message>
    <message>
        <source>{0} could not be made on {1} tries{2}. The others are. Try it smaller, or on this machine alone.</source>
        <translation>{0} konnte in {1} Versuchen nicht gemacht werden{2}. Die anderen sind es. Versuchen Sie es kleiner, oder nur auf diesem Rechner.</translation>
    </message>
    <message>
        <source>Not used: {0}; another Altana or another way of drawing would make other pictures.</source>
        <translation>Nicht benutzt: {0}; ein anderes Altana oder eine andere Art zu zeichnen ergäbe andere Bilder.</translation>
    </message>
    <message>
        <source>Nobody makes pieces: {0}. What was finished is kept; lend a machine with `altana worker`, and start again with --resume.</source>
        <translation>Niemand macht Stücke: {0}. Was fertig war, bleibt; leihen Sie einen Rechner mit `altana worker`, und beginnen Sie neu mit --resume.</translation>
    </message>
    <message>
        <source>Waiting: {0}. Lend one with `altana worker`.</source>
        <translation>Wartet: {0}. Leihen Sie einen mit `altana worker`.</translation>
    </message>
    <message>
        <source>{0} failed there.</source>
        <translation>{0} misslang dort.</translation>
    </message>
    <message>
        <source>{0} machines are outside 1 to {1}. Nothing was begun.</source>
        <translation>{0} Rechner liegen außerhalb von 1 bis {1}. Nichts wurde begonnen.</translation>
    </message>
    <message>
        <source>The processes that share the work did not begin. Nothing was made. Leave --machines away.</source>
        <translation>Die Prozesse, die sich die Arbeit teilen, begannen nicht. Nichts wurde gemacht. Lassen Sie --machines weg.</translation>
    </message>
    <message>
        <source>round band</source>
        <translation>Rundband</translation>
    </message>
    <message>
        <source>The order is of {0}, this machine has {1}. Nothing was made. Use the same Altana on all machines.</source>
        <translation>Der Auftrag ist von {0}, dieser Rechner hat {1}. Nichts wurde gemacht. Nehmen Sie auf allen Rechnern dasselbe Altana.</translation>
    </message>
    <message>
        <source>An order names “{0}”, which leads out of its folder. Nothing was read or made; do not trust who sent it.</source>
        <translation>Ein Auftrag nennt „{0}“, was aus seinem Ordner hinausführt. Nichts wurde gelesen oder gemacht; trauen Sie dem Absender nicht.</translation>
    </message>
    <message>
        <source>An order names a file by something that is no digest. Nothing was read or made.</source>
        <translation>Ein Auftrag nennt eine Datei durch etwas, das kein Prüfwert ist. Nichts wurde gelesen oder gemacht.</translation>
    </message>
    <message>
        <source>An order asks for {0} × {1} px; the largest picture has {2} px a side. Nothing was made.</source>
        <translation>Ein Auftrag verlangt {0} × {1} px; das größte Bild hat {2} px je Seite. Nichts wurde gemacht.</translation>
    </message>
    <message>
        <source>An order asks for {0} film frames at once. Nothing was made.</source>
        <translation>Ein Auftrag verlangt {0} Filmbilder auf einmal. Nichts wurde gemacht.</translation>
    </message>
    <message>
        <source>{0}, film frame {1}</source>
        <translation>{0}, Filmbild {1}</translation>
    </message>
    <message>
        <source>{0}, part {1} of {2}</source>
        <translation>{0}, Teil {1} von {2}</translation>
    </message>
    <message>
        <source>{0}, rows {1} of {2}</source>
        <translation>{0}, Reihen {1} von {2}</translation>
    </message>
    <message>
        <source>{0}, slice {1} of {2}</source>
        <translation>{0}, Schicht {1} von {2}</translation>
    </message>
    <message>
        <source>An order cannot be read: {0}. Nothing was made. Use the same Altana on all machines.</source>
        <translation>Ein Auftrag lässt sich nicht lesen: {0}. Nichts wurde gemacht. Nehmen Sie auf allen Rechnern dasselbe Altana.</translation>
    </message>
    <message>
        <source>The project of an order cannot be read: {0}. Nothing was made. Use the same Altana on all machines.</source>
        <translation>Das Projekt eines Auftrags lässt sich nicht lesen: {0}. Nichts wurde gemacht. Nehmen Sie auf allen Rechnern dasselbe Altana.</translation>
    </message>
    <message>
        <source>A machine sent back what cannot be read: {0}. The piece was not used; it is made once more.</source>
        <translation>Ein Rechner sandte etwas Unlesbares zurück: {0}. Das Stück wurde nicht benutzt; es wird noch einmal gemacht.</translation>
    </message>
    <message>
        <source>another Altana</source>
        <translation>ein anderes Altana</translation>
    </message>
    <message>
        <source>Not encrypted: whoever is on this network can read what is sent and may join in. `altana certificates` makes what is needed for encryption.</source>
        <translation>Nicht verschlüsselt: wer in diesem Netz ist, kann lesen, was gesendet wird, und mitmachen. `altana certificates` macht, was zur Verschlüsselung nötig ist.</translation>
    </message>
    <message>
        <source>“{0}” is no address. Write tcp://host:{1}.</source>
        <translation>„{0}“ ist keine Adresse. Schreiben Sie tcp://host:{1}.</translation>
    </message>
    <message>
        <source>{0} is encrypted. Name the folder with your certificates: --certificates DIR.</source>
        <translation>{0} ist verschlüsselt. Nennen Sie den Ordner mit Ihren Zertifikaten: --certificates DIR.</translation>
    </message>
    <message>
        <source>{0} is not in {1}. Make certificates with `altana certificates {2}`.</source>
        <translation>{0} ist nicht in {1}. Machen Sie Zertifikate mit `altana certificates {2}`.</translation>
    </message>
    <message>
        <source>There are certificates in {0}. Nothing was changed. Choose another folder, or remove them first.</source>
        <translation>In {0} sind Zertifikate. Nichts wurde geändert. Wählen Sie einen anderen Ordner, oder entfernen Sie sie erst.</translation>
    </message>
    <message>
        <source>{0} cannot be found. Nothing was sent. Check the name and the network.</source>
        <translation>{0} ist nicht zu finden. Nichts wurde gesendet. Prüfen Sie Namen und Netz.</translation>
    </message>
    <message>
        <source>{0} is not on a private network, and without certificates nothing is encrypted. Nothing was sent. Make certificates with `altana certificates`, and name their folder on all machines.</source>
        <translation>{0} ist in keinem privaten Netz, und ohne Zertifikate ist nichts verschlüsselt. Nichts wurde gesendet. Machen Sie Zertifikate mit `altana certificates`, und nennen Sie deren Ordner auf allen Rechnern.</translation>
    </message>
    <message>
        <source>Altana machines</source>
        <translation>Altana-Rechner</translation>
    </message>
    <message>
        <source>Altana machine</source>
        <translation>Altana-Rechner (einer)</translation>
    </message>
    <message>
        <source>{0} pieces. On machines of this kind it takes {1}:</source>
        <translation>{0} Stücke. Auf Rechnern dieser Art dauert es {1}:</translation>
    </message>
    <message>
        <source>More than {0} hardly help: the largest piece, starting, and this machine&apos;s own share decide then.</source>
        <translation>Mehr als {0} helfen kaum: dann entscheiden das größte Stück, das Starten und der Anteil dieses Rechners.</translation>
    </message>
    <message>
        <source>very roughly</source>
        <translation>sehr ungefähr</translation>
    </message>
    <message>
        <source>Lent to {0} as {1}.</source>
        <translation>An {0} geliehen als {1}.</translation>
    </message>
    <message>
        <source>No scheduler answers at {0}; looking again every {1} s.</source>
        <translation>Bei {0} antwortet kein Verteiler; alle {1} s wird wieder nachgesehen.</translation>
    </message>
    <message>
        <source>Nothing was kept.</source>
        <translation>Nichts wurde behalten.</translation>
    </message>
    <message>
        <source>Nothing can listen at {0}: {1}. Choose another port, or an address of this machine.</source>
        <translation>An {0} lässt sich nicht lauschen: {1}. Wählen Sie einen anderen Anschluss, oder eine Adresse dieses Rechners.</translation>
    </message>
    <message>
        <source>how it is drawn</source>
        <translation>wie es gezeichnet ist</translation>
    </message>
    <message>
        <source>its row</source>
        <translation>seine Zeile</translation>
    </message>
    <message>
        <source>its camera</source>
        <translation>seine Kamera</translation>
    </message>
    <message>
        <source>The picture is kept.</source>
        <translation>Das Bild bleibt.</translation>
    </message>
    <message>
        <source>{0} cannot be read: {1}. Make the row once more.</source>
        <translation>{0} lässt sich nicht lesen: {1}. Machen Sie die Zeile noch einmal.</translation>
    </message>
    <message>
        <source>{0} is not there. Nothing was changed. Find the file, or choose another.</source>
        <translation>{0} ist nicht da. Nichts wurde geändert. Suchen Sie die Datei, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>The project has no model yet. Add one, then stand cameras in it.</source>
        <translation>Das Projekt hat noch kein Modell. Fügen Sie eines hinzu, dann stellen Sie Kameras darin auf.</translation>
    </message>
    <message>
        <source>The project holds only linework. Add a building model, then stand cameras in it.</source>
        <translation>Das Projekt enthält nur Linien. Fügen Sie ein Gebäudemodell hinzu, dann stellen Sie Kameras darin auf.</translation>
    </message>
    <message>
        <source>{0} may not be read. Nothing was changed. Change its permissions, or copy it.</source>
        <translation>{0} darf nicht gelesen werden. Nichts wurde geändert. Ändern Sie die Rechte der Datei, oder kopieren Sie sie.</translation>
    </message>
    <message>
        <source> Pictures are made without it.</source>
        <translation> Bilder werden ohne das gemacht.</translation>
    </message>
    <message>
        <source>{0} Pictures are made without it.</source>
        <translation>{0} Bilder werden ohne das gemacht.</translation>
    </message>
    <message>
        <source>{0}: contact sheet</source>
        <translation>{0}: Kontaktbogen</translation>
    </message>
    <message>
        <source>Taken as {0} of {1} × {2} px; its middle looks to {3}°.</source>
        <translation>Genommen als {0} von {1} × {2} px; die Mitte blickt nach {3}°.</translation>
    </message>
    <message>
        <source>a stereo panorama, one eye above the other, each</source>
        <translation>ein Stereopanorama, ein Auge über dem anderen, jedes</translation>
    </message>
    <message>
        <source>It is a {0} file; hosts take JPEG.</source>
        <translation>Es ist eine {0}-Datei; Betrachter nehmen JPEG.</translation>
    </message>
    <message>
        <source>It has no panorama tags: it is shown as a flat picture. “Mend tags” puts them back.</source>
        <translation>Es hat keine Panorama-Angaben: es wird als flaches Bild gezeigt. „Angaben richten“ setzt sie wieder ein.</translation>
    </message>
    <message>
        <source>It is {0} × {1} px; a stereo pair is as high as it is wide, one eye above the other.</source>
        <translation>Es hat {0} × {1} px; ein Stereopaar ist so hoch wie breit, ein Auge über dem anderen.</translation>
    </message>
    <message>
        <source>It is wider than {0} px. Make a smaller copy.</source>
        <translation>Es ist breiter als {0} px. Machen Sie eine kleinere Kopie.</translation>
    </message>
    <message>
        <source>It is narrower than {0} px.</source>
        <translation>Es ist schmaler als {0} px.</translation>
    </message>
    <message>
        <source>It is larger than {0} MB. Make a smaller copy.</source>
        <translation>Es ist größer als {0} MB. Machen Sie eine kleinere Kopie.</translation>
    </message>
    <message>
        <source>{0} is no JPEG of a panorama, 2:1, or 1:1 for a stereo pair. Nothing was changed.</source>
        <translation>{0} ist kein JPEG eines Panoramas, 2:1, oder 1:1 bei einem Stereopaar. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>{0} is {1} × {2} px, which is not 2:1, nor 1:1 as a stereo pair. Nothing was written; cut it first.</source>
        <translation>{0} hat {1} × {2} px, was weder 2:1 ist noch 1:1 wie ein Stereopaar. Nichts wurde geschrieben; schneiden Sie es erst zu.</translation>
    </message>
    <message>
        <source>The tag {0} is missing. “Mend tags” puts it back.</source>
        <translation>Die Angabe {0} fehlt. „Angaben richten“ setzt sie wieder ein.</translation>
    </message>
    <message>
        <source>It is {0} × {1} px, as a stereo pair is, and no tag says that it is one. “Mend tags” says so.</source>
        <translation>Es hat {0} × {1} px wie ein Stereopaar, und keine Angabe sagt, dass es eines ist. „Angaben richten“ sagt es.</translation>
    </message>
    <message>
        <source>{0} cannot take tags: it is damaged. Nothing was changed.</source>
        <translation>{0} kann keine Angaben aufnehmen: die Datei ist beschädigt. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>{0} cannot be read as a picture. Nothing was changed.</source>
        <translation>{0} lässt sich nicht als Bild lesen. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>Its projection is called {0}, not equirectangular.</source>
        <translation>Seine Projektion heißt {0}, nicht equirectangular.</translation>
    </message>
    <message>
        <source>It is {0} × {1} px, which is not 2:1.</source>
        <translation>Es hat {0} × {1} px, was nicht 2:1 ist.</translation>
    </message>
    <message>
        <source>The tags tell of another size than the picture has; it was made smaller or cut elsewhere. “Mend tags” sets them right.</source>
        <translation>Die Angaben nennen eine andere Größe, als das Bild hat; es wurde anderswo verkleinert oder beschnitten. „Angaben richten“ stellt sie richtig.</translation>
    </message>
    <message>
        <source>background picture</source>
        <translation>Hintergrundbild</translation>
    </message>
    <message>
        <source>{0} cannot be read as a picture. Choose another background.</source>
        <translation>{0} lässt sich nicht als Bild lesen. Wählen Sie einen anderen Hintergrund.</translation>
    </message>
    <message>
        <source>{0} is larger than {1} px a side. Make it smaller.</source>
        <translation>{0} hat mehr als {1} px je Seite. Machen Sie es kleiner.</translation>
    </message>
    <message>
        <source>systemctl poweroff</source>
        <translation>systemctl poweroff</translation>
    </message>
    <message>
        <source>The machine is switched off in {0} s.</source>
        <translation>Der Rechner wird in {0} s ausgeschaltet.</translation>
    </message>
    <message>
        <source>The machine would be switched off now.</source>
        <translation>Der Rechner würde jetzt ausgeschaltet.</translation>
    </message>
    <message>
        <source>The machine is switched off.</source>
        <translation>Der Rechner wird ausgeschaltet.</translation>
    </message>
    <message>
        <source>The machine could not be switched off: {0}.</source>
        <translation>Der Rechner konnte nicht ausgeschaltet werden: {0}.</translation>
    </message>
    <message>
        <source>The machine stays on.</source>
        <translation>Der Rechner bleibt an.</translation>
    </message>
    <message>
        <source>its command failed</source>
        <translation>sein Befehl misslang</translation>
    </message>
    <message>
        <source>“{0}” is no template. Choose {1}.</source>
        <translation>„{0}“ ist keine Vorlage. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>{0} is damaged: reading it came to a sudden end. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt: das Lesen kam zu einem plötzlichen Ende. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} needs more memory than is free. Nothing was changed. Close other programs, or export a lighter model.
</source>
        <translation>{0} braucht mehr Speicher, als frei ist. Nichts wurde geändert. Schließen Sie andere Programme, oder exportieren Sie ein leichteres Modell.
</translation>
    </message>
    <message>
        <source>Reading {0} went wrong. Nothing was changed. Export it again, or choose another file.
</source>
        <translation>Beim Lesen von {0} ging etwas schief. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.
</translation>
    </message>
    <message>
        <source>{0} takes longer than {1} minutes to read and was given up. Nothing was changed. Export a lighter model.</source>
        <translation>{0} zu lesen dauert länger als {1} Minuten und wurde aufgegeben. Nichts wurde geändert. Exportieren Sie ein leichteres Modell.</translation>
    </message>
    <message>
        <source>Opening {0} was stopped. Nothing was changed.</source>
        <translation>Das Öffnen von {0} wurde angehalten. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>{0} remembers no camera: it was not made by Altana, or lost what was written into it. Nothing was changed.</source>
        <translation>{0} erinnert sich an keine Kamera: es wurde nicht von Altana gemacht, oder verlor, was hineingeschrieben war. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>{0} cannot be read as a picture: {1}. Nothing was changed.</source>
        <translation>{0} lässt sich nicht als Bild lesen: {1}. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>“{0}” is not a size. Write width x height in pixels, such as 1920x1080.</source>
        <translation>„{0}“ ist keine Größe. Schreiben Sie Breite x Höhe in Pixeln, wie 1920x1080.</translation>
    </message>
    <message>
        <source>A size of {0} × {1} px is outside 16 to 32768 px a side.</source>
        <translation>Eine Größe von {0} × {1} px liegt außerhalb von 16 bis 32768 px je Seite.</translation>
    </message>
    <message>
        <source>A scale of {0} % is outside 1 to 400 %.</source>
        <translation>Ein Maßstab von {0} % liegt außerhalb von 1 bis 400 %.</translation>
    </message>
    <message>
        <source>“{0}” is no quality. Choose proof, review or final.</source>
        <translation>„{0}“ ist keine Güte. Wählen Sie proof, review oder final.</translation>
    </message>
    <message>
        <source>“{0}” is no kind of picture. Choose png or jpg.</source>
        <translation>„{0}“ ist keine Art von Bild. Wählen Sie png oder jpg.</translation>
    </message>
    <message>
        <source>“{0}” is no way to draw. Choose {1}.</source>
        <translation>„{0}“ ist keine Art der Darstellung. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>“{0}” is no kind of film. Choose {1}.</source>
        <translation>„{0}“ ist keine Art von Film. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>A name is for one picture or film. Leave it out, or name one camera or walk.</source>
        <translation>Ein Name gilt für ein Bild oder einen Film. Lassen Sie ihn weg, oder nennen Sie eine Kamera oder einen Rundgang.</translation>
    </message>
    <message>
        <source>{0} lasts {1} s; nothing of it lies from {2} to {3} s. Choose a beginning before the end.</source>
        <translation>{0} dauert {1} s; nichts davon liegt zwischen {2} und {3} s. Wählen Sie einen Anfang vor dem Ende.</translation>
    </message>
    <message>
        <source>Every {0}. film frame leaves less than one a second. Choose a step of 1 to {1}.</source>
        <translation>Jedes {0}. Filmbild lässt weniger als eines je Sekunde. Wählen Sie einen Schritt von 1 bis {1}.</translation>
    </message>
    <message>
        <source>“{0}” is nothing that a stamp shows. Choose among {1}.</source>
        <translation>„{0}“ ist nichts, was ein Stempel zeigt. Wählen Sie aus {1}.</translation>
    </message>
    <message>
        <source>A stamp stands {0} or {1}, in a size of 1 to 20 % of the film&apos;s height.</source>
        <translation>Ein Stempel steht {0} oder {1}, in einer Größe von 1 bis 20 % der Filmhöhe.</translation>
    </message>
    <message>
        <source>A contact strip takes every n-th film frame, n being 1 or more; 0 makes none.</source>
        <translation>Ein Kontaktstreifen nimmt jedes n-te Filmbild, n ist 1 oder mehr; 0 macht keinen.</translation>
    </message>
    <message>
        <source>A GIF shows at most {0} pictures a second, not {1}. Choose a larger step.</source>
        <translation>Ein GIF zeigt höchstens {0} Bilder je Sekunde, nicht {1}. Wählen Sie einen größeren Schritt.</translation>
    </message>
    <message>
        <source>{0} Waiting for room in {1}; what was made is kept.</source>
        <translation>{0} Wartet auf Platz in {1}; was gemacht ist, bleibt.</translation>
    </message>
    <message>
        <source>Pictures made before are kept.</source>
        <translation>Vorher gemachte Bilder bleiben.</translation>
    </message>
    <message>
        <source>What was finished is kept.</source>
        <translation>Was fertig war, bleibt.</translation>
    </message>
    <message>
        <source>there was not enough memory</source>
        <translation>es war nicht genug Speicher da</translation>
    </message>
    <message>
        <source>{0} could not be made: {1}. The others are. Try it smaller, or on its own.</source>
        <translation>{0} konnte nicht gemacht werden: {1}. Die anderen sind es. Versuchen Sie es kleiner, oder für sich.</translation>
    </message>
    <message>
        <source>{0} is no file that cameras are written to. Choose one that ends in {1}.</source>
        <translation>In {0} lassen sich keine Kameras schreiben. Wählen Sie eine Datei, die auf {1} endet.</translation>
    </message>
    <message>
        <source>The model is written to {0}, not to {1}. Nothing was written.</source>
        <translation>Das Modell wird in {0} geschrieben, nicht in {1}. Nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>There is nothing of that kind in the project. Nothing was written.</source>
        <translation>Im Projekt ist nichts dieser Art. Nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>Walks follow the floors of a model, and the project has none. Add the model, then write them.</source>
        <translation>Rundgänge folgen den Böden eines Modells, und das Projekt hat keines. Fügen Sie das Modell hinzu, dann schreiben Sie sie.</translation>
    </message>
    <message>
        <source>What was there before is unchanged.</source>
        <translation>Was vorher da war, ist unverändert.</translation>
    </message>
    <message>
        <source>{0} is no edit. Choose a file that ends in {1}.</source>
        <translation>{0} ist keine Schnittfolge. Wählen Sie eine Datei, die auf {1} endet.</translation>
    </message>
    <message>
        <source>A still stands 0.1 to 3600 s, not {0} s.</source>
        <translation>Ein Standbild steht 0,1 bis 3600 s, nicht {0} s.</translation>
    </message>
    <message>
        <source>The shot list has no still and no film that is on. Nothing was written.</source>
        <translation>Die Bildliste hat kein Standbild und keinen Film, der ein ist. Nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>Shot list</source>
        <translation>Bildliste</translation>
    </message>
    <message>
        <source>lens mm</source>
        <translation>Objektiv mm</translation>
    </message>
    <message>
        <source>Plan, cut {0} m above the floor</source>
        <translation>Grundriss, {0} m über dem Boden geschnitten</translation>
    </message>
    <message>
        <source>Section along the line of sight</source>
        <translation>Schnitt entlang der Blicklinie</translation>
    </message>
    <message>
        <source>{0} is no file that plans are written to. Choose one that ends in {1}.</source>
        <translation>In {0} lassen sich keine Grundrisse schreiben. Wählen Sie eine Datei, die auf {1} endet.</translation>
    </message>
    <message>
        <source>A scale of 1:{0} is outside 1:{1} to 1:{2}.</source>
        <translation>Ein Maßstab von 1:{0} liegt außerhalb von 1:{1} bis 1:{2}.</translation>
    </message>
    <message>
        <source>The model has no storeys, so there is no plan.</source>
        <translation>Das Modell hat keine Geschosse, daher gibt es keinen Grundriss.</translation>
    </message>
    <message>
        <source>There is no storey “{0}”. Storeys: {1}.</source>
        <translation>Es gibt kein Geschoss „{0}“. Geschosse: {1}.</translation>
    </message>
    <message>
        <source>At 1:{0} it is {1} × {2} m on paper, more than A0. From 1:{3} on it fits.</source>
        <translation>Bei 1:{0} misst es {1} × {2} m auf Papier, mehr als A0. Ab 1:{3} passt es.</translation>
    </message>
    <message>
        <source>and {0} more</source>
        <translation>und {0} weitere</translation>
    </message>
    <message>
        <source>BCF {0} is not written. Choose {1}.</source>
        <translation>BCF {0} wird nicht geschrieben. Wählen Sie {1}.</translation>
    </message>
    <message>
        <source>“{0}” has no camera that answers it. Answer it first; nothing was written.</source>
        <translation>„{0}“ hat keine Kamera, die darauf antwortet. Beantworten Sie sie erst; nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>There is no camera and no remark to send. Nothing was written.</source>
        <translation>Es gibt keine Kamera und keine Anmerkung zu senden. Nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>Sending was stopped. Nothing was written.</source>
        <translation>Das Senden wurde angehalten. Nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>Something went wrong in the background ({0}). Nothing in the project was changed.</source>
        <translation>Im Hintergrund ging etwas schief ({0}). Im Projekt wurde nichts geändert.</translation>
    </message>
    <message>
        <source>Set aside: {0}. The camera keeps {1}.</source>
        <translation>Beiseite gelegt: {0}. Die Kamera behält {1}.</translation>
    </message>
    <message>
        <source>Made without something: {0}</source>
        <translation>Ohne etwas gemacht: {0}</translation>
    </message>
    <message>
        <source>the {0} mm lens</source>
        <translation>das Objektiv von {0} mm</translation>
    </message>
    <message>
        <source>No row of the shot list is on. Put cameras in the list, or switch rows on.</source>
        <translation>Keine Zeile der Bildliste ist ein. Setzen Sie Kameras in die Liste, oder schalten Sie Zeilen ein.</translation>
    </message>
    <message>
        <source>No row of the shot list can be tried. Put cameras in the list, or switch rows on.</source>
        <translation>Keine Zeile der Bildliste lässt sich probieren. Setzen Sie Kameras in die Liste, oder schalten Sie Zeilen ein.</translation>
    </message>
    <message>
        <source>its tilt</source>
        <translation>ihre Neigung</translation>
    </message>
    <message>
        <source>its shift</source>
        <translation>ihren Versatz</translation>
    </message>
    <message>
        <source>its bounds</source>
        <translation>ihre Grenzen</translation>
    </message>
    <message>
        <source>Its camera is no longer there. Take the row out.</source>
        <translation>Ihre Kamera ist nicht mehr da. Nehmen Sie die Zeile heraus.</translation>
    </message>
    <message>
        <source>{0} × {1} px is larger than 32768 px a side. Choose a smaller scale.</source>
        <translation>{0} × {1} px ist größer als 32768 px je Seite. Wählen Sie einen kleineren Maßstab.</translation>
    </message>
    <message>
        <source>There is no row “{0}” in the shot list, which has {1}.</source>
        <translation>Es gibt keine Zeile „{0}“ in der Bildliste; sie hat {1}.</translation>
    </message>
    <message>
        <source>Its walk is no longer there. Take the row out.</source>
        <translation>Ihr Rundgang ist nicht mehr da. Nehmen Sie die Zeile heraus.</translation>
    </message>
    <message>
        <source>{0} would be written twice. Change the name of one row, with {order} for example.</source>
        <translation>{0} würde zweimal geschrieben. Ändern Sie den Namen einer Zeile, zum Beispiel mit {order}.</translation>
    </message>
    <message>
        <source>Nothing of the shot list was made in {0} yet. Make it first; pages show what was made.</source>
        <translation>Von der Bildliste wurde in {0} noch nichts gemacht. Machen Sie sie erst; Seiten zeigen, was gemacht wurde.</translation>
    </message>
    <message>
        <source>{0} holds no film frame.</source>
        <translation>{0} enthält kein Filmbild.</translation>
    </message>
    <message>
        <source>least {0} h, mean {1} h, most {2} h</source>
        <translation>mindestens {0} h, im Mittel {1} h, höchstens {2} h</translation>
    </message>
    <message>
        <source>Nothing else was changed.</source>
        <translation>Sonst wurde nichts geändert.</translation>
    </message>
    <message>
        <source>Hours of sun, mean of the turning days of {0}</source>
        <translation>Sonnenstunden, Mittel der Wendetage von {0}</translation>
    </message>
    <message>
        <source>Hours of sun on {0}</source>
        <translation>Sonnenstunden am {0}</translation>
    </message>
    <message>
        <source>{0} cannot be read as a picture. Nothing was changed. Choose another, as HDR, EXR, JPEG or PNG.</source>
        <translation>{0} lässt sich nicht als Bild lesen. Nichts wurde geändert. Wählen Sie ein anderes, als HDR, EXR, JPEG oder PNG.</translation>
    </message>
    <message>
        <source>{0} is {1} × {2} px; surroundings go all round and are twice as wide as high. Nothing was changed.</source>
        <translation>{0} hat {1} × {2} px; eine Umgebung geht ringsum und ist doppelt so breit wie hoch. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>{0} is larger than {1} px a side. Nothing was changed. Make it smaller.</source>
        <translation>{0} hat mehr als {1} px je Seite. Nichts wurde geändert. Machen Sie es kleiner.</translation>
    </message>
    <message>
        <source>There is nothing called “{0}” in the file. It holds: {1}.</source>
        <translation>In der Datei heißt nichts „{0}“. Sie enthält: {1}.</translation>
    </message>
    <message>
        <source>“{0}” does not move and is no walk; it is not taken.</source>
        <translation>„{0}“ bewegt sich nicht und ist kein Rundgang; es wird nicht übernommen.</translation>
    </message>
    <message>
        <source>A final picture of {0} × {1} px needs about {2} GB of memory, and {3} GB are free. Nothing was written. Choose a smaller size or a region, or close other programs.</source>
        <translation>Ein Endbild von {0} × {1} px braucht etwa {2} GB Speicher, und {3} GB sind frei. Nichts wurde geschrieben. Wählen Sie eine kleinere Größe oder einen Ausschnitt, oder schließen Sie andere Programme.</translation>
    </message>
    <message>
        <source>Final pictures need the library LLVM 19 (Debian&apos;s libllvm19), which is not installed. Nothing was written. Install it, or choose review.</source>
        <translation>Endbilder brauchen die Bibliothek LLVM 19 (Debians libllvm19), die nicht installiert ist. Nichts wurde geschrieben. Installieren Sie sie, oder wählen Sie Durchsicht.</translation>
    </message>
    <message>
        <source>The path tracer ended before the picture was done. Nothing was written. Make the row smaller, or choose review.</source>
        <translation>Die Lichtverfolgung endete, bevor das Bild fertig war. Nichts wurde geschrieben. Machen Sie die Zeile kleiner, oder wählen Sie Durchsicht.</translation>
    </message>
    <message>
        <source>in the project&apos;s light: this row&apos;s is not known yet</source>
        <translation>im Licht des Projekts: das dieser Zeile ist noch nicht bekannt</translation>
    </message>
    <message>
        <source>{0} of {1} samples</source>
        <translation>{0} von {1} Abtastungen</translation>
    </message>
    <message>
        <source>{0} was not written: {1}. {2} {3}</source>
        <translation>{0} wurde nicht geschrieben: {1}. {2} {3}</translation>
    </message>
    <message>
        <source>the disk is full</source>
        <translation>die Platte ist voll</translation>
    </message>
    <message>
        <source>Make room and do it again.</source>
        <translation>Schaffen Sie Platz und versuchen Sie es wieder.</translation>
    </message>
    <message>
        <source>the disk quota is used up</source>
        <translation>das Kontingent der Platte ist aufgebraucht</translation>
    </message>
    <message>
        <source>the disk is read-only</source>
        <translation>die Platte ist schreibgeschützt</translation>
    </message>
    <message>
        <source>Choose another folder.</source>
        <translation>Wählen Sie einen anderen Ordner.</translation>
    </message>
    <message>
        <source>the folder may not be written to</source>
        <translation>in den Ordner darf nicht geschrieben werden</translation>
    </message>
    <message>
        <source>Choose another folder, or change its permissions.</source>
        <translation>Wählen Sie einen anderen Ordner, oder ändern Sie seine Rechte.</translation>
    </message>
    <message>
        <source>the folder is not there</source>
        <translation>der Ordner ist nicht da</translation>
    </message>
    <message>
        <source>part of the path is not a folder</source>
        <translation>ein Teil des Pfads ist kein Ordner</translation>
    </message>
    <message>
        <source>its name is too long</source>
        <translation>der Name ist zu lang</translation>
    </message>
    <message>
        <source>Choose a shorter one.</source>
        <translation>Wählen Sie einen kürzeren.</translation>
    </message>
    <message>
        <source>there is a folder of that name</source>
        <translation>es gibt einen Ordner dieses Namens</translation>
    </message>
    <message>
        <source>Choose another name.</source>
        <translation>Wählen Sie einen anderen Namen.</translation>
    </message>
    <message>
        <source>Try another folder.</source>
        <translation>Versuchen Sie einen anderen Ordner.</translation>
    </message>
    <message>
        <source>Nothing was changed.</source>
        <translation>Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>%(asctime)s %(process)d %(levelname)s %(name)s: %(message)s</source>
        <translation>%(asctime)s %(process)d %(levelname)s %(name)s: %(message)s</translation>
    </message>
    <message>
        <source>line style</source>
        <translation>Linienart</translation>
    </message>
    <message>
        <source>{0} cannot be used as a {1}: {2}. Nothing was changed; choose another file.</source>
        <translation>{0} lässt sich nicht verwenden ({1}): {2}. Nichts wurde geändert; wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>the project</source>
        <translation>das Projekt</translation>
    </message>
    <message>
        <source>Altana project</source>
        <translation>Altana-Projekt</translation>
    </message>
    <message>
        <source>The project as last saved is unchanged, and your changes are still open.</source>
        <translation>Das Projekt ist, wie es zuletzt gesichert wurde, und Ihre Änderungen sind noch offen.</translation>
    </message>
    <message>
        <source>the light</source>
        <translation>das Licht</translation>
    </message>
    <message>
        <source>the tone</source>
        <translation>der Ton</translation>
    </message>
    <message>
        <source>{0} is write-protected and was not changed. Your changes are still open; save them under another name.</source>
        <translation>{0} ist schreibgeschützt und wurde nicht geändert. Ihre Änderungen sind noch offen; sichern Sie sie unter anderem Namen.</translation>
    </message>
    <message>
        <source>{0} is not an Altana project. Nothing was opened. Choose a file that ends in {1}.</source>
        <translation>{0} ist kein Altana-Projekt. Nichts wurde geöffnet. Wählen Sie eine Datei, die auf {1} endet.</translation>
    </message>
    <message>
        <source>{0} says no version that Altana knows ({1}). The file was left as it is; open its newest copy.</source>
        <translation>{0} nennt keine Fassung, die Altana kennt ({1}). Die Datei blieb, wie sie ist; öffnen Sie ihre neueste Kopie.</translation>
    </message>
    <message>
        <source>{0} was written by a newer Altana (format {1}, this one reads {2}). The file was left as it is; open it with the newer one.</source>
        <translation>{0} wurde von einem neueren Altana geschrieben (Format {1}, dieses liest {2}). Die Datei blieb, wie sie ist; öffnen Sie sie mit dem neueren.</translation>
    </message>
    <message>
        <source>row {0} of the shot list</source>
        <translation>Zeile {0} der Bildliste</translation>
    </message>
    <message>
        <source>the model {0}</source>
        <translation>das Modell {0}</translation>
    </message>
    <message>
        <source>its file “{0}” does not lie in the project&apos;s folder.</source>
        <translation>die Datei „{0}“ liegt nicht im Ordner des Projekts.</translation>
    </message>
    <message>
        <source>{0} leads out of the project&apos;s folder and is not read. Copy the model into the folder.</source>
        <translation>{0} führt aus dem Ordner des Projekts hinaus und wird nicht gelesen. Kopieren Sie das Modell in den Ordner.</translation>
    </message>
    <message>
        <source>The {0} “{1}” does not lie in the project&apos;s folder and is not read. Copy it there, or choose another.</source>
        <translation>„{1}“ ({0}) liegt nicht im Ordner des Projekts und wird nicht gelesen. Kopieren Sie es dorthin, oder wählen Sie etwas anderes.</translation>
    </message>
    <message>
        <source>{0} was not written: it holds something that no text file can ({1}). The project as last saved is unchanged.</source>
        <translation>{0} wurde nicht geschrieben: es enthält etwas, das keine Textdatei fassen kann ({1}). Das Projekt ist, wie es zuletzt gesichert wurde.</translation>
    </message>
    <message>
        <source>{0} is no file (a device or a pipe). Nothing was opened. Choose the project&apos;s file.</source>
        <translation>{0} ist keine Datei (ein Gerät oder eine Leitung). Nichts wurde geöffnet. Wählen Sie die Datei des Projekts.</translation>
    </message>
    <message>
        <source>{0} is too large to be a project ({1} MB). Nothing was opened.</source>
        <translation>{0} ist zu groß für ein Projekt ({1} MB). Nichts wurde geöffnet.</translation>
    </message>
    <message>
        <source>{0} is not there. Nothing was opened. Find the file, or choose another.</source>
        <translation>{0} ist nicht da. Nichts wurde geöffnet. Suchen Sie die Datei, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} is a folder. Choose the project file in it, which ends in {1}.</source>
        <translation>{0} ist ein Ordner. Wählen Sie die Projektdatei darin, die auf {1} endet.</translation>
    </message>
    <message>
        <source>{0} may not be read. Nothing was opened. Change its permissions, or copy it.</source>
        <translation>{0} darf nicht gelesen werden. Nichts wurde geöffnet. Ändern Sie die Rechte der Datei, oder kopieren Sie sie.</translation>
    </message>
    <message>
        <source>{0} is damaged and is not read: {1}. The file was left as it is; open its newest copy.</source>
        <translation>{0} ist beschädigt und wird nicht gelesen: {1}. Die Datei blieb, wie sie ist; öffnen Sie ihre neueste Kopie.</translation>
    </message>
    <message>
        <source>{0} cannot be used: {1}. The file was left as it is; mend that place or open a copy.</source>
        <translation>{0} lässt sich nicht verwenden: {1}. Die Datei blieb, wie sie ist; beheben Sie jene Stelle oder öffnen Sie eine Kopie.</translation>
    </message>
    <message>
        <source>{0} cannot be used: {1}: {2} The file was left as it is; mend that place or open a copy.</source>
        <translation>{0} lässt sich nicht verwenden: {1}: {2} Die Datei blieb, wie sie ist; beheben Sie jene Stelle oder öffnen Sie eine Kopie.</translation>
    </message>
    <message>
        <source>The file itself is unchanged.</source>
        <translation>Die Datei selbst ist unverändert.</translation>
    </message>
    <message>
        <source>two cameras, walks or rows have the same id.</source>
        <translation>zwei Kameras, Rundgänge oder Zeilen haben dieselbe Kennung.</translation>
    </message>
    <message>
        <source>{0} was changed by somebody else meanwhile, in the same places: {1}. Nothing was written; read it again.</source>
        <translation>{0} wurde inzwischen von jemand anderem an denselben Stellen geändert: {1}. Nichts wurde geschrieben; lesen Sie es neu.</translation>
    </message>
    <message>
        <source>{0} is being saved by somebody else for {1} s. Nothing was written; try again.</source>
        <translation>{0} wird seit {1} s von jemand anderem gesichert. Nichts wurde geschrieben; versuchen Sie es wieder.</translation>
    </message>
    <message>
        <source>it is larger than {0} MB</source>
        <translation>sie ist größer als {0} MB</translation>
    </message>
    <message>
        <source>The colour table {0} is not there. Copy it into the project&apos;s folder, or choose another.</source>
        <translation>Die Farbtabelle {0} ist nicht da. Kopieren Sie sie in den Ordner des Projekts, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} cannot be used as a colour table: {1}. Nothing was changed; choose another file.</source>
        <translation>{0} lässt sich nicht als Farbtabelle verwenden: {1}. Nichts wurde geändert; wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>colour table</source>
        <translation>Farbtabelle</translation>
    </message>
    <message>
        <source>“{0}” is no town in the list and no place. Write a town, or degrees such as 47.5, 9.4.</source>
        <translation>„{0}“ ist keine Stadt der Liste und kein Ort. Schreiben Sie eine Stadt, oder Grad wie 47.5, 9.4.</translation>
    </message>
    <message>
        <source>That version is too large to be a project. The project is as it was; take another.</source>
        <translation>Diese Fassung ist zu groß für ein Projekt. Das Projekt ist, wie es war; nehmen Sie eine andere.</translation>
    </message>
    <message>
        <source>That version cannot be read any more. The project is as it was; take another.</source>
        <translation>Diese Fassung lässt sich nicht mehr lesen. Das Projekt ist, wie es war; nehmen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} holds no surfaces that can be drawn. Nothing was changed. Export it again with meshes or solids, or choose another file.</source>
        <translation>{0} enthält keine Flächen, die sich zeichnen lassen. Nichts wurde geändert. Exportieren Sie es neu mit Netzen oder Körpern, oder wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>{0} has more than {1} million triangles. Export a lighter model.</source>
        <translation>{0} hat mehr als {1} Millionen Dreiecke. Exportieren Sie ein leichteres Modell.</translation>
    </message>
    <message>
        <source>The drawing has more than {0} million lines. Export a lighter one.</source>
        <translation>Die Zeichnung hat mehr als {0} Millionen Linien. Exportieren Sie eine leichtere.</translation>
    </message>
    <message>
        <source>The model lies {0} km from the origin; it is shown moved by {1}, {2}, {3} m, so that nothing trembles.</source>
        <translation>Das Modell liegt {0} km vom Ursprung; es wird um {1}, {2}, {3} m verschoben gezeigt, damit nichts zittert.</translation>
    </message>
    <message>
        <source>{0} damaged triangles were left out.</source>
        <translation>{0} beschädigte Dreiecke wurden ausgelassen.</translation>
    </message>
    <message>
        <source> and others</source>
        <translation> und andere</translation>
    </message>
    <message>
        <source>{0} {1} up to {2} km from everything else; the middle is taken without. Leave it out of pictures, or have it moved in the model.</source>
        <translation>{0} {1} bis zu {2} km von allem anderen; die Mitte wird ohne sie genommen. Lassen Sie es aus Bildern weg, oder lassen Sie es im Modell verschieben.</translation>
    </message>
    <message>
        <source>{0} is no CityJSON file. Nothing was changed. Choose another file.</source>
        <translation>{0} ist keine CityJSON-Datei. Nichts wurde geändert. Wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as CityJSON. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als CityJSON lesen. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} says that its unit is {1} m. Nothing was changed. Choose the unit, or export it again.</source>
        <translation>{0} sagt, seine Einheit sei {1} m. Nichts wurde geändert. Wählen Sie die Einheit, oder exportieren Sie die Datei neu.</translation>
    </message>
    <message>
        <source>{0} is damaged: its parts are nested without end. Nothing was changed. Export it again.</source>
        <translation>{0} ist beschädigt: Teile sind endlos ineinander verschachtelt. Nichts wurde geändert. Exportieren Sie die Datei neu.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as COLLADA. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als COLLADA lesen. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>“{0}” in the file is a parallel view and is not offered.</source>
        <translation>„{0}“ in der Datei ist eine Parallelansicht und wird nicht angeboten.</translation>
    </message>
    <message>
        <source>millimetre, assumed</source>
        <translation>Millimeter, angenommen</translation>
    </message>
    <message>
        <source>metre, assumed</source>
        <translation>Meter, angenommen</translation>
    </message>
    <message>
        <source>{0} holds no lines and no faces that are on in its model space. Nothing was changed. Choose another drawing.</source>
        <translation>{0} enthält im Modellbereich keine Linien und Flächen, die ein sind. Nichts wurde geändert. Wählen Sie eine andere Zeichnung.</translation>
    </message>
    <message>
        <source>The drawing names no unit; it is taken as {0}. Choose the unit if that is wrong.</source>
        <translation>Die Zeichnung nennt keine Einheit; sie wird als {0} genommen. Wählen Sie die Einheit, wenn das falsch ist.</translation>
    </message>
    <message>
        <source>{0} is damaged or is not a DXF drawing. Nothing was changed. Export it again as DXF.</source>
        <translation>{0} ist beschädigt oder keine DXF-Zeichnung. Nichts wurde geändert. Exportieren Sie sie neu als DXF.</translation>
    </message>
    <message>
        <source>{0} is damaged in places; what could be read is shown.</source>
        <translation>{0} ist stellenweise beschädigt; was sich lesen ließ, wird gezeigt.</translation>
    </message>
    <message>
        <source>{0} things in the drawing could not be read and are not shown.</source>
        <translation>{0} Dinge der Zeichnung ließen sich nicht lesen und werden nicht gezeigt.</translation>
    </message>
    <message>
        <source>The drawing has more than {0} thousand things once its blocks are placed; the rest is not shown.</source>
        <translation>Die Zeichnung hat mehr als {0} Tausend Dinge, wenn ihre Blöcke gesetzt sind; der Rest wird nicht gezeigt.</translation>
    </message>
    <message>
        <source>{0} files are</source>
        <translation>{0} Dateien sind</translation>
    </message>
    <message>
        <source>One file is</source>
        <translation>Eine Datei ist</translation>
    </message>
    <message>
        <source>{0} not in the model&apos;s folder: {1}. Plain colours stand in; put them there and reload.</source>
        <translation>{0} nicht im Ordner des Modells: {1}. Einfache Farben stehen dafür; legen Sie sie dorthin und lesen Sie neu.</translation>
    </message>
    <message>
        <source>{0} not in the model&apos;s folder: {1}. What is in there is not shown; put them there and reload.</source>
        <translation>{0} nicht im Ordner des Modells: {1}. Was darin ist, wird nicht gezeigt; legen Sie sie dorthin und lesen Sie neu.</translation>
    </message>
    <message>
        <source>meshopt compression</source>
        <translation>meshopt-Kompression</translation>
    </message>
    <message>
        <source>KTX2 pictures</source>
        <translation>KTX2-Bilder</translation>
    </message>
    <message>
        <source>{0} is damaged: {1}. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt: {1}. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>it names a part of its {0} that is not there</source>
        <translation>sie nennt einen Teil ihrer {0}, der nicht da ist</translation>
    </message>
    <message>
        <source>{0} is not a binary glTF file. Nothing was changed. Choose another file.</source>
        <translation>{0} ist keine binäre glTF-Datei. Nichts wurde geändert. Wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>its head makes no sense</source>
        <translation>ihr Kopf ergibt keinen Sinn</translation>
    </message>
    <message>
        <source>{0} is glTF of version 1; Altana reads version 2. Nothing was changed. Export it as glTF 2.0.</source>
        <translation>{0} ist glTF der Version 1; Altana liest Version 2. Nichts wurde geändert. Exportieren Sie als glTF 2.0.</translation>
    </message>
    <message>
        <source>{0} breaks off: {1} of {2} bytes are there. Nothing was changed. Copy or export it again.</source>
        <translation>{0} bricht ab: {1} von {2} Bytes sind da. Nichts wurde geändert. Kopieren oder exportieren Sie die Datei neu.</translation>
    </message>
    <message>
        <source>it does not say that it is glTF</source>
        <translation>sie sagt nicht, dass sie glTF ist</translation>
    </message>
    <message>
        <source>{0} is glTF of version {1}; Altana reads version 2. Nothing was changed. Export it as glTF 2.0.</source>
        <translation>{0} ist glTF der Version {1}; Altana liest Version 2. Nichts wurde geändert. Exportieren Sie als glTF 2.0.</translation>
    </message>
    <message>
        <source>{0} needs {1}, which Altana does not read. Nothing was changed. Export it without.</source>
        <translation>{0} braucht {1}, was Altana nicht liest. Nichts wurde geändert. Exportieren Sie ohne.</translation>
    </message>
    <message>
        <source>{0} bytes of numbers are named and {1} are there</source>
        <translation>{0} Bytes Zahlen sind genannt und {1} sind da</translation>
    </message>
    <message>
        <source>an array of numbers is of no known type</source>
        <translation>ein Zahlenfeld ist von keiner bekannten Art</translation>
    </message>
    <message>
        <source>an array of {0} numbers reaches beyond its {1} bytes</source>
        <translation>ein Feld von {0} Zahlen reicht über seine {1} Bytes hinaus</translation>
    </message>
    <message>
        <source>a replacement lies beyond its array</source>
        <translation>eine Ersetzung liegt außerhalb ihres Felds</translation>
    </message>
    <message>
        <source>a part of it is longer than the file</source>
        <translation>ein Teil davon ist länger als die Datei</translation>
    </message>
    <message>
        <source>its description cannot be read</source>
        <translation>ihre Beschreibung lässt sich nicht lesen</translation>
    </message>
    <message>
        <source>its numbers are missing</source>
        <translation>ihre Zahlen fehlen</translation>
    </message>
    <message>
        <source>a part of its numbers cannot be decoded</source>
        <translation>ein Teil ihrer Zahlen lässt sich nicht entschlüsseln</translation>
    </message>
    <message>
        <source>{0} needs meshopt compression, which Altana does not read. Nothing was changed. Export it without.</source>
        <translation>{0} braucht meshopt-Kompression, die Altana nicht liest. Nichts wurde geändert. Exportieren Sie ohne.</translation>
    </message>
    <message>
        <source>{0} needs {1}, which is not in its folder. Nothing was changed. Put both into one folder.</source>
        <translation>{0} braucht {1}, was nicht im selben Ordner ist. Nichts wurde geändert. Legen Sie beide in einen Ordner.</translation>
    </message>
    <message>
        <source>A picture is KTX2, which Altana does not read; a plain colour stands in.</source>
        <translation>Ein Bild ist KTX2, das Altana nicht liest; eine einfache Farbe steht dafür.</translation>
    </message>
    <message>
        <source>its {0} are of another type</source>
        <translation>ihre {0} sind von anderer Art</translation>
    </message>
    <message>
        <source>a surface compressed as Draco holds no triangles</source>
        <translation>eine als Draco verdichtete Fläche enthält keine Dreiecke</translation>
    </message>
    <message>
        <source>a surface names corner {0} of {1}</source>
        <translation>eine Fläche nennt Ecke {0} von {1}</translation>
    </message>
    <message>
        <source>a surface compressed as Draco cannot be unpacked</source>
        <translation>eine als Draco verdichtete Fläche lässt sich nicht entpacken</translation>
    </message>
    <message>
        <source>{0} is damaged: {1} is missing from a compressed surface. Nothing was changed.</source>
        <translation>{0} ist beschädigt: {1} fehlt bei einer verdichteten Fläche. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>{0} m, as chosen</source>
        <translation>{0} m, wie gewählt</translation>
    </message>
    <message>
        <source>The storeys and rooms written in the file cannot be read; storeys are found from its floors.</source>
        <translation>Geschosse und Räume, die in der Datei stehen, lassen sich nicht lesen; Geschosse werden aus den Böden gefunden.</translation>
    </message>
    <message>
        <source>Some things stand twice in the file&apos;s order or hold themselves; they are shown once.</source>
        <translation>Manche Dinge stehen zweimal in der Ordnung der Datei oder enthalten sich selbst; sie werden einmal gezeigt.</translation>
    </message>
    <message>
        <source>its parts are nested without end</source>
        <translation>ihre Teile sind endlos ineinander verschachtelt</translation>
    </message>
    <message>
        <source>a skin has other numbers of corners than its surface</source>
        <translation>eine Haut hat eine andere Zahl von Ecken als ihre Fläche</translation>
    </message>
    <message>
        <source>{0} is not an IFC file. Nothing was changed. Choose another file.</source>
        <translation>{0} ist keine IFC-Datei. Nichts wurde geändert. Wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>{0} breaks off before its project is described. Nothing was changed. Export it again.</source>
        <translation>{0} bricht ab, bevor das Projekt beschrieben ist. Nichts wurde geändert. Exportieren Sie die Datei neu.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be unpacked. Nothing was changed. Export it again.</source>
        <translation>{0} ist beschädigt und lässt sich nicht entpacken. Nichts wurde geändert. Exportieren Sie die Datei neu.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as IFC. Nothing was changed. Export it again.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als IFC lesen. Nichts wurde geändert. Exportieren Sie die Datei neu.</translation>
    </message>
    <message>
        <source>{0} of {1} products have no shape that can be drawn.</source>
        <translation>{0} von {1} Bauteilen haben keine Form, die sich zeichnen lässt.</translation>
    </message>
    <message>
        <source>The file breaks off before its end; what could be read is shown.</source>
        <translation>Die Datei bricht vor ihrem Ende ab; was sich lesen ließ, wird gezeigt.</translation>
    </message>
    <message>
        <source>{0} is an archive without an IFC file. Nothing was changed. Choose another file.</source>
        <translation>{0} ist ein Archiv ohne IFC-Datei. Nichts wurde geändert. Wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>{0} brings entities of its own, which Altana does not follow. Nothing was changed. Export it again as IFC.</source>
        <translation>{0} bringt eigene Entitäten mit, denen Altana nicht folgt. Nichts wurde geändert. Exportieren Sie es neu als IFC.</translation>
    </message>
    <message>
        <source>The file names no storeys; {0} found from its level floors.</source>
        <translation>Die Datei nennt keine Geschosse; {0} aus ihren ebenen Böden gefunden.</translation>
    </message>
    <message>
        <source>The file names no rooms; {0} were found from what its walls enclose.</source>
        <translation>Die Datei nennt keine Räume; {0} wurden aus dem gefunden, was ihre Wände umschließen.</translation>
    </message>
    <message>
        <source>one was</source>
        <translation>eines wurde</translation>
    </message>
    <message>
        <source>The file names no storeys, and no floor under a roof was found in it; it stands on one level.</source>
        <translation>Die Datei nennt keine Geschosse, und kein Boden unter einem Dach wurde gefunden; sie steht auf einer Ebene.</translation>
    </message>
    <message>
        <source>Ground level</source>
        <translation>Ebene des Geländes</translation>
    </message>
    <message>
        <source>{0} asks for {1} GB of memory and {2} GB are free. Nothing was changed. Close other programs, or export a lighter model.</source>
        <translation>{0} verlangt {1} GB Speicher, und {2} GB sind frei. Nichts wurde geändert. Schließen Sie andere Programme, oder exportieren Sie ein leichteres Modell.</translation>
    </message>
    <message>
        <source>{0} has {1} million triangles once everything in it is placed; this machine has room for {2} million now. Nothing was changed. Close other programs, or export a lighter model.</source>
        <translation>{0} hat {1} Millionen Dreiecke, wenn alles darin gesetzt ist; dieser Rechner hat jetzt Platz für {2} Millionen. Nichts wurde geändert. Schließen Sie andere Programme, oder exportieren Sie ein leichteres Modell.</translation>
    </message>
    <message>
        <source>{0} is packed more tightly than any building model. Nothing was changed. Choose another file.</source>
        <translation>{0} ist dichter gepackt als irgendein Gebäudemodell. Nichts wurde geändert. Wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>Curves and curved surfaces in the file are not shown: {0}. Export it as faces.</source>
        <translation>Kurven und gekrümmte Flächen in der Datei werden nicht gezeigt: {0}. Exportieren Sie sie als Flächen.</translation>
    </message>
    <message>
        <source>{0} faces name corners that the file does not have; they were left out.</source>
        <translation>{0} Flächen nennen Ecken, die die Datei nicht hat; sie wurden ausgelassen.</translation>
    </message>
    <message>
        <source>{0} things in the file refer to shapes that it does not hold or that cannot be read; they are not shown.</source>
        <translation>{0} Dinge in der Datei verweisen auf Formen, die sie nicht enthält oder die sich nicht lesen lassen; sie werden nicht gezeigt.</translation>
    </message>
    <message>
        <source>{0} is damaged: a face names no numbers. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt: eine Fläche nennt keine Zahlen. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>The picture “{0}” cannot be read; a plain colour stands in.</source>
        <translation>Das Bild „{0}“ lässt sich nicht lesen; eine einfache Farbe steht dafür.</translation>
    </message>
    <message>
        <source>{0} holds no points. Nothing was changed. Choose another file.</source>
        <translation>{0} enthält keine Punkte. Nichts wurde geändert. Wählen Sie eine andere Datei.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as a scan. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als Laserscan lesen. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>The scan has {0} points; every {1}th was read.</source>
        <translation>Der Scan hat {0} Punkte; jeder {1}. wurde gelesen.</translation>
    </message>
    <message>
        <source>The scan has {0} points; {1} are shown, {2} cm apart.</source>
        <translation>Der Scan hat {0} Punkte; {1} werden gezeigt, {2} cm auseinander.</translation>
    </message>
    <message>
        <source>IFC in an archive</source>
        <translation>IFC in einem Archiv</translation>
    </message>
    <message>
        <source>IFC as XML</source>
        <translation>IFC als XML</translation>
    </message>
    <message>
        <source>binary glTF</source>
        <translation>binäres glTF</translation>
    </message>
    <message>
        <source>USD in a package</source>
        <translation>USD in einem Paket</translation>
    </message>
    <message>
        <source>laser scan</source>
        <translation>Laserscan</translation>
    </message>
    <message>
        <source>{0} is of no kind that Altana opens. It opens {1}.</source>
        <translation>{0} ist von keiner Art, die Altana öffnet. Es öffnet {1}.</translation>
    </message>
    <message>
        <source>{0} needs more memory than is free. Nothing was changed. Close other programs, or export a lighter model.</source>
        <translation>{0} braucht mehr Speicher, als frei ist. Nichts wurde geändert. Schließen Sie andere Programme, oder exportieren Sie ein leichteres Modell.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as {1}. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als {1} lesen. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>{0} is empty. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist leer. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>The file names no unit; it is taken as {0} and is then {1} wide. In {2} it would be {3} wide.</source>
        <translation>Die Datei nennt keine Einheit; sie wird als {0} genommen und ist dann {1} breit. In {2} wäre sie {3} breit.</translation>
    </message>
    <message>
        <source>The file names no unit; it is taken as {0} and is then {1} high. In {2} it would be {3} high.</source>
        <translation>Die Datei nennt keine Einheit; sie wird als {0} genommen und ist dann {1} hoch. In {2} wäre sie {3} hoch.</translation>
    </message>
    <message>
        <source>The file does not say which way is up; {0} is taken as up.</source>
        <translation>Die Datei sagt nicht, wo oben ist; {0} wird als oben genommen.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as USD. Nothing was changed. Export it again, or choose another file.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als USD lesen. Nichts wurde geändert. Exportieren Sie die Datei neu, oder wählen Sie eine andere.</translation>
    </message>
    <message>
        <source>“{0}” names corners that it does not have; it was left out.</source>
        <translation>„{0}“ nennt Ecken, die es nicht hat; es wurde ausgelassen.</translation>
    </message>
    <message>
        <source>The material “{0}” is of a kind that Altana does not read; a plain colour stands in.</source>
        <translation>Das Material „{0}“ ist von einer Art, die Altana nicht liest; eine einfache Farbe steht dafür.</translation>
    </message>
    <message>
        <source>{0} surfaces are damaged and are not shown.</source>
        <translation>{0} Flächen sind beschädigt und werden nicht gezeigt.</translation>
    </message>
    <message>
        <source>{0} is an OFF file of numbers or of other than three dimensions, which Altana does not read. Nothing was changed. Export it as plain OFF.</source>
        <translation>{0} ist eine OFF-Datei in Binärform oder mit anderen als drei Dimensionen, die Altana nicht liest. Nichts wurde geändert. Exportieren Sie sie als einfaches OFF.</translation>
    </message>
    <message>
        <source>Layers that are off or frozen in the file are not shown: {0}.</source>
        <translation>Layer, die in der Datei ausgeschaltet oder eingefroren sind, werden nicht gezeigt: {0}.</translation>
    </message>
    <message>
        <source>Some shapes in the file are not shown: {0}. Export them as meshes.</source>
        <translation>Einige Formen in der Datei werden nicht gezeigt: {0}. Exportieren Sie sie als Netze.</translation>
    </message>
    <message>
        <source>{0} holds no remark. Nothing was taken.</source>
        <translation>{0} enthält keine Anmerkung. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>“{0}” has {1} viewpoints; the first is taken.</source>
        <translation>„{0}“ hat {1} Blickpunkte; der erste wird genommen.</translation>
    </message>
    <message>
        <source>“{0}” is seen in a parallel view, which no lens has; its words are taken.</source>
        <translation>„{0}“ ist in einer Parallelansicht gesehen, die kein Objektiv hat; die Worte werden übernommen.</translation>
    </message>
    <message>
        <source>“{0}” looks nowhere; its words are taken.</source>
        <translation>„{0}“ blickt nirgendwohin; die Worte werden übernommen.</translation>
    </message>
    <message>
        <source>{0} is damaged, or no BCF that can be read. Nothing was taken.</source>
        <translation>{0} ist beschädigt, oder kein BCF, das sich lesen lässt. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} cannot be read as a BCF. Nothing was taken.</source>
        <translation>{0} lässt sich nicht als BCF lesen. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} is no BCF: it tells no version. Nothing was taken.</source>
        <translation>{0} ist kein BCF: es nennt keine Version. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} unpacks to more than a BCF holds. Nothing was taken.</source>
        <translation>{0} entpackt sich zu mehr, als ein BCF fasst. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>“{0}” has no viewpoint.</source>
        <translation>„{0}“ hat keinen Blickpunkt.</translation>
    </message>
    <message>
        <source>“{0}” is cut by a plane that leans or lies level; it is not taken.</source>
        <translation>„{0}“ ist von einer Ebene geschnitten, die schräg oder waagrecht liegt; es wird nicht übernommen.</translation>
    </message>
    <message>
        <source>{0} declares entities, which no BCF does. Nothing was taken.</source>
        <translation>{0} erklärt Entitäten, was kein BCF tut. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>BCF has no shifted lenses: the picture beside it is right, the viewpoint looks along the axis: {0}.</source>
        <translation>BCF kennt keine versetzten Objektive: das Bild daneben ist richtig, der Blickpunkt blickt entlang der Achse: {0}.</translation>
    </message>
    <message>
        <source>BCF&apos;s planes have no ends, so a wall cut cuts all that lies before its plane: {0}.</source>
        <translation>Ebenen in BCF haben keine Enden, daher schneidet ein Wandschnitt alles vor seiner Ebene: {0}.</translation>
    </message>
    <message>
        <source>BCF 2.1 does not hold a view&apos;s proportion; the picture beside it tells it.</source>
        <translation>BCF 2.1 fasst das Verhältnis einer Ansicht nicht; das Bild daneben sagt es.</translation>
    </message>
    <message>
        <source>Shown by “{0}”.</source>
        <translation>Gezeigt von „{0}“.</translation>
    </message>
    <message>
        <source>BCF 2.1 allows 45° to 60° up, and these are written as they are, which most readers take; 3.0 holds them: {0}.</source>
        <translation>BCF 2.1 erlaubt 45° bis 60° hoch, und diese sind geschrieben, wie sie sind, was die meisten nehmen; 3.0 fasst sie: {0}.</translation>
    </message>
    <message>
        <source>“{0}” has more than {1} keys. Nothing was taken.</source>
        <translation>„{0}“ hat mehr als {1} Schlüsselstellen. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} is damaged and cannot be read as glTF. Nothing was taken.</source>
        <translation>{0} ist beschädigt und lässt sich nicht als glTF lesen. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>The nodes of the file hold each other in a circle. Nothing was taken.</source>
        <translation>Die Knoten der Datei enthalten einander im Kreis. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>“{0}” is a parallel view, which no lens has; it is not taken.</source>
        <translation>„{0}“ ist eine Parallelansicht, die kein Objektiv hat; sie wird nicht übernommen.</translation>
    </message>
    <message>
        <source>A camera without a proportion cannot be taken.</source>
        <translation>Eine Kamera ohne Verhältnis lässt sich nicht übernehmen.</translation>
    </message>
    <message>
        <source>A camera without an angle of view cannot be taken.</source>
        <translation>Eine Kamera ohne Bildwinkel lässt sich nicht übernehmen.</translation>
    </message>
    <message>
        <source>“{0}” stands still; it is taken as a camera.</source>
        <translation>„{0}“ steht still; es wird als Kamera übernommen.</translation>
    </message>
    <message>
        <source>“{0}” cannot be walked; it is taken as a camera.</source>
        <translation>„{0}“ lässt sich nicht gehen; es wird als Kamera übernommen.</translation>
    </message>
    <message>
        <source>“{0}” is taken as a route through {1} places; at most it lies {2} cm and {3}° off the film frames that came.</source>
        <translation>„{0}“ wird als Route durch {1} Orte übernommen; höchstens liegt sie {2} cm und {3}° neben den gelieferten Filmbildern.</translation>
    </message>
    <message>
        <source>“{0}” rolls on its way; a walk keeps the horizon level.</source>
        <translation>„{0}“ verkantet unterwegs; ein Rundgang hält den Horizont waagrecht.</translation>
    </message>
    <message>
        <source>“{0}” has a lens or size that makes no picture.</source>
        <translation>„{0}“ hat ein Objektiv oder eine Größe, die kein Bild ergibt.</translation>
    </message>
    <message>
        <source>{0} has no rows with a place. Nothing was taken.</source>
        <translation>{0} hat keine Zeilen mit einem Ort. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} has more than {1} rows. Nothing was taken.</source>
        <translation>{0} hat mehr als {1} Zeilen. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} has no columns x, y and z in its first line. Name them so, in metres; nothing was taken.</source>
        <translation>{0} hat in der ersten Zeile keine Spalten x, y und z. Benennen Sie sie so, in Metern; nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>“{0}” stands in {1} rows; the first is taken.</source>
        <translation>„{0}“ steht in {1} Zeilen; die erste wird genommen.</translation>
    </message>
    <message>
        <source>{0} is too large for a table of cameras. Nothing was taken.</source>
        <translation>{0} ist zu groß für eine Tabelle von Kameras. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} cannot be read. Nothing was taken.</source>
        <translation>{0} lässt sich nicht lesen. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} is no text in UTF-8. Save it as UTF-8; nothing was taken.</source>
        <translation>{0} ist kein Text in UTF-8. Sichern Sie ihn als UTF-8; nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} is no table that can be read. Nothing was taken.</source>
        <translation>{0} ist keine Tabelle, die sich lesen lässt. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>{0} is no table of cameras as Altana writes it. Nothing was taken.</source>
        <translation>{0} ist keine Tabelle von Kameras, wie Altana sie schreibt. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>Line {0} of {1}</source>
        <translation>Zeile {0} von {1}</translation>
    </message>
    <message>
        <source>{0} has a value that is no number or makes no camera. Nothing was taken.</source>
        <translation>{0} hat einen Wert, der keine Zahl ist oder keine Kamera ergibt. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>Rise and cross are no part of this format and stand in its extras: {0}.</source>
        <translation>Hoch- und Querversatz gehören nicht zu diesem Format und stehen in seinen Zusätzen: {0}.</translation>
    </message>
    <message>
        <source>Lenses that change on the way are no part of this format and stand in its extras: {0}.</source>
        <translation>Objektive, die sich unterwegs ändern, gehören nicht zu diesem Format und stehen in seinen Zusätzen: {0}.</translation>
    </message>
    <message>
        <source>Wall cuts are not written: {0}.</source>
        <translation>Wandschnitte werden nicht geschrieben: {0}.</translation>
    </message>
    <message>
        <source>{0} cannot be read as USD. Nothing was taken.</source>
        <translation>{0} lässt sich nicht als USD lesen. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>“{0}” has more than {1} time samples. Nothing was taken.</source>
        <translation>„{0}“ hat mehr als {1} Zeitpunkte. Nichts wurde übernommen.</translation>
    </message>
    <message>
        <source>Pictures cannot be drawn: OpenGL 3.3 through EGL is not available. Install the packages listed in packages-debian.txt and start again.</source>
        <translation>Bilder lassen sich nicht zeichnen: OpenGL 3.3 über EGL ist nicht vorhanden. Installieren Sie die Pakete aus packages-debian.txt und starten Sie neu.</translation>
    </message>
    <message>
        <source>bottom left</source>
        <translation>unten links</translation>
    </message>
    <message>
        <source>The project&apos;s name</source>
        <translation>Name des Projekts</translation>
    </message>
    <message>
        <source>The walk&apos;s name</source>
        <translation>Name des Rundgangs</translation>
    </message>
    <message>
        <source>The film frame&apos;s number</source>
        <translation>Nummer des Filmbilds</translation>
    </message>
    <message>
        <source>The second of the walk</source>
        <translation>Sekunde des Rundgangs</translation>
    </message>
    <message>
        <source>Date and local time of the sun</source>
        <translation>Datum und Ortszeit der Sonne</translation>
    </message>
    <message>
        <source>top left</source>
        <translation>oben links</translation>
    </message>
    <message>
        <source>top right</source>
        <translation>oben rechts</translation>
    </message>
    <message>
        <source>bottom right</source>
        <translation>unten rechts</translation>
    </message>
    <message>
        <source>A contact strip of no pictures cannot be made.</source>
        <translation>Ein Kontaktstreifen ohne Bilder lässt sich nicht machen.</translation>
    </message>
    <message>
        <source>A film of {0} × {1} px cannot be written: H.264 needs even numbers. Choose {2} × {3}.</source>
        <translation>Ein Film von {0} × {1} px lässt sich nicht schreiben: H.264 braucht gerade Zahlen. Wählen Sie {2} × {3}.</translation>
    </message>
    <message>
        <source>A JPEG ends at {0} px a side. Nothing was written. Choose PNG.</source>
        <translation>Ein JPEG endet bei {0} px je Seite. Nichts wurde geschrieben. Wählen Sie PNG.</translation>
    </message>
    <message>
        <source>A GIF shows at most {0} pictures a second, not {1}. Choose every second film frame.</source>
        <translation>Ein GIF zeigt höchstens {0} Bilder je Sekunde, nicht {1}. Wählen Sie jedes zweite Filmbild.</translation>
    </message>
</context>
</TS>
