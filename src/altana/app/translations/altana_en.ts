<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en" sourcelanguage="en">
<context>
    <name></name>
    <message numerus="yes">
        <source>%n vertical edges, at worst {worst:.1f} px off</source>
        <translation>
            <numerusform>%n vertical edge, at worst {worst:.1f} px off</numerusform>
            <numerusform>%n vertical edges, at worst {worst:.1f} px off</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n vertical edges, all true</source>
        <translation>
            <numerusform>%n vertical edge, all true</numerusform>
            <numerusform>%n vertical edges, all true</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n objects hidden here: the picture shows them</source>
        <extracomment>The line below the picture that says what it is for. Pixels at the Frame&apos;s edge where its tools lie. Whether the chosen object is outlined.</extracomment>
        <translation>
            <numerusform>%n object hidden here: the picture shows it</numerusform>
            <numerusform>%n objects hidden here: the picture shows them</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n objects never seen: outlined</source>
        <translation>
            <numerusform>%n object never seen: outlined</numerusform>
            <numerusform>%n objects never seen: outlined</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Plumb %n cameras</source>
        <translation>
            <numerusform>Plumb %n camera</numerusform>
            <numerusform>Plumb %n cameras</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n wall cuts</source>
        <translation>
            <numerusform>%n wall cut</numerusform>
            <numerusform>%n wall cuts</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Its %n rows in the shot list.</source>
        <translation>
            <numerusform>Its %n row in the shot list.</numerusform>
            <numerusform>Its %n rows in the shot list.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n more</source>
        <translation>
            <numerusform>%n more</numerusform>
            <numerusform>%n more</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source> and %n more</source>
        <translation>
            <numerusform> and %n more</numerusform>
            <numerusform> and %n more</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n more on the Model desk, and by Find.</source>
        <translation>
            <numerusform>%n more on the Model desk, and by Find.</numerusform>
            <numerusform>%n more on the Model desk, and by Find.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Make %n stills…</source>
        <translation>
            <numerusform>Make %n still…</numerusform>
            <numerusform>Make %n stills…</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n cameras</source>
        <translation>
            <numerusform>%n camera</numerusform>
            <numerusform>%n cameras</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n tries</source>
        <translation>
            <numerusform>%n try</numerusform>
            <numerusform>%n tries</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{name}, %n cameras</source>
        <translation>
            <numerusform>{name}, %n camera</numerusform>
            <numerusform>{name}, %n cameras</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n rows</source>
        <translation>
            <numerusform>%n row</numerusform>
            <numerusform>%n rows</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source> %n cannot be made as they are.</source>
        <translation>
            <numerusform> %n cannot be made as they are.</numerusform>
            <numerusform> %n cannot be made as they are.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n cameras are chosen in Compose.</source>
        <translation>
            <numerusform>%n camera is chosen in Compose.</numerusform>
            <numerusform>%n cameras are chosen in Compose.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n samples</source>
        <translation>
            <numerusform>%n sample</numerusform>
            <numerusform>%n samples</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n passes</source>
        <translation>
            <numerusform>%n pass</numerusform>
            <numerusform>%n passes</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{what} (%n machines)</source>
        <translation>
            <numerusform>{what} (%n machine)</numerusform>
            <numerusform>{what} (%n machines)</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>This machine, %n processes</source>
        <translation>
            <numerusform>This machine, %n process</numerusform>
            <numerusform>This machine, %n processes</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>In %n processes</source>
        <translation>
            <numerusform>In %n process</numerusform>
            <numerusform>In %n processes</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>… and %n things more</source>
        <translation>
            <numerusform>… and %n thing more</numerusform>
            <numerusform>… and %n things more</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n pictures into the shot list</source>
        <translation>
            <numerusform>%n picture into the shot list</numerusform>
            <numerusform>%n pictures into the shot list</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n rows were added to the shot list on Hand over.</source>
        <translation>
            <numerusform>%n row was added to the shot list on Hand over.</numerusform>
            <numerusform>%n rows were added to the shot list on Hand over.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>The table of %n objects is in {path}.</source>
        <translation>
            <numerusform>The table of %n object is in {path}.</numerusform>
            <numerusform>The table of %n objects is in {path}.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{lines} reference lines on %n layers</source>
        <translation>
            <numerusform>{lines} reference lines on %n layer</numerusform>
            <numerusform>{lines} reference lines on %n layers</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Remove %n cameras</source>
        <translation>
            <numerusform>Remove %n camera</numerusform>
            <numerusform>Remove %n cameras</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n walks</source>
        <translation>
            <numerusform>%n walk</numerusform>
            <numerusform>%n walks</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n things taken in.{more}</source>
        <translation>
            <numerusform>%n thing taken in.{more}</numerusform>
            <numerusform>%n things taken in.{more}</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n remarks, {done} answered.</source>
        <translation>
            <numerusform>%n remark, {done} answered.</numerusform>
            <numerusform>%n remarks, {done} answered.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source> and %n more things</source>
        <extracomment>The file&apos;s content by its digest, and the project that was in it.</extracomment>
        <translation>
            <numerusform> and %n more thing</numerusform>
            <numerusform> and %n more things</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{file} holds %n things. Only what is ticked is taken; undo takes it back.</source>
        <translation>
            <numerusform>{file} holds %n thing. Only what is ticked is taken; undo takes it back.</numerusform>
            <numerusform>{file} holds %n things. Only what is ticked is taken; undo takes it back.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{seconds:g} s at {rate} film frames a second, %n places</source>
        <translation>
            <numerusform>{seconds:g} s at {rate} film frames a second, %n place</numerusform>
            <numerusform>{seconds:g} s at {rate} film frames a second, %n places</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n objects only are shown</source>
        <translation>
            <numerusform>%n object only is shown</numerusform>
            <numerusform>%n objects only are shown</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n objects are not shown</source>
        <translation>
            <numerusform>%n object is not shown</numerusform>
            <numerusform>%n objects are not shown</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{way}, %n spans</source>
        <translation>
            <numerusform>{way}, %n span</numerusform>
            <numerusform>{way}, %n spans</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n places</source>
        <translation>
            <numerusform>%n place</numerusform>
            <numerusform>%n places</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n places. Press the next one on the plan; Return ends the route.</source>
        <translation>
            <numerusform>%n place. Press the next one on the plan; Return ends the route.</numerusform>
            <numerusform>%n places. Press the next one on the plan; Return ends the route.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n cameras are chosen.</source>
        <translation>
            <numerusform>%n camera is chosen.</numerusform>
            <numerusform>%n cameras are chosen.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source> %n were set aside.</source>
        <extracomment>What is written into the job&apos;s folder once somebody has seen its end.</extracomment>
        <translation>
            <numerusform> %n was set aside.</numerusform>
            <numerusform> %n were set aside.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n files made in {out}.{more}{off}</source>
        <translation>
            <numerusform>%n file made in {out}.{more}{off}</numerusform>
            <numerusform>%n files made in {out}.{more}{off}</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Stopped. %n files were finished; what was made is kept in {out}.</source>
        <translation>
            <numerusform>Stopped. %n file was finished; what was made is kept in {out}.</numerusform>
            <numerusform>Stopped. %n files were finished; what was made is kept in {out}.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n files made in {out}{checked}</source>
        <extracomment>How it is drawn instead of as its row of the shot list says; empty: as that says. Largest width and height, where they are not the camera&apos;s own. The file&apos;s name without its kind, where it is not the camera&apos;s; whether it is listed among what was made. Whether the last job made pictures or films, which are among the results.</extracomment>
        <translation>
            <numerusform>%n file made in {out}{checked}</numerusform>
            <numerusform>%n files made in {out}{checked}</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>. %n films checked</source>
        <translation>
            <numerusform>. %n film checked</numerusform>
            <numerusform>. %n films checked</numerusform>
        </translation>
    </message>
</context>
</TS>
