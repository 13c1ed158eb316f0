import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Field } from "../../shared/fields/Field";
import { Pick } from "../../shared/fields/Pick";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { HOWS } from "./words";

interface SignalsProps {
  jobId: string;
  talk: Schemas["TalkStage"];
  whyAll: boolean;
}

/** Signals by which the operator holds the plant back: wired, blanked, or a reason why not. */
export function Signals({ jobId, talk, whyAll }: SignalsProps) {
  const edit = useEdit(jobId);
  if (talk.signals.length === 0) return null;
  return (
    <section aria-label="Signals of the operator">
      <h2>Signals of the operator</h2>
      {talk.signals.map((one) => {
        const signal = one.signal as Schemas["PutSignal"]["signal"];
        const put = (how: Schemas["PutSignal"]["how"], reason: string) =>
          edit.mutateAsync({ do: "put_signal", signal, how, reason, steps_pct: [], within_s: "5" });
        return (
          <div key={one.signal} className="signal">
            <div className="device-fields">
              <Pick
                label={one.title}
                value={one.how as Schemas["PutSignal"]["how"] | ""}
                options={HOWS}
                put={(how) => how !== "" && void put(how, one.reason).catch(() => undefined)}
              />
              {one.how !== "" && one.how !== "wired" && (
                <Field
                  label="Why not"
                  shown={one.reason}
                  commit={(reason) => put(one.how as Schemas["PutSignal"]["how"], reason)}
                />
              )}
            </div>
            {one.asked_by !== "" && <p className="source">Asked for by {one.asked_by}</p>}
            <JudgementList judgements={one.judgements} allOpen={whyAll} />
          </div>
        );
      })}
      <ProblemNote error={edit.error} />
    </section>
  );
}
