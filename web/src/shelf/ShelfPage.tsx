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
          Long Noon
        </Link>
        <h1>The shelf</h1>
      </header>
      <main>
        <div role="tablist" aria-label="Kinds of sheet" className="shelf-kinds">
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
            Rule packs <small>{shelf.data?.packs.length}</small>
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
          aria-label="Find a sheet"
          placeholder="Find by maker or model"
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
                    sheet {one.sheet_revision},{" "}
                    {one.checked_by === "" ? "not checked yet" : `checked by ${one.checked_by}`}
                  </small>
                </button>
              </li>
            ))}
          </ul>
          {sheets.data !== undefined && sheets.data.total > sheets.data.sheets.length && (
            <p className="source">{sheets.data.total - sheets.data.sheets.length} more; type to find.</p>
          )}
          {sheets.data?.total === 0 && sheets.data.library_total === 0 && <p>Nothing on the shelf is called that.</p>}
          {(sheets.data?.library_total ?? 0) > 0 && (
            <>
              <h2>In the libraries</h2>
              <ul className="sheets" aria-label="In the libraries">
                {sheets.data?.library.map((row) => (
                  <li key={row.id}>
                    <button type="button" onClick={() => setEntry(row.id)}>
                      <b>{row.name}</b> <small>its label has still to say: {row.missing.join(", ")}</small>
                    </button>
                  </li>
                ))}
              </ul>
              {sheets.data !== undefined && sheets.data.library_total > sheets.data.library.length && (
                <p className="source">{sheets.data.library_total - sheets.data.library.length} more; type to find.</p>
              )}
            </>
          )}
        </Former>
      </section>
      <section>
        <div className="shelf-do">
          <Button type="primary" onClick={() => setOpen("")}>
            New sheet
          </Button>
          <TakeInSheets kind={kind} />
          <a className="quiet" href={templateUrl(kind)}>
            CSV to fill in
          </a>
          <a className="quiet" href={shelfFileUrl(kind, "csv")}>
            all as CSV
          </a>
          <a className="quiet" href={shelfFileUrl(kind, "json")}>
            all as JSON
          </a>
        </div>
        {entry !== null && (
          <SheetForm key={`row ${entry}`} kind={kind} id="" entry={entry} close={() => setEntry(null)} />
        )}
        {entry === null && open !== null && <SheetForm key={open} kind={kind} id={open} close={() => setOpen(null)} />}
        {entry === null && open === null && (
          <p className="shelf-hint">
            Touch a sheet to see all of it, to change it under a new revision, or to take it off. A job keeps the sheet
            that it was judged by.
          </p>
        )}
      </section>
    </div>
  );
}
