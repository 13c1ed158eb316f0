#import "../base.typ": *

#let inspection() = [
  = Inspection
  #faint[After IEC 62446-1:2016, 5.2, and IEC 60364-6, 6.4.2: looked over before the tests.]
  #let looked = a.asks.filter(k => k.answers.len() > 0 and k.stage <= 7 and k.reading != none)
  #if looked.len() == 0 [Nothing was looked over yet.] else {
    sheet((1fr, 34mm, 20mm, 52mm), ("Looked at", "Found", "Verdict", "Who, when"),
      looked.map(k => (k.title, [*#k.reading.text*], mark(k.verdict), small[#k.reading.by, #when(k.reading.id)])))
  }
]
