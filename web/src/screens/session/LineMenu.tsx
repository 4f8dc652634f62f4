import { useState } from "react";
import Dropdown from "react-bootstrap/Dropdown";

import { api, need, type Schemas } from "../../api/client";
import { type Line, type Sheet, useExercise, useSheetEdit } from "../../api/hooks";
import { firstProblem, useAction } from "../../api/useAction";
import { shortDay } from "../../parts/dates";
import { ConditionFields } from "../../parts/ConditionFields";
import { InlineForm } from "../../parts/InlineForm";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Trouble } from "../../parts/states";
import { UntilMiss } from "./UntilMiss";

const WORDS: Record<string, string> = { run: "surface, footwear", drill: "stick first, bar in the second round" };
const PLACES = [
  ["up", "Up"],
  ["down", "Down"],
  ["first", "First"],
  ["last", "Last"],
] as const;
const RUN_WORDS = ["grass, flats", "turf, studs", "track, flats", "track, spikes", "hill", "until heart rate is back under the threshold"];

/** What can be done with a line beside writing it: another exercise, another place, another day, out. */
export function LineMenu({ id, sheet, line, days }: { id: number; sheet: Sheet; line: Line; days: string[] }) {
  const [replacing, setReplacing] = useState(false);
  const [missing, setMissing] = useState(false);
  const [note, setNote] = useState<string | null>(null);
  const [levels, setLevels] = useState<{ easier: string; harder: string } | null>(null);
  const [conditions, setConditions] = useState<Record<string, string> | null>(null);
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const away = useAction((day: string) =>
    need(
      api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}/move", {
        params: { path: { athlete_id: id, day: sheet.day, key: sheet.key, line: line.id } },
        body: { day },
      }),
    ),
  );
  const problem = firstProblem(edit, away);
  const move = (to: string) => edit.run({ op: "move", line: line.id, to });
  return (
    <>
      <Dropdown className="d-inline-block">
        <Dropdown.Toggle as="button" className="line-menu" aria-label={`${line.slot} ${line.exercise}: more`}>
          ⋯
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item as="button" onClick={() => setReplacing(true)}>
            Another exercise …
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => setNote(line.note)}>
            Add a note …
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => setLevels({ easier: line.easier, harder: line.harder })}>
            Easier and harder form …
          </Dropdown.Item>
          {line.can_miss && (
            <Dropdown.Item as="button" onClick={() => setMissing(true)}>
              Until it is missed …
            </Dropdown.Item>
          )}
          {line.has_conditions && (
            <Dropdown.Item as="button" onClick={() => setConditions(line.conditions)}>
              Grip, rack, equipment …
            </Dropdown.Item>
          )}
          {PLACES.map(([to, name]) => (
            <Dropdown.Item as="button" key={to} onClick={() => move(to)}>
              {name}
            </Dropdown.Item>
          ))}
          {days.length > 0 && <Dropdown.Divider />}
          {days.map((day) => (
            <Dropdown.Item as="button" key={day} onClick={() => away.run(day)}>
              To {shortDay(day)}
            </Dropdown.Item>
          ))}
          <Dropdown.Divider />
          <Dropdown.Item as="button" onClick={() => edit.run({ op: "drop", line: line.id })}>
            Take {line.slot} out
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {note !== null && (
        <InlineForm
          label="What they should know"
          onLeave={() => setNote(null)}
          onKeep={() => edit.run({ op: "note", line: line.id, text: note }, () => setNote(null))}
        >
          <input
            className="form-control form-control-sm"
            aria-label={`A word beside ${line.slot}`}
            placeholder={WORDS[line.kind] ?? "what they should know"}
            list={line.kind === "run" ? "run-words" : undefined}
            value={note}
            maxLength={60}
            autoFocus
            onChange={(e) => setNote(e.target.value)}
          />
          {line.kind === "run" && (
            <datalist id="run-words">
              {RUN_WORDS.map((w) => (
                <option key={w} value={w} />
              ))}
            </datalist>
          )}
        </InlineForm>
      )}
      {levels !== null && (
        <Levels
          slot={line.slot}
          levels={levels}
          onChange={setLevels}
          onLeave={() => setLevels(null)}
          onKeep={() => edit.run({ op: "levels", line: line.id, ...levels }, () => setLevels(null))}
        />
      )}
      {conditions !== null && (
        <Conditions
          id={id}
          line={line}
          chosen={conditions}
          onChoose={setConditions}
          onLeave={() => setConditions(null)}
          onKeep={() => edit.run({ op: "conditions", line: line.id, conditions }, () => setConditions(null))}
        />
      )}
      {missing && <Missing id={id} sheet={sheet} line={line} done={() => setMissing(false)} />}
      {replacing && (
        <Replace
          id={id}
          line={line}
          done={() => setReplacing(false)}
          onTake={(exercise) => edit.run({ op: "replace", line: line.id, exercise_id: exercise }, () => setReplacing(false))}
        />
      )}
      {problem && <Trouble problem={problem} />}
    </>
  );
}

