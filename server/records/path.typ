// The energy path's sheet as it is drawn, at its own size.
#let data = json(bytes(sys.inputs.data))
#set page(width: data.width_mm * 1mm, height: data.height_mm * 1mm, margin: 0mm)
#image(bytes(data.svg), format: "svg", width: 100%)
