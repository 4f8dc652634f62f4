import type { Schemas } from "../../api/client";
import type { Season } from "../../api/hooks";
import { dayMonth, inDays, shortDay } from "../../parts/dates";
import { DAY_MS, LEFT, type Scale, utc, W } from "./axis";
import { counted } from "../../parts/counted";

export function RowLabel({ y, text, sub, plain = false }: { y: number; text: string; sub?: string; plain?: boolean }) {
  return (
    <>
      <text x="10" y={y} fontSize="12.5" fontWeight={plain ? 500 : 600} fill={plain ? "var(--soft)" : "var(--bs-body-color)"}>
        {text}
      </text>
      {sub && (
        <text x="10" y={y + 16} fontSize="12.5" fill="var(--soft)">
          {sub}
        </text>
      )}
    </>
  );
}

/** Camps, travel and the like as bars, matches as strokes. */
export function CalendarRow({ season, x, y }: { season: Season; x: Scale; y: number }) {
  return (
    <g>
      <RowLabel y={y + 12} text="Calendar" />
      {season.spans.map((s) => {
        const from = x(utc(s.start));
        const to = x(utc(s.end) + DAY_MS);
        if (to - from < 1) return null;
        const words = `${s.name}, ${shortDay(s.start)} to ${shortDay(s.end)}`;
        return (
          <g key={`${s.kind}${s.start}${s.name}`} role="img" aria-label={words}>
            <title>{words}</title>
            <rect x={from} y={y} width={Math.max(4, to - from - 1)} height="15" rx="2" fill="var(--plate)" stroke="var(--plate-line)" />
            <text
              x={to - from > s.name.length * 6 ? from + 5 : to + 3}
              y={y + 11.5}
              fontSize="11"
              fill={to - from > s.name.length * 6 ? "var(--bs-body-color)" : "var(--soft)"}
            >
              {s.name}
            </text>
          </g>
        );
      })}
      {season.matches.map((m) => (
        <path key={m} d={`M${x(utc(m)) + 2} ${y - 2}v19`} stroke="var(--clay)" strokeWidth="2.5">
          <title>{`Match, ${shortDay(m)}`}</title>
        </path>
      ))}
    </g>
  );
}

export function PracticeRow({ season, x, y, weekPx }: { season: Season; x: Scale; y: number; weekPx: number }) {
  const last = season.weeks.at(-1);
  const end = last ? utc(last.start) + 7 * DAY_MS : 0;
  return (
    <g>
      <RowLabel y={y + 14} text="Practice" />
      {season.weeks.map((w) =>
        season.practice_weights.map((weight, d) => {
          const at = utc(w.start) + d * DAY_MS;
          if (weight <= 0 || at >= end || x(at) >= W - 15 || x(at + DAY_MS) <= LEFT) return null;
          return (
            <rect
              key={`${w.index}-${d}`}
              x={x(at) + 1}
              y={y}
              width={Math.max(1.2, weekPx / 7 - 2)}
              height={Math.min(24, 3 + weight * 1.3)}
              fill="var(--practice)"
            />
          );
        }),
      )}
    </g>
  );
}

/** What each quality had last, until when it holds, and the last heavy exposure of each event. */
export function ResidualRows({ season, x, y }: { season: Season; x: Scale; y: number }) {
  return (
    <g>
      {season.residuals.length > 0 && <RowLabel y={y - 14} text="What will still be there on the day" />}
      {season.residuals.map((r, i) => {
        const top = y + i * 40;
        const last = x(utc(r.last_exposure));
        const expires = x(utc(r.expires));
        const words = `${r.quality}: last heavy session ${shortDay(r.last_exposure)}, holds to about ${shortDay(r.expires)}`;
        return (
          <g key={r.quality} tabIndex={0} role="img" aria-label={words}>
            <title>{words}</title>
            <RowLabel y={top + 12} text={r.quality[0]?.toUpperCase() + r.quality.slice(1)} plain />
            {r.spans.map((s) => (
              <rect
                key={s.start}
                x={x(utc(s.start))}
                y={top}
                width={Math.max(2, x(utc(s.end)) - x(utc(s.start)))}
                height="12"
                fill="var(--accent)"
              />
            ))}
            <rect x={last} y={top} width={Math.max(0, expires - last)} height="12" fill="var(--accent)" opacity="0.35" />
            <text x={LEFT + 3} y={top + 27} fontSize="12" fill="var(--soft)" stroke="var(--sheet)" strokeWidth="4" paintOrder="stroke">
              {r.text}: to {shortDay(r.expires)}
            </text>
          </g>
        );
      })}
    </g>
  );
}

