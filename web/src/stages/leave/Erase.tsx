import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import { personalDataUrl } from "../../shared/api/urls";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

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
    <section aria-label={say("leave.the_customers_data")}>
      <header className="rail-head">
        <h2>{say("leave.the_customers_data_2")}</h2>
      </header>
      <a className="big-link second" href={personalDataUrl(jobId)}>
        {say("leave.all_of_it_zip")}
      </a>
      {!open && (
        <button type="button" className="quiet" onClick={() => setOpen(true)}>
          {say("leave.erase_it")}
        </button>
      )}
      {open && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            erase.mutate();
          }}
        >
          <p>{say("leave.plan_readings_pictures_and_links_of")}</p>
          <label className="entry">
            <span className="entry-label">{say("leave.type_to_erase_it", { name })}</span>
            <Input value={typed} onChange={(event) => setTyped(event.target.value)} />
          </label>
          <label className="entry">
            <span className="entry-label">{say("leave.why_for_the_audit")}</span>
            <Input value={why} onChange={(event) => setWhy(event.target.value)} />
          </label>
          <Button danger htmlType="submit" loading={erase.isPending} disabled={typed !== name}>
            {say("leave.erase_for_good")}
          </Button>
          <Button onClick={() => setOpen(false)}>{say("leave.keep_it")}</Button>
          <ProblemNote error={erase.error} />
        </form>
      )}
    </section>
  );
}
