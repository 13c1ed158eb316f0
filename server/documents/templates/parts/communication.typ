#import "../base.typ": *

#let communication() = [
  = Communication: ports, pins, serials
  #let k = a.talk
  #told(k.line) #k.school_said#if k.way != "" [ · way out: #k.way]#if job.talk != none and job.talk.way_out != none and job.talk.way_out.reason != "" [ (#job.talk.way_out.reason)].
  #if k.devices.len() > 0 [
    == Devices and wires
    #sheet((28mm, 1fr, 36mm, 18mm, 20mm), ("Device", "Sheet", "Place", "Address", "Verdict"),
      k.devices.map(d => (d.name, d.label, d.place, if d.address == none [] else [#d.address], mark(d.verdict))))
    #if k.wires.len() > 0 { sheet((26mm, 1fr, 44mm, 20mm), ("Wire", "From and to", "Cable", "Verdict"),
      k.wires.map(w => (w.name, w.line,
        [#if w.length_m != none [#fig(w.length_m) m] #if w.outside_mm != none [· #fig(w.outside_mm) mm] #if w.cores != none [· #fig(w.cores, digits: 0) cores] · shield #w.shield],
        mark(w.verdict)))) }
    #if k.devices.any(d => d.ports.any(p => p.pins.len() > 0)) [== Ports and pins]
    #for d in k.devices { for port in d.ports.filter(p => p.pins.len() > 0) [
      *#port.key*, from the wire side: #port.pins.filter(p => p.carries != "").map(p => [#p.number #p.carries #if p.is_shield [] else [(#p.colour)]]).join(", ").#if port.make != "" [ Made: #port.make.]

    ] }
  ]
  #judgements(k.judgements)
  #if k.bus != none [#judgements(k.bus.judgements)]
  #if k.meter != none [== Meter
    #k.meter.label #k.meter.place #k.meter.clamps.join(", ") #judgements(k.meter.judgements)]
  #for s in k.signals [*#s.title* #judgements(s.judgements)]
  #for one in k.reporting [- #one.device: #one.line
  ]
  #if k.map.len() > 0 [Serials: #k.map.filter(m => m.serial != "").map(m => [#m.name #m.serial]).join(", ").]
]
