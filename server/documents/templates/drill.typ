// The drill sheet: the hole marks as a list, then each bracket at full scale on A4 tiles.
// It places on the page what the assessment says, and computes nothing else.
#let data = json(bytes(sys.inputs.data))
#let palette = data.palette
#let wall = data.wall
#let devices = data.devices

#let ink = rgb(palette.ink)
#let soft = rgb(palette.soft)
#let hair = rgb(palette.hair)
#let stop = rgb(palette.stop)
#let ac = rgb(palette.ac)
#let margin = 15mm
#let head = 22mm
#let tile-w = 170mm
#let tile-h = 225mm

#set document(title: "Drill sheet, " + data.name)
#set page(paper: "a4", margin: margin)
#set text(font: ("Atkinson Hyperlegible Next",), size: 9.5pt, fill: ink, lang: "en")
#show heading: set text(font: "Archivo", weight: "bold")
#set table(stroke: (x, y) => (bottom: 0.5pt + hair), inset: (x: 0pt, y: 3.2pt))

#let fig(value, digits: 1) = {
  let known = data.texts.at(str(float(value)), default: none)
  if known != none { known.at(digits) } else { str(calc.round(value, digits: digits)).replace("-", "−") }
}
#let check-bar = block({
  place(line(length: 100mm, stroke: 1.2pt + ink))
  place(line(angle: 90deg, length: 3mm, stroke: 1.2pt + ink))
  place(dx: 100mm, line(angle: 90deg, length: 3mm, stroke: 1.2pt + ink))
  place(dx: 50mm, line(angle: 90deg, length: 2mm, stroke: 0.8pt + ink))
  place(dx: 103mm, dy: -1mm, text(8pt)[100 mm: measure this bar. Print at 100 %, never “fit to page”.])
  v(5mm)
})

