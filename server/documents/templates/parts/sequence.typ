#import "../base.typ": *

#let sequence() = [
  = Switching on, as it was done
  #(a.wake.offers.filter(o => o.chosen).map(o => o.name + ". " + o.about).join(" ")) #a.wake.why
  #judgements(a.wake.judgements)
  #for p in a.wake.phases.filter(p => p.phase == "on" or p.done > 0 or p.verdict == "stop") + (if a.wake.emergency.done > 0 { (a.wake.emergency,) } else { () }) [
    == #p.title, #p.done of #p.steps.len() done
    #table(columns: (8mm, 1fr, 28mm, 52mm),
      ..p.steps.map(s => (
        [#s.number], [#s.title],
        if s.standing == "done" [done] else if s.standing == "failed" { text(fill: colours.stop)[not as expected] } else { text(fill: soft)[open] },
        small[#if s.at != none [#s.by, #when(s.key)]])).flatten())
  ]
  #if a.wake.light != none [Last seen, #when("light"): #a.wake.light.shows, #a.wake.light.means. #a.wake.light.do]
]
