import { useQuery } from "@tanstack/react-query";
import { Select } from "antd";
import { api } from "../shared/api/calls";
import type { Change } from "./answering";
import { say } from "../words/say";

/** An earlier job as the template: its plan without what was read, permitted or signed there. */
export function LikeEarlier({ put }: { put: (change: Change) => void }) {
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: api.jobs });
  if ((jobs.data ?? []).length === 0) return null;
  return (
    <label className="entry like-earlier">
      <span className="entry-label">{say("begin.or_plan_it_as_an_earlier")}</span>
      <Select
        aria-label={say("begin.or_plan_it_as_an_earlier")}
        placeholder={say("begin.choose_a_job")}
        value={null}
        options={(jobs.data ?? []).map((job) => ({ value: job.id, label: `${job.name} · ${job.equipment}` }))}
        onChange={(id: string) => put((answers) => ({ ...answers, like: id }))}
      />
    </label>
  );
}
