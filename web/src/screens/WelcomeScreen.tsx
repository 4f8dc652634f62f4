import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useNavigate, useParams } from "react-router";

import { admit } from "../api/admit";
import { api, need } from "../api/client";
import { keys } from "../api/keys";
import { useAction } from "../api/useAction";
import { PasswordField } from "../parts/PasswordField";
import { Failed, Loading, Trouble } from "../parts/states";

/** What a link from the head opens: choosing a password, and the first time a name to sign in with. */
export default function WelcomeScreen() {
  const token = useParams().token ?? "";
  const client = useQueryClient();
  const navigate = useNavigate();
  const welcome = useQuery({
    queryKey: keys.welcome(token),
    queryFn: () => need(api.GET("/api/welcome/{token}", { params: { path: { token } } })),
    retry: false,
  });
  const [signIn, setSignIn] = useState("");
  const [password, setPassword] = useState("");
  const take = useAction(
    () => need(api.POST("/api/welcome/{token}", { params: { path: { token } }, body: { sign_in: signIn.trim(), password } })),
    {
      after: (_, me) => {
        admit(me);
        client.removeQueries({ predicate: (q) => q.queryKey[0] !== keys.me[0] }); // nothing of whoever was signed in here before
        client.setQueryData(keys.me, me);
        void navigate("/", { replace: true });
      },
    },
  );
  if (welcome.isPending) return <Loading what="your link" />;
  if (welcome.isLoadingError) return <Failed error={welcome.error} again={() => void welcome.refetch()} />;
  const w = welcome.data;
  return (
    <main className="page" style={{ maxWidth: 420, margin: "8vh auto 0" }}>
      <h1>{w.centre || "Jarvok"}</h1>
      <p className="soft">
        {w.name}, {w.sign_in ? `choose a new password. You sign in as ${w.sign_in}.` : "choose how you sign in here."}
      </p>
      <Form
        className="sheet pad"
        aria-label="Choose a password"
        onSubmit={(e) => {
          e.preventDefault();
          take.run(undefined);
        }}
      >
        {!w.sign_in && (
          <Form.Group className="mb-3" controlId="welcome-name">
            <Form.Label>Name to sign in with</Form.Label>
            <Form.Control value={signIn} maxLength={80} autoComplete="username" required onChange={(e) => setSignIn(e.target.value)} />
          </Form.Group>
        )}
        <PasswordField id="welcome-password" value={password} onChange={setPassword} />
        {take.problem && <Trouble problem={take.problem} />}
        <Button type="submit" className="tap mt-2" disabled={take.isPending}>
          Sign in
        </Button>
      </Form>
    </main>
  );
}
