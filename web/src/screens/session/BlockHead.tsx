import { useState } from "react";

import { type Schemas } from "../../api/client";
import { type Sheet, useCanChange, useGroupings, useSheetEdit } from "../../api/hooks";
import { Trouble } from "../../parts/states";
import { BlockMenu } from "./BlockMenu";

type Block = Schemas["BlockOut"];

interface Props {
  id: number;
  sheet: Sheet;
  block: Block | undefined;
  name: string;
  days: string[];
  isUnfolded: boolean;
  onUnfold: () => void;
}

/** A block's heading: its name, how its lines are grouped, and the form that groups them another way. */
export function BlockHead({ id, sheet, block, name, days, isUnfolded, onUnfold }: Props) {
  const [open, setOpen] = useState(false);
  useGroupings(); // known before the form opens, so that it can be typed into at once
  const canChange = useCanChange(sheet);
  return (
    <th colSpan={6} scope="colgroup">
      {name}
      {block?.note && ` · ${block.note}`}
      {block?.words && <span className="soft fw-normal"> · {block.words}</span>}
      {block && block.rows.length > 0 && (
        <button
          type="button"
          className="btn btn-link btn-sm p-0 ms-2 align-baseline fw-normal"
          aria-expanded={isUnfolded}
          aria-label={`Set by set: ${name}`}
          onClick={onUnfold}
        >
          set by set
        </button>
      )}
      {canChange && (
        <button
          type="button"
          className="btn btn-link btn-sm p-0 ms-2 align-baseline fw-normal"
          data-group
          aria-expanded={open}
          aria-label={`Group: ${name}`}
          onClick={() => setOpen(!open)}
        >
          group
        </button>
      )}
      {canChange && block && <BlockMenu id={id} sheet={sheet} block={block} days={days} />}
      {open && block && <GroupForm id={id} sheet={sheet} block={block} done={() => setOpen(false)} />}
    </th>
  );
}

function GroupForm({ id, sheet, block, done }: { id: number; sheet: Sheet; block: Block; done: () => void }) {
  const groupings = useGroupings();
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const [grouping, setGrouping] = useState(block.grouping);
  const [typed, setTyped] = useState<Record<string, string>>({
    every_s: String(block.every_s ?? ""),
    minutes: String(block.timed_minutes ?? ""),
    bpm: String(block.bpm ?? ""),
    beats: String(block.beats),
    rest_inside_s: String(block.rest_inside_s ?? ""),
    rest_between_s: String(block.rest_between_s ?? ""),
  });
  const [rounds, setRounds] = useState(String(block.rounds));
  const rule = groupings.data?.find((g) => g.key === grouping);
  const number = (key: string) => {
    const value = typed[key]?.trim();
    return rule?.figures.some((f) => f.key === key) && value ? Number(value) : null;
  };
  return (
    <form
      className="group-form"
      aria-label={`Group ${block.name}`}
      onKeyDown={(e) => e.key === "Escape" && done()}
      onSubmit={(e) => {
        e.preventDefault();
        edit.run(
          {
            op: "regroup",
            block: block.name,
            grouping,
            every_s: number("every_s"),
            minutes: number("minutes"),
            bpm: number("bpm"),
            beats: number("beats"),
            rest_inside_s: number("rest_inside_s"),
            rest_between_s: number("rest_between_s"),
            rounds: Number(rounds) && Number(rounds) !== block.rounds ? Number(rounds) : null,
          },
          done,
        );
      }}
    >
      <select
        className="form-select form-select-sm"
        aria-label="Grouping"
        value={grouping}
        autoFocus
        onChange={(e) => setGrouping(e.target.value)}
      >
        {groupings.data?.map((g) => (
          <option key={g.key} value={g.key}>
            {g.name}
          </option>
        ))}
      </select>
      {rule?.figures.map((n) => (
        <input
          key={n.key}
          className="form-control form-control-sm"
          inputMode="numeric"
          aria-label={n.name}
          placeholder={n.name}
          value={typed[n.key] ?? ""}
          onChange={(e) => setTyped({ ...typed, [n.key]: e.target.value })}
        />
      ))}
      <input
        className="form-control form-control-sm"
        inputMode="numeric"
        aria-label="Rounds, or sets of each"
        placeholder="rounds"
        value={rounds}
        onChange={(e) => setRounds(e.target.value)}
      />
      <button type="submit" className="btn btn-primary btn-sm" disabled={edit.isPending}>
        Apply
      </button>
      <button type="button" className="btn btn-plain btn-sm" onClick={done}>
        Cancel
      </button>
      {rule && <div className="soft small w-100 fw-normal">{rule.words}.</div>}
      {edit.problem && <Trouble problem={edit.problem} />}
    </form>
  );
}
