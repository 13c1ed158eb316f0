import { Refusal } from "../api/transport";
import type { Problem } from "../api/types";
import { fieldInWords } from "../lib/fieldInWords";
import { say } from "../../words/say";

const NAMELESS = ["", "entered", "typed"];

interface ProblemNoteProps {
  error: Error | null;
  /** Takes the figure that was probably meant, where the problem is a question. */
  take?: (problem: Problem) => void;
  /** Does it all the same, where a problem at this path asks only whether that is meant. */
  meant?: { path: string; label: string; go: () => void };
}

/** Which field it is about, where the sentence itself does not say. */
function Where({ path, message }: { path: string; message: string }) {
  const field = fieldInWords(path);
  const last = field.split(" of ")[0] ?? "";
  if (NAMELESS.includes(field) || message.toLowerCase().includes(last.toLowerCase())) return null;
  return <span className="problem-where"> {say("shared.at", { field })}</span>;
}

/** What was refused, what is allowed, and that nothing was lost. */
export function ProblemNote({ error, take, meant }: ProblemNoteProps) {
  if (error === null) return null;
  const report = error instanceof Refusal ? error.report : null;
  const problems = report?.problems ?? [];
  return (
    <div className="problem" role="alert">
      <strong>{report?.title ?? say("shared.not_done")}</strong>
      {problems.length === 0 && <p>{error.message}</p>}
      {problems.map((problem) => (
        <p key={problem.path + problem.message}>
          {problem.message}
          {problem.path !== meant?.path && <Where path={problem.path} message={problem.message} />}
          {take !== undefined && problem.suggestion !== "" && (
            <button type="button" className="quiet" onClick={() => take(problem)}>
              {say("shared.take", { suggestion: problem.suggestion })}
            </button>
          )}
        </p>
      ))}
      {meant !== undefined && problems.some((one) => one.path === meant.path) && (
        <button type="button" onClick={meant.go}>
          {meant.label}
        </button>
      )}
      {report?.kept !== undefined && report.kept !== "" && <p className="kept">{report.kept}</p>}
    </div>
  );
}