interface MissingProps {
  id: number;
  sheet: Sheet;
  line: Line;
  done: () => void;
}

/** The line written so that it ends with a miss in the wanted round. */
function Missing({ id, sheet, line, done }: MissingProps) {
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const problem = firstProblem(edit);
  return (
    <>
      <UntilMiss id={id} sheet={sheet} line={line} onLeave={done} onKeep={(text) => edit.run({ op: "write", line: line.id, text }, done)} />
      {problem && <Trouble problem={problem} />}
    </>
  );
}

interface LevelsProps {
  slot: string;
  levels: { easier: string; harder: string };
  onChange: (levels: { easier: string; harder: string }) => void;
  onLeave: () => void;
  onKeep: () => void;
}

/** An easier and a harder form of a line, for those who need one on the day. */
function Levels({ slot, levels, onChange, onLeave, onKeep }: LevelsProps) {
  return (
    <InlineForm label={`Easier and harder form of ${slot}`} onKeep={onKeep} onLeave={onLeave}>
      {(["easier", "harder"] as const).map((side) => (
        <input
          key={side}
          className="form-control form-control-sm"
          style={{ width: 180 }}
          aria-label={`${side} form`}
          placeholder={side === "easier" ? "easier: hands on a box" : "harder: knees off"}
          value={levels[side]}
          maxLength={40}
          autoFocus={side === "easier"}
          onChange={(e) => onChange({ ...levels, [side]: e.target.value })}
        />
      ))}
    </InlineForm>
  );
}

interface ConditionsProps {
  id: number;
  line: Line;
  chosen: Record<string, string>;
  onChoose: (chosen: Record<string, string>) => void;
  onLeave: () => void;
  onKeep: () => void;
}

/** Under what conditions a line is done: its loads come from marks under the same ones, and its sets are kept with them. */
function Conditions({ id, line, chosen, onChoose, onLeave, onKeep }: ConditionsProps) {
  const found = useExercise(line.exercise_id, id);
  return (
    <form
      className="replace d-flex flex-wrap gap-2 align-items-end"
      aria-label={`Grip, rack and equipment of ${line.slot}`}
      onKeyDown={(e) => e.key === "Escape" && onLeave()}
      onSubmit={(e) => {
        e.preventDefault();
        onKeep();
      }}
    >
      <ConditionFields kinds={found.data?.conditions ?? []} chosen={chosen} onChoose={onChoose} />
      <button type="submit" className="btn btn-plain btn-sm" disabled={!found.data}>
        Save
      </button>
      <button type="button" className="btn btn-link btn-sm" onClick={onLeave}>
        Cancel
      </button>
    </form>
  );
}

function Replace({ id, line, done, onTake }: { id: number; line: Line; done: () => void; onTake: (exercise: string) => void }) {
  const near = useExercise(line.exercise_id, id);
  const [typed, setTyped] = useState("");
  const take = (row: Schemas["ExerciseRow"]) => onTake(row.id);
  return (
    <div className="replace" role="group" aria-label={`In place of ${line.exercise}`} onKeyDown={(e) => e.key === "Escape" && done()}>
      {near.data?.substitutes.slice(0, 4).map((s) => (
        <button
          key={s.exercise_id}
          type="button"
          className="btn btn-link btn-sm p-0 d-block text-start"
          onClick={() => onTake(s.exercise_id)}
        >
          {s.exercise} <span className="soft">· {s.reason}</span>
        </button>
      ))}
      <ExercisePicker label={`In place of ${line.exercise}`} value={typed} chosen={null} onType={setTyped} onChoose={take} />
      <button type="button" className="btn btn-link btn-sm p-0" onClick={done}>
        Cancel
      </button>
    </div>
  );
}
