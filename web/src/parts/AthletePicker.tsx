import { useId, useState } from "react";
import Dropdown from "react-bootstrap/Dropdown";
import { useLocation, useNavigate } from "react-router";

import { useNames } from "../api/hooks";

const SEARCHED_FROM = 12; // a list this long is found by typing

interface Props {
  athleteId: number | null;
  /** What is done with the one chosen; without it the page of that athlete is shown. */
  onChoose?: (id: number) => void;
  label?: string;
}

/** Whose season, week or session is shown, or whom a form is about: chosen from the squads, or by typing a part of the name. */
export function AthletePicker({ athleteId, onChoose, label }: Props) {
  const { data } = useNames();
  const navigate = useNavigate();
  const location = useLocation();
  const searchId = useId();
  const [isOpen, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const all = data?.flatMap((s) => s.athletes) ?? [];
  const current = all.find((a) => a.id === athleteId);
  const part = /^\/athletes\/\d+\/(season|week|session|standing|tests|record)/.exec(location.pathname)?.[1];
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const squads = (data ?? [])
    .map((s) => ({
      ...s,
      athletes: s.athletes.filter((a) => words.every((w) => `${a.name} ${a.group} ${s.name}`.toLowerCase().includes(w))),
    }))
    .filter((s) => s.athletes.length > 0);
  const first = squads[0]?.athletes[0];
  const go = (id: number) => {
    toggle(false);
    if (onChoose) onChoose(id);
    else void navigate(`/athletes/${id}${part ? `/${part}` : ""}`);
  };
  const toggle = (open: boolean) => {
    setOpen(open);
    setTyped("");
  };
  return (
    <Dropdown align={onChoose ? "start" : "end"} show={isOpen} onToggle={toggle}>
      <Dropdown.Toggle
        variant="plain"
        size={onChoose ? undefined : "sm"}
        className={onChoose && "tap"}
        id={onChoose ? `${searchId}-who` : "who"}
        aria-label={label && `${label}: ${current?.name ?? "none chosen"}`}
      >
        {current ? current.name : "Choose an athlete"}
      </Dropdown.Toggle>
      <Dropdown.Menu style={{ maxHeight: 420, overflowY: "auto" }}>
        {all.length > SEARCHED_FROM && (
          <div className="px-3 py-1">
            <label className="visually-hidden" htmlFor={searchId}>
              Find an athlete by name
            </label>
            <input
              id={searchId}
              className="form-control form-control-sm"
              type="search"
              autoComplete="off"
              placeholder="Name, group or squad"
              autoFocus
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
              onKeyDown={(e) => {
                if (e.key === "Enter" && first && typed) go(first.id);
              }}
            />
          </div>
        )}
        {squads.map((squad) => (
          <div key={squad.id}>
            <Dropdown.Header>{squad.name}</Dropdown.Header>
            {squad.athletes.map((a) => (
              <Dropdown.Item key={a.id} as="button" active={a.id === athleteId} onClick={() => go(a.id)}>
                {a.name}
              </Dropdown.Item>
            ))}
          </div>
        ))}
        {typed && squads.length === 0 && <p className="soft small px-3 m-0">Nobody is called “{typed}”.</p>}
      </Dropdown.Menu>
    </Dropdown>
  );
}
