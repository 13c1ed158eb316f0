import { Button } from "antd";
import { api } from "../../shared/api/calls";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

/** Writing the profile and reading it back; later, only reading, against what was written. */
export function WriteButtons({ jobId, written }: { jobId: string; written: boolean }) {
  const write = useJobWrite<null>(jobId, () => api.writeProfile(jobId));
  const look = useJobWrite<null>(jobId, () => api.lookAtSettings(jobId));
  return (
    <>
      <Button
        type="primary"
        block
        loading={write.isPending}
        disabled={look.isPending}
        onClick={() => write.mutate(null)}
      >
        {write.isPending ? say("set.writing_and_reading_back") : say("set.write_and_read_back")}
      </Button>
      {written && (
        <Button block loading={look.isPending} disabled={write.isPending} onClick={() => look.mutate(null)}>
          {look.isPending ? say("set.reading") : say("set.only_read_is_it_still_so")}
        </Button>
      )}
      <ProblemNote error={write.error ?? look.error} />
    </>
  );
}
