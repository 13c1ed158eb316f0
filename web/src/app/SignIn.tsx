import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import { ProblemNote } from "../shared/judging/ProblemNote";
import "./SignIn.css";

/** The door: a name and a password; in the demo, one button. */
export function SignIn({ demo }: { demo: boolean }) {
  const client = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const done = { onSuccess: () => client.invalidateQueries({ queryKey: ["session"] }) };
  const signIn = useMutation({ mutationFn: () => api.signIn(username, password), ...done });
  const signInDemo = useMutation({ mutationFn: api.signInDemo, ...done });
  return (
    <div className="door">
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
      <ProblemNote error={signIn.error ?? signInDemo.error} />
    </div>
  );
}
