import { Link, useParams } from "react-router";

import { api, need, problemOf, type Schemas } from "../../api/client";
import { type Season, usePlanChange, useSeason } from "../../api/hooks";
import { longDay, toGo } from "../../parts/dates";
import { Margin, type MarginNote } from "../../parts/Margin";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { CompetitionForm } from "./CompetitionForm";
import { PhaseEditor } from "./PhaseEditor";
import { SeasonChart } from "./SeasonChart";

export default function SeasonScreen() {
  const id = Number(useParams().id);
  const answer = useSeason(id);
  if (answer.isPending) return <Loading what="the season" />;
  if (answer.isError) return <Failed error={answer.error} again={() => void answer.refetch()} />;
  const { season, athlete_name, squad_name } = answer.data;
  if (!season) {
    return (
      <div className="page">
        <h1>{athlete_name}: no season yet</h1>
        <p className="soft">
          {squad_name} · Give the competition; the taper, the phases and the weeks are placed backwards from its day.
        </p>
        <CompetitionForm athleteId={id} />
      </div>
    );
  }
  return <SeasonView id={id} season={season} />;
}

export type Lengths = Record<string, number>;

function SeasonView({ id, season }: { id: number; season: Season }) {
  const path = { competition_id: season.competition_id };
  const setPhases = usePlanChange((weeks: Lengths) =>
    need(api.PUT("/api/competitions/{competition_id}/phases", { params: { path }, body: { weeks } })),
  );
  const move = usePlanChange((body: Schemas["MoveCompetition"]) =>
    need(api.PATCH("/api/competitions/{competition_id}", { params: { path }, body })),
  );
  const undo = usePlanChange(() => need(api.POST("/api/competitions/{competition_id}/undo", { params: { path } })));
  const withdraw = usePlanChange(() => need(api.DELETE("/api/competitions/{competition_id}", { params: { path } })));
  const failed = [setPhases, move, undo, withdraw].find((m) => m.isError);

  /** The coach's lengths so far, with one boundary moved: what one phase gains the next one gives. */
  function shift(left: string, right: string, weeks: number) {
    const pins: Lengths = {};
    for (const phase of season.phases) {
      if (phase.pinned || phase.key === left || phase.key === right) pins[phase.key] = phase.weeks;
    }
    delete pins.general;
    if (left !== "general") pins[left] = (pins[left] ?? 0) + weeks;
    pins[right] = (pins[right] ?? 0) - weeks;
    setPhases.mutate(pins);
  }

  const notes: MarginNote[] = season.notes.map((n) => ({ ...n, text: `${n.text} (${n.source})` }));
  if (season.last_change) {
    notes.unshift({
      id: "undo",
      decision: false,
      title: "Last change:",
      text: `${season.last_change}.`,
      action: (
        <button type="button" className="btn btn-link p-0 fw-semibold" onClick={() => undo.mutate(undefined)}>
          Undo
        </button>
      ),
    });
  }
  const gone = season.residuals.filter((r) => !r.covers_competition);
  for (const r of gone) {
    notes.push({
      id: r.quality,
      decision: true,
      title: `${r.quality[0]?.toUpperCase()}${r.quality.slice(1)} may be gone on the day.`,
      text: r.text,
    });
  }

  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>
            {season.name}, {longDay(season.day)} · {toGo(season.days_to_go)}
          </h1>
          <p className="soft m-0">
            {season.athlete_name} · built backwards by{" "}
            <Working data={season.working}>force–velocity progression</Working>, three rising weeks and an easy one
          </p>
        </div>
        <form
          key={season.day}
          className="ms-auto d-flex gap-2 align-items-end"
          onSubmit={(e) => {
            e.preventDefault();
            const day = new FormData(e.currentTarget).get("day");
            if (typeof day === "string" && day) move.mutate({ day });
          }}
        >
          <label className="small">
            Day of the competition
            <input type="date" name="day" className="form-control form-control-sm" defaultValue={season.day} required />
          </label>
          <button type="submit" className="btn btn-plain btn-sm">
            Move it
          </button>
          <button type="button" className="btn btn-plain btn-sm" onClick={() => withdraw.mutate(undefined)}>
            Take it out
          </button>
        </form>
      </div>
      {failed && (
        <div className="mb-2">
          <Trouble problem={problemOf(failed.error)} />
        </div>
      )}
      <div className="with-margin">
        <div className="sheet">
          <SeasonChart id={id} season={season} onShift={shift} onMoveDay={(day) => move.mutate({ day })} />
          <div className="pad pt-0">
            <PhaseEditor season={season} onSet={(weeks) => setPhases.mutate(weeks)} />
            <Link to={`/athletes/${id}/week`} className="btn btn-primary mt-2">
              To this week
            </Link>
          </div>
        </div>
        <Margin notes={notes} />
      </div>
    </div>
  );
}
