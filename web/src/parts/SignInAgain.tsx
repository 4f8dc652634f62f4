import { useQueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import Button from "react-bootstrap/Button";
import Modal from "react-bootstrap/Modal";

import type { Schemas } from "../api/client";
import { door } from "../api/door";
import { useMe } from "../api/hooks";
import { keys } from "../api/keys";
import { admitted } from "../api/outbox";
import { SignInForm } from "./SignInForm";

/** Asked where a sign-in ended while its page was open: the page stays as it is, with all that was typed in it. */
export function SignInAgain() {
  const client = useQueryClient();
  const was = useMe().data?.person_id;
  const isAsked = useSyncExternalStore(door.watch, door.isAsked);
  const goOn = (me: Schemas["Me"]) => {
    if (me.person_id !== was) return window.location.assign("/"); // another person: nothing of this page is theirs
    client.setQueryData(keys.me, me);
    door.answer(true);
    void admitted();
  };
  return (
    <Modal show={isAsked} onHide={() => door.answer(false)} centered aria-labelledby="sign-in-again">
      <Modal.Header>
        <Modal.Title id="sign-in-again" as="h2">
          Sign in again
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>Your sign-in has ended. This page and what you typed stay as they are.</p>
        <SignInForm onSignedIn={goOn}>
          <Button variant="plain" onClick={() => door.answer(false)}>
            Not now
          </Button>
        </SignInForm>
      </Modal.Body>
    </Modal>
  );
}
