import Button from "react-bootstrap/Button";

import { useSound } from "../../parts/sound";
import { SoundButton } from "../../parts/SoundButton";
import { useClock } from "./useClock";
import type { ClockData } from "./useRoom";

interface Props {
  clock: ClockData;
  big?: boolean;
  compact?: boolean;
  onAct?: (act: "pause" | "go" | "stop") => void;
}

/** One clock: what is called, how long it still lasts, which round, what comes next. */
export function ClockFace({ clock, big = false, compact = false, onAct }: Props) {
  const [sound] = useSound();
  const face = useClock(clock, sound);
  return (
    <div
      className={`clock-face${big ? " big" : ""}${compact ? " compact" : ""}${face.work ? " work" : ""}`}
      role="timer"
      aria-label={`${clock.name}: ${face.call}`}
    >
      <div className="d-flex justify-content-between gap-2 align-items-baseline">
        <span className="call">{face.call}</span>
        <span className="soft">{face.round}</span>
      </div>
      <div className="left num" data-elapsed={face.elapsed_s.toFixed(3)}>
        {face.left}
      </div>
      <div className="bar" aria-hidden>
        <i style={{ width: `${100 * face.share}%` }} />
      </div>
      <div className="d-flex justify-content-between gap-2 small soft">
        <span>{face.running || face.over ? face.next : "paused"}</span>
        <span>{clock.words}</span>
      </div>
      {onAct && (
        <div className={`d-flex gap-2${compact ? "" : " mt-2"}`}>
          {!face.over && (
            <Button variant="plain" className="tap flex-fill" onClick={() => onAct(face.running ? "pause" : "go")}>
              {face.running ? "Pause" : "Resume"}
            </Button>
          )}
          <Button variant="plain" className="tap flex-fill" onClick={() => onAct("stop")}>
            {face.over ? "Close" : "Stop"}
          </Button>
          {!compact && <SoundButton />}
        </div>
      )}
    </div>
  );
}
