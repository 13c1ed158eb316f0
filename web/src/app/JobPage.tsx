import { Suspense, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { JobView } from "../shared/api/types";
import { useJob } from "../shared/api/useJob";
import { useCoreHere } from "../shared/hand/core";
import { takeInHand } from "../shared/outbox/outbox";
import { useKey } from "../shared/lib/useKey";
import { Leads, leadsOf } from "../shared/judging/leads";
import { useLedField } from "../shared/judging/useLedField";
import { useNarrow } from "../shared/lib/useNarrow";
import { Boundary } from "../shared/layout/Boundary";
import { FindPanel } from "./FindPanel";
import { Foot } from "./Foot";
import { HistoryPanel } from "./HistoryPanel";
import { Inverters } from "./Inverters";
import { JobHead } from "./JobHead";
import { KeysPanel } from "./KeysPanel";
import { NextStep } from "./NextStep";
import { DAY, STAGES } from "./stages";
import { say } from "../words/say";

const LAST_STAGE = 10;
type Panel = "history" | "keys" | "find" | null;

/** One job: the arc on top, a stage in the middle, the keys at the foot. */
export function JobPage() {
  const { jobId = "", stage = "" } = useParams();
  const navigate = useNavigate();
  const job = useJob(jobId);
  const [panel, setPanel] = useState<Panel>(null);
  const [whyAll, setWhyAll] = useState(false);
  const entry = [...STAGES, DAY].find((one) => one.slug === stage);

  useKey("1234567890", (key) => {
    const number = key === "0" ? LAST_STAGE : Number(key);
    const wanted = STAGES.find((one) => one.number === number);
    if (wanted !== undefined) void navigate(`/jobs/${jobId}/${wanted.slug}`);
  });
  useKey("w", () => setWhyAll(!whyAll));
  useKey("/", () => setPanel("find"));
  useKey("?", () => setPanel("keys"));
  useKey("u", () => setPanel("history"));

  useLedField();
  const narrow = useNarrow();
  const core = useCoreHere();
  const isHere = job.data !== undefined;
  const assessment = job.data?.assessment;
  const leads = useMemo(() => leadsOf(assessment), [assessment]);
  useEffect(() => {
    if (core !== "" && isHere) void takeInHand(jobId);
  }, [core, jobId, isHere]);

  if (job.isPending) return <p className="nothing">{say("app.opening_the_job")}</p>;
  if (job.isError || entry === undefined) {
    return (
      <p className="nothing">
        {job.error?.message ?? say("app.there_is_no_such_stage")} <Link to="/">{say("common.to_the_jobs")}</Link>
      </p>
    );
  }
  const Stage = entry.component;
  const step = job.data.assessment.next;
  const next = step === null ? null : <NextStep jobId={jobId} next={step} />;
  return (
    <div className="page">
      <JobHead jobId={jobId} view={job.data} here={entry.number}>
        {!narrow && next}
      </JobHead>
      <Inverters view={job.data} stage={stage} />
      <Boundary key={`${jobId} ${stage}`} what={titleOf(job.data, entry.number)} resetOn={job.data}>
        <Leads value={leads}>
          <Suspense fallback={<p className="nothing">{say("app.opening_the_stage")}</p>}>
            <Stage key={jobId} jobId={jobId} view={job.data} whyAll={whyAll} />
          </Suspense>
        </Leads>
      </Boundary>
      <Foot>{narrow && next}</Foot>
      <Boundary what={say("app.the_list_of_keys")}>
        <KeysPanel open={panel === "keys"} close={() => setPanel(null)} />
      </Boundary>
      {panel === "history" && (
        <Boundary what={say("app.the_changes")}>
          <HistoryPanel jobId={jobId} view={job.data} close={() => setPanel(null)} />
        </Boundary>
      )}
      {panel === "find" && (
        <Boundary what={say("app.find")}>
          <FindPanel jobId={jobId} assessment={job.data.assessment} close={() => setPanel(null)} />
        </Boundary>
      )}
    </div>
  );
}

const titleOf = ({ assessment }: JobView, stage: number) =>
  assessment.stages.find((one) => one.number === stage)?.title ?? say("day.the_day");
