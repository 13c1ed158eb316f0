import { Button } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { JobView } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { DraftField } from "../../shared/fields/DraftField";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

interface MoreInvertersProps {
  jobId: string;
  view: JobView;
  boards: string[];
}

/** Further inverters of this job: one more, or one that is planned no longer. */
export function MoreInverters({ jobId, view, boards }: MoreInvertersProps) {
  const edit = useEdit(jobId);
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [sheet, setSheet] = useState<string | null>(null);
  const [board, setBoard] = useState(boards[0] ?? "");
  const sisters = view.inverters.filter((one) => one.id !== jobId);
  return (
    <>
      <h3>{say("feed.inverters_of_this_job")}</h3>
      <p className="source">{say("feed.each_has_its_own_strings_cable")}</p>
      {sisters.map((one) => (
        <div key={one.id} className="sister">
          <Link to={`/jobs/${one.id}/feed`}>{one.name}</Link>
          <span>{one.label}</span>
          {!one.first && (
            <Button onClick={() => edit.mutate({ do: "remove_inverter", name: one.name })}>
              {say("common.remove")}
            </Button>
          )}
        </div>
      ))}
      <form
        className="source-fields"
        aria-label={say("feed.one_more_inverter")}
        onSubmit={(event) => {
          event.preventDefault();
          const known = new Set(view.inverters.map((one) => one.id));
          edit.mutate(
            { do: "add_inverter", name, inverter: sheet ?? "", board },
            {
              onSuccess: (made) => {
                const fresh = made.inverters.find((one) => one.id !== jobId && !known.has(one.id));
                if (fresh !== undefined) void navigate(`/jobs/${fresh.id}/feed`);
              },
            },
          );
        }}
      >
        <DraftField
          label={say("feed.one_more_inverter")}
          value={name}
          placeholder={say("feed.garage_inverter")}
          put={setName}
        />
        <SheetPick kind="inverters" label={say("common.sheet")} now={sheet} nowLabel="" put={setSheet} />
        <Pick
          label={say("feed.its_breaker_sits_in")}
          value={board}
          options={boards.map((one) => [one, one] as const)}
          put={setBoard}
        />
        <div className="source-keys">
          <Button htmlType="submit" disabled={name === "" || sheet === null} loading={edit.isPending}>
            {say("common.add_it")}
          </Button>
        </div>
      </form>
      <ProblemNote error={edit.error} />
    </>
  );
}
