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
import "./people.css";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** One's own account: password, second factors, and where one is signed in. */
export default function AccountPage() {
  const account = useQuery({ queryKey: ["account"], queryFn: api.account, staleTime: 0 });
  return (
    <main className="people">
      <header className="shelf-head">
        <Link to="/" className="brand">
          Long Noon
        </Link>
        <h1>Your account</h1>
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
        <b>{account.name}</b> signs in as {account.username}; {ROLES[account.role] ?? account.role} of {account.crew}
        {account.licence !== "" &&
          `, licence ${account.licence}${account.licence_ends_on === null ? "" : ` until ${account.licence_ends_on}`}`}
        .
      </p>
      <Password shown={shown.onSuccess} />
      <Code account={account} shown={shown.onSuccess} />
      <Passkeys account={account} shown={shown.onSuccess} />
      <section aria-label="Where you are signed in">
        <h2>Where you are signed in</h2>
        <ul className="people-lines">
          {account.sessions.map((one) => (
            <li key={one.number}>
              <span>
                <b>{one.here ? "Here" : browserName(one.browser)}</b> since {dayAndClock(one.begun_at, HERE)}, last seen{" "}
                {dayAndClock(one.seen_at, HERE)}
              </span>
              {!one.here && <Button onClick={() => end.mutate(one.number)}>End it</Button>}
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
    <section aria-label="Password">
      <h2>Password</h2>
      <form
        className="people-form"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">The one that holds now</span>
          <Input
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(event) => setOld(event.target.value)}
          />
        </label>
        <label className="entry">
          <span className="entry-label">A new one, eight signs or more</span>
          <Input
            type="password"
            autoComplete="new-password"
            value={fresh}
            onChange={(event) => setFresh(event.target.value)}
          />
        </label>
        <Button htmlType="submit" loading={change.isPending} disabled={old === "" || fresh === ""}>
          Change it
        </Button>
      </form>
      {change.isSuccess && <p role="status">Changed. Everywhere else you are signed out.</p>}
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
    <section aria-label="Authenticator">
      <h2>Authenticator</h2>
      <p>
        {account.has_code
          ? "After the password a code of your authenticator is asked for."
          : "A code of an authenticator on your phone, asked for after the password."}
      </p>
      {account.has_code && <Button onClick={() => remove.mutate()}>Take it off</Button>}
      {!account.has_code && begin.data === undefined && (
        <Button loading={begin.isPending} onClick={() => begin.mutate()}>
          Set it up
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
          <img className="people-square" src={begin.data.picture} alt="Scan this with the authenticator" />
          <details>
            <summary>It cannot be scanned?</summary>
            <code>{begin.data.address}</code>
          </details>
          <label className="entry">
            <span className="entry-label">The code that it shows</span>
            <Input
              inputMode="numeric"
              autoComplete="one-time-code"
              value={code}
              onChange={(event) => setCode(event.target.value)}
            />
          </label>
          <Button type="primary" htmlType="submit" loading={confirm.isPending} disabled={code === ""}>
            Take it into use
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
    <section aria-label="Passkeys">
      <h2>Passkeys</h2>
      <p>A passkey of this device signs you in by its own lock, without a password.</p>
      <ul className="people-lines">
        {account.passkeys.map((one) => (
          <li key={one.number}>
            <span>
              <b>{one.name}</b> made {dayAndClock(one.made_at, HERE)}
              {one.used_at !== null && `, last used ${dayAndClock(one.used_at, HERE)}`}
            </span>
            <Button onClick={() => remove.mutate(one.number)}>Take it off</Button>
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
          <span className="entry-label">What to call it</span>
          <Input placeholder="my phone" value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <Button htmlType="submit" loading={make.isPending}>
          Make one here
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
    .join(", ") || "Another browser";
