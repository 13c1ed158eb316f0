import { useQuery } from "@tanstack/react-query";
import { Button, Drawer, Input } from "antd";
import { useDeferredValue, useState } from "react";
import { api } from "../shared/api/calls";
import type { Kind, LabelView } from "../shared/api/types";
import { SheetForm } from "../shared/sheets/SheetForm";
import { LabelPhoto } from "./LabelPhoto";

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
          placeholder="Maker or type, as the label has it"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </form>
      <LabelPhoto kind={kind} put={put} enter={(label) => setEntering({ label })} />
      <ul className="spots" aria-label="On the shelf">
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
        <ul className="spots" aria-label="In the libraries">
          {found.data?.library.slice(0, SHOWN).map((row) => (
            <li key={row.id}>
              <button type="button" className="choice from-library" onClick={() => setEntering({ entry: row.id })}>
                <b>{row.name}</b>
                <small>from a library; its label has still to say: {row.missing.join(", ")}</small>
              </button>
            </li>
          ))}
        </ul>
      )}
      {more > 0 && <p className="ask-none">{more} more: type on.</p>}
      {found.data?.total === 0 && found.data.library_total === 0 && (
        <p className="ask-none">Nothing on the shelf is called that.</p>
      )}
      <Button onClick={() => setEntering({})}>Not there? Enter its sheet</Button>
      <Drawer title={asks} size="large" open={entering !== null} onClose={() => setEntering(null)} destroyOnHidden>
        {entering !== null && (
          <SheetForm kind={kind} id="" close={() => setEntering(null)} kept={(id) => put(id)} {...entering} />
        )}
      </Drawer>
    </div>
  );
}
