import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { problemOf, type Problem, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { send } from "../../api/outbox";
import type { Floor } from "../../api/hooks";
import { Failed, Loading } from "../../parts/states";
import { ClockFace } from "../room/ClockFace";
import { FinishPanel } from "./FinishPanel";
import { NowPanel } from "./NowPanel";
import { Overview } from "./Overview";
import { PainNotes } from "./PainNotes";
import { Side } from "./Side";
import { stepNow } from "./Step";
import { TopBar } from "./TopBar";
import { LogTrouble } from "./TwoWords";
import { useOwnClock } from "./useOwnClock";
import { type Live, useFloor } from "./useFloor";
import { useWithWaiting } from "./waiting";

export default function FloorScreen() {
  const id = Number(useParams().id);
  const live = useFloor(id);
  const { floor } = live;
  const view = useWithWaiting(floor.data);
  if (floor.isPending) return <Loading what="the session" />;
  if (floor.isLoadingError) return <Failed error={floor.error} again={() => void floor.refetch()} />;
  return <FloorView id={id} floor={view ?? floor.data} live={live} />;
}

function FloorView({ id, floor, live }: { id: number; floor: Floor; live: Live }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [logged, setLogged] = useState<Schemas["LogSet"] | null>(null);
  const [finishing, setFinishing] = useState(false);
  const [busy, setBusy] = useState(0);
  const line = floor.lines.find((l) => l.id === floor.current?.line_id);
  const set = line?.sets.find((s) => s.kind === floor.current?.kind && s.number === floor.current.number);
  const step = stepNow(floor);
  const own = useOwnClock(id);
  const run = <T,>(work: Promise<T>) => {
    setProblem(null);
    setBusy((n) => n + 1);
    return work
      .catch((e: unknown) => {
        setProblem(problemOf(e));
        throw e;
      })
      .finally(() => setBusy((n) => n - 1));
  };
  const instead = (lineId: number, exerciseId: string) => run(live.write(`lines/${lineId}/instead`, { exercise_id: exerciseId }));
  const undo = () => void run(live.write("undo", {})).catch(() => undefined);
  async function finish(srpe: number | null, minutes: number | null) {
    await run(live.write("finish", { srpe, minutes }));
    void navigate(`/floor/${id}/review`);
    void stale.afterSession(client);
  }

  async function cancel(reason: string) {
    const was = await run(send<Schemas["CancelledOut"]>(`/api/floor/sessions/${id}/cancel`, { reason }));
    await stale.afterSession(client);
    void navigate(was.is_planned ? `/athletes/${was.athlete_id}/session/${was.day}/${was.key}` : "/floor");
  }

  return (
    <>
      <TopBar floor={floor} live={live} onUndo={undo} onFinish={() => setFinishing(true)} />
      <div className="floor">
        <Overview floor={floor} />
        <section className="floor-now" aria-label="This set">
          {problem && (
            <div className="mb-2">
              <LogTrouble
                problem={problem}
                mine={logged}
                onKeep={() => setProblem(null)}
                onMine={(body) => void run(live.write("sets/correct", body)).catch(() => undefined)}
              />
            </div>
          )}
          <div className="d-lg-none">
            <PainNotes floor={floor} onInstead={instead} />
          </div>
          {own.clock && !floor.finished && <ClockFace clock={own.clock} compact onAct={own.act} />}
          {floor.finished ? (
            <Finished id={id} />
          ) : finishing || !line || !set || !step ? (
            <FinishPanel
              floor={floor}
              allDone={!line}
              onFinish={(srpe, minutes) => void finish(srpe, minutes).catch(() => undefined)}
              onBack={() => setFinishing(false)}
              onCancel={(reason) => void cancel(reason).catch(() => undefined)}
              write={(path, body) => run(live.write(path, body))}
            />
          ) : (
            <NowPanel
              key={`${line.id}${set.kind}${set.number}`}
              floor={floor}
              line={line}
              set={set}
              step={step}
              onClock={own.clock ? null : own.start}
              live={live}
              run={run}
              onLog={(body) => {
                setLogged(body);
                return run(live.write("sets", body));
              }}
              busy={busy > 0}
              confirm={problem?.status === 428}
            />
          )}
        </section>
        <Side floor={floor} line={line} live={live} run={run} onInstead={instead} />
      </div>
    </>
  );
}

function Finished({ id }: { id: number }) {
  return (
    <div>
      <h1>This session is finished.</h1>
      <Link className="btn btn-primary tap" to={`/floor/${id}/review`}>
        Planned against done
      </Link>
    </div>
  );
}
