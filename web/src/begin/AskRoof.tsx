import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { typing, type AskProps } from "./answering";

/** How many modules on which planes, in one line or from a planner's table. */
export function AskRoof({ question, answers, put }: AskProps) {
  const [roof, setRoof] = useState(answers.typed.roof);
  const table = useMutation({
    mutationFn: async (file: File) => api.roofTable(await file.text()),
    onSuccess: (read) => setRoof(read.roof),
  });
  const example = answers.way === "roof" ? "Front 2 x 7" : "Front 2 x 4, Back 7";
  return (
    <form
      className="ask-fields"
      onSubmit={(event) => {
        event.preventDefault();
        if (roof.trim() !== "") put(typing({ roof, strung: "" }));
      }}
    >
      <Input
        size="large"
        aria-label={question.asks}
        placeholder={example}
        value={roof}
        onChange={(event) => setRoof(event.target.value)}
      />
      <p className="source">
        {example} · Front 2 x 7 at 35° facing south. Rows by how many in a row are drawn; what is not said stays open.
      </p>
      <Button type="primary" size="large" htmlType="submit" disabled={roof.trim() === ""}>
        Next
      </Button>
      <FileButton
        label="Planner's table"
        accept=".csv,text/csv"
        busy={table.isPending}
        take={(file) => table.mutate(file)}
      >
        Read a planner's table in
      </FileButton>
      <p className="source">CSV, a row for each plane: plane, modules or rows and columns, tilt, azimuth.</p>
      <ProblemNote error={table.error} />
    </form>
  );
}
