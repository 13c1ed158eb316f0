#import "../base.typ": *

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

#let settings() = [
  = Grid settings
  #if a.grid.profile == none [No grid profile is chosen.] else [*#a.grid.profile_name*, #a.grid.profile_edition. #a.grid.profile_note]
  #if a.grid.fingerprint != none [Settings as a whole, read back and by hand: fingerprint #raw(a.grid.fingerprint).]
  #judgements(a.grid.judgements)
  #if a.leave.drift != none { judgements((a.leave.drift,)) }
  #if a.grid.trips.len() > 0 {
    grid(columns: 2, column-gutter: 6mm, envelope("voltage", "V", a.grid.nominal_v), envelope("frequency", "Hz", a.grid.nominal_hz))
  }
  #if a.grid.points.len() > 0 {
    sheet((1fr, 32mm, 32mm, 24mm), ("Setting", "Profile", "Inverter", "Agrees"),
      a.grid.points.map(p => (
        [#p.title#if p.by_hand [ #faint[read by hand]]], p.wanted_text,
        if p.got_text == "" [not read] else [#p.got_text], mark(p.judgement.verdict))))
  }
  #if a.grid.loss.any(m => m.at != none) [
    == Loss of the supply
    #sheet((1fr, 44mm, 52mm), ("Moment", "Expected", "Seen"), a.grid.loss.map(m => (m.title, m.due_text, if m.at == none [not seen] else [#when(m.key)])))
  ]
  #if a.grid.attempts.len() > 0 [== How they were written and verified]
  #for t in a.grid.attempts [
    - #when(t.id), #t.by: #t.profile to #t.address. #t.said #if t.device != none [#t.device.maker #t.device.model, serial #t.device.serial.] #if t.fingerprint != none [Settings #raw(t.fingerprint).] #if t.outcome != "read_back" [#for (title, names) in (([Sent], t.sent), ([Refused], t.refused), ([Not sent], t.not_sent), ([Not read back], t.unread)) { if names.len() > 0 [#title: #names.join(", "). ] }]
  ]
]
