import { Button, message } from "antd";
import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { Field } from "../../shared/fields/Field";
import { KeepRow } from "../../shared/fields/KeepRow";
import { Pick } from "../../shared/fields/Pick";
import { useDraft } from "../../shared/fields/useDraft";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { dayAndClock } from "../../shared/lib/figures";
import { Portal } from "./Portal";
import type { TalkFaceProps } from "./props";
import { PLACES } from "./words";
import { rich, say } from "../../words/say";

type Account = Omit<Schemas["SetAccount"], "do">;

/** The plant's page ready to copy, who owns it, where each secret stands, and the pages that are saved. */
export function AccountFace({ jobId, view, take }: TalkFaceProps) {
  const { talk } = view.assessment;
  return (
    <>
      <PlantPage lines={talk.account} />
      <AccountForm jobId={jobId} view={view} />
      {view.plan.talk?.account != null && <Portal jobId={jobId} account={view.plan.talk.account} />}
      <Secrets jobId={jobId} secrets={talk.secrets} timezone={view.plan.site.timezone} take={take} />
      <Pages jobId={jobId} view={view} take={take} />
    </>
  );
}

function PlantPage({ lines }: { lines: Schemas["AccountLine"][] }) {
  const copy = (text: string) => {
    void navigator.clipboard.writeText(text).then(() => message.success(say("talk.copied")));
  };
  return (
    <section aria-label={say("talk.plant_page")}>
      <div className="under">
        <h2>{say("talk.the_plant_ready_to_copy")}</h2>
        <Button onClick={() => copy(lines.map((one) => `${one.label}: ${one.value}`).join("\n"))}>
          {say("talk.copy_all")}
        </Button>
      </div>
      <table className="plant-page">
        <tbody>
          {lines.map((one, at) => (
            <tr key={`${one.label} ${at}`}>
              <th scope="row">{one.label}</th>
              <td>{one.value}</td>
              <td>
                <button type="button" className="quiet" onClick={() => copy(one.value)}>
                  {rich("talk.copy", { label: <span className="unseen"> {one.label}</span> })}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function AccountForm({ jobId, view }: Pick2) {
  const kept = view.plan.talk?.account ?? null;
  const edit = useEdit(jobId);
  const draft = useDraft<Account>({
    portal: kept?.portal ?? "",
    owner_name: kept?.owner_name ?? "",
    owner_mail: kept?.owner_mail ?? "",
    address: kept?.address ?? view.plan.site.place,
    power_kw: kept === null ? "" : String(kept.power_kw),
    modules: kept === null ? "" : String(kept.modules),
    tariff: kept?.tariff ?? "",
    host: kept?.host ?? "",
    port: kept === null ? "" : String(kept.port),
  });
  const field = (label: string, name: keyof Account) => (
    <Field
      label={label}
      shown={draft.entered[name]}
      commit={(text) => {
        draft.put({ [name]: text });
        return Promise.resolve();
      }}
    />
  );
  return (
    <form
      aria-label={say("talk.as_it_is_entered_in_the")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "set_account", ...draft.entered }, { onSuccess: draft.drop });
      }}
    >
      <h2>{say("talk.as_it_is_entered_in_the")}</h2>
      <div className="device-fields">
        {field(say("talk.portal"), "portal")}
        {field(say("talk.owner"), "owner_name")}
        {field("Owner's mail", "owner_mail")}
        {field(say("common.address"), "address")}
        {field(say("talk.power_kw"), "power_kw")}
        {field(say("talk.modules"), "modules")}
        {field(say("talk.tariff"), "tariff")}
        {field(say("talk.portals_network_address"), "host")}
        {field(say("talk.its_port"), "port")}
      </div>
      <ProblemNote error={edit.error} />
      <KeepRow changed={draft.changed} saving={edit.isPending} drop={draft.drop} />
    </form>
  );
}

type Pick2 = { jobId: string; view: TalkFaceProps["view"] };

interface SecretsProps {
  jobId: string;
  secrets: Schemas["SecretState"][];
  timezone: string;
  take: (key: string) => void;
}

function Secrets({ jobId, secrets, timezone, take }: SecretsProps) {
  const edit = useEdit(jobId);
  if (secrets.length === 0) return null;
  return (
    <section aria-label={say("talk.where_secrets_stand")}>
      <h2>{say("talk.where_secrets_stand")}</h2>
      <p className="source">{say("talk.never_a_secret_itself_only_where")}</p>
      <ul className="secrets">
        {secrets.map((one) => (
          <li key={one.key}>
            <b>
              {one.device}, {one.title}
            </b>
            <Pick
              label={say("talk.stands")}
              value={one.place}
              options={PLACES}
              put={(place) =>
                place !== "" &&
                edit.mutate({
                  do: "put_secret_place",
                  device: one.device,
                  secret: one.secret as Schemas["PutSecretPlace"]["secret"],
                  place,
                })
              }
            />
            <button type="button" className="quiet" onClick={() => take(one.key)}>
              {one.at === null ? say("talk.was_it_replaced") : `${one.by}, ${dayAndClock(one.at, timezone)}`}
            </button>
            <Mark verdict={one.verdict} />
          </li>
        ))}
      </ul>
      <ProblemNote error={edit.error} />
    </section>
  );
}

/** A device that is set by display, browser or phone: page by page, with a picture of each. */
function Pages({ jobId, view, take }: Pick2 & { take: (key: string) => void }) {
  const pages = view.assessment.asks.filter((one) => one.kind === "page_saved");
  if (pages.length === 0) return null;
  return (
    <section aria-label={say("talk.set_up_pages")}>
      <h2>{say("talk.set_up_page_by_page")}</h2>
      <p className="source">{say("talk.on_the_devices_own_radio_the")}</p>
      <ol className="set-pages">
        {pages.map((one) => (
          <li key={one.key}>
            <div>
              <b>{one.title}</b>
              {one.caution !== "" && <small>{one.caution}</small>}
            </div>
            <button type="button" className="quiet" onClick={() => take(one.key)}>
              {one.reading === null ? say("talk.saved") : one.reading.text}
            </button>
            <Mark verdict={one.verdict} />
            <Photos jobId={jobId} step={one.key} title={one.title} />
          </li>
        ))}
      </ol>
    </section>
  );
}
