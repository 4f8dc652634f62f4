import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { admit } from "../api/admit";
import { api, need, problemOf, type Problem } from "../api/client";
import { keys } from "../api/keys";
import { HabitFields } from "../parts/HabitFields";
import { PasswordField } from "../parts/PasswordField";
import { Trouble } from "../parts/states";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const ZONES = typeof Intl.supportedValuesOf === "function" ? Intl.supportedValuesOf("timeZone") : [HERE];

/** The first page of a new centre: what it is called, where it lies, and the person who begins it. */
export function FirstRun() {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [zone, setZone] = useState(ZONES.includes(HERE) ? HERE : "");
  const [habits, setHabits] = useState({ unit: "kg", day_order: "day first" });
  const [person, setPerson] = useState("");
  const [signIn, setSignIn] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  const [fromFile, setFromFile] = useState(false);
  const begin = () => {
    setProblem(null);
    setBusy(true);
    const done = fromFile
      ? need(
          api.POST("/api/first-run/file", {
            body: { file: "", person, sign_in: signIn, password },
            bodySerializer: () => {
              const form = new FormData();
              if (file) form.append("file", file);
              for (const [key, value] of Object.entries({ person, sign_in: signIn, password })) form.append(key, value);
              return form;
            },
          }),
        )
      : need(api.POST("/api/first-run", { body: { name, zone, ...habits, person, sign_in: signIn, password } }));
    done
      .then((me) => {
        admit(me);
        client.setQueryData(keys.me, me);
      })
      .catch((e: unknown) => setProblem(problemOf(e)))
      .finally(() => setBusy(false));
  };
  return (
    <main className="page" style={{ maxWidth: 460, margin: "6vh auto 0" }}>
      <h1>Jarvok</h1>
      <p className="soft">A new centre, on this machine. Two names and a password; everything else can wait.</p>
      <Form
        className="sheet pad"
        aria-label="Begin the centre"
        onSubmit={(e) => {
          e.preventDefault();
          begin();
        }}
      >
        {fromFile ? (
          <Form.Group className="mb-3" controlId="centre-file">
            <Form.Label>File of the centre</Form.Label>
            <Form.Control type="file" accept=".zip" required onChange={(e) => setFile((e.target as HTMLInputElement).files?.[0] ?? null)} />
            <Form.Text>The zip that Settings, Data gives. Sign in with your name in it, or a new one.</Form.Text>
          </Form.Group>
        ) : (
          <>
            <Form.Group className="mb-3" controlId="centre">
              <Form.Label>Name of the centre</Form.Label>
              <Form.Control value={name} maxLength={80} autoFocus required onChange={(e) => setName(e.target.value)} />
            </Form.Group>
            <Form.Group className="mb-3" controlId="zone">
              <Form.Label>Time zone</Form.Label>
              <Form.Select value={zone} onChange={(e) => setZone(e.target.value)}>
                <option value="">the time of this machine</option>
                {ZONES.map((z) => (
                  <option key={z} value={z}>
                    {z.replaceAll("_", " ")}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <HabitFields unit={habits.unit} dayOrder={habits.day_order} onChange={(unit, day_order) => setHabits({ unit, day_order })} />
          </>
        )}
        <Form.Group className="mb-3" controlId="person">
          <Form.Label>Your name</Form.Label>
          <Form.Control value={person} maxLength={80} autoComplete="name" required onChange={(e) => setPerson(e.target.value)} />
        </Form.Group>
        <Form.Group className="mb-3" controlId="sign-in">
          <Form.Label>Name to sign in with</Form.Label>
          <Form.Control value={signIn} maxLength={80} autoComplete="username" required onChange={(e) => setSignIn(e.target.value)} />
        </Form.Group>
        <PasswordField id="new-password" value={password} onChange={setPassword} />
        {problem && <Trouble problem={problem} />}
        <Button type="submit" className="tap mt-2" disabled={busy}>
          Begin
        </Button>
        <Button variant="link" className="mt-2 ms-2" onClick={() => setFromFile(!fromFile)}>
          {fromFile ? "Begin a new centre" : "Bring a centre from its file"}
        </Button>
      </Form>
      <p className="small soft mt-3">
        You become its head: you may do everything. Jarvok plans and calculates for a qualified coach; it does not diagnose injuries or
        clear anyone to train.
      </p>
    </main>
  );
}
