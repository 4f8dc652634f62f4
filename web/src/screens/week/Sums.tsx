import type { Schemas } from "../../api/client";

type Sums = Schemas["SumsOut"];

/** The week in sums, each beside last week's. */
export function WeekSums({ now, before }: { now: Sums; before: Sums | null }) {
  const patterns = Object.entries(now.by_pattern)
    .map(([p, n]) => `${p.replace("_", " ")} ${n}`)
    .join(", ");
  return (
    <dl className="sums" aria-label="The week in sums">
      <Sum name="main sets" value={now.hard_sets} before={before?.hard_sets} more={patterns} />
      {now.lifts > 0 && (
        <Sum
          name="lifts"
          value={now.lifts}
          before={before?.lifts}
          more={now.average_intensity_pct ? `average intensity ${now.average_intensity_pct} %` : ""}
        />
      )}
      <Sum name={`volume load, ${now.unit}`} value={now.volume} before={before?.volume} />
      {(now.contacts > 0 || (before?.contacts ?? 0) > 0) && <Sum name="foot contacts" value={now.contacts} before={before?.contacts} />}
      {(now.sprint_metres > 0 || (before?.sprint_metres ?? 0) > 0) && (
        <Sum name="sprint metres" value={now.sprint_metres} before={before?.sprint_metres} />
      )}
      <Sum name="minutes" value={now.minutes} before={before?.minutes} />
    </dl>
  );
}

function Sum({ name, value, before, more }: { name: string; value: number; before: number | undefined; more?: string }) {
  return (
    <div title={more}>
      <dt>{name}</dt>
      <dd className="num">{value.toLocaleString("en-GB")}</dd>
      {before !== undefined && <dd className="soft small">last week {before.toLocaleString("en-GB")}</dd>}
      {more && <dd className="soft small">{more}</dd>}
    </div>
  );
}
