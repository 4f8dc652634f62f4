import { useState } from "react";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useMay } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { Trouble } from "../../parts/states";

type Settings = Schemas["SettingsOut"];
type Rule = Schemas["RuleOut"];

/** Groups of values, each a table. */
export function Values({ groups }: { groups: Schemas["RuleGroupOut"][] }) {
  return groups.map((group) => (
    <div className="sheet mb-3" key={group.name}>
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
            <th style={{ width: "16%" }}>Unit</th>
            <th style={{ width: "27%" }}>Default and source</th>
          </tr>
        </thead>
        <tbody>
          {group.rules.map((rule) => (
            <RuleLine key={`${rule.key}${rule.value}`} rule={rule} />
          ))}
        </tbody>
      </table>
    </div>
  ));
}

function RuleLine({ rule }: { rule: Rule }) {
  const may = useMay();
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
          disabled={!may("centre")}
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
        {rule.changed && may("centre") && (
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

/** The equation between repetitions and a max. */
export function Equations({ settings }: { settings: Settings }) {
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
