import { Input, Modal } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Assessment, Judgement, Verdict } from "../shared/api/types";
import { Mark } from "../shared/marks/Mark";
import { stageAddress } from "../shared/lib/stageSlugs";
import { say } from "../words/say";
import "./FindPanel.css";

interface Findable {
  key: string;
  stage: number;
  title: string;
  text: string;
  verdict: Verdict;
}

const MOST_SHOWN = 12;

function everything(assessment: Assessment): Findable[] {
  const judged = (stage: number, where: string, judgements: Judgement[]): Findable[] =>
    judgements.map((one, index) => ({
      key: `${stage}-${where}-${one.rule_id}-${index}`,
      stage,
      title: where === "" ? one.title : `${where}: ${one.title}`,
      text: one.reason,
      verdict: one.verdict,
    }));
  return [
    ...assessment.asks.map((ask) => ({
      key: ask.key,
      stage: ask.stage,
      title: ask.title,
      text: ask.reading === null ? say("common.not_read") : ask.reading.text,
      verdict: ask.verdict,
    })),
    ...judged(1, "", assessment.arrive.judgements),
    ...assessment.arrive.lines.flatMap((one) => judged(1, one.what, [one.judgement])),
    ...assessment.hang.devices.flatMap((one) => judged(2, one.name, one.judgements)),
    ...judged(3, "", assessment.earth.judgements),
    ...assessment.earth.links.flatMap((one) => judged(3, one.name, one.judgements)),
    ...(assessment.string?.strings ?? []).flatMap((one) =>
      judged(4, say("app.string", { name: one.name }), one.judgements),
    ),
    ...(assessment.string?.trackers ?? []).flatMap((one) =>
      judged(4, say("common.tracker", { number: one.number }), one.judgements),
    ),
    ...(assessment.roof?.units ?? []).map((unit) => ({
      key: unit.name,
      stage: 4,
      title: say("app.unit", { unit: unit.name }),
      text: unit.serial === "" ? say("app.no_serial") : unit.serial,
      verdict: unit.serial_verdict,
    })),
    ...(assessment.roof?.branches ?? []).flatMap((one) =>
      judged(4, say("common.branch", { name: one.name }), one.judgements),
    ),
    ...judged(5, "", assessment.feed.judgements),
    ...[
      ...assessment.feed.runs,
      ...assessment.feed.dc_runs,
      ...assessment.feed.devices,
      ...(assessment.feed.dc_switching === null ? [] : [assessment.feed.dc_switching]),
      ...assessment.feed.ends,
      ...assessment.feed.containments,
    ].flatMap((one) => judged(5, one.name, one.judgements)),
    ...judged(9, "", assessment.grid.judgements),
    ...assessment.grid.points.map((point) => ({
      key: point.id,
      stage: 9,
      title: point.title,
      text: point.wanted_text,
      verdict: point.judgement.verdict,
    })),
  ];
}

interface FindPanelProps {
  jobId: string;
  assessment: Assessment;
  close: () => void;
}

/** Find any reading, verdict or setting of the job and go to its stage. */
export function FindPanel({ jobId, assessment, close }: FindPanelProps) {
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = everything(assessment).filter((one) =>
    words.every((word) =>
      `${one.title} ${one.text} ${one.verdict}`.replaceAll("\u00a0", " ").toLowerCase().includes(word),
    ),
  );
  const go = (one: Findable | undefined) => {
    if (one === undefined) return;
    close();
    setTyped("");
    void navigate(stageAddress(jobId, one.stage));
  };
  return (
    <Modal title={say("app.find_in_this_job")} open onCancel={close} footer={null} width={560} destroyOnHidden>
      <Input
        ref={(field) => field?.focus()}
        aria-label={say("app.find")}
        placeholder={say("app.a_string_a_verdict_a_setting")}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onPressEnter={() => go(found[0])}
      />
      <ul className="found">
        {found.slice(0, MOST_SHOWN).map((one) => (
          <li key={one.key}>
            <button type="button" onClick={() => go(one)}>
              <Mark verdict={one.verdict} /> <b>{one.title}</b> <span>{one.text}</span>
            </button>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p>{say("app.nothing_in_this_job_is_called")}</p>}
      {found.length > MOST_SHOWN && (
        <p className="source">{say("app.more_type_another_word", { foundCount: found.length - MOST_SHOWN })}</p>
      )}
    </Modal>
  );
}
