import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import Button from "react-bootstrap/Button";
import Modal from "react-bootstrap/Modal";
import { useLocation } from "react-router";

import { stale } from "../api/keys";
import { PAGE_ID, plans, whose } from "../api/plans";

/** Follows what others change in the plans on the screen, and asks whose change counts where two meet. */
export function ChangedMeanwhile({ follows }: { follows: boolean }) {
  const client = useQueryClient();
  const { pathname } = useLocation();
  const asked = useSyncExternalStore(whose.watch, whose.asked);
  useFollowing(follows);
  useEffect(() => plans.nothingTyped(), [pathname]);
  useEffect(() => {
    const typed = (e: Event) => {
      if (e.target instanceof Element && e.target.closest("main, [role=dialog]")) plans.typed();
    };
    document.addEventListener("input", typed);
    return () => document.removeEventListener("input", typed);
  }, []);
  if (!asked) return null;
  const leave = () => {
    asked.answer("theirs");
    void stale.afterPlan(client);
  };
  return (
    <Modal show onHide={leave} centered aria-labelledby="changed-title">
      <Modal.Header>
        <Modal.Title id="changed-title" as="h2">
          Changed by somebody else
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p className="fw-semibold mb-1">{asked.problem.title}</p>
        <p className="m-0">Yours is not saved yet. It was made on the plan as it stood before.</p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={() => asked.answer("mine")}>
          Save mine over it
        </Button>
        <Button autoFocus onClick={leave}>
          Show theirs
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** Reads again what is on the screen when somebody else has changed a plan; a page that nobody looks at does not listen. */
function useFollowing(follows: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!follows) return;
    let source: EventSource | null = null;
    let waiting: ReturnType<typeof setTimeout> | null = null;
    let hasMissed = false;
    const soon = () => {
      waiting ??= setTimeout(() => {
        waiting = null;
        void stale.afterPlan(client);
      }, 100);
    };
    const listen = () => {
      if (document.hidden) {
        source?.close();
        source = null;
        hasMissed = true;
        return;
      }
      if (source) return;
      source = new EventSource("/api/changes");
      source.onopen = () => {
        if (hasMissed) soon();
        hasMissed = true; // whenever the line was down
      };
      source.addEventListener("plan", (e) => {
        if ((JSON.parse(String(e.data)) as { page: string }).page !== PAGE_ID) soon();
      });
    };
    listen();
    document.addEventListener("visibilitychange", listen);
    return () => {
      document.removeEventListener("visibilitychange", listen);
      source?.close();
      if (waiting) clearTimeout(waiting);
    };
  }, [client, follows]);
}
