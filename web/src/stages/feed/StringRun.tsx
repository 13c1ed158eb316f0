import type { Edit, FeedStage, StringPlan } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { SizeSteps } from "./SizeSteps";
import { shownAs, useDraft } from "../../shared/fields/useDraft";
import { LAID, MATERIALS } from "./words";
import { say } from "../../words/say";

type Put = Extract<Edit, { do: "put_home_piece" }>;
type Piece = StringPlan["home_run"][number];

interface StringRunProps {
  jobId: string;
  string: StringPlan;
  state: FeedStage["dc_runs"][number];
  whyAll: boolean;
}

/** A string's home run, piece by piece from the array: its drop, and what the next size buys. */
export function StringRun({ jobId, string, state, whyAll }: StringRunProps) {
  const edit = useEdit(jobId);
  return (
    <section className="device-panel" aria-label={say("common.string_2", { string: string.name })}>
      <header>
        <h2>{say("feed.string_home_run", { string: string.name })}</h2>
        <span>
          {say("feed.and_in_full_sun", {
            string_v: figure(state.string_v, "V"),
            current_a: figure(state.current_a, "A"),
            drop:
              state.drop !== null &&
              say("feed.drops", {
                drop_v: figure(state.drop.drop_v, "V", 2),
                drop_pct: figure(state.drop.drop_pct, "%", 2),
              }),
            loss_kwh:
              state.loss_kwh !== null && say("feed.loses_a_year", { loss_kwh: figure(state.loss_kwh, "kWh", 0) }),
          })}
        </span>
      </header>
      {state.sizes.length > 0 && (
        <SizeSteps
          label={say("feed.conductor_size_of_string", { string: string.name })}
          choose={(section) => edit.mutate({ do: "size_home", string: string.name, section_mm2: String(section) })}
          steps={state.sizes.map((size) => ({
            section: size.section_mm2,
            name: size.name,
            chosen: size.chosen,
            verdict: size.verdict,
            buys: size.buys,
            lines: [
              size.iz_a === null
                ? say("feed.current_not_in_the_table")
                : say("feed.carries", { iz_a: figure(size.iz_a, "A") }),
              say("feed.drops_2", { drop_v: figure(size.drop_v, "V", 2), drop_pct: figure(size.drop_pct, "%", 2) }),
              say("feed.loses_a_year_2", { loss_kwh: figure(size.loss_kwh, "kWh", 0) }),
            ],
          }))}
        />
      )}
      {string.home_run.map((piece, index) => (
        <PieceForm
          key={index}
          jobId={jobId}
          string={string.name}
          piece={piece}
          number={index + 1}
          size={
            state.sizes.find((one) => one.section_mm2 === piece.section_mm2)?.name ?? shownAs(piece.section_mm2, "mm²")
          }
        />
      ))}
      <PieceForm jobId={jobId} string={string.name} piece={null} number={null} size="" />
      <ProblemNote error={edit.error} />
      <JudgementList judgements={state.judgements} allOpen={whyAll} />
    </section>
  );
}

function asEntered(string: string, number: number | null, piece: Piece | null, size: string): Put {
  return {
    do: "put_home_piece",
    string,
    number,
    length_m: shownAs(piece?.length_m, "m"),
    section_mm2: size,
    to: piece?.to ?? say("common.inverter"),
    laid: piece?.laid ?? "touching",
    air_c: shownAs(piece?.air_c ?? 60, "°C"),
    grouped: String(piece?.grouped ?? 1),
    material: piece?.material ?? "copper",
    outside_mm: shownAs(piece?.outside_mm, "mm"),
    rated_v: shownAs(piece?.rated_v, "V"),
  };
}

function PieceForm({
  jobId,
  string,
  piece,
  number,
  size,
}: {
  jobId: string;
  string: string;
  piece: Piece | null;
  number: number | null;
  size: string;
}) {
  const { entered, changed, put, drop } = useDraft(asEntered(string, number, piece, size));
  const edit = useEdit(jobId);
  return (
    <details open={piece !== null}>
      <summary>
        {number === null
          ? say("feed.one_more_piece_at_the_inverters")
          : say("feed.piece_to", { number, to: piece?.to ?? "" })}
      </summary>
      <form
        className="device-fields"
        aria-label={number === null ? say("feed.one_more_piece") : say("feed.piece", { number })}
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, { onSuccess: drop });
        }}
      >
        <DraftField
          label={say("feed.one_way_length")}
          value={entered.length_m}
          placeholder="12 m"
          put={(length_m) => put({ length_m })}
        />
        <DraftField
          label={say("feed.size_mm_or_awg")}
          value={entered.section_mm2}
          placeholder="4 mm²"
          put={(section_mm2) => put({ section_mm2 })}
        />
        <DraftField label={say("feed.leads_to")} value={entered.to} put={(to) => put({ to })} />
        <DraftField
          label={say("feed.outside_diameter_of_a_wire")}
          value={entered.outside_mm}
          placeholder="5.6 mm"
          put={(outside_mm) => put({ outside_mm })}
        />
        <DraftField
          label={say("feed.printed_on_it_voltage")}
          value={entered.rated_v}
          placeholder="1500 V"
          put={(rated_v) => put({ rated_v })}
        />
        <Pick label={say("feed.laid")} value={entered.laid} options={LAID} put={(laid) => put({ laid })} />
        <DraftField label={say("feed.hottest_air_around_it")} value={entered.air_c} put={(air_c) => put({ air_c })} />
        <DraftField
          label={say("feed.circuits_side_by_side")}
          value={entered.grouped}
          put={(grouped) => put({ grouped })}
        />
        <Pick
          label={say("feed.material")}
          value={entered.material}
          options={MATERIALS}
          put={(material) => put({ material })}
        />
        <KeepRow
          changed={changed}
          saving={edit.isPending}
          drop={drop}
          remove={number === null ? undefined : () => edit.mutate({ do: "remove_home_piece", string, number })}
        />
      </form>
      <ProblemNote error={edit.error} />
    </details>
  );
}
