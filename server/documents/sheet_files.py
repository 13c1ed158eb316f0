"""Drawings as files: PDF pages and DXF."""

from __future__ import annotations

import io

from core.base.drawing import MARK_MM, Drawing, Layer, Mark, VerdictMark, svg, verdict_outline
from server.documents.typesetting import TEMPLATES, typeset

# Numbers of the DXF colour index nearest to the drawing's own.
DXF_COLOURS: dict[Layer, int] = {
    "frame": 7,
    "symbol": 7,
    "dc": 30,
    "ac": 5,
    "earth": 3,
    "signal": 6,
    "text": 7,
    "mark": 7,
}


def sheets_pdf(drawings: tuple[Drawing, ...]) -> bytes:
    """The sheets as PDF, a page for each at its size."""
    pages = [
        {"width_mm": one.width_mm, "height_mm": one.height_mm, "svg": svg(one)} for one in drawings
    ]
    return typeset(TEMPLATES / "sheets.typ", {"pages": pages}, "pdf")[0]


def path_dxf(drawing: Drawing) -> str:
    """The sheet as DXF R2010 in millimetres, a layer for each medium, y upward."""
    from ezdxf.enums import TextEntityAlignment  # noqa: PLC0415
    from ezdxf.filemanagement import new  # noqa: PLC0415  half a second: only on demand

    anchors = {
        "start": TextEntityAlignment.LEFT,
        "middle": TextEntityAlignment.CENTER,
        "end": TextEntityAlignment.RIGHT,
    }
    made = new("R2010", units=4)
    for layer, colour in DXF_COLOURS.items():
        made.layers.add(layer, color=colour)
    space, high = made.modelspace(), drawing.height_mm

    def draw(mark: Mark) -> None:
        at, on = mark.stroke.at, {"layer": mark.layer}
        match mark.stroke.kind:
            case "line":
                space.add_line((at[0], high - at[1]), (at[2], high - at[3]), dxfattribs=on)
            case "circle":
                space.add_circle((at[0], high - at[1]), at[2], dxfattribs=on)
            case "rect":
                x, y, right, down = at[0], at[1], at[0] + at[2], at[1] + at[3]
                corners = [(x, y), (right, y), (right, down), (x, down)]
                points = [(px, high - py) for px, py in corners]
                space.add_lwpolyline(points, close=True, dxfattribs=on)
            case "arc":
                # Clockwise on the sheet is anticlockwise with y upward.
                space.add_arc((at[0], high - at[1]), at[2], -at[4], -at[3], dxfattribs=on)
            case "text":
                entity = space.add_text(mark.stroke.text, height=at[2], dxfattribs=on)
                entity.set_placement((at[0], high - at[1]), align=anchors[mark.anchor])

    def stamp(one: VerdictMark) -> None:
        on = {"layer": "mark"}
        corners = [(x, high - y) for x, y in verdict_outline(one)]
        if corners:
            space.add_lwpolyline(corners, close=True, dxfattribs=on)
        else:
            space.add_circle((one.x_mm, high - one.y_mm), MARK_MM, dxfattribs=on)

    for mark in drawing.marks:
        draw(mark)
    for one in drawing.verdicts:
        stamp(one)
    out = io.StringIO()
    made.write(out)
    return out.getvalue()
