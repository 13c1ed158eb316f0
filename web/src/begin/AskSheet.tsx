import { useQuery } from "@tanstack/react-query";
import { Button, Drawer, Input } from "antd";
import { useDeferredValue, useState } from "react";
import { api } from "../shared/api/calls";
import type { Kind, LabelView } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { SheetForm } from "../shared/sheets/SheetForm";
import { LabelPhoto } from "./LabelPhoto";
import { say } from "../words/say";

const SHOWN = 8;

interface AskSheetProps {
  kind: Kind;
  asks: string;
  now: string;
  put: (id: string) => void;
}

/** A sheet of the shelf, found by what the label says; or entered, where it is not there. */
export function AskSheet({ kind, asks, now, put }: AskSheetProps) {
  const [typed, setTyped] = useState("");
  // The sheet that is entered: a new one, or one that a row of a library fills.
  const [entering, setEntering] = useState<{ entry?: number; label?: LabelView } | null>(null);
  const find = useDeferredValue(typed.trim());
  const found = useQuery({
    queryKey: ["sheets", kind, find],
    queryFn: () => api.sheets(kind, find),
    placeholderData: (before) => before,
  });
  const sheets = (found.data?.sheets ?? []).slice(0, SHOWN);
  const more = (found.data?.total ?? 0) - sheets.length;
  return (
    <div className="ask-fields">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const [first] = sheets;
          if (typed !== "" && first !== undefined && !found.isPlaceholderData) put(first.id);
        }}
      >
        <Input
          size="large"
          aria-label={asks}
          placeholder={say("begin.maker_or_type_as_the_label")}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </form>
      {found.isPending && <p className="ask-none">{say("begin.opening_the_shelf")}</p>}
      <ProblemNote error={found.error} />
      <LabelPhoto kind={kind} put={put} enter={(label) => setEntering({ label })} />
      <ul className="spots" aria-label={say("begin.on_the_shelf")}>
        {sheets.map((sheet) => (
          <li key={sheet.id}>
            <button type="button" className="choice" aria-pressed={sheet.id === now} onClick={() => put(sheet.id)}>
              <b>{sheet.label}</b>
              <small>{sheet.detail}</small>
            </button>
          </li>
        ))}
      </ul>
      {(found.data?.library ?? []).length > 0 && (
        <ul className="spots" aria-label={say("common.in_the_libraries")}>
          {found.data?.library.slice(0, SHOWN).map((row) => (
            <li key={row.id}>
              <button type="button" className="choice from-library" onClick={() => setEntering({ entry: row.id })}>
                <b>{row.name}</b>
                <small>{say("begin.from_a_library_its_label_has", { missing: row.missing.join(", ") })}</small>
              </button>
            </li>
          ))}
        </ul>
      )}
      {more > 0 && <p className="ask-none">{say("begin.more_type_on", { more })}</p>}
      {found.data?.total === 0 && found.data.library_total === 0 && (
        <p className="ask-none">{say("common.nothing_on_the_shelf_is_called")}</p>
      )}
      <Button onClick={() => setEntering({})}>{say("common.not_there_enter_its_sheet")}</Button>
      <Drawer title={asks} size="large" open={entering !== null} onClose={() => setEntering(null)} destroyOnHidden>
        {entering !== null && (
          <SheetForm kind={kind} id="" close={() => setEntering(null)} kept={(id) => put(id)} {...entering} />
        )}
      </Drawer>
    </div>
  );
}
