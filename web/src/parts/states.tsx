import Button from "react-bootstrap/Button";
import Spinner from "react-bootstrap/Spinner";

import { problemOf, type Problem } from "../api/client";
import { CANNOT_HELP } from "../api/reading";

export function Loading({ what }: { what: string }) {
  return (
    <p className="page soft" role="status" aria-busy>
      <Spinner size="sm" aria-hidden className="me-2" />
      Reading {what} …
    </p>
  );
}

/** What was wrong, and what would be accepted. */
export function Trouble({ problem }: { problem: Problem }) {
  return (
    <div className="trouble" role="alert">
      <b>{problem.title}</b> {problem.accepted}
    </div>
  );
}

export function Failed({ error, again }: { error: unknown; again: () => void }) {
  const problem = problemOf(error);
  return (
    <div className="page" style={{ maxWidth: 560 }}>
      <Trouble problem={problem} />
      {CANNOT_HELP.includes(problem.status) ? (
        <p className="mt-3 d-flex gap-2">
          <Button variant="plain" onClick={() => window.history.back()}>
            Back
          </Button>
          <a className="btn btn-plain" href="/">
            To the first page
          </a>
        </p>
      ) : (
        <Button variant="plain" className="mt-3" onClick={again}>
          Try again
        </Button>
      )}
    </div>
  );
}

export function Empty({ title, children }: { title: string; children?: React.ReactNode }) {
  return (
    <div className="sheet pad" style={{ maxWidth: 620 }}>
      <h2>{title}</h2>
      {children}
    </div>
  );
}
