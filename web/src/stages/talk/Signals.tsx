import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Field } from "../../shared/fields/Field";
import { Pick } from "../../shared/fields/Pick";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { HOWS } from "./words";
import { say } from "../../words/say";

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
    <section aria-label={say("talk.signals_of_the_operator")}>
      <h2>{say("talk.signals_of_the_operator")}</h2>
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
                  label={say("talk.why_not")}
                  shown={one.reason}
                  commit={(reason) => put(one.how as Schemas["PutSignal"]["how"], reason)}
                />
              )}
            </div>
            {one.asked_by !== "" && <p className="source">{say("talk.asked_for_by", { asked_by: one.asked_by })}</p>}
            <JudgementList judgements={one.judgements} allOpen={whyAll} />
          </div>
        );
      })}
      <ProblemNote error={edit.error} />
    </section>
  );
}
