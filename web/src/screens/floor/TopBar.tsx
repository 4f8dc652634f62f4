import Button from "react-bootstrap/Button";

import type { Floor } from "../../api/hooks";
import { clock, toCompetition } from "../../parts/dates";
import { Heard } from "../../parts/Unsent";
import { useNow } from "../../parts/useNow";
import type { Live } from "./useFloor";

interface TopBarProps {
  floor: Floor;
  live: Live;
  onUndo: () => void;
  onFinish: () => void;
}

export function TopBar({ floor, live, onUndo, onFinish }: TopBarProps) {
  const now = useNow(500);
  const since = (iso: string) => (now - Date.parse(iso)) / 1000;
  const started = since(floor.started_at);
  const resting = floor.last_done_at ? since(floor.last_done_at) : null;
  const long = started > 4 * 3600;
  const waited = resting === null || long ? "" : resting > 1800 ? "over 30 min" : clock(resting);
  return (
    <div className="floor-bar">
      <span className="clock" aria-label="Session clock">
        {floor.finished || long ? "–" : clock(started)}
      </span>
      <span className="lab">
        of {floor.minutes_there} min
        <br />
        {floor.sets_left} work sets left
      </span>
      <span className="lab">
        since the last set
        <br />
        <b className="num" style={{ fontSize: "1.15rem" }}>
          {waited || "–"} {waited && floor.rest_s ? `of ${clock(floor.rest_s)} rest` : ""}
        </b>
      </span>
      <span className="lab">
        <b>{floor.athlete_name}</b>
        {floor.plan !== "A" && ` · plan ${floor.plan} today`}
        <br />
        {[floor.theme, floor.phase_name, floor.days_to_go === null ? "" : toCompetition(floor.days_to_go)].filter(Boolean).join(" · ")}
      </span>
      <span className="ms-auto d-flex gap-2 align-items-center">
        <Heard connected={live.connected} />
        <Button onClick={onUndo} disabled={floor.finished}>
          Undo
        </Button>
        <Button onClick={onFinish} disabled={floor.finished}>
          Finish
        </Button>
      </span>
    </div>
  );
}
