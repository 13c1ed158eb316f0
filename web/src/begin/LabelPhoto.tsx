import { useMutation } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { api } from "../shared/api/calls";
import type { Kind, LabelView } from "../shared/api/types";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { say } from "../words/say";

interface LabelPhotoProps {
  kind: Kind;
  put: (id: string) => void;
  /** Enter a new sheet with what the label says. */
  enter: (label: LabelView) => void;
}

/** The label photographed instead of typed: which sheet it may be, or what it says of a new one. */
export function LabelPhoto({ kind, put, enter }: LabelPhotoProps) {
  const [label, setLabel] = useState<LabelView | null>(null);
  const { begun, stop } = useStop();
  const read = useMutation({ mutationFn: (picture: File) => api.label(kind, picture, begun()), onSuccess: setLabel });
  return (
    <div className="label-photo">
      <FileButton
        label={say("common.picture_of_the_label")}
        accept="image/jpeg,image/png"
        camera
        busy={read.isPending}
        take={(picture) => {
          setLabel(null);
          read.mutate(picture);
        }}
      >
        {say("begin.photograph_the_label")}
      </FileButton>
      <Working is={read.isPending} doing={say("begin.reading_it")} stop={stop} />
      <ProblemNote error={read.error} />
      {label !== null && (
        <section aria-label={say("begin.what_the_label_says")}>
          {label.sheets.length > 0 && (
            <ul className="spots" aria-label={say("begin.sheets_that_it_may_be")}>
              {label.sheets.map(({ sheet, differs }) => (
                <li key={sheet.id}>
                  <button type="button" className="choice" onClick={() => put(sheet.id)}>
                    <b>{sheet.label}</b>
                    <small>{say("begin.its_name_stands_on_the_label", { detail: sheet.detail })}</small>
                  </button>
                  {differs.length > 0 && (
                    <p className="reason reason-stop">
                      {say("begin.read_again_what_the_label_says", { differs: differs.join("; ") })}
                    </p>
                  )}
                </li>
              ))}
            </ul>
          )}
          {label.sheets.length === 0 && <p className="ask-none">{say("begin.no_sheet_of_the_shelf_has")}</p>}
          {label.cells.length > 0 && (
            <Button onClick={() => enter(label)}>
              {say("begin.enter_a_sheet_with_the_read", {
                count: label.cells.length,
              })}
            </Button>
          )}
          <details>
            <summary>{say("begin.all_that_was_read")}</summary>
            <pre className="label-text">{label.text}</pre>
          </details>
        </section>
      )}
    </div>
  );
}
