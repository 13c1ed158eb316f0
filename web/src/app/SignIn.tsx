import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { withPasskey } from "../people/usePasskey";
import { api } from "../shared/api/calls";
import type { SessionView } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import "./SignIn.css";

/** The door: a name and a password; in the demo, one button. */
export function SignIn({ demo }: { demo: boolean }) {
  const client = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const done = {
    onSuccess: (session: SessionView) =>
      session.name === null ? undefined : client.invalidateQueries({ queryKey: ["session"] }),
  };
  const signIn = useMutation({ mutationFn: () => api.signIn(username, password), ...done });
  const [code, setCode] = useState("");
  const withCode = useMutation({ mutationFn: () => api.signInCode(code), ...done });
  const byKey = useMutation({ mutationFn: withPasskey, ...done });
  const ways = signIn.data?.ways ?? [];
  const signInDemo = useMutation({ mutationFn: api.signInDemo, ...done });
  return (
    <main className="door">
      <svg viewBox="0 0 360 130" className="door-arc" aria-hidden="true">
        <path d="M10 120A170 110 0 0 1 350 120" />
        <circle cx="180" cy="10" r="9" />
      </svg>
      <h1>Long Noon</h1>
      <p>
        From the goods on the drive to the signed record: what to expect before each reading, and what each reading
        means.
      </p>
      {demo && (
        <Button type="primary" size="large" block loading={signInDemo.isPending} onClick={() => signInDemo.mutate()}>
          Enter the demo as Ada Fenn
        </Button>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">Name</span>
          <Input autoComplete="username" value={username} onChange={(event) => setUsername(event.target.value)} />
        </label>
        <label className="entry">
          <span className="entry-label">Password</span>
          <Input
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </label>
        <Button htmlType="submit" block loading={signIn.isPending}>
          Sign in
        </Button>
      </form>
      {ways.includes("code") && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            withCode.mutate();
          }}
        >
          <label className="entry">
            <span className="entry-label">Code of your authenticator</span>
            <Input
              inputMode="numeric"
              autoComplete="one-time-code"
              value={code}
              onChange={(event) => setCode(event.target.value)}
            />
          </label>
          <Button type="primary" htmlType="submit" block loading={withCode.isPending}>
            Sign in with the code
          </Button>
        </form>
      )}
      <Button block loading={byKey.isPending} onClick={() => byKey.mutate()}>
        Sign in with a passkey
      </Button>
      <ProblemNote error={withCode.error ?? byKey.error ?? signIn.error ?? signInDemo.error} />
    </main>
  );
}
