import { useDeferredValue, useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import type { Problem } from "../../api/client";
import { dayMonth, longDay, shortDay, toCompetition } from "../../parts/dates";
import { Trouble } from "../../parts/states";
import { useReading, type Day, type Item, type Month } from "./useMonth";
import { Needs } from "../../parts/Needs";
import { useMay } from "../../api/hooks";

interface Props {
  month: Month;
  day: Day;
  problem: Problem | null;
  isPending: boolean;
  onWrite: (text: string, scope: string, done: () => void) => void;
  onMove: (item: Item, taken: string, to: string, edge: boolean) => void;
  onRename: (item: Item, name: string, done: () => void) => void;
  onTakeOut: (item: Item) => void;
}

/** The chosen day: a line to write on it, and what lies on it, to be moved, lengthened and taken out by keys as well. */
export function DayPanel({ month, day, problem, isPending, onWrite, onMove, onRename, onTakeOut }: Props) {
  const days = month.weeks.flatMap((w) => w.days);
  return (
    <section className="sheet pad" aria-label={`On ${longDay(day.day)}`}>
      <p className="mb-2">
        <b>{longDay(day.day)}</b>
        {day.days_to_go !== null && <span className="soft"> · {toCompetition(day.days_to_go)}</span>}
      </p>
      <Needs may="plan">
        <WriteBox key={`${month.whose}${month.id}`} month={month} day={day.day} isPending={isPending} onWrite={onWrite} />
      </Needs>
      {problem && <Trouble problem={problem} />}
      {day.items.length === 0 && <p className="soft small mb-0 mt-2">Nothing lies on this day.</p>}
      <ul className="list-unstyled mb-0">
        {day.items.map((i) => (
          <li key={i.key} className="border-top pt-2 mt-2">
            <ItemRow item={i} day={day.day} days={days} onMove={onMove} onRename={onRename} onTakeOut={onTakeOut} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function WriteBox({ month, day, isPending, onWrite }: Pick<Props, "month" | "isPending" | "onWrite"> & { day: string }) {
  const [text, setText] = useState("");
  const [scope, setScope] = useState(month.scopes[0]?.id ?? "squad");
  const read = useReading(useDeferredValue(text), day);
  const isTyped = text.trim() !== "";
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (isTyped) onWrite(text, scope, () => setText(""));
      }}
    >
      <Form.Control
        id="write-on-day"
        aria-label={`Write on ${longDay(day)}`}
        aria-describedby="write-read"
        autoComplete="off"
        value={text}
        maxLength={160}
        placeholder="match 19:00 away"
        onChange={(e) => setText(e.target.value)}
      />
      <p id="write-read" className="small mt-1 mb-2" aria-live="polite">
        {isTyped && read.data ? (
          <span className={read.data.is_read ? "" : "soft"}>
            {read.data.words}
            {read.data.is_read && " Enter saves it."}
          </span>
        ) : (
          <span className="soft">{month.accepted}</span>
        )}
      </p>
      <div className="d-flex gap-2 align-items-center">
        <Form.Select size="sm" aria-label="For" value={scope} onChange={(e) => setScope(e.target.value)}>
          {month.scopes.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </Form.Select>
        <Button size="sm" type="submit" className="flex-shrink-0 text-nowrap" disabled={!isTyped || isPending}>
          Save
        </Button>
      </div>
    </form>
  );
}

function ItemRow({
  item: i,
  day,
  days,
  onMove,
  onRename,
  onTakeOut,
}: { item: Item; day: string; days: Day[] } & Pick<Props, "onMove" | "onRename" | "onTakeOut">) {
  const may = useMay();
  const [name, setName] = useState<string | null>(null);
  const at = (of: string, by: number) => days[days.findIndex((d) => d.day === of) + by]?.day;
  const act = (label: string, to: string | undefined, edge: boolean) => (
    <button
      type="button"
      className="btn btn-link btn-sm p-0"
      disabled={!to}
      aria-label={`${i.title}: ${label}`}
      onClick={() => to && onMove(i, edge ? i.end : day, to, edge)}
    >
      {label}
    </button>
  );
  return (
    <>
      <div>
        {i.link ? <Link to={i.link}>{i.words}</Link> : i.words}
        {i.end !== i.start && (
          <span className="soft">
            {" "}
            · {shortDay(i.start)} to {dayMonth(i.end)}
          </span>
        )}
        {i.whom && <span className="soft"> · {i.whom}</span>}
      </div>
      {name !== null && (
        <form
          className="d-flex gap-2 my-1"
          aria-label={`Another name for ${i.title}`}
          onKeyDown={(e) => {
            if (e.key === "Escape") setName(null);
            e.stopPropagation();
          }}
          onSubmit={(e) => {
            e.preventDefault();
            onRename(i, name, () => setName(null));
          }}
        >
          <Form.Control
            size="sm"
            aria-label={`Name of ${i.title}`}
            value={name}
            maxLength={80}
            required
            autoFocus
            onChange={(e) => setName(e.target.value)}
          />
          <Button size="sm" variant="plain" type="submit">
            Save
          </Button>
        </form>
      )}
      {i.can_change && may("plan") && (
        <div className="d-flex flex-wrap gap-3">
          {act("a day earlier", at(day, -1), false)}
          {act("a day later", at(day, 1), false)}
          {i.can_lengthen && act("longer", at(i.end, 1), true)}
          {i.can_lengthen && i.end !== i.start && act("shorter", at(i.end, -1), true)}
          <button type="button" className="btn btn-link btn-sm p-0" aria-label={`${i.title}: rename`} onClick={() => setName(i.name)}>
            rename
          </button>
          <button type="button" className="btn btn-link btn-sm p-0" aria-label={`Take out: ${i.title}`} onClick={() => onTakeOut(i)}>
            Take out
          </button>
        </div>
      )}
    </>
  );
}
