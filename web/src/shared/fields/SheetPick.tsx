import { useQuery } from "@tanstack/react-query";
import { Button, Drawer, Select } from "antd";
import { useState } from "react";
import { api } from "../api/calls";
import type { Kind, SheetLine } from "../api/types";
import { letGo } from "../lib/useKey";
import { SheetForm } from "../sheets/SheetForm";
import { say } from "../../words/say";

interface SheetPickProps {
  kind: Kind;
  label: string;
  now: string | null;
  nowLabel: string;
  put: (id: string | null) => void;
  /** What choosing nothing is called; undefined when something must be chosen. */
  none?: string;
}

const asOption = (sheet: SheetLine) => ({ value: sheet.id, label: `${sheet.label} · ${sheet.detail}` });
const NONE = "";

/** A sheet from the shelf, found by typing; the shelf may hold thousands. */
export function SheetPick({ kind, label, now, nowLabel, put, none }: SheetPickProps) {
  const [find, setFind] = useState("");
  // The sheet that is open beside: "" for a new one.
  const [open, setOpen] = useState<string | null>(null);
  // One that was entered here; what is looked for may not find it.
  const [made, setMade] = useState({ id: "", label: "" });
  const found = useQuery({
    queryKey: ["sheets", kind, find],
    queryFn: () => api.sheets(kind, find),
    placeholderData: (before) => before,
  });
  // While the shelf looks, what it found before is not offered as what is looked for now.
  const listed = found.isPlaceholderData ? [] : (found.data?.sheets ?? []);
  const options = listed.map(asOption);
  if (now !== null && !listed.some((one) => one.id === now))
    options.unshift({ value: now, label: now === made.id ? made.label : nowLabel });
  if (none !== undefined) options.unshift({ value: NONE, label: none });
  return (
    <>
      <label className="entry">
        <span className="entry-label">{label}</span>
        <Select
          aria-label={label}
          showSearch={{ filterOption: false, onSearch: setFind }}
          value={now ?? (none === undefined ? null : NONE)}
          placeholder={say("shared.type_to_find")}
          options={options}
          loading={found.isFetching}
          popupMatchSelectWidth={false}
          popupRender={(list) => (
            <>
              {list}
              <div className="pick-more">
                {now !== null && now !== NONE && (
                  <Button onClick={() => setOpen(now)}>{say("shared.open_the_sheet_of_this_one")}</Button>
                )}
                <Button onClick={() => setOpen("")}>{say("common.not_there_enter_its_sheet")}</Button>
              </div>
            </>
          )}
          notFoundContent={found.isFetching ? say("shared.looking") : say("common.nothing_on_the_shelf_is_called")}
          onChange={(id: string) => {
            letGo();
            put(id === NONE ? null : id);
          }}
        />
      </label>
      <Drawer title={label} size="large" open={open !== null} onClose={() => setOpen(null)} destroyOnHidden>
        {open !== null && (
          <SheetForm
            kind={kind}
            id={open}
            close={() => setOpen(null)}
            kept={(id, name) => {
              setMade({ id, label: name });
              put(id);
            }}
          />
        )}
      </Drawer>
    </>
  );
}
