import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { Trouble } from "../../parts/states";

type Kit = Schemas["KitOut"];
type Plate = { mass: string; pairs: string };
type Pull = { name: string; kind: string; at: string; first: string; second: string; byMetre: boolean };

const number = (text: string) => typedNumber(text) ?? 0;

/** A room's bar, plates in pairs and implements; micro-plates are just small plates. */
export function KitForm({ kit, settings, onDone }: { kit: Kit; settings: Schemas["SettingsOut"]; onDone: () => void }) {
  const [name, setName] = useState(kit.name);
  const [unit, setUnit] = useState(kit.unit);
  const [bar, setBar] = useState(String(kit.bar));
  const [collar, setCollar] = useState(String(kit.collar));
  const [plates, setPlates] = useState<Plate[]>(kit.plates.map((p) => ({ mass: String(p.mass), pairs: String(p.pairs) })));
  const [has, setHas] = useState(new Set(kit.has));
  const [gear, setGear] = useState<Set<string> | null>(kit.gear ? new Set(kit.gear) : null);
  const [pulls, setPulls] = useState<Pull[]>(
    kit.attachments.map((a) => ({ name: a.name, kind: a.kind, at: a.at, first: String(a.bottom), second: String(a.top), byMetre: false })),
  );
  const save = useAction((body: Schemas["KitIn"]) =>
    kit.id
      ? need(api.PUT("/api/settings/kits/{kit_id}", { params: { path: { kit_id: kit.id } }, body }))
      : need(api.POST("/api/settings/kits", { body })),
  );

  function submit() {
    const body = {
      name,
      unit,
      bar: number(bar),
      collar: number(collar),
      plates: plates.filter((p) => p.mass.trim()).map((p) => ({ mass: number(p.mass), pairs: number(p.pairs) })),
      has: [...has],
      gear: gear ? [...gear] : null,
      attachments: pulls
        .filter((p) => p.name.trim())
        .map((p) => ({
          name: p.name,
          kind: p.kind,
          at: p.at,
          ...(p.byMetre
            ? { bottom: 0, top: 0, per_metre: number(p.first || "0"), lifted_m: number(p.second || "0") }
            : { bottom: number(p.first || "0"), top: number(p.second || "0") }),
        })),
    };
    save.run(body, onDone);
  }

  const id = `kit-${kit.id}`;
  return (
    <Form
      className="mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <div className="d-flex flex-wrap gap-2">
        <Form.Group controlId={`${id}-name`} className="flex-grow-1">
          <Form.Label className="small mb-0">Name</Form.Label>
          <Form.Control size="sm" value={name} maxLength={60} onChange={(e) => setName(e.target.value)} required />
        </Form.Group>
        <Form.Group controlId={`${id}-unit`}>
          <Form.Label className="small mb-0">Plates in</Form.Label>
          <Form.Select size="sm" value={unit} onChange={(e) => setUnit(e.target.value)}>
            <option value="kg">kg</option>
            <option value="lb">lb</option>
          </Form.Select>
        </Form.Group>
        <Form.Group controlId={`${id}-bar`} style={{ width: 74 }}>
          <Form.Label className="small mb-0">Bar</Form.Label>
          <Form.Control size="sm" inputMode="decimal" value={bar} onChange={(e) => setBar(e.target.value)} />
        </Form.Group>
        <Form.Group controlId={`${id}-collar`} style={{ width: 74 }}>
          <Form.Label className="small mb-0">One collar</Form.Label>
          <Form.Control size="sm" inputMode="decimal" value={collar} onChange={(e) => setCollar(e.target.value)} />
        </Form.Group>
      </div>
      <Plates plates={plates} onChange={setPlates} />
      <Pulls id={id} unit={unit} kinds={settings.attachment_kinds} pulls={pulls} onChange={setPulls} />
      <fieldset className="mt-2">
        <legend className="small soft mb-0">Also here</legend>
        {settings.implements.map((item) => (
          <Form.Check
            key={item}
            inline
            id={`${id}-${item}`}
            label={item}
            checked={has.has(item)}
            onChange={(e) => {
              const next = new Set(has);
              if (e.target.checked) next.add(item);
              else next.delete(item);
              setHas(next);
            }}
          />
        ))}
      </fieldset>
      <Gear id={id} names={settings.gear_names} gear={gear} onChange={setGear} />
      {save.problem && <Trouble problem={save.problem} />}
      <div className="d-flex gap-2 mt-2">
        <Button size="sm" type="submit" disabled={save.isPending}>
          Save the kit
        </Button>
        <Button size="sm" variant="plain" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </Form>
  );
}

