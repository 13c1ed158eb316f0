import { Entry } from "../../shared/Entry";
import { figure } from "../../shared/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProfilePick } from "../../shared/ProfilePick";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/StageFrame";
import { LadderPicture } from "./LadderPicture";
import { SizeSteps } from "./SizeSteps";

const SERVICES: Record<string, string> = { single: "one phase", split: "split phase", three: "three phase" };

/** Stage 5: the AC run, the ladder of volts on it, and what the next size buys. */
export default function FeedStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.feed;
  return (
    <StageFrame
      title="Feed"
      about={stage.line}
      aside={`${SERVICES[stage.service] ?? stage.service} · ${figure(stage.export_w, "W", 0)} at full export · rules: ${assessment.rule_pack.name}`}
      caution="Supply dead, locked and proved dead before a hand goes into a terminal. This stage judges voltage: choosing the cable for its current, protection and earthing stays with you and your local code."
      rail={<Rail jobId={jobId} every={assessment.asks} stage={5} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <LadderPicture stage={stage} lengthText={figure(plan.feed.length_m, "m")} />
      <div className="entries">
        <Entry jobId={jobId} label="One-way length" path="$.feed.length_m" shown={figure(plan.feed.length_m, "m")} />
        <Entry jobId={jobId} label="Size" path="$.feed.section_mm2" shown={figure(plan.feed.section_mm2, "mm²")} />
        <Entry jobId={jobId} label="Cores" path="$.feed.cores" shown={figure(plan.feed.cores, "cores")} />
        <ProfilePick jobId={jobId} now={plan.grid.profile} />
      </div>
      <JudgementList judgements={stage.judgements} allOpen={whyAll} />
      <SizeSteps jobId={jobId} stage={stage} />
    </StageFrame>
  );
}
