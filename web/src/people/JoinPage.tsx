import { useMutation, useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { useParams } from "react-router";
import { api } from "../shared/api/calls";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { ROLES, ROLE_DOES } from "./roles";
import { rich, say } from "../words/say";
import "../app/SignIn.css";

/** Where an invitation or a link for a new password leads. */
export default function JoinPage() {
  const { ticket = "" } = useParams();
  const found = useQuery({ queryKey: ["ticket", ticket], queryFn: () => api.ticket(ticket), retry: false });
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const join = useMutation({
    mutationFn: () => api.join(ticket, username, password),
    onSuccess: () => window.location.assign("/"),
  });
  return (
    <main className="door">
      <svg viewBox="0 0 360 130" className="door-arc" aria-hidden="true">
        <path d="M10 120A170 110 0 0 1 350 120" />
        <circle cx="180" cy="10" r="9" />
      </svg>
      <h1>{say("common.long_noon")}</h1>
      <ProblemNote error={found.error} />
      {found.data !== undefined && (
        <>
          <p>
            {found.data.resets
              ? say("people.set_a_new_password_second_factors", { name: found.data.name })
              : say("people.you_are_invited_to_as", {
                  name: found.data.name,
                  crew: found.data.crew,
                  role: ROLES[found.data.role] ?? found.data.role,
                  does: ROLE_DOES[found.data.role] ?? "",
                })}
          </p>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              join.mutate();
            }}
          >
            {found.data.resets ? (
              <p>{rich("people.you_sign_in_as", { username: <b>{found.data.username}</b> })}</p>
            ) : (
              <label className="entry">
                <span className="entry-label">{say("people.the_name_you_sign_in_by")}</span>
                <Input autoComplete="username" value={username} onChange={(event) => setUsername(event.target.value)} />
              </label>
            )}
            <label className="entry">
              <span className="entry-label">{say("people.your_password_eight_signs_or_more")}</span>
              <Input
                type="password"
                autoComplete="new-password"
                value={password}
                onChange={(event) => setPassword(event.target.value)}
              />
            </label>
            <Button type="primary" htmlType="submit" block loading={join.isPending}>
              {found.data.resets ? say("people.set_it_and_sign_in") : say("people.join")}
            </Button>
          </form>
          <ProblemNote error={join.error} />
        </>
      )}
    </main>
  );
}
