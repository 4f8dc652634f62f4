import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, keepCsrfToken, need, problemOf, type Problem } from "../api/client";
import { keys } from "../api/keys";
import { Trouble } from "../parts/states";

export function SignIn() {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);

  async function submit() {
    setProblem(null);
    try {
      const me = await need(api.POST("/api/sign-in", { body: { name, password } }));
      keepCsrfToken(me.csrf_token);
      client.setQueryData(keys.me, me);
    } catch (error) {
      setProblem(problemOf(error));
    }
  }

  return (
    <main className="page" style={{ maxWidth: 380, margin: "12vh auto 0" }}>
      <h1 className="mb-3">Jarvok</h1>
      <Form
        className="sheet pad"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <Form.Group className="mb-3" controlId="name">
          <Form.Label>Name</Form.Label>
          <Form.Control value={name} onChange={(e) => setName(e.target.value)} autoComplete="username" required />
        </Form.Group>
        <Form.Group className="mb-3" controlId="password">
          <Form.Label>Password</Form.Label>
          <Form.Control
            type="password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
            autoComplete="current-password"
            required
          />
        </Form.Group>
        {problem && <Trouble problem={problem} />}
        <Button type="submit" className="mt-2">
          Sign in
        </Button>
      </Form>
    </main>
  );
}
