// Labels to scale on A4, with cut marks: printed at 100 %.
#import "base.typ": *
#set document(title: data.title, date: auto)
#set text(font: ("Atkinson Hyperlegible Next",), size: 8pt, fill: ink, lang: "en")
#let margin = data.margin_mm * 1mm
#let gutter = data.gutter_mm * 1mm
#for sheet in data.sheets {
  page(paper: "a4", margin: 0mm, {
    place(dx: margin, dy: 5mm, text(7pt, fill: soft)[#data.title · print at 100 %: this line is 50 mm])
    place(dx: 210mm - margin - 50mm, dy: 7mm, line(length: 50mm, stroke: 0.5pt + ink))
    for one in sheet {
      let (x, y, wide, high) = (one.x_mm * 1mm, one.y_mm * 1mm, one.width_mm * 1mm, one.height_mm * 1mm)
      place(dx: x, dy: y, image(bytes(one.svg), format: "svg", width: wide, height: high, alt: one.text))
      for (cx, cy) in ((x, y), (x + wide, y), (x, y + high), (x + wide, y + high)) {
        let out-x = if cx == x { -1 } else { 1 }
        let out-y = if cy == y { -1 } else { 1 }
        place(dx: cx, dy: cy, line(end: (out-x * gutter / 2, 0mm), stroke: 0.3pt + ink))
        place(dx: cx, dy: cy, line(end: (0mm, out-y * gutter / 2), stroke: 0.3pt + ink))
      }
    }
  })
}
