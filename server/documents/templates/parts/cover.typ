#import "../base.typ": *
#import "signatures.typ": signatures

// In one look: what was built, by whom, what was proved, what is open.
#let cover() = [
  #grid(columns: (1fr, auto), align: (left, right),
    [= #a.name
     #job.site.place],
    [#text(font: head-font, weight: "bold", 12pt)[Commissioning record] \ work on #data.day \ #faint[job #a.job_id.slice(0, 8)]])
  #v(2pt)
  #line(length: 100%, stroke: 1.5pt + ink)
  #v(4pt)
  #grid(columns: (1fr, 1fr), column-gutter: 8mm, row-gutter: 4mm,
    [== Built
     #data.cover.built.map(l => [#l]).join(linebreak())],
    [== By whom
     #if job.arrival.crew.len() == 0 [Nobody is named yet.] else { job.arrival.crew.map(m => [#m.name#if m.licence != "" [, licence #m.licence]#if not m.present [ (not there)]]).join(linebreak()) }
     #if job.arrival.permit != none [\ Permit #job.arrival.permit.reference, #job.arrival.permit.operator#if job.arrival.permit.export_w != none [, export up to #fig(job.arrival.permit.export_w, digits: 0) W]]])
  == Proved
  #let whole = a.prove.groups
  #let most = 16
  // Of hundreds of strings the cover names those that are not clear; the rest is counted.
  #let groups = if whole.len() <= most { whole } else { (whole.filter(g => g.verdict != "clear") + whole.filter(g => g.verdict == "clear")).slice(0, most) }
  #let half = calc.ceil(groups.len() / 2)
  #let proved(list) = if list.len() > 0 { sheet((1fr, 18mm, 20mm), ("Part", "Clear", "Verdict"),
    list.map(g => (g.title, [#g.clear of #g.tests.len()], mark(g.verdict)))) }
  #grid(columns: (1fr, 1fr), column-gutter: 6mm, proved(groups.slice(0, half)), proved(groups.slice(half)))
  #if whole.len() > most [#faint[and #(whole.len() - most) more groups of tests; #whole.filter(g => g.verdict == "clear").len() of #whole.len() are clear.]]
  #table(columns: (34mm, 1fr),
    [Settings], [#if a.grid.profile == none [No grid profile is chosen.] else [#a.grid.profile_name, #a.grid.profile_edition] #if a.grid.fingerprint != none [ · fingerprint #raw(a.grid.fingerprint)]],
    [Switched on], [#let run = a.permissions.find(p => p.id == "run" and p.scope == ""); #if run != none [#mark(run.verdict) #run.line]])
  == Stands
  #grid(columns: (1fr,) * 10, column-gutter: 2pt, ..a.stages.map(s => text(8pt)[#mark(s.verdict) \ #s.title]))
  == Open
  #if a.open_points.len() == 0 [Nothing is open.] else {
    let most = 6
    sheet((20mm, 40mm, 1fr), ("Verdict", "Where", "What"),
      data.gravest.slice(0, calc.min(most, data.gravest.len())).map(p => (
        mark(p.judgement.verdict),
        if p.where == "" { a.stages.at(p.stage - 1).title } else { p.where },
        short(p.judgement.reason))))
    if a.open_points.len() > most [#faint[and #(a.open_points.len() - most) more, all under Open points.]]
  }
  #signatures()
]
