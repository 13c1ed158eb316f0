import { Button, Input, Select } from "antd";
import { useState } from "react";
import type { PackFigure } from "../api/types";
import { figure } from "../lib/figures";
import { ProblemNote } from "../judging/ProblemNote";
import { say } from "../../words/say";

const DIGITS = 3;
export const shownFigure = (one: PackFigure) =>
  one.value == null ? (one.choice ?? "") : figure(one.value, one.unit, DIGITS);

interface PackFiguresProps {
  figures: PackFigure[];
  replace: (path: string, entered: string, reason: string) => Promise<unknown>;
}

/** The figures and schools of a rule pack with their sources; one may be replaced, with a reason. */
export function PackFigures({ figures, replace }: PackFiguresProps) {
  const [path, setPath] = useState<string | null>(null);
  const [entered, setEntered] = useState("");
  const [reason, setReason] = useState("");
  const [error, setError] = useState<Error | null>(null);
  const chosen = figures.find((one) => one.path === path);
  const send = async () => {
    if (path === null) return;
    try {
      await replace(path, entered, reason);
      setPath(null);
      setEntered("");
      setReason("");
      setError(null);
    } catch (fault) {
      setError(fault as Error);
    }
  };
  return (
    <div className="pack-figures">
      <label className="entry">
        <span className="entry-label">{say("common.figure")}</span>
        <Select
          aria-label={say("common.figure")}
          showSearch={{ optionFilterProp: "label" }}
          value={path}
          placeholder={say("shared.type_to_find")}
          options={figures.map((one) => ({ value: one.path, label: `${one.title} · ${shownFigure(one)}` }))}
          onChange={(value: string) => {
            setPath(value);
            setEntered("");
          }}
        />
      </label>
      {chosen !== undefined && (
        <>
          <p className="sheet">
            {say("shared.allowed", {
              chosen: shownFigure(chosen),
              source: chosen.source,
              allowed: chosen.allowed,
              inherited:
                chosen.inherited !== "" && say("shared.taken_over_from_not_stated_by", { inherited: chosen.inherited }),
            })}
          </p>
          <label className="entry">
            <span className="entry-label">{say("shared.instead")}</span>
            {chosen.choices.length > 0 ? (
              <Select
                aria-label={say("shared.instead")}
                value={entered === "" ? null : entered}
                options={chosen.choices.map((one) => ({ value: one, label: one }))}
                onChange={setEntered}
              />
            ) : (
              <Input
                value={entered}
                placeholder={shownFigure(chosen)}
                onChange={(event) => setEntered(event.target.value)}
              />
            )}
          </label>
          <label className="entry">
            <span className="entry-label">{say("shared.why_it_is_printed_in_the")}</span>
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </label>
          <Button onClick={() => void send()}>{say("shared.replace_it")}</Button>
        </>
      )}
      <ProblemNote error={error} />
    </div>
  );
}
