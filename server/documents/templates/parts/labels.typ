#import "../base.typ": *

#let labels() = [
  = Labels
  #sheet((34mm, 24mm, 12mm, 1fr, 22mm, 20mm), ("Label", "At", "How many", "Says", "Letters, size", "Stuck"),
    a.leave.labels.map(l => (
      [#l.title \ #faint(l.where)], l.of, [#l.count], [#small(l.text)#if l.without != "" [ \ *None: #l.without*]],
      small[#l.letter_mm mm \ #fig(l.width_mm, digits: 0) × #fig(l.height_mm, digits: 0) mm], if l.without != "" [none] else { mark(l.verdict) })))
  #judgements(a.leave.judgements.filter(j => j.rule_id in ("labels_known", "labels_apart", "emergency_says")))
]
