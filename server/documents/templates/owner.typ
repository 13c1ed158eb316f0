// The owner's two pages and the shut-down card, in plain words.
#import "base.typ": *
#let pages = data.owner
#show: paper.with("For the owner, " + data.name)
#set text(size: 11pt)
#if "owner" in data.parts [
  = #data.name: your solar plant
  #data.place · built #data.day
  #for part in pages.parts [
    == #part.title
    #if part.numbered { enum(..part.lines.map(l => [#l])) } else { list(..part.lines.map(l => [#l])) }
  ]
]
#if "card" in data.parts {
  page(width: 148mm, height: 210mm, margin: 12mm, footer: none)[
    #block(width: 100%, fill: colours.stop, inset: 8pt, text(fill: white, 17pt, font: head-font, weight: "bold")[#heading(level: 1, data.words.card)])
    #text(13pt)[#data.name, #data.place]
    #v(6pt)
    #set text(size: 17pt)
    #for (number, step) in pages.off.enumerate(start: 1) [
      #block(breakable: false, below: 14pt, grid(columns: (13mm, 1fr), text(26pt, font: head-font, weight: "bold")[#number], step))
    ]
    #v(4pt)
    #block(width: 100%, stroke: 2pt + ink, inset: 8pt)[*#data.words.card_live:* #pages.live.]
    #v(1fr)
    #text(14pt)[*#data.words.card_call:* #pages.call]
  ]
}
#if "warranty" in data.parts [
  #pagebreak(weak: true)
  = #data.words.warranty
  #if data.serials.len() == 0 [No serial was read yet.] else {
    sheet((1fr, 1fr, 1fr, 48mm), ("What", "Model", "Place", "Serial"), data.serials.map(s => (s.what, s.model, s.place, [*#s.serial*])))
  }
]
