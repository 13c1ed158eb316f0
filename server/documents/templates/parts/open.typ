#import "../base.typ": *

#let open() = [
  = Open points
  #if a.open_points.len() == 0 [Nothing is open.]
  #for g in a.leave.open [
    == #g.title
    #g.holds
    #sheet((20mm, 38mm, 44mm, 1fr), ("Verdict", "Where", "What", "Why"),
      g.points.map(l => {
        let p = a.open_points.at(l.index)
        (mark(p.judgement.verdict), if p.where == "" { a.stages.at(p.stage - 1).title } else { p.where }, p.judgement.title, p.judgement.reason)
      }))
  ]
]
