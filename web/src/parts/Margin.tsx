export interface MarginNote {
  id: string;
  title: string;
  text: string;
  decision: boolean;
  action?: React.ReactNode;
}

/** Notes beside the sheet, like a colleague's pencil: a heavy rule asks for a decision, a light one only tells. */
export function Margin({ notes }: { notes: MarginNote[] }) {
  return (
    <aside aria-label="Notes in the margin">
      {notes.map((note) => (
        <div key={note.id} className={note.decision ? "note asks" : "note"}>
          <b>{note.title}</b> {note.text}
          {note.action && <div className="mt-1">{note.action}</div>}
        </div>
      ))}
    </aside>
  );
}
