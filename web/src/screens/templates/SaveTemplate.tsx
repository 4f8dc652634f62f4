import { useState } from "react";

import { api, need } from "../../api/client";
import { useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";

interface Props {
  id: number;
  day: string;
  sessionKey: string;
  kind: "session" | "week" | "phase";
  suggested: string;
}

/** Keep what is on the screen under a name; the same name again makes the next version. */
export function SaveTemplate({ id, day, sessionKey, kind, suggested }: Props) {
  const [name, setName] = useState<string | null>(null);
  const [weeks, setWeeks] = useState("4");
  const [whole, setWhole] = useState(kind);
  const [kept, setKept] = useState("");
  const save = useAction((typed: string) =>
    need(
      api.POST("/api/templates", {
        body: { name: typed, kind: whole, athlete_id: id, day, key: sessionKey, block: "", weeks: Number(weeks) || 1, note: "" },
      }),
    ),
  );
  if (name === null) {
    return (
      <>
        {kept && (
          <span className="soft small" role="status">
            Kept as “{kept}”
          </span>
        )}
        <button type="button" className="btn btn-plain btn-sm" onClick={() => setName(suggested)}>
          Save as template
        </button>
      </>
    );
  }
  return (
    <form
      className="d-flex gap-1 align-items-center flex-wrap"
      aria-label="Save as template"
      onSubmit={(e) => {
        e.preventDefault();
        save.run(name, () => {
          setKept(name);
          setName(null);
        });
      }}
      onKeyDown={(e) => e.key === "Escape" && setName(null)}
    >
      <input
        className="form-control form-control-sm"
        style={{ width: 170 }}
        aria-label="Name of the template"
        value={name}
        maxLength={80}
        required
        autoFocus
        onChange={(e) => setName(e.target.value)}
      />
      {kind !== "session" && (
        <>
          <select
            className="form-select form-select-sm w-auto"
            aria-label="What is kept"
            value={whole}
            onChange={(e) => setWhole(e.target.value as Props["kind"])}
          >
            <option value="week">this week</option>
            <option value="phase">weeks from here</option>
          </select>
          {whole === "phase" && (
            <input
              className="form-control form-control-sm"
              style={{ width: 56 }}
              aria-label="Number of weeks"
              inputMode="numeric"
              value={weeks}
              onChange={(e) => setWeeks(e.target.value)}
            />
          )}
        </>
      )}
      <button type="submit" className="btn btn-primary btn-sm" disabled={save.isPending}>
        Save
      </button>
      <button type="button" className="btn btn-plain btn-sm" onClick={() => setName(null)}>
        Cancel
      </button>
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}
