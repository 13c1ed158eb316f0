import { useState } from "react";
import type { WallPlace } from "../../shared/api/types";
import { drillSheetUrl } from "../../shared/api/urls";
import { useDrawnEdit } from "../../shared/api/useJobWrite";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Rail } from "../../shared/readings/Rail";
import { Example } from "../../shared/layout/Example";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { AddDevice } from "./AddDevice";
import { DevicePanel } from "./DevicePanel";
import { moved } from "./moved";
import { Objects } from "./Objects";
import { UnitsFace } from "../../microinverter/UnitsFace";
import { WallFields } from "./WallFields";
import { WallPicture } from "./WallPicture";
import { WallSun } from "./WallSun";
import { WALL_KINDS } from "./words";

const STAGE = 2;
const WALL_FACES = ["wall", "measures", "sun"] as const;
const ROOF_FACES = ["roof", ...WALL_FACES] as const;
type Face = (typeof ROOF_FACES)[number];

/** Stage 2: the wall to scale, what hangs on it and where, what is seen before and after the drill. */
export default function HangStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.hang;
  const { wall } = plan;
  const { roof } = assessment;
  const [face, setFace] = useFace<Face>(ROOF_FACES, roof !== null ? "roof" : wall === null ? "measures" : "wall");
  const [picked, setPicked] = useState<string | null>(null);
  const [places, setPlaces] = useState<WallPlace[]>([]);
  const edit = useDrawnEdit(jobId, view.revision);
  const devices = moved(stage.devices, edit.awaited);
  const chosen = devices.find((one) => one.name === picked) ?? devices[0];
  const select = (name: string) => {
    setPicked(name);
    setPlaces([]);
  };
  const place = (name: string, x: number, y: number) => {
    setPlaces([]);
    edit.mutate({ do: "place_device", name, x_mm: String(x), y_mm: String(y) });
  };
  return (
    <StageFrame
      title="Hang"
      about={
        roof !== null && face === "roof" ? `${roof.units.length} units on ${roof.planes.length} planes` : stage.line
      }
      aside={
        wall === null || face === "roof"
          ? `rules: ${assessment.rule_pack.name}`
          : `${WALL_KINDS[wall.kind]}, ${figure(wall.width_mm, "", 0)} × ${figure(wall.height_mm, "mm", 0)} · facing ${figure(wall.azimuth_deg, "°", 0)} · rules: ${assessment.rule_pack.name}`
      }
      caution={[
        "Look for hidden cables and pipes before every hole. Two people lift what the sheet says.",
        "A ladder stands on firm ground, footed. Local code wins over every figure here.",
      ].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <div className="faces">
        <Faces<Face> faces={roof === null ? WALL_FACES : ROOF_FACES} face={face} show={setFace} />
        {wall !== null && (
          <a className="quiet" href={drillSheetUrl(jobId)} download>
            Drill sheet, A4 at full scale
          </a>
        )}
      </div>
      <ProblemNote error={edit.error} />
      {roof !== null && face === "roof" && <UnitsFace jobId={jobId} view={view} roof={roof} whyAll={whyAll} />}
      {wall !== null && face === "wall" && (
        <>
          <WallPicture
            wall={wall}
            stage={stage}
            devices={devices}
            chosen={chosen?.name ?? null}
            places={places}
            select={select}
            place={place}
          >
            {chosen !== undefined && (
              <DevicePanel
                key={chosen.name}
                jobId={jobId}
                device={chosen}
                wall={wall}
                places={places}
                showPlaces={setPlaces}
                place={place}
              />
            )}
          </WallPicture>
          {chosen !== undefined && <JudgementList judgements={chosen.judgements} allOpen={whyAll} />}
          <AddDevice jobId={jobId} wall={wall} added={select} />
        </>
      )}
      {(face === "wall" || face === "roof") && stage.judgements.length > 0 && (
        <JudgementList judgements={stage.judgements} allOpen={whyAll} />
      )}
      {face === "measures" && (
        <>
          {wall === null && (
            <Example begins="Measure the wall: what hangs on it finds its place between edges, windows, pipes and studs, with the space that its sheet asks for.">
              {({ assessment: { hang }, plan: shown }) =>
                shown.wall !== null && (
                  <WallPicture
                    wall={shown.wall}
                    stage={hang}
                    devices={hang.devices}
                    chosen={null}
                    places={[]}
                    select={() => undefined}
                    place={() => undefined}
                  >
                    {null}
                  </WallPicture>
                )
              }
            </Example>
          )}
          <WallFields jobId={jobId} wall={wall} drawn={() => setFace("wall")} />
          {wall !== null && <Objects jobId={jobId} wall={wall} />}
        </>
      )}
      {wall !== null && face === "sun" && <WallSun jobId={jobId} wall={wall} whyAll={whyAll} />}
      {wall === null && face !== "measures" && face !== "roof" && (
        <p className="nothing">Draw the wall first: under measures.</p>
      )}
    </StageFrame>
  );
}
