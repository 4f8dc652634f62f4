import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import { problemOf, type Problem } from "../../api/client";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Trouble } from "../../parts/states";

interface Props {
  write: (path: string, body: unknown) => Promise<unknown>;
  onDone: () => void;
}

/** One more exercise behind all others, written as on a sheet. */
export function AddExercise({ write, onDone }: Props) {
  const [typed, setTyped] = useState("");
  const [chosen, setChosen] = useState<Schemas["ExerciseRow"] | null>(null);
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const add = () => {
    setProblem(null);
    write("lines", { exercise_id: chosen?.id, text }).then(onDone, (e: unknown) => setProblem(problemOf(e)));
  };
  return (
    <form
      className="mt-2 d-flex flex-wrap gap-2 align-items-start"
      aria-label="Add an exercise"
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <div className="flex-grow-1">
        <ExercisePicker
          label="Exercise"
          isLarge
          value={chosen?.name ?? typed}
          chosen={chosen}
          onType={(t) => {
            setTyped(t);
            setChosen(null);
          }}
          onChoose={setChosen}
        />
      </div>
      <input
        className="form-control tap num"
        style={{ width: 170 }}
        aria-label="Sets, repetitions and load"
        placeholder="3x5 @ 75 %"
        value={text}
        required
        onChange={(e) => setText(e.target.value)}
      />
      <Button type="submit" className="tap" disabled={!chosen}>
        Add
      </Button>
      {problem && <Trouble problem={problem} />}
    </form>
  );
}
