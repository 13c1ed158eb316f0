#import "../base.typ": *

// One row a string, as IEC 62446-1 has its test report.
#let string_tests() = if a.string != none and job.strings.len() > 0 [
  = String test report
  #faint[After IEC 62446-1:2016, 5 and 6: polarity, open-circuit voltage, short-circuit current, insulation, with the irradiance they were read at.]
  #let tested(s) = {
    let group = a.prove.groups.find(g => g.tests.any(t => t.key == "open_circuit/" + s.name))
    if group == none { "waiting" } else { group.verdict }
  }
  #let cells(s) = {
    let low = expected-of("open_circuit/" + s.name)
    (
      [*#s.name*], [#s.modules_in_series], s.plane,
      [#read-of("polarity/" + s.name)],
      [#small(low) \ #read-of("open_circuit/" + s.name)],
      [#small(expected-of("short_circuit/" + s.name)) \ #read-of("short_circuit/" + s.name)],
      [#small(read-of("insulation_volts/" + s.name)) \ + #read-of("insulation_plus/" + s.name) \ − #read-of("insulation_minus/" + s.name)],
      [#read-of("irradiance/" + s.plane)],
      mark(tested(s)),
    )
  }
  #sheet((13mm, 13mm, 1fr, 20mm, 25mm, 25mm, 27mm, 21mm, 19mm),
    ("String", "Mod.", "Plane", "Polarity", "Voc expected, read", "Isc expected, read", "Insulation", "Irradiance", "Verdict"),
    a.string.strings.map(cells))
  #let with = a.asks.filter(k => k.reading != none and k.kind in ("open_circuit", "short_circuit", "insulation_plus") and k.reading.instrument != "").map(k => k.reading.instrument).dedup()
  #if with.len() > 0 [Read with: #with.join("; ").]
]
