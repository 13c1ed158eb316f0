// The record: A4, from the assessment and the job as they are; it lays out and computes nothing
// but places on the page.
// A line that is a sentence keeps its own full stop.
#let told(line) = if line.ends-with(".") { line } else { line + "." }
#let data = json(bytes(sys.inputs.data))
#let palette = data.palette
#let a = data.assessment
#let job = data.job

#let ink = rgb(palette.ink)
#let soft = rgb(palette.soft)
#let hair = rgb(palette.hair)
#let colours = (clear: rgb(palette.clear), watch: rgb(palette.watch), stop: rgb(palette.stop), waiting: rgb(palette.waiting))

#set document(title: "Record, " + a.name)
#set page(
  paper: "a4",
  margin: (x: 17mm, top: 19mm, bottom: 17mm),
  footer: context text(8pt, fill: soft)[
    #a.name, #job.site.place · made #data.made · rules: #a.rule_pack.name
    #h(1fr) page #counter(page).display() of #counter(page).final().first()
  ],
)
#set text(font: ("Atkinson Hyperlegible Next",), size: 9.5pt, fill: ink, lang: "en")
#show heading: set text(font: "Archivo", weight: "bold")
#show heading.where(level: 1): set text(20pt)
#show heading.where(level: 2): it => block(above: 13pt, below: 7pt, text(13pt, it.body))
#set table(stroke: (x, y) => (bottom: 0.5pt + hair), inset: (x: 0pt, y: 3.4pt))
#set par(leading: 0.5em)

