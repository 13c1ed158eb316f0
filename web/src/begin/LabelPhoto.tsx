import { useMutation } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { api } from "../shared/api/calls";
import type { Kind, LabelView } from "../shared/api/types";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";

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
        label="Picture of the label"
        accept="image/jpeg,image/png"
        camera
        busy={read.isPending}
        take={(picture) => {
          setLabel(null);
          read.mutate(picture);
        }}
      >
        Photograph the label
      </FileButton>
      <Working is={read.isPending} doing="Reading it" stop={stop} />
      <ProblemNote error={read.error} />
      {label !== null && (
        <section aria-label="What the label says">
          {label.sheets.length > 0 && (
            <ul className="spots" aria-label="Sheets that it may be">
              {label.sheets.map(({ sheet, differs }) => (
                <li key={sheet.id}>
                  <button type="button" className="choice" onClick={() => put(sheet.id)}>
                    <b>{sheet.label}</b>
                    <small>its name stands on the label · {sheet.detail}</small>
                  </button>
                  {differs.length > 0 && (
                    <p className="reason reason-stop">
                      {differs.join("; ")}. Read again what the label says: it may be another revision, with a sheet of
                      its own.
                    </p>
                  )}
                </li>
              ))}
            </ul>
          )}
          {label.sheets.length === 0 && <p className="ask-none">No sheet of the shelf has a name that stands on it.</p>}
          {label.cells.length > 0 && (
            <Button onClick={() => enter(label)}>
              Enter a sheet with the {label.cells.length === 1 ? "figure" : `${label.cells.length} figures`} read off it
            </Button>
          )}
          <details>
            <summary>All that was read</summary>
            <pre className="label-text">{label.text}</pre>
          </details>
        </section>
      )}
    </div>
  );
}
