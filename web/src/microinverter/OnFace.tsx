import { Button } from "antd";
import { api } from "../shared/api/calls";
import type { ReadingIn } from "../shared/api/types";
import { useJobWrite } from "../shared/api/useJobWrite";
import { GateLine } from "../shared/judging/GateLine";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { figure } from "../shared/lib/figures";
import { Mark } from "../shared/marks/Mark";
import type { RoofFaceProps } from "./props";
import { GatewayPanel } from "./GatewayPanel";
import { Swap } from "./Swap";
import "./OnFace.css";

/**
 * Branch by branch ON, when permit, map and gateway allow it; then who reports; and how a unit is replaced.
 */
export function OnFace({ jobId, view, roof }: RoofFaceProps) {
  const keep = useJobWrite<ReadingIn>(jobId, (body) => api.keep(jobId, body));
  const turn = (branch: string, entered: "1" | "-1") =>
    keep.mutate({
      kind: "branch_on",
      subject: branch,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  return (
    <>
      <GatewayPanel jobId={jobId} view={view} roof={roof} />
      <h2 className="why-head">Branches ON</h2>
      <ProblemNote error={keep.error} />
      {roof.branches.map((one) => (
        <section key={one.name} className="branch-on" aria-label={`Branch ${one.name}`}>
          <header>
            <h3>
              {one.name}
              {one.phase_name !== "" && ` on ${one.phase_name}`}
            </h3>
            <span>{one.units.length} units</span>
            <b>{one.is_on ? "ON" : "OFF"}</b>
          </header>
          <GateLine gate={one.on} />
          <div className="two-ways">
            <Button disabled={one.is_on} onClick={() => turn(one.name, "1")}>
              {one.name} is ON
            </Button>
            <Button onClick={() => turn(one.name, "-1")}>{one.name} is OFF</Button>
          </div>
          <div className="report-in">
            <progress
              max={one.report.of}
              value={one.report.reporting}
              aria-label={`Units of ${one.name} that report`}
            />
            <b>
              {one.report.reporting} of {one.report.of}
            </b>
            <span>
              <Mark verdict={one.report.verdict} word={false} /> {one.report.line}
              {one.report.minutes !== null &&
                ` ${figure(one.report.minutes, "min")} after switching on; the sheet gives ${figure(one.report.expected_min, "min", 0)}.`}
            </span>
          </div>
        </section>
      ))}
      <Swap jobId={jobId} roof={roof} timezone={view.plan.site.timezone} keep={keep} />
    </>
  );
}
