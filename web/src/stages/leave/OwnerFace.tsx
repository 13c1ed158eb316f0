import { useEdit } from "../../shared/api/useJobWrite";
import { ownerUrl, serialsUrl } from "../../shared/api/urls";
import { Photos } from "../../shared/evidence/Photos";
import { Field } from "../../shared/fields/Field";
import type { StageProps } from "../../shared/layout/StageFrame";
import { say } from "../../words/say";

type Fields = "customer" | "call_name" | "call_number" | "inspection_months" | "label_spacing_m" | "owner_note";
const FIELDS: readonly (readonly [Fields, string])[] = [
  ["customer", say("leave.customer_who_accepts")],
  ["call_name", say("leave.whom_the_owner_calls")],
  ["call_number", say("leave.under_which_number")],
  ["inspection_months", say("leave.months_to_the_next_inspection_if")],
  ["label_spacing_m", say("leave.metres_between_labels_of_a_dc")],
  ["owner_note", say("leave.for_the_owner_besides")],
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
          {say("leave.owners_pages_pdf")}
        </a>
        <a className="big-link" href={ownerUrl(jobId, "card")}>
          {say("leave.shut_down_card_a5")}
        </a>
        <a className="big-link second" href={ownerUrl(jobId, "warranty")}>
          {say("leave.serials_for_the_warranty_pdf")}
        </a>
        <a className="big-link second" href={serialsUrl(jobId)}>
          {say("leave.the_same_csv")}
        </a>
      </div>
      <h2>{say("leave.hand_over_2")}</h2>
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
      <h2>{say("leave.where_things_hang_in_the_owners")}</h2>
      <p className="source">{say("leave.labels_and_the_owners_pages_say")}</p>
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
      <h2>{say("leave.manuals_drawings_papers")}</h2>
      <p className="source">{say("leave.kept_by_their_hash_and_put")}</p>
      {(["manual", "drawing", "paper"] as const).map((folder) => (
        <section key={folder} aria-label={say("leave.attached", { folder })}>
          <h3>
            {folder === "manual"
              ? say("leave.manuals")
              : folder === "drawing"
                ? say("leave.drawings")
                : say("leave.other_papers")}
          </h3>
          <Photos jobId={jobId} step={`${folder}/job`} title={folder} documents />
        </section>
      ))}
    </>
  );
}
