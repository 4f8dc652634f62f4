import { useState } from "react";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { Trouble } from "../../parts/states";
import { NumberField } from "../../parts/NumberField";

interface Props {
  choices: Record<string, string[]>;
  gear: Record<string, string>;
  start: Schemas["ExerciseOut"] | null;
  done: (id: string) => void;
}

const ASKED: [keyof Schemas["OwnIn"], string][] = [
  ["pattern", "Pattern"],
  ["region", "Region"],
  ["kind", "Kind"],
  ["cost", "Fatigue cost"],
  ["implement", "Loaded with"],
  ["velocity", "Velocity that counts"],
];

/** An exercise of the coach's own, or the coach's edit of a shipped one; the shipped one stays as it is underneath. */
export function OwnForm({ choices, gear, start, done }: Props) {
  const names = Object.entries(gear);
  const [typed, setTyped] = useState<Schemas["OwnIn"]>({
    name: start?.row.name ?? "",
    cue: start?.cue ?? "",
    pattern: start?.row.pattern ?? "squat",
    region: start?.row.region ?? "lower",
    cost: start?.row.cost ?? "middle",
    kind: start?.row.kind ?? "strength",
    implement: start?.row.implement ?? "barbell",
    velocity: start?.velocity ?? "mean",
    seconds_per_rep: start?.seconds_per_rep ?? 3,
    per_side: start?.row.per_side ?? false,
    needs: start ? names.filter(([, n]) => start.row.needs.includes(n)).map(([k]) => k) : [],
  });
  const save = useAction(() =>
    start
      ? need(api.PUT("/api/library/{exercise_id}", { params: { path: { exercise_id: start.row.id } }, body: typed }))
      : need(api.POST("/api/library", { body: typed })),
  );
  const set = (part: Partial<Schemas["OwnIn"]>) => setTyped({ ...typed, ...part });
  return (
    <form
      className="sheet pad mb-3"
      aria-label={start ? `Edit ${start.row.name}` : "Your own exercise"}
      onSubmit={(e) => {
        e.preventDefault();
        save.run(undefined, (row) => done(row.id));
      }}
    >
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <label className="small">
          Name
          <input
            className="form-control form-control-sm"
            value={typed.name}
            maxLength={60}
            required
            onChange={(e) => set({ name: e.target.value })}
          />
        </label>
        <label className="small flex-grow-1">
          Cue, in your words
          <input
            className="form-control form-control-sm"
            value={typed.cue}
            maxLength={120}
            required
            onChange={(e) => set({ cue: e.target.value })}
          />
        </label>
        {ASKED.map(([key, label]) => (
          <label key={key} className="small">
            {label}
            <select className="form-select form-select-sm" value={String(typed[key])} onChange={(e) => set({ [key]: e.target.value })}>
              {choices[key]?.map((c) => (
                <option key={c} value={c}>
                  {c.replace("_", " ")}
                </option>
              ))}
            </select>
          </label>
        ))}
        <NumberField
          label="s a rep"
          width={70}
          value={typed.seconds_per_rep}
          onChange={(e) => set({ seconds_per_rep: typedNumber(e.target.value) || 0 })}
        />
        <label className="small d-flex gap-1 align-items-center pb-1">
          <input type="checkbox" checked={typed.per_side} onChange={(e) => set({ per_side: e.target.checked })} /> each side
        </label>
      </div>
      <fieldset className="mt-2">
        <legend className="small mb-1">Kit needed, beside what it is loaded with</legend>
        <div className="d-flex flex-wrap gap-2">
          {names.map(([key, name]) => (
            <label key={key} className="small d-flex gap-1 align-items-center">
              <input
                type="checkbox"
                checked={typed.needs?.includes(key) ?? false}
                onChange={(e) =>
                  set({ needs: e.target.checked ? [...(typed.needs ?? []), key] : (typed.needs ?? []).filter((n) => n !== key) })
                }
              />{" "}
              {name}
            </label>
          ))}
        </div>
      </fieldset>
      <div className="d-flex gap-2 mt-2">
        <button type="submit" className="btn btn-primary btn-sm" disabled={save.isPending}>
          Save
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={() => done("")}>
          Cancel
        </button>
      </div>
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}
