import { Button } from "antd";
import type { MadePiece, MakingStep, ReadingIn } from "../api/types";
import { Photos } from "../evidence/Photos";
import { Mark } from "../marks/Mark";
import { say } from "../../words/say";
import "./making.css";

interface MakingStepsProps {
  jobId: string;
  piece: MadePiece;
  steps: MakingStep[];
  keep: { mutate: (body: ReadingIn) => void; isPending: boolean };
}

/** The steps of one piece made by hand, one under the other: what to watch for, and its two answers. */
export function MakingSteps({ jobId, piece, steps, keep }: MakingStepsProps) {
  const tick = (step: MakingStep, entered: "1" | "-1") =>
    keep.mutate({
      kind: step.kind,
      subject: piece.subject,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  return (
    <>
      <ol className="making">
        {steps.map((step) => {
          const done = piece.done.includes(step.kind);
          const wrong = piece.wrong.includes(step.kind);
          return (
            <li key={step.kind}>
              <p className="making-what">
                <b>{step.title}</b>
                {(done || wrong) && <Mark verdict={wrong ? "stop" : "clear"} word={false} />}
                <span className="making-caution">{step.caution}</span>
              </p>
              <div className="two-ways">
                <Button
                  type={done ? "primary" : "default"}
                  aria-pressed={done}
                  disabled={keep.isPending}
                  onClick={() => tick(step, "1")}
                >
                  {step.answers[0]}
                </Button>
                <Button danger={wrong} aria-pressed={wrong} disabled={keep.isPending} onClick={() => tick(step, "-1")}>
                  {step.answers[1]}
                </Button>
              </div>
            </li>
          );
        })}
      </ol>
      <Photos jobId={jobId} step={`made/${piece.subject}`} title={piece.subject} />
    </>
  );
}

/** How far a piece is, in the fewest signs. */
export const howFar = (piece: MadePiece) =>
  piece.wrong.length > 0
    ? say("shared.not_good")
    : piece.done.length === piece.of
      ? "made"
      : say("shared.of", { doneCount: piece.done.length, of: piece.of });
