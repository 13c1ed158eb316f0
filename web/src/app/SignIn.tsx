import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { withPasskey } from "../people/usePasskey";
import { api } from "../shared/api/calls";
import type { SessionView } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { say } from "../words/say";
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
      <h1>{say("common.long_noon")}</h1>
      <p>{say("app.from_the_goods_on_the_drive")}</p>
      {demo && (
        <Button type="primary" size="large" block loading={signInDemo.isPending} onClick={() => signInDemo.mutate()}>
          {say("app.enter_the_demo_as_ada_fenn")}
        </Button>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("common.name")}</span>
          <Input autoComplete="username" value={username} onChange={(event) => setUsername(event.target.value)} />
        </label>
        <label className="entry">
          <span className="entry-label">{say("common.password")}</span>
          <Input
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </label>
        <Button htmlType="submit" block loading={signIn.isPending}>
          {say("app.sign_in")}
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
            <span className="entry-label">{say("app.code_of_your_authenticator")}</span>
            <Input
              inputMode="numeric"
              autoComplete="one-time-code"
              value={code}
              onChange={(event) => setCode(event.target.value)}
            />
          </label>
          <Button type="primary" htmlType="submit" block loading={withCode.isPending}>
            {say("app.sign_in_with_the_code")}
          </Button>
        </form>
      )}
      <Button block loading={byKey.isPending} onClick={() => byKey.mutate()}>
        {say("app.sign_in_with_a_passkey")}
      </Button>
      <ProblemNote error={withCode.error ?? byKey.error ?? signIn.error ?? signInDemo.error} />
    </main>
  );
}
