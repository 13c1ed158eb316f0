import { Button } from "antd";
import { useEffect, useRef } from "react";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { api } from "../shared/api/calls";
import type { JobView, RoofStage } from "../shared/api/types";
import { useEdit, useJobWrite } from "../shared/api/useJobWrite";
import { dayAndClock, figure } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Mark } from "../shared/marks/Mark";
import { Field } from "../shared/fields/Field";
import { say } from "../words/say";
import "./microinverter.css";

const LOOK_EVERY_MS = 30_000;

/** The map beside what the gateway lists: what is missing, foreign or late first, the rest counted. */
export function GatewayPanel({ jobId, view, roof }: { jobId: string; view: JobView; roof: RoofStage }) {
  const edit = useEdit(jobId);
  const { begun, stop } = useStop();
  const look = useJobWrite<null>(jobId, () => api.lookAtGateway(jobId, begun()));
  const gateway = view.plan.micro?.gateway ?? { host: "", port: 0 };
  const watched = roof.branches.some((one) => one.is_on && one.report.reporting < one.report.of);
  const latest = useRef(look);
  useEffect(() => {
    latest.current = look;
  });
  useEffect(() => {
    if (!watched) return undefined;
    const timer = setInterval(() => {
      if (!latest.current.isPending) latest.current.mutate(null);
    }, LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [watched]);
  const { lines } = roof.gateway;
  const told = lines.filter((one) => one.standing !== "reporting");
  const put = (change: Partial<{ host: string; port: string }>) =>
    edit.mutateAsync({ do: "set_gateway", host: gateway.host, port: String(gateway.port), ...change });
  return (
    <section className="gateway" aria-label={say("microinverter.gateway")}>
      <h2>{say("microinverter.gateway_against_the_map")}</h2>
      <div className="device-fields">
        <Field label={say("common.address")} shown={gateway.host} commit={(host) => put({ host })} />
        <Field label={say("common.port")} shown={String(gateway.port)} commit={(port) => put({ port })} />
        <Button type="primary" loading={look.isPending} onClick={() => look.mutate(null)}>
          {say("common.look_at_its_list")}
        </Button>
        <Working is={look.isPending} doing={say("common.asking_the_gateway")} stop={stop} />
      </div>
      <ProblemNote error={look.error} />
      {watched && <p className="source">{say("microinverter.a_branch_is_on_and_units")}</p>}
      <p className="map-line">
        <Mark verdict={roof.gateway.verdict} /> {roof.gateway.line}
      </p>
      {lines.length > 0 && (
        <p className="source">
          {say("microinverter.report_listed_and_not_reporting_yet", {
            reporting: roof.gateway.reporting,
            late: roof.gateway.late,
            at:
              roof.gateway.at !== null &&
              say("microinverter.looked_at_by", {
                by: roof.gateway.by,
                at: dayAndClock(roof.gateway.at, view.plan.site.timezone),
              }),
          })}
        </p>
      )}
      {told.length > 0 && (
        <table className="parts">
          <thead>
            <tr>
              <th>{say("common.serial")}</th>
              <th>{say("microinverter.unit")}</th>
              <th>{say("microinverter.what_is_said_of_it")}</th>
            </tr>
          </thead>
          <tbody>
            {told.map((one) => (
              <tr key={one.serial + one.unit}>
                <td>{one.serial}</td>
                <td>{one.unit === "" ? say("common.none") : one.unit}</td>
                <td>
                  <Mark verdict={one.verdict} word={false} /> {one.said}
                  {one.power_w !== null && `, ${figure(one.power_w, "W", 0)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
