import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import type { Watched } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
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
  if (byHand) return <p className="nothing">{say("set.no_open_port_is_used_read")}</p>;
  const watched = live.data;
  return (
    <section className="live" aria-label={say("set.live_values")}>
      <div className="live-head">
        <p>
          {watched === undefined
            ? say("set.asking_the_inverter")
            : watched.live.outcome === "read_back"
              ? say("set.serial_2", {
                  maker: watched.live.device?.maker ?? "",
                  model: watched.live.device?.model ?? "",
                  serial: watched.live.device?.serial ?? "",
                  state: watched.live.state,
                })
              : say("common.no_answer", { detail: watched.live.detail })}
        </p>
        <Button onClick={() => setHolds(!holds)}>{holds ? say("set.go_on") : say("set.hold")}</Button>
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
            <dt>{say("set.frequency")}</dt>
            <dd>{figure(live.hertz, "Hz", 2)}</dd>
          </div>
        )}
        {live.power_w != null && (
          <div>
            <dt>{say("set.power")}</dt>
            <dd>{figure(live.power_w, "W", 0)}</dd>
          </div>
        )}
        {live.trackers.map((one) => (
          <div key={one.number}>
            <dt>{say("set.tracker", { number: one.number })}</dt>
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
          <Mark verdict="clear" /> {say("set.no_alarm_stands")}
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
          <dt>{say("set.mean_of_the_supply")}</dt>
          <dd>{figure(meanV, "V")}</dd>
        </div>
      </dl>
      <progress max={windowS} value={coveredS} aria-label={say("set.minutes_of_the_mean")} />
      <span>
        {say("set.of_min", {
          minutes: Math.floor(coveredS / S_PER_MIN),
          seconds: String(Math.floor(coveredS % S_PER_MIN)).padStart(2, "0"),
          of: Math.floor(windowS / S_PER_MIN),
        })}
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
            instrument: say("set.the_inverters_own"),
            note: "",
          })
        }
      >
        {entered === null ? say("set.keep_after_ten_minutes") : say("set.keep_this_mean")}
      </Button>
      <ProblemNote error={keep.error} />
    </div>
  );
}
