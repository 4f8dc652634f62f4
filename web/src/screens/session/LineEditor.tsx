import { useState } from "react";

import { api, need, type Problem } from "../../api/client";
import { type Line, type Sheet, useCanChange, useGoals } from "../../api/hooks";
import { useAction } from "../../api/useAction";

/** A prescription, typed as it would stand on the board. A line that cannot be read stays typed, with the place marked. */
export function LineEditor({ id, sheet, line }: { id: number; sheet: Sheet; line: Line }) {
  const canChange = useCanChange(sheet);
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const write = useAction(
    ({ text, confirm }: { text: string; confirm: boolean }) =>
      need(
        api.PUT("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}", {
          params: { path: { athlete_id: id, day: sheet.day, key: sheet.key, line: line.id } },
          body: { text, confirm },
        }),
      ),
    { say: setProblem },
  );

  function save(text: string) {
    if (text.trim() === line.text) {
      setDraft(null);
      setProblem(null);
      return;
    }
    const confirm = problem?.status === 428 && text === draft;
    setDraft(text);
    write.run({ text, confirm }, () => setDraft(null));
  }

  if (draft === null) {
    return (
      <>
        <button
          type="button"
          className="line-text"
          aria-label={`${line.slot}: ${line.text}, change`}
          disabled={!canChange}
          onClick={() => setDraft(line.text)}
        >
          {line.text}
        </button>
        {line.method_words && <div className="small clay">{line.method_words}</div>}
        {line.edited && (
          <div className="small">
            <span className="soft">proposed: {line.proposed_text}</span>{" "}
            {canChange && (
              <button type="button" className="btn btn-link btn-sm p-0 align-baseline" onClick={() => save("")}>
                Back to it
              </button>
            )}
          </div>
        )}
      </>
    );
  }
  const fieldId = `line-${line.id}`;
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
        onChange={(e) => {
          setDraft(e.target.value);
          if (problem?.status === 428) setProblem(null);
        }}
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
        <Steps id={id} sheet={sheet} line={line} onStep={(text) => setDraft(text)} />
      )}
    </div>
  );
}

const STEPS = [
  ["sets", "sets"],
  ["reps", "reps"],
  ["load", "load"],
] as const;

/** The same line by controls: a step of sets, reps or load in the terms it is written in. */
function Steps({ id, sheet, line, onStep }: { id: number; sheet: Sheet; line: Line; onStep: (text: string) => void }) {
  const step = useAction((body: { what: string; by: number }) =>
    need(
      api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}/step", {
        params: { path: { athlete_id: id, day: sheet.day, key: sheet.key, line: line.id } },
        body,
      }),
    ),
  );
  const { problem } = step;
  const goals = useGoals();
  const take = (what: string, by: number) =>
    step.run({ what, by }, (answer) => {
      const now = answer.lines.find((l) => l.id === line.id);
      if (now) onStep(now.text);
    });
  return (
    <div className="small soft">
      <div className="d-flex flex-wrap gap-2 align-items-center mt-1">
        {STEPS.map(([what, name]) => (
          <span key={what} className="steps" role="group" aria-label={`${line.slot} ${name}`}>
            <button type="button" aria-label={`${line.slot}: fewer ${name}`} disabled={step.isPending} onClick={() => take(what, -1)}>
              −
            </button>
            {name}
            <button type="button" aria-label={`${line.slot}: more ${name}`} disabled={step.isPending} onClick={() => take(what, 1)}>
              +
            </button>
          </span>
        ))}
      </div>
      <div className="d-flex flex-wrap gap-2 align-items-center">
        for
        {goals.data?.map((g) => (
          <button
            key={g.goal}
            type="button"
            className="btn btn-link btn-sm p-0"
            aria-label={`${line.slot}: for ${g.goal}`}
            title={`${g.words} (${g.source})`}
            disabled={step.isPending}
            onClick={() => take(g.goal, 1)}
          >
            {g.goal}
          </button>
        ))}
      </div>
      Enter saves, Escape cancels.
      {problem && (
        <div role="alert">
          {problem.title} {problem.accepted}
        </div>
      )}
    </div>
  );
}
