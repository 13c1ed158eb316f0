import { Checkbox } from "antd";
import type { Edit, FeedStage, Judgement, Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { Pick } from "../../shared/fields/Pick";
import { shownAs, useDraft } from "../../shared/fields/useDraft";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { KNOWN } from "./words";
import { say } from "../../words/say";

type Put = Extract<Edit, { do: "set_safety" }>;
type Known = (typeof KNOWN)[number][0];

/** Where what is entered here is judged: shown beside the fields as well. */
const RULES = new Set([
  "outbuilding_earth",
  "supply_side",
  "supply_side_size",
  "breaking_capacity",
  "upstream_protection",
  "inverter_monitors",
  "arc_detection",
  "shutdown_inside",
  "shutdown_outside",
  "shutdown_within",
  "shutdown_listed",
  "surge_level",
  "surge_leads",
  "surge_by_lightning",
  "surge_length",
  "array_point",
]);
const NO_SHUTDOWN = { initiator: "", inside_v: "", outside_v: "", seconds: "", listed: false };

const said = (known: boolean | null | undefined): Known => (known == null ? "" : known ? "yes" : "no");
const meant = (known: Known) => (known === "" ? null : known === "yes");

function asEntered(facts: Schemas["SafetyFacts"]): Put {
  const { shutdown } = facts;
  return {
    do: "set_safety",
    fault_ka: shownAs(facts.fault_ka, "kA"),
    combined_neutral: facts.combined_neutral ?? null,
    outbuilding: facts.outbuilding,
    service_a: shownAs(facts.service_a, "A"),
    flashes: facts.flashes == null ? "" : String(facts.flashes),
    surge_ucpv_v: shownAs(facts.surge_ucpv_v, "V"),
    surge_lead_m: shownAs(facts.surge_lead_m, "m"),
    point: facts.point ?? null,
    earth_exposed: facts.earth_exposed ?? null,
    shutdown:
      shutdown == null
        ? null
        : {
            initiator: shutdown.initiator,
            inside_v: shownAs(shutdown.inside_v, "V"),
            outside_v: shownAs(shutdown.outside_v, "V"),
            seconds: shownAs(shutdown.seconds, "s"),
            listed: shutdown.listed,
          },
  };
}

interface SafetyPanelProps {
  jobId: string;
  facts: Schemas["SafetyFacts"];
  stage: FeedStage;
  whyAll: boolean;
}

/** What was asked, seen or looked up of supply and array, and what follows from it. */
export function SafetyPanel({ jobId, facts, stage, whyAll }: SafetyPanelProps) {
  const { entered, changed, put, drop } = useDraft(asEntered(facts));
  const edit = useEdit(jobId);
  const every: Judgement[] = [
    ...stage.devices.flatMap((one) => one.judgements),
    ...(stage.dc_switching?.judgements ?? []),
  ];
  const shutdown = entered.shutdown;
  const ask = (label: string, name: "combined_neutral" | "point" | "earth_exposed") => (
    <Pick label={label} value={said(entered[name])} options={KNOWN} put={(known) => put({ [name]: meant(known) })} />
  );
  return (
    <section className="device-panel" aria-label={say("feed.supply_and_safety")}>
      <header>
        <h2>{say("feed.supply_and_safety")}</h2>
        <span>{say("feed.what_was_asked_of_the_network")}</span>
      </header>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, { onSuccess: drop });
        }}
      >
        <div className="device-fields">
          <DraftField
            label={say("feed.prospective_fault_current")}
            value={entered.fault_ka}
            placeholder="6 kA"
            put={(fault_ka) => put({ fault_ka })}
          />
          {ask(say("feed.neutral_and_earth_are_one_in"), "combined_neutral")}
          <DraftField
            label={say("feed.service_where_joined_before_the_main")}
            value={entered.service_a}
            placeholder="200 A"
            put={(service_a) => put({ service_a })}
          />
          <DraftField
            label={say("feed.lightning_flashes_per_km_and_year")}
            value={entered.flashes}
            placeholder="2.3"
            put={(flashes) => put({ flashes })}
          />
          <DraftField
            label={say("feed.dc_surge_device_is_made_for")}
            value={entered.surge_ucpv_v}
            placeholder="1000 V"
            put={(surge_ucpv_v) => put({ surge_ucpv_v })}
          />
          <DraftField
            label={say("feed.its_leads_both_together")}
            value={entered.surge_lead_m}
            placeholder="0.4 m"
            put={(surge_lead_m) => put({ surge_lead_m })}
          />
          {ask(say("feed.array_parted_at_a_point_that"), "point")}
          {ask(say("feed.earth_conductor_of_the_array_lies"), "earth_exposed")}
          <Checkbox checked={entered.outbuilding} onChange={(event) => put({ outbuilding: event.target.checked })}>
            {say("feed.in_an_outbuilding_with_the_houses")}
          </Checkbox>
          <Checkbox
            checked={shutdown !== null}
            onChange={(event) => put({ shutdown: event.target.checked ? NO_SHUTDOWN : null })}
          >
            {say("feed.made_safe_by_one_touch_from")}
          </Checkbox>
        </div>
        {shutdown !== null && (
          <div className="device-fields">
            <DraftField
              label={say("feed.what_is_touched_and_where")}
              value={shutdown.initiator}
              placeholder={say("feed.switch_beside_the_meter")}
              put={(initiator) => put({ shutdown: { ...shutdown, initiator } })}
            />
            <DraftField
              label={say("feed.stays_inside_the_boundary")}
              value={shutdown.inside_v}
              placeholder="80 V"
              put={(inside_v) => put({ shutdown: { ...shutdown, inside_v } })}
            />
            <DraftField
              label={say("feed.stays_outside_it")}
              value={shutdown.outside_v}
              placeholder="30 V"
              put={(outside_v) => put({ shutdown: { ...shutdown, outside_v } })}
            />
            <DraftField
              label={say("feed.after")}
              value={shutdown.seconds}
              placeholder="30 s"
              put={(seconds) => put({ shutdown: { ...shutdown, seconds } })}
            />
            <Checkbox
              checked={shutdown.listed}
              onChange={(event) => put({ shutdown: { ...shutdown, listed: event.target.checked } })}
            >
              {say("feed.equipment_listed_for_it")}
            </Checkbox>
          </div>
        )}
        <KeepRow changed={changed} saving={edit.isPending} drop={drop} />
      </form>
      <ProblemNote error={edit.error} />
      <JudgementList judgements={every.filter((one) => RULES.has(one.rule_id))} allOpen={whyAll} />
    </section>
  );
}
