import { useQueryClient } from "@tanstack/react-query";
import { Fragment, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { type Line, type Sheet, useCanChange, useSheet, useWeek } from "../../api/hooks";
import { firstProblem, useAction } from "../../api/useAction";
import { send } from "../../api/outbox";
import { Flags } from "../../parts/Flags";
import { Margin } from "../../parts/Margin";
import { Plates } from "../../parts/Plates";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { AddLine } from "./AddLine";
import { BlockHead } from "./BlockHead";
import { LineEditor } from "./LineEditor";
import { LineMenu } from "./LineMenu";
import { SheetHead } from "./SheetHead";
import { TypeBlocks } from "./TypeBlocks";
import { Unfolded } from "./Unfolded";
import { useHotkeys } from "../../parts/useHotkeys";

/** The athlete's session that comes next, for those who come by the bar above. */
export function SessionEntry() {
  const id = Number(useParams().id);
  const week = useWeek(id, undefined);
  if (week.isPending) return <Loading what="the next session" />;
  if (week.isLoadingError) return <Failed error={week.error} again={() => void week.refetch()} />;
  const days = week.data.week?.days.filter((d) => d.sheet) ?? [];
  const today = week.data.week?.days.find((d) => d.is_today)?.day ?? "";
  const next = days.find((d) => d.day >= today) ?? days.at(-1);
  if (next?.sheet) return <Navigate to={`/athletes/${id}/session/${next.day}/${next.sheet.key}`} replace />;
  return (
    <div className="page">
      <Empty title={week.data.reason || "No session is planned this week."}>
        <Link to={`/athletes/${id}/season`} className="btn btn-primary mt-1">
          Open the season
        </Link>
      </Empty>
    </div>
  );
}

export function SessionScreen() {
  const params = useParams();
  const id = Number(params.id);
  const sheet = useSheet(id, params.day ?? "", params.key ?? "");
  if (sheet.isPending) return <Loading what="the session" />;
  if (sheet.isLoadingError) return <Failed error={sheet.error} again={() => void sheet.refetch()} />;
  return <SheetView id={id} sheet={sheet.data} />;
}

function SheetView({ id, sheet }: { id: number; sheet: Sheet }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const week = useWeek(id, sheet.day);
  const add = useRef<HTMLInputElement>(null);
  const margin = useRef<HTMLDivElement>(null);
  const path = { athlete_id: id, day: sheet.day, key: sheet.key };
  const start = useAction(
    (asToday: boolean) =>
      send<Schemas["FloorOut"]>("/api/floor/sessions", { athlete_id: id, day: sheet.day, key: sheet.key, as_today: asToday }),
    { after: (_, floor) => void navigate(`/floor/${floor.id}`) },
  );
  const undo = useAction(() => need(api.POST("/api/athletes/{athlete_id}/plan/undo", { params: { path: { athlete_id: id } } })));
  const fix = useAction((f: Schemas["FixOut"]) =>
    need(
      api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/fix", {
        params: { path },
        body: { kind: f.kind, values: f.values as Record<string, string> },
      }),
    ),
  );
  const keep = useAction((body: Schemas["KeepIn"]) =>
    need(api.POST("/api/athletes/{athlete_id}/plan/flags", { params: { path: { athlete_id: id } }, body })),
  );
  const lift = useAction((word: number) => need(api.DELETE("/api/plan-flags/{word_id}", { params: { path: { word_id: word } } })));
  const back = useAction(() => need(api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/as-planned", { params: { path } })));
  const problem = firstProblem(start, fix, undo, keep, lift, back);
  const blocks = [...new Set(sheet.lines.map((l) => l.block))];
  const open = useCanChange(sheet);
  const days = week.data?.week?.days.filter((d) => d.day !== sheet.day && d.can_take).map((d) => d.day) ?? [];
  useHotkeys({
    "/": () => add.current?.focus(),
    n: () =>
      (margin.current?.querySelector<HTMLElement>(".asks button") ?? margin.current?.querySelector<HTMLElement>(".note button"))?.focus(),
    g: () => [...document.querySelectorAll<HTMLButtonElement>("[data-group]")].at(-1)?.focus(),
    b: () => document.querySelector<HTMLButtonElement>("[data-blocks]")?.click(),
    p: () => void navigate(`/athletes/${id}/session/${sheet.day}/${sheet.key}/squad`),
    u: () => open && sheet.can_undo && undo.run(undefined),
  });
  return (
    <div className="page">
      <SheetHead
        id={id}
        sheet={sheet}
        starting={start.isPending}
        onStart={(asToday) => start.run(asToday)}
        onUndo={() => undo.run(undefined)}
        onBack={() =>
          back.run(undefined, (answer) => {
            client.removeQueries({ queryKey: keys.sheet(id, sheet.day, sheet.key) });
            if (!answer.week?.days.some((d) => d.day === sheet.day && [d.sheet?.key, d.second?.key].includes(sheet.key)))
              void navigate(`/athletes/${id}/week/${sheet.day}`);
          })
        }
      />
      {problem && <Trouble problem={problem} />}
      <div className="with-margin">
        <div>
          <div className="sheet">
            <Lines id={id} sheet={sheet} blocks={blocks} days={days} />
            {open && <AddLine id={id} sheet={sheet} focusRef={add} />}
            {open && <TypeBlocks id={id} sheet={sheet} />}
          </div>
          {blocks.length > 0 && <MinutesBar sheet={sheet} blocks={blocks} />}
          {open && (
            <p className="soft small mt-1 mb-0">
              Keys: <kbd>/</kbd> adds a line, <kbd>b</kbd> writes whole blocks, <kbd>g</kbd> groups the last block, <kbd>n</kbd> goes to the
              notes, <kbd>u</kbd> takes the last change back, <kbd>p</kbd> goes to print.
            </p>
          )}
        </div>
        <div ref={margin}>
          <Flags
            flags={sheet.flags}
            onFix={(f) => f.fix && fix.run(f.fix)}
            onKeep={(f, reason) => keep.run({ check_id: f.check_id, where: f.where, reason })}
            onLift={(word) => lift.run(word)}
          />
          <Margin notes={sheet.notes} />
        </div>
      </div>
    </div>
  );
}

/** The lines of the session, block by block. */
function Lines({ id, sheet, blocks, days }: { id: number; sheet: Sheet; blocks: string[]; days: string[] }) {
  const [unfolded, setUnfolded] = useState<string[]>([]);
  const unit = sheet.lines.flatMap((l) => l.sets).find((s) => s.load_kg !== null)?.unit; // one room, one unit
  return (
    <table className="board session-board">
      <thead>
        <tr>
          <th>
            <span className="visually-hidden">Slot</span>
          </th>
          <th style={{ width: "27%" }}>Exercise and why it is here</th>
          <th style={{ width: "24%" }}>As on the board</th>
          <th className="right">{unit && `${unit}, `}set by set</th>
          <th>A side</th>
          <th>Share of max</th>
          <th className="right">Rest</th>
        </tr>
      </thead>
      {blocks.map((block) => {
        const lines = sheet.lines.filter((l) => l.block === block);
        const found = sheet.blocks.find((b) => b.name === block);
        const minutes = found?.minutes ?? 0;
        return (
          <Fragment key={block}>
            <tbody>
              <tr className="block">
                <BlockHead
                  id={id}
                  sheet={sheet}
                  block={found}
                  name={block}
                  days={days}
                  isUnfolded={unfolded.includes(block)}
                  onUnfold={() => setUnfolded(unfolded.includes(block) ? unfolded.filter((b) => b !== block) : [...unfolded, block])}
                />
                <td className="right nowrap">{Math.round(minutes)} min</td>
              </tr>
              {found && unfolded.includes(block) && (
                <tr>
                  <td colSpan={7} className="p-0">
                    <Unfolded id={id} sheet={sheet} block={found} />
                  </td>
                </tr>
              )}
              {lines.map((line) => (
                <LineRow
                  key={line.id}
                  id={id}
                  sheet={sheet}
                  line={line}
                  days={days}
                  pair={lines.length > 1 && found?.grouping !== "straight"}
                />
              ))}
            </tbody>
          </Fragment>
        );
      })}
      {blocks.length === 0 && (
        <tbody>
          <tr>
            <td colSpan={7} className="soft">
              Nothing in it yet. Type the first exercise below.
            </td>
          </tr>
        </tbody>
      )}
    </table>
  );
}

function LineRow({ id, sheet, line, days, pair }: { id: number; sheet: Sheet; line: Line; days: string[]; pair: boolean }) {
  const first = line.sets.find((s) => s.load_kg !== null);
  const canChange = useCanChange(sheet);
  return (
    <tr className={pair ? "pair" : undefined}>
      <td className="slot">{line.slot}</td>
      <td>
        <span className="fw-semibold">{line.exercise}</span>
        {canChange && <LineMenu id={id} sheet={sheet} line={line} days={days} />}
        <div className="soft small">
          {line.reason}
          {line.to_beat && ` · ${line.to_beat}`}
          {line.can_compare && (
            <>
              {" · "}
              <Link
                to={`/athletes/${id}/session/${sheet.day}/${sheet.key}/methods/${line.id}`}
                aria-label={`${line.slot}, 8 methods to load it`}
              >
                8 methods
              </Link>
            </>
          )}
        </div>
      </td>
      <td>
        <LineEditor id={id} sheet={sheet} line={line} />
        {line.note && <div className="small fw-semibold">{line.note}</div>}
        {line.learned.map((words) => (
          <div key={words} className="small fw-semibold">
            {words}
          </div>
        ))}
        {line.forms_words && <div className="small fw-semibold">{line.forms_words}</div>}
        {line.conditions_words && <div className="small fw-semibold">{line.conditions_words}</div>}
        <div className="cue small">{line.cue}</div>
      </td>
      <td className="right num" style={{ fontSize: "1.1rem" }}>
        <Loads line={line} />
      </td>
      <td>{first && <Plates perSide={first.per_side_kg} words={first.per_side_words} unit={first.unit} scale={0.8} worded={false} />}</td>
      <td>
        <Share line={line} />
      </td>
      <td className="right num soft">{line.rest}</td>
    </tr>
  );
}

function Loads({ line }: { line: Line }) {
  if (line.sets.every((s) => s.load_kg === null)) {
    const working = line.sets[0]?.working ?? null;
    return working ? <Working data={working}>by feel</Working> : null;
  }
  return (
    <span className={`d-inline-flex gap-2 justify-content-end ${line.sets.length > 5 ? "flex-wrap" : ""}`}>
      {line.sets.map((s) => (
        <span key={s.index}>
          <Working data={s.working} label={`Set ${s.index + 1}: ${s.load_words} ${s.unit}, show the working`}>
            {s.load_words}
          </Working>
          {s.range_words && <small className="soft d-block fw-normal">{s.range_words}</small>}
        </span>
      ))}
    </span>
  );
}

/** Where the sets lie between 40 and 100 % of the max. */
function Share({ line }: { line: Line }) {
  const shares = line.sets.map((s) => s.share_of_max).filter((v) => v !== null);
  if (shares.length === 0) return null;
  const x = (share: number) => 4 + Math.min(1, Math.max(0, (share - 0.3) / 0.7)) * 92;
  const words = [...new Set(shares.map((s) => `${Math.round(s * 100)} %`))].join(", ");
  return (
    <svg width="104" height="26" role="img" aria-label={words}>
      <path d="M4 19H100" stroke="var(--plate-line)" />
      {[0.4, 0.6, 0.8, 1].map((t) => (
        <path key={t} d={`M${x(t)} 16v6`} stroke="var(--plate-line)" />
      ))}
      {shares.map((s, i) => (
        <rect key={i} x={x(s) - 2} y="6" width="4" height="13" fill="var(--accent)" opacity={0.4 + (0.6 * (i + 1)) / shares.length} />
      ))}
      <text x={Math.min(x(shares.at(-1) ?? 0) + 5, 78)} y="10" fontSize="10.5" fill="var(--soft)">
        {words.split(", ").at(-1)}
      </text>
    </svg>
  );
}

const COLOURS = ["var(--ph-base)", "var(--ph-strength_speed)", "var(--ph-speed_strength)", "var(--ph-general)", "var(--plate)"];

function MinutesBar({ sheet, blocks }: { sheet: Sheet; blocks: string[] }) {
  const whole = Math.max(sheet.minutes, sheet.minutes_there);
  return (
    <div className="minutes" role="img" aria-label={`${Math.round(sheet.minutes)} of ${sheet.minutes_there} minutes`}>
      {sheet.warm_up_apart_minutes > 0 && (
        <div style={{ width: `${(100 * sheet.warm_up_apart_minutes) / whole}%`, background: "var(--plate)" }}>
          Warm-up {Math.round(sheet.warm_up_apart_minutes)}
        </div>
      )}
      {blocks.map((block, i) => {
        const minutes = sheet.blocks.find((b) => b.name === block)?.minutes ?? 0;
        return (
          <div key={block} style={{ width: `${(100 * minutes) / whole}%`, background: COLOURS[i % COLOURS.length] }}>
            {block.split(" · ")[0]} {Math.round(minutes)}
          </div>
        );
      })}
      <div className="ms-auto soft" style={{ color: "var(--soft)" }}>
        {Math.round(sheet.minutes)} of {sheet.minutes_there} min
      </div>
    </div>
  );
}
