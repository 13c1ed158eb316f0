#import "../base.typ": *

#let evidence() = if a.evidence.len() > 0 [
  = Evidence
  #grid(columns: (1fr, 1fr, 1fr), gutter: 5mm, ..a.evidence.map(e => block(breakable: false, {
    if e.id in data.pictures { image(data.pictures.at(e.id), width: 100%, height: 38mm, fit: "contain", alt: e.step + ": " + e.name) }
    text(8pt)[#loose(e.step): #loose(e.name), #e.by, #when(e.id).#if e.id not in data.pictures and e.form != "application/pdf" [ The picture itself is not on this machine.]#if e.form == "application/pdf" [ Attached as a file.] \ #text(fill: soft)[SHA-256 #e.sha256.slice(0, 16)]]
  })))
]