= Drill sheet, #data.name
#data.place. Heights from one level line, #fig(wall.datum_mm) mm above the ground; distances from the wall's left edge. Facing #fig(wall.azimuth_deg)°.
#v(4pt)
#check-bar
#block(inset: (left: 8pt), stroke: (left: 3pt + rgb(palette.noon)))[*Before the drill:* look for hidden cables and pipes up, down and to both sides of every mark. Set the level line and check it. Drill only where the gate of the device says so. Local code and licensed practice come first.]
#v(4pt)
#let scale = calc.min(180mm / wall.width_mm, 105mm / wall.height_mm)
#block(height: wall.height_mm * scale + 6mm, width: 100%, {
  let x(v) = v * scale
  let y(v) = (wall.height_mm - v) * scale
  place(rect(width: x(wall.width_mm), height: wall.height_mm * scale, stroke: 1pt + ink, fill: rgb(palette.mortar)))
  for s in data.studs { place(dx: x(s), line(angle: 90deg, length: wall.height_mm * scale, stroke: (paint: hair, dash: "dashed"))) }
  for o in wall.objects {
    place(dx: x(o.x_mm), dy: y(o.y_mm + o.height_mm), rect(width: x(o.width_mm), height: o.height_mm * scale, stroke: 0.7pt + soft, fill: white, inset: 1pt, text(6.5pt, fill: soft, o.name)))
  }
  place(dy: y(wall.datum_mm), line(length: x(wall.width_mm), stroke: (paint: ac, dash: "dashed")))
  place(dx: 1mm, dy: y(wall.datum_mm) - 3mm, text(7pt, fill: ac)[level line])
  for d in devices {
    place(dx: x(d.x_mm), dy: y(d.y_mm + d.height_mm), rect(width: x(d.width_mm), height: d.height_mm * scale, stroke: 1.2pt + ink, inset: 1.5pt, text(7pt, weight: "bold", d.name)))
    for h in d.holes { place(dx: x(h.mark.x_mm) - 0.6mm, dy: y(h.mark.above_floor_mm) - 0.6mm, circle(radius: 0.6mm, fill: stop)) }
  }
})
#for d in devices [
  == #d.name #text(9.5pt, weight: "regular", fill: soft)[#d.label]
  #if d.holes.len() == 0 [No bracket on its sheet: mark from the device itself.] else [
    #d.drill.line
    #table(columns: (12mm, 34mm, 34mm, 34mm, 1fr),
      table.header([*Hole*], [*From the left edge*], [*From the level line*], [*Above the ground*], [*Drill and fixing*]),
      ..d.holes.enumerate().map(((i, h)) => (
        [#(i + 1)], [*#fig(h.mark.x_mm) mm*], [*#if h.mark.above_datum_mm > 0 [+]#fig(h.mark.above_datum_mm) mm*], [#fig(h.mark.above_floor_mm) mm],
        [#if d.drill_mm == none [fixing not chosen] else [⌀ #fig(d.drill_mm) mm#if d.hole_mm != none [, #fig(d.hole_mm) mm deep], #d.fixing] in #data.walls.at(h.behind)])).flatten())
    First to last hole: *#fig(d.diagonal_mm) mm*.
  ]
]

#for d in devices.filter(d => d.holes.len() > 0) {
  let left = d.x_mm
  let bottom = d.y_mm
  let columns = calc.ceil(d.width_mm / (tile-w / 1mm))
  let rows = calc.ceil(d.height_mm / (tile-h / 1mm))
  for r in range(rows) {
    for c in range(columns) {
      // The tile's lower left corner on the wall, from the device's upper left.
      let from-x = left + c * (tile-w / 1mm)
      let top-y = bottom + d.height_mm - r * (tile-h / 1mm)
      let inside(px, py) = px >= from-x - 5 and px <= from-x + tile-w / 1mm + 5 and py <= top-y + 5 and py >= top-y - tile-h / 1mm - 5
      let holes = d.holes.filter(h => inside(h.mark.x_mm, h.mark.above_floor_mm))
      if holes.len() > 0 {
        pagebreak()
        block(height: head, width: 100%)[
          #text(font: "Archivo", weight: "bold", 12pt)[#d.name] #h(1fr) row #(r + 1) of #rows, sheet #(c + 1) of #columns
          #v(2mm)
          #check-bar
        ]
        let px(v) = (v - from-x) * 1mm + 5mm
        let py(v) = (top-y - v) * 1mm
        block(height: tile-h, width: 180mm, clip: true, {
          place(dx: 5mm, rect(width: tile-w, height: tile-h, stroke: (paint: hair, dash: "dotted")))
          place(dx: px(d.x_mm), dy: py(d.y_mm + d.height_mm), rect(width: d.width_mm * 1mm, height: d.height_mm * 1mm, stroke: 0.7pt + soft))
          place(dx: 5mm, dy: py(wall.datum_mm), line(length: tile-w, stroke: (paint: ac, dash: "dashed")))
          if inside(from-x + 10, wall.datum_mm) { place(dx: 7mm, dy: py(wall.datum_mm) - 4mm, text(8pt, fill: ac)[level line, #fig(wall.datum_mm) mm above the ground]) }
          for h in holes {
            let (hx, hy) = (px(h.mark.x_mm), py(h.mark.above_floor_mm))
            let number = d.holes.position(o => o == h) + 1
            place(dx: hx - 12mm, dy: hy, line(length: 24mm, stroke: 0.5pt + ink))
            place(dx: hx, dy: hy - 12mm, line(angle: 90deg, length: 24mm, stroke: 0.5pt + ink))
            if d.drill_mm != none { place(dx: hx - d.drill_mm * 0.5mm, dy: hy - d.drill_mm * 0.5mm, circle(radius: d.drill_mm * 0.5mm, stroke: 0.7pt + stop)) }
            place(dx: hx + (if d.drill_mm == none { 0 } else { d.drill_mm }) * 0.5mm + 1.5mm, dy: hy + 1.5mm, box(fill: white, inset: 1pt, text(8pt)[*#number* · #fig(h.mark.x_mm) from the left edge \ #if h.mark.above_datum_mm > 0 [+]#fig(h.mark.above_datum_mm) from the level line]))
          }
        })
        text(8pt, fill: soft)[Left rim #fig(from-x) mm from the wall's left edge, upper rim #fig(top-y) mm above the ground. #data.name, made #data.made.]
      }
    }
  }
}
