import type { JobView } from "../../shared/api/types";
import { JudgementList } from "../../shared/judging/JudgementList";
import { strung } from "../../shared/lib/strung";
import { WindowPicture } from "../../shared/draw/WindowPicture";
import { CountSteps } from "./CountSteps";
import { EarthPicture } from "./EarthPicture";
import { OptimiserPicture } from "./OptimiserPicture";
import { PastReadings } from "./PastReadings";
import { StringFigures } from "./StringFigures";
import { say } from "../../words/say";

export interface FaceProps {
  jobId: string;
  view: JobView;
  selected: string;
  select: (name: string) => void;
}

/** The volts of every string against the window they must stay in, and why each verdict is what it is. */
export function VoltsFace({ jobId, view, selected, select, whyAll }: FaceProps & { whyAll: boolean }) {
  const { stage } = strung(view);
  const chosen = stage.strings.find((one) => one.name === selected);
  const tracker = stage.trackers.find((one) => one.number === chosen?.tracker);
  return (
    <>
      {stage.optimiser === null ? (
        <>
          <WindowPicture limits={stage.window} strings={stage.strings} selected={selected} select={select} />
          {chosen !== undefined && <StringFigures string={chosen} />}
        </>
      ) : (
        <OptimiserPicture window={stage.optimiser} strings={stage.strings} selected={selected} select={select} />
      )}
      {stage.strings.map((one, index) => (
        <CountSteps
          key={one.name}
          jobId={jobId}
          string={one}
          index={index}
          chosen={one.name === selected}
          select={() => select(one.name)}
        >
          {one.earth !== null && (
            <EarthPicture string={one} earth={one.earth} places={view.plan.strings[index]?.places ?? []} />
          )}
        </CountSteps>
      ))}
      <h2 className="why-head">
        {say("string.why_string_on_tracker", { chosen: chosen?.name, tracker: chosen?.tracker })}
      </h2>
      <JudgementList
        judgements={[...(chosen?.judgements ?? []), ...(tracker?.judgements ?? []), ...stage.whole]}
        allOpen={whyAll}
      />
      <PastReadings past={view.assessment.past_readings} timezone={view.plan.site.timezone} />
    </>
  );
}
