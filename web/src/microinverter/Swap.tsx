import { Button } from "antd";
import { useState } from "react";
import type { ReadingIn, RoofStage, SwapStep } from "../shared/api/types";
import { clock } from "../shared/lib/figures";
import { Mark } from "../shared/marks/Mark";
import { Pick } from "../shared/fields/Pick";
import { Countdown } from "../shared/layout/Countdown";
import { SerialField, standing } from "./SerialField";
import { say } from "../words/say";
import "./Swap.css";

/** The step before which the new serial stands on the map, and the one after which it can be read. */
const BEFORE_SERIAL = "leads_in";
const SWAPPED = "swapped";

interface SwapProps {
  jobId: string;
  roof: RoofStage;
  timezone: string;
  keep: { mutate: (body: ReadingIn) => void; isPending: boolean };
}

/**
 * Replacing a unit: one step after the other, the wait with its clock, the new serial on the map in between.
 */
export function Swap({ roof, timezone, keep }: SwapProps) {
  const begun = roof.units.find((unit) => unit.swap[0]?.done === true && unit.swap.some((step) => !step.done));
  const [picked, setPicked] = useState<string | null>(null);
  const unit = roof.units.find((one) => one.name === picked) ?? begun;
  const steps =
    unit === undefined
      ? []
      : unit.swap.length > 0
        ? unit.swap
        : (roof.branches.find((one) => one.name === unit.branch)?.swap ?? []);
  const done = (step: SwapStep, entered: "1" | "-1") =>
    keep.mutate({
      kind: "swap_step",
      subject: `${unit?.name ?? ""} ${step.step}`,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  const options = [
    ["", say("microinverter.choose_a_unit")] as const,
    ...roof.units.map(
      (one) => [one.name, `${one.name}${one.branch === "" ? "" : ` · ${one.branch}.${one.number}`}`] as const,
    ),
  ];
  return (
    <section className="swap" aria-label={say("microinverter.replace_a_unit")}>
      <h2 className="why-head">{say("microinverter.replace_a_unit")}</h2>
      <div className="device-fields">
        <Pick
          label={say("microinverter.unit")}
          value={unit?.name ?? ""}
          options={options}
          put={(name) => setPicked(name === "" ? null : name)}
        />
      </div>
      {unit !== undefined && (
        <ol className="swap-steps">
          {steps.map((step) => {
            const open = step.gate.verdict === "clear" && !step.done;
            return (
              <li key={step.step} className={step.done ? "swap-done" : open ? "swap-now" : undefined}>
                <span className="swap-title">{step.title}</span>
                <span className="swap-line">
                  {step.done ? (
                    <>
                      <Mark verdict="clear" word={false} /> {step.at === null ? "" : clock(step.at, timezone)}
                    </>
                  ) : (
                    step.gate.line
                  )}
                  {!step.done && step.due_at !== null && <Countdown until={step.due_at} />}
                </span>
                {step.step === BEFORE_SERIAL && !step.done && steps.some((one) => one.step === SWAPPED && one.done) && (
                  <SerialField
                    unit={unit}
                    form={roof.map.form}
                    busy={keep.isPending}
                    send={(entered) =>
                      keep.mutate({
                        kind: "unit_serial",
                        subject: unit.name,
                        entered,
                        taken_at: null,
                        supersedes: standing(unit),
                        instrument: "",
                        note: "",
                      })
                    }
                  />
                )}
                {!step.done && (
                  <Button disabled={keep.isPending} onClick={() => done(step, "1")}>
                    {say("microinverter.done")}
                  </Button>
                )}
              </li>
            );
          })}
        </ol>
      )}
      {unit !== undefined && unit.swap.length > 0 && unit.swap.every((step) => step.done) && (
        <p className="source">
          {say("microinverter.is_replaced_earlier_serials_stay_on", { unit: unit.name })}{" "}
          <Button onClick={() => unit.swap[0] !== undefined && done(unit.swap[0], "1")}>
            {say("common.begin_again")}
          </Button>
        </p>
      )}
    </section>
  );
}
