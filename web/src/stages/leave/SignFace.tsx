import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Checkbox, Input, Select } from "antd";
import { useState } from "react";
import { useSession } from "../../people/useSession";
import { api } from "../../shared/api/calls";
import type { Schemas } from "../../shared/api/types";
import { signedUrl } from "../../shared/api/urls";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { GateLine } from "../../shared/judging/GateLine";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import type { StageProps } from "../../shared/layout/StageFrame";
import { dayAndClock, figure } from "../../shared/lib/figures";
import { SignaturePad } from "./SignaturePad";
import { rich, say } from "../../words/say";

type Role = Schemas["RoleState"];
type Signing = Schemas["SigningView"];
type Form = Schemas["SignatureIn"]["form"];
const BYTES_PER_KB = 1024;

/** The three signatures, what is taken on with them, and every version that was frozen. */
export function SignFace({ jobId, view }: StageProps) {
  const { signing } = view.assessment.leave;
  const marks = `${view.revision}-${signing.roles.map((one) => one.at ?? "").join()}-${view.assessment.open_points.length}`;
  const seen = useQuery({ queryKey: ["signing", jobId, marks], queryFn: () => api.signing(jobId), staleTime: 0 });
  const timezone = view.plan.site.timezone;
  return (
    <>
      <ProblemNote error={seen.error} />
      {seen.data !== undefined && (
        <>
          <GateLine gate={{ verdict: seen.data.may_be_signed ? "clear" : "waiting", line: seen.data.line }} />
          <div className="sign-roles">
            {signing.roles.map((role) => (
              <RoleCard key={role.role} jobId={jobId} role={role} signing={seen.data} timezone={timezone} />
            ))}
          </div>
          <Versions jobId={jobId} signing={seen.data} timezone={timezone} />
        </>
      )}
    </>
  );
}

interface RoleCardProps {
  jobId: string;
  role: Role;
  signing: Signing;
  timezone: string;
}

