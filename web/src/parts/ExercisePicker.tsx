import { useId, useMemo, useRef, useState, type Ref } from "react";

import type { Schemas } from "../api/client";
import { useLibrary } from "../api/hooks";

type Row = Schemas["ExerciseRow"];
const SHOWN = 8;

/** Every word typed has to be among those it is found by; names that begin with it come first. */
export function matching(rows: Row[], typed: string): Row[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  return rows
    .filter((r) => words.every((w) => r.found_by.includes(w)))
    .sort((a, b) => rank(a, words) - rank(b, words) || a.name.length - b.name.length);
}

function rank(row: Row, words: string[]): number {
  const name = row.name.toLowerCase();
  if (name === words.join(" ") || row.also_called.includes(words.join(" "))) return 0;
  if (name.startsWith(words[0] ?? "")) return 1;
  return words.every((w) => name.includes(w)) ? 2 : 3;
}

interface Props {
  label: string;
  value: string;
  chosen: Row | null;
  onType: (text: string) => void;
  onChoose: (row: Row) => void;
  inputRef?: Ref<HTMLInputElement>;
  isLarge?: boolean;
}

/** Finding an exercise as one types: arrows go through the list, Enter takes one. */
export function ExercisePicker({ label, value, chosen, onType, onChoose, inputRef, isLarge = false }: Props) {
  const library = useLibrary();
  const listId = useId();
  const [at, setAt] = useState(0);
  const found = useMemo(
    () => (chosen ? [] : matching(library.data?.exercises ?? [], value).slice(0, SHOWN)),
    [library.data, value, chosen],
  );
  const open = found.length > 0;
  const take = (row: Row | undefined) => {
    if (row) onChoose(row);
    setAt(0);
  };
  /** Enter came before the exercises did: the first is taken when they are there, unless something else is typed by then. */
  const typedLast = useRef(value);
  const takeWhenRead = async () => {
    const { data } = await library.refetch({ cancelRefetch: false });
    if (typedLast.current === value) take(matching(data?.exercises ?? [], value)[0]);
  };
  return (
    <div className="picker">
      <input
        ref={inputRef}
        className={isLarge ? "form-control tap" : "form-control form-control-sm"}
        role="combobox"
        aria-label={label}
        aria-expanded={open}
        aria-controls={listId}
        aria-activedescendant={open ? `${listId}-${at}` : undefined}
        autoComplete="off"
        placeholder={label}
        value={value}
        onChange={(e) => {
          onType(e.target.value);
          setAt(0);
          typedLast.current = e.target.value;
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter" && library.isLoading && value.trim() && !chosen) {
            e.preventDefault();
            void takeWhenRead();
          }
          if (!open) return;
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            setAt((n) => (n + (e.key === "ArrowDown" ? 1 : found.length - 1)) % found.length);
          } else if (e.key === "Enter") {
            e.preventDefault();
            take(found[at]);
          } else if (e.key === "Tab") take(found[at]);
        }}
      />
      <ul id={listId} role="listbox" aria-label="Exercises found" hidden={!open}>
        {found.map((row, i) => (
          <li
            key={row.id}
            id={`${listId}-${i}`}
            role="option"
            aria-selected={i === at}
            onMouseDown={(e) => (e.preventDefault(), take(row))}
          >
            {row.name} <span className="soft">· {row.pattern.replace("_", " ")}</span>
          </li>
        ))}
      </ul>
      {value.trim().length > 2 && !open && !chosen && library.isSuccess && (
        <div className="small soft">Nothing is called that. The library has a form for your own.</div>
      )}
    </div>
  );
}
