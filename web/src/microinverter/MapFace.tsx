import { Button } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import { serialMapUrl } from "../shared/api/urls";
import { useJobWrite, useKeep } from "../shared/api/useJobWrite";
import { FileButton } from "../shared/fields/FileButton";
import { dayAndClock } from "../shared/lib/figures";
import { GateLine } from "../shared/judging/GateLine";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Mark } from "../shared/marks/Mark";
import { RoofScale } from "./RoofScale";
import { Scan } from "../shared/scan/Scan";
import type { RoofFaceProps } from "./props";
import { SerialField, standing } from "./SerialField";
import { say } from "../words/say";
import "./microinverter.css";
import "./MapFace.css";

const FORMS = ["pdf", "svg", "csv", "json"] as const;

/** The serial map: cells in walking order, each serial scanned or typed, the next cell comes by itself. */
export function MapFace({ jobId, view, roof }: RoofFaceProps) {
  const [picked, setPicked] = useState<string | null>(null);
  const keep = useKeep(jobId);
  const takeFile = useJobWrite<File>(jobId, (file) => api.takeSerialMap(jobId, file));
  const [said, setSaid] = useState("");
  const cell = roof.units.find((unit) => unit.name === (picked ?? roof.map.next)) ?? roof.units[0];
  if (cell === undefined) return <p className="nothing">{say("microinverter.no_units_yet_take_a_proposal")}</p>;
  const send = (entered: string) =>
    keep.mutate(
      {
        kind: "unit_serial",
        subject: cell.name,
        entered,
        taken_at: null,
        supersedes: standing(cell),
        instrument: "",
        note: "",
      },
      {
        onSuccess: (after) => {
          const kept = after.assessment.roof?.units.find((unit) => unit.name === cell.name);
          setSaid(say("microinverter.is_on_2", { serial: kept?.serial ?? entered, cell: cell.name }));
          setPicked(null);
        },
      },
    );
  const cover = (entered: "1" | "-1") =>
    keep.mutate({
      kind: "unit_covered",
      subject: cell.name,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  const at = roof.units.indexOf(cell);
  return (
    <>
      <div className="map-bench">
        <section className="map-entry" aria-label={say("common.serial")}>
          <header>
            <h2>{cell.name}</h2>
            <span>
              {cell.branch === "" ? say("microinverter.on_no_branch") : `${cell.branch}.${cell.number}`} ·{" "}
              {cell.modules.join(" + ")}
            </span>
            <b>{say("common.of", { taken: roof.map.taken, of: roof.map.of })}</b>
          </header>
          <SerialField key={cell.name} unit={cell} form={roof.map.form} busy={keep.isPending} send={send} />
          <div className="map-do">
            <Button disabled={at <= 0} onClick={() => setPicked(roof.units[at - 1]?.name ?? null)}>
              {say("common.before")}
            </Button>
            <Button disabled={at === roof.units.length - 1} onClick={() => setPicked(roof.units[at + 1]?.name ?? null)}>
              {say("common.next")}
            </Button>
            <Scan found={send} />
          </div>
          {said !== "" && keep.error === null && (
            <p className="map-said" role="status">
              {said}
            </p>
          )}
          <ProblemNote error={keep.error ?? takeFile.error} />
          <GateLine gate={cell.cover} />
          <div className="two-ways">
            <Button disabled={cell.covered} onClick={() => cover("1")}>
              {say("microinverter.the_module_lies_over_it")}
            </Button>
            <Button disabled={!cell.covered} onClick={() => cover("-1")}>
              {say("microinverter.lifted_again")}
            </Button>
          </div>
          {cell.serials.length > 0 && (
            <ul className="history">
              {cell.serials.map((one) => (
                <li key={one.id} className={one.superseded_by === null ? undefined : "superseded"}>
                  <span>{one.text}</span> {one.by}, {dayAndClock(one.taken_at, view.plan.site.timezone)}
                  {one.superseded_by !== null && say("microinverter.superseded")}
                </li>
              ))}
            </ul>
          )}
        </section>
        <section className="map-files" aria-label={say("microinverter.the_map_as_a_file")}>
          <p className="map-line">
            <Mark verdict={roof.map.verdict} /> {roof.map.line}
          </p>
          <p className="source">
            {say("microinverter.a_serial_here_is_written_as", {
              form: roof.map.form === "" ? say("microinverter.the_label_says") : roof.map.form,
              label:
                view.plan.micro?.label === "map"
                  ? say("microinverter.on_the_map")
                  : say("microinverter.on_the_frame_and_on_the"),
            })}
          </p>
          <div className="path-files">
            {FORMS.map((form) => (
              <a key={form} className="quiet" href={serialMapUrl(jobId, form)} download>
                {form.toUpperCase()}
                {form === "pdf" && say("microinverter.a4_to_scale")}
              </a>
            ))}
          </div>
          <FileButton
            label={say("microinverter.serial_map_file")}
            accept=".csv,.json,text/csv,application/json"
            busy={takeFile.isPending}
            take={(file) =>
              takeFile.mutate(file, { onSuccess: () => setSaid(say("microinverter.is_taken_in", { file: file.name })) })
            }
          >
            {say("microinverter.read_a_map_in")}
          </FileButton>
        </section>
      </div>
      <RoofScale
        stage={roof}
        chosen={cell.name}
        trunks={roof.branches.map((one) => ({ name: one.name, units: one.units, strong: false }))}
        touch={(unit) => setPicked(unit.name)}
        shown={(unit) => {
          if (unit === null) return { head: "", foot: say("microinverter.no_unit"), verdict: null, tone: "free" };
          const tone = unit.name === cell.name ? "next" : unit.covered ? "own" : "other";
          return {
            head: unit.name,
            foot: unit.serial === "" ? say("common.none") : unit.serial,
            isSerial: unit.serial !== "",
            verdict: unit.serial_verdict,
            tone,
          };
        }}
      />
      <p className="roof-hint">{say("microinverter.yellow_the_cell_in_hand_tinted")}</p>
    </>
  );
}
