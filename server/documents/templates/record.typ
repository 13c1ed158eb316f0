// The record in the order in which an inspector reads it; each part can be had on its own.
#import "base.typ": *
#import "parts/signatures.typ": signatures
#import "parts/cover.typ": cover
#import "parts/system.typ": system
#import "parts/single_line.typ": single_line
#import "parts/roof_map.typ": roof_map
#import "parts/string_tests.typ": string_tests
#import "parts/inspection.typ": inspection
#import "parts/ac_tests.typ": ac_tests
#import "parts/earth.typ": earth
#import "parts/settings.typ": settings
#import "parts/communication.typ": communication
#import "parts/sequence.typ": sequence
#import "parts/labels.typ": labels
#import "parts/follow_up.typ": follow_up
#import "parts/open.typ": open
#import "parts/detail.typ": detail
#import "parts/instruments.typ": instruments
#import "parts/evidence.typ": evidence
#import "parts/decisions.typ": decisions

#let every = (
  cover: cover, system: system, string_tests: string_tests, inspection: inspection, ac_tests: ac_tests,
  earth: earth, settings: settings, single_line: single_line, roof_map: roof_map,
  communication: communication, sequence: sequence, labels: labels, follow_up: follow_up, open: open,
  detail: detail, instruments: instruments, evidence: evidence, decisions: decisions,
)
#show: paper.with("Record, " + a.name + ", " + job.site.place)
// What begins on a page of its own; the rest follows where it has room.
#let on-its-own = ("system", "ac_tests", "settings", "open", "detail", "instruments")
#for (number, name) in data.parts.enumerate() {
  let said = every.at(name)()
  if said != none {
    if number > 0 and (name in on-its-own or data.parts.at(number - 1) == "cover") { pagebreak(weak: true) } else if number > 0 { v(12pt) }
    said
  }
}
