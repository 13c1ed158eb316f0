import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import { personalDataUrl } from "../../shared/api/urls";
import { ProblemNote } from "../../shared/judging/ProblemNote";

/** A customer's data taken out whole, or erased: the job's name typed once more, and why. */
export function Erase({ jobId, name }: { jobId: string; name: string }) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const [why, setWhy] = useState("");
  const erase = useMutation({
    mutationFn: () => api.erase(jobId, typed, why),
    onSuccess: () => window.location.assign("/"),
  });
  return (
    <section aria-label="The customer's data">
      <header className="rail-head">
        <h2>The customer’s data</h2>
      </header>
      <a className="big-link second" href={personalDataUrl(jobId)}>
        All of it, ZIP
      </a>
      {!open && (
        <button type="button" className="quiet" onClick={() => setOpen(true)}>
          erase it
        </button>
      )}
      {open && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            erase.mutate();
          }}
        >
          <p>Plan, readings, pictures and links of this job go for good. A record that the law asks for must stay.</p>
          <label className="entry">
            <span className="entry-label">Type {name} to erase it</span>
            <Input value={typed} onChange={(event) => setTyped(event.target.value)} />
          </label>
          <label className="entry">
            <span className="entry-label">Why, for the audit</span>
            <Input value={why} onChange={(event) => setWhy(event.target.value)} />
          </label>
          <Button danger htmlType="submit" loading={erase.isPending} disabled={typed !== name}>
            Erase for good
          </Button>
          <Button onClick={() => setOpen(false)}>Keep it</Button>
          <ProblemNote error={erase.error} />
        </form>
      )}
    </section>
  );
}
