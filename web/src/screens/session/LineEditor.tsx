import { useState } from "react";

import { api, need, problemOf, type Problem } from "../../api/client";
import { type Line, type Sheet, usePlanChange } from "../../api/hooks";

/** A prescription, typed as it would stand on the board. A line that cannot be read stays typed, with the place marked. */
export function LineEditor({ id, sheet, line }: { id: number; sheet: Sheet; line: Line }) {
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const write = usePlanChange((text: string) =>
    need(
      api.PUT("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{slot}", {
        params: { path: { athlete_id: id, day: sheet.day, key: sheet.key, slot: line.slot } },
        body: { text },
      }),
    ),
  );

  function save(text: string) {
    if (text.trim() === line.text) {
      setDraft(null);
      setProblem(null);
      return;
    }
    write.mutate(text, {
      onSuccess: () => {
        setDraft(null);
        setProblem(null);
      },
      onError: (e) => {
        setDraft(text);
        setProblem(problemOf(e));
      },
    });
  }

  if (draft === null) {
    return (
      <>
        <button
          type="button"
          className="line-text"
          aria-label={`${line.slot}: ${line.text}, change`}
          disabled={sheet.state !== "planned"}
          onClick={() => setDraft(line.text)}
        >
          {line.text}
        </button>
        {line.method_words && <div className="small clay">{line.method_words}</div>}
        {line.edited && (
          <div className="small">
            <span className="soft">proposed: {line.proposed_text}</span>{" "}
            {sheet.state === "planned" && (
              <button type="button" className="btn btn-link btn-sm p-0 align-baseline" onClick={() => save("")}>
                Take it back
              </button>
            )}
          </div>
        )}
      </>
    );
  }
  const fieldId = `line-${line.slot}`;
  return (
    <div>
      <input
        className="line-input"
        aria-label={`${line.slot} ${line.exercise}: sets, reps and load`}
        aria-invalid={problem !== null}
        aria-describedby={problem ? fieldId : undefined}
        value={draft}
        autoFocus
        disabled={write.isPending}
        onChange={(e) => setDraft(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter") save(draft);
          if (e.key === "Escape") {
            setDraft(null);
            setProblem(null);
          }
        }}
      />
      {problem ? (
        <div id={fieldId} role="alert" className="trouble mt-1">
          {problem.position !== null && (
            <div className="pointer" aria-hidden>
              {draft.slice(0, problem.position).replace(/./g, " ")}
              <span className="clay">↑</span>
            </div>
          )}
          <b>{problem.title}</b>{" "}
          {problem.suggestion ? (
            <button type="button" className="btn btn-link btn-sm p-0 align-baseline" onClick={() => save(problem.suggestion)}>
              Use “{problem.suggestion}”
            </button>
          ) : (
            problem.accepted
          )}
        </div>
      ) : (
        <div className="soft small">Enter keeps it, Escape leaves it.</div>
      )}
    </div>
  );
}
