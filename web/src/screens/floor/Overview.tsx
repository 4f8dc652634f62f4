import { Fragment, useEffect, useRef } from "react";

import type { Floor } from "../../api/hooks";

/** What is there and what is left. A dot a set: done, now, to come; warm-up sets are small. */
export function Overview({ floor }: { floor: Floor }) {
  const list = useRef<HTMLElement>(null);
  useEffect(() => {
    // the list alone is scrolled: on a phone, where it stands below, the set that is up stays in view
    const now = list.current?.querySelector<HTMLElement>("[aria-current]");
    if (now && list.current && list.current.scrollHeight > list.current.clientHeight) {
      list.current.scrollTop = now.offsetTop - list.current.offsetTop - list.current.clientHeight / 2;
    }
  }, [floor.current?.line_id]);
  return (
    <nav ref={list} className="floor-list" aria-label="The session" tabIndex={0}>
      {floor.lines.map((l, n) => {
        const now = l.id === floor.current?.line_id;
        const words = floor.block_words[l.block];
        const begins = words && floor.lines[n - 1]?.block !== l.block;
        const work = l.sets.filter((s) => s.kind === "work");
        const done = work.filter((s) => s.done).length;
        const skipped = work.filter((s) => s.skipped).length;
        const over = l.ended || work.every((s) => s.done || s.over);
        const result = work.find((s) => s.done?.result)?.done?.result;
        return (
          <Fragment key={l.id}>
            {begins && (
              <p className="block-words">
                {l.block} · {words}
              </p>
            )}
            <div className={`item${now ? " now" : ""}${over ? " past" : ""}`} aria-current={now ? "step" : undefined}>
              <div className="d-flex gap-2">
                <span className="num" style={{ width: 24 }}>
                  {l.slot}
                </span>
                <span className={now ? "fw-semibold" : undefined}>{l.exercise}</span>
              </div>
              <div className="small soft ps-4 ms-1">
                <span className="num">{l.text}</span>
                <br />
                <span className="dots" aria-hidden>
                  {l.sets.map((s) => (s.done ? (s.kind === "ramp" ? "•" : "●") : s.skipped ? "–" : s.kind === "ramp" ? "·" : "○")).join("")}
                </span>{" "}
                {result ||
                  (l.left_out
                    ? l.change
                    : l.ended_by && done < work.length
                      ? `away today: ${l.ended_by}`
                      : over && done + skipped < work.length
                        ? `stopped at ${done} of ${work.length}`
                        : `${done} of ${work.length}${skipped ? `, ${skipped} skipped` : ""}`)}
              </div>
            </div>
          </Fragment>
        );
      })}
    </nav>
  );
}
