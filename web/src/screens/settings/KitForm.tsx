import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { usePlanChange } from "../../api/hooks";
import { Trouble } from "../../parts/states";

type Kit = Schemas["KitOut"];
type Plate = { mass: string; pairs: string };

const number = (text: string) => Number(text.replace(",", "."));

/** A room's bar, plates in pairs and implements; micro-plates are just small plates. */
export function KitForm({ kit, settings, onDone }: { kit: Kit; settings: Schemas["SettingsOut"]; onDone: () => void }) {
  const [name, setName] = useState(kit.name);
  const [unit, setUnit] = useState(kit.unit);
  const [bar, setBar] = useState(String(kit.bar));
  const [collar, setCollar] = useState(String(kit.collar));
  const [plates, setPlates] = useState<Plate[]>(kit.plates.map((p) => ({ mass: String(p.mass), pairs: String(p.pairs) })));
  const [has, setHas] = useState(new Set(kit.has));
  const [problem, setProblem] = useState<Problem | null>(null);
  const save = usePlanChange((body: Schemas["KitIn"]) =>
    kit.id ? need(api.PUT("/api/settings/kits/{kit_id}", { params: { path: { kit_id: kit.id } }, body })) : need(api.POST("/api/settings/kits", { body })),
  );
  const change = (i: number, part: Partial<Plate>) => setPlates(plates.map((p, j) => (j === i ? { ...p, ...part } : p)));

  function submit() {
    const body = {
      name,
      unit,
      bar: number(bar),
      collar: number(collar),
      plates: plates.filter((p) => p.mass.trim()).map((p) => ({ mass: number(p.mass), pairs: number(p.pairs) })),
      has: [...has],
    };
    save.mutate(body, { onSuccess: onDone, onError: (e) => setProblem(problemOf(e)) });
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
      <div className="small soft mt-2">Plates: mass and how many pairs</div>
      <div className="d-flex flex-wrap gap-2">
        {plates.map((p, i) => (
          <span key={i} className="d-inline-flex" style={{ width: 96 }}>
            <Form.Control size="sm" inputMode="decimal" aria-label={`Plate ${i + 1} mass`} value={p.mass} onChange={(e) => change(i, { mass: e.target.value })} />
            <Form.Control size="sm" inputMode="numeric" aria-label={`Plate ${i + 1} pairs`} value={p.pairs} style={{ width: 40 }} onChange={(e) => change(i, { pairs: e.target.value })} />
          </span>
        ))}
        <Button size="sm" variant="plain" onClick={() => setPlates([...plates, { mass: "", pairs: "1" }])}>
          Another plate
        </Button>
      </div>
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
      {problem && <Trouble problem={problem} />}
      <div className="d-flex gap-2 mt-2">
        <Button size="sm" type="submit" disabled={save.isPending}>
          Save the kit
        </Button>
        <Button size="sm" variant="plain" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </Form>
  );
}
