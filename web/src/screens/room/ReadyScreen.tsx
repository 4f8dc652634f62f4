import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { longDay } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { OwnAnswers } from "./OwnAnswers";

/** An athlete's own questions on a phone, opened by a link that shows nothing else. */
export default function ReadyScreen() {
  const token = useParams().token ?? "";
  const client = useQueryClient();
  const key = keys.ready(token);
  const ready = useQuery({
    queryKey: key,
    queryFn: () => need(api.GET("/api/ready/{token}", { params: { path: { token } } })),
    retry: false,
  });
  const [sent, setSent] = useState(false);
  if (ready.isPending) return <Loading what="your questions" />;
  if (ready.isLoadingError) return <Failed error={ready.error} again={() => void ready.refetch()} />;
  const r = ready.data;
  return (
    <main className="page" style={{ maxWidth: 460, margin: "0 auto" }}>
      <h1>{r.name}</h1>
      <p className="soft">
        {r.squad} · {longDay(r.day)}. Half a minute, for your coach.
      </p>
      {sent && (
        <p className="says advice" role="status">
          Thank you, your coach has it. Changed your mind? Send it again.
        </p>
      )}
      <div className="sheet pad">
        <OwnAnswers<Schemas["ReadyOut"]>
          ready={r}
          path={`/api/ready/${token}`}
          onSent={(fresh) => {
            client.setQueryData(key, fresh);
            setSent(true);
          }}
        />
      </div>
    </main>
  );
}
