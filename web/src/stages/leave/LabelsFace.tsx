import { Button, Input } from "antd";
import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { labelUrl, labelsUrl } from "../../shared/api/urls";
import { useEdit } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import type { StageProps } from "../../shared/layout/StageFrame";
import { figure } from "../../shared/lib/figures";
import { Mark } from "../../shared/marks/Mark";
import { rich, say } from "../../words/say";

type Label = Schemas["LabelState"];
const WHOLE = ["labels_known", "labels_apart", "emergency_says"];

interface LabelsFaceProps extends StageProps {
  take: (key: string) => void;
}

/** Every label that this plant needs, as it is printed: stuck, worded otherwise, or left out with a reason. */
export function LabelsFace({ jobId, view, whyAll, take }: LabelsFaceProps) {
  const { leave } = view.assessment;
  return (
    <>
      <p className="label-line">
        {rich("leave.kinds_of_label_on_a4_sheets", {
          labelsCount: leave.labels.length,
          sheets: leave.sheets,
          a: (words) => (
            <a className="big-link slim" href={labelsUrl(jobId)}>
              {words}
            </a>
          ),
        })}
      </p>
      <JudgementList judgements={leave.judgements.filter((one) => WHOLE.includes(one.rule_id))} allOpen={whyAll} />
      <ul className="labels">
        {leave.labels.map((one) => (
          <LabelCard key={one.key} jobId={jobId} label={one} take={take} />
        ))}
      </ul>
    </>
  );
}

function LabelCard({ jobId, label, take }: { jobId: string; label: Label; take: (key: string) => void }) {
  const [open, setOpen] = useState(false);
  const size = `${figure(label.width_mm, "", 0)} × ${figure(label.height_mm, "mm", 0)}`;
  return (
    <li className={label.without === "" ? "label-card" : "label-card label-none"}>
      <img src={labelUrl(jobId, label.key)} alt={label.text} />
      <div>
        <p>
          <Mark verdict={label.verdict} /> <b>{label.title}</b> {label.of}
        </p>
        <p className="source">
          {say("leave.letters_mm", {
            count: label.count,
            where: label.where,
            letter_mm: label.letter_mm,
            size,
            outdoors: label.outdoors ? say("leave.weather_proof") : "",
          })}
        </p>
        {label.without !== "" && <p>{say("leave.none", { without: label.without })}</p>}
        <div className="object-do">
          {label.without === "" && (
            <Button type={label.stuck ? "default" : "primary"} onClick={() => take(label.key)}>
              {label.stuck ? say("leave.stuck_look_again") : say("leave.stuck")}
            </Button>
          )}
          <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? say("common.less") : say("leave.words_photo")}
          </button>
          <a className="quiet" href={labelUrl(jobId, label.key)}>
            {say("leave.svg")}
          </a>
        </div>
        {open && <LabelWords jobId={jobId} label={label} />}
      </div>
    </li>
  );
}

function LabelWords({ jobId, label }: { jobId: string; label: Label }) {
  const [text, setText] = useState(label.own ? label.text : "");
  const [without, setWithout] = useState(label.without);
  const edit = useEdit(jobId);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "set_label", id: label.id, of: label.of, text, without, distance_m: "" });
      }}
    >
      <label className="entry">
        <span className="entry-label">{say("leave.our_own_words_empty_as_the")}</span>
        <Input value={text} placeholder={label.text} onChange={(event) => setText(event.target.value)} />
      </label>
      <label className="entry">
        <span className="entry-label">{say("leave.there_is_none_because")}</span>
        <Input value={without} onChange={(event) => setWithout(event.target.value)} />
      </label>
      <Button htmlType="submit" loading={edit.isPending}>
        {say("common.keep")}
      </Button>
      <ProblemNote error={edit.error} />
      {label.without === "" && <Photos jobId={jobId} step={label.key} title={`${label.title}, ${label.of}`} />}
      <p className="source">{label.source}</p>
    </form>
  );
}
