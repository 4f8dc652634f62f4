import { useRef, useState, type Ref } from "react";

import type { Schemas } from "../../api/client";
import { type Sheet, useSheetEdit } from "../../api/hooks";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Trouble } from "../../parts/states";

/** A line added by typing: exercise, then how it stands on the board, then its block. Enter adds it, and the next can be typed. */
export function AddLine({ id, sheet, focusRef }: { id: number; sheet: Sheet; focusRef: Ref<HTMLInputElement> }) {
  const last = sheet.blocks.at(-1)?.title;
  const [typed, setTyped] = useState("");
  const [chosen, setChosen] = useState<Schemas["ExerciseRow"] | null>(null);
  const [text, setText] = useState("");
  const [block, setBlock] = useState<string | null>(null);
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const { problem } = edit;
  const textRef = useRef<HTMLInputElement>(null);
  const name = block ?? last ?? "Main";
  const add = () => {
    if (!chosen) return;
    edit.run(
      {
        op: "add",
        exercise_id: chosen.id,
        text,
        block: name,
      },
      () => {
        setTyped("");
        setChosen(null);
        setText("");
        (focusRef as React.RefObject<HTMLInputElement | null>).current?.focus();
      },
    );
  };
  return (
    <form
      className="add-line"
      aria-label="Add a line"
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <ExercisePicker
        label="Exercise"
        value={typed}
        chosen={chosen}
        inputRef={focusRef}
        onType={(value) => {
          setTyped(value);
          setChosen(null);
        }}
        onChoose={(row) => {
          setChosen(row);
          setTyped(row.name);
          textRef.current?.focus();
        }}
      />
      <input
        ref={textRef}
        className="form-control form-control-sm"
        aria-label="Sets, reps and load"
        placeholder={chosen ? "4 × 3 @ 82 %, or empty for the usual" : "sets × reps and load"}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <input
        className="form-control form-control-sm"
        aria-label="Block"
        list="blocks-here"
        value={name}
        maxLength={60}
        onChange={(e) => setBlock(e.target.value)}
      />
      <datalist id="blocks-here">
        {sheet.blocks.map((b) => (
          <option key={b.name} value={b.title} />
        ))}
        <option value="Prepare" />
      </datalist>
      <button type="submit" className="btn btn-plain btn-sm" disabled={!chosen || edit.isPending}>
        Add
      </button>
      {problem && <Trouble problem={problem} />}
    </form>
  );
}
