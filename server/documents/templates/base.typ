// What every part of the papers shares: the data, its colours, how figures and verdicts look.
// It lays out and computes nothing but places on the page.
#let data = json(bytes(sys.inputs.data))
#let palette = data.palette
#let a = data.at("assessment", default: none)
#let job = data.at("job", default: none)

#let ink = rgb(palette.ink)
#let soft = rgb(palette.soft)
#let hair = rgb(palette.hair)
#let colours = (clear: rgb(palette.clear), watch: rgb(palette.watch), stop: rgb(palette.stop), waiting: rgb(palette.waiting))
#let head-font = "Archivo"

// A line that is a sentence keeps its own full stop.
#let told(line) = if line == "" or line.ends-with(".") { line } else { line + "." }
// Numbers come as the core writes them; what only places something on the page is rounded here.
#let fig(value, digits: 1) = {
  let known = data.texts.at(str(float(value)), default: none)
  if known != none { known.at(digits) } else { str(calc.round(value, digits: digits)).replace("-", "−") }
}
#let shape(verdict) = {
  let c = colours.at(verdict)
  if verdict == "clear" { circle(radius: 2.6pt, fill: c) }
  else if verdict == "watch" { polygon(fill: c, (0pt, 5.2pt), (2.9pt, 0pt), (5.8pt, 5.2pt)) }
  else if verdict == "stop" { square(size: 5pt, fill: c) }
  else { circle(radius: 2.2pt, stroke: 1pt + c) }
}
#let mark(verdict) = box({
  box(baseline: 0pt, shape(verdict))
  h(3pt)
  text(fill: colours.at(verdict), weight: "bold", verdict)
})
#let hatch = tiling(size: (6pt, 6pt), {
  place(line(start: (0pt, 6pt), end: (6pt, 0pt), stroke: 0.7pt + colours.stop.lighten(30%)))
})
#let small(body) = text(8pt, body)
#let faint(body) = text(8pt, fill: soft, body)
#let short(words) = { let c = words.clusters(); if c.len() <= 150 { words } else { c.slice(0, 150).join() + " …" } }
// A long word without a space may break anywhere: it never runs into the next column.
#let loose(words) = if type(words) == str { words.replace("/", "/\u{200b}").replace("_", "_\u{200b}") } else { words }
#let sheet(columns, heads, rows) = table(
  columns: columns,
  table.header(..heads.map(h => strong(h))),
  ..rows.flatten().map(c => if type(c) == str { loose(c) } else { c }))
// How a judgement was found: its numbers, and where each came from.
#let found-of(j) = data.at("sums", default: (:)).at(j.rule_id + " " + j.reason, default: none)
#let numbers-of(j) = {
  let found = found-of(j)
  if found != none and found.at(0) != "" { text(7.5pt)[ \ #found.at(0)] }
}
#let sum-of(j) = {
  let found = found-of(j)
  numbers-of(j)
  if found != none and found.at(1) != "" { text(6.5pt, fill: soft)[ \ #found.at(1)] }
}
#let judgements(list) = if list.len() > 0 { table(
  columns: (20mm, 44mm, 1fr),
  ..list.map(j => (mark(j.verdict), j.title, [#j.reason #faint(j.source) #sum-of(j)])).flatten()) }
#let pair-rows(..rows) = table(columns: (34mm, 1fr), ..rows.pos().filter(r => r != none).map(((k, v)) => (faint(k), v)).flatten())
#let asked = if a == none { (:) } else { a.asks.map(k => (k.key, k)).to-dict() }
#let read-of(key) = {
  let one = asked.at(key, default: none)
  if one == none or one.reading == none { text(fill: soft)[not read] } else [*#one.reading.text*]
}
#let expected-of(key) = { let one = asked.at(key, default: none); if one == none { "" } else { one.expected_text } }
#let verdict-of(key) = { let one = asked.at(key, default: none); if one == none { none } else { one.verdict } }
#let when(key) = data.times.at(key, default: "")

#let paper(title, body) = {
  set document(title: title, author: "Long Noon", date: auto)
  set page(
    paper: "a4",
    margin: (x: 17mm, top: 18mm, bottom: 17mm),
    footer: context text(8pt, fill: soft)[
      #title · made #data.made
      #h(1fr) page #counter(page).display() of #counter(page).final().first()
    ],
  )
  set text(font: ("Atkinson Hyperlegible Next",), size: 9.5pt, fill: ink, lang: "en", hyphenate: false)
  show heading: set text(font: head-font, weight: "bold", hyphenate: false)
  show heading.where(level: 1): it => block(above: 0pt, below: 8pt, sticky: true, text(17pt, it.body))
  show heading.where(level: 2): it => block(above: 13pt, below: 6pt, sticky: true, text(12pt, it.body))
  show heading.where(level: 3): it => block(above: 9pt, below: 5pt, sticky: true, text(10pt, it.body))
  set table(stroke: (x, y) => (bottom: 0.5pt + hair), inset: (x: 2.4pt, y: 3.2pt))
  show table: set par(justify: false, leading: 0.45em)
  show table.cell: set block(breakable: false)
  set par(leading: 0.5em)
  body
}
