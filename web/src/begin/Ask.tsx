import { Button, Input } from "antd";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { AskAir } from "./AskAir";
import { AskRoof } from "./AskRoof";
import { AskRules } from "./AskRules";
import { AskSheet } from "./AskSheet";
import { AskWhere } from "./AskWhere";
import { typing, type AskProps } from "./answering";
import { say } from "../words/say";

const SHEETS = {
  module: "modules",
  inverter: "inverters",
  micro: "micros",
  trunk: "trunks",
} as const;

/** One question with the way to answer it, and the way past it. */
export function Ask(props: AskProps) {
  const { question, skip } = props;
  const here = useRef<HTMLDivElement>(null);
  // The hand goes on where the next question is.
  useEffect(() => here.current?.querySelector<HTMLElement>("input, .choice")?.focus(), []);
  return (
    <div className="ask-one" ref={here}>
      <h2>{question.asks}</h2>
      <p className="ask-for">{question.what_for}</p>
      {question.state === "wrong" && (
        <p className="reason reason-stop" role="alert">
          {question.problem}
        </p>
      )}
      <Fields {...props} />
      <button type="button" className="quiet" onClick={skip}>
        {question.id === "others" ? say("begin.something_does_or_i_do_not") : say("begin.put_it_aside")}
      </button>
    </div>
  );
}

function Fields(props: AskProps): ReactNode {
  const { question, answers, put } = props;
  switch (question.id) {
    case "name":
      return <AskName {...props} />;
    case "where":
      return <AskWhere {...props} />;
    case "air":
      return <AskAir {...props} />;
    case "rules":
      return <AskRules {...props} />;
    case "module":
    case "inverter":
    case "micro":
    case "trunk": {
      const field = question.id;
      return (
        <AskSheet
          kind={SHEETS[field]}
          asks={question.asks}
          now={answers.typed[field]}
          put={(id) => put(typing({ [field]: id, strung: "" }))}
        />
      );
    }
    case "way":
      return (
        <Choices
          asks={question.asks}
          choices={[
            [
              say("begin.on_a_wall_with_strings"),
              () => put((now) => ({ ...typing({ micro: "", trunk: "", strung: "" })(now), way: "wall" })),
            ],
            [
              say("begin.on_the_roof_one_under_each"),
              () => put((now) => ({ ...typing({ inverter: "", strung: "" })(now), way: "roof" })),
            ],
          ]}
        />
      );
    case "roof":
      return <AskRoof {...props} />;
    case "strung":
      return (
        <div className="choices" role="group" aria-label={question.asks}>
          {props.asked.ways.map((way) => (
            <button
              key={way.number}
              type="button"
              className="choice"
              onClick={() => put(typing({ strung: String(way.number) }))}
            >
              <b>{way.text}</b>
              <small>{way.why}</small>
            </button>
          ))}
        </div>
      );
    case "others":
      return (
        <Choices
          asks={question.asks}
          choices={[[say("common.nothing_else_feeds_it"), () => put(typing({ nothing_else: true }))]]}
        />
      );
  }
}

/** A few answers, each one touch. */
function Choices({ asks, choices }: { asks: string; choices: [string, () => void][] }) {
  return (
    <div className="choices" role="group" aria-label={asks}>
      {choices.map(([label, go]) => (
        <button key={label} type="button" className="choice" onClick={go}>
          <b>{label}</b>
        </button>
      ))}
    </div>
  );
}

function AskName({ question, answers, put }: AskProps) {
  const [name, setName] = useState(answers.typed.name);
  const [day, setDay] = useState(answers.typed.day);
  return (
    <form
      className="ask-fields"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== "") put(typing({ name: name.trim(), day }));
      }}
    >
      <Input
        size="large"
        aria-label={question.asks}
        placeholder={say("begin.net_loft")}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label className="entry">
        <span className="entry-label">{say("begin.day_of_the_work_empty_is")}</span>
        <input type="date" className="plain-date" value={day} onChange={(event) => setDay(event.target.value)} />
      </label>
      <Button type="primary" size="large" htmlType="submit" disabled={name.trim() === ""}>
        {say("common.next")}
      </Button>
    </form>
  );
}
