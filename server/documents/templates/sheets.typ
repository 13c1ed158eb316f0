// Sheets as they are drawn, each a page at its own size.
#let data = json(bytes(sys.inputs.data))
#set document(title: data.at("title", default: "Drawing"), date: auto)
#set text(lang: "en")
#for one in data.pages {
  set page(width: one.width_mm * 1mm, height: one.height_mm * 1mm, margin: 0mm)
  image(bytes(one.svg), format: "svg", width: 100%, alt: "Drawing")
}
