import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useSettings } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { KitForm } from "./KitForm";

type Settings = Schemas["SettingsOut"];
type Rule = Schemas["RuleOut"];

export default function SettingsScreen() {
  const settings = useSettings();
  const [wanted, setWanted] = useState("");
  const reset = useAction(() => need(api.POST("/api/settings/reset")));
  if (settings.isPending) return <Loading what="the settings" />;
  if (settings.isError) return <Failed error={settings.error} again={() => void settings.refetch()} />;
  const s = settings.data;
  const needle = wanted.trim().toLowerCase();
  const groups = s.groups
    .map((g) => ({ ...g, rules: g.rules.filter((r) => `${g.name} ${r.name} ${r.text}`.toLowerCase().includes(needle)) }))
    .filter((g) => g.rules.length > 0);
  const changed = s.groups.flatMap((g) => g.rules).filter((r) => r.changed).length;
  return (
    <div className="page">
      <div className="d-flex align-items-end gap-3 mb-2">
        <div>
          <h1>Settings</h1>
          <p className="soft m-0">
            Every value here is common practice or Jarvok's own default, and yours to change. Published values stand in their tables.{" "}
            <Link to="/shorthand">How a line is written</Link> · <Link to="/sensors">Sensors of the room</Link> ·{" "}
            <Link to="/history">What was done</Link>
          </p>
        </div>
        <Button className="ms-auto" variant="plain" disabled={changed === 0 || reset.isPending} onClick={() => reset.run(undefined)}>
          {changed === 0 ? "All as shipped" : `Back to the defaults (${changed} changed)`}
        </Button>
      </div>
      {reset.problem && <Trouble problem={reset.problem} />}
      <div className="row g-3">
        <div className="col-xl-8">
          <div className="d-flex flex-wrap gap-2 align-items-center mb-2">
            <Form.Control
              aria-label="Find a value"
              placeholder="Find a value"
              value={wanted}
              onChange={(e) => setWanted(e.target.value)}
              style={{ width: 190 }}
            />
            <nav aria-label="Groups of values" className="d-flex flex-wrap gap-1">
              {groups.map((g, i) => (
                <a key={g.name} className="btn btn-plain btn-sm" href={`#values-${i}`}>
                  {g.name}
                </a>
              ))}
            </nav>
          </div>
          {groups.length === 0 && <Empty title={`No value is called “${wanted}”.`} />}
          {groups.map((group, i) => (
            <div className="sheet mb-3" key={group.name} id={`values-${i}`} style={{ scrollMarginTop: 64 }}>
              <table className="board">
                <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
                  {group.name}
                </caption>
                <thead>
                  <tr>
                    <th>What</th>
                    <th className="right" style={{ width: 110 }}>
                      value
                    </th>
                    <th style={{ width: "16%" }}>unit</th>
                    <th style={{ width: "27%" }}>default and source</th>
                  </tr>
                </thead>
                <tbody>
                  {group.rules.map((rule) => (
                    <RuleLine key={`${rule.key}${rule.value}`} rule={rule} />
                  ))}
                </tbody>
              </table>
            </div>
          ))}
        </div>
        <div className="col-xl-4">
          <Zone key={s.zone} settings={s} />
          <Equations settings={s} />
          <Kits settings={s} />
        </div>
      </div>
    </div>
  );
}

