import { Refusal } from "../api/client";

/** What was refused, what is allowed, and that nothing was lost. */
export function ProblemNote({ error }: { error: Error | null }) {
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
          {problem.path !== "$" && problem.path !== "$.entered" && <code> {problem.path}</code>}
        </p>
      ))}
      {report?.kept !== undefined && report.kept !== "" && <p className="kept">{report.kept}</p>}
    </div>
  );
}
