#import "../base.typ": *

#let made(steps, pieces) = {
  let begun = pieces.filter(p => p.done.len() + p.wrong.len() > 0)
  if begun.len() > 0 [
    === Made by hand
    #sheet((34mm, 1fr, 1fr, 44mm, 20mm), ("Piece", "Done", "Not good", "Last step by, when", "Verdict"),
      begun.map(p => (p.subject,
        steps.filter(s => s.kind in p.done).map(s => s.title).join(", "),
        steps.filter(s => s.kind in p.wrong).map(s => s.title).join(", "),
        small[#p.by, #when("made " + p.subject)],
        mark(p.verdict))))
  ]
}
#let arrive() = [
  == Arrive
  #mark(a.arrive.start.verdict) #h(4pt) #a.arrive.start.line
  #if job.arrival.first_visit [ This is a first visit: the inverter comes on a second one.]
  #judgements(a.arrive.judgements)
  #for s in job.arrival.substitutes [- #s.now came instead of #s.was; the plan was judged again.
  ]
  #sheet((1fr, 26mm, 20mm, 22mm, 20mm), ("Load-in sheet", "Needed", "Here", "Damaged", "Verdict"),
    a.arrive.lines.map(l => (
      l.what,
      if l.needed == none [not known] else [#fig(l.needed, digits: 2) #l.unit],
      if l.found == none [not counted] else [#fig(l.found, digits: 2)],
      if l.damaged == none or l.damaged == 0 [] else [#fig(l.damaged, digits: 2)],
      mark(l.judgement.verdict))))
  #for item in job.arrival.open_items [- Left open: #if item.settled [#strike(item.what), settled] else [*#item.what*], #item.owner, #a.stages.at(item.stage - 1).title.
  ]
]
#let hang() = [
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
  #for s in strings [
    === String #s.name, #s.modules_in_series in series on tracker #s.tracker, #s.plane
    #judgements(s.judgements)
    #mark(s.gate.verdict) #h(4pt) #s.gate.line
    #if s.earth != none [ #s.earth_line]
  ]
  #made(a.string.end_steps, a.string.strings.map(s => s.ends).flatten())
  #for t in a.string.trackers [
    === Tracker #t.number, strings #t.strings.join(", ")
    #judgements(t.judgements)
  ]
  === All strings, and the inverter
  #judgements(a.string.whole)
]
#let roofed() = [
  == Roof
  #let r = a.roof
  #r.line
  #judgements(r.judgements)
  #for b in r.branches [
    === Branch #b.name#if b.phase_name != "" [, #b.phase_name], #b.units.len() units, #fig(b.current_a) A
    #b.most_line. #for way in b.feeds [Fed at its #(if way.feed == "end" [end] else [middle])#if way.chosen [ (as planned)]: #fig(way.rise_v, digits: 2) V, #fig(way.rise_pct, digits: 2) %. ]#if b.room_v != none [#fig(b.room_v) V of room to the trip at the last unit.]
    #judgements(b.judgements)
    #if b.trunk.cuts.len() > 0 [Trunk, cut: #b.trunk.cuts.map(c => [#c.number: #c.drops drops, #fig(c.length_m) m, #c.first to #c.last]).join("; ").]
    #mark(b.on.verdict) #h(4pt) #b.on.line #b.report.line
  ]
  === Parts of the trunk and leads
  #table(columns: (1fr, 26mm, 1fr), ..r.parts.map(p => (p.what, if p.count == none [not known] else [#fig(p.count) #p.unit], text(8pt, fill: soft, p.because))).flatten())
  #made(r.unit_steps, r.units.map(u => u.made))
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
#let fed() = [
  == Feed
  #let f = a.feed
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
  #sheet((30mm, 34mm, 1fr, 20mm), ("Run", "Cable", "What is said of it", "Verdict"),
    f.runs.map(r => (r.name, r.title, [#r.line#if r.loss_kwh != none [ Loses #fig(r.loss_kwh, digits: 0) kWh a year.]], mark(r.verdict)))
    + f.dc_runs.map(r => (r.name, if r.title == "" [not known] else [#r.title], [#r.line#if r.loss_kwh != none [ Loses #fig(r.loss_kwh, digits: 0) kWh a year.]], mark(r.verdict))))
  #for d in (..f.devices.filter(d => d.judgements.len() > 0), ..if f.dc_switching != none { (f.dc_switching,) } else { () }) [
    === #d.name, #d.title
    #judgements(d.judgements)
  ]
  #for c in f.containments [
    === #c.name, #c.title
    #judgements(c.judgements)
  ]
  #if f.ends.len() > 0 {
    sheet((1fr, 24mm, 22mm, 22mm, 22mm, 20mm), ("Termination", "Cable", "Torque", "Reached", "Pull", "Verdict"),
      f.ends.map(e => (
        e.name, e.cable,
        if e.torque_nm == none [not known] else [#fig(e.torque_nm) Nm],
        if e.torque_read_nm == none [not read] else [*#fig(e.torque_read_nm, digits: 2) Nm*],
        mark(e.pull_verdict), mark(e.verdict))))
  }
  #if f.backup != none [
    === Backup and battery
    #f.backup.alone
    #judgements(f.backup.judgements)
  ]
  #mark(f.dead.verdict) #h(4pt) #f.dead.line
]
#let readings() = [
  == Readings, all of them
  #sheet((1fr, 28mm, 30mm, 20mm, 50mm), ("What", "Expected", "Read", "Verdict, why", "Who, when, with what"),
    a.asks.filter(k => k.reading != none).map(k => (
      k.title, k.expected_text,
      [*#k.reading.text*#if k.reading.basis == "clear_sky" [ \ #small[clear sky, computed]]#if k.reading.note != "" [ \ #faint(k.reading.note)]],
      [#mark(k.verdict)#k.judgements.map(numbers-of).join()],
      small[#k.reading.by, #when(k.reading.id)#if k.reading.instrument != "" [ \ #k.reading.instrument]#if k.verdict != "clear" [ \ #k.judgements.filter(j => j.verdict == k.verdict).map(j => j.reason).join(" ")]])))
  #let open = a.asks.filter(k => k.reading == none and not k.optional)
  #if open.len() > 0 [*Not read:* #open.map(k => k.title).join("; ").]
  #for ask in a.asks.filter(k => k.causes.len() > 0) [
    *#ask.title*, most likely first: #ask.causes.map(c => c.title + " (would read " + fig(c.expected_v, digits: 0) + " V)").join("; ").
    Look next: #ask.look_next

  ]
]
#let detail() = [
  = Detail, stage by stage
  #arrive()
  #hang()
  #if a.roof != none { roofed() } else { strung() }
  #fed()
  #readings()
]
