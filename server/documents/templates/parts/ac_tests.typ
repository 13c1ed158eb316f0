#import "../base.typ": *

#let ac_tests() = [
  = AC schedule of tests
  #faint[After IEC 60364-6, 6.4.3.]
  #if a.prove.note != "" [#a.prove.note]
  #let groups = a.prove.groups.filter(g => not g.tests.any(t => t.key.starts-with("open_circuit/") or t.key.starts-with("polarity/") or t.key.starts-with("look_over/") or t.key.starts-with("continuity/")))
  #sheet((1fr, 29mm, 27mm, 20mm, 56mm), ("Test", "Expected", "Read", "Verdict", "Tester, who, when"),
    groups.map(g => (
      (table.cell(colspan: 5, breakable: false, fill: hair.lighten(60%), strong[#g.title, #g.clear of #g.tests.len() clear]),) +
      g.tests.map(t => (
        t.title, t.expected_text,
        if t.read_text == "" { text(fill: soft)[not read] } else [*#t.read_text*#if t.retests > 0 [ #small[(read #(t.retests + 1) times)]]],
        mark(t.verdict),
        small[#if t.serial != "" [#t.instrument, #t.serial. ]#t.by#if t.at != none [, #when("test " + t.key)]#if t.verdict != "clear" and t.read_text != "" [ \ #t.line]])))))
]
