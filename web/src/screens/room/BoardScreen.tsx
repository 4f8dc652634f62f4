import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { keep, keys } from "../../api/keys";
import { send } from "../../api/outbox";
import { longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { useEvents } from "./useRoom";

type Board = Schemas["BoardOut"];
const KINDS = ["changed", "finished", "room", "jump", "split"];

/** One chosen number for the squad, readable from the other end of the hall. Who asks not to be shown is not on it. */
export default function BoardScreen() {
  const id = Number(useParams().id);
  const client = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [choosing, setChoosing] = useState(false);
  const found = useQuery({
    queryKey: keys.board(id),
    queryFn: () => need(api.GET("/api/room/{room_id}/board", { params: { path: { room_id: id } } })),
  });
  useEvents(id, found.data?.heard ?? null, "", KINDS, () => void client.invalidateQueries({ queryKey: keys.board(id) }));
  if (found.isPending) return <Loading what="the board" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const b = found.data;
  const write = (path: string, body: unknown) => {
    setProblem(null);
    send<Board>(`/api/room/${id}/board${path}`, body, (fresh) => keep(client, keys.board(id), fresh)).catch((e: unknown) =>
      setProblem(problemOf(e)),
    );
  };
  return (
    <div className="page board-page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1 className="mb-0">{b.title || "Board"}</h1>
          <p className="soft m-0">
            {b.squad} · {longDay(b.day)}
            {b.unit && ` · best of the day, ${b.unit}`}
          </p>
        </div>
        <div className="ms-auto d-flex gap-2">
          <Button variant="plain" className="tap" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
            What and who
          </Button>
          <Link className="btn btn-plain tap" to={`/room/${id}/racks`}>
            To the racks
          </Link>
        </div>
      </div>
      {problem && <Trouble problem={problem} />}
      {(choosing || !b.chosen) && <Choosing board={b} write={write} />}
      {b.chosen && b.rows.length === 0 && <p className="fs-4">Nobody has a number yet. The first set puts one here.</p>}
      {b.rows.length > 0 && (
        <ol className="wall-board">
          {b.rows.map((r) => (
            <li key={r.athlete_id}>
              <span className="place num">{r.place}</span>
              <span>{r.name}</span>
              <span className="num">
                {r.best} <small>{b.unit}</small>
              </span>
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

interface ChoosingProps {
  board: Board;
  write: (path: string, body: unknown) => void;
}

/** The number of the day, and who of those here is shown. */
function Choosing({ board: b, write }: ChoosingProps) {
  return (
    <div className="sheet pad mb-3">
      {b.choices.length === 0 ? (
        <p className="m-0">Nothing that is measured is in a session yet. Begin the sessions first.</p>
      ) : (
        <>
          <h2 className="fs-6">The one number of today</h2>
          <div className="d-flex flex-wrap gap-1 mb-2" role="group" aria-label="The one number of today">
            {b.choices.map((c) => (
              <Button
                key={c.key}
                variant={b.chosen === c.key ? "primary" : "plain"}
                className="tap"
                aria-pressed={b.chosen === c.key}
                onClick={() => write("", { key: b.chosen === c.key ? "" : c.key })}
              >
                {c.name}
              </Button>
            ))}
          </div>
        </>
      )}
      {b.people.length > 0 && (
        <>
          <h2 className="fs-6">Shown on the board, for as long as they do not ask otherwise</h2>
          <div className="d-flex flex-wrap gap-1" role="group" aria-label="Who is shown">
            {b.people.map((p) => (
              <Button
                key={p.athlete_id}
                variant={p.is_shown ? "primary" : "plain"}
                className="tap"
                aria-pressed={p.is_shown}
                onClick={() => write("/shown", { athlete_id: p.athlete_id, is_shown: !p.is_shown })}
              >
                {p.name}
                {!p.is_shown && " · not shown"}
              </Button>
            ))}
          </div>
        </>
      )}
    </div>
  );
}
