import { memo, useCallback, useState } from "react";
import type { Judgement } from "../api/types";
import { digitsApart, figure } from "../lib/figures";
import { Mark } from "../marks/Mark";
import { LeadLink } from "./LeadLink";
import { SumLines } from "./SumLines";
import { say } from "../../words/say";
import "./JudgementList.css";

function Figures({ judgement }: { judgement: Judgement }) {
  const { value, limit, margin, margin_pct: percent, unit } = judgement;
  if (value === null || limit === null || margin === null) return null;
  const digits = digitsApart(value, limit, unit);
  const share = percent === null ? "" : `, ${figure(percent, "%", 0)}`;
  return (
    <dl className="figures">
      <div>
        <dt>{say("shared.value")}</dt>
        <dd>{figure(value, unit, digits)}</dd>
      </div>
      <div>
        <dt>{say("shared.limit")}</dt>
        <dd>{figure(limit, unit, digits)}</dd>
      </div>
      <div>
        <dt>{say("shared.margin")}</dt>
        <dd>
          {figure(margin, unit, digits)}
          {share}
        </dd>
      </div>
    </dl>
  );
}

/** One verdict: mark, question, figures; its reason and source behind a touch or W. */
const JudgementRow = memo(function JudgementRow({
  judgement,
  id,
  open,
  toggle,
}: {
  judgement: Judgement;
  id: string;
  open: boolean;
  toggle: (id: string) => void;
}) {
  const showReason = open || judgement.verdict !== "clear";
  return (
    <li className="judgement" id={`judgement-${judgement.rule_id}`}>
      <button type="button" className="judgement-head" aria-expanded={open} onClick={() => toggle(id)}>
        <Mark verdict={judgement.verdict} />
        <span className="judgement-title">{judgement.title}</span>
        <Figures judgement={judgement} />
        <span className="why-hint">{open ? say("common.less") : say("common.why")}</span>
      </button>
      {showReason && (
        <p className={judgement.verdict === "clear" ? "reason" : `reason reason-${judgement.verdict}`}>
          {judgement.reason}
        </p>
      )}
      {judgement.verdict === "waiting" && <LeadLink judgement={judgement} />}
      {open && <p className="source">{say("shared.source", { source: judgement.source })}</p>}
      {open && <SumLines judgement={judgement} />}
    </li>
  );
});

/** Judgements under each other. `allOpen` shows every reason and source, as W does. */
export function JudgementList({ judgements, allOpen }: { judgements: Judgement[]; allOpen: boolean }) {
  const [opened, setOpened] = useState<string[]>([]);
  const toggle = useCallback(
    (id: string) => setOpened((before) => (before.includes(id) ? before.filter((one) => one !== id) : [...before, id])),
    [],
  );
  return (
    <ul className="judgements">
      {judgements.map((judgement, index) => {
        const key = `${judgement.rule_id}-${index}`;
        return (
          <JudgementRow
            key={key}
            id={key}
            judgement={judgement}
            open={allOpen || opened.includes(key)}
            toggle={toggle}
          />
        );
      })}
    </ul>
  );
}
