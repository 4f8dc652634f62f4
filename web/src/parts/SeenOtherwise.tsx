import type { FloorLine, FloorSet } from "../api/hooks";

/** Whether a set was measured by anything but the bar's sensor: a mat, gates, a device with results only. */
export function isSeenOtherwise(set: FloorSet): boolean {
  return set.jumps.length > 0 || set.splits.length > 0 || (set.device_mps.length > 0 && set.measured.length === 0);
}

/** What that was, as it comes: the newest number large, the others below, and the word on whether it was the last. */
export function SeenOtherwise({ line, set, large }: { line: FloorLine; set: FloorSet; large: "speed" | "big-v" }) {
  const jump = set.jumps.at(-1);
  if (jump) {
    return (
      <div aria-live="polite">
        <div className={large}>
          {jump.height_cm.toFixed(1)} <small>cm</small>
          {jump.contact_s != null && <small> · {jump.contact_s.toFixed(2)} s on the ground</small>}
        </div>
        <div className="num">{set.jumps.map((j) => j.height_cm.toFixed(0)).join(" · ")}</div>
        <div className={set.jumps_off ? "clay fw-semibold" : "soft"}>{set.jump_word}</div>
      </div>
    );
  }
  if (set.splits.length > 0) {
    return (
      <div aria-live="polite">
        <div className={large}>
          {set.splits.at(-1)?.seconds.toFixed(2)} <small>s</small>
        </div>
        <div className="num">{set.splits.map((s) => `${s.at} ${s.seconds.toFixed(2)}`).join(" · ")}</div>
        <div className={set.run_off ? "clay fw-semibold" : "soft"}>{set.run_word}</div>
      </div>
    );
  }
  return (
    <div aria-live="polite">
      <div className={large}>
        {set.device_mps.at(-1)?.toFixed(2)} <small>{line.measured_by}, from the device</small>
      </div>
      <div className="num">{set.device_mps.map((v) => v.toFixed(2)).join(" · ")}</div>
    </div>
  );
}
