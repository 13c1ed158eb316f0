import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import type { Choice, PackIn, PackView } from "../shared/api/types";
import { DraftField } from "../shared/fields/DraftField";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { PackFigures, shownFigure } from "../shared/fields/PackFigures";
import { say } from "../words/say";
import "./shelf.css";

/** The rule packs with every figure and its source; one of the crew's own, made from a shipped one. */
export function OwnPack({ packs }: { packs: Choice[] }) {
  const [id, setId] = useState("generic-iec");
  const pack = useQuery({ queryKey: ["pack", id], queryFn: () => api.pack(id) });
  return (
    <div className="shelf-body">
      <section>
        <label className="entry">
          <span className="entry-label">{say("common.rule_pack")}</span>
          <Select
            aria-label={say("common.rule_pack")}
            value={id}
            options={packs.map((one) => ({ value: one.id, label: one.label }))}
            onChange={setId}
          />
        </label>
        {pack.data !== undefined && <PackSheet pack={pack.data} />}
      </section>
      <section>{pack.data !== undefined && <Making key={id} pack={pack.data} kept={setId} />}</section>
    </div>
  );
}

function PackSheet({ pack }: { pack: PackView }) {
  return (
    <>
      <p className="sheet">
        {pack.edition}
        {pack.counts_from !== null && say("shelf.counts_from", { counts_from: pack.counts_from })}
        {pack.counts_until !== null && say("shelf.counts_until", { counts_until: pack.counts_until })}
        {pack.based_on === null ? "" : say("shelf.based_on", { based_on: pack.based_on })}. {pack.note}
      </p>
      <table className="points">
        <thead>
          <tr>
            <th>{say("common.figure")}</th>
            <th>{say("shelf.value")}</th>
            <th>{say("common.source")}</th>
          </tr>
        </thead>
        <tbody>
          {pack.figures.map((one) => (
            <tr key={one.path}>
              <td>
                {one.title}
                <br />
                <code>{one.path}</code>
              </td>
              <td>{shownFigure(one)}</td>
              <td>
                {one.source}
                {one.inherited !== "" && (
                  <em className="taken-over"> {say("shelf.taken_over_from", { inherited: one.inherited })}</em>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {pack.tables.map((table) => (
        <details key={table.id}>
          <summary>{table.title}</summary>
          <p className="source">{table.source}</p>
          <table className="points">
            <thead>
              <tr>
                <th />
                {table.columns.map((column) => (
                  <th key={column}>
                    {column}
                    {table.unit === "" ? "" : `, ${table.unit}`}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.map((row) => (
                <tr key={row.name}>
                  <th>{row.name}</th>
                  {row.values.map((one, index) => (
                    <td key={index}>{one}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      ))}
    </>
  );
}

function Making({ pack, kept }: { pack: PackView; kept: (id: string) => void }) {
  const client = useQueryClient();
  const [named, setNamed] = useState({ id: "", name: "", edition: "", counts_from: "", counts_until: "" });
  const [figures, setFigures] = useState<PackIn["figures"]>([]);
  const keep = useMutation({
    mutationFn: () => api.keepPack({ ...named, based_on: pack.based_on ?? pack.id, note: "", figures }),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ["shelf"] });
      kept(made.id);
    },
  });
  return (
    <form
      className="sheet-form"
      aria-label={say("shelf.a_rule_pack_of_your_own")}
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <h2>{say("shelf.a_rule_pack_of_your_own")}</h2>
      <p className="sheet">{say("shelf.from_with_figures_of_yours_each", { pack: pack.name })}</p>
      <div className="sheet-fields">
        <label className="entry">
          <span className="entry-label">{say("shelf.short_name_kept_for_good")}</span>
          <Input
            value={named.id}
            placeholder={say("shelf.our_island")}
            onChange={(event) => setNamed({ ...named, id: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">{say("common.name")}</span>
          <Input
            value={named.name}
            placeholder={say("shelf.our_island_2")}
            onChange={(event) => setNamed({ ...named, name: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">{say("shelf.edition_by_which_code_or_paper")}</span>
          <Input value={named.edition} onChange={(event) => setNamed({ ...named, edition: event.target.value })} />
        </label>
        <DraftField
          label={say("shelf.counts_from_where_that_is_known")}
          value={named.counts_from}
          placeholder="2026-11-24"
          put={(counts_from) => setNamed({ ...named, counts_from })}
        />
        <DraftField
          label={say("shelf.counts_until_2")}
          value={named.counts_until}
          placeholder="2028-12-31"
          put={(counts_until) => setNamed({ ...named, counts_until })}
        />
      </div>
      <ul className="replaced">
        {figures.map((one) => (
          <li key={one.path}>
            <code>{one.path}</code> <b>{one.entered}</b>: {one.reason}{" "}
            <button
              type="button"
              className="quiet"
              onClick={() => setFigures(figures.filter((other) => other.path !== one.path))}
            >
              {say("common.put_back")}
            </button>
          </li>
        ))}
      </ul>
      <PackFigures
        figures={pack.figures}
        replace={(path, entered, reason) => {
          setFigures([...figures.filter((one) => one.path !== path), { path, entered, reason }]);
          return Promise.resolve();
        }}
      />
      <ProblemNote error={keep.error} />
      <Button type="primary" htmlType="submit" disabled={figures.length === 0} loading={keep.isPending}>
        {say("shelf.keep_this_pack")}
      </Button>
    </form>
  );
}
