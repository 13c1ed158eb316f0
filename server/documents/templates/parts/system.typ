#import "../base.typ": *

#let system() = [
  = System data
  #faint[After IEC 62446-1:2016, 4.2: basic system information.]
  #table(columns: (32mm, 1fr, 32mm, 1fr),
    faint[House], [#a.name], faint[Place], [#job.site.place],
    faint[Latitude, longitude], [#fig(job.site.latitude_deg, digits: 4)°, #fig(job.site.longitude_deg, digits: 4)°], faint[Altitude], if job.site.altitude_m == none [not said] else [#fig(job.site.altitude_m, digits: 0) m],
    faint[Coldest air], [#fig(job.site.t_air_min_c) °C], faint[Hottest air], [#fig(job.site.t_air_max_c) °C],
    faint[Climate from], table.cell(colspan: 3, job.site.climate_source),
    faint[Customer], [#if job.leave.customer == "" [not named] else [#job.leave.customer]], faint[Work on], [#data.day])
  == Equipment
  #sheet((34mm, 1fr, 34mm), ("What", "Maker and model", "Sheet"), data.sheets.map(s => (s.what, s.label, s.revision)))
  #if job.planes.len() > 0 [
    == Planes
    #sheet((1fr, 22mm, 22mm, 22mm, 1fr), ("Plane", "Tilt", "Facing", "Modules", "Shade"),
      job.planes.enumerate().map(((i, p)) => (p.name, if p.tilt_deg == none [not known] else [#fig(p.tilt_deg)°], if p.azimuth_deg == none [not known] else [#fig(p.azimuth_deg)°], [#data.modules.at(i)], p.shade)))
  ]
  #if a.string != none and job.strings.len() > 0 [
    == Strings
    #sheet((16mm, 1fr, 24mm, 24mm, 30mm, 30mm), ("String", "Plane", "Tracker", "Modules", "Cold", "Power"),
      a.string.strings.map(s => (s.name, s.plane, [#s.tracker], [#s.modules_in_series], if s.volts == none or s.volts.voc_cold_v == none [held] else [#fig(s.volts.voc_cold_v, digits: 0) V], [#fig(s.power_w, digits: 0) W])))
  ]
  #if a.roof != none [
    == Branches
    #sheet((1fr, 22mm, 26mm, 1fr), ("Branch", "Units", "Current", "What is said of it"), a.roof.branches.map(b => (b.name, [#b.units.len()], [#fig(b.current_a) A], b.most_line)))
  ]
]
