import { Button, Input, Select } from "antd";
import { useState } from "react";
import type { PackFigure } from "../api/types";
import { figure } from "../lib/figures";
import { ProblemNote } from "../judging/ProblemNote";

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
        <span className="entry-label">Figure</span>
        <Select
          aria-label="Figure"
          showSearch={{ optionFilterProp: "label" }}
          value={path}
          placeholder="Type to find"
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
            {shownFigure(chosen)}: {chosen.source}. Allowed: {chosen.allowed}.
            {chosen.inherited !== "" && ` Taken over from ${chosen.inherited}, not stated by this pack itself.`}
          </p>
          <label className="entry">
            <span className="entry-label">Instead</span>
            {chosen.choices.length > 0 ? (
              <Select
                aria-label="Instead"
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
            <span className="entry-label">Why; it is printed in the record</span>
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </label>
          <Button onClick={() => void send()}>Replace it</Button>
        </>
      )}
      <ProblemNote error={error} />
    </div>
  );
}
