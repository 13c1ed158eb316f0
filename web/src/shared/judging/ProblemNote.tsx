import { Refusal } from "../api/transport";
import type { Problem } from "../api/types";

interface ProblemNoteProps {
  error: Error | null;
  /** Takes the figure that was probably meant, where the problem is a question. */
  take?: (problem: Problem) => void;
  /** Does it all the same, where a problem at this path asks only whether that is meant. */
  meant?: { path: string; label: string; go: () => void };
}

/** What was refused, what is allowed, and that nothing was lost. */
export function ProblemNote({ error, take, meant }: ProblemNoteProps) {
  if (error === null) return null;
  const report = error instanceof Refusal ? error.report : null;
  const problems = report?.problems ?? [];
  return (
    <div className="problem" role="alert">
      <strong>{report?.title ?? "Not done"}</strong>
      {problems.length === 0 && <p>{error.message}</p>}
      {problems.map((problem) => (
        <p key={problem.path + problem.message}>
          {problem.message}
          {problem.path !== "$" && problem.path !== meant?.path && problem.path !== "$.entered" && (
            <code> {problem.path}</code>
          )}
          {take !== undefined && problem.suggestion !== "" && (
            <button type="button" className="quiet" onClick={() => take(problem)}>
              take {problem.suggestion}
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
