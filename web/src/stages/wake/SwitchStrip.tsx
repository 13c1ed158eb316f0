import { Popover } from "antd";
import { Button } from "antd";
import { useState } from "react";
import type { SwitchStanding } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { SwitchShape } from "./SwitchShape";
import { say } from "../../words/say";
import "./SwitchStrip.css";
import "./wake.css";

/** Where every switch of the sequence stands, by what was last said; a touch says it anew. */
export function SwitchStrip({ jobId, switches }: { jobId: string; switches: SwitchStanding[] }) {
  const keep = useKeep(jobId);
  const [open, setOpen] = useState<string | null>(null);
  const put = (one: string, entered: "1" | "-1") => {
    setOpen(null);
    keep.mutate({
      kind: "switch_stands",
      subject: one,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  };
  return (
    <>
      <ul className="switch-strip" aria-label={say("wake.where_the_switches_stand")}>
        {switches.map((one) => (
          <li key={one.switch}>
            <Popover
              trigger="click"
              open={open === one.switch}
              onOpenChange={(isOpen) => setOpen(isOpen ? one.switch : null)}
              content={
                <div className="say-stands">
                  <p>{say("wake.stands", { title: one.title })}</p>
                  <Button onClick={() => put(one.switch, "1")}>{say("common.on_2")}</Button>
                  <Button onClick={() => put(one.switch, "-1")}>{say("common.off")}</Button>
                </div>
              }
            >
              <button type="button" className={`switch-stand stands-${one.position ?? "unsaid"}`}>
                <SwitchShape position={one.position} />
                <span>{one.title}</span>
                <b>{one.position ?? say("wake.not_said")}</b>
              </button>
            </Popover>
          </li>
        ))}
      </ul>
      <ProblemNote error={keep.error} />
    </>
  );
}
