import { Field } from "../../shared/fields/Field";
import { Pick } from "../../shared/fields/Pick";
import { useEdit } from "../../shared/api/useJobWrite";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import type { Schemas } from "../../shared/api/types";
import { Devices } from "./Devices";
import { MeterPanel } from "./MeterPanel";
import { Signals } from "./Signals";
import { WayPicture } from "./WayPicture";
import type { TalkFaceProps } from "./props";
import { asAnswer, asWord, SCHOOLS, WAYS, YES_NO } from "./words";
import { say } from "../../words/say";

type WayOut = Schemas["WayOut"];
const NO_WAY: WayOut = {
  way: "cable",
  reason: "",
  standby: null,
  consent: null,
  router_m: null,
  spare_port: null,
  by_router: null,
};

const shownRouter = (out: WayOut) => (out.router_m == null ? "" : String(out.router_m));

/** The way out of the house and what it takes, the devices that talk, meter and signals. */
export function SiteFace({ jobId, view, whyAll }: TalkFaceProps) {
  const { talk } = view.assessment;
  const plan = view.plan.talk;
  const edit = useEdit(jobId);
  const out = plan?.way_out ?? NO_WAY;
  const put = (change: Partial<Schemas["SetWayOut"]>) =>
    edit.mutateAsync({
      do: "set_way_out",
      way: out.way,
      reason: out.reason,
      standby: out.standby ?? null,
      consent: out.consent ?? null,
      router_m: shownRouter(out),
      spare_port: out.spare_port ?? null,
      by_router: out.by_router ?? null,
      ...change,
    });
  const quietly = (change: Partial<Schemas["SetWayOut"]>) => void put(change).catch(() => undefined);
  return (
    <>
      <WayPicture talk={talk} />
      <section aria-label={say("talk.way_out")}>
        <h2>{say("talk.way_out_of_the_house")}</h2>
        <div className="way-picks" role="radiogroup" aria-label={say("talk.way_out_of_the_house")}>
          {WAYS.map(([way, shown]) => (
            <button
              key={way}
              type="button"
              role="radio"
              aria-checked={plan?.way_out?.way === way}
              className="size-step"
              onClick={() => quietly({ way })}
            >
              {shown}
            </button>
          ))}
        </div>
        <div className="device-fields">
          <Field label={say("talk.why_this_way")} shown={out.reason} commit={(reason) => put({ reason })} />
          <Pick
            label={say("talk.owner_lets_us_use_the_network")}
            value={asWord(out.consent)}
            options={YES_NO}
            put={(word) => quietly({ consent: asAnswer(word) })}
          />
          <Pick
            label={say("talk.router_has_a_spare_port")}
            value={asWord(out.spare_port)}
            options={YES_NO}
            put={(word) => quietly({ spare_port: asAnswer(word) })}
          />
          <Pick
            label={say("talk.addresses_come_from_the_router")}
            value={asWord(out.by_router)}
            options={YES_NO}
            put={(word) => quietly({ by_router: asAnswer(word) })}
          />
          <Field
            label={say("talk.router_is_away_m")}
            shown={shownRouter(out)}
            commit={(router_m) => put({ router_m })}
          />
          <Pick
            label={say("talk.when_it_is_wired_and_set")}
            value={plan?.school ?? ""}
            options={SCHOOLS}
            put={(school) =>
              edit.mutate({
                do: "set_talk_school",
                school: school === "" ? null : school,
                reason: plan?.school_reason ?? "",
              })
            }
          />
          {plan?.school !== undefined && plan.school !== null && (
            <Field
              label={say("talk.why_not_as_the_sheet_says")}
              shown={plan.school_reason}
              commit={(reason) => edit.mutateAsync({ do: "set_talk_school", school: plan.school ?? null, reason })}
            />
          )}
        </div>
        <ProblemNote error={edit.error} />
      </section>
      <Devices jobId={jobId} view={view} whyAll={whyAll} />
      <MeterPanel jobId={jobId} view={view} whyAll={whyAll} />
      <Signals jobId={jobId} talk={talk} whyAll={whyAll} />
      <h2 className="why-head">{say("talk.the_whole")}</h2>
      <JudgementList judgements={talk.judgements} allOpen={whyAll} />
    </>
  );
}
