import { useState } from "react";
import { Link, useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useSquadSeason } from "../../api/hooks";
import { firstProblem, useAction } from "../../api/useAction";
import { dayMonth, inDays, shortDay } from "../../parts/dates";
import { RankSelect } from "../../parts/RankSelect";
import { Failed, Loading, Trouble } from "../../parts/states";
import { axis, DAY_MS, LEFT, utc, W, besideTick } from "../season/axis";
import { CompetitionForm } from "../season/CompetitionForm";
import { Needs } from "../../parts/Needs";
import { counted } from "../../parts/counted";

type Squad = Schemas["SquadSeasonOut"];
type Competition = Schemas["SquadCompetitionOut"];

/** The season of a squad: its competitions once, the variants of its plan, and one step of undo for everybody. */
export default function SquadSeasonScreen() {
  const id = Number(useParams().id);
  const season = useSquadSeason(id);
  if (season.isPending) return <Loading what="the squad’s season" />;
  if (season.isLoadingError) return <Failed error={season.error} again={() => void season.refetch()} />;
  return <SquadSeason squad={season.data} />;
}

function useSquadChanges(squadId: number) {
  const waiting = (c: Competition) => ({ path: { squad_id: squadId, competition_id: c.id } });
  return {
    change: useAction(({ c, body }: { c: Competition; body: Schemas["ChangeCompetition"] }): Promise<unknown> =>
      c.is_of_nobody
        ? need(api.PATCH("/api/squads/{squad_id}/competitions/{competition_id}", { params: waiting(c), body }))
        : need(api.PATCH("/api/competitions/{competition_id}", { params: { path: { competition_id: c.id } }, body })),
    ),
    withdraw: useAction((c: Competition): Promise<unknown> => {
      const params = { path: { competition_id: c.id }, query: { scope: "squad" } };
      return c.is_of_nobody
        ? need(api.DELETE("/api/squads/{squad_id}/competitions/{competition_id}", { params: waiting(c) }))
        : need(api.DELETE("/api/competitions/{competition_id}", { params }));
    }),
    share: useAction((c: Competition) => {
      const body = { scope: "squad" };
      return c.is_of_nobody
        ? need(api.POST("/api/squads/{squad_id}/competitions/{competition_id}/share", { params: waiting(c) }))
        : need(api.POST("/api/competitions/{competition_id}/share", { params: { path: { competition_id: c.id } }, body }));
    }),
    undo: useAction((id: number) =>
      need(api.POST("/api/athletes/{athlete_id}/season/undo", { params: { path: { athlete_id: id } }, body: { scope: "all" } })),
    ),
    redo: useAction((id: number) =>
      need(api.POST("/api/athletes/{athlete_id}/season/redo", { params: { path: { athlete_id: id } }, body: { scope: "all" } })),
    ),
  };
}

function SquadSeason({ squad }: { squad: Squad }) {
  const act = useSquadChanges(squad.squad_id);
  const [adding, setAdding] = useState(false);
  const problem = firstProblem(...Object.values(act));
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>Season of {squad.squad_name}</h1>
          <p className="soft m-0">{counted(squad.athletes, "athlete")}. A change here counts for everybody who has it.</p>
        </div>
        <Link className="btn btn-plain btn-sm ms-auto" to={`/squads/${squad.squad_id}/calendar`}>
          Calendar
        </Link>
        <Link className="btn btn-plain btn-sm" to={`/squads/${squad.squad_id}/week`}>
          Week of the squad
        </Link>
      </div>
      {problem && <Trouble problem={problem} />}
      <div className="with-margin">
        <div>
          <div className="sheet mb-3">
            <Competitions
              squad={squad}
              onChange={(c, body) => act.change.run({ c, body: { ...body, scope: "squad" } })}
              onShare={(c) => act.share.run(c)}
              onTakeOut={(c) => act.withdraw.run(c)}
            />
            <div className="pad">
              {adding ? (
                <CompetitionForm
                  athleteId={squad.lead_id}
                  squadId={squad.squad_id}
                  ranks={squad.ranks}
                  scope="squad"
                  onDone={() => setAdding(false)}
                />
              ) : (
                <Needs may="plan">
                  <button type="button" className="btn btn-plain btn-sm" onClick={() => setAdding(true)}>
                    Add a competition for the squad
                  </button>
                </Needs>
              )}
            </div>
          </div>
          <Variants squad={squad} />
        </div>
        <aside aria-label="Notes in the margin">
          {squad.undo && (
            <Step
              word="Undo"
              step={squad.undo.step}
              onAct={() => squad.undo && act.undo.run(squad.undo.athlete_id)}
              before="Last change:"
            />
          )}
          {squad.redo && (
            <Step word="Redo" step={squad.redo.step} onAct={() => squad.redo && act.redo.run(squad.redo.athlete_id)} before="Taken back:" />
          )}
          {squad.without.length > 0 && (
            <div className="note asks">
              <b>Without a season:</b> {squad.without.join(", ")}.
            </div>
          )}
        </aside>
      </div>
    </div>
  );
}

function Step({ word, step, before, onAct }: { word: string; step: Schemas["SeasonStepOut"]; before: string; onAct: () => void }) {
  return (
    <div className="note">
      <b>{before}</b> {step.words}
      {step.by && <span className="soft">, by {step.by}</span>}.
      <div className="mt-1">
        <button type="button" className="btn btn-link p-0 fw-semibold" onClick={onAct}>
          {step.people > 1 ? `${word} for all ${step.people}` : word}
        </button>
      </div>
    </div>
  );
}

