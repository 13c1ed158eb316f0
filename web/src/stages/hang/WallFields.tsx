import { Button, Checkbox, Input } from "antd";
import { useState } from "react";
import type { Edit, Wall } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { choices, WALL_KINDS } from "./words";
import { say } from "../../words/say";

type Drawn = Extract<Edit, { do: "draw_wall" }>;
type TextField = { [K in keyof Drawn]: Drawn[K] extends string ? K : never }[keyof Drawn];

const FIELDS: readonly (readonly [TextField, string])[] = [
  ["width_mm", say("hang.width")],
  ["height_mm", say("hang.height")],
  ["thickness_mm", say("hang.thickness")],
  ["azimuth_deg", say("common.facing_180_south")],
  ["front_mm", say("hang.free_depth_in_front")],
  ["datum_mm", say("hang.level_line_above_the_ground")],
  ["eave_mm", say("hang.eave_stands_out")],
  ["eave_height_mm", say("hang.underside_of_the_eave_empty_the")],
];
const STUD_FIELDS: readonly (readonly [TextField, string])[] = [
  ["stud_first_mm", say("hang.first_stud_from_the_left")],
  ["stud_pitch_mm", say("hang.pitch_of_the_studs")],
];
const NEW: Drawn = {
  do: "draw_wall",
  kind: "solid",
  width_mm: "",
  height_mm: "",
  thickness_mm: "",
  azimuth_deg: "",
  front_mm: "",
  datum_mm: "1500 mm",
  eave_mm: "0 mm",
  eave_height_mm: "",
  stud_first_mm: "",
  stud_pitch_mm: "",
  board_edges_mm: [],
  reach: "readable",
  outdoors: true,
  combustible: false,
  room: null,
  on_way_out: null,
};
/** What such measures look like: none is taken for granted. */
const LIKE: Partial<Record<TextField, string>> = {
  width_mm: "3000 mm",
  height_mm: "2500 mm",
  thickness_mm: "225 mm",
  azimuth_deg: "0°",
  front_mm: "1000 mm",
};
const ROOMS = [
  ["", say("common.not_said_yet")],
  ["garage", say("hang.a_garage")],
  ["utility", say("hang.a_utility_or_plant_room")],
  ["living", say("hang.a_room_to_live_in")],
  ["bedroom", say("hang.a_room_to_sleep_in")],
  ["loft", say("hang.a_loft")],
  ["stairs", say("hang.stairs_or_under_them")],
] as const;
const WAYS_OUT = [
  ["", say("common.not_said_yet")],
  ["no", say("common.no")],
  ["yes", say("common.yes")],
] as const;
const WAY_OUT = { "": null, no: false, yes: true };

const text = (value: number | null | undefined, unit: string) => (value == null ? "" : figure(value, unit));

function asEntered(wall: Wall): Drawn {
  return {
    do: "draw_wall",
    kind: wall.kind,
    width_mm: text(wall.width_mm, "mm"),
    height_mm: text(wall.height_mm, "mm"),
    thickness_mm: text(wall.thickness_mm, "mm"),
    azimuth_deg: text(wall.azimuth_deg, "°"),
    front_mm: text(wall.front_mm, "mm"),
    datum_mm: text(wall.datum_mm, "mm"),
    eave_mm: text(wall.eave_mm, "mm"),
    eave_height_mm: text(wall.eave_height_mm, "mm"),
    stud_first_mm: text(wall.stud_first_mm, "mm"),
    stud_pitch_mm: text(wall.stud_pitch_mm, "mm"),
    board_edges_mm: wall.board_edges_mm.map((edge) => text(edge, "mm")),
    reach: wall.reach,
    outdoors: wall.outdoors,
    combustible: wall.combustible,
    room: wall.room ?? null,
    on_way_out: wall.on_way_out ?? null,
  };
}

/** The wall's outline and what it is made of. */
export function WallFields({ jobId, wall, drawn }: { jobId: string; wall: Wall | null; drawn: () => void }) {
  const [draft, setDraft] = useState<Drawn | null>(wall === null ? NEW : null);
  const edit = useEdit(jobId);
  const entered = draft ?? (wall === null ? NEW : asEntered(wall));
  const put = (change: Partial<Drawn>) => setDraft({ ...entered, ...change });
  const hasBattery = wall?.devices.some((one) => one.kind === "battery") ?? false;
  const wayOut = entered.on_way_out == null ? "" : entered.on_way_out ? "yes" : "no";
  const fields = entered.kind === "stud" ? [...FIELDS, ...STUD_FIELDS] : FIELDS;
  return (
    <form
      className="wall-fields"
      aria-label={say("hang.the_wall")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(entered, {
          onSuccess: () => {
            setDraft(null);
            drawn();
          },
        });
      }}
    >
      <div className="device-fields">
        <Pick
          label={say("hang.made_of")}
          value={entered.kind}
          options={choices(WALL_KINDS)}
          put={(kind) => put({ kind })}
        />
        {fields.map(([name, label]) => (
          <label key={name} className="entry">
            <span className="entry-label">{label}</span>
            <Input
              value={entered[name]}
              placeholder={LIKE[name]}
              onChange={(event) => put({ [name]: event.target.value })}
            />
          </label>
        ))}
        {entered.kind === "stud" && (
          <label className="entry">
            <span className="entry-label">{say("hang.board_edges_from_the_left")}</span>
            <Input
              value={entered.board_edges_mm.join("; ")}
              placeholder={say("hang.1200_mm_2400_mm")}
              onChange={(event) => put({ board_edges_mm: event.target.value.split(";") })}
              onBlur={() =>
                put({ board_edges_mm: entered.board_edges_mm.map((edge) => edge.trim()).filter((edge) => edge !== "") })
              }
            />
          </label>
        )}
        <Pick
          label={say("hang.mounting_height")}
          value={entered.reach}
          options={[
            ["readable", say("hang.display_readable")],
            ["out_of_reach", say("hang.out_of_reach")],
          ]}
          put={(reach) => put({ reach })}
        />
        {hasBattery && !entered.outdoors && (
          <Pick
            label={say("hang.room_for_the_battery")}
            value={entered.room ?? ""}
            options={ROOMS}
            put={(room) => put({ room: room === "" ? null : room })}
          />
        )}
        {hasBattery && (
          <Pick
            label={say("hang.people_leave_the_house_past_it")}
            value={wayOut}
            options={WAYS_OUT}
            put={(way) => put({ on_way_out: WAY_OUT[way] })}
          />
        )}
      </div>
      <Checkbox checked={entered.outdoors} onChange={(event) => put({ outdoors: event.target.checked })}>
        {say("hang.outdoors")}
      </Checkbox>
      <Checkbox checked={entered.combustible} onChange={(event) => put({ combustible: event.target.checked })}>
        {say("hang.faced_with_something_that_burns")}
      </Checkbox>
      <ProblemNote error={edit.error} />
      <Button type="primary" htmlType="submit" disabled={draft === null} loading={edit.isPending}>
        {say("hang.draw_the_wall")}
      </Button>
    </form>
  );
}
