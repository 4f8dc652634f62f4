import Button from "react-bootstrap/Button";

import type { Problem, Schemas } from "../../api/client";
import { Trouble } from "../../parts/states";

interface Props {
  problem: Problem;
  mine: Schemas["LogSet"] | null;
  onKeep: () => void;
  onMine: (body: Schemas["CorrectSet"]) => void;
}

/** What was wrong with a write. Where two people logged one set and said different things, both are shown and somebody chooses. */
export function LogTrouble({ problem, mine, onKeep, onMine }: Props) {
  const seen = problem.stored_id;
  if (seen === null || seen === undefined || !mine) return <Trouble problem={problem} />;
  const load = mine.load !== null ? `${mine.load} ${mine.unit} × ` : "";
  const left = mine.rir !== null ? `, ${mine.rir} left` : "";
  return (
    <div className="trouble" role="alert">
      <b>Two different words on one set.</b>
      <div>Stored: {problem.stored}</div>
      <div>
        Yours: {load}
        {mine.reps}
        {left}
      </div>
      <div className="d-flex gap-2 mt-1">
        <Button variant="plain" className="tap flex-fill" onClick={onKeep}>
          Keep what is stored
        </Button>
        <Button variant="plain" className="tap flex-fill" onClick={() => onMine({ ...mine, seen_id: seen })}>
          Use mine
        </Button>
      </div>
    </div>
  );
}
