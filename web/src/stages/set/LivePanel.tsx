import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import type { Watched } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import "./LivePanel.css";

const POLL_MS = 2000;
const S_PER_MIN = 60;

/** What the inverter measures now, polled while this is open; the mean of its supply as it grows. */
export function LivePanel({ jobId, byHand }: { jobId: string; byHand: boolean }) {
  const [holds, setHolds] = useState(false);
  const live = useQuery({
    queryKey: ["live", jobId],
    queryFn: () => api.watchLive(jobId),
    refetchInterval: holds ? false : POLL_MS,
    enabled: !byHand && !holds,
    retry: false,
    gcTime: 0,
  });
  if (byHand) return <p className="nothing">No open port is used: read the display instead.</p>;
  const watched = live.data;
  return (
    <section className="live" aria-label="Live values">
      <div className="live-head">
        <p>
          {watched === undefined
            ? "Asking the inverter"
            : watched.live.outcome === "read_back"
              ? `${watched.live.device?.maker ?? ""} ${watched.live.device?.model ?? ""}, serial ${watched.live.device?.serial ?? ""}: ${watched.live.state}`
              : `No answer: ${watched.live.detail}`}
        </p>
        <Button onClick={() => setHolds(!holds)}>{holds ? "Go on" : "Hold"}</Button>
      </div>
      <ProblemNote error={live.error} />
      {watched !== undefined && watched.live.outcome === "read_back" && <Values watched={watched} />}
      {watched?.judgements
        .filter((one) => one.verdict !== "clear")
        .map((one) => (
          <p key={one.reason} className={`gate gate-${one.verdict}`}>
            <Mark verdict={one.verdict} /> {one.reason}
          </p>
        ))}
      {watched !== undefined && <Mean jobId={jobId} watched={watched} />}
    </section>
  );
}

function Values({ watched: { live } }: { watched: Watched }) {
  return (
    <>
      <dl className="live-values">
        {live.lines.map((line) => (
          <div key={line.pair}>
            <dt>{line.pair}</dt>
            <dd>{figure(line.volts, "V")}</dd>
          </div>
        ))}
        {live.hertz != null && (
          <div>
            <dt>frequency</dt>
            <dd>{figure(live.hertz, "Hz", 2)}</dd>
          </div>
        )}
        {live.power_w != null && (
          <div>
            <dt>power</dt>
            <dd>{figure(live.power_w, "W", 0)}</dd>
          </div>
        )}
        {live.trackers.map((one) => (
          <div key={one.number}>
            <dt>tracker {one.number}</dt>
            <dd>
              {one.volts !== null && figure(one.volts, "V", 0)}
              <small>
                {one.amps !== null && figure(one.amps, "A", 2)} {one.watts !== null && figure(one.watts, "W", 0)}
              </small>
            </dd>
          </div>
        ))}
      </dl>
      {live.alarms.length === 0 ? (
        <p className="gate">
          <Mark verdict="clear" /> No alarm stands.
        </p>
      ) : (
        <ul className="alarms">
          {live.alarms.map((one) => (
            <li key={one.id}>
              <Mark verdict="stop" />
              <b>{one.means}</b>
              <p>{one.do}</p>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Mean({ jobId, watched }: { jobId: string; watched: Watched }) {
  const keep = useKeep(jobId);
  const { mean, mean_v: meanV, covered_s: coveredS, window_s: windowS, entered } = watched;
  if (meanV === null) return null;
  return (
    <div className="mean">
      <dl className="live-values">
        <div>
          <dt>mean of the supply</dt>
          <dd>{figure(meanV, "V")}</dd>
        </div>
      </dl>
      <progress max={windowS} value={coveredS} aria-label="Minutes of the mean" />
      <span>
        {Math.floor(coveredS / S_PER_MIN)}:{String(Math.floor(coveredS % S_PER_MIN)).padStart(2, "0")} of{" "}
        {Math.floor(windowS / S_PER_MIN)} min
      </span>
      {mean !== null && <p className={`reason reason-${mean.verdict}`}>{mean.reason}</p>}
      <Button
        disabled={entered === null}
        loading={keep.isPending}
        onClick={() =>
          entered !== null &&
          keep.mutate({
            kind: "mean_voltage",
            subject: "site",
            entered,
            taken_at: null,
            supersedes: null,
            instrument: "the inverter's own",
            note: "",
          })
        }
      >
        {entered === null ? "Keep after ten minutes" : "Keep this mean"}
      </Button>
      <ProblemNote error={keep.error} />
    </div>
  );
}
