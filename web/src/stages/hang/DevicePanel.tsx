import { Button } from "antd";
import { useStop } from "../../shared/api/stopping";
import { Working } from "../../shared/fields/Working";
import { api } from "../../shared/api/calls";
import type { HungDevice, Wall, WallPlace } from "../../shared/api/types";
import { useMutation } from "@tanstack/react-query";
import { useEdit } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { figure } from "../../shared/lib/figures";
import { GateLine } from "../../shared/judging/GateLine";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { SheetPick } from "../../shared/fields/SheetPick";
import { Field } from "../../shared/fields/Field";
import { say } from "../../words/say";
import "./DevicePanel.css";

interface DevicePanelProps {
  jobId: string;
  device: HungDevice;
  wall: Wall;
  places: WallPlace[];
  showPlaces: (places: WallPlace[]) => void;
  place: (name: string, x: number, y: number) => void;
}

/** The chosen device: where it hangs, what holds it, whether the hand may move, and why. */
export function DevicePanel({ jobId, device, wall, places, showPlaces, place }: DevicePanelProps) {
  const edit = useEdit(jobId);
  const typed = useEdit(jobId);
  const { begun, stop } = useStop();
  const find = useMutation({
    mutationFn: () => api.places(jobId, device.name, begun()),
    onSuccess: (found) => showPlaces(found.places),
  });
  const fixing = wall.devices.find((one) => one.name === device.name)?.fixing ?? null;
  const { name } = device;
  return (
    <section key={name} className="device-panel" aria-label={name}>
      <header>
        <h2>{name}</h2>
        <span>
          {device.label} · {figure(device.width_mm, "", 0)} × {figure(device.height_mm, "mm", 0)}
        </span>
      </header>
      <GateLine gate={device.drill} />
      {device.drill.verdict === "clear" && <GateLine gate={device.lock} />}
      <div className="device-fields">
        <Field
          label={say("common.from_the_left_edge")}
          shown={figure(device.x_mm, "mm", 0)}
          commit={(x_mm) => typed.mutateAsync({ do: "place_device", name, x_mm, y_mm: String(device.y_mm) })}
        />
        <Field
          label={say("hang.lower_edge_above_the_ground")}
          shown={figure(device.y_mm, "mm", 0)}
          commit={(y_mm) => typed.mutateAsync({ do: "place_device", name, x_mm: String(device.x_mm), y_mm })}
        />
        <SheetPick
          kind="fixings"
          label={say("hang.fixing")}
          now={fixing?.id ?? null}
          nowLabel={device.fixing}
          none={say("hang.none_chosen")}
          put={(id) => edit.mutate({ do: "fix_device", name, fixing: id })}
        />
        <Button loading={find.isPending} onClick={() => find.mutate()}>
          {say("hang.find_me_a_place")}
        </Button>
        <Working is={find.isPending} doing={say("hang.looking_for_places")} stop={stop} />
        <Button onClick={() => edit.mutate({ do: "remove_device", name })}>{say("common.take_it_off")}</Button>
      </div>
      <ProblemNote error={edit.error ?? find.error} />
      {find.data !== undefined && places.length === find.data.places.length && (
        <p className="roof-told">{find.data.line}</p>
      )}
      {places.length > 0 && (
        <ol className="places">
          {places.map((one) => (
            <li key={`${one.x_mm} ${one.y_mm}`}>
              <span>
                {say("hang.from_the_left_up", {
                  x_mm: figure(one.x_mm, "mm", 0),
                  y_mm: figure(one.y_mm, "mm", 0),
                  reason: one.reason,
                })}
              </span>
              <Button onClick={() => place(name, one.x_mm, one.y_mm)}>{say("hang.hang_it_here")}</Button>
            </li>
          ))}
        </ol>
      )}
      <Load device={device} />
      <Photos jobId={jobId} step={name} title={name} />
    </section>
  );
}

/** What hangs on the fixings, and the drill for them. */
function Load({ device }: { device: HungDevice }) {
  const { load, lift } = device;
  return (
    <dl className="string-figures">
      {load !== null && (
        <>
          <div>
            <dt>{say("hang.pull_on_each_top_fixing")}</dt>
            <dd>{figure(load.tension_per_top_fixing_n, "N")}</dd>
          </div>
          <div>
            <dt>{say("hang.shear_on_each")}</dt>
            <dd>{figure(load.shear_per_fixing_n, "N")}</dd>
          </div>
        </>
      )}
      {device.drill_mm !== null && (
        <div>
          <dt>{say("hang.drill")}</dt>
          <dd>
            {figure(device.drill_mm, "mm")}
            {device.hole_mm !== null && say("hang.deep", { hole_mm: figure(device.hole_mm, "mm", 0) })}
          </dd>
        </div>
      )}
      {device.diagonal_mm !== null && (
        <div>
          <dt>{say("hang.first_to_last_hole")}</dt>
          <dd>{figure(device.diagonal_mm, "mm")}</dd>
        </div>
      )}
      <div>
        <dt>{say("hang.lift")}</dt>
        <dd>
          {lift.people === 1
            ? say("hang.one_person")
            : lift.with_aid
              ? say("hang.two_and_an_aid")
              : say("hang.two_people")}
        </dd>
      </div>
    </dl>
  );
}
