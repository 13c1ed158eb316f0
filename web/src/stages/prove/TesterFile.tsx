import { useMutation, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import type { FileLook } from "../../shared/api/types";
import { testRecordUrl, testTemplateUrl } from "../../shared/api/urls";
import { useEdit, useJobWrite } from "../../shared/api/useJobWrite";
import { dayAndClock } from "../../shared/lib/figures";
import { FileButton } from "../../shared/fields/FileButton";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { ColumnPicks } from "./ColumnPicks";
import { rich, say } from "../../words/say";
import "./TesterFile.css";

/** A tester's file: looked at, its columns given their meaning once, then kept whole. */
export function TesterFile({ jobId, tester, timezone }: { jobId: string; tester: string; timezone: string }) {
  const [file, setFile] = useState<File | null>(null);
  const look = useMutation({ mutationFn: (one: File) => api.lookAtTests(jobId, tester, one) });
  const take = useJobWrite<File>(jobId, (one) => api.takeTests(jobId, tester, one));
  const map = useEdit(jobId);
  const columns = useQuery({
    queryKey: ["test-columns"],
    queryFn: () => api.testColumns(jobId),
    enabled: file !== null,
    staleTime: Infinity,
  });
  const begin = (one: File) => {
    setFile(one);
    take.reset();
    look.mutate(one);
  };
  const leave = () => {
    setFile(null);
    look.reset();
    map.reset();
  };
  const found = look.data;
  return (
    <section className="tester-file" aria-label={say("prove.file_of_a_tester")}>
      <div className="tester-file-do">
        <FileButton
          label={say("prove.file_of_the_tester")}
          accept=".csv,.txt,text/csv"
          busy={look.isPending}
          take={begin}
        >
          {say("prove.take_in_its_file")}
        </FileButton>
        <a href={testTemplateUrl(jobId)} download>
          {say("prove.our_columns_to_fill")}
        </a>
        <a href={testRecordUrl(jobId)} download>
          {say("prove.the_record_as_csv")}
        </a>
      </div>
      {tester === "" && file !== null && <p className="source">{say("prove.name_the_tester_first")}</p>}
      <ProblemNote error={look.error ?? take.error ?? map.error} />
      {file !== null && found !== undefined && (
        <>
          <p className="tester-file-name">
            {rich("prove.rows_readings", {
              file: <b>{file.name}</b>,
              rows: found.rows,
              readingsCount: found.readings.length,
            })}
          </p>
          {(found.unmapped.length > 0 || found.problems.length > 0) && columns.data !== undefined && (
            <ColumnPicks
              look={found}
              known={columns.data}
              busy={map.isPending}
              keep={(picked) =>
                map.mutate(
                  { do: "map_columns", instrument: tester, columns: picked },
                  { onSuccess: () => look.mutate(file) },
                )
              }
            />
          )}
          <Problems look={found} />
          {found.readings.length > 0 && found.unmapped.length === 0 && (
            <ul className="file-readings">
              {found.readings.map((one, index) => (
                <li key={index}>
                  <b>{one.subject}</b> {one.kind.replaceAll("_", " ")} <b>{one.entered}</b>
                  {one.taken_at !== null && `, ${dayAndClock(one.taken_at, timezone)}`}
                  {one.retests !== "" && say("prove.takes_the_place_of", { retests: one.retests })}
                </li>
              ))}
            </ul>
          )}
          <div className="tester-do">
            {found.unmapped.length === 0 && found.problems.length === 0 && (
              <Button type="primary" loading={take.isPending} onClick={() => take.mutate(file, { onSuccess: leave })}>
                {say("prove.keep_readings", { readingsCount: found.readings.length })}
              </Button>
            )}
            <button type="button" className="quiet" onClick={leave}>
              {say("prove.leave_the_file")}
            </button>
          </div>
        </>
      )}
    </section>
  );
}

/** What is wrong in the file, row by row: nothing of it is kept while anything is. */
function Problems({ look }: { look: FileLook }) {
  if (look.problems.length === 0) return null;
  return (
    <div className="problem" role="alert">
      <strong>{say("prove.nothing_is_kept_while_this_is")}</strong>
      {look.problems.map((one) => (
        <p key={one.path + one.message}>
          {one.message} <code>{one.path}</code>
        </p>
      ))}
    </div>
  );
}
