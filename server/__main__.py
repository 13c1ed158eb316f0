"""`long-noon`: serve an installation, add people, from the installed package."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from django.core.management import execute_from_command_line

from server.platform.secret import make_secret
from server.signing.verify import main as verify_record

USAGE = """usage:
  long-noon serve                   serve on LONG_NOON_BIND, 127.0.0.1:8765 if that is not set
  long-noon person NAME             add somebody who may sign in; the first of a crew owns it
  long-noon person list|remove|rename|role|reset ...
  long-noon licence NAME NUMBER [LAST-DAY]   enter a licence
  long-noon backup FILE             copy everything; LONG_NOON_PASSPHRASE encrypts it
  long-noon restore FILE [--over-data]
  long-noon check-data              go through everything that is kept
  long-noon verify                  whether the audit is as it was written
  long-noon verify FILE             whether a signed record, or a file of one, is as it was signed
Jobs are kept in LONG_NOON_VAR; ./var if that is not set.
"""


PERSON_DOES = ("add", "list", "remove", "rename", "role", "reset")


def main(arguments: list[str] | None = None) -> int:
    """Run a command; 2 for one that there is not."""
    given = sys.argv[1:] if arguments is None else arguments
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    var = Path(os.environ.setdefault("LONG_NOON_VAR", str(Path.cwd() / "var")))
    match given:
        case ["serve"]:
            make_secret(var)
            execute_from_command_line(["long-noon", "look_at_start"])
            _serve()
        case ["person", *words] if words:
            make_secret(var)
            _prepare()
            does = words if words[0] in PERSON_DOES else ["add", *words]
            execute_from_command_line(["long-noon", "person", *does])
        case ["verify", *files] if files:
            return verify_record(files)
        case ["restore", *words] if words:
            execute_from_command_line(["long-noon", "restore", *words])
        case [("licence" | "backup" | "check-data" | "verify") as name, *words]:
            make_secret(var)
            _prepare()
            execute_from_command_line(["long-noon", name.replace("-", "_"), *words])
        case _:
            sys.stderr.write(USAGE)
            return 2
    return 0


def _prepare() -> None:
    execute_from_command_line(["long-noon", "migrate", "--verbosity", "0"])


def _serve() -> None:
    bind = os.environ.get("LONG_NOON_BIND", "127.0.0.1:8765")
    config = Path(__file__).parent / "gunicorn_conf.py"
    command = [sys.executable, "-m", "gunicorn", "server.wsgi:application"]
    os.execv(sys.executable, [*command, "--config", str(config), "--bind", bind])


if __name__ == "__main__":
    sys.exit(main())
