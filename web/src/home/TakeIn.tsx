import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { api } from "../shared/api/calls";
import { Refusal } from "../shared/api/transport";
import { useShelf } from "../shared/api/useShelf";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { say } from "../words/say";
import "./TakeIn.css";

const CONFLICT = 409;
const BYTES_PER_MB = 1024 * 1024;

/** Reading a job file in; a job that is here already may come in as a copy. */
export function TakeIn() {
  const shelf = useShelf();
  const [file, setFile] = useState<File | null>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const { begun, stop } = useStop();
  const takeIn = useMutation({
    mutationFn: ({ chosen, asCopy }: { chosen: File; asCopy: boolean }) => {
      const most = shelf.data?.most_file_bytes ?? Infinity;
      if (chosen.size > most) {
        throw new Error(
          say("home.this_file_has_mb_a_job", {
            size: Math.round(chosen.size / BYTES_PER_MB),
            most: most / BYTES_PER_MB,
          }),
        );
      }
      return api.takeIn(chosen, asCopy, begun());
    },
    onSuccess: async ({ id }) => {
      await client.invalidateQueries({ queryKey: ["jobs"] });
      await navigate(`/jobs/${id}/string`);
    },
  });
  const isHere = takeIn.error instanceof Refusal && takeIn.error.report.status === CONFLICT;
  return (
    <div className="take-in">
      <FileButton
        label={say("home.job_file")}
        accept=".json,.zip,application/json,application/zip"
        busy={takeIn.isPending}
        take={(chosen) => {
          setFile(chosen);
          takeIn.mutate({ chosen, asCopy: false });
        }}
      >
        {say("home.read_a_job_file_in")}
      </FileButton>
      <Working is={takeIn.isPending} doing={say("home.reading_it_in")} stop={stop} />
      <ProblemNote error={takeIn.error} />
      {isHere && file !== null && (
        <Button onClick={() => takeIn.mutate({ chosen: file, asCopy: true })}>
          {say("home.read_it_in_as_a_copy")}
        </Button>
      )}
    </div>
  );
}
