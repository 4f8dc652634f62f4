import { Download } from "../../parts/Download";

/** Everything as one open file: to look into, to take to another machine. */
export function WholeCentre() {
  return (
    <section className="sheet pad" aria-label="The whole centre as a file">
      <h2>The whole centre as a file</h2>
      <p className="soft">
        A zip of plain text, one file a kind, every row a line: athletes, results, plans, sessions, sets, who did what. Passwords and links
        are not in it. An empty installation reads it on its first page.
      </p>
      <Download href="/api/export/centre.zip">Download everything</Download>
    </section>
  );
}