function RoleCard({ jobId, role, signing, timezone }: RoleCardProps) {
  const me = useSession().session?.name ?? "";
  const first = role.role === "did" ? (signing.crew[0] ?? "") : role.role === "answers" ? me : signing.customer;
  const [name, setName] = useState(first);
  const [form, setForm] = useState<Form>("typed");
  const [drawn, setDrawn] = useState("");
  const [note, setNote] = useState("");
  const [taken, setTaken] = useState<string[]>([]);
  const client = useQueryClient();
  const sign = useJobWrite<Schemas["SignatureIn"]>(jobId, async (body) => {
    const answer = await api.sign(jobId, body);
    await client.invalidateQueries({ queryKey: ["signing", jobId] });
    return answer;
  });
  const title = role.title.charAt(0).toUpperCase() + role.title.slice(1);
  const watches = role.role === "answers" ? signing.watches : [];
  return (
    <section className="sign-role" aria-label={title}>
      <h2>{title}</h2>
      <p className="source">{role.about}</p>
      {role.at !== null && (
        <div className={role.current ? "signed" : "signed signed-before"}>
          {role.drawn !== "" ? (
            <svg viewBox="0 0 1000 400" role="img" aria-label={say("leave.signature_of", { role: role.name })}>
              <path d={role.drawn} className="pad-drawn" />
            </svg>
          ) : (
            <b className="typed-name">
              {role.form === "absent" ? say("leave.nobody_accepts", { note: role.note }) : role.name}
            </b>
          )}
          <p>
            {role.name}
            {role.licence !== "" && say("leave.licence", { licence: role.licence })} · {dayAndClock(role.at, timezone)}
            {!role.current && say("leave.of_an_earlier_state")}
          </p>
        </div>
      )}
      {!role.current && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            sign.mutate({ role: role.role, name, form, drawn, took_on: taken, note, state: signing.state });
          }}
        >
          {role.role === "did" && signing.crew.length > 0 ? (
            <label className="entry">
              <span className="entry-label">{say("common.name")}</span>
              <Select
                aria-label={say("leave.name", { title: role.title })}
                value={name}
                options={signing.crew.map((one) => ({ value: one, label: one }))}
                onChange={setName}
              />
            </label>
          ) : (
            <label className="entry">
              <span className="entry-label">
                {role.role === "answers" ? say("leave.name_as_signed_in") : say("common.name")}
              </span>
              <Input
                aria-label={say("leave.name", { title: role.title })}
                value={name}
                readOnly={role.role === "answers"}
                onChange={(event) => setName(event.target.value)}
              />
            </label>
          )}
          {watches.length > 0 && (
            <fieldset className="take-on">
              <legend>{say("leave.taken_on_by_name")}</legend>
              {watches.map((one) => (
                <Checkbox
                  key={one.key}
                  checked={taken.includes(one.key)}
                  onChange={(event) =>
                    setTaken(event.target.checked ? [...taken, one.key] : taken.filter((key) => key !== one.key))
                  }
                >
                  <b>{one.where}</b> {one.reason}
                </Checkbox>
              ))}
            </fieldset>
          )}
          <div className="sign-forms" role="radiogroup" aria-label={say("leave.how_signs", { title: role.title })}>
            {(["typed", "drawn", ...(role.role === "accepts" ? (["absent"] as const) : [])] as const).map((one) => (
              <button
                key={one}
                type="button"
                role="radio"
                aria-checked={form === one}
                className="face"
                onClick={() => setForm(one)}
              >
                {one === "typed"
                  ? say("leave.by_name")
                  : one === "drawn"
                    ? say("leave.drawn")
                    : say("leave.nobody_is_here")}
              </button>
            ))}
          </div>
          {form === "drawn" && <SignaturePad drawn={drawn} put={setDrawn} name={role.title} />}
          {form === "absent" && (
            <label className="entry">
              <span className="entry-label">{say("leave.why_nobody_accepts")}</span>
              <Input value={note} onChange={(event) => setNote(event.target.value)} />
            </label>
          )}
          <Button type="primary" htmlType="submit" loading={sign.isPending} disabled={!signing.may_be_signed}>
            {say("leave.sign")}
          </Button>
          <ProblemNote error={sign.error} />
        </form>
      )}
    </section>
  );
}

function Versions({ jobId, signing, timezone }: { jobId: string; signing: Signing; timezone: string }) {
  return (
    <section aria-label={say("leave.versions")}>
      <header className="rail-head">
        <h2>{say("leave.frozen_versions")}</h2>
        <span>{signing.versions.length}</span>
      </header>
      {signing.versions.length === 0 && <p className="source">{say("leave.with_the_third_signature_the_job")}</p>}
      <ul className="versions">
        {signing.versions.map((one) => (
          <li key={one.number}>
            <b>{say("leave.version", { number: one.number })}</b> {dayAndClock(one.at, timezone)}, {one.by}{" "}
            <a className="quiet" href={signedUrl(jobId, one.number)}>
              {say("leave.zip", { size_bytes: figure(one.size_bytes / BYTES_PER_KB, "kB", 0) })}
            </a>
            <code>{one.digest}</code>
            {one.differs.length > 0 && <Differs lines={one.differs} title={say("leave.differs_from_the_one_before")} />}
          </li>
        ))}
      </ul>
      {signing.versions.length > 0 && (
        <p className="source">
          {rich("leave.sealed_by_key_noon_verify_file", { key: signing.key, code: (words) => <code>{words}</code> })}
        </p>
      )}
      {signing.since.length > 0 && <Differs lines={signing.since} title={say("leave.since_the_last_version")} />}
    </section>
  );
}

function Differs({ lines, title }: { lines: Schemas["Difference"][]; title: string }) {
  return (
    <details className="differs">
      <summary>
        {title}: {lines.length}
      </summary>
      <ul>
        {lines.map((one, index) => (
          <li key={`${one.what}-${index}`}>
            {one.what}: {one.was !== "" && <s>{one.was}</s>} <b>{one.now === "" ? say("leave.gone") : one.now}</b>
          </li>
        ))}
      </ul>
    </details>
  );
}
