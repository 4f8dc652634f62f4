import { Component, Suspense, type ReactNode } from "react";
import Button from "react-bootstrap/Button";
import { Link, useLocation } from "react-router";

import { Loading } from "./states";

/** What is shown where a screen could not be drawn; the bar above and everything that waits to be sent stay. */
function Broken({ again }: { again: () => void }) {
  return (
    <div className="page" style={{ maxWidth: 560 }}>
      <h1>This page cannot be drawn</h1>
      <div className="trouble" role="alert">
        Nothing is lost: what you logged is kept and sent. Try again, or go on from another page.
      </div>
      <div className="d-flex gap-2 mt-3">
        <Button variant="plain" onClick={again}>
          Try again
        </Button>
        <Link className="btn btn-plain" to="/">
          To Today
        </Link>
      </div>
    </div>
  );
}

/** Keeps a failed drawing to the screen it failed on. */
class Boundary extends Component<{ children: ReactNode }, { failed: boolean }> {
  state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  render() {
    return this.state.failed ? <Broken again={() => this.setState({ failed: false })} /> : this.props.children;
  }
}

/** One screen: its title in the browser's tab, its loading, and a boundary of its own. */
export function Screen({ title, children }: { title: string; children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <>
      <title>{`${title} · Jarvok`}</title>
      <Boundary key={pathname}>
        <Suspense fallback={<Loading what="the screen" />}>{children}</Suspense>
      </Boundary>
    </>
  );
}
