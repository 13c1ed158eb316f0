import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../shared/api/calls";
import type { MemberLine, People } from "../shared/api/types";
import { Pick } from "../shared/fields/Pick";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { dayAndClock } from "../shared/lib/figures";
import { ROLES, ROLE_CHOICES, ROLE_DOES } from "./roles";
import { rich, say } from "../words/say";
import "./people.css";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The crew: who belongs to it in which role, who is invited, who left. */
export default function PeoplePage() {
  const client = useQueryClient();
  const people = useQuery({ queryKey: ["people"], queryFn: api.people, staleTime: 0 });
  const [link, setLink] = useState<{ path: string; what: string } | null>(null);
  const shown = (data: People) => client.setQueryData(["people"], data);
  const here = people.data?.members.filter((one) => one.left_at === null) ?? [];
  const gone = people.data?.members.filter((one) => one.left_at !== null) ?? [];
  const withdraw = useMutation({ mutationFn: api.withdrawInvitation, onSuccess: shown });
  return (
    <main className="people">
      <header className="shelf-head">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <h1>{people.data === undefined ? say("common.the_crew") : people.data.crew}</h1>
        <Link to="/audit" className="quiet">
          {say("people.audit_2")}
        </Link>
      </header>
      <ProblemNote error={people.error} />
      {link !== null && (
        <section className="people-link" role="status">
          <h2>{link.what}</h2>
          <p>{say("people.send_this_link_yourself_it_is")}</p>
          <code>{`${window.location.origin}${link.path}`}</code>
          <Button onClick={() => void navigator.clipboard.writeText(`${window.location.origin}${link.path}`)}>
            {say("people.copy_it")}
          </Button>
        </section>
      )}
      <ul className="people-members">
        {here.map((one) => (
          <Member key={one.number} member={one} shown={shown} linked={setLink} />
        ))}
      </ul>
      <Invite linked={setLink} />
      {(people.data?.invitations.length ?? 0) > 0 && (
        <section aria-label={say("people.links_that_stand_open")}>
          <h2>{say("people.links_that_stand_open")}</h2>
          <ul className="people-lines">
            {people.data?.invitations.map((one) => (
              <li key={one.number}>
                <span>
                  {rich("people.by_until", {
                    name: <b>{one.name}</b>,
                    resets: one.resets
                      ? say("people.may_set_a_new_password")
                      : say("people.is_invited_as", { role: ROLES[one.role] ?? one.role }),
                    made_by: one.made_by,
                    ends_at: dayAndClock(one.ends_at, HERE),
                  })}
                </span>
                <Button onClick={() => withdraw.mutate(one.number)}>{say("people.withdraw_it")}</Button>
              </li>
            ))}
          </ul>
          <ProblemNote error={withdraw.error} />
        </section>
      )}
      {gone.length > 0 && (
        <section aria-label={say("people.who_left")}>
          <h2>{say("people.who_left")}</h2>
          <ul className="people-lines">
            {gone.map((one) => (
              <li key={one.number}>
                <span>
                  {rich("people.until_what_they_did_stays_in", {
                    name: <b>{one.name}</b>,
                    role: ROLES[one.role] ?? one.role,
                    left_at: dayAndClock(one.left_at ?? "", HERE),
                  })}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}

interface Linked {
  linked: (link: { path: string; what: string }) => void;
}

function Member({ member, shown, linked }: Linked & { member: MemberLine; shown: (data: People) => void }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(member.name);
  const [licence, setLicence] = useState(member.licence);
  const [ends, setEnds] = useState(member.licence_ends_on ?? "");
  const [leaving, setLeaving] = useState(false);
  const change = useMutation({
    mutationFn: (body: Parameters<typeof api.changeMember>[1]) => api.changeMember(member.number, body),
    onSuccess: shown,
  });
  const leave = useMutation({ mutationFn: () => api.memberLeaves(member.number), onSuccess: shown });
  const reset = useMutation({
    mutationFn: () => api.resetMember(member.number),
    onSuccess: ({ path }) => linked({ path, what: say("people.a_new_password_for", { member: member.name }) }),
  });
  return (
    <li>
      <button type="button" className="people-head" aria-expanded={open} onClick={() => setOpen(!open)}>
        <b>{member.name}</b>
        <span>{ROLES[member.role] ?? member.role}</span>
        <span>
          {member.licence === "" ? say("common.no_licence") : say("common.licence", { licence: member.licence })}
          {member.licence_ends_on !== null && (
            <>
              {" "}
              <span className="unbroken">{say("people.until_2", { licence_ends_on: member.licence_ends_on })}</span>
            </>
          )}
        </span>
        <span>{member.has_second_factor ? say("people.second_factor") : say("people.password_alone")}</span>
      </button>
      {open && (
        <div className="people-body">
          <p>{say("people.signs_in_as", { username: member.username, role: ROLE_DOES[member.role] })}</p>
          <div className="people-form">
            <Pick
              label={say("people.role_of", { member: member.name })}
              value={member.role}
              options={ROLE_CHOICES}
              put={(role) => change.mutate({ role })}
            />
            <label className="entry">
              <span className="entry-label">{say("people.name_beside_readings")}</span>
              <Input value={name} onChange={(event) => setName(event.target.value)} />
            </label>
            <label className="entry">
              <span className="entry-label">{say("people.licence_2")}</span>
              <Input value={licence} onChange={(event) => setLicence(event.target.value)} />
            </label>
            <label className="entry">
              <span className="entry-label">{say("people.its_last_day")}</span>
              <Input type="date" value={ends} onChange={(event) => setEnds(event.target.value)} />
            </label>
            <Button
              type="primary"
              loading={change.isPending}
              onClick={() => change.mutate({ name, licence, licence_ends_on: ends === "" ? null : ends })}
            >
              {say("common.keep")}
            </Button>
          </div>
          <div className="people-do">
            <Button onClick={() => reset.mutate()}>{say("people.link_for_a_new_password")}</Button>
            {leaving ? (
              <Button danger onClick={() => leave.mutate()}>
                {say("people.yes_leaves", { member: member.name })}
              </Button>
            ) : (
              <Button onClick={() => setLeaving(true)}>{say("people.leaves_the_crew")}</Button>
            )}
          </div>
          <ProblemNote error={change.error ?? leave.error ?? reset.error} />
        </div>
      )}
    </li>
  );
}

function Invite({ linked }: Linked) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [role, setRole] = useState("installer");
  const invite = useMutation({
    mutationFn: () => api.invite(name, role),
    onSuccess: ({ path }) => {
      linked({ path, what: say("people.an_invitation_for", { name }) });
      setName("");
      return client.invalidateQueries({ queryKey: ["people"] });
    },
  });
  return (
    <section aria-label={say("people.invite_somebody")}>
      <h2>{say("people.invite_somebody")}</h2>
      <form
        className="people-form"
        onSubmit={(event) => {
          event.preventDefault();
          invite.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("common.name")}</span>
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <Pick label={say("people.comes_as")} value={role} options={ROLE_CHOICES} put={setRole} />
        <Button htmlType="submit" loading={invite.isPending} disabled={name.trim() === ""}>
          {say("common.make_a_link")}
        </Button>
      </form>
      <p className="source">{ROLE_DOES[role]}.</p>
      <ProblemNote error={invite.error} />
    </section>
  );
}
