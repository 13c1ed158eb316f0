#import "../base.typ": *

#let follow_up() = if a.leave.yields.len() > 0 or a.leave.looks_due.any(d => d.due != none) [
  = Looks after the day
  #sheet((30mm, 1fr, 30mm, 30mm), ("Look", "What for", "Due", "Made"),
    a.leave.looks_due.map(d => (d.title, d.what, if d.due == none [once it runs] else [#d.due], if d.seen == none { mark(d.verdict) } else [#d.seen])))
  #for y in a.leave.yields [
    == #y.first_day to #y.last_day, looked at by #y.by
    #if y.read_kwh != none [Read: *#fig(y.read_kwh, digits: 1) kWh*. ]#if y.expected_kwh != none [Expected: #fig(y.expected_kwh, digits: 1) kWh (#fig(y.low_kwh, digits: 1) to #fig(y.high_kwh, digits: 1); #y.band_said)]
    #judgements(y.judgements)
    #if y.reasons.len() > 0 [Likeliest first: #y.reasons.map(r => [#r.title (#r.because) Read next: #r.read_next]).join([ ])]
    #if y.faults.len() > 0 [In the file: #y.faults.join(" ")]
    #faint[Losses: #y.losses.map(l => l.name + " " + fig(l.pct) + " %").join(", ").]
  ]
]
