import { Link, useNavigate, useParams } from "react-router";
import { useQuery } from "@tanstack/react-query";

import { api, need, type Schemas } from "../../api/client";
import { type Line, useMe, useSheet } from "../../api/hooks";
import { keys } from "../../api/keys";
import { send } from "../../api/outbox";
import { useAction } from "../../api/useAction";
import { kg, longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";

/** An athlete's own session: what is done, with its loads, to be read on a phone. */
export default function MySession() {
  const me = useMe();
  const id = me.data?.athlete_id ?? 0;
  const { day = "", key = "" } = useParams();
  const navigate = useNavigate();
  const sheet = useSheet(id, day, key);
  const mine = useQuery({ queryKey: keys.mine, queryFn: () => need(api.GET("/api/mine")) });
  const start = useAction(() => send<Schemas["FloorOut"]>("/api/floor/sessions", { athlete_id: id, day, key, as_today: false }), {
    after: (_, floor) => void navigate(`/floor/${floor.id}`),
  });
  if (sheet.isPending) return <Loading what="your session" />;
  if (sheet.isLoadingError) return <Failed error={sheet.error} again={() => void sheet.refetch()} />;
  const s = sheet.data;
  const blocks = [...new Set(s.lines.map((l) => l.block))];
  return (
    <div className="page" style={{ maxWidth: 560, margin: "0 auto" }}>
      <Link to="/">My training</Link>
      <h1>{s.theme}</h1>
      <p className="soft">
        {longDay(s.day)} · {Math.round(s.minutes)} min
      </p>
      {start.problem && <Trouble problem={start.problem} />}
      {blocks.map((block) => (
        <section key={block} className="sheet pad mb-2" aria-label={block}>
          <h2 className="fs-6 soft">{block}</h2>
          {s.lines
            .filter((l) => l.block === block)
            .map((l) => (
              <Exercise key={l.id} line={l} />
            ))}
        </section>
      ))}
      {mine.data?.may_log && s.is_today && s.state === "planned" && (
        <button type="button" className="btn btn-primary tap w-100" disabled={start.isPending} onClick={() => start.run(undefined)}>
          Start
        </button>
      )}
      {s.session_id && (
        <Link
          className="btn btn-primary tap w-100"
          to={s.state === "finished" ? `/floor/${s.session_id}/review` : `/floor/${s.session_id}`}
        >
          {s.state === "finished" ? "What was done" : "Resume"}
        </Link>
      )}
    </div>
  );
}

function Exercise({ line }: { line: Line }) {
  const loads = [...new Set(line.sets.map((x) => x.load_kg).filter((x): x is number => x !== null && x !== undefined))];
  return (
    <div className="py-2 border-top">
      <div className="d-flex gap-2">
        <b>{line.slot}</b>
        <b>{line.exercise}</b>
        {loads.length > 0 && <b className="ms-auto num nowrap">{loads.map((x) => kg(x)).join(" · ")} kg</b>}
      </div>
      <div>{line.text}</div>
      {line.cue && <div className="soft small">{line.cue}</div>}
      {line.cautions.map((c) => (
        <div key={c} className="small clay">
          {c}
        </div>
      ))}
    </div>
  );
}
