import type { ReactNode } from "react";
import { Boundary } from "./Boundary";
import { say } from "../../words/say";
import "./StageFrame.css";

interface StageFrameProps {
  title: string;
  about: string;
  aside: string;
  caution: string;
  children: ReactNode;
  rail: ReactNode;
}

/** The bones of every stage: the picture in the middle, the readings rail on the right. */
export function StageFrame({ title, about, aside, caution, children, rail }: StageFrameProps) {
  return (
    <div className="stage">
      <main className="stage-main">
        <header className="stage-head">
          <h1>{title}</h1>
          <p className="stage-about">{about}</p>
          <p className="stage-aside">{aside}</p>
        </header>
        <Boundary what={say("shared.this_part_of_the_stage")} resetOn={children}>
          {children}
        </Boundary>
        <p className="caution">{caution}</p>
      </main>
      <aside className="rail">
        <Boundary what={say("shared.the_readings")} resetOn={rail}>
          {rail}
        </Boundary>
      </aside>
    </div>
  );
}

/** What the page gives every stage. */
export interface StageProps {
  jobId: string;
  view: import("../api/types").JobView;
  whyAll: boolean;
}
