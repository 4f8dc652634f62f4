/** That a set went beyond everything before: what, and what the best was until then. */
export function NewBest({ words }: { words: string }) {
  if (!words) return null;
  return (
    <span className="new-best num">
      {" "}
      <b>New best</b> {words}
    </span>
  );
}

/** The set that was done last, where it was a best. */
export function JustNow({ done }: { done: { what: string; best: string } | null }) {
  if (!done?.best) return null;
  return (
    <p className="small m-0" aria-live="polite">
      <span className="soft">just now</span> {done.what}
      <NewBest words={done.best} />
    </p>
  );
}
