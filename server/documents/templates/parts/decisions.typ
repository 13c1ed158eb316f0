#import "../base.typ": *

#let decisions() = [
  = Decisions, overrides, superseded readings
  == Locks that were lifted
  #if a.wake.overrides.len() == 0 [None.]
  #for o in a.wake.overrides [- #when(o.id), #o.by, licence #o.licence: #o.lifted Reason: #o.reason

  ]
  #let past = a.asks.map(k => k.history.filter(r => r.superseded_by != none).map(r => (k.title, r))).flatten().chunks(2)
  == Superseded readings
  #if past.len() == 0 [None.] else {
    sheet((1fr, 40mm, 60mm), ("What", "Was read", "Who, when, with what"),
      past.map(((title, r)) => (title, strike(r.text), small[#r.by, #when(r.id)#if r.instrument != "" [, #r.instrument]#if r.note != "" [ · #r.note]])))
  }
  #if a.past_readings.len() > 0 [
    == Read earlier, no longer asked for
    #sheet((1fr, 40mm, 60mm), ("What", "Read", "Who, when"), a.past_readings.map(p => (p.title, if p.reading.superseded_by != none { strike(p.reading.text) } else { strong(p.reading.text) }, small[#p.reading.by, #when(p.reading.id)])))
  ]
]
