import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api } from "../api/calls";
import type { JobView } from "../api/types";
import { ProblemNote } from "../judging/ProblemNote";
import { say } from "../../words/say";
import "./Example.css";

interface ExampleProps {
  /** What one does first, in a sentence. */
  begins: string;
  children: (view: JobView) => ReactNode;
}

/** What a stage shows once it is planned, by an invented house that can be looked at and not touched. */
export function Example({ begins, children }: ExampleProps) {
  const [open, setOpen] = useState(false);
  const example = useQuery({ queryKey: ["example"], queryFn: api.example, enabled: open, staleTime: Infinity });
  return (
    <section className="example" aria-label={say("shared.an_example")}>
      <p>{begins}</p>
      <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? say("shared.put_the_example_away") : say("shared.see_how_it_looks_on_an")}
      </button>
      <ProblemNote error={open ? example.error : null} />
      {open && example.data !== undefined && (
        <figure>
          <figcaption>{say("shared.an_invented_house_nothing_of_it")}</figcaption>
          <div inert>{children(example.data)}</div>
        </figure>
      )}
    </section>
  );
}
