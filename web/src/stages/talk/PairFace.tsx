import { Button, Input, QRCode } from "antd";
import { useState } from "react";
import { useStop } from "../../shared/api/stopping";
import { Working } from "../../shared/fields/Working";
import { api } from "../../shared/api/calls";
import type { Schemas } from "../../shared/api/types";
import { useEdit, useJobWrite } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { Field } from "../../shared/fields/Field";
import { Pick } from "../../shared/fields/Pick";
import { GateLine } from "../../shared/judging/GateLine";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { ModuleSerialList } from "../../shared/making/ModuleSerialList";
import { Countdown } from "../../shared/layout/Countdown";
import { clock } from "../../shared/lib/figures";
import { CountPicture } from "./CountPicture";
import { Follow } from "./Follow";
import type { TalkFaceProps } from "./props";
import { say } from "../../words/say";

type Listed = Schemas["UnitListIn"];
const NO_PAIRING = say("talk.nothing_of_this_plan_is_paired");

/** What reports over time, who is silent and where, and the serials on their way into the other device. */
export function PairFace({ jobId, view, whyAll, take }: TalkFaceProps) {
  const { talk } = view.assessment;
  const timezone = view.plan.site.timezone;
  const asked = (kind: string, device: string) => view.assessment.asks.some((one) => one.key === `${kind}/${device}`);
  const mute = talk.reporting.some((one) => asked("listed_count", one.device));
  return (
    <>
      {talk.reporting.length === 0 && <p className="nothing">{NO_PAIRING}</p>}
      {talk.reporting.map((one) => (
        <section key={one.device} className="report" aria-label={say("talk.what_reports", { device: one.device })}>
          <header>
            <h2>{one.device}</h2>
            <b className="count">
              {one.counts.at(-1)?.count ?? 0} <small>{say("talk.of", { plan: one.plan })}</small>
            </b>
          </header>
          <GateLine gate={{ verdict: one.verdict, line: one.line }} />
          {one.ends_at !== null && one.counts.length === 0 && <Countdown until={one.ends_at} />}
          {one.next_at !== null && one.verdict !== "clear" && (
            <p className="source">{say("talk.look_again_at", { next_at: clock(one.next_at, timezone) })}</p>
          )}
          <CountPicture report={one} />
          {view.plan.micro !== null && !asked("report_count", one.device) && <Look jobId={jobId} view={view} />}
          {asked("report_count", one.device) && (
            <Button onClick={() => take(`report_count/${one.device}`)}>{say("talk.take_the_count_now")}</Button>
          )}
          {one.silent.length > 0 && (
            <table className="parts">
              <thead>
                <tr>
                  <th>{say("talk.silent_2")}</th>
                  <th>{say("talk.place")}</th>
                  <th>{say("common.serial")}</th>
                  <th>{say("talk.nearest_that_report")}</th>
                </tr>
              </thead>
              <tbody>
                {one.silent.map((unit) => (
                  <tr key={unit.name}>
                    <td>{unit.name}</td>
                    <td>{unit.place}</td>
                    <td>{unit.serial === "" ? say("common.not_read") : unit.serial}</td>
                    <td>{unit.near.length === 0 ? say("common.none_yet") : unit.near.join(", ")}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {one.do !== "" && <p className="told-do">{one.do}</p>}
        </section>
      ))}
      {mute && <UnitList jobId={jobId} />}
      {talk.optimisers !== null && (
        <ModuleSerialList jobId={jobId} serials={talk.optimisers} whyAll={whyAll} of="optimisers" />
      )}
      {talk.map.some((one) => one.serial !== "") && <SerialCodes rows={talk.map} />}
    </>
  );
}

/** The gateway's own list over its open protocol, looked at now. */
function Look({ jobId, view }: { jobId: string; view: TalkFaceProps["view"] }) {
  const gateway = view.plan.micro?.gateway ?? { host: "", port: 0 };
  const gate = view.assessment.roof?.gateway;
  const edit = useEdit(jobId);
  const { begun, stop } = useStop();
  const look = useJobWrite<null>(jobId, () => api.lookAtGateway(jobId, begun()));
  const put = (change: Partial<{ host: string; port: string }>) =>
    edit.mutateAsync({ do: "set_gateway", host: gateway.host, port: String(gateway.port), ...change });
  return (
    <div className="device-fields">
      <Field label={say("talk.gateways_address")} shown={gateway.host} commit={(host) => put({ host })} />
      <Field label={say("talk.gateways_port")} shown={String(gateway.port)} commit={(port) => put({ port })} />
      <Button type="primary" loading={look.isPending} onClick={() => look.mutate(null)}>
        {say("common.look_at_its_list")}
      </Button>
      <Working is={look.isPending} doing={say("common.asking_the_gateway")} stop={stop} />
      <Follow jobId={jobId} />
      {gate !== undefined && (
        <div className="whole-row">
          <GateLine gate={gate} />
        </div>
      )}
      <ProblemNote error={look.error} />
    </div>
  );
}

/** The list of a gateway that gives none over an open protocol, typed or read from a picture. */
function UnitList({ jobId }: { jobId: string }) {
  const [text, setText] = useState("");
  const [source, setSource] = useState<"typed" | "picture">("typed");
  const send = useJobWrite<Listed>(jobId, (body) => api.takeUnitList(jobId, body));
  return (
    <section aria-label={say("talk.the_gateways_list_typed")}>
      <h2>{say("talk.the_gateways_list")}</h2>
      <p className="source">{say("talk.where_it_gives_none_over_an")}</p>
      <Input.TextArea
        aria-label={say("talk.serials_one_on_each_line")}
        rows={6}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div className="device-fields">
        <Pick
          label={say("talk.where_it_is_from")}
          value={source}
          options={[
            ["typed", say("talk.typed_from_its_list")],
            ["picture", say("talk.read_from_a_picture")],
          ]}
          put={setSource}
        />
        <Button
          type="primary"
          loading={send.isPending}
          disabled={text.trim() === ""}
          onClick={() => send.mutate({ text, source }, { onSuccess: () => setText("") })}
        >
          {say("talk.keep_this_list")}
        </Button>
      </div>
      <ProblemNote error={send.error} />
      <Photos jobId={jobId} step={say("talk.gateway_list")} title={say("talk.the_gateways_list_2")} />
    </section>
  );
}

/** Each serial in walking order, as a code that the other device's camera reads. */
function SerialCodes({ rows }: { rows: Schemas["MapRow"][] }) {
  const known = rows.filter((one) => one.serial !== "");
  const [at, setAt] = useState(0);
  const row = known[Math.min(at, known.length - 1)];
  if (row === undefined) return null;
  return (
    <section className="codes" aria-label={say("talk.serials_for_another_device")}>
      <h2>{say("talk.serials_for_the_other_device")}</h2>
      <div className="code-now">
        <QRCode value={row.serial} size={232} bordered={false} color="#000000" bgColor="#ffffff" />
        <div>
          <b className="code-serial">{row.serial}</b>
          <p>
            {row.name}
            {row.cells.length > 0 && ` · ${row.cells.join(" + ")}`}
          </p>
          <p className="source">
            {say("talk.of_2", {
              at: at + 1,
              knownCount: known.length,
              unread:
                known.length < rows.length && say("talk.are_not_read_yet", { rowsCount: rows.length - known.length }),
            })}
          </p>
          <div className="map-do">
            <Button disabled={at === 0} onClick={() => setAt(at - 1)}>
              {say("common.before")}
            </Button>
            <Button type="primary" disabled={at >= known.length - 1} onClick={() => setAt(at + 1)}>
              {say("common.next")}
            </Button>
          </div>
        </div>
      </div>
    </section>
  );
}
