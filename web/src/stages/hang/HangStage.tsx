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
import { say } from "../../words/say";

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
      title={say("hang.hang")}
      about={
        roof !== null && face === "roof"
          ? say("hang.units_on_planes", { unitsCount: roof.units.length, planesCount: roof.planes.length })
          : stage.line
      }
      aside={
        wall === null || face === "roof"
          ? say("common.rules", { name: assessment.rule_pack.name })
          : say("hang.facing_rules", {
              kind: WALL_KINDS[wall.kind],
              width_mm: figure(wall.width_mm, "", 0),
              height_mm: figure(wall.height_mm, "mm", 0),
              azimuth_deg: figure(wall.azimuth_deg, "°", 0),
              name: assessment.rule_pack.name,
            })
      }
      caution={[say("hang.look_for_hidden_cables_and_pipes"), say("hang.a_ladder_stands_on_firm_ground")].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <div className="faces">
        <Faces<Face> faces={roof === null ? WALL_FACES : ROOF_FACES} face={face} show={setFace} />
        {wall !== null && (
          <a className="quiet" href={drillSheetUrl(jobId)} download>
            {say("hang.drill_sheet_a4_at_full_scale")}
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
            <Example begins={say("hang.measure_the_wall_what_hangs_on")}>
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
        <p className="nothing">{say("hang.draw_the_wall_first_under_measures")}</p>
      )}
    </StageFrame>
  );
}