/** Where the centre lies: when its day begins, and what an hour in a calendar means. */
function Zone({ settings: s }: { settings: Settings }) {
  const [typed, setTyped] = useState(s.zone);
  const save = useAction((zone: string) => need(api.PUT("/api/settings/zone", { body: { zone } })));
  return (
    <form
      className="sheet pad mb-3"
      aria-label="Time zone"
      onSubmit={(e) => {
        e.preventDefault();
        save.run(typed.trim());
      }}
    >
      <h2>Time zone</h2>
      <p className="soft small mb-2">
        When the day begins here, and what hours in calendars mean. In force: {s.zone_in_force}
        {s.zone === "" && ", that of this server"}.
      </p>
      <div className="d-flex gap-2">
        <Form.Control
          size="sm"
          aria-label="Time zone of the centre"
          list="zones"
          value={typed}
          placeholder={s.zone_in_force}
          onChange={(e) => setTyped(e.target.value)}
        />
        <datalist id="zones">
          {s.zones.map((z) => (
            <option key={z} value={z} />
          ))}
        </datalist>
        <Button size="sm" type="submit" disabled={typed.trim() === s.zone || save.isPending}>
          Set it
        </Button>
      </div>
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}

function RuleLine({ rule }: { rule: Rule }) {
  const [typed, setTyped] = useState(String(rule.value));
  const change = useAction((value: number | null) =>
    need(api.PUT("/api/settings/rules/{key}", { params: { path: { key: rule.key } }, body: { value } })),
  );
  function save() {
    const value = typedNumber(typed) ?? 0;
    if (value === rule.value) return;
    change.run(value);
  }
  const id = `rule-${rule.key}`;
  return (
    <tr>
      <td>
        <label htmlFor={id} className="fw-semibold">
          {rule.name}
        </label>
        <div className="soft small">{rule.text}</div>
        {change.problem && <Trouble problem={change.problem} />}
      </td>
      <td className="right">
        <Form.Control
          id={id}
          size="sm"
          className="num text-end"
          inputMode="decimal"
          value={typed}
          isInvalid={change.problem !== null}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={save}
          onKeyDown={(e) => {
            if (e.key === "Enter") save();
            if (e.key === "Escape") {
              setTyped(String(rule.value));
              change.clear();
            }
          }}
        />
      </td>
      <td className="soft small">{rule.unit}</td>
      <td className="small">
        <span className={rule.changed ? "clay fw-semibold" : "soft"}>
          {rule.default} · {rule.source}
        </span>
        {rule.changed && (
          <div>
            <button
              type="button"
              className="btn btn-link btn-sm p-0"
              aria-label={`Back to the default of ${rule.name}`}
              onClick={() => change.run(null)}
            >
              Back to {rule.default}
            </button>
          </div>
        )}
      </td>
    </tr>
  );
}

function Equations({ settings }: { settings: Settings }) {
  const choose = useAction((key: string) => need(api.PUT("/api/settings/equation", { body: { key } })));
  return (
    <fieldset className="sheet pad mb-3">
      <legend className="fs-5 num">Repetitions to a max</legend>
      {choose.problem && <Trouble problem={choose.problem} />}
      <p className="soft small">Used in both directions, unless an athlete has enough rep-maxes for a relation of their own.</p>
      {settings.equations.map((e) => (
        <Form.Check
          key={e.key}
          type="radio"
          id={`eq-${e.key}`}
          name="equation"
          checked={choose.isPending ? choose.input === e.key : e.chosen}
          onChange={() => choose.run(e.key)}
          label={
            <>
              {e.name}{" "}
              <span className="soft small">
                100 kg × 5 is {e.max_of_100_for_5_kg} kg · {e.source}
              </span>
            </>
          }
        />
      ))}
    </fieldset>
  );
}

function Kits({ settings }: { settings: Settings }) {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <section className="sheet pad">
      <h2>Kits</h2>
      <p className="soft small">
        What a room holds decides which loads can be built. An athlete without a kit trains in a furnished room: a {settings.usual_kit.bar}{" "}
        kg bar and plates down to {settings.usual_kit.plates.at(-1)?.mass} kg.
      </p>
      {settings.kits.map((kit) => (
        <div key={kit.id} className="border-top py-2">
          <div className="d-flex">
            <span className="fw-semibold">{kit.name}</span>
            <Button
              size="sm"
              variant="link"
              className="ms-auto p-0"
              aria-expanded={open === kit.id}
              onClick={() => setOpen(open === kit.id ? null : kit.id)}
            >
              {open === kit.id ? "Close" : `Change ${kit.name}`}
            </Button>
          </div>
          <div className="soft small">
            bar {kit.bar} {kit.unit} · pairs {kit.plates.map((p) => `${p.mass}×${p.pairs}`).join(", ")} · {kit.has.join(", ")}
            {kit.attachments.map((a) => (
              <div key={`${a.name}${a.at}`}>
                {a.name}
                {a.at && `, ${a.at}`}: {a.kind} {a.bottom} to {a.top} {kit.unit}
              </div>
            ))}
          </div>
          {open === kit.id && <KitForm kit={kit} settings={settings} onDone={() => setOpen(null)} />}
        </div>
      ))}
      {open === 0 ? (
        <KitForm kit={{ ...settings.usual_kit, name: "" }} settings={settings} onDone={() => setOpen(null)} />
      ) : (
        <Button size="sm" variant="plain" className="mt-2" onClick={() => setOpen(0)}>
          Add a kit
        </Button>
      )}
    </section>
  );
}
