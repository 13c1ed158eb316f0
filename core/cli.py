"""The core on the command line: assess a job file, edit it, list the rules, run one."""

from __future__ import annotations

import json
import os
import sys
from datetime import datetime
from pathlib import Path

from core import registry
from core.assess import assess
from core.base.errors import Refused, problem
from core.base.form import write
from core.base.json_text import parse_json
from core.base.limits import MOST_JOB_BYTES
from core.edits.every import read_edit
from core.edits.house import applied
from core.equipment.catalogue import SHIPPED
from core.explain.sums import run_with_sum, sums
from core.figures.pack_check import Difference, differences, findings, taken_over
from core.figures.rule_packs import known_packs, pack, read_pack
from core.files.job import read_job, write_job
from core.job.house import view
from core.job.job import Job

EXIT_OK = 0
EXIT_REFUSED = 2

USAGE = """usage:
  noon assess FILE.json [--at MOMENT] [--of INVERTER]  print the assessment of a job file as JSON,
                               at a moment (without one, when it was last read), of one inverter
                               of a house with several (without one, of the first)
  noon sums FILE.json [--at MOMENT] [--of INVERTER]  how each judgement of it was found: the
                               formula with its numbers, and where each of them came from
  noon edit JOB.json EDIT.json  make an edit (- for input), with sheets that ship; print the job
  noon rules                   list every public rule with its data sheet
  noon rule NAME FILE.json     run one rule on a JSON object of its parameters (- for input);
                               with the formula and its numbers, step by step
  noon packs check [NAME or FILE.json]  look a rule pack over, or every one that ships: units,
                               tables, standard, edition and clause of each source
  noon packs diff NAME NAME    where two packs say something else, as a table
  noon packs editions          the packs that ship, their editions, the days that these count
  noon packs taken NAME        what a pack takes over from another, and from which
"""


def main(arguments: list[str]) -> int:
    """Run a command; gives the exit code: 0 done, 2 refused with the reason on stderr."""
    try:
        match arguments:
            case ["assess" | "sums" as what, file, *options]:
                wanted, at = _wanted(read_job(_bytes(file)), options)
                _print(write(assess(wanted, at=at) if what == "assess" else sums(wanted, at=at)))
            case ["edit", file, edit]:
                made = read_edit(parse_json(_bytes(edit)))
                job = read_job(_bytes(file))
                sys.stdout.write(write_job(applied(job, job.id, made, SHIPPED)))
            case ["rules"]:
                for name in registry.rules():
                    _print_sheet(registry.data_sheet(name))
            case ["rule", name, file]:
                _print(run_with_sum(name, parse_json(_bytes(file))))
            case ["packs", *asked]:
                return _packs(asked)
            case _:
                sys.stderr.write(USAGE)
                return EXIT_REFUSED
    except Refused as refused:
        for found in refused.problems:
            line = f"{found.path}: {found.message}"
            sys.stderr.write(f"{line} Given: {found.value}. Allowed: {found.allowed}.\n")
        return EXIT_REFUSED
    return EXIT_OK


def _packs(asked: list[str]) -> int:
    """What is asked of rule packs; gives the exit code. Raises Refused."""
    match asked:
        case ["check", *named]:
            return _check_packs(named or list(known_packs()))
        case ["diff", one, other]:
            _print_rows(differences(pack(one), pack(other)))
        case ["editions"]:
            _print_editions()
        case ["taken", name]:
            for path, whose in taken_over(pack(name)).items():
                sys.stdout.write(f"{path}\t{whose}\n")
        case _:
            sys.stderr.write(USAGE)
            return EXIT_REFUSED
    return EXIT_OK


def _check_packs(named: list[str]) -> int:
    """Print what a look over packs finds; 2 where anything was found. Raises Refused."""
    found = 0
    for name in named:
        is_file = name not in known_packs() and name.endswith(".json")
        rules = read_pack(parse_json(_bytes(name))) if is_file else pack(name)
        for one in findings(rules):
            found += 1
            sys.stdout.write(f"{rules.id}\t{one.path}\t{one.said}\n")
        sys.stdout.write(f"{rules.id}\t{rules.edition}\tlooked over\n")
    return EXIT_REFUSED if found else EXIT_OK


def _print_editions() -> None:
    for rules in map(pack, known_packs()):
        days = (rules.counts_from, rules.counts_until)
        shown = ("-" if day is None else day.isoformat() for day in days)
        sys.stdout.write("\t".join((rules.id, rules.edition, *shown)) + "\n")


def _print_rows(rows: tuple[Difference, ...]) -> None:
    for one in rows:
        cells = (one.path, one.one, one.other, one.one_source, one.other_source)
        sys.stdout.write("\t".join(cells) + "\n")


def _wanted(job: Job, options: list[str]) -> tuple[Job, datetime | None]:
    """One inverter of a house as asked for, the first without, and the moment. Raises Refused."""
    given = dict(zip(options[::2], options[1::2], strict=False))
    if len(options) % 2 or set(given) - {"--at", "--of"}:
        raise Refused([problem("$", " ".join(options), "--at MOMENT, --of INVERTER")])
    at = _moment(given["--at"]) if "--at" in given else None
    named = {job.id: job.id, job.own_device or job.name: job.id}
    named |= {name: one.id for one in job.stations for name in (one.id, one.name)}
    wanted = given.get("--of", job.id)
    if wanted not in named:
        raise Refused([problem("$.of", wanted, " · ".join(named))])
    return view(job, named[wanted]), at


def _moment(text: str) -> datetime:
    """A moment with its offset. Raises Refused."""
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        found = None
    if found is None or found.tzinfo is None:
        allowed = "a moment with its offset, as 2026-05-14T11:20+02:00"
        raise Refused([problem("--at", text, allowed)])
    return found


def _bytes(file: str) -> bytes:
    if file == "-":
        return sys.stdin.buffer.read(MOST_JOB_BYTES + 1)
    path = Path(file)
    if not path.is_file():
        raise Refused([problem("$", file, "a file that can be read", f"There is no file {file}.")])
    try:
        with path.open("rb") as opened:
            return opened.read(MOST_JOB_BYTES + 1)
    except OSError as error:
        said = f"{file} cannot be read: {error.strerror}."
        raise Refused([problem("$", file, "a file that can be read", said)]) from None


def _print(data: object) -> None:
    sys.stdout.write(json.dumps(data, indent=2, ensure_ascii=False) + "\n")


def _print_sheet(sheet: registry.DataSheet) -> None:
    out = [f"{sheet.name}  ({sheet.subject})", f"  {sheet.question}"]
    out += [f"  {line}" for line in sheet.notes.splitlines()]
    for parameter in sheet.parameters:
        default = "required" if parameter.required else f"default {parameter.default}"
        meaning = f"{parameter.meaning}; " if parameter.meaning else ""
        out.append(f"    {parameter.name}: {meaning}{parameter.allowed}; {default}")
    out.append(f"  gives: {sheet.gives}")
    if any(parameter.limited for parameter in sheet.parameters):
        out.append("  holds within the ranges above; beyond them it is refused, not judged")
    sys.stdout.write("\n".join(out) + "\n\n")


def run() -> int:
    """As `main` with the process's arguments; a reader that stops early is no error."""
    try:
        return main(sys.argv[1:])
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return EXIT_OK


if __name__ == "__main__":
    sys.exit(run())
