import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import type { Instrument, InstrumentState } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./Testers.css";

interface TestersProps {
  jobId: string;
  instruments: InstrumentState[];
  tester: string;
  choose: (name: string) => void;
}

interface Draft {
  was: string | null;
  name: string;
  serial: string;
  calibrated_on: string;
  due_on: string;
  /** What its columns are, from another job. */
  columns?: Instrument["columns"];
}

const EMPTY: Draft = { was: null, name: "", serial: "", calibrated_on: "", due_on: "" };

/** The testers of this job, the one in hand chosen: every reading is kept under its name. */
export function Testers({ jobId, instruments, tester, choose }: TestersProps) {
  const [draft, setDraft] = useState<Draft | null>(instruments.length === 0 ? EMPTY : null);
  const edit = useEdit(jobId);
  const keep = (one: Draft) =>
    edit.mutate(
      { do: "put_instrument", ...one, columns: one.columns ?? [] },
      {
        onSuccess: () => {
          choose(one.name);
          setDraft(null);
        },
      },
    );
  return (
    <section className="testers" aria-label={say("common.testers")}>
      <header className="rail-head">
        <h2>{say("prove.in_hand")}</h2>
        <span>{instruments.length === 0 ? say("prove.no_tester_yet") : tester}</span>
      </header>
      <div role="radiogroup" aria-label={say("common.tester_in_hand")}>
        {instruments.map((one) => (
          <div key={one.name} className="tester">
            <button
              type="button"
              role="radio"
              aria-checked={one.name === tester}
              className="tester-pick"
              onClick={() => choose(one.name)}
            >
              <b>{one.name}</b>
              <span>{say("prove.serial_readings", { serial: one.serial, readings: one.readings })}</span>
              <Mark verdict={one.judgement.verdict} />
            </button>
            {one.judgement.verdict !== "clear" && (
              <p className={`reason reason-${one.judgement.verdict}`}>{one.judgement.reason}</p>
            )}
            <div className="tester-more">
              <button
                type="button"
                className="quiet"
                onClick={() =>
                  setDraft({
                    was: one.name,
                    name: one.name,
                    serial: one.serial,
                    calibrated_on: one.calibrated_on ?? "",
                    due_on: one.due_on ?? "",
                  })
                }
              >
                {say("common.change")}
              </button>
              {one.readings === 0 && (
                <button
                  type="button"
                  className="quiet"
                  onClick={() => edit.mutate({ do: "remove_instrument", name: one.name })}
                >
                  {say("prove.remove")}
                </button>
              )}
            </div>
          </div>
        ))}
      </div>
      {draft === null ? (
        <Button onClick={() => setDraft(EMPTY)}>{say("prove.another_tester")}</Button>
      ) : (
        <TesterForm
          jobId={jobId}
          draft={draft}
          put={setDraft}
          keep={keep}
          leave={() => setDraft(null)}
          busy={edit.isPending}
        />
      )}
      <ProblemNote error={edit.error} />
    </section>
  );
}

interface FormProps {
  jobId: string;
  draft: Draft;
  put: (draft: Draft) => void;
  keep: (draft: Draft) => void;
  leave: () => void;
  busy: boolean;
}

function TesterForm({ jobId, draft, put, keep, leave, busy }: FormProps) {
  const used = useQuery({
    queryKey: ["testers", jobId],
    queryFn: () => api.testersUsed(jobId),
    enabled: draft.was === null,
  });
  const field = (name: Exclude<keyof Draft, "was" | "columns">, label: string, type = "text") => (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Input type={type} value={draft[name]} onChange={(event) => put({ ...draft, [name]: event.target.value })} />
    </label>
  );
  return (
    <form
      className="tester-form"
      onSubmit={(event) => {
        event.preventDefault();
        keep(draft);
      }}
    >
      {used.data !== undefined && used.data.length > 0 && (
        <div className="tester-used">
          <span className="entry-label">{say("prove.used_before")}</span>
          {used.data.map((one) => (
            <Button
              key={one.serial}
              onClick={() =>
                keep({
                  was: null,
                  name: one.name,
                  serial: one.serial,
                  calibrated_on: one.calibrated_on ?? "",
                  due_on: one.due_on ?? "",
                  columns: one.columns,
                })
              }
            >
              {one.name} · {one.serial}
            </Button>
          ))}
        </div>
      )}
      {field("name", say("common.name"))}
      {field("serial", say("common.serial"))}
      {field("calibrated_on", say("prove.calibrated_on"), "date")}
      {field("due_on", say("prove.calibration_ends_on"), "date")}
      <div className="tester-do">
        <Button type="primary" htmlType="submit" loading={busy}>
          {say("common.keep")}
        </Button>
        <button type="button" className="quiet" onClick={leave}>
          {say("common.leave")}
        </button>
      </div>
    </form>
  );
}
