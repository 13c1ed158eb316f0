import { Select } from "antd";
import { useChange } from "../api/useJobWrite";
import { useShelf } from "../api/useShelf";
import { letGo } from "../lib/useKey";
import { ProblemNote } from "../judging/ProblemNote";
import "./ProfilePick.css";

/** The grid profile of the site: never chosen but by the user. */
export function ProfilePick({ jobId, now }: { jobId: string; now: string | null }) {
  const shelf = useShelf();
  const change = useChange(jobId);
  const options = (shelf.data?.profiles ?? []).map((one) => ({ value: one.id, label: `${one.label} · ${one.detail}` }));
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
