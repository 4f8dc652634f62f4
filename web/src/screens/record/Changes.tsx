import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useChosen } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { shortDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";

type Wish = Schemas["WishOut"];
type Change = { id: string; is_wanted: boolean };

/** What is known of the athlete and what it changes in the sessions ahead. */
export function Changes({ id }: { id: number }) {
  const chosen = useChosen(id);
  const { problem, isPending, run } = useAction(({ id: wish_id, is_wanted }: Change) =>
    need(api.PUT("/api/athletes/{athlete_id}/chosen/{wish_id}", { params: { path: { athlete_id: id, wish_id } }, body: { is_wanted } })),
  );
  if (chosen.isPending) return <Loading what="what this changes" />;
  if (chosen.isLoadingError) return <Failed error={chosen.error} again={() => void chosen.refetch()} />;
  const { wishes, reason } = chosen.data;
  return (
    <section className="sheet pad mb-3" aria-labelledby="changes">
      <h2 id="changes">What this changes in the next two weeks</h2>
      {reason && <p className="soft mb-0">{reason}</p>}
      {!reason && wishes.length === 0 && (
        <p className="soft mb-0">Nothing yet. Add a fault, tick a goal, or test both sides: the lines it changes stand here.</p>
      )}
      {wishes.map((w) => (
        <OneWish key={w.id || w.words} athlete={id} wish={w} isPending={isPending} run={run} />
      ))}
      {problem && <Trouble problem={problem} />}
    </section>
  );
}

type OneProps = { athlete: number; wish: Wish; isPending: boolean; run: (change: Change) => void };

function OneWish({ athlete, wish: w, isPending, run }: OneProps) {
  return (
    <div className="wish border-top py-2">
      <div className="d-flex gap-2 align-items-baseline">
        <span>
          <b>{w.words}</b> <span className="soft small">· {w.because}</span>
        </span>
        {w.can_decline && (
          <button
            type="button"
            className="btn btn-link btn-sm p-0 ms-auto text-nowrap"
            disabled={isPending}
            aria-label={`${w.is_declined ? "Take in again" : "Leave out"}: ${w.words}`}
            onClick={() => run({ id: w.id, is_wanted: w.is_declined })}
          >
            {w.is_declined ? "Take in again" : "Leave out"}
          </button>
        )}
      </div>
      {w.is_declined && <div className="soft small">Left out by you.</div>}
      {!w.is_declined && w.lines.length === 0 && w.no_place.length === 0 && (
        <div className="soft small">No session of the next two weeks has a place for it.</div>
      )}
      {w.lines.map((x) => (
        <div key={`${x.day}${x.key}${x.slot}`} className="small">
          <Link to={`/athletes/${athlete}/session/${x.day}/${x.key}`}>{shortDay(x.day)}</Link> {x.slot} {x.exercise}{" "}
          <span className="tabular">{x.text}</span>
          {x.note && <span className="soft"> · {x.note}</span>}
        </div>
      ))}
      {w.no_place.map((words) => (
        <div key={words} className="small soft">
          No place: {words}
        </div>
      ))}
    </div>
  );
}
