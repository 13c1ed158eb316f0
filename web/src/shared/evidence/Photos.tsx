import { Checkbox } from "antd";
import { useState } from "react";
import type { Evidence } from "../api/types";
import { evidenceUrl } from "../api/urls";
import { useJob } from "../api/useJob";
import { useKeepPhoto } from "../api/useJobWrite";
import { HollowMark } from "../marks/Mark";
import { useOutbox } from "../outbox/useOutbox";
import { FileButton } from "../fields/FileButton";
import { ProblemNote } from "../judging/ProblemNote";
import { shrunk } from "./shrink";
import "./Photos.css";

interface PhotosProps {
  jobId: string;
  step: string;
  /** What the pictures show, for readers of screens. */
  title: string;
  /** Whether a PDF is taken too. */
  documents?: boolean;
}

/** Pictures kept as evidence of one step, and the button that takes another. */
export function Photos({ jobId, step, title, documents = false }: PhotosProps) {
  const job = useJob(jobId);
  const [located, setLocated] = useState(false);
  const keep = useKeepPhoto(jobId);
  const take = async (file: File) => {
    keep.mutate({ file: located ? file : await shrunk(file), step, name: file.name, located });
  };
  const waits = useOutbox().filter(
    ({ jobId: of, press }) => of === jobId && "photo" in press && press.photo.step === step,
  );
  const kept = job.data?.assessment.evidence.filter((one) => one.step === step) ?? [];
  return (
    <div className="photos">
      {kept.map((one) => (
        <Kept key={one.id} jobId={jobId} evidence={one} />
      ))}
      {waits.map((one) => (
        <span key={one.id} className="photo">
          {one.said} <HollowMark />
        </span>
      ))}
      <FileButton
        label={`Picture of ${title}`}
        accept={documents ? "image/jpeg,image/png,application/pdf" : "image/jpeg,image/png"}
        busy={keep.isPending}
        take={(file) => void take(file)}
      >
        {documents ? "Attach picture or PDF" : "Add a photo"}
      </FileButton>
      <Checkbox checked={located} onChange={(event) => setLocated(event.target.checked)}>
        keep where it was taken
      </Checkbox>
      <ProblemNote error={keep.error} />
    </div>
  );
}

function Kept({ jobId, evidence }: { jobId: string; evidence: Evidence }) {
  const url = evidenceUrl(jobId, evidence.id);
  const about = `${evidence.name}, by ${evidence.by}${evidence.located ? ", with its place" : ""}`;
  return (
    <a className="photo" href={url} target="_blank" rel="noreferrer" title={about}>
      {evidence.form === "application/pdf" ? <span>{evidence.name}</span> : <img src={url} alt={about} />}
    </a>
  );
}
