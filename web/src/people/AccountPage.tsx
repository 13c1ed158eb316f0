import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../shared/api/calls";
import type { Account } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { dayAndClock } from "../shared/lib/figures";
import { ROLES } from "./roles";
import { makePasskey } from "./usePasskey";
import { rich, say } from "../words/say";
import "./people.css";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** One's own account: password, second factors, and where one is signed in. */
export default function AccountPage() {
  const account = useQuery({ queryKey: ["account"], queryFn: api.account, staleTime: 0 });
  return (
    <main className="people">
      <header className="shelf-head">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <h1>{say("common.your_account")}</h1>
      </header>
      <ProblemNote error={account.error} />
      {account.data !== undefined && <Parts account={account.data} />}
    </main>
  );
}

function Parts({ account }: { account: Account }) {
  const client = useQueryClient();
  const shown = { onSuccess: (data: Account) => client.setQueryData(["account"], data) };
  const end = useMutation({ mutationFn: api.endSession, ...shown });
  return (
    <>
      <p className="people-who">
        {rich("people.signs_in_as_of", {
          account: <b>{account.name}</b>,
          username: account.username,
          role: ROLES[account.role] ?? account.role,
          crew: account.crew,
          licence:
            account.licence !== "" &&
            say("people.licence", {
              licence: account.licence,
              licence_ends_on:
                account.licence_ends_on === null
                  ? ""
                  : say("people.until", { licence_ends_on: account.licence_ends_on }),
            }),
        })}
      </p>
      <Password shown={shown.onSuccess} />
      <Code account={account} shown={shown.onSuccess} />
      <Passkeys account={account} shown={shown.onSuccess} />
      <section aria-label={say("people.where_you_are_signed_in")}>
        <h2>{say("people.where_you_are_signed_in")}</h2>
        <ul className="people-lines">
          {account.sessions.map((one) => (
            <li key={one.number}>
              <span>
                {rich("people.since_last_seen", {
                  here: <b>{one.here ? say("people.here") : browserName(one.browser)}</b>,
                  begun_at: dayAndClock(one.begun_at, HERE),
                  seen_at: dayAndClock(one.seen_at, HERE),
                })}
              </span>
              {!one.here && <Button onClick={() => end.mutate(one.number)}>{say("people.end_it")}</Button>}
            </li>
          ))}
        </ul>
        <ProblemNote error={end.error} />
      </section>
    </>
  );
}

interface PartProps {
  shown: (account: Account) => void;
}

function Password({ shown }: PartProps) {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const change = useMutation({
    mutationFn: () => api.changePassword(old, fresh),
    onSuccess: (data) => {
      setOld("");
      setFresh("");
      shown(data);
    },
  });
  return (
    <section aria-label={say("common.password")}>
      <h2>{say("common.password")}</h2>
      <form
        className="people-form"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("people.the_one_that_holds_now")}</span>
          <Input
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(event) => setOld(event.target.value)}
          />
        </label>
        <label className="entry">
          <span className="entry-label">{say("people.a_new_one_eight_signs_or")}</span>
          <Input
            type="password"
            autoComplete="new-password"
            value={fresh}
            onChange={(event) => setFresh(event.target.value)}
          />
        </label>
        <Button htmlType="submit" loading={change.isPending} disabled={old === "" || fresh === ""}>
          {say("people.change_it")}
        </Button>
      </form>
      {change.isSuccess && <p role="status">{say("people.changed_everywhere_else_you_are_signed")}</p>}
      <ProblemNote error={change.error} />
    </section>
  );
}

function Code({ account, shown }: PartProps & { account: Account }) {
  const [code, setCode] = useState("");
  const begin = useMutation({ mutationFn: api.beginCode });
  const confirm = useMutation({
    mutationFn: () => api.confirmCode(code),
    onSuccess: (data) => {
      setCode("");
      begin.reset();
      shown(data);
    },
  });
  const remove = useMutation({ mutationFn: api.removeCode, onSuccess: shown });
  return (
    <section aria-label={say("people.authenticator")}>
      <h2>{say("people.authenticator")}</h2>
      <p>
        {account.has_code ? say("people.after_the_password_a_code_of") : say("people.a_code_of_an_authenticator_on")}
      </p>
      {account.has_code && <Button onClick={() => remove.mutate()}>{say("common.take_it_off")}</Button>}
      {!account.has_code && begin.data === undefined && (
        <Button loading={begin.isPending} onClick={() => begin.mutate()}>
          {say("people.set_it_up")}
        </Button>
      )}
      {begin.data !== undefined && (
        <form
          className="people-form"
          onSubmit={(event) => {
            event.preventDefault();
            confirm.mutate();
          }}
        >
          <img
            className="people-square"
            src={begin.data.picture}
            alt={say("people.scan_this_with_the_authenticator")}
          />
          <details>
            <summary>{say("people.it_cannot_be_scanned")}</summary>
            <code>{begin.data.address}</code>
          </details>
          <label className="entry">
            <span className="entry-label">{say("people.the_code_that_it_shows")}</span>
            <Input
              inputMode="numeric"
              autoComplete="one-time-code"
              value={code}
              onChange={(event) => setCode(event.target.value)}
            />
          </label>
          <Button type="primary" htmlType="submit" loading={confirm.isPending} disabled={code === ""}>
            {say("people.take_it_into_use")}
          </Button>
        </form>
      )}
      <ProblemNote error={begin.error ?? confirm.error ?? remove.error} />
    </section>
  );
}

function Passkeys({ account, shown }: PartProps & { account: Account }) {
  const [name, setName] = useState("");
  const make = useMutation({
    mutationFn: () => makePasskey(name),
    onSuccess: (data) => {
      setName("");
      shown(data);
    },
  });
  const remove = useMutation({ mutationFn: api.removePasskey, onSuccess: shown });
  return (
    <section aria-label={say("people.passkeys")}>
      <h2>{say("people.passkeys")}</h2>
      <p>{say("people.a_passkey_of_this_device_signs")}</p>
      <ul className="people-lines">
        {account.passkeys.map((one) => (
          <li key={one.number}>
            <span>
              {rich("people.made", {
                name: <b>{one.name}</b>,
                made_at: dayAndClock(one.made_at, HERE),
                used_at: one.used_at !== null && say("people.last_used", { used_at: dayAndClock(one.used_at, HERE) }),
              })}
            </span>
            <Button onClick={() => remove.mutate(one.number)}>{say("common.take_it_off")}</Button>
          </li>
        ))}
      </ul>
      <form
        className="people-form"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("people.what_to_call_it")}</span>
          <Input placeholder={say("people.my_phone")} value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <Button htmlType="submit" loading={make.isPending}>
          {say("people.make_one_here")}
        </Button>
      </form>
      <ProblemNote error={make.error ?? remove.error} />
    </section>
  );
}

/** The system and browser that a line of its own words names. */
const browserName = (told: string) =>
  [/(Android|iPhone|iPad|Windows|Mac OS|Linux)/, /(Firefox|Edg|Chrome|Safari)/]
    .map((of) => of.exec(told)?.[1])
    .filter((found) => found !== undefined)
    .join(", ") || say("people.another_browser");
