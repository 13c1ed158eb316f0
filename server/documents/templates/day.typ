// The day on A4: each visit in lanes with the light over it, then as a list to tick.
// It places on the page what the day says, and computes nothing else.
#let data = json(bytes(sys.inputs.data))
#let palette = data.palette
#let ink = rgb(palette.ink)
#let soft = rgb(palette.soft)
#let hair = rgb(palette.hair)
#let noon = rgb(palette.noon)

#set document(title: "The day, " + data.name)
#set page(paper: "a4", margin: (x: 15mm, y: 14mm), footer: context align(right, text(8pt, fill: soft)[#data.name, page #counter(page).display()]))
#set text(font: ("Atkinson Hyperlegible Next",), size: 9.5pt, fill: ink, lang: "en")
#show heading: set text(font: "Archivo", weight: "bold")
#set table(stroke: (x, y) => (bottom: 0.5pt + hair), inset: (x: 2pt, y: 3.4pt))

#let left = 28mm
#let wide = 180mm - left
#let lane = 8mm

= The day, #data.name
#data.place. #data.line
#block(inset: (left: 8pt), stroke: (left: 3pt + noon))[Times are first guesses, or the crew's own. Weather, wind and the house decide; nobody hurries on a roof. Local code and licensed practice come first.]

#for v in data.visits [
  == #v.day #text(9.5pt, weight: "regular", fill: soft)[#v.sun]
  #block(height: lane * (v.lanes.len() + 1) + v.bands.len() * 3mm, width: 100%, breakable: false, {
    let top = 2mm + v.bands.len() * 3mm
    for (i, b) in v.bands.enumerate() {
      place(dy: i * 3mm, text(7pt, fill: soft, b.plane))
      place(dx: left + wide * b.from, dy: i * 3mm, rect(width: wide * (b.to - b.from), height: 2.2mm, fill: noon))
    }
    for h in v.hours {
      place(dx: left + wide * h.at, dy: top, line(angle: 90deg, length: lane * v.lanes.len(), stroke: 0.4pt + hair))
      place(dx: left + wide * h.at - 2mm, dy: top + lane * v.lanes.len() + 0.8mm, text(7pt, fill: soft, h.said))
    }
    for (i, who) in v.lanes.enumerate() {
      place(dy: top + i * lane + 2.4mm, text(8pt, if who == "" { "waits" } else { who }))
      place(dy: top + i * lane, line(length: 100%, stroke: 0.4pt + hair))
    }
    for b in v.boxes {
      place(dx: left + wide * b.from, dy: top + b.lane * lane + 1mm, rect(
        width: calc.max(0.6mm, wide * (b.to - b.from)), height: lane - 2mm, inset: 1pt,
        stroke: if b.waits { (paint: soft, dash: "dashed", thickness: 0.7pt) } else { 0.8pt + ink },
        fill: if b.waits { none } else { white },
        align(center + horizon, text(6.5pt, str(b.number)))))
    }
  })
  #if v.rows.len() == 0 [Nothing lies on this visit.] else { table(
    columns: (7mm, 7mm, 14mm, 12mm, 1fr, 34mm, 52mm),
    table.header([], [], [*begins*], [*min*], [*task*], [*who*], [*why there*]),
    ..v.rows.map(r => (box(width: 3.2mm, height: 3.2mm, stroke: 0.7pt + ink), text(8pt, fill: soft, str(r.number)), [*#r.begins*], str(r.minutes), r.label, r.people.join(", "), text(8pt, fill: soft, r.why))).flatten()) }
]
#if data.nowhere.len() > 0 [
  == Lies nowhere
  #for one in data.nowhere [- #one]
]
