import { useQueryClient } from "@tanstack/react-query";

import { keys } from "../api/keys";
import { SignInForm } from "../parts/SignInForm";

export function SignIn() {
  const client = useQueryClient();
  return (
    <main className="page" style={{ maxWidth: 380, margin: "12vh auto 0" }}>
      <h1 className="mb-3">Jarvok</h1>
      <div className="sheet pad">
        <SignInForm onSignedIn={(me) => client.setQueryData(keys.me, me)} />
      </div>
    </main>
  );
}