export function ExposureRow({ exposures, x, y }: { exposures: Schemas["ExposureMarkOut"][]; x: Scale; y: number }) {
  if (exposures.length === 0) return null;
  return (
    <g>
      <RowLabel y={y + 12} text="Last heavy sessions" />
      {exposures.map((e) => {
        const words = `${e.event}: ${e.what}, ${shortDay(e.day)}, ${counted(e.days_out, "day")} before`;
        const at = x(utc(e.day));
        return (
          <g key={`${e.event}${e.what}`} tabIndex={0} role="img" aria-label={words}>
            <title>{words}</title>
            <path d={`M${at} ${y}l6 7l-6 7l-6-7z`} fill="var(--clay)" stroke="var(--sheet)" />
          </g>
        );
      })}
    </g>
  );
}

/** One competition: its day as a line with a flag. The main one ahead can be moved by dragging or with the arrow keys. */
export function CompetitionMark({
  c,
  x,
  height,
  row,
  onStart,
  onKey,
}: {
  c: Schemas["SeasonCompetitionOut"];
  x: Scale;
  height: number;
  row: number;
  onStart?: (e: React.PointerEvent) => void;
  onKey?: (key: string) => void;
}) {
  const at = x(utc(c.day));
  const y = 30 + row * 14;
  const main = c.rank === "main";
  const left = at > W / 2;
  const label = `${c.name} · ${shortDay(c.day)}${main ? "" : ` · ${c.rank_name}`}`;
  const movable = onKey !== undefined;
  return (
    <g
      role={movable ? "slider" : "img"}
      tabIndex={0}
      aria-label={movable ? `${c.name}: left and right move it by a day` : `${c.name}, ${c.rank_name}, ${dayMonth(c.day)}`}
      aria-valuenow={movable ? c.days_to_go : undefined}
      aria-valuetext={movable ? `${shortDay(c.day)}, ${inDays(c.days_to_go)}` : undefined}
      style={{ cursor: movable ? "ew-resize" : undefined }}
      onPointerDown={onStart}
      onKeyDown={(e) => {
        if (["ArrowLeft", "ArrowRight", "Enter", "Escape"].includes(e.key)) {
          e.preventDefault();
          onKey?.(e.key);
        }
      }}
    >
      <title>{label}</title>
      <rect x={left ? at - 200 : at - 6} y={y - 8} width="206" height="18" fill="transparent" />
      <path
        d={`M${at} ${y}V${height - 8}`}
        stroke={main ? "var(--clay)" : "var(--plate-line)"}
        strokeWidth={main ? 2 : 1.5}
        strokeDasharray={main ? undefined : "4 3"}
      />
      <path d={left ? `M${at} ${y - 4}l-12 5l12 5z` : `M${at} ${y - 4}l12 5l-12 5z`} fill={main ? "var(--clay)" : "var(--plate-line)"} />
      <text
        x={left ? at - 17 : at + 17}
        y={y + 5}
        fontSize="12.5"
        fontWeight="600"
        textAnchor={left ? "end" : "start"}
        fill={main ? "var(--clay)" : "var(--soft)"}
        stroke="var(--sheet)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {label}
      </text>
    </g>
  );
}
