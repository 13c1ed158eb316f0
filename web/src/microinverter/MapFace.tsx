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
  if (cell === undefined) return <p className="nothing">No units yet: take a proposal under branches.</p>;
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
          setSaid(`${kept?.serial ?? entered} is on ${cell.name}.`);
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
        <section className="map-entry" aria-label="Serial">
          <header>
            <h2>{cell.name}</h2>
            <span>
              {cell.branch === "" ? "on no branch" : `${cell.branch}.${cell.number}`} · {cell.modules.join(" + ")}
            </span>
            <b>
              {roof.map.taken} of {roof.map.of}
            </b>
          </header>
          <SerialField key={cell.name} unit={cell} form={roof.map.form} busy={keep.isPending} send={send} />
          <div className="map-do">
            <Button disabled={at <= 0} onClick={() => setPicked(roof.units[at - 1]?.name ?? null)}>
              Before
            </Button>
            <Button disabled={at === roof.units.length - 1} onClick={() => setPicked(roof.units[at + 1]?.name ?? null)}>
              Next
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
              The module lies over it
            </Button>
            <Button disabled={!cell.covered} onClick={() => cover("-1")}>
              Lifted again
            </Button>
          </div>
          {cell.serials.length > 0 && (
            <ul className="history">
              {cell.serials.map((one) => (
                <li key={one.id} className={one.superseded_by === null ? undefined : "superseded"}>
                  <span>{one.text}</span> {one.by}, {dayAndClock(one.taken_at, view.plan.site.timezone)}
                  {one.superseded_by !== null && " (superseded)"}
                </li>
              ))}
            </ul>
          )}
        </section>
        <section className="map-files" aria-label="The map as a file">
          <p className="map-line">
            <Mark verdict={roof.map.verdict} /> {roof.map.line}
          </p>
          <p className="source">
            A serial here is written as {roof.map.form === "" ? "the label says" : roof.map.form}. Labels go{" "}
            {view.plan.micro?.label === "map" ? "on the map" : "on the frame and on the map"} before the module is down.
          </p>
          <div className="path-files">
            {FORMS.map((form) => (
              <a key={form} className="quiet" href={serialMapUrl(jobId, form)} download>
                {form.toUpperCase()}
                {form === "pdf" && ", A4 to scale"}
              </a>
            ))}
          </div>
          <FileButton
            label="Serial map file"
            accept=".csv,.json,text/csv,application/json"
            busy={takeFile.isPending}
            take={(file) => takeFile.mutate(file, { onSuccess: () => setSaid(`${file.name} is taken in.`) })}
          >
            Read a map in
          </FileButton>
        </section>
      </div>
      <RoofScale
        stage={roof}
        chosen={cell.name}
        trunks={roof.branches.map((one) => ({ name: one.name, units: one.units, strong: false }))}
        touch={(unit) => setPicked(unit.name)}
        shown={(unit) => {
          if (unit === null) return { head: "", foot: "no unit", verdict: null, tone: "free" };
          const tone = unit.name === cell.name ? "next" : unit.covered ? "own" : "other";
          return {
            head: unit.name,
            foot: unit.serial === "" ? "none" : unit.serial,
            isSerial: unit.serial !== "",
            verdict: unit.serial_verdict,
            tone,
          };
        }}
      />
      <p className="roof-hint">
        Yellow: the cell in hand. Tinted: its module is down. The last signs of each serial stand under its unit.
      </p>
    </>
  );
}
