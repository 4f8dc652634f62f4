import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import Modal from "react-bootstrap/Modal";
import { useNavigate } from "react-router";

import { api, need, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { useHotkeys } from "./useHotkeys";

type Found = Schemas["FoundOut"];
const KEYS: [key: string, words: string][] = [
  ["f", "find anything"],
  ["?", "what this page is for"],
  ["u", "take the last change back"],
  ["/", "add a line to a session"],
  ["b", "write whole blocks"],
  ["g", "group a block"],
  ["n", "to the notes in the margin"],
  ["p", "print"],
  ["+", "a session on the next free day of a week"],
];

/** Finding anything from anywhere by one key: an athlete, a squad, a day, an exercise, a setting, a page. */
export function Find({ athleteId }: { athleteId: number | null }) {
  const [isOpen, setOpen] = useState(false);
  useHotkeys({ f: () => setOpen(true) }, !isOpen);
  return (
    <>
      <button type="button" className="btn btn-plain btn-sm" aria-label="Find anything (key f)" onClick={() => setOpen(true)}>
        Find
      </button>
      <Modal show={isOpen} animation={false} onHide={() => setOpen(false)} aria-label="Find anything">
        <Search athleteId={athleteId} onDone={() => setOpen(false)} />
      </Modal>
    </>
  );
}

function Search({ athleteId, onDone }: { athleteId: number | null; onDone: () => void }) {
  const navigate = useNavigate();
  const listId = useId();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const asked = text.trim();
  const found = useQuery({
    queryKey: keys.find(asked, athleteId),
    enabled: asked !== "",
    placeholderData: keepPreviousData,
    queryFn: () => need(api.GET("/api/find", { params: { query: { text: asked, athlete: athleteId } } })),
  });
  const rows = asked ? (found.data ?? []) : [];
  const go = (row: Found | undefined) => {
    if (!row) return;
    onDone();
    void navigate(row.path);
  };
  return (
    <div className="p-3">
      <input
        className="form-control"
        type="search"
        role="combobox"
        aria-label="Find anything"
        aria-expanded={rows.length > 0}
        aria-controls={listId}
        aria-activedescendant={rows.length > 0 ? `${listId}-${at}` : undefined}
        placeholder="athlete, squad, exercise, page, or a name and a day"
        autoComplete="off"
        autoFocus
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            if (rows.length > 0) setAt((n) => (n + (e.key === "ArrowDown" ? 1 : rows.length - 1)) % rows.length);
          } else if (e.key === "Enter") go(rows[at]);
        }}
      />
      <ul id={listId} role="listbox" aria-label="What was found" className="find-list" hidden={rows.length === 0}>
        {rows.map((row, i) => (
          <li
            key={`${row.kind}${row.path}`}
            id={`${listId}-${i}`}
            role="option"
            aria-selected={i === at}
            className={i === at ? "on" : undefined}
            onMouseEnter={() => setAt(i)}
            onClick={() => go(row)}
          >
            <span className="soft small">{row.kind}</span> <b>{row.name}</b> <span className="soft">{row.words}</span>
          </li>
        ))}
      </ul>
      {asked && found.isSuccess && !found.isPlaceholderData && rows.length === 0 && (
        <p className="soft mt-2 mb-0" role="status">
          Nothing is called “{asked}”.
        </p>
      )}
      {!asked && (
        <dl className="find-keys small mb-0">
          {KEYS.map(([key, words]) => (
            <div key={key}>
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      )}
    </div>
  );
}