// Numbers come as the core writes them; what only places something on the page is rounded here.
#let fig(value, digits: 1) = {
  let known = data.texts.at(str(float(value)), default: none)
  if known != none { known.at(digits) } else { str(calc.round(value, digits: digits)).replace("-", "−") }
}
#let shape(verdict) = {
  let c = colours.at(verdict)
  if verdict == "clear" { circle(radius: 2.6pt, fill: c) }
  else if verdict == "watch" { polygon(fill: c, (0pt, 5.2pt), (2.9pt, 0pt), (5.8pt, 5.2pt)) }
  else if verdict == "stop" { square(size: 5pt, fill: c) }
  else { circle(radius: 2.2pt, stroke: 1pt + c) }
}
#let mark(verdict) = {
  box(baseline: 0pt, shape(verdict))
  h(3pt)
  text(fill: colours.at(verdict), weight: "bold", verdict)
}
#let hatch = tiling(size: (6pt, 6pt), {
  place(line(start: (0pt, 6pt), end: (6pt, 0pt), stroke: 0.7pt + colours.stop.transparentize(40%)))
})
#let judgements(list) = table(
  columns: (19mm, 47mm, 1fr),
  ..list.map(j => (mark(j.verdict), j.title, [#j.reason #text(8pt, fill: soft)[#j.source]])).flatten()
)

// -- head
#grid(columns: (1fr, auto), align: (left, right),
  [= #a.name
   #job.site.place · work on #data.day · job #raw(a.job_id.slice(0, 8))],
  [#text(font: "Archivo", weight: "bold", 12pt)[Long Noon] \ commissioning record])
#v(2pt)
#line(length: 100%, stroke: 1.5pt + ink)
#table(columns: (26mm, 1fr, 26mm, 1fr),
  [Module], [#job.module.maker #job.module.model, sheet #job.module.sheet_revision],
  ..if job.inverter != none { ([Inverter], [#job.inverter.maker #job.inverter.model, sheet #job.inverter.sheet_revision]) } else { ([Units], [#job.micro.units.len() × #job.micro.unit.maker #job.micro.unit.model, sheet #job.micro.unit.sheet_revision]) },
  ..if job.optimiser == none { () } else { ([Optimisers], table.cell(colspan: 3)[#job.optimiser.maker #job.optimiser.model, sheet #job.optimiser.sheet_revision]) },
  [Coldest air], [#fig(job.site.t_air_min_c) °C], [Hottest air], [#fig(job.site.t_air_max_c) °C],
  [Climate from], table.cell(colspan: 3, job.site.climate_source),
  [Rules], table.cell(colspan: 3, [#a.rule_pack.name: #a.rule_pack.edition]),
  ..a.rule_pack.replaced.map(r => ([Replaced], table.cell(colspan: 3)[#r.title: #r.was → *#r.now*. #r.reason])).flatten(),
  [Stands], table.cell(colspan: 3, [#mark(a.verdict) #h(6pt) #a.open_points.len() open points, listed at the end]))

// -- arrive
== Arrive
#mark(a.arrive.start.verdict) #h(4pt) #a.arrive.start.line
#if job.arrival.crew.len() > 0 [
  On the job: #job.arrival.crew.map(m => m.name + (if m.licence == "" [] else [ (licence #m.licence)]) + (if m.present [] else [ (not here)])).join(", ").
]
#if job.arrival.first_visit [ This is a first visit: the inverter comes on a second one.]
#judgements(a.arrive.judgements)
#for s in job.arrival.substitutes [- #s.now came instead of #s.was; the plan was judged again.
]
#table(columns: (1fr, 24mm, 20mm, 20mm, 20mm),
  table.header([*Load-in sheet*], [*Needed*], [*Here*], [*Damaged*], [*Verdict*]),
  ..a.arrive.lines.map(l => (
    l.what,
    if l.needed == none [not known] else [#fig(l.needed, digits: 2) #l.unit],
    if l.found == none [not counted] else [#fig(l.found, digits: 2)],
    if l.damaged == none or l.damaged == 0 [] else [#fig(l.damaged, digits: 2)],
    mark(l.judgement.verdict))).flatten())
#for item in job.arrival.open_items [- Left open: #if item.settled [#strike(item.what), settled] else [*#item.what*], #item.owner, #a.stages.at(item.stage - 1).title.
]

// -- hang
== Hang
#told(a.hang.line)
#if job.wall != none {
  let wall = job.wall
  let scale = calc.min(176mm / wall.width_mm, 78mm / wall.height_mm)
  let x(v) = v * scale
  let y(v) = (wall.height_mm - v) * scale
  block(height: wall.height_mm * scale + 3mm, width: 100%, breakable: false, {
    place(rect(width: x(wall.width_mm), height: wall.height_mm * scale, stroke: 1pt + ink))
    for s in a.hang.studs_mm { place(dx: x(s), line(angle: 90deg, length: wall.height_mm * scale, stroke: (paint: hair, dash: "dashed"))) }
    for o in wall.objects {
      place(dx: x(o.x_mm), dy: y(o.y_mm + o.height_mm), rect(width: x(o.width_mm), height: o.height_mm * scale, stroke: 0.6pt + soft, inset: 1pt, text(6.5pt, fill: soft, o.name)))
    }
    place(dy: y(wall.datum_mm), line(length: x(wall.width_mm), stroke: (paint: rgb(palette.ac), dash: "dashed")))
    for d in a.hang.devices {
      for side in d.sides.filter(s => s.missing != none) {
        let m = side.missing
        place(dx: x(m.x_mm), dy: y(m.y_mm + m.height_mm), rect(width: x(m.width_mm), height: m.height_mm * scale, fill: hatch))
      }
      place(dx: x(d.x_mm), dy: y(d.y_mm + d.height_mm), rect(width: x(d.width_mm), height: d.height_mm * scale, stroke: 1.2pt + ink, fill: white, inset: 1.5pt, text(7pt, weight: "bold", d.name)))
    }
  })
  table(columns: (30mm, 40mm, 1fr, 20mm),
    table.header([*Device*], [*From left, above ground*], [*Space, fixing and load*], [*Verdict*]),
    ..a.hang.devices.map(d => (
      d.name,
      [#fig(d.x_mm, digits: 0), #fig(d.y_mm, digits: 0) mm],
      [#d.line. #if d.fixing != "" [#d.fixing.] #if d.load != none [#fig(d.load.tension_per_top_fixing_n) N pull, #fig(d.load.shear_per_fixing_n) N shear on each.]],
      mark(d.verdict))).flatten())
}
#if data.wall_sun != none { judgements((data.wall_sun,)) }
#judgements(a.hang.judgements)

// -- earth
== Earth
#told(a.earth.line)
#if a.earth.links.len() > 0 {
  table(columns: (1fr, 26mm, 26mm, 30mm, 20mm, 20mm),
    table.header([*Step of the path*], [*Conductor*], [*At least*], [*Expected*], [*Read*], [*Verdict*]),
    ..a.earth.links.enumerate().map(((i, l)) => {
      let planned = job.earthing.links.at(i)
      (
        l.name,
        if planned.section_mm2 == none [#l.how] else [#fig(planned.section_mm2) mm²#if planned.length_m != none [, #fig(planned.length_m) m]],
        if l.least_mm2 == none [] else [#fig(l.least_mm2) mm²],
        if l.band == none [] else [#fig(l.band.low_ohm, digits: 2) to #fig(l.band.high_ohm, digits: 2) Ω],
        if l.read_ohm == none [not read] else [*#fig(l.read_ohm, digits: 2) Ω*],
        mark(l.verdict))
    }).flatten())
}
#judgements(a.earth.judgements)

// -- what was made by hand
#let made(steps, pieces) = {
  let begun = pieces.filter(p => p.done.len() + p.wrong.len() > 0)
  if begun.len() > 0 [
    === Made by hand
    #table(columns: (34mm, 1fr, 1fr, 44mm, 20mm),
      table.header([*Piece*], [*Done*], [*Not good*], [*Last step by, when*], [*Verdict*]),
      ..begun.map(p => (p.subject,
        steps.filter(s => s.kind in p.done).map(s => s.title).join(", "),
        steps.filter(s => s.kind in p.wrong).map(s => s.title).join(", "),
        text(8pt)[#p.by, #data.times.at("made " + p.subject)],
        mark(p.verdict))).flatten())
  ]
}
#let module_serials(s) = {
  if s.modules.len() > 0 [
    === Serials of the modules
    #s.taken of #s.of are read.
    #table(columns: (1fr, 32mm, 1fr, 32mm),
      ..s.modules.map(m => (m.place, if m.serial == "" [not read] else [*#m.serial*])).flatten())
  ]
}

// -- roof of microinverters
#let roof() = [
  #let r = a.roof
  == Roof
  #r.line
  #judgements(r.judgements)
  #for m in data.maps [#block(breakable: false, image(bytes(m), format: "svg", width: 100%))]
  #for b in r.branches [
    === Branch #b.name#if b.phase_name != "" [, #b.phase_name], #b.units.len() units, #fig(b.current_a) A
    #b.most_line. #for way in b.feeds [Fed at its #(if way.feed == "end" [end] else [middle])#if way.chosen [ (as planned)]: #fig(way.rise_v, digits: 2) V, #fig(way.rise_pct, digits: 2) %. ]#if b.room_v != none [#fig(b.room_v) V of room to the trip at the last unit.]
    #judgements(b.judgements)
    #if b.trunk.cuts.len() > 0 [Trunk, cut: #b.trunk.cuts.map(c => [#c.number: #c.drops drops, #fig(c.length_m) m, #c.first to #c.last]).join("; ").]
    #mark(b.on.verdict) #h(4pt) #b.on.line #b.report.line
  ]
  === Parts of the trunk and leads
  #table(columns: (1fr, 26mm, 1fr), ..r.parts.map(p => (p.what, if p.count == none [not known] else [#fig(p.count) #p.unit], text(8pt, fill: soft, p.because))).flatten())
  === Serial map
  #r.map.line
  #table(columns: (14mm, 14mm, 1fr, 30mm, 1fr),
    table.header([*Unit*], [*Branch*], [*Modules*], [*Serial*], [*Read by, when; earlier serials*]),
    ..r.units.map(u => (u.name, if u.branch == "" [none] else [#u.branch.#u.number], text(8pt, u.modules.join(" + ")),
      if u.serial == "" [not read] else [*#u.serial*],
      text(8pt, u.serials.map(k => [#if k.superseded_by != none { strike(k.text) } else [#k.text] #k.by, #data.times.at(k.id)]).join("; ")))).flatten())
  #made(r.unit_steps, r.units.map(u => u.made))
  #module_serials(r.serials)
  === Gateway
  #judgements(r.gateway.judgements)
  #if r.gateway.at != none [Last look by #r.gateway.by. #r.gateway.reporting of #r.map.of units report.]
  #for l in r.gateway.lines.filter(l => l.standing != "reporting") [- #l.serial #if l.unit != "" [(#l.unit)]: #l.said]
  #let begun = r.units.filter(u => u.swap.len() > 0 and u.swap.first().done)
  #for u in begun [
    === Replacement of #u.name
    #for step in u.swap [- #if step.done [done] else [open]: #step.title]
  ]
]

#let strung() = [
== String
#let w = a.string.window
#let strings = a.string.strings
#let drawn = strings.filter(s => s.volts != none)
#let shown = drawn.slice(0, calc.min(drawn.len(), 12))
#let top = calc.max(w.never_above_v, ..drawn.map(s => if s.volts.voc_cold_v == none { s.volts.vmp_cold_v } else { s.volts.voc_cold_v })) * 1.12
#let x(v) = 24mm + v / top * 150mm
#let row = 13mm
#let high = shown.len() * row
#if shown.len() > 0 { block(height: high + 13mm, width: 100%, {
  place(dx: x(w.track_min_v), dy: 5mm, rect(width: x(w.track_max_v) - x(w.track_min_v), height: high, fill: rgb(palette.track)))
  place(dx: x(w.full_power_min_v), dy: 5mm, rect(width: x(w.full_power_max_v) - x(w.full_power_min_v), height: high, fill: rgb(palette.full)))
  place(dx: x(w.never_above_v), dy: 5mm, rect(width: x(top) - x(w.never_above_v), height: high, fill: hatch))
  place(dx: x(w.never_above_v), dy: 3.5mm, line(angle: 90deg, length: high + 3mm, stroke: 2pt + colours.stop))
  place(dx: x(w.full_power_min_v) + 1mm, dy: 1mm, text(8pt, fill: soft)[full power #fig(w.full_power_min_v) to #fig(w.full_power_max_v) V])
  place(dx: x(w.start_v) - 8mm, dy: 1mm, text(8pt, fill: soft)[starts #fig(w.start_v) V])
  place(dx: x(w.start_v), dy: 5mm, line(angle: 90deg, length: high, stroke: (paint: soft, dash: "dashed")))
  place(dx: x(top) - 40mm, dy: 1mm, box(width: 40mm, align(right, text(8pt, fill: colours.stop, weight: "bold")[never above #fig(w.never_above_v) V])))
  for (i, s) in shown.enumerate() {
    let y = 5mm + i * row
    let cold = if s.volts.voc_cold_v == none { s.volts.vmp_cold_v } else { s.volts.voc_cold_v }
    place(dx: 0mm, dy: y + 2mm, [#text(font: "Archivo", weight: "bold", 12pt, s.name) #text(8pt)[ tracker #s.tracker]])
    place(dx: x(s.volts.vmp_hot_v), dy: y + 2mm, rect(width: x(s.volts.vmp_cold_v) - x(s.volts.vmp_hot_v), height: 4mm, fill: ink))
    place(dx: x(s.volts.vmp_cold_v), dy: y + 4mm, line(length: x(cold) - x(s.volts.vmp_cold_v), stroke: 1.5pt + ink))
    place(dx: x(cold), dy: y + 1.5mm, line(angle: 90deg, length: 5mm, stroke: 2.5pt + colours.at(if s.verdict == "stop" { "stop" } else { "clear" })))
    place(dx: x(s.volts.vmp_hot_v) + 1mm, dy: y + 2.8mm, text(7.5pt, fill: white, weight: "bold")[#fig(s.volts.vmp_hot_v, digits: 0) hot])
    place(dx: x(cold) + 1.5mm, dy: y + 2.8mm, text(8pt, weight: "bold")[#fig(cold, digits: 0) V cold])
    if s.expected != none {
      place(dx: x(s.expected.low_v), dy: y + 7.6mm, rect(width: x(s.expected.high_v) - x(s.expected.low_v), height: 3.6mm, fill: white, stroke: 1pt + ink))
    }
    if s.read_v != none {
      let at = x(calc.min(calc.abs(s.read_v), top))
      place(dx: at - 1mm, dy: y + 8.4mm, shape(s.read_verdict))
      place(dx: at + 12mm, dy: y + 8.2mm, text(8pt, fill: colours.at(s.read_verdict), weight: "bold")[read #fig(s.read_v) V])
    }
  }
  place(dx: x(0), dy: 5mm + high, line(length: x(top) - x(0), stroke: 1pt + ink))
  for v in range(0, int(top), step: if top > 700 { 200 } else { 100 }) {
    place(dx: x(v) - 6mm, dy: 6.2mm + high, box(width: 12mm, align(center, text(8pt, fill: soft)[#v V])))
  }
}) }
#if a.string.optimiser != none [Optimisers hold each string at #fig(a.string.optimiser.fixed_string_v) V: #a.string.optimiser.least_in_string to #a.string.optimiser.most_in_string in a string, at most #fig(a.string.optimiser.most_string_w) W.]
#if drawn.len() > shown.len() [The picture shows the first #shown.len() of #drawn.len() strings.]
#let cell = 6.4mm
#for plane in job.planes.filter(p => p.rows.len() > 0) {
  let holder(row, column) = {
    let found = job.strings.filter(s => s.places.any(p => p.plane == plane.name and p.row == row and p.column == column))
    if found.len() == 0 { none } else {
      let s = found.first()
      let at = s.places.position(p => p.plane == plane.name and p.row == row and p.column == column)
      (s.name, at + 1, s.places.len())
    }
  }
  block(breakable: false, above: 8pt, {
    text(9pt, weight: "bold")[Roof #plane.name]
    text(8.5pt, fill: soft)[ #h(3pt) #fig(plane.tilt_deg)° tilt, facing #fig(plane.azimuth_deg)°#if plane.shade != "" [, shade: #plane.shade]. Each module: string and number from minus.]
    v(2pt)
    stack(spacing: 0.6mm, ..plane.rows.enumerate().map(((r, row)) => stack(dir: ltr, spacing: 0.6mm, ..row.clusters().enumerate().map(((c, mark)) => {
      let held = holder(r + 1, c + 1)
      if mark != "#" { rect(width: cell, height: cell * 1.3, stroke: none) } else {
        rect(width: cell, height: cell * 1.3, inset: 0.5pt, stroke: (if held == none { (paint: hair, dash: "dashed") } else { 0.8pt + ink }), align(center + horizon, if held == none [] else {
          text(7.5pt, weight: "bold")[#held.at(0)#held.at(1)]
          if held.at(1) == 1 [\ #text(7pt, weight: "bold")[−]] else if held.at(1) == held.at(2) [\ #text(7pt, weight: "bold")[+]]
        }))
      }
    }))))
  })
}
#for s in strings [
  === String #s.name, #s.modules_in_series in series on tracker #s.tracker, #s.plane
  #judgements(s.judgements)
  #mark(s.gate.verdict) #h(4pt) #s.gate.line
  #if s.earth != none [ #s.earth_line]
]
#made(a.string.end_steps, a.string.strings.map(s => s.ends).flatten())
#module_serials(a.string.serials)
#for t in a.string.trackers [
  === Tracker #t.number, strings #t.strings.join(", ")
  #judgements(t.judgements)
]

=== All strings, and the inverter
#judgements(a.string.whole)
]
#if a.roof != none { roof() } else { strung() }

// -- readings
== Readings
#let reading-rows(ask) = if ask.history.len() == 0 {
  if ask.optional { () } else { (ask.title, ask.expected_text, text(fill: soft)[not read], mark(ask.verdict), []) }
} else {
  ask.history.map(k => (
    ask.title,
    ask.expected_text,
    {
      if k.superseded_by != none { strike(k.text) } else { strong(k.text) }
      if k.basis == "clear_sky" [ \ #text(8pt)[clear sky, computed]]
      if k.note != "" [ \ #text(8pt, fill: soft, k.note)]
    },
    if k.superseded_by != none { text(fill: soft)[superseded] } else { mark(ask.verdict) },
    text(8pt)[#k.by, #data.times.at(k.id) #if k.instrument != "" [\ #k.instrument]],
  )).flatten()
}
#table(columns: (46mm, 27mm, 30mm, 20mm, 1fr),
  table.header([*What*], [*Expected*], [*Read*], [*Verdict*], [*Who, when, with what*]),
  ..a.asks.map(reading-rows).flatten())
#for ask in a.asks.filter(k => k.causes.len() > 0) [
  *#ask.title*, most likely first: #ask.causes.map(c => c.title + " (would read " + fig(c.expected_v, digits: 0) + " V)").join("; ").
  Look next: #ask.look_next

]

#if a.past_readings.len() > 0 [
  === Read earlier, no longer asked for
  #table(columns: (46mm, 30mm, 1fr), ..a.past_readings.map(p => (p.title, if p.reading.superseded_by != none { strike(p.reading.text) } else { strong(p.reading.text) }, text(8pt)[#p.reading.by, #data.times.at(p.reading.id)])).flatten())
]

// -- feed
== Feed
#let f = a.feed
#told(f.line)
#block(breakable: false, image(bytes(data.energy_path), format: "svg", width: 100%))
#if f.today != none {
  let limits = f.limits
  let rungs = f.today.rungs
  let known = rungs.map(r => r.volts) + (f.nominal_v,) + (if f.high == none { () } else { f.high.rungs.map(r => r.volts) }) + (if f.trip_v == none { () } else { (f.trip_v,) })
  let low = calc.min(..known) - 2
  let tall = calc.max(..known) + 2
  let y(v) = 50mm - (v - low) / (tall - low) * 46mm
  let x(i) = 16mm + i / calc.max(rungs.len() - 1, 1) * 140mm
  block(height: 62mm, width: 100%, breakable: false, {
    if f.trip_v != none {
      place(dx: 10mm, dy: 0mm, rect(width: 166mm, height: y(f.trip_v), fill: hatch))
      place(dx: 10mm, dy: y(f.trip_v), line(length: 166mm, stroke: 2pt + colours.stop))
      place(dx: 12mm, dy: y(f.trip_v) - 4mm, text(8pt, fill: colours.stop, weight: "bold")[stops above #fig(f.trip_v) V, #f.trip_name])
    }
    place(dx: 10mm, dy: y(f.nominal_v), line(length: 166mm, stroke: (paint: rgb(palette.ac), dash: "dotted")))
    place(dx: 150mm, dy: y(f.nominal_v) + 0.8mm, text(7.5pt, fill: soft)[nominal #fig(f.nominal_v) V])
    if f.high != none {
      for i in range(1, rungs.len()) {
        let (u, v) = (f.high.rungs.at(i - 1).volts, f.high.rungs.at(i).volts)
        place(dx: x(i - 1), dy: y(u), line(end: (x(i) - x(i - 1), y(v) - y(u)), stroke: (paint: soft, dash: "dashed")))
      }
      place(dx: x(0), dy: y(f.high.supply_v) - 3.6mm, text(7.5pt, fill: soft)[#fig(f.high.supply_v) V, #f.high.title])
    }
    for (i, r) in rungs.enumerate() {
      if i > 0 {
        let u = rungs.at(i - 1).volts
        place(dx: x(i - 1) + 8mm, dy: y(u), line(end: (x(i) - x(i - 1) - 8mm, y(r.volts) - y(u)), stroke: 2.5pt + rgb(palette.ac)))
      }
      place(dx: x(i), dy: y(r.volts), line(length: 8mm, stroke: 1.5pt + ink))
      place(dx: x(i), dy: y(r.volts) - 4.4mm, text(9pt, weight: "bold")[#fig(r.volts) V])
      place(dx: x(i), dy: 54mm + calc.rem(i, 2) * 3.4mm, text(7.5pt)[#r.name])
    }
  })
  for day in (f.today, f.high).filter(d => d != none) [- #day.title: #fig(day.rise_v, digits: 2) V of rise at full export, #fig(day.rise_pct, digits: 2) % over our runs#if day.room_v != none [, #fig(day.room_v) V of room to the trip]#if day.export_text != "" [, may export #day.export_text]. #day.settled_text
]
}
#judgements(f.judgements)
#table(columns: (30mm, 34mm, 1fr, 20mm),
  table.header([*Run*], [*Cable*], [*What is said of it*], [*Verdict*]),
  ..f.runs.map(r => (r.name, r.title, [#r.line#if r.loss_kwh != none [ Loses #fig(r.loss_kwh, digits: 0) kWh a year.]], mark(r.verdict))).flatten(),
  ..f.dc_runs.map(r => (r.name, if r.title == "" [not known] else [#r.title], [#r.line#if r.loss_kwh != none [ Loses #fig(r.loss_kwh, digits: 0) kWh a year.]], mark(r.verdict))).flatten())
#for d in (..f.devices.filter(d => d.judgements.len() > 0), ..if f.dc_switching != none { (f.dc_switching,) } else { () }) [
  === #d.name, #d.title
  #judgements(d.judgements)
]
#for c in f.containments [
  === #c.name, #c.title
  #judgements(c.judgements)
]
#if f.ends.len() > 0 {
  table(columns: (1fr, 24mm, 22mm, 22mm, 22mm, 20mm),
    table.header([*Termination*], [*Cable*], [*Torque*], [*Reached*], [*Pull*], [*Verdict*]),
    ..f.ends.map(e => (
      e.name, e.cable,
      if e.torque_nm == none [not known] else [#fig(e.torque_nm) Nm],
      if e.torque_read_nm == none [not read] else [*#fig(e.torque_read_nm, digits: 2) Nm*],
      mark(e.pull_verdict), mark(e.verdict))).flatten())
}
#if f.backup != none [
  === Backup and battery
  #f.backup.alone
  #judgements(f.backup.judgements)
]
#mark(f.dead.verdict) #h(4pt) #f.dead.line

// -- talk
== Communication
#let k = a.talk
#told(k.line) #k.school_said#if k.way != "" [ · way out: #k.way]#if job.talk != none and job.talk.way_out != none and job.talk.way_out.reason != "" [ (#job.talk.way_out.reason)].
#judgements(k.judgements)
#if k.devices.len() > 0 [
  #table(columns: (26mm, 1fr, 40mm, 18mm, 20mm),
    table.header([*Device*], [*Sheet*], [*Place*], [*Address*], [*Verdict*]),
    ..k.devices.map(d => (d.name, d.label, d.place, if d.address == none [] else [#d.address], mark(d.verdict))).flatten())
  #table(columns: (24mm, 1fr, 1fr, 20mm),
    table.header([*Wire*], [*From and to*], [*Cable*], [*Verdict*]),
    ..k.wires.map(w => (
      w.name, w.line,
      [#if w.length_m != none [#fig(w.length_m) m] #if w.outside_mm != none [· #fig(w.outside_mm) mm] #if w.cores != none [· #fig(w.cores, digits: 0) cores] · shield #w.shield],
      mark(w.verdict))).flatten())
  #for d in k.devices { for port in d.ports.filter(p => p.pins.len() > 0) [
    *#port.key*, from the wire side: #port.pins.filter(p => p.carries != "").map(p => [#p.number #p.carries #if p.is_shield [] else [(#p.colour)]]).join(", ").#if port.make != "" [ Made: #port.make.]
  ] }
]
#if k.bus != none [#judgements(k.bus.judgements)]
#if k.meter != none [*Meter* #k.meter.label #k.meter.place #k.meter.clamps.join(", ") #judgements(k.meter.judgements)]
#for s in k.signals [*#s.title* #judgements(s.judgements)]
#for one in k.reporting [- #one.device: #one.line
]
#if k.map.len() > 0 [Serials: #k.map.filter(m => m.serial != "").map(m => [#m.name #m.serial]).join(", ").]

// -- prove
== Prove, after IEC 62446-1 category 1
#judgements(a.prove.judgements)
#if a.prove.instruments.len() > 0 {
  table(columns: (1fr, 34mm, 30mm, 30mm, 22mm),
    table.header([*Tester*], [*Serial*], [*Calibrated*], [*Until*], [*In date*]),
    ..a.prove.instruments.map(i => (i.name, i.serial, if i.calibrated_on == none [not known] else [#i.calibrated_on], if i.due_on == none [not known] else [#i.due_on], mark(i.judgement.verdict))).flatten())
}
#if a.prove.note != "" [#a.prove.note]
#for g in a.prove.groups [
  === #g.title, #g.clear of #g.tests.len() clear
  #table(columns: (1fr, 29mm, 25mm, 20mm, 58mm),
    table.header([*Test*], [*Expected*], [*Read*], [*Verdict*], [*Tester, who, when*]),
    ..g.tests.map(t => (
      t.title, t.expected_text,
      if t.read_text == "" { text(fill: soft)[not read] } else [*#t.read_text*#if t.retests > 0 [ #text(8pt)[(read #(t.retests + 1) times)]]],
      mark(t.verdict),
      text(8pt)[#if t.serial != "" [#t.instrument, #t.serial. ]#t.by#if t.at != none [, #data.times.at("test " + t.key)]#if t.verdict != "clear" and t.read_text != "" [ \ #t.line]],
    )).flatten())
]

// -- wake
== Wake
#(a.wake.offers.filter(o => o.chosen).map(o => o.name + ". " + o.about).join(" ")) #a.wake.why
#judgements(a.wake.judgements)
#for p in a.wake.phases.filter(p => p.phase == "on" or p.done > 0 or p.verdict == "stop") + (if a.wake.emergency.done > 0 { (a.wake.emergency,) } else { () }) [
  === #p.title, #p.done of #p.steps.len() done
  #table(columns: (8mm, 1fr, 26mm, 52mm),
    ..p.steps.map(s => (
      [#s.number], [#s.title#for o in s.overrides [ \ #text(8pt, fill: colours.watch)[Lock lifted by #o.by, licence #o.licence, #data.times.at(o.id): #o.reason]]],
      if s.standing == "done" [done] else if s.standing == "failed" { text(fill: colours.stop)[not as expected] } else { text(fill: soft)[open] },
      text(8pt)[#if s.at != none [#s.by, #data.times.at(s.key)]],
    )).flatten())
]
#if a.wake.overrides.len() > 0 [
  === Locks that were lifted
  #for o in a.wake.overrides [- #data.times.at(o.id), #o.by, licence #o.licence: #o.lifted Reason: #o.reason

  ]
]
#if a.wake.light != none [Last seen, #data.times.at("light"): #a.wake.light.shows, #a.wake.light.means. #a.wake.light.do]

// -- set
== Set
#if a.grid.profile == none [No grid profile is chosen.] else [*#a.grid.profile_name*, #a.grid.profile_edition. #a.grid.profile_note]
#judgements(a.grid.judgements)
#let envelope(quantity, unit, nominal) = {
  let trips = a.grid.trips.filter(t => t.quantity == quantity)
  if trips.len() > 0 {
    let levels = trips.map(t => t.level) + trips.map(t => t.got_level).filter(v => v != none) + (nominal,)
    let room = (calc.max(..levels) - calc.min(..levels)) * 0.25
    let (low, tall) = (calc.min(..levels) - room, calc.max(..levels) + room)
    let y(v) = 46mm - (v - low) / (tall - low) * 40mm
    let nearest(side) = {
      let levels = trips.filter(t => t.side == side).map(t => t.level)
      if side == "over" { calc.min(..levels) } else { calc.max(..levels) }
    }
    let x(s) = 12mm + (calc.log(s) - calc.log(0.05)) / (calc.log(500) - calc.log(0.05)) * 70mm
    block(height: 54mm, width: 84mm, {
      place(text(9pt, weight: "bold")[#if quantity == "voltage" [Voltage] else [Frequency], must stop])
      for (side, edge) in (("over", y(tall)), ("under", y(low))) {
        let own = trips.filter(t => t.side == side).sorted(key: t => -t.time_s)
        if own.len() > 0 {
          let points = ((x(500), y(own.first().level)),)
          for t in own {
            points.push((points.last().at(0), y(t.level)))
            points.push((x(t.time_s), y(t.level)))
          }
          points.push((points.last().at(0), edge))
          points.push((x(500), edge))
          place(polygon(fill: hatch, stroke: 1.2pt + colours.stop, ..points))
        }
      }
      place(dx: 12mm, dy: y(nominal), line(length: 70mm, stroke: (paint: rgb(palette.ac), dash: "dotted")))
      place(dx: 0mm, dy: y(nominal) - 1.2mm, text(7.5pt, fill: soft)[#fig(nominal) #unit])
      for t in trips {
        place(dx: calc.min(x(t.time_s) + 1mm, 58mm), dy: y(t.level) + (if (t.level == nearest(t.side)) == (t.side == "over") { 1mm } else { -3.6mm }), text(7.5pt, weight: "bold")[#fig(t.level) #unit, #fig(t.time_s, digits: 2) s])
      }
      for s in (0.1, 1, 10, 100) { place(dx: x(s) - 4mm, dy: 49mm, box(width: 8mm, align(center, text(7.5pt, fill: soft)[#s s]))) }
    })
  }
}
#if a.grid.trips.len() > 0 {
  grid(columns: 2, column-gutter: 6mm, envelope("voltage", "V", a.grid.nominal_v), envelope("frequency", "Hz", a.grid.nominal_hz))
}
#if a.grid.points.len() > 0 {
  table(columns: (1fr, 34mm, 34mm, 24mm),
    table.header([*Setting*], [*Profile*], [*Inverter*], [*Agrees*]),
    ..a.grid.points.map(p => (
      [#p.title#if p.by_hand [ #text(8pt, fill: soft)[read by hand]]], p.wanted_text,
      if p.got_text == "" [not read] else [#p.got_text], mark(p.judgement.verdict),
    )).flatten())
}
#if a.grid.fingerprint != none [Settings as a whole: #raw(a.grid.fingerprint).]
#if a.grid.loss.any(m => m.at != none) {
  table(columns: (1fr, 40mm, 60mm), ..a.grid.loss.map(m => (m.title, m.due_text, if m.at == none [not seen] else [#data.times.at(m.key)])).flatten())
}
#for t in a.grid.attempts [
  - #data.times.at(t.id), #t.by: #t.profile to #t.address. #t.said #if t.device != none [#t.device.maker #t.device.model, serial #t.device.serial.] #if t.fingerprint != none [Settings #raw(t.fingerprint).] #if t.outcome != "read_back" [#for (title, names) in (([Sent], t.sent), ([Refused], t.refused), ([Not sent], t.not_sent), ([Not read back], t.unread)) { if names.len() > 0 [#title: #names.join(", "). ] }]
]

// -- what came in from files
#if data.files.len() > 0 [
  == Read in from files
  #for f in data.files [
    - #(if f.what == "job" [The job as it began] else [#f.readings readings])#if f.name != "" [: #f.name], by #f.by, #f.at. SHA-256 #text(7.5pt, raw(f.sha256))
  ]
]

// -- evidence
#if a.evidence.len() > 0 [
  == Evidence
  #grid(columns: (1fr, 1fr, 1fr), gutter: 5mm, ..a.evidence.map(e => block(breakable: false, {
    if e.id in data.pictures { image(data.pictures.at(e.id), width: 100%, height: 38mm, fit: "contain") }
    text(8pt)[#e.step: #e.name, #e.by, #data.times.at(e.id).#if e.id not in data.pictures and e.form != "application/pdf" [ The picture itself is not on this machine.] \ #text(fill: soft)[SHA-256 #e.sha256.slice(0, 16)]]
  })))
]

// -- open points and signature
== Open points
#if a.open_points.len() == 0 [Nothing is open.] else {
  table(columns: (19mm, 38mm, 47mm, 1fr), ..a.open_points.map(p => (
    mark(p.judgement.verdict),
    if p.where == "" [#a.stages.at(p.stage - 1).title] else [#p.where],
    p.judgement.title, p.judgement.reason)).flatten())
}
#v(8pt)
#text(8.5pt, fill: soft)[This record states what was entered and what follows from it. It replaces neither the tests nor the signatures that the code in force asks for. #a.rule_pack.note]
#v(16pt)
#block(breakable: false, grid(columns: (1fr, 1fr, 1fr), column-gutter: 8mm,
  ..("Name and licence", "Date", "Signature").map(label => [#v(10mm) #line(length: 100%, stroke: 0.8pt + ink) #text(8pt, label)])))
