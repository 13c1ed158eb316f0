import type { ReactNode } from "react";
import { say } from "../../words/say";
import "./Former.css";

/** What stood before, while the answer to what stands now is on its way: said so, and never taken for it. */
export function Former({ is, children }: { is: boolean; children: ReactNode }) {
  return (
    <div className={is ? "former" : undefined} aria-busy={is}>
      {is && (
        <p className="former-said" role="status">
          {say("shared.working_it_out_what_stands_here")}
        </p>
      )}
      {children}
    </div>
  );
}
