import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { memo, useState } from "react";
import { api } from "../../shared/api/calls";
import type { Schemas } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

type UnitNow = Schemas["UnitNow"];
const EVERY_MS = 500;

/** The gateway followed while this is open: each unit as it begins to report; nothing of it is kept. */
export function Follow({ jobId }: { jobId: string }) {
  const [follows, setFollows] = useState(false);
  const now = useQuery({
    queryKey: ["gateway", jobId],
    queryFn: () => api.followGateway(jobId),
    refetchInterval: follows ? EVERY_MS : false,
    enabled: follows,
    retry: false,
    gcTime: 0,
  });
  const seen = follows ? now.data : undefined;
  return (
    <div className="follow">
      <Button onClick={() => setFollows(!follows)}>
        {follows ? say("talk.follow_no_longer") : say("talk.follow_it_as_it_comes_up")}
      </Button>
      <ProblemNote error={now.error} />
      {seen !== undefined && (
        <>
          <p role="status">
            {seen.outcome === "read"
              ? say("talk.of_report_now_nothing_of_this", { reporting: seen.reporting, of: seen.of })
              : say("common.no_answer", { detail: seen.detail === "" ? seen.outcome : seen.detail })}
          </p>
          <ul className="units-now">
            {seen.units.map((one) => (
              <UnitCell key={one.serial} unit={one} />
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

/** One unit; drawn anew only when what is said of it changed. */
const UnitCell = memo(function UnitCell({ unit }: { unit: UnitNow }) {
  return (
    <li className={unit.reporting ? "unit-now unit-heard" : "unit-now"} data-serial={unit.serial}>
      <b>{unit.unit === "" ? say("talk.on_no_map") : unit.unit}</b>
      <span>{unit.power_w === null ? say("talk.silent") : figure(unit.power_w, "W", 0)}</span>
    </li>
  );
});
