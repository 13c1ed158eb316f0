// Sheets as they are drawn, each a page at its own size.
#let data = json(bytes(sys.inputs.data))
#for one in data.pages {
  set page(width: one.width_mm * 1mm, height: one.height_mm * 1mm, margin: 0mm)
  image(bytes(one.svg), format: "svg", width: 100%)
}
