import { useState } from "react";
import Form from "react-bootstrap/Form";

import type { Schemas } from "../../api/client";
import type { Season } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { dayMonth } from "../../parts/dates";
import { NumberField } from "../../parts/NumberField";

/** One week's volume and top as the coach wants them; left empty it is as planned. */
export function WeekByHand({ season, onSet }: { season: Season; onSet: (body: Schemas["HandWeekIn"]) => void }) {
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
          <NumberField label="Volume, % of a full week" width={150} value={volume} onChange={(e) => setVolume(e.target.value)} />
          <NumberField label="Top, %" width={84} value={top} onChange={(e) => setTop(e.target.value)} />
          <button type="submit" className="btn btn-plain btn-sm">
            Set it
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
