import { Button } from "antd";
import { useState } from "react";
import type { ModuleSerials } from "../api/types";
import { useKeep } from "../api/useJobWrite";
import { JudgementList } from "../judging/JudgementList";
import { ProblemNote } from "../judging/ProblemNote";
import { Scan } from "../scan/Scan";
import { say } from "../../words/say";
import "./making.css";

interface ModuleSerialListProps {
  jobId: string;
  serials: ModuleSerials;
  whyAll: boolean;
  /** Whose serials they are: the modules' own, or those of the optimisers behind them. */
  of?: "modules" | "optimisers";
}

const KINDS = { modules: "module_serial", optimisers: "optimiser_serial" } as const;

/** Serials by the modules' places: the next one comes by itself. */
export function ModuleSerialList({ jobId, serials, whyAll, of = "modules" }: ModuleSerialListProps) {
  const keep = useKeep(jobId);
  const [picked, setPicked] = useState<string | null>(null);
  const [entered, setEntered] = useState("");
  const place = picked ?? serials.next;
  const known = serials.modules.find((one) => one.place === place);
  const send = (text: string) =>
    keep.mutate(
      {
        kind: KINDS[of],
        subject: place,
        entered: text,
        taken_at: null,
        supersedes: known === undefined || known.id === "" ? null : known.id,
        instrument: "",
        note: "",
      },
      {
        onSuccess: () => {
          // The next one may be scanned while this is on its way.
          setEntered((now) => (now === text ? "" : now));
          setPicked(null);
        },
      },
    );
  return (
    <section className="module-serials" aria-label={say("shared.serials_of_the", { of })}>
      <header>
        <h2>{say("shared.serials_of_the", { of })}</h2>
        <b>{say("common.of", { taken: serials.taken, of: serials.of })}</b>
      </header>
      <p className="source">
        {of === "optimisers"
          ? say("shared.off_their_decals_each_by_the")
          : serials.wanted
            ? say("shared.the_warranty_of_these_modules_asks")
            : say("shared.no_warranty_of_these_modules_asks")}
      </p>
      {serials.of === 0 ? (
        <p>{say("shared.draw_the_roof_first_a_serial")}</p>
      ) : place === "" ? (
        <p>{say("shared.every_serial_is_read_touch_a")}</p>
      ) : (
        <form
          className="big-entry"
          onSubmit={(event) => {
            event.preventDefault();
            if (entered.trim() !== "") send(entered);
          }}
        >
          <label>
            <span className="entry-label">{place}</span>
            <input
              className="as-text"
              aria-label={say("shared.serial_at", { place })}
              placeholder={known === undefined || known.serial === "" ? say("common.scan_or_type") : known.serial}
              value={entered}
              autoComplete="off"
              autoCapitalize="characters"
              spellCheck={false}
              onChange={(event) => setEntered(event.target.value)}
            />
          </label>
          <Button type="primary" htmlType="submit" loading={keep.isPending} disabled={entered.trim() === ""}>
            {say("common.keep")}
          </Button>
        </form>
      )}
      {place !== "" && <Scan found={send} />}
      <ProblemNote error={keep.error} />
      {serials.modules.length > 0 && (
        <ol className="serial-places">
          {serials.modules.map((one) => (
            <li key={one.place}>
              <button type="button" aria-pressed={one.place === place} onClick={() => setPicked(one.place)}>
                <span>{one.place}</span>
                <b>{one.serial === "" ? say("common.not_read") : one.serial}</b>
              </button>
            </li>
          ))}
        </ol>
      )}
      <JudgementList judgements={serials.judgements} allOpen={whyAll} />
    </section>
  );
}
