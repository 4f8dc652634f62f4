import { useState } from "react";
import Dropdown from "react-bootstrap/Dropdown";

import { api, need, type Schemas } from "../../api/client";
import { type Sheet, useSheetEdit } from "../../api/hooks";
import { firstProblem, useAction } from "../../api/useAction";
import { shortDay } from "../../parts/dates";
import { InlineForm } from "../../parts/InlineForm";
import { Trouble } from "../../parts/states";

type Block = Schemas["BlockOut"];
type Asked = "name" | "template" | "move" | "copy";

interface Props {
  id: number;
  sheet: Sheet;
  block: Block;
  days: string[];
}

/** What can be done with a block as a whole: another name, another place, another day, once more, kept, out. */
export function BlockMenu({ id, sheet, block, days }: Props) {
  const [asked, setAsked] = useState<Asked | null>(null);
  const [kept, setKept] = useState("");
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const path = { athlete_id: id, day: sheet.day, key: sheet.key };
  const carry = useAction((body: { day: string; keep: boolean }) =>
    need(
      api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/blocks/carry", { params: { path }, body: { block: block.name, ...body } }),
    ),
  );
  const save = useAction((name: string) =>
    need(
      api.POST("/api/templates", {
        body: { name, kind: "block", athlete_id: id, day: sheet.day, key: sheet.key, block: block.name, weeks: 1, note: "" },
      }),
    ),
  );
  const problem = firstProblem(edit, carry, save);
  const done = () => setAsked(null);
  return (
    <>
      <Dropdown className="d-inline-block">
        <Dropdown.Toggle as="button" className="line-menu" aria-label={`${block.name}: more`}>
          ⋯
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item as="button" onClick={() => setAsked("name")}>
            Another name …
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => edit.run({ op: "move_block", block: block.name, to: "up" })}>
            Up
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => edit.run({ op: "move_block", block: block.name, to: "down" })}>
            Down
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => edit.run({ op: "copy_block", block: block.name })}>
            Once more, below
          </Dropdown.Item>
          {days.length > 0 && (
            <>
              <Dropdown.Item as="button" onClick={() => setAsked("move")}>
                To another day …
              </Dropdown.Item>
              <Dropdown.Item as="button" onClick={() => setAsked("copy")}>
                Copy to another day …
              </Dropdown.Item>
            </>
          )}
          <Dropdown.Item as="button" onClick={() => setAsked("template")}>
            Save as template …
          </Dropdown.Item>
          <Dropdown.Divider />
          <Dropdown.Item as="button" onClick={() => edit.run({ op: "drop_block", block: block.name })}>
            Take the block out
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {kept && (
        <span className="soft small fw-normal" role="status">
          Kept as “{kept}”
        </span>
      )}
      {asked === "name" && (
        <NameForm
          label={`Another name for ${block.name}`}
          first={block.title}
          onLeave={done}
          onKeep={(name) => edit.run({ op: "rename_block", block: block.name, text: name }, done)}
        />
      )}
      {asked === "template" && (
        <NameForm
          label={`Name of the template of ${block.name}`}
          first={block.title}
          onLeave={done}
          onKeep={(name) =>
            save.run(name, () => {
              setKept(name);
              done();
            })
          }
        />
      )}
      {(asked === "move" || asked === "copy") && (
        <div className="replace d-flex flex-wrap gap-1" role="group" aria-label={`${asked === "copy" ? "Copy" : "Move"} ${block.name} to`}>
          {days.map((day) => (
            <button
              key={day}
              type="button"
              className="btn btn-plain btn-sm"
              disabled={carry.isPending}
              onClick={() => carry.run({ day, keep: asked === "copy" }, done)}
            >
              {shortDay(day)}
            </button>
          ))}
          <button type="button" className="btn btn-link btn-sm" onClick={done}>
            Cancel
          </button>
        </div>
      )}
      {problem && <Trouble problem={problem} />}
    </>
  );
}

interface NameProps {
  label: string;
  first: string;
  onKeep: (name: string) => void;
  onLeave: () => void;
}

function NameForm({ label, first, onKeep, onLeave }: NameProps) {
  const [name, setName] = useState(first);
  return (
    <InlineForm label="A name" onKeep={() => onKeep(name)} onLeave={onLeave}>
      <input
        className="form-control form-control-sm"
        style={{ maxWidth: 260 }}
        aria-label={label}
        value={name}
        maxLength={60}
        required
        autoFocus
        onChange={(e) => setName(e.target.value)}
      />
    </InlineForm>
  );
}
