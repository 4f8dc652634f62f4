import { useState } from "react";
import { Link, useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { type Season, useSeason, useSeasonChange } from "../../api/hooks";
import { firstProblem } from "../../api/useAction";
import { inDays, longDay, shortDay } from "../../parts/dates";
import { Margin, type MarginNote } from "../../parts/Margin";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { DAY_MS, iso, utc } from "./axis";
import { BlockForm } from "./BlockForm";
import { CompetitionForm } from "./CompetitionForm";
import { Competitions } from "./Competitions";
import { Flags } from "../../parts/Flags";
import { PhaseEditor, type Lengths } from "./PhaseEditor";
import { SeasonChart } from "./SeasonChart";
import { SeasonTabs } from "./SeasonTabs";
import { Steps } from "./Steps";
import { StyleForm } from "./StyleForm";
import { WeekByHand } from "./WeekByHand";
import { WeekModel } from "./WeekModel";
import { Needs } from "../../parts/Needs";

type Answer = Schemas["SeasonAnswer"];
type Pending = { competition: number; name: string; day: string; preview: Schemas["SeasonPreviewOut"] };

export default function SeasonScreen() {
  const id = Number(useParams().id);
  const answer = useSeason(id);
  if (answer.isPending) return <Loading what="the season" />;
  if (answer.isLoadingError) return <Failed error={answer.error} again={() => void answer.refetch()} />;
  const { season } = answer.data;
  if (!season) return <NoSeason id={id} answer={answer.data} />;
  return <SeasonView id={id} season={season} answer={answer.data} />;
}

function NoSeason({ id, answer }: { id: number; answer: Answer }) {
  const change = useSeasonChanges(id);
  const problem = firstProblem(change.undo, change.redo);
  const { athlete_name, squad_name, ranks } = answer;
  return (
    <div className="page">
      <h1>{athlete_name}: no season yet</h1>
      <SeasonTabs id={id} />
      <p className="soft">
        {squad_name} · Give the competition; the taper, the phases and the weeks are placed backwards from its day. Matches of a league go
        in the <Link to={`/athletes/${id}/calendar`}>calendar</Link>. With no competition, plan a block of weeks.
      </p>
      <Needs may="plan">
        <CompetitionForm athleteId={id} ranks={ranks} />
      </Needs>
      <h2 className="mt-3">Or a block of weeks</h2>
      <Needs may="plan">
        <BlockForm athleteId={id} answer={answer} />
      </Needs>
      {problem && <Trouble problem={problem} />}
      <div className="mt-3" style={{ maxWidth: 720 }}>
        <Steps answer={answer} onUndo={(scope) => change.undo.run(scope)} onRedo={(scope) => change.redo.run(scope)} />
      </div>
    </div>
  );
}

/** Every change of a season a coach can make here; each answers with the whole season anew. */
function useSeasonChanges(id: number) {
  const path = { athlete_id: id };
  return {
    phases: useSeasonChange(id, ({ competition, weeks }: { competition: number; weeks: Lengths }) =>
      need(api.PUT("/api/competitions/{competition_id}/phases", { params: { path: { competition_id: competition } }, body: { weeks } })),
    ),
    competition: useSeasonChange(id, ({ competition, body }: { competition: number; body: Schemas["ChangeCompetition"] }) =>
      need(api.PATCH("/api/competitions/{competition_id}", { params: { path: { competition_id: competition } }, body })),
    ),
    withdraw: useSeasonChange(id, ({ competition, scope }: { competition: number; scope: string }) =>
      need(api.DELETE("/api/competitions/{competition_id}", { params: { path: { competition_id: competition }, query: { scope } } })),
    ),
    undo: useSeasonChange(id, (scope: string) =>
      need(api.POST("/api/athletes/{athlete_id}/season/undo", { params: { path }, body: { scope } })),
    ),
    redo: useSeasonChange(id, (scope: string) =>
      need(api.POST("/api/athletes/{athlete_id}/season/redo", { params: { path }, body: { scope } })),
    ),
    style: useSeasonChange(id, (body: Schemas["StyleIn"]) =>
      need(api.PUT("/api/athletes/{athlete_id}/season/style", { params: { path }, body })),
    ),
    easy: useSeasonChange(id, (body: Schemas["EasyIn"]) =>
      need(api.PUT("/api/athletes/{athlete_id}/season/easy", { params: { path }, body })),
    ),
    week: useSeasonChange(id, (body: Schemas["HandWeekIn"]) =>
      need(api.PUT("/api/athletes/{athlete_id}/season/week", { params: { path }, body })),
    ),
    repeat: useSeasonChange(id, (body: Schemas["BlockIn"]) =>
      need(api.POST("/api/athletes/{athlete_id}/blocks", { params: { path }, body })),
    ),
    original: useSeasonChange(id, (keep: boolean) =>
      need(api.POST("/api/athletes/{athlete_id}/season/original", { params: { path }, body: { keep } })),
    ),
    keep: useSeasonChange(id, (body: Schemas["FlagIn"]) =>
      need(api.POST("/api/athletes/{athlete_id}/season/flags", { params: { path }, body })),
    ),
    lift: useSeasonChange(id, (word: number) => need(api.DELETE("/api/season-flags/{word_id}", { params: { path: { word_id: word } } }))),
    fix: useSeasonChange(id, (body: Schemas["SeasonFixIn"]) =>
      need(api.POST("/api/athletes/{athlete_id}/season/fix", { params: { path }, body })),
    ),
  };
}

function SeasonView({ id, season, answer }: { id: number; season: Season; answer: Answer }) {
  const change = useSeasonChanges(id);
  const [pending, setPending] = useState<Pending | null>(null);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const [zoom, setZoom] = useState("all");
  const [scope, setScope] = useState("athlete");

  function shift(boundary: number, weeks: number) {
    const [left, right] = [season.phases[boundary], season.phases[boundary + 1]];
    if (!left || !right || left.competition_id === null) return;
    const pins: Lengths = Object.fromEntries(
      season.phases.filter((p) => p.toward === left.toward && (p.pinned || p === left || p === right)).map((p) => [p.id, p.weeks]),
    );
    for (const free of ["general", "return"]) if (left.id === free) delete pins[free];
    if (left.id in pins) pins[left.id] = left.weeks + weeks;
    pins[right.id] = right.weeks - weeks;
    change.phases.run({ competition: left.competition_id, weeks: pins });
  }

  /** Show before and after; nothing moves until it is confirmed. A step is counted from the day asked for so far. */
  async function look(competition: number, to: string) {
    const c = season.competitions.find((x) => x.id === competition);
    if (!c) return;
    const from = pending?.competition === competition ? pending.day : c.day;
    const day = to === "+1" || to === "-1" ? iso(utc(from) + Number(to) * DAY_MS) : to;
    setTrouble(null);
    try {
      const params = { path: { athlete_id: id }, query: { moves: competition } };
      const body = { name: c.name, day, rank: c.rank, events: [], scope: "athlete" };
      setPending({
        competition,
        name: c.name,
        day,
        preview: await need(api.POST("/api/athletes/{athlete_id}/competitions/preview", { params, body })),
      });
    } catch (error) {
      setTrouble(problemOf(error));
    }
  }
  function confirm(yes: boolean) {
    if (pending && yes) change.competition.run({ competition: pending.competition, body: { day: pending.day, scope } });
    setPending(null);
  }

  function fix(f: Schemas["FlagOut"]) {
    if (f.fix) change.fix.run({ kind: f.fix.kind, values: f.fix.values });
  }

  const notes: MarginNote[] = season.notes.map((n) => ({ ...n, text: `${n.text} (${n.source})` }));
  const problem = firstProblem(...Object.values(change)) ?? trouble;
  return (
    <div className="page">
      <SeasonHead id={id} season={season} squad={answer.squad_id} />
      <SeasonTabs id={id} />
      {problem ? (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      ) : null}
      {pending && <BeforeAfter pending={pending} onConfirm={confirm} />}
      <div className="with-margin">
        <div className="sheet">
          <Zoom season={season} zoom={zoom} onZoom={setZoom} />
          <SeasonChart
            id={id}
            season={season}
            shown={shownDays(season, zoom)}
            onShift={shift}
            onMoveDay={(c, day) => void look(c, day)}
            onConfirm={confirm}
            onMoveEasy={(monday, to) => change.easy.run({ monday, to })}
            onToggleEasy={(monday, easy) => change.easy.run({ monday, easy })}
          />
          <div className="pad pt-0">
            <Needs may="plan">
              <StyleForm
                key={JSON.stringify(season.style)}
                season={season}
                answer={answer}
                pending={change.style.isPending}
                onSet={(style) => change.style.run(style)}
              />
              <WeekModel id={id} season={season} />
              <PhaseEditor season={season} onSet={(competition, weeks) => change.phases.run({ competition, weeks })} />
              <WeekByHand
                season={season}
                onSet={(body) => change.week.run(body)}
                onEasy={(monday, easy) => change.easy.run({ monday, easy })}
              />
            </Needs>
            <Competitions
              id={id}
              season={season}
              answer={answer}
              scope={scope}
              onScope={setScope}
              onRank={(competition, rank) => change.competition.run({ competition, body: { rank, scope } })}
              onMove={(competition, day) => void look(competition, day)}
              onLastDay={(competition, day) => change.competition.run({ competition, body: { last_day: day, scope } })}
              onRepeat={(block) => change.repeat.run({ ...block, name: "", starts: null, scope })}
              onTakeOut={(competition) => change.withdraw.run({ competition, scope })}
            />
          </div>
        </div>
        <div>
          <Needs may="plan">
            <Steps answer={answer} onUndo={(scope) => change.undo.run(scope)} onRedo={(scope) => change.redo.run(scope)} />
          </Needs>
          <Flags
            flags={season.flags}
            onFix={fix}
            onKeep={(f, reason) => change.keep.run({ check_id: f.check_id, where: f.where, reason })}
            onLift={(w) => change.lift.run(w)}
          />
          <Margin notes={notes} />
          {season.drift.words.length > 0 && <Drift season={season} onAnswer={(keep) => change.original.run(keep)} />}
        </div>
      </div>
    </div>
  );
}

/** What is prepared for, how the season was built, and the ways to the squad's and to this week. */
function SeasonHead({ id, season, squad }: { id: number; season: Season; squad: number }) {
  return (
    <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
      <div>
        <h1>
          {season.name}, {longDay(season.day)} · {inDays(season.days_to_go)}
        </h1>
        <p className="soft m-0">
          {season.athlete_name} · {season.built} <Working data={season.working}>{season.style.arrangement_name.toLowerCase()}</Working>
        </p>
      </div>
      <Link className="btn btn-plain btn-sm ms-auto" to={`/squads/${squad}/season`}>
        Season of the squad
      </Link>
      <Link className="btn btn-primary btn-sm" to={`/athletes/${id}/week`}>
        To this week
      </Link>
    </div>
  );
}

const LAST_WEEKS = 6;

function shownDays(season: Season, zoom: string): [string, string] {
  const last = season.weeks.at(-1)?.start ?? season.day;
  const whole: [string, string] = [season.start, iso(utc(last) + 9 * DAY_MS)];
  const now = season.phases.find((p) => p.start <= season.today && p.end >= season.today) ?? season.phases[0];
  if (zoom === "phase" && now) return [now.start, iso(utc(now.start) + 7 * DAY_MS * Math.max(2, now.weeks))];
  if (zoom === "near") {
    const from = utc(season.today) - 7 * DAY_MS;
    return [iso(Math.max(utc(season.start), from)), iso(from + 56 * DAY_MS)];
  }
  if (zoom === "last") return [season.weeks.at(-LAST_WEEKS)?.start ?? season.start, whole[1]];
  return whole;
}

function Zoom({ season, zoom, onZoom }: { season: Season; zoom: string; onZoom: (z: string) => void }) {
  const now = season.phases.find((p) => p.start <= season.today && p.end >= season.today);
  const ways = [
    ["all", "Whole season"],
    ["phase", now ? now.name : "First phase"],
    ["near", "Eight weeks"],
    ["last", "Last six weeks"],
  ] as const;
  return (
    <div className="pad pb-0 d-flex gap-1" role="group" aria-label="How much is shown">
      {ways.map(([key, name]) => (
        <button key={key} type="button" className="btn btn-plain btn-sm" aria-pressed={zoom === key} onClick={() => onZoom(key)}>
          {name}
        </button>
      ))}
    </div>
  );
}

function BeforeAfter({ pending, onConfirm }: { pending: Pending; onConfirm: (yes: boolean) => void }) {
  const { preview } = pending;
  return (
    <section className="sheet pad mb-2" role="status" aria-label="Before and after">
      <div className="row g-2 small">
        <div className="col-md-5">
          <b>Now</b>
          <div className="soft">{preview.before.join(" · ")}</div>
        </div>
        <div className="col-md-5">
          <b>
            With {pending.name} on {shortDay(pending.day)}
          </b>
          <div>{[...preview.phases, ...preview.decisions].join(" · ")}</div>
        </div>
        <div className="col-md-2 d-flex flex-column gap-1">
          <button type="button" className="btn btn-primary btn-sm" onClick={() => onConfirm(true)}>
            Move it
          </button>
          <button type="button" className="btn btn-plain btn-sm" onClick={() => onConfirm(false)}>
            Cancel
          </button>
        </div>
      </div>
    </section>
  );
}

function Drift({ season, onAnswer }: { season: Season; onAnswer: (keep: boolean) => void }) {
  return (
    <div className="note">
      <b>Moved since the original:</b> {season.drift.words.join(" ")}
      <div className="mt-1 d-flex gap-3">
        <button type="button" className="btn btn-link p-0" onClick={() => onAnswer(true)}>
          Keep this season
        </button>
        <button type="button" className="btn btn-link p-0" onClick={() => onAnswer(false)}>
          Back to the original
        </button>
      </div>
    </div>
  );
}
