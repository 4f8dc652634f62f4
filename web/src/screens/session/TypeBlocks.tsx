import { useState } from "react";

import { api, need } from "../../api/client";
import { type Sheet, useSheetEdit, useTemplates } from "../../api/hooks";
import { firstProblem, useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";

const AS_ON_THE_BOARD = `contrast, 4 rounds, 3:00 between
trap-bar jump 1 @ 40/50/60/60 %
single-leg low hurdle hop 1/side
kettlebell swing 5 @ 20 kg
band-assisted jump 4`;

/** Whole blocks typed as they stand on the board, or put in from those kept. What cannot be read stays typed. */
export function TypeBlocks({ id, sheet }: { id: number; sheet: Sheet }) {
  const [text, setText] = useState<string | null>(null);
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  const templates = useTemplates();
  const blocks = templates.data?.filter((t) => t.kind === "block") ?? [];
  const putIn = useAction((template: number) =>
    need(
      api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/blocks", {
        params: { path: { athlete_id: id, day: sheet.day, key: sheet.key } },
        body: { template_id: template },
      }),
    ),
  );
  const problem = firstProblem(edit, putIn);
  const write = () => text !== null && edit.run({ op: "type", text }, () => setText(null));
  return (
    <div className="type-blocks">
      <div className="d-flex flex-wrap gap-3 align-items-center">
        <button
          type="button"
          data-blocks
          className="btn btn-link btn-sm p-0"
          aria-expanded={text !== null}
          onClick={() => setText(text === null ? "" : null)}
        >
          Write whole blocks
        </button>
        {blocks.length > 0 && (
          <label className="small d-flex gap-2 align-items-center m-0">
            Put in a kept block
            <select
              className="form-select form-select-sm w-auto"
              value=""
              disabled={putIn.isPending}
              onChange={(e) => e.target.value && putIn.run(Number(e.target.value))}
            >
              <option value="">choose</option>
              {blocks.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}, {t.words}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {text !== null && (
        <form
          className="mt-1"
          aria-label="Write whole blocks"
          onKeyDown={(e) => {
            if (e.key === "Escape") setText(null);
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) write();
          }}
          onSubmit={(e) => {
            e.preventDefault();
            write();
          }}
        >
          <textarea
            className="form-control form-control-sm num"
            aria-label="Blocks as they stand on the board"
            aria-describedby="how-blocks-are-written"
            rows={7}
            placeholder={AS_ON_THE_BOARD}
            value={text}
            autoFocus
            onChange={(e) => setText(e.target.value)}
          />
          <div id="how-blocks-are-written" className="soft small">
            First how the lines run: contrast, pair, circuit, complex, until you miss, metronome, rounds, every 2:00, 3:00 between. Then a
            line for each exercise. In brackets what a round is done with: (stick / bar 20 kg). “; easier: …” and “; harder: …” name other
            forms. An empty line begins the next block.
          </div>
          <button type="submit" className="btn btn-primary btn-sm mt-1" disabled={edit.isPending || !text.trim()}>
            Write them
          </button>{" "}
          <span className="soft small">
            <kbd>Ctrl</kbd> and <kbd>Enter</kbd> writes them, <kbd>Esc</kbd> leaves it.
          </span>
        </form>
      )}
      {problem && <Trouble problem={problem} />}
    </div>
  );
}
