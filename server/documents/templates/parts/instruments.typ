#import "../base.typ": *

#let instruments() = [
  = Instruments, sheets and rules
  == Instruments
  #if a.prove.instruments.len() == 0 [No tester is named.] else {
    sheet((1fr, 34mm, 30mm, 30mm, 22mm), ("Tester", "Serial", "Calibrated", "Until", "In date"),
      a.prove.instruments.map(i => (i.name, i.serial, if i.calibrated_on == none [not known] else [#i.calibrated_on], if i.due_on == none [not known] else [#i.due_on], mark(i.judgement.verdict))))
  }
  == Sheets used
  #sheet((34mm, 1fr, 34mm), ("What", "Maker and model", "Sheet, revision"), data.sheets.map(s => (s.what, s.label, s.revision)))
  == Rules used
  *#a.rule_pack.name*, #a.rule_pack.edition. #a.rule_pack.note
  #if a.rule_pack.replaced.len() > 0 {
    sheet((1fr, 30mm, 30mm, 1fr), ("Figure replaced", "Was", "Is", "Why"), a.rule_pack.replaced.map(r => (r.title, r.was, [*#r.now*], r.reason)))
  }
  #if data.files.len() > 0 [
    == Read in from files
    #for f in data.files [
      - #(if f.what == "job" [The job as it began] else [#f.readings readings])#if f.name != "" [: #f.name], by #f.by, #f.at. SHA-256 #text(7.5pt, raw(f.sha256))
    ]
  ]
]
