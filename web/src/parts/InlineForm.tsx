interface Props {
  label: string;
  busy?: boolean;
  className?: string;
  onKeep: () => void;
  onLeave: () => void;
  children: React.ReactNode;
}

/** A few fields that open where they belong: Enter keeps them, Escape leaves them. */
export function InlineForm({ label, busy = false, className = "replace d-flex", onKeep, onLeave, children }: Props) {
  return (
    <form
      className={`${className} flex-wrap gap-1 align-items-center`}
      aria-label={label}
      onKeyDown={(e) => e.key === "Escape" && onLeave()}
      onSubmit={(e) => {
        e.preventDefault();
        onKeep();
      }}
    >
      {children}
      <button type="submit" className="btn btn-plain btn-sm" disabled={busy}>
        Save
      </button>
      <button type="button" className="btn btn-link btn-sm" onClick={onLeave}>
        Cancel
      </button>
    </form>
  );
}