/** Bands and chains as measured once per rack height: what they pull at the bottom and at the top. */
function Pulls({
  id,
  unit,
  kinds,
  pulls,
  onChange,
}: {
  id: string;
  unit: string;
  kinds: string[];
  pulls: Pull[];
  onChange: (p: Pull[]) => void;
}) {
  const change = (i: number, part: Partial<Pull>) => onChange(pulls.map((p, j) => (j === i ? { ...p, ...part } : p)));
  const cell = (i: number, key: "name" | "at" | "first" | "second", label: string, width: number) => (
    <Form.Control
      size="sm"
      aria-label={`Pair ${i + 1} ${label}`}
      placeholder={label}
      value={pulls[i]?.[key] ?? ""}
      style={{ width }}
      maxLength={40}
      onChange={(e) => change(i, { [key]: e.target.value })}
    />
  );
  return (
    <fieldset className="mt-2" id={`${id}-pulls`}>
      <legend className="small soft mb-1">Bands and chains, each pair measured once per rack height</legend>
      {pulls.map((p, i) => (
        <div key={i} className="d-flex flex-wrap gap-1 mb-1">
          {cell(i, "name", "name", 130)}
          <Form.Select
            size="sm"
            aria-label={`Pair ${i + 1} kind`}
            value={p.kind}
            style={{ width: 140 }}
            onChange={(e) => change(i, { kind: e.target.value, byMetre: p.byMetre && e.target.value === "chains" })}
          >
            {kinds.map((k) => (
              <option key={k}>{k}</option>
            ))}
          </Form.Select>
          {cell(i, "at", "rack height", 110)}
          {cell(i, "first", p.byMetre ? `${unit} a metre, both` : `${unit} at the bottom`, 120)}
          {cell(i, "second", p.byMetre ? "metres lifted off" : `${unit} at the top`, 120)}
          {p.kind === "chains" && (
            <Form.Check
              className="small align-self-center"
              id={`${id}-metre-${i}`}
              label="by the metre"
              checked={p.byMetre}
              onChange={(e) => change(i, { byMetre: e.target.checked })}
            />
          )}
          <Button size="sm" variant="plain" aria-label={`Take out pair ${i + 1}`} onClick={() => onChange(pulls.filter((_, j) => j !== i))}>
            Take out
          </Button>
        </div>
      ))}
      <Button
        size="sm"
        variant="plain"
        onClick={() => onChange([...pulls, { name: "", kind: kinds[0] ?? "", at: "", first: "0", second: "", byMetre: false }])}
      >
        Another pair
      </Button>
    </fieldset>
  );
}

/** The plates of the room: mass and how many pairs. */
function Plates({ plates, onChange }: { plates: Plate[]; onChange: (plates: Plate[]) => void }) {
  const change = (i: number, part: Partial<Plate>) => onChange(plates.map((p, j) => (j === i ? { ...p, ...part } : p)));
  return (
    <>
      <div className="small soft mt-2">Plates: mass and how many pairs</div>
      <div className="d-flex flex-wrap gap-2">
        {plates.map((p, i) => (
          <span key={i} className="d-inline-flex" style={{ width: 96 }}>
            <Form.Control
              size="sm"
              inputMode="decimal"
              aria-label={`Plate ${i + 1} mass`}
              value={p.mass}
              onChange={(e) => change(i, { mass: e.target.value })}
            />
            <Form.Control
              size="sm"
              inputMode="numeric"
              aria-label={`Plate ${i + 1} pairs`}
              value={p.pairs}
              style={{ width: 40 }}
              onChange={(e) => change(i, { pairs: e.target.value })}
            />
          </span>
        ))}
        <Button size="sm" variant="plain" onClick={() => onChange([...plates, { mass: "", pairs: "1" }])}>
          Another plate
        </Button>
      </div>
    </>
  );
}

interface GearProps {
  id: string;
  names: Record<string, string>;
  gear: Set<string> | null;
  onChange: (gear: Set<string> | null) => void;
}

/** What stands in the room beside bars and plates; nothing said is everything. */
function Gear({ id, names, gear, onChange }: GearProps) {
  return (
    <fieldset className="mt-2">
      <legend className="small soft mb-0">What stands in the room</legend>
      <Form.Check
        inline
        id={`${id}-all-gear`}
        label="everything"
        checked={gear === null}
        onChange={(e) => onChange(e.target.checked ? null : new Set(Object.keys(names)))}
      />
      {gear !== null &&
        Object.entries(names).map(([key, label]) => (
          <Form.Check
            key={key}
            inline
            id={`${id}-gear-${key}`}
            label={label}
            checked={gear.has(key)}
            onChange={(e) => {
              const next = new Set(gear);
              if (e.target.checked) next.add(key);
              else next.delete(key);
              onChange(next);
            }}
          />
        ))}
    </fieldset>
  );
}
