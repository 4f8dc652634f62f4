import Button from "react-bootstrap/Button";

import type { Floor } from "../../api/hooks";

interface StillProps {
  floor: Floor;
  onStop: () => void;
  onMore: (lineId: number) => void;
}

/** Where a line is written with a range of sets: one more, once its least are done. */
export function GoesOn({ floor, onMore }: Pick<StillProps, "floor" | "onMore">) {
  const line = floor.goes_on;
  if (!line) return null;
  return (
    <div className="note">
      {line.words}
      <Button variant="plain" className="tap ms-2" onClick={() => onMore(line.line_id)}>
        One more set
      </Button>
    </div>
  );
}

/** Said once the main work is over, what may go when the hour is short, and something light for a long rest. */
export function Still({ floor, onStop, onMore }: StillProps) {
  const cut = floor.left.may_cut;
  return (
    <>
      <GoesOn floor={floor} onMore={onMore} />
      {floor.asks_to_stop && (
        <div className="note">
          The main work is done. Stop here, or go on with the rest.
          <Button variant="plain" className="tap ms-2" onClick={onStop}>
            Stop here
          </Button>
        </div>
      )}
      {cut.length > 0 && (
        <p className="small m-0">
          <b>{floor.left.minutes} min left of the session.</b> May go: {cut.join(", ")}
        </p>
      )}
      {floor.light_task && <p className="small soft m-0">In the rest, easy: {floor.light_task.toLowerCase()}</p>}
    </>
  );
}
