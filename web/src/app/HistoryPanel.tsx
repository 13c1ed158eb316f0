import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Drawer } from "antd";
import { useSession } from "../people/useSession";
import { api } from "../shared/api/calls";
import type { ChangeLine, JobView } from "../shared/api/types";
import { useJobWrite } from "../shared/api/useJobWrite";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { dayAndClock } from "../shared/lib/figures";
import { say } from "../words/say";
import "./HistoryPanel.css";

interface HistoryPanelProps {
  jobId: string;
  view: JobView;
  close: () => void;
}

/** Who changed what of the plan, the newest first; one's own changes are undone here. */
export function HistoryPanel({ jobId, view, close }: HistoryPanelProps) {
  const client = useQueryClient();
  const { may } = useSession();
  const key = ["history", jobId, view.revision];
  const lines = useQuery({ queryKey: key, queryFn: () => api.history(jobId) });
  const undo = useJobWrite<number>(jobId, (of) => api.undo(jobId, view.revision, of));
  const put = (of: number) =>
    undo.mutate(of, { onSettled: () => void client.invalidateQueries({ queryKey: ["history", jobId] }) });
  const first = lines.data?.find((one) => canUndo(one) && one.undoes === null);
  return (
    <Drawer title={say("app.changes_of_the_plan")} open onClose={close} size={520}>
      <ProblemNote error={undo.error ?? lines.error} />
      {lines.data?.length === 0 && <p className="nothing">{say("app.nothing_of_this_plan_was_changed")}</p>}
      <ol className="changes">
        {lines.data?.map((one) => (
          <li key={one.revision} className={one.undone ? "undone" : undefined}>
            <div>
              {one.undoes !== null && <i>{say("app.undone")} </i>}
              {one.told.map((told) => (
                <p key={told.what}>
                  <b>{told.what}</b> {told.was} → {told.made}
                </p>
              ))}
              {one.count > one.told.length && <p>{say("app.and_more", { count: one.count - one.told.length })}</p>}
              <p className="source">
                {one.by}, {dayAndClock(one.at, view.plan.site.timezone)}
                {one.undone && say("app.undone_since")}
              </p>
            </div>
            {may("plan") && canUndo(one) && (
              <Button
                type={one === first ? "primary" : "default"}
                disabled={undo.isPending}
                onClick={() => put(one.revision)}
              >
                {one.undoes === null ? say("app.undo") : say("app.make_it_again")}
              </Button>
            )}
          </li>
        ))}
      </ol>
    </Drawer>
  );
}

const canUndo = (one: ChangeLine) => one.mine && !one.undone;
