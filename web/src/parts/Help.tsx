import { useEffect, useState } from "react";
import { matchPath, useLocation } from "react-router";

import { useMe } from "../api/hooks";
import { HELP, HELP_OF_ONES_OWN } from "./help";
import { useHotkeys } from "./useHotkeys";

const SEEN = "jarvok.seen";
const AT_WORK = /^\/(floor|room|tests|trials)\/\d/; // pages that are used in a hurry hold nothing between the top and the work

function useLine(): readonly [string, string] | undefined {
  const { pathname } = useLocation();
  const lines = useMe().data?.role === "athlete" ? HELP_OF_ONES_OWN : HELP;
  return lines.find(([pattern]) => matchPath(pattern, pathname));
}

function seen(): string[] {
  const kept = localStorage.getItem(SEEN);
  return kept ? kept.split(" ") : [];
}

/** Whether the help line stands: by itself the first time that a page is opened here, afterwards when it is asked for. */
export function useFirstUse(): { help: boolean; setHelp: (open: boolean) => void } {
  const { pathname } = useLocation();
  const page = useLine()?.[0] ?? "";
  const [at, setAt] = useState({ page: "", open: false });
  if (at.page !== page) setAt({ page, open: page !== "" && !AT_WORK.test(pathname) && !seen().includes(page) });
  useEffect(() => {
    if (page && !seen().includes(page)) localStorage.setItem(SEEN, [...seen(), page].join(" "));
  }, [page]);
  return { help: at.open, setHelp: (open) => setAt({ page, open }) };
}

interface Props {
  isOpen: boolean;
  onToggle: () => void;
}

/** The button that shows what the page is for; the key `?` does the same. */
export function HelpButton({ isOpen, onToggle }: Props) {
  useHotkeys({ "?": onToggle });
  return (
    <button type="button" className="btn btn-plain btn-sm" aria-expanded={isOpen} aria-label="What is this page for?" onClick={onToggle}>
      ?
    </button>
  );
}

/** What the page is for and what to do first, in one line. */
export function HelpLine() {
  const words = useLine()?.[1];
  return words ? (
    <aside className="page-help" aria-label="What this page is for">
      {words}
    </aside>
  ) : null;
}
