import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import type { Line, Sheet } from "../../api/hooks";
import { problemOf } from "../../api/client";
import { typedNumber } from "../../logic/numbers";
import { InlineForm } from "../../parts/InlineForm";
import { NumberField } from "../../parts/NumberField";
import { Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";

interface Props {
  id: number;
  sheet: Sheet;
  line: Line;
  onKeep: (text: string) => void;
  onLeave: () => void;
}

/** First load and step so that the miss comes in the wanted round: proposed from the max, written when the coach says so. */
export function UntilMiss({ id, sheet, line, onKeep, onLeave }: Props) {
  const [rounds, setRounds] = useState("8");
  const [every, setEvery] = useState("90");
  const asked = { rounds: typedNumber(rounds) ?? 0, every_s: typedNumber(every) ?? 0 };
  const found = useQuery({
    queryKey: keys.untilMiss(id, sheet.day, sheet.key, line.id, asked),
    enabled: asked.rounds > 0 && asked.every_s > 0,
    retry: false,
    queryFn: () =>
      need(
        api.GET("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}/until-miss", {
          params: { path: { athlete_id: id, day: sheet.day, key: sheet.key, line: line.id }, query: asked },
        }),
      ),
  });
  return (
    <InlineForm label={`Until ${line.slot} is missed`} onLeave={onLeave} onKeep={() => found.data && onKeep(found.data.text)}>
      <NumberField label="miss in round" width={70} isWhole value={rounds} autoFocus onChange={(e) => setRounds(e.target.value)} />
      <NumberField label="a round every, s" width={84} isWhole value={every} onChange={(e) => setEvery(e.target.value)} />
      {found.data && (
        <span>
          <b className="num">{found.data.text}</b>{" "}
          <Working data={found.data.working} label="Why: show the working">
            why
          </Working>
          <span className="soft small d-block">{found.data.working.caution}</span>
        </span>
      )}
      {found.isLoadingError && <Trouble problem={problemOf(found.error)} />}
    </InlineForm>
  );
}
