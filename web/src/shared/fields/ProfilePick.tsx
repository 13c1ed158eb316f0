import { Select } from "antd";
import { useChange } from "../api/useJobWrite";
import { useShelf } from "../api/useShelf";
import { letGo } from "../lib/useKey";
import { ProblemNote } from "../judging/ProblemNote";
import { say } from "../../words/say";
import "./ProfilePick.css";

/** What the plan calls the profile that was filled from the operator's letter. */
const LETTER = "operators-letter";

/** The grid profile of the site: never chosen but by the user. */
export function ProfilePick({ jobId, now, letter }: { jobId: string; now: string | null; letter?: string }) {
  const shelf = useShelf();
  const change = useChange(jobId);
  const shipped = (shelf.data?.profiles ?? []).map((one) => ({ value: one.id, label: `${one.label} · ${one.detail}` }));
  const options =
    letter === undefined
      ? shipped
      : [{ value: LETTER, label: say("shared.the_operators_letter", { letter }) }, ...shipped];
  return (
    <label className="entry profile-pick">
      <span className="entry-label">{say("shared.grid_profile")}</span>
      <Select
        aria-label={say("shared.grid_profile")}
        value={now}
        placeholder={say("shared.as_the_network_operator_asks")}
        options={options}
        onChange={(entered: string) => {
          letGo();
          change.mutate([{ path: "$.grid.profile", entered }]);
        }}
      />
      <ProblemNote error={change.error} />
    </label>
  );
}
