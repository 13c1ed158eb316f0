"""What ships as data: rule packs, grid profiles, catalogue, sequences, words.

Every figure with its source. Read by name through this module alone, wherever the package lies.
"""

from __future__ import annotations

import json
from importlib.resources import files
from typing import Any


def load(name: str) -> Any:
    """The parsed JSON of a data file, by its name below this folder without ending.

    Raises FileNotFoundError when there is none.
    """
    return json.loads(files(__name__).joinpath(f"{name}.json").read_text(encoding="utf-8"))


def names(folder: str) -> tuple[str, ...]:
    """Names of the data files of a folder, without ending, in order."""
    found = (entry.name for entry in files(__name__).joinpath(folder).iterdir())
    return tuple(sorted(name.removesuffix(".json") for name in found if name.endswith(".json")))
