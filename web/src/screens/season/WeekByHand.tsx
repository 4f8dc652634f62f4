import { useState } from "react";
import Form from "react-bootstrap/Form";

import type { Schemas } from "../../api/client";
import type { Season } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { dayMonth } from "../../parts/dates";
import { NumberField } from "../../parts/NumberField";

interface Props {
  season: Season;
  onSet: (body: Schemas["HandWeekIn"]) => void;
  onEasy: (monday: string, easy: boolean | null) => void;
}

/** One week's volume, top and rhythm as the coach wants them; left empty it is as planned. */
export function WeekByHand({ season, onSet, onEasy }: Props) {
  const ahead = season.weeks.filter((w) => w.can_set);
  const [monday, setMonday] = useState("");
  const [volume, setVolume] = useState("");
  const [top, setTop] = useState("");
  const week = ahead.find((w) => w.start === monday);
  const number = (typed: string) => (typed.trim() ? typedNumber(typed) : null);
  if (ahead.length === 0) return null;
  function choose(start: string) {
    const chosen = ahead.find((w) => w.start === start);
    setMonday(start);
    setVolume(chosen ? String(Math.round(100 * chosen.volume)) : "");
    setTop(chosen ? String(chosen.intensity_pct) : "");
  }
  return (
    <form
      className="d-flex flex-wrap gap-2 align-items-end mb-3"
      aria-label="One week by hand"
      onSubmit={(e) => {
        e.preventDefault();
        if (week) onSet({ monday, volume_pct: number(volume), top_pct: number(top) });
      }}
    >
      <Form.Group controlId="hand-week">
        <Form.Label className="small mb-0">One week by hand</Form.Label>
        <Form.Select size="sm" value={monday} onChange={(e) => choose(e.target.value)}>
          <option value="">choose a week</option>
          {ahead.map((w) => (
            <option key={w.start} value={w.start}>
              {dayMonth(w.start)} · {w.phase_name}
              {w.is_by_hand ? " · set by you" : ""}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      {week && (
        <>
          <Form.Group controlId="hand-rhythm">
            <Form.Label className="small mb-0">It is</Form.Label>
            <Form.Select
              size="sm"
              value={week.set_by_hand ? (week.is_easy ? "easier" : "full") : ""}
              onChange={(e) => onEasy(monday, e.target.value === "" ? null : e.target.value === "easier")}
            >
              <option value="">{week.set_by_hand ? "as the rhythm has it" : `${week.is_easy ? "easier" : "full"}, by the rhythm`}</option>
              <option value="full">full</option>
              <option value="easier">easier</option>
            </Form.Select>
          </Form.Group>
          <NumberField label="Volume, % of a full week" width={150} value={volume} onChange={(e) => setVolume(e.target.value)} />
          <NumberField label="Top, %" width={84} value={top} onChange={(e) => setTop(e.target.value)} />
          <button type="submit" className="btn btn-plain btn-sm">
            Save
          </button>
          {week.is_by_hand && (
            <button type="button" className="btn btn-link btn-sm" onClick={() => onSet({ monday, volume_pct: null, top_pct: null })}>
              Back to the plan
            </button>
          )}
        </>
      )}
    </form>
  );
}
