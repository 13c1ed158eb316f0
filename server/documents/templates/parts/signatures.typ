#import "../base.typ": *

#let field(role) = block(breakable: false, width: 100%, stroke: 0.6pt + hair, inset: 5pt, {
  text(8pt, fill: soft, [#upper(role.title.first())#role.title.slice(1)])
  v(2pt)
  block(height: 14mm, width: 100%, clip: true,
    if role.role in data.drawn { image(bytes(data.drawn.at(role.role)), format: "svg", height: 13mm, alt: "Signature of " + role.name) }
    else if role.form == "typed" { text(15pt, style: "italic", role.name) }
    else if role.form == "absent" { text(9pt)[Nobody accepts: #role.note] })
  line(length: 100%, stroke: 0.8pt + ink)
  text(8pt, if role.name == "" [Name and licence, date, signature] else [#role.name#if role.licence != "" [, licence #role.licence]#if role.at != none [ · #when("signed " + role.role)]#if not role.current [ · of an earlier state]])
})
#let signatures() = [
  == Signed
  #block(breakable: false, grid(columns: (1fr, 1fr, 1fr), column-gutter: 5mm, ..a.leave.signing.roles.map(field)))
  #if a.leave.signing.digest != "" [#faint[State of the job that was signed, SHA-256: #raw(a.leave.signing.digest)]]
  #let taken = a.leave.signing.watches.filter(w => w.by != "")
  #if taken.len() > 0 [
    Taken on by name: #taken.map(w => [#w.where: #w.reason (#w.by)]).join([ ])
  ]
  #text(8.5pt, fill: soft)[This record states what was entered and what follows from it. It replaces neither the tests nor the signatures that the code in force asks for. #a.rule_pack.note]
]
