import { Select } from "antd";
import { useChange } from "../api/useJobWrite";
import { useShelf } from "../api/useShelf";
import { letGo } from "../lib/useKey";
import { ProblemNote } from "../judging/ProblemNote";
import "./ProfilePick.css";

/** What the plan calls the profile that was filled from the operator's letter. */
const LETTER = "operators-letter";

/** The grid profile of the site: never chosen but by the user. */
export function ProfilePick({ jobId, now, letter }: { jobId: string; now: string | null; letter?: string }) {
  const shelf = useShelf();
  const change = useChange(jobId);
  const shipped = (shelf.data?.profiles ?? []).map((one) => ({ value: one.id, label: `${one.label} · ${one.detail}` }));
  const options =
    letter === undefined ? shipped : [{ value: LETTER, label: `The operator's letter · ${letter}` }, ...shipped];
  return (
    <label className="entry profile-pick">
      <span className="entry-label">Grid profile</span>
      <Select
        aria-label="Grid profile"
        value={now}
        placeholder="As the network operator asks"
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
