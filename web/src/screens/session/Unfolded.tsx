import { useState } from "react";

import type { Schemas } from "../../api/client";
import { type Sheet, useSheetEdit } from "../../api/hooks";
import { InlineForm } from "../../parts/InlineForm";
import { Trouble } from "../../parts/states";

type Block = Schemas["BlockOut"];
type Cell = Schemas["CellOut"];

/** A block step by step, in the order in which it is done: a row a round where its lines go in turn, else a row a line. A cell is
 * one set; clicked, it takes another amount and load, or says what that round is done with. */
export function Unfolded({ id, sheet, block }: { id: number; sheet: Sheet; block: Block }) {
  const [open, setOpen] = useState<string | null>(null);
  const byRounds = block.columns.length > 0;
  const cell = (c: Cell, row: string) => (
    <SetCell
      key={`${c.line} ${c.number}`}
      id={id}
      sheet={sheet}
      cell={c}
      row={row}
      isOpen={open === `${c.line} ${c.number}`}
      onOpen={(is) => setOpen(is ? `${c.line} ${c.number}` : null)}
    />
  );
  return (
    <table className="unfolded" aria-label={`${block.name}, set by set`}>
      {byRounds && (
        <thead>
          <tr>
            <th scope="col">
              <span className="visually-hidden">Round</span>
            </th>
            {block.columns.map((c) => (
              <th key={c.slot} scope="col">
                {c.slot} <span className="fw-normal">{c.exercise}</span>
                {c.then && <span className="soft fw-normal d-block small">{c.then}</span>}
              </th>
            ))}
            <th scope="col" className="right">
              then rest
            </th>
          </tr>
        </thead>
      )}
      <tbody>
        {block.rows.map((r) => {
          const inLine = !byRounds || r.warms_up;
          return (
            <tr key={r.name} className={r.warms_up ? "soft" : undefined}>
              <th scope="row">{r.name}</th>
              {inLine ? (
                <td className="num" colSpan={byRounds ? block.columns.length : undefined}>
                  {r.cells.map((c, i) => (
                    <span key={i} className="set">
                      {cell(c, r.name)}
                    </span>
                  ))}
                </td>
              ) : (
                r.cells.map((c, i) => (
                  <td key={block.columns[i]?.slot} className="num">
                    {cell(c, `${block.columns[i]?.slot ?? ""}, ${r.name}`)}
                  </td>
                ))
              )}
              <td className="right num soft nowrap">{r.then}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

interface CellProps {
  id: number;
  sheet: Sheet;
  cell: Cell;
  row: string;
  isOpen: boolean;
  onOpen: (isOpen: boolean) => void;
}

function SetCell({ id, sheet, cell, row, isOpen, onOpen }: CellProps) {
  if (!cell.line || sheet.state !== "planned") return <>{cell.words}</>;
  return (
    <>
      <button
        type="button"
        className="line-text"
        aria-expanded={isOpen}
        aria-label={`${cell.words}: ${row}, change`}
        onClick={() => onOpen(!isOpen)}
      >
        {cell.words}
      </button>
      {isOpen && <RoundForm id={id} sheet={sheet} cell={cell} row={row} done={() => onOpen(false)} />}
    </>
  );
}

function RoundForm({ id, sheet, cell, row, done }: { id: number; sheet: Sheet; cell: Cell; row: string; done: () => void }) {
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const [text, setText] = useState(cell.text);
  const [form, setForm] = useState(cell.form);
  return (
    <InlineForm
      label={`Change ${row}`}
      busy={edit.isPending}
      onLeave={done}
      onKeep={() => edit.run({ op: "round", line: cell.line, number: cell.number, text: text === cell.text ? "" : text, note: form }, done)}
    >
      <input
        className="form-control form-control-sm"
        style={{ width: 110 }}
        aria-label="Repetitions and load"
        value={text}
        autoFocus
        onChange={(e) => setText(e.target.value)}
      />
      <input
        className="form-control form-control-sm"
        style={{ width: 130 }}
        aria-label="Implement or form of this round"
        placeholder="stick, bar, knees off"
        value={form}
        maxLength={40}
        onChange={(e) => setForm(e.target.value)}
      />
      {edit.problem && <Trouble problem={edit.problem} />}
    </InlineForm>
  );
}
