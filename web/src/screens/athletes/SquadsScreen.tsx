import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys, stale } from "../../api/keys";
import { firstProblem, useAction } from "../../api/useAction";
import { dayYear } from "../../parts/dates";
import { Needs } from "../../parts/Needs";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";

type Squads = Schemas["SquadsOut"];

/** The squads by name, and the athletes who have left: brought back, or erased when they ask for it. */
export default function SquadsScreen() {
  const client = useQueryClient();
  const found = useQuery({ queryKey: keys.squads, queryFn: () => need(api.GET("/api/squads")) });
  const told = {
    after: async (_: unknown, fresh: Squads) => {
      client.setQueryData(keys.squads, fresh);
      await stale.afterPlan(client);
    },
  };
  const [open, setOpen] = useState<number | null>(null);
  const change = useAction(
    ({ id, body }: { id: number; body: Schemas["SquadIn"] }) =>
      need(api.PATCH("/api/squads/{squad_id}", { params: { path: { squad_id: id } }, body })),
    told,
  );
  const remove = useAction((id: number) => need(api.DELETE("/api/squads/{squad_id}", { params: { path: { squad_id: id } } })), told);
  const back = useAction((id: number) => need(api.POST("/api/athletes/{athlete_id}/back", { params: { path: { athlete_id: id } } })), told);
  const erase = useAction(
    ({ id, name }: { id: number; name: string }) =>
      need(api.POST("/api/athletes/{athlete_id}/erase", { params: { path: { athlete_id: id } }, body: { name } })),
    told,
  );
  if (found.isPending) return <Loading what="the squads" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const s = found.data;
  const problem = firstProblem(change, remove, back, erase);
  return (
    <div className="page" style={{ maxWidth: 860 }}>
      <h1>Squads</h1>
      <p className="soft">
        A squad begins with its first athlete: <Link to="/athletes">add one</Link> and type its name. Who is in which is changed under
        Details.
      </p>
      {problem && <Trouble problem={problem} />}
      {s.squads.length === 0 ? (
        <Empty title="No squad yet.">
          <Link className="btn btn-primary" to="/athletes">
            Add or import athletes
          </Link>
        </Empty>
      ) : (
        <div className="sheet mb-3">
          <table className="board">
            <thead>
              <tr>
                <th>Squad</th>
                <th>Sport</th>
                <th className="right">Athletes</th>
                <th className="right">Archived</th>
                <th>
                  <span className="visually-hidden">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {s.squads.map((q) => (
                <tr key={q.id}>
                  {open === q.id ? (
                    <td colSpan={5}>
                      <SquadForm
                        squad={q}
                        onSave={(body) => change.run({ id: q.id, body }, () => setOpen(null))}
                        onCancel={() => setOpen(null)}
                      />
                    </td>
                  ) : (
                    <>
                      <td className="fw-semibold">{q.name}</td>
                      <td>{q.sport}</td>
                      <td className="right num">{q.athletes}</td>
                      <td className="right num">{q.archived || "–"}</td>
                      <td className="right">
                        <Needs may="plan">
                          <Button size="sm" variant="plain" aria-label={`Rename ${q.name}`} onClick={() => setOpen(q.id)}>
                            Rename
                          </Button>{" "}
                          {q.athletes + q.archived === 0 && (
                            <Button size="sm" variant="plain" aria-label={`Delete ${q.name}`} onClick={() => remove.run(q.id)}>
                              Delete
                            </Button>
                          )}
                        </Needs>
                      </td>
                    </>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Archived archived={s.archived} onBack={(id) => back.run(id)} onErase={(id, name) => erase.run({ id, name })} />
    </div>
  );
}

function SquadForm({
  squad,
  onSave,
  onCancel,
}: {
  squad: Schemas["SquadRow"];
  onSave: (b: Schemas["SquadIn"]) => void;
  onCancel: () => void;
}) {
  const [name, setName] = useState(squad.name);
  const [sport, setSport] = useState(squad.sport);
  return (
    <form
      className="d-flex flex-wrap gap-2 align-items-center"
      aria-label={`Rename ${squad.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        onSave({ name, sport });
      }}
    >
      <input
        className="form-control form-control-sm"
        style={{ width: 240 }}
        aria-label="Name of the squad"
        value={name}
        maxLength={80}
        autoFocus
        onChange={(e) => setName(e.target.value)}
      />
      <input
        className="form-control form-control-sm"
        style={{ width: 180 }}
        aria-label="Sport"
        value={sport}
        maxLength={40}
        onChange={(e) => setSport(e.target.value)}
      />
      <Button size="sm" type="submit">
        Save
      </Button>
      <Button size="sm" variant="link" onClick={onCancel}>
        Cancel
      </Button>
    </form>
  );
}

/** Erasing is for good: the name is typed once more. */
function EraseForm({ name, onErase }: { name: string; onErase: (typed: string) => void }) {
  const [typed, setTyped] = useState("");
  return (
    <form
      className="mt-2"
      aria-label={`Erase ${name}`}
      onSubmit={(e) => {
        e.preventDefault();
        onErase(typed);
      }}
    >
      <p className="small mb-1">
        Results, plans, sessions and sets go for good, as {name} has asked. In what was done stands “erased person”. Backups hold them until
        they are gone; one that is restored is erased again.
      </p>
      <div className="d-flex gap-2">
        <input
          className="form-control form-control-sm"
          style={{ width: 240 }}
          aria-label={`Type the name to erase ${name}`}
          placeholder={name}
          value={typed}
          autoFocus
          onChange={(e) => setTyped(e.target.value)}
        />
        <Button size="sm" variant="danger" type="submit" disabled={typed.trim() !== name}>
          Erase for good
        </Button>
      </div>
    </form>
  );
}

interface ArchivedProps {
  archived: Schemas["ArchivedOut"][];
  onBack: (id: number) => void;
  onErase: (id: number, name: string) => void;
}

/** Who has left: brought back, or erased when they ask for it. */
function Archived({ archived, onBack, onErase }: ArchivedProps) {
  const [erasing, setErasing] = useState<number | null>(null);
  if (archived.length === 0) return null;
  return (
    <section aria-label="Archived athletes">
      <h2>Archived</h2>
      <p className="soft">They stand in no list and keep everything.</p>
      <div className="sheet">
        <table className="board">
          <tbody>
            {archived.map((a) => (
              <tr key={a.id}>
                <td>
                  <Link to={`/athletes/${a.id}`}>{a.name}</Link>
                  {erasing === a.id && <EraseForm name={a.name} onErase={(name) => onErase(a.id, name)} />}
                </td>
                <td>{a.squad}</td>
                <td className="nowrap">since {dayYear(a.archived_on)}</td>
                <td className="right">
                  <Needs may="plan">
                    <Button size="sm" variant="plain" aria-label={`Bring back ${a.name}`} onClick={() => onBack(a.id)}>
                      Bring back
                    </Button>
                  </Needs>{" "}
                  <Needs may="centre">
                    <Button
                      size="sm"
                      variant="plain"
                      aria-expanded={erasing === a.id}
                      aria-label={erasing === a.id ? undefined : `Erase … ${a.name}`}
                      onClick={() => setErasing(erasing === a.id ? null : a.id)}
                    >
                      {erasing === a.id ? "Cancel" : "Erase …"}
                    </Button>
                  </Needs>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
