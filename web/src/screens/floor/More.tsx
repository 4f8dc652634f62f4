import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link } from "react-router";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import type { Floor, FloorLine, FloorSet } from "../../api/hooks";
import { rackHeaders } from "../../api/outbox";
import { Failed, Loading } from "../../parts/states";
import { AddExercise } from "./AddExercise";
import { FinishHere } from "./FinishHere";

type Write = (path: string, body: unknown) => Promise<unknown>;

interface Props {
  floor: Floor;
  line: FloorLine;
  set: FloorSet;
  write: Write;
  /** Leaving the rack, where there is one to leave. */
  onLeave?: () => void;
  /** Another row of the same kind: who joins. */
  join?: { link: React.ReactNode; panel: React.ReactNode };
  /** Only where the person may finish a session and look at the athlete. */
  full?: boolean;
}

/** What else may be done with the set that is up: pass it over, or one of the rarer things behind one more tap. */
export function More({ floor, line, set, write, onLeave, join, full = false }: Props) {
  const [open, setOpen] = useState(false);
  const skip = () => void write(`lines/${line.id}/skip`, { kind: set.kind, number: set.number }).catch(() => undefined);
  return (
    <div className="more">
      <div className="d-flex flex-wrap column-gap-3">
        <Button variant="link" className="tap p-0" onClick={skip}>
          Skip this {set.kind === "ramp" ? "warm-up" : "set"}
        </Button>
        <Button variant="link" className="tap p-0" aria-expanded={open} onClick={() => setOpen(!open)}>
          More …
        </Button>
        {join?.link}
      </div>
      {open && <Menu floor={floor} line={line} write={write} onLeave={onLeave} full={full} onDone={() => setOpen(false)} />}
      {join?.panel}
    </div>
  );
}

interface MenuProps extends Omit<Props, "set" | "join"> {
  onDone: () => void;
}

function Menu({ floor, line, write, onLeave, full, onDone }: MenuProps) {
  const [shown, setShown] = useState<"" | "swap" | "finish" | "add">("");
  const [busy, setBusy] = useState(false);
  const act = (path: string, body: unknown = {}) => {
    setBusy(true);
    write(path, body)
      .then(onDone, () => undefined)
      .finally(() => setBusy(false));
  };
  const show = (what: typeof shown) => setShown(shown === what ? "" : what);
  return (
    <div role="group" aria-label={`More for ${line.slot} ${line.exercise}`}>
      <div className="more-grid">
        <Button variant="plain" className="tap" disabled={busy} onClick={() => act(`lines/${line.id}/more`)}>
          One more set
        </Button>
        <Button variant="plain" className="tap" aria-expanded={shown === "swap"} onClick={() => show("swap")}>
          Other exercise
        </Button>
        {floor.stop_reasons.map((r) => (
          <Button
            key={r.key}
            variant="plain"
            className="tap"
            disabled={busy}
            onClick={() => act(`lines/${line.id}/stop`, { reason: r.key })}
          >
            Stop lift: {r.name.toLowerCase()}
          </Button>
        ))}
        {onLeave && (
          <Button variant="plain" className="tap" onClick={onLeave}>
            Leaves the rack
          </Button>
        )}
        {full && (
          <>
            <Button variant="plain" className="tap" aria-expanded={shown === "add"} onClick={() => show("add")}>
              Add an exercise
            </Button>
            <Button variant="plain" className="tap" aria-expanded={shown === "finish"} onClick={() => show("finish")}>
              Finish session
            </Button>
            <Link className="btn btn-plain tap" to={`/athletes/${floor.athlete_id}`}>
              Athlete’s card
            </Link>
          </>
        )}
      </div>
      {shown === "swap" && (
        <Swaps session={floor.id} line={line} busy={busy} onSwap={(id) => act(`lines/${line.id}/swap`, { exercise_id: id })} />
      )}
      {shown === "finish" && <FinishHere floor={floor} write={write} onDone={onDone} />}
      {shown === "add" && <AddExercise write={write} onDone={onDone} />}
    </div>
  );
}

interface SwapProps {
  session: number;
  line: FloorLine;
  busy: boolean;
  onSwap: (exercise_id: string) => void;
}

/** What may be done in its place, the closest first. */
function Swaps({ session, line, busy, onSwap }: SwapProps) {
  const found = useQuery({
    queryKey: keys.swaps(session, line.id),
    queryFn: () =>
      need(
        api.GET("/api/floor/sessions/{session_id}/lines/{line_id}/swaps", {
          params: { path: { session_id: session, line_id: line.id } },
          headers: rackHeaders(),
        }),
      ),
    staleTime: 0,
  });
  if (found.isPending) return <Loading what="the substitutes" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  if (found.data.length === 0) return <p className="small my-2">Nothing here comes near it.</p>;
  return (
    <div className="d-flex flex-column gap-1 mt-2" role="group" aria-label={`In place of ${line.exercise}`}>
      {found.data.map((x) => (
        <Button key={x.exercise_id} variant="plain" className="tap text-start" disabled={busy} onClick={() => onSwap(x.exercise_id)}>
          {x.name} <span className="soft small fw-normal">{x.reason}</span>
        </Button>
      ))}
    </div>
  );
}
