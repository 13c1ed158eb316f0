#import "../base.typ": *

#let single_line() = page(flipped: true)[
  = Single-line diagram
  #told(a.feed.line)
  #block(breakable: false, image(bytes(data.energy_path), format: "svg", width: 100%, alt: "Single-line diagram of " + a.name))
]
