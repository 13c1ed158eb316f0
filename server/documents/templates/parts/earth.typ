#import "../base.typ": *

#let earth() = [
  = Earth
  #told(a.earth.line)
  #if a.earth.links.len() > 0 {
    sheet((1fr, 30mm, 22mm, 30mm, 20mm, 20mm), ("Step of the path", "Conductor", "At least", "Expected", "Read", "Verdict"),
      a.earth.links.enumerate().map(((i, l)) => {
        let planned = job.earthing.links.at(i)
        (
          l.name,
          if planned.section_mm2 == none [#l.how] else [#fig(planned.section_mm2) mm²#if planned.length_m != none [, #fig(planned.length_m) m]],
          if l.least_mm2 == none [] else [#fig(l.least_mm2) mm²],
          if l.band == none [] else [#fig(l.band.low_ohm, digits: 2) to #fig(l.band.high_ohm, digits: 2) Ω],
          if l.read_ohm == none [not read] else [*#fig(l.read_ohm, digits: 2) Ω*],
          mark(l.verdict))
      }))
  }
  #judgements(a.earth.judgements)
]
