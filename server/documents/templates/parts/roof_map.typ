#import "../base.typ": *

#let cell = 6.4mm
#let planes_drawn() = for plane in job.planes.filter(p => p.rows.len() > 0) {
  let holder(row, column) = {
    let found = job.strings.filter(s => s.places.any(p => p.plane == plane.name and p.row == row and p.column == column))
    if found.len() == 0 { none } else {
      let s = found.first()
      let at = s.places.position(p => p.plane == plane.name and p.row == row and p.column == column)
      (s.name, at + 1, s.places.len())
    }
  }
  let wide = calc.max(..plane.rows.map(r => r.clusters().len()))
  let side = calc.min(cell, 174mm / wide - 0.6mm)
  block(breakable: false, above: 8pt, {
    text(9pt, weight: "bold")[Roof #plane.name]
    text(8.5pt, fill: soft)[ #h(3pt) #if plane.tilt_deg != none [#fig(plane.tilt_deg)° tilt, ]#if plane.azimuth_deg != none [facing #fig(plane.azimuth_deg)°]#if plane.shade != "" [, shade: #plane.shade]. Each module: string and number from minus.]
    v(2pt)
    stack(spacing: 0.6mm, ..plane.rows.enumerate().map(((r, row)) => stack(dir: ltr, spacing: 0.6mm, ..row.clusters().enumerate().map(((c, mark)) => {
      let held = holder(r + 1, c + 1)
      if mark != "#" { rect(width: side, height: side * 1.3, stroke: none) } else {
        rect(width: side, height: side * 1.3, inset: 0.5pt, stroke: (if held == none { (paint: hair, dash: "dashed") } else { 0.8pt + ink }), align(center + horizon, if held == none [] else {
          text(calc.min(7.5pt, side / 2.4), weight: "bold")[#held.at(0)#held.at(1)]
          if held.at(1) == 1 [\ #text(7pt, weight: "bold")[−]] else if held.at(1) == held.at(2) [\ #text(7pt, weight: "bold")[+]]
        }))
      }
    }))))
  })
}
#let module_serials(s) = if s.modules.len() > 0 [
  == Serials of the modules
  #s.taken of #s.of are read.
  #columns(2, gutter: 6mm, sheet((1fr, 34mm), ("Place", "Serial"), s.modules.map(m => (m.place, if m.serial == "" [not read] else [*#m.serial*]))))
]
#let roof_map() = [
  = Roof map and serials
  #if a.roof == none { planes_drawn() }
  #for m in data.maps [#block(breakable: false, image(bytes(m), format: "svg", width: 100%, alt: "Serial map of the roof"))]
  #if a.roof != none [
    == Serial map
    #a.roof.map.line
    #sheet((14mm, 16mm, 1fr, 32mm, 1fr), ("Unit", "Branch", "Modules", "Serial", "Read by, when; earlier serials"),
      a.roof.units.map(u => (u.name, if u.branch == "" [none] else [#u.branch.#u.number], small(u.modules.join(" + ")),
        if u.serial == "" [not read] else [*#u.serial*],
        small(u.serials.map(k => [#if k.superseded_by != none { strike(k.text) } else [#k.text] #k.by, #when(k.id)]).join("; ")))))
    #module_serials(a.roof.serials)
  ]
  #if a.string != none { module_serials(a.string.serials) }
  #if data.serials.len() > 0 [
    == Serials for the warranty
    #sheet((1fr, 1fr, 1fr, 44mm), ("What", "Model", "Place", "Serial"), data.serials.map(s => (s.what, s.model, s.place, [*#s.serial*])))
  ]
]
