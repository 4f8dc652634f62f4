import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { rackHeaders } from "../../api/outbox";
import { Failed, Loading, Trouble } from "../../parts/states";

interface Props {
  roomId: number;
  rack: number;
  title: string;
  join: (body: Schemas["JoinIn"]) => Promise<unknown>;
}

type Asked = Pick<Schemas["JoinerOut"], "athlete_id" | "name">;

/** Anybody may come to a rack: one tap opens the list, one tap on a name puts them here and begins their session. */
export function useJoin(props: Props): { link: React.ReactNode; panel: React.ReactNode } {
  const [open, setOpen] = useState(false);
  return {
    link: (
      <Button variant="link" className="tap p-0" aria-expanded={open} onClick={() => setOpen(!open)}>
        Somebody joins …
      </Button>
    ),
    panel: open && <Who {...props} onDone={() => setOpen(false)} />,
  };
}

function Who({ roomId, rack, title, join, onDone }: Props & { onDone: () => void }) {
  const found = useQuery({
    queryKey: keys.joining(roomId, rack),
    queryFn: () =>
      need(
        api.GET("/api/room/{room_id}/racks/{rack}/joining", {
          params: { path: { room_id: roomId, rack } },
          headers: rackHeaders(),
        }),
      ),
    staleTime: 0,
  });
  const [asking, setAsking] = useState<Asked | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [typed, setTyped] = useState("");
  if (found.isPending) return <Loading what="who may join" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const go = (body: Schemas["JoinIn"]) => {
    setProblem(null);
    join(body).then(onDone, (e: unknown) => setProblem(problemOf(e)));
  };
  if (asking) return <Without joining={found.data} who={asking} go={go} problem={problem} onBack={() => setAsking(null)} />;
  const words = typed.toLowerCase();
  const people = found.data.people.filter((p) => p.name.toLowerCase().includes(words));
  const guests = words ? found.data.guests.filter((p) => p.name.toLowerCase().includes(words)) : [];
  const planned = (who: Asked) => ({ athlete_id: who.athlete_id, source: "plan", from_id: null });
  const asGuest = (who: Asked) => {
    setProblem(null);
    // the server knows whether their own squad has planned something for them today
    join(planned(who)).then(onDone, (e: unknown) => {
      const said = problemOf(e);
      if (said.where === "source") setAsking(who);
      else setProblem(said);
    });
  };
  return (
    <div role="group" aria-label={`Who joins ${title}`} className="joiners">
      {(found.data.people.length > LONG || found.data.guests.length > 0) && (
        <input
          className="form-control tap mb-1"
          aria-label="Find a name"
          placeholder={found.data.guests.length ? "name, guests too" : "name"}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      )}
      {people.map((p) => (
        <Button
          key={p.athlete_id}
          variant="plain"
          className="tap text-start"
          onClick={() => (p.theme || p.is_running ? go(planned(p)) : setAsking(p))}
        >
          {p.name}{" "}
          <span className="soft small fw-normal">
            {p.theme || "no session planned"}
            {p.rack !== null && ` · now at ${p.rack}`}
          </span>
        </Button>
      ))}
      {guests.map((p) => (
        <Button key={p.athlete_id} variant="plain" className="tap text-start" onClick={() => asGuest(p)}>
          {p.name} <span className="soft small fw-normal">guest, {p.squad}</span>
        </Button>
      ))}
      {people.length + guests.length === 0 && (
        <p className="small m-0">{typed ? "Nobody is called that." : "Everybody is at this rack already."}</p>
      )}
      {problem && <Trouble problem={problem} />}
    </div>
  );
}

const LONG = 12;

interface WithoutProps {
  joining: Schemas["JoiningOut"];
  who: Asked;
  go: (body: Schemas["JoinIn"]) => void;
  problem: Problem | null;
  onBack: () => void;
}

/** Nothing is planned for them today: a partner's session, a template, or one that is filled as it goes. */
function Without({ joining, who, go, problem, onBack }: WithoutProps) {
  const begin = (source: string, from_id: number | null) => go({ athlete_id: who.athlete_id, source, from_id });
  return (
    <div role="group" aria-label={`What ${who.name} does today`} className="joiners">
      <b>{who.name} has nothing planned today</b>
      {joining.partners.map((p) => (
        <Button key={p.athlete_id} variant="plain" className="tap text-start" onClick={() => begin("partner", p.athlete_id)}>
          As {p.name} <span className="soft small fw-normal">{p.theme}, own loads</span>
        </Button>
      ))}
      {joining.templates.map((t) => (
        <Button key={t.id} variant="plain" className="tap text-start" onClick={() => begin("template", t.id)}>
          {t.name} <span className="soft small fw-normal">template</span>
        </Button>
      ))}
      <Button variant="plain" className="tap text-start" onClick={() => begin("free", null)}>
        Free session <span className="soft small fw-normal">exercises are added as you go</span>
      </Button>
      <Button variant="link" className="tap p-0" onClick={onBack}>
        Back to the names
      </Button>
      {problem && <Trouble problem={problem} />}
    </div>
  );
}
