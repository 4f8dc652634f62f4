import { useId, useState, type ReactNode } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { admit } from "../api/admit";
import { api, need, problemOf, type Problem, type Schemas } from "../api/client";
import { Trouble } from "./states";

interface Props {
  onSignedIn: (me: Schemas["Me"]) => void;
  children?: ReactNode;
}

/** Name and password; what stands beside the button is the caller's. */
export function SignInForm({ onSignedIn, children }: Props) {
  const id = useId();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);

  async function submit() {
    setProblem(null);
    try {
      const me = await need(api.POST("/api/sign-in", { body: { name, password } }));
      admit(me);
      onSignedIn(me);
    } catch (error) {
      setProblem(problemOf(error));
    }
  }

  return (
    <Form
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      <Form.Group className="mb-3" controlId={`${id}-name`}>
        <Form.Label>Name</Form.Label>
        <Form.Control value={name} onChange={(e) => setName(e.target.value)} autoComplete="username" required />
      </Form.Group>
      <Form.Group className="mb-3" controlId={`${id}-password`}>
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
      <div className="d-flex gap-2 mt-2">
        <Button type="submit">Sign in</Button>
        {children}
      </div>
    </Form>
  );
}
