import { useState } from "react";

import { api, need, type Problem, type Schemas } from "../../api/client";
import { useMe } from "../../api/hooks";
import { useAction } from "../../api/useAction";

/** A table on its way in: what was typed, how it was understood, and the steps from one to the other. */
export function useImport() {
  const writesMonthFirst = useMe().data?.day_order === "month first";
  const [text, setText] = useState("");
  const [squad, setSquad] = useState("");
  const [mapping, setMapping] = useState<Record<string, string>>({});
  const [monthFirst, setMonthFirst] = useState<boolean | null>(null); // until it is said, as whoever asks writes days
  const [preview, setPreview] = useState<Schemas["PreviewOut"] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [done, setDone] = useState<Schemas["ImportedOut"] | null>(null);
  const shown = (found: Schemas["PreviewOut"]) => {
    setPreview(found);
    setText(found.text);
    setMonthFirst(found.month_first);
    setDone(null);
  };
  const asked = { text, squad, mapping, month_first: monthFirst, without_bad: false };
  const read = useAction(
    (from: { file: File } | { again: Partial<typeof asked> } | null) =>
      from === null || "again" in from
        ? need(api.POST("/api/import/athletes/preview", { body: { ...asked, ...from?.again } }))
        : need(
            api.POST("/api/import/athletes/file", {
              params: { query: { squad } },
              body: { file: "" },
              bodySerializer: () => {
                const form = new FormData();
                form.append("file", from.file);
                return form;
              },
            }),
          ),
    { after: () => undefined, say: setProblem },
  );
  const take = useAction((withoutBad: boolean) => need(api.POST("/api/import/athletes", { body: { ...asked, without_bad: withoutBad } })), {
    say: setProblem,
  });
  const taken = (found: Schemas["ImportedOut"]) => {
    setDone(found);
    setPreview(null);
    setText("");
    setMapping({});
  };
  /** The columns as they are shown, one of them said by hand, and the rows read anew. */
  const map = (place: number, key: string) => {
    const now = Object.fromEntries((preview?.columns ?? []).map((c) => [c.place, c.key]));
    const by_hand = { ...now, ...mapping, [place]: key }; // what was said since the rows were read counts too
    setMapping(by_hand);
    read.run({ again: { mapping: by_hand } }, shown);
  };
  const type = (typed: string) => {
    setText(typed);
    setMapping({});
  };
  const putMonthFirst = (on: boolean) => {
    setMonthFirst(on);
    if (preview) read.run({ again: { month_first: on } }, shown);
  };
  const open = (file: File) => {
    setMapping({});
    read.run({ file }, shown);
  };
  return {
    text,
    type,
    squad,
    setSquad,
    monthFirst: monthFirst ?? writesMonthFirst,
    putMonthFirst,
    preview,
    problem,
    done,
    map,
    open,
    read: { isPending: read.isPending, run: () => read.run(null, shown) },
    take: { isPending: take.isPending, run: (withoutBad: boolean) => take.run(withoutBad, taken) },
  };
}
