import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { AthletePicker } from "../../parts/AthletePicker";
import { kg } from "../../parts/dates";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Trouble } from "../../parts/states";

type Table = Schemas["DeviceTableOut"];

/** A table of repetition velocities from any device: say what its columns mean once, it is kept for that device. */
export function DeviceTable({ devices, kept }: { devices: string[]; kept: () => void }) {
  const [text, setText] = useState("");
  const [device, setDevice] = useState("");
  const [mapping, setMapping] = useState<Record<string, string>>({});
  const [units, setUnits] = useState<Record<string, string>>({});
  const [table, setTable] = useState<Table | null>(null);
  const [athlete, setAthlete] = useState("");
  const [lift, setLift] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState("");
  const look = (body: { mapping: Record<string, string>; units: Record<string, string> }, content = text) => {
    setProblem(null);
    setSaid("");
    need(api.POST("/api/devices/preview", { body: { text: content, device, exercise_id: "", ...body } }))
      .then(setTable)
      .catch((e: unknown) => {
        setTable(null);
        setProblem(problemOf(e));
      });
  };
  const save = () => {
    setProblem(null);
    need(
      api.POST("/api/athletes/{athlete_id}/devices", {
        params: { path: { athlete_id: Number(athlete) } },
        body: { text, device, exercise_id: lift, mapping, units },
      }),
    )
      .then((answer) => {
        setSaid(answer.words);
        kept();
      })
      .catch((e: unknown) => setProblem(problemOf(e)));
  };
  const choose = (field: string, column: string) => {
    const now = Object.fromEntries((table?.fields ?? []).filter((f) => f.column).map((f) => [f.key, f.column]));
    const next = { ...now, ...mapping, [field]: column };
    if (!column) delete next[field];
    setMapping(next);
    look({ mapping: next, units });
  };
  return (
    <section className="sheet pad" aria-label="A file from a device">
      <h2>A file from a device</h2>
      <p className="soft">
        A CSV with one row a repetition: load and mean velocity are needed. The fastest repetition of each load and day goes into the
        athlete's results and profile.
      </p>
      <WhatFile
        text={text}
        device={device}
        devices={devices}
        onFile={(content) => {
          setText(content);
          setMapping({});
          look({ mapping: {}, units: {} }, content);
        }}
        onDevice={setDevice}
        onType={setText}
        onTyped={() => text.trim() && look({ mapping, units })}
      />
      {problem && (
        <div className="mt-2">
          <Trouble problem={problem} />
        </div>
      )}
      {table && (
        <>
          <Fields
            table={table}
            units={units}
            onColumn={choose}
            onUnit={(field, unit) => {
              const next = { ...units, [field]: unit };
              if (!unit) delete next[field];
              setUnits(next);
              look({ mapping, units: next });
            }}
          />
          <p className="mt-2 mb-1">
            <b>{table.count}</b> repetitions:{" "}
            <span className="num">
              {table.reps
                .slice(0, 6)
                .map((r) => `${kg(r.load_kg)} kg ${r.mean_mps.toFixed(2)}`)
                .join(" · ")}
            </span>
          </p>
          {[...table.missing.map((m) => `no column for ${m}`), ...table.problems].map((p) => (
            <div key={p} className="clay small">
              {p}
            </div>
          ))}
          <Whose athlete={athlete} canKeep={table.count > 0} onAthlete={setAthlete} onLift={setLift} onKeep={save} />
        </>
      )}
      {said && (
        <p className="mt-2 mb-0" role="status">
          {said}
        </p>
      )}
    </section>
  );
}

interface FileProps {
  text: string;
  device: string;
  devices: string[];
  onFile: (content: string) => void;
  onDevice: (device: string) => void;
  onType: (text: string) => void;
  onTyped: () => void;
}

/** The table itself, as a file or pasted, and the device it comes from. */
function WhatFile({ text, device, devices, onFile, onDevice, onType, onTyped }: FileProps) {
  return (
    <div className="d-flex flex-wrap gap-3 align-items-end">
      <label className="small">
        File
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          className="form-control tap"
          onChange={(e) => void e.target.files?.[0]?.text().then(onFile)}
        />
      </label>
      <label className="small">
        Device
        <input
          className="form-control tap"
          list="known-devices"
          maxLength={60}
          placeholder="what you call it"
          value={device}
          onChange={(e) => onDevice(e.target.value)}
        />
        <datalist id="known-devices">
          {devices.map((d) => (
            <option key={d} value={d} />
          ))}
        </datalist>
      </label>
      <label className="small flex-grow-1">
        or paste it
        <textarea className="form-control num" rows={1} value={text} onChange={(e) => onType(e.target.value)} onBlur={onTyped} />
      </label>
    </div>
  );
}

interface FieldProps {
  table: Table;
  units: Record<string, string>;
  onColumn: (field: string, column: string) => void;
  onUnit: (field: string, unit: string) => void;
}

/** Which column holds what, and in which unit. */
function Fields({ table, units, onColumn, onUnit }: FieldProps) {
  return (
    <div className="d-flex flex-wrap gap-3 mt-3">
      {table.fields.map((f) => (
        <div key={f.key} className="small">
          <label>
            {f.name}
            {f.needed && " (needed)"}
            <select className="form-select form-select-sm tap" value={f.column} onChange={(e) => onColumn(f.key, e.target.value)}>
              <option value="">no column</option>
              {table.columns.map((c) => (
                <option key={c} value={c}>
                  {c}
                </option>
              ))}
            </select>
          </label>
          {f.units.length > 0 && f.column && (
            <select
              className="form-select form-select-sm tap"
              aria-label={`Unit of ${f.name}`}
              value={units[f.key] ?? ""}
              onChange={(e) => onUnit(f.key, e.target.value)}
            >
              <option value="">as its name says</option>
              {f.units.map((u) => (
                <option key={u} value={u}>
                  {u}
                </option>
              ))}
            </select>
          )}
        </div>
      ))}
    </div>
  );
}

interface WhoseProps {
  athlete: string;
  canKeep: boolean;
  onAthlete: (athlete: string) => void;
  onLift: (lift: string) => void;
  onKeep: () => void;
}

/** Whose repetitions they are, and of which lift. */
function Whose({ athlete, canKeep, onAthlete, onLift, onKeep }: WhoseProps) {
  const [lift, setLift] = useState<Schemas["ExerciseRow"] | null>(null);
  const [typed, setTyped] = useState("");
  return (
    <div className="d-flex flex-wrap gap-3 align-items-end mt-2">
      <AthletePicker label="Athlete" athleteId={athlete ? Number(athlete) : null} onChoose={(id) => onAthlete(String(id))} />
      <div style={{ flex: "0 1 260px" }}>
        <ExercisePicker
          label="Of which lift"
          isLarge
          value={lift?.name ?? typed}
          chosen={lift}
          onType={(text) => {
            setTyped(text);
            setLift(null);
            onLift("");
          }}
          onChoose={(row) => {
            setLift(row);
            onLift(row.id);
          }}
        />
      </div>
      <Button className="tap px-3" disabled={!athlete || !lift || !canKeep} onClick={onKeep}>
        Save them
      </Button>
    </div>
  );
}
