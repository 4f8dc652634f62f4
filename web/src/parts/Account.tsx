import { useState } from "react";
import Button from "react-bootstrap/Button";
import Dropdown from "react-bootstrap/Dropdown";

import { api, keepCsrfToken, need, problemOf, type Problem } from "../api/client";
import { useMe } from "../api/hooks";
import { Trouble } from "./states";

/** Who is signed in: their password, and the way out. The demo signs its coach in by itself and has neither. */
export function Account() {
  const me = useMe();
  const [changing, setChanging] = useState(false);
  if (!me.data?.signed_in || me.data.is_demo) return null;
  const signOut = () => void need(api.POST("/api/sign-out")).then(() => window.location.assign("/")); // nothing of them stays in this page
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="plain" size="sm" id="account">
        {me.data.name}
      </Dropdown.Toggle>
      <Dropdown.Menu style={{ minWidth: 260 }}>
        {changing ? (
          <NewPassword onDone={() => setChanging(false)} />
        ) : (
          <>
            <Dropdown.Item
              as="button"
              onClick={(e) => {
                e.stopPropagation();
                setChanging(true);
              }}
            >
              Change my password …
            </Dropdown.Item>
            <Dropdown.Item as="button" onClick={signOut}>
              Sign out
            </Dropdown.Item>
          </>
        )}
      </Dropdown.Menu>
    </Dropdown>
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
        keepCsrfToken(me.csrf_token);
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
