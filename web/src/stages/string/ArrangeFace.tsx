import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Working } from "../../shared/fields/Working";
import { api } from "../../shared/api/calls";
import type { Arrangement, JobView } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { strung } from "../../shared/lib/strung";
import { Former } from "../../shared/judging/Former";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";
import "./ArrangeFace.css";

interface ArrangeFaceProps {
  jobId: string;
  view: JobView;
  taken: () => void;
}

/** Every way to string the roof on this inverter, best first; one touch takes it. */
export function ArrangeFace({ jobId, view, taken }: ArrangeFaceProps) {
  const { plan, revision } = view;
  const [tried, setTried] = useState<Record<string, string>>({});
  const edit = useEdit(jobId);
  const client = useQueryClient();
  const planes = Object.entries(tried)
    .filter(([, modules]) => modules.trim() !== "")
    .map(([plane, modules]) => ({ plane, modules }));
  const found = useQuery({
    queryKey: ["arrange", jobId, revision, planes],
    queryFn: ({ signal }) => api.arrangements(jobId, planes, signal),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const take = (one: Arrangement) =>
    edit.mutate({ do: "take_arrangement", strings: one.strings }, { onSuccess: taken });
  return (
    <>
      <div className="arrange-planes">
        {plan.planes.map((plane, index) => (
          <label className="entry" key={plane.name}>
            <span className="entry-label">{say("string.modules", { plane: plane.name })}</span>
            <Input
              value={tried[plane.name] ?? String(plan.modules[index] ?? 0)}
              inputMode="numeric"
              onChange={(event) => setTried({ ...tried, [plane.name]: event.target.value })}
            />
          </label>
        ))}
      </div>
      <Working
        is={found.isFetching}
        doing={say("string.trying_every_way")}
        stop={() => void client.cancelQueries({ queryKey: ["arrange", jobId] })}
      />
      <ProblemNote error={found.error ?? edit.error} />
      <Former is={found.isPlaceholderData}>
        {found.data?.blocks.map((block) => (
          <p key={block} className="reason reason-stop">
            {block}
          </p>
        ))}
        {found.data !== undefined && found.data.frees.length > 0 && (
          <p className="frees">
            {say("string.what_would_free_it", { frees: found.data.frees.join(say("string.or")) })}
          </p>
        )}
        {found.data !== undefined && (
          <p className="source">
            {say("string.legal_arrangements_hard_limits_kept_in", {
              legal: found.data.legal,
              all_tried: found.data.all_tried ? "" : say("string.tried_and_more_left"),
            })}
          </p>
        )}
        <ol className="arrangements">
          {found.data?.ranked.map((one, index) => (
            <li key={index} className={index === 0 ? "arrangement best" : "arrangement"}>
              <Bars arrangement={one} trackers={strung(view).inverter.trackers.length} />
              <p>{one.why}</p>
              {isPlanned(one, view) ? (
                <b>{say("string.this_is_the_plan_now")}</b>
              ) : (
                <Button type={index === 0 ? "primary" : "default"} loading={edit.isPending} onClick={() => take(one)}>
                  {say("string.take_this_one")}
                </Button>
              )}
            </li>
          ))}
        </ol>
      </Former>
    </>
  );
}

const inOrder = (strings: Arrangement["strings"]) =>
  strings
    .map((one) => `${one.tracker} ${one.plane} ${one.modules_in_series}`)
    .sort()
    .join();

function isPlanned(one: Arrangement, view: JobView): boolean {
  return inOrder(one.strings) === inOrder(view.plan.strings);
}

/** Each tracker's strings as modules in a row. */
function Bars({ arrangement, trackers }: { arrangement: Arrangement; trackers: number }) {
  return (
    <dl className="arranged">
      {Array.from({ length: trackers }, (_, index) => index + 1).map((number) => {
        const strings = arrangement.strings.filter((one) => one.tracker === number);
        return (
          <div key={number}>
            <dt>{say("common.tracker", { number })}</dt>
            <dd>
              {strings.length === 0 && <span className="source">{say("string.empty")}</span>}
              {strings.map((one, index) => (
                <span key={index} className="arranged-string">
                  <b>{one.modules_in_series}</b> {one.plane}
                  <span className="arranged-modules" aria-hidden="true">
                    {Array.from({ length: one.modules_in_series }, (_, n) => (
                      <i key={n} />
                    ))}
                  </span>
                </span>
              ))}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