function whoTakesPart(c: Competition, squad: Squad) {
  if (c.holders === 0) return "nobody yet";
  return c.missing.length === 0 ? `all ${c.holders}` : `${c.holders} of ${squad.athletes}`;
}

interface CompetitionsProps {
  squad: Squad;
  onChange: (c: Competition, body: { day?: string; rank?: string }) => void;
  onShare: (c: Competition) => void;
  onTakeOut: (c: Competition) => void;
}

function Competitions({ squad, onChange, onShare, onTakeOut }: CompetitionsProps) {
  if (squad.competitions.length === 0)
    return <p className="pad mb-0">No competition lies ahead. Add one: everybody gets it, and who comes later.</p>;
  return (
    <table className="board">
      <caption className="visually-hidden">Competitions of the squad</caption>
      <thead>
        <tr>
          <th>Competition</th>
          <th>Rank</th>
          <th>Day</th>
          <th className="right">Time left</th>
          <th>Who</th>
          <th>
            <span className="visually-hidden">Change</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {squad.competitions.map((c) => (
          <tr key={`${c.id}${c.day}${c.rank}`}>
            <th scope="row" className="text-body fw-semibold">
              {c.name}
              {c.last_day && <div className="soft small fw-normal">to {shortDay(c.last_day)}</div>}
            </th>
            <td>
              {c.rank === "block" ? (
                c.rank_name
              ) : (
                <RankSelect name={c.name} value={c.rank} ranks={squad.ranks} onChange={(rank) => onChange(c, { rank })} />
              )}
            </td>
            <td>
              {c.rank === "block" ? (
                `to ${shortDay(c.day)}`
              ) : (
                <form
                  className="d-flex gap-1"
                  onSubmit={(e) => {
                    e.preventDefault();
                    const day = new FormData(e.currentTarget).get("day");
                    if (typeof day === "string" && day && day !== c.day) onChange(c, { day });
                  }}
                >
                  <input
                    type="date"
                    name="day"
                    aria-label={`Day of ${c.name}`}
                    className="form-control form-control-sm"
                    defaultValue={c.day}
                    required
                    style={{ width: 140 }}
                  />
                  <button type="submit" className="btn btn-plain btn-sm text-nowrap" aria-label={`Move it for all: ${c.name}`}>
                    Move it
                  </button>
                </form>
              )}
            </td>
            <td className="right num nowrap">{inDays(c.days_to_go)}</td>
            <td className="small">
              {whoTakesPart(c, squad)}
              {c.departures.map((words) => (
                <div className="clay" key={words}>
                  {words}
                </div>
              ))}
              {c.missing.length > 0 && (
                <button
                  type="button"
                  className="btn btn-link btn-sm p-0 d-block"
                  title={c.missing.join(", ")}
                  aria-label={`Give it to all: ${c.name}`}
                  onClick={() => onShare(c)}
                >
                  Give it to all
                </button>
              )}
            </td>
            <td className="right">
              <button
                type="button"
                className="btn btn-link btn-sm p-0"
                aria-label={`Take out for all: ${c.name}`}
                onClick={() => onTakeOut(c)}
              >
                Take out
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const ROW = 58;

/** Each variant of the plan as a strip of its phases on one time axis, with who follows it. */
function Variants({ squad }: { squad: Squad }) {
  const x = axis(utc(squad.start), utc(squad.end) + DAY_MS);
  const todayX = x(utc(squad.today));
  return (
    <section className="sheet" aria-label="Variants of the season">
      {squad.variants.map((v) => (
        <div key={v.athlete_id} className="pad">
          <div className="small">
            <b>{v.names.length === 1 ? v.names[0] : `${v.names.length} athletes`}</b>
            {v.groups.length > 0 && <span className="soft"> · {v.groups.join(", ")}</span>} · {v.season_model} · {v.week_model}{" "}
            <Link to={`/athletes/${v.athlete_id}/season`}>open</Link>
          </div>
          {v.names.length > 1 && <div className="soft small">{v.names.join(", ")}</div>}
          <svg viewBox={`${LEFT} 0 ${W - LEFT} ${ROW}`} width="100%" role="img" aria-label={v.phases.map((p) => p.name).join(", ")}>
            {x.ticks(6).map((t) => (
              <text key={t.getTime()} {...besideTick(x(t), 2)} y="10" fontSize="11" fill="var(--soft)">
                {dayMonth(t.toISOString().slice(0, 10))}
              </text>
            ))}
            {v.phases.map((p) => {
              const from = x(utc(p.start));
              const to = x(utc(p.end) + DAY_MS);
              return (
                <g key={`${p.name}${p.start}`}>
                  <title>{`${p.name}, ${shortDay(p.start)} to ${shortDay(p.end)}`}</title>
                  <rect x={from} y="16" width={Math.max(2, to - from - 1)} height="26" rx="2" fill={`var(--ph-${p.key})`} />
                  <text x={from + 5} y="33" fontSize="12" fontWeight="600" fill={`var(--ph-${p.key}-ink, var(--ph-ink))`}>
                    {p.name.length * 6.4 < to - from ? p.name : ""}
                  </text>
                </g>
              );
            })}
            <path d={`M${todayX - 5} 8h10l-5 8zM${todayX - 1} 42h2v5h-2z`} fill="var(--bs-body-color)" />
          </svg>
        </div>
      ))}
      {squad.variants.length === 0 && <p className="pad mb-0">Nobody has a season yet.</p>}
    </section>
  );
}
