import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { Former } from "../shared/judging/Former";
import { api } from "../shared/api/calls";
import type { Kind } from "../shared/api/types";
import { shelfFileUrl, templateUrl } from "../shared/api/urls";
import { useShelf } from "../shared/api/useShelf";
import { OwnPack } from "./OwnPack";
import { SheetForm } from "../shared/sheets/SheetForm";
import { TakeInSheets } from "./TakeInSheets";
import { useNarrow } from "../shared/lib/useNarrow";
import { rich, say } from "../words/say";
import "./ShelfPage.css";
import "./shelf.css";

/** The shelf: every sheet by kind, entered by hand or by file, with its revisions; and the rule packs. */
export default function ShelfPage() {
  const shelf = useShelf();
  const [kind, setKind] = useState<Kind | "packs">("modules");
  const kinds = shelf.data?.kinds ?? [];
  return (
    <div className="shelf">
      <header className="shelf-head">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <h1>{say("common.the_shelf")}</h1>
      </header>
      <main>
        <div role="tablist" aria-label={say("shelf.kinds_of_sheet")} className="shelf-kinds">
          {kinds.map((one) => (
            <button
              key={one.kind}
              type="button"
              role="tab"
              className="face"
              aria-selected={one.kind === kind}
              onClick={() => setKind(one.kind)}
            >
              {one.title} <small>{one.count}</small>
            </button>
          ))}
          <button
            type="button"
            role="tab"
            className="face"
            aria-selected={kind === "packs"}
            onClick={() => setKind("packs")}
          >
            {rich("shelf.rule_packs", { packsCount: <small>{shelf.data?.packs.length}</small> })}
          </button>
        </div>
        {kind === "packs" ? <OwnPack packs={shelf.data?.packs ?? []} /> : <KindShelf key={kind} kind={kind} />}
      </main>
    </div>
  );
}

function KindShelf({ kind }: { kind: Kind }) {
  const [find, setFind] = useState("");
  const [touched, touch] = useState<string | null>(null);
  const [entry, setEntry] = useState<number | null>(null);
  const setOpen = (id: string | null) => {
    setEntry(null);
    touch(id);
  };
  const narrow = useNarrow();
  const sheets = useQuery({
    queryKey: ["sheets", kind, find],
    queryFn: () => api.sheets(kind, find),
    placeholderData: (before) => before,
  });
  // Where there is room beside the list the first sheet of it is open.
  const open = touched ?? (narrow ? null : (sheets.data?.sheets[0]?.id ?? null));
  return (
    <div className="shelf-body">
      <section>
        <Input
          aria-label={say("shelf.find_a_sheet")}
          placeholder={say("shelf.find_by_maker_or_model")}
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <Former is={sheets.isPlaceholderData}>
          <ul className="sheets">
            {sheets.data?.sheets.map((one) => (
              <li key={one.id}>
                <button type="button" aria-pressed={open === one.id} onClick={() => setOpen(one.id)}>
                  <b>{one.label}</b> <span>{one.detail}</span>
                  <small>
                    {say("shelf.sheet", {
                      sheet_revision: one.sheet_revision,
                      checked_by:
                        one.checked_by === ""
                          ? say("shelf.not_checked_yet")
                          : say("shelf.checked_by", { checked_by: one.checked_by }),
                    })}
                  </small>
                </button>
              </li>
            ))}
          </ul>
          {sheets.data !== undefined && sheets.data.total > sheets.data.sheets.length && (
            <p className="source">
              {say("shelf.more_type_to_find", { total: sheets.data.total - sheets.data.sheets.length })}
            </p>
          )}
          {sheets.data?.total === 0 && sheets.data.library_total === 0 && (
            <p>{say("common.nothing_on_the_shelf_is_called")}</p>
          )}
          {(sheets.data?.library_total ?? 0) > 0 && (
            <>
              <h2>{say("common.in_the_libraries")}</h2>
              <ul className="sheets" aria-label={say("common.in_the_libraries")}>
                {sheets.data?.library.map((row) => (
                  <li key={row.id}>
                    <button type="button" onClick={() => setEntry(row.id)}>
                      <b>{row.name}</b>{" "}
                      <small>{say("shelf.its_label_has_still_to_say", { missing: row.missing.join(", ") })}</small>
                    </button>
                  </li>
                ))}
              </ul>
              {sheets.data !== undefined && sheets.data.library_total > sheets.data.library.length && (
                <p className="source">
                  {say("shelf.more_type_to_find_2", {
                    library_total: sheets.data.library_total - sheets.data.library.length,
                  })}
                </p>
              )}
            </>
          )}
        </Former>
      </section>
      <section>
        <div className="shelf-do">
          <Button type="primary" onClick={() => setOpen("")}>
            {say("common.new_sheet")}
          </Button>
          <TakeInSheets kind={kind} />
          <a className="quiet" href={templateUrl(kind)}>
            {say("shelf.csv_to_fill_in")}
          </a>
          <a className="quiet" href={shelfFileUrl(kind, "csv")}>
            {say("shelf.all_as_csv")}
          </a>
          <a className="quiet" href={shelfFileUrl(kind, "json")}>
            {say("shelf.all_as_json")}
          </a>
        </div>
        {entry !== null && (
          <SheetForm key={`row ${entry}`} kind={kind} id="" entry={entry} close={() => setEntry(null)} />
        )}
        {entry === null && open !== null && <SheetForm key={open} kind={kind} id={open} close={() => setOpen(null)} />}
        {entry === null && open === null && <p className="shelf-hint">{say("shelf.touch_a_sheet_to_see_all")}</p>}
      </section>
    </div>
  );
}
