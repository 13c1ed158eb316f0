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
import { say } from "../../words/say";
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
        label={say("shared.picture_of", { title })}
        accept={documents ? "image/jpeg,image/png,application/pdf" : "image/jpeg,image/png"}
        busy={keep.isPending}
        take={(file) => void take(file)}
      >
        {documents ? say("shared.attach_picture_or_pdf") : say("shared.add_a_photo")}
      </FileButton>
      <Checkbox checked={located} onChange={(event) => setLocated(event.target.checked)}>
        {say("shared.keep_where_it_was_taken")}
      </Checkbox>
      <ProblemNote error={keep.error} />
    </div>
  );
}

function Kept({ jobId, evidence }: { jobId: string; evidence: Evidence }) {
  const url = evidenceUrl(jobId, evidence.id);
  const about = say("shared.by", {
    evidence: evidence.name,
    by: evidence.by,
    located: evidence.located ? say("shared.with_its_place") : "",
  });
  return (
    <a className="photo" href={url} target="_blank" rel="noreferrer" title={about}>
      {evidence.form === "application/pdf" ? <span>{evidence.name}</span> : <img src={url} alt={about} />}
    </a>
  );
}
