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

type Listed = Schemas["UnitListIn"];
const NO_PAIRING = "Nothing of this plan is paired: no optimisers, no roof units.";

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
        <section key={one.device} className="report" aria-label={`${one.device}: what reports`}>
          <header>
            <h2>{one.device}</h2>
            <b className="count">
              {one.counts.at(-1)?.count ?? 0} <small>of {one.plan}</small>
            </b>
          </header>
          <GateLine gate={{ verdict: one.verdict, line: one.line }} />
          {one.ends_at !== null && one.counts.length === 0 && <Countdown until={one.ends_at} />}
          {one.next_at !== null && one.verdict !== "clear" && (
            <p className="source">Look again at {clock(one.next_at, timezone)}.</p>
          )}
          <CountPicture report={one} />
          {view.plan.micro !== null && !asked("report_count", one.device) && <Look jobId={jobId} view={view} />}
          {asked("report_count", one.device) && (
            <Button onClick={() => take(`report_count/${one.device}`)}>Take the count now</Button>
          )}
          {one.silent.length > 0 && (
            <table className="parts">
              <thead>
                <tr>
                  <th>Silent</th>
                  <th>Place</th>
                  <th>Serial</th>
                  <th>Nearest that report</th>
                </tr>
              </thead>
              <tbody>
                {one.silent.map((unit) => (
                  <tr key={unit.name}>
                    <td>{unit.name}</td>
                    <td>{unit.place}</td>
                    <td>{unit.serial === "" ? "not read" : unit.serial}</td>
                    <td>{unit.near.length === 0 ? "none yet" : unit.near.join(", ")}</td>
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
      <Field label="Gateway's address" shown={gateway.host} commit={(host) => put({ host })} />
      <Field label="Gateway's port" shown={String(gateway.port)} commit={(port) => put({ port })} />
      <Button type="primary" loading={look.isPending} onClick={() => look.mutate(null)}>
        Look at its list
      </Button>
      <Working is={look.isPending} doing="Asking the gateway" stop={stop} />
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
    <section aria-label="The gateway's list, typed">
      <h2>The gateway's list</h2>
      <p className="source">
        Where it gives none over an open protocol: its serials, one on each line, as it shows them.
      </p>
      <Input.TextArea
        aria-label="Serials, one on each line"
        rows={6}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div className="device-fields">
        <Pick
          label="Where it is from"
          value={source}
          options={[
            ["typed", "typed from its list"],
            ["picture", "read from a picture"],
          ]}
          put={setSource}
        />
        <Button
          type="primary"
          loading={send.isPending}
          disabled={text.trim() === ""}
          onClick={() => send.mutate({ text, source }, { onSuccess: () => setText("") })}
        >
          Keep this list
        </Button>
      </div>
      <ProblemNote error={send.error} />
      <Photos jobId={jobId} step="gateway list" title="the gateway's list" />
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
    <section className="codes" aria-label="Serials for another device">
      <h2>Serials for the other device</h2>
      <div className="code-now">
        <QRCode value={row.serial} size={232} bordered={false} color="#000000" bgColor="#ffffff" />
        <div>
          <b className="code-serial">{row.serial}</b>
          <p>
            {row.name}
            {row.cells.length > 0 && ` · ${row.cells.join(" + ")}`}
          </p>
          <p className="source">
            {at + 1} of {known.length}
            {known.length < rows.length && `, ${rows.length - known.length} are not read yet`}
          </p>
          <div className="map-do">
            <Button disabled={at === 0} onClick={() => setAt(at - 1)}>
              Before
            </Button>
            <Button type="primary" disabled={at >= known.length - 1} onClick={() => setAt(at + 1)}>
              Next
            </Button>
          </div>
        </div>
      </div>
    </section>
  );
}
