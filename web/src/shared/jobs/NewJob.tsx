import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Drawer, Input, Select } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/calls";
import type { BenchIn, Choice, NewJobIn } from "../api/types";
import { useShelf } from "../api/useShelf";
import { ProblemNote } from "../judging/ProblemNote";
import { SheetPick } from "../fields/SheetPick";
import "./NewJob.css";

type Field = keyof NewJobIn;

const FIELDS: [Field, string, string][] = [
  ["name", "House", ""],
  ["place", "Place", ""],
  ["latitude_deg", "Latitude, north positive", "54.2"],
  ["longitude_deg", "Longitude, east positive", "0.6"],
  ["altitude_m", "Altitude", "12 m"],
  ["timezone", "Time zone", "Europe/London"],
  ["t_air_min_c", "Coldest air", "−9 °C"],
  ["t_air_max_c", "Hottest air", "31 °C"],
  ["climate_source", "Where these come from", "Harbour office log"],
];

const EMPTY: NewJobIn = {
  name: "",
  day: "",
  place: "",
  latitude_deg: "",
  longitude_deg: "",
  altitude_m: "0 m",
  timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  t_air_min_c: "",
  t_air_max_c: "",
  climate_source: "",
  rule_pack: "generic-iec",
  module: "",
  inverter: "",
  micro: "",
  trunk: "",
};

interface NewJobProps {
  open: boolean;
  close: () => void;
  /** What lies on the bench, to begin with. */
  bench?: BenchIn;
}

const SHARED = ["module", "inverter", "rule_pack", "t_air_min_c", "t_air_max_c"] as const;

/** Beginning a job: what the rules need to know of the site, and what hangs on it. */
export function NewJob({ open, close, bench }: NewJobProps) {
  const [typed, setTyped] = useState<Partial<NewJobIn>>({});
  const [onRoof, setOnRoof] = useState(false);
  const fromBench = bench === undefined ? {} : Object.fromEntries(SHARED.map((field) => [field, bench[field]]));
  const entered: NewJobIn = { ...EMPTY, ...fromBench, ...typed };
  const shelf = useShelf();
  const client = useQueryClient();
  const navigate = useNavigate();
  const create = useMutation({
    mutationFn: () => (bench === undefined ? api.createJob(entered) : api.jobFromBench(entered, bench)),
    onSuccess: async ({ id }) => {
      await client.invalidateQueries({ queryKey: ["jobs"] });
      await navigate(`/jobs/${id}/string`);
    },
  });
  const put = (field: Field, value: string) => setTyped({ ...typed, [field]: value });
  return (
    <Drawer title="Begin a job" open={open} onClose={close} size={460}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          create.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">Day of the work</span>
          <input
            type="date"
            className="plain-date"
            value={entered.day}
            onChange={(event) => put("day", event.target.value)}
          />
        </label>
        {FIELDS.map(([field, label, example]) => (
          <label className="entry" key={field}>
            <span className="entry-label">{label}</span>
            <Input value={entered[field]} placeholder={example} onChange={(event) => put(field, event.target.value)} />
          </label>
        ))}
        <SheetPick
          kind="modules"
          label="Module"
          now={entered.module === "" ? null : entered.module}
          nowLabel={entered.module}
          put={(id) => put("module", id ?? "")}
        />
        {bench === undefined && (
          <div role="radiogroup" aria-label="Which way" className="branch-pick">
            <button
              type="button"
              role="radio"
              aria-checked={!onRoof}
              className="face"
              onClick={() => {
                setOnRoof(false);
                setTyped({ ...typed, micro: "", trunk: "" });
              }}
            >
              Inverter on a wall
            </button>
            <button
              type="button"
              role="radio"
              aria-checked={onRoof}
              className="face"
              onClick={() => {
                setOnRoof(true);
                setTyped({ ...typed, inverter: "" });
              }}
            >
              Microinverters on the roof
            </button>
          </div>
        )}
        {onRoof && (
          <SheetPick
            kind="micros"
            label="Microinverter"
            now={entered.micro === "" ? null : entered.micro}
            nowLabel={entered.micro}
            put={(id) => put("micro", id ?? "")}
          />
        )}
        {onRoof && (
          <SheetPick
            kind="trunks"
            label="Trunk cable"
            now={entered.trunk === "" ? null : entered.trunk}
            nowLabel={entered.trunk}
            put={(id) => put("trunk", id ?? "")}
          />
        )}
        {!onRoof && (
          <SheetPick
            kind="inverters"
            label="Inverter"
            now={entered.inverter === "" ? null : entered.inverter}
            nowLabel={entered.inverter}
            put={(id) => put("inverter", id ?? "")}
          />
        )}
        <Choose
          label="Rule pack"
          choices={shelf.data?.packs ?? []}
          now={entered.rule_pack}
          put={(id) => put("rule_pack", id)}
        />
        <ProblemNote error={create.error} />
        <Button type="primary" htmlType="submit" block loading={create.isPending}>
          Begin
        </Button>
      </form>
    </Drawer>
  );
}

function Choose({
  label,
  choices,
  now,
  put,
}: {
  label: string;
  choices: Choice[];
  now: string;
  put: (id: string) => void;
}) {
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Select
        aria-label={label}
        value={now === "" ? null : now}
        placeholder="Choose"
        options={choices.map((one) => ({ value: one.id, label: `${one.label} · ${one.detail}` }))}
        onChange={put}
      />
    </label>
  );
}
