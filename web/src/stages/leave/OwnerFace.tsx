import { useEdit } from "../../shared/api/useJobWrite";
import { ownerUrl, serialsUrl } from "../../shared/api/urls";
import { Photos } from "../../shared/evidence/Photos";
import { Field } from "../../shared/fields/Field";
import type { StageProps } from "../../shared/layout/StageFrame";

type Fields = "customer" | "call_name" | "call_number" | "inspection_months" | "label_spacing_m" | "owner_note";
const FIELDS: readonly (readonly [Fields, string])[] = [
  ["customer", "Customer, who accepts"],
  ["call_name", "Whom the owner calls"],
  ["call_number", "Under which number"],
  ["inspection_months", "Months to the next inspection, if not the rules’"],
  ["label_spacing_m", "Metres between labels of a DC run, if not the rules’"],
  ["owner_note", "For the owner besides"],
];

/** What the owner gets: two pages in plain words, the card beside the board, serials, manuals. */
export function OwnerFace({ jobId, view }: StageProps) {
  const plan = view.plan.leave;
  const edit = useEdit(jobId);
  const now: Record<Fields, string> = {
    customer: plan.customer,
    call_name: plan.call_name,
    call_number: plan.call_number,
    inspection_months: plan.inspection_months === null ? "" : String(plan.inspection_months),
    label_spacing_m: plan.label_spacing_m === null ? "" : String(plan.label_spacing_m),
    owner_note: plan.owner_note,
  };
  const names = view.plan.feed.devices.map((one) => one.name);
  return (
    <>
      <div className="owner-papers">
        <a className="big-link" href={ownerUrl(jobId, "owner")}>
          Owner’s pages, PDF
        </a>
        <a className="big-link" href={ownerUrl(jobId, "card")}>
          Shut-down card, A5
        </a>
        <a className="big-link second" href={ownerUrl(jobId, "warranty")}>
          Serials for the warranty, PDF
        </a>
        <a className="big-link second" href={serialsUrl(jobId)}>
          the same, CSV
        </a>
      </div>
      <h2>Hand-over</h2>
      <div className="owner-fields">
        {FIELDS.map(([field, label]) => (
          <Field
            key={field}
            label={label}
            shown={now[field]}
            commit={(entered) => edit.mutateAsync({ do: "set_hand_over", ...now, [field]: entered })}
          />
        ))}
      </div>
      <h2>Where things hang, in the owner’s words</h2>
      <p className="source">Labels and the owner’s pages say it so.</p>
      <div className="device-fields">
        {names.map((name) => (
          <Field
            key={name}
            label={name}
            shown={plan.places.find((one) => one.of === name)?.said ?? ""}
            commit={(said) => edit.mutateAsync({ do: "set_place_words", of: name, said })}
          />
        ))}
      </div>
      <h2>Manuals, drawings, papers</h2>
      <p className="source">Kept by their hash and put into the dossier: at most 12 MB each, 192 MB in all.</p>
      {(["manual", "drawing", "paper"] as const).map((folder) => (
        <section key={folder} aria-label={`Attached: ${folder}`}>
          <h3>{folder === "manual" ? "Manuals" : folder === "drawing" ? "Drawings" : "Other papers"}</h3>
          <Photos jobId={jobId} step={`${folder}/job`} title={folder} documents />
        </section>
      ))}
    </>
  );
}
