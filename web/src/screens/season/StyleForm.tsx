import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { NumberField } from "../../parts/NumberField";
import type { Season } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";

interface Props {
  season: Season;
  answer: Schemas["SeasonAnswer"];
  pending: boolean;
  onSet: (style: Schemas["StyleIn"]) => void;
}

/** The arrangement over time and the rhythm of easier weeks, for the athlete, the group or the squad. */
export function StyleForm({ season, answer, pending, onSet }: Props) {
  const s = season.style;
  const [arrangement, setArrangement] = useState(s.arrangement);
  const [rhythm, setRhythm] = useState(s.loading_weeks === null ? "" : String(s.loading_weeks));
  const now = s.taper ?? s.usual_taper;
  const [days, setDays] = useState(String(now.days));
  const [depth, setDepth] = useState(String(now.depth_pct));
  const [shape, setShape] = useState(now.shape);
  const taper = { ...now, days: typedNumber(days) ?? 0, depth_pct: typedNumber(depth) ?? 0, shape };
  const [scope, setScope] = useState("athlete");
  const own = arrangement === s.arrangement ? !sameTaper(taper, s.usual_taper) : s.taper !== null || !sameTaper(taper, now);
  const usual = s.usual_loading_weeks ? `${s.usual_loading_weeks}:1, as usual` : "as it comes, as usual";
  return (
    <form
      className="d-flex flex-wrap gap-2 align-items-end mb-3"
      aria-label="How the season is arranged"
      onSubmit={(e) => {
        e.preventDefault();
        onSet({ arrangement, loading_weeks: rhythm === "" ? null : Number(rhythm), taper: own ? taper : null, scope });
      }}
    >
      <Form.Group controlId="style-arrangement">
        <Form.Label className="small mb-0">
          Season model <Link to="/arrangements">what each is for</Link>
        </Form.Label>
        <Form.Select size="sm" value={arrangement} onChange={(e) => setArrangement(e.target.value)}>
          {answer.arrangements.map((a) => (
            <option key={a.id} value={a.id}>
              {a.name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="style-rhythm">
        <Form.Label className="small mb-0">Deload weeks</Form.Label>
        <Form.Select size="sm" value={rhythm} onChange={(e) => setRhythm(e.target.value)}>
          <option value="">{arrangement === s.arrangement ? usual : "as the season model has them"}</option>
          <option value="2">2:1</option>
          <option value="3">3:1</option>
          <option value="4">4:1</option>
          <option value="0">none planned, as it comes</option>
        </Form.Select>
      </Form.Group>
      <NumberField label="Taper, days" isWhole width={84} value={days} onChange={(e) => setDays(e.target.value)} />
      <NumberField label="Volume off, %" width={92} value={depth} onChange={(e) => setDepth(e.target.value)} />
      <Form.Group controlId="style-taper-shape">
        <Form.Label className="small mb-0">
          How it falls <Link to={`/athletes/${season.athlete_id}/tapers`}>compare</Link>
        </Form.Label>
        <Form.Select size="sm" value={shape} onChange={(e) => setShape(e.target.value)}>
          {s.shapes.map((shape) => (
            <option key={shape} value={shape}>
              {shape}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="style-scope">
        <Form.Label className="small mb-0">For</Form.Label>
        <Form.Select size="sm" value={scope} onChange={(e) => setScope(e.target.value)}>
          <option value="athlete">{season.athlete_name}</option>
          {answer.group && <option value="group">all {answer.group}</option>}
          <option value="squad">all of {answer.squad_name}</option>
        </Form.Select>
      </Form.Group>
      <Button size="sm" type="submit" variant="plain" disabled={pending}>
        Apply
      </Button>
      {s.usual_taper_because && (
        <p className="small soft m-0 w-100">
          Taper: {s.taper === null ? "" : "set here; else "}
          <Link to={`/learning/athlete/${season.athlete_id}`}>{s.usual_taper_because}</Link>
        </p>
      )}
    </form>
  );
}

function sameTaper(a: Schemas["TaperOut"], b: Schemas["TaperOut"]): boolean {
  return a.days === b.days && a.shape === b.shape && a.depth_pct === b.depth_pct && a.frequency_pct === b.frequency_pct;
}
