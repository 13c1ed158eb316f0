import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { typing, type AskProps } from "./answering";
import { say } from "../words/say";

/** How many modules on which planes, in one line or from a planner's table. */
export function AskRoof({ question, answers, put }: AskProps) {
  const [roof, setRoof] = useState(answers.typed.roof);
  const table = useMutation({
    mutationFn: async (file: File) => api.roofTable(await file.text()),
    onSuccess: (read) => setRoof(read.roof),
  });
  const example = answers.way === "roof" ? say("begin.front_2_x_7") : say("begin.front_2_x_4_back_7");
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
      <p className="source">{say("begin.front_2_x_7_at_35", { example })}</p>
      <Button type="primary" size="large" htmlType="submit" disabled={roof.trim() === ""}>
        {say("common.next")}
      </Button>
      <FileButton
        label={say("begin.planners_table")}
        accept=".csv,text/csv"
        busy={table.isPending}
        take={(file) => table.mutate(file)}
      >
        {say("begin.read_a_planners_table_in")}
      </FileButton>
      <p className="source">{say("begin.csv_a_row_for_each_plane")}</p>
      <ProblemNote error={table.error} />
    </form>
  );
}
