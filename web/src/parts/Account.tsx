import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import Button from "react-bootstrap/Button";
import Dropdown from "react-bootstrap/Dropdown";

import { admit } from "../api/admit";
import { api, need, problemOf, type Problem, type Schemas } from "../api/client";
import { useMe } from "../api/hooks";
import { keys, stale } from "../api/keys";
import { useAction } from "../api/useAction";
import { moment } from "./dates";
import { HabitFields } from "./HabitFields";
import { Trouble } from "./states";

/** Who is signed in: how they read, their password, and the way out. The demo signs its coach in by itself and has no password. */
export function Account() {
  const me = useMe();
  const [open, setOpen] = useState<"password" | "places" | "habits" | null>(null);
  if (!me.data?.signed_in) return null;
  const signOut = () => void need(api.POST("/api/sign-out")).then(() => window.location.assign("/")); // nothing of them stays in this page
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="plain" size="sm" id="account">
        {me.data.name}
      </Dropdown.Toggle>
      <Dropdown.Menu style={{ minWidth: 260 }}>
        {open === "habits" ? (
          <OwnHabits me={me.data} onDone={() => setOpen(null)} />
        ) : open === "password" ? (
          <NewPassword onDone={() => setOpen(null)} />
        ) : open === "places" ? (
          <SignIns onDone={() => setOpen(null)} />
        ) : (
          <>
            <Item onOpen={() => setOpen("habits")}>Units and dates …</Item>
            {!me.data.is_demo && (
              <>
                <Item onOpen={() => setOpen("password")}>Change my password …</Item>
                <Item onOpen={() => setOpen("places")}>Where I am signed in …</Item>
                <Dropdown.Item as="button" onClick={signOut}>
                  Sign out
                </Dropdown.Item>
              </>
            )}
          </>
        )}
      </Dropdown.Menu>
    </Dropdown>
  );
}

function Item({ onOpen, children }: { onOpen: () => void; children: ReactNode }) {
  return (
    <Dropdown.Item
      as="button"
      onClick={(e) => {
        e.stopPropagation(); // the menu stays, and shows what was asked for
        onOpen();
      }}
    >
      {children}
    </Dropdown.Item>
  );
}

/** In which unit one types and reads masses at the desk, and how one reads dates. */
function OwnHabits({ me, onDone }: { me: Schemas["Me"]; onDone: () => void }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState({ unit: me.own_unit, day_order: me.own_day_order });
  const save = useAction((body: Schemas["OwnHabits"]) => need(api.PUT("/api/me/habits", { body })), {
    after: (_, fresh) => {
      admit(fresh);
      client.setQueryData(keys.me, fresh);
      void stale.everything(client);
      onDone();
    },
  });
  return (
    <form
      className="px-3 py-2"
      style={{ width: 300 }}
      aria-label="Units and dates"
      onSubmit={(e) => {
        e.preventDefault();
        save.run(typed);
      }}
    >
      <HabitFields asCentre unit={typed.unit} dayOrder={typed.day_order} onChange={(unit, day_order) => setTyped({ unit, day_order })} />
      <p className="soft small">Body mass, and results typed at the desk. A bar speaks the unit of its room.</p>
      {save.problem && <Trouble problem={save.problem} />}
      <Button type="submit" size="sm" disabled={save.isPending}>
        Save
      </Button>{" "}
      <Button variant="link" size="sm" onClick={onDone}>
        Cancel
      </Button>
    </form>
  );
}

/** The browsers one is signed in with, and the way out of each. */
function SignIns({ onDone }: { onDone: () => void }) {
  const client = useQueryClient();
  const places = useQuery({ queryKey: keys.signIns, queryFn: () => need(api.GET("/api/sign-ins")) });
  const end = useAction((handle: string) => need(api.POST("/api/sign-ins/{handle}/end", { params: { path: { handle } } })), {
    after: (_, fresh) => client.setQueryData(keys.signIns, fresh),
  });
  return (
    <div className="px-3 py-2" style={{ width: 300 }} aria-label="Where I am signed in" role="group">
      {places.data?.map((p) => (
        <div key={p.handle} className="d-flex gap-2 align-items-center mb-2">
          <div>
            {p.device}
            <div className="soft small">{p.is_here ? "this browser" : p.seen_at && `last seen ${moment(p.seen_at)}`}</div>
          </div>
          {!p.is_here && (
            <Button size="sm" variant="plain" className="ms-auto" aria-label={`Sign out of ${p.device}`} onClick={() => end.run(p.handle)}>
              Sign out
            </Button>
          )}
        </div>
      ))}
      {places.isLoadingError && <Trouble problem={problemOf(places.error)} />}
      {end.problem && <Trouble problem={end.problem} />}
      <Button variant="link" size="sm" className="p-0" onClick={onDone}>
        Close
      </Button>
    </div>
  );
}

function NewPassword({ onDone }: { onDone: () => void }) {
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const change = () => {
    setProblem(null);
    need(api.POST("/api/password", { body: { old, password } })).then(
      (me) => {
        admit(me);
        onDone();
      },
      (e: unknown) => setProblem(problemOf(e)),
    );
  };
  return (
    <form
      className="px-3 py-2"
      aria-label="Change my password"
      onSubmit={(e) => {
        e.preventDefault();
        change();
      }}
    >
      <label className="small d-block mb-2">
        Password so far
        <input
          className="form-control"
          type="password"
          autoComplete="current-password"
          required
          value={old}
          onChange={(e) => setOld(e.target.value)}
        />
      </label>
      <label className="small d-block mb-2">
        New password
        <input
          className="form-control"
          type="password"
          autoComplete="new-password"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
      </label>
      {problem && <Trouble problem={problem} />}
      <Button type="submit" size="sm">
        Change it
      </Button>{" "}
      <Button variant="link" size="sm" onClick={onDone}>
        Cancel
      </Button>
    </form>
  );
}
