import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link, useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useTestDay } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { ResultGrid, cellKey, type Typed } from "./ResultGrid";
import { useMay } from "../../api/hooks";

type Day = Schemas["TestDayOut"];
type Cell = Schemas["CellIn"];

/** A squad is tested: athletes down, lifts across, results typed, pasted or from a file, kept with one press. */
export default function TestDayScreen() {
  const id = Number(useParams().id);
  const [lifts, setLifts] = useState("");
  const day = useTestDay(id, lifts);
  if (day.isPending) return <Loading what="the test day" />;
  if (day.isLoadingError) return <Failed error={day.error} again={() => void day.refetch()} />;
  if (day.data.rows.length === 0) {
    return (
      <div className="page">
        <Empty title={`Nobody is in ${day.data.squad} yet.`}>
          <Link to="/athletes" className="btn btn-primary">
            Add athletes
          </Link>
        </Empty>
      </div>
    );
  }
  return <TestDay key={id} day={day.data} setLifts={setLifts} />;
}

function TestDay({ day, setLifts }: { day: Day; setLifts: (ids: string) => void }) {
  const may = useMay();
  const [on, setOn] = useState(day.today);
  const [unit, setUnit] = useState(day.unit === "lb" ? "lb" : "kg");
  const [typed, setTyped] = useState<Typed>({});
  const [kept, setKept] = useState<Record<string, Schemas["KeptCell"]>>({});
  const [search, setSearch] = useState("");
  const ids = day.lifts.map((l) => l.id);
  const path = { params: { path: { squad_id: day.squad_id } } };
  const cells = (confirm = false): Cell[] =>
    Object.entries(typed)
      .filter(([, text]) => text.trim())
      .map(([key, text]) => ({ athlete_id: Number(key.split("|")[0]), exercise_id: key.split("|")[1] ?? "", text, confirm }));
  const save = useAction((confirm: boolean) =>
    need(
      api.POST("/api/squads/{squad_id}/test-day", { ...path, body: { day: on, unit: unit === "lb" ? "lb" : "kg", cells: cells(confirm) } }),
    ),
  );
  const read = useAction(
    (from: Schemas["PasteIn"] | { file: File }) =>
      "text" in from
        ? need(api.POST("/api/squads/{squad_id}/test-day/paste", { ...path, body: from }))
        : need(
            api.POST("/api/squads/{squad_id}/test-day/file", {
              ...path,
              body: { file: "" },
              bodySerializer: () => {
                const form = new FormData();
                form.append("file", from.file);
                return form;
              },
            }),
          ),
    { after: () => undefined },
  );
  const [unknown, setUnknown] = useState<string[]>([]);
  const fill = (found: Schemas["PastedOut"]) => {
    setUnknown(found.unknown);
    setLifts([...new Set([...ids, ...found.lifts.map((l) => l.id)])].join(","));
    setTyped((old) => ({ ...old, ...Object.fromEntries(found.cells.map((c) => [cellKey(c.athlete_id, c.exercise_id), c.text])) }));
  };
  const keep = (confirm: boolean) =>
    save.run(confirm, (out) => {
      const next: Record<string, Schemas["KeptCell"]> = {};
      for (const c of out.cells) next[cellKey(c.athlete_id, c.exercise_id)] = c;
      setKept(next);
      setTyped((old) => Object.fromEntries(Object.entries(old).filter(([key]) => !next[key]?.is_kept)));
      setLifts(ids.join(","));
    });
  const count = cells().length;
  const asks = Object.values(kept).some((c) => c.asks && typed[cellKey(c.athlete_id, c.exercise_id)]);
  return (
    <div className="page">
      <h1>Test day · {day.squad}</h1>
      <p className="soft mb-2">
        Type a load, or load × reps: 100, 70x5, 225 lb, 60 technical. Enter goes down. Paste a table into the first cell, or bring a file.
        {` ${day.caution}`}
      </p>
      <div className="d-flex flex-wrap gap-3 align-items-end mb-2">
        <Form.Group controlId="test-day">
          <Form.Label className="small mb-0">Day</Form.Label>
          <Form.Control size="sm" type="date" value={on} max={day.today} onChange={(e) => setOn(e.target.value)} />
        </Form.Group>
        <Form.Group controlId="test-unit">
          <Form.Label className="small mb-0">Loads in</Form.Label>
          <Form.Select size="sm" value={unit} onChange={(e) => setUnit(e.target.value)}>
            <option value="kg">kg</option>
            <option value="lb">lb</option>
          </Form.Select>
        </Form.Group>
        <ExercisePicker
          label="Add a lift"
          value={search}
          chosen={null}
          onType={setSearch}
          onChoose={(row) => {
            setSearch("");
            setLifts([...new Set([...ids, row.id])].join(","));
          }}
        />
        <Form.Group controlId="test-file">
          <Form.Label className="small mb-0">From a CSV or XLSX file</Form.Label>
          <Form.Control
            size="sm"
            type="file"
            accept=".csv,.xlsx,.tsv,.txt"
            onChange={(e) => {
              const file = (e.target as HTMLInputElement).files?.[0];
              if (file) read.run({ file }, fill);
            }}
          />
        </Form.Group>
        <Button className="ms-auto" disabled={count === 0 || save.isPending || !may("plan")} onClick={() => keep(asks)}>
          {asks ? `Save ${count} again, they are right` : `Save ${count} ${count === 1 ? "result" : "results"}`}
        </Button>
      </div>
      {save.problem && <Trouble problem={save.problem} />}
      {read.problem && <Trouble problem={read.problem} />}
      {unknown.length > 0 && (
        <p className="note" role="status">
          Not understood: {unknown.join("; ")}.
        </p>
      )}
      <p role="status" className="soft mb-1">
        {save.isDone && `${Object.values(kept).filter((c) => c.is_kept).length} kept.`}
      </p>
      <ResultGrid
        day={day}
        typed={typed}
        kept={kept}
        onType={(key, text) => setTyped((old) => ({ ...old, [key]: text }))}
        onPaste={(text, athlete_id, exercise_id) => read.run({ text, athlete_id, exercise_id, lifts: ids }, fill)}
        onDrop={(lift) => setLifts(ids.filter((l) => l !== lift).join(","))}
      />
    </div>
  );
}
