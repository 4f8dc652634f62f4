import { kg } from "./dates";

/** The plates of one side, from the inside out. The number is always on the plate. */
type Props = { perSide: number[]; words?: string[]; unit?: string; scale?: number; worded?: boolean };

export function Plates({ perSide, words, unit = "kg", scale = 1, worded = true }: Props) {
  if (perSide.length === 0) return null;
  const labels = perSide.map((mass, i) => words?.[i] ?? kg(mass));
  return (
    <span className="plates" role="img" aria-label={`${labels.join(" + ")} ${unit} a side`}>
      {perSide.map((mass, i) => (
        <i
          key={i}
          aria-hidden
          style={{
            width: 27 * scale,
            height: (14 + Math.sqrt(mass) * 6) * scale,
            fontSize: 13 * Math.max(1, scale * 0.85),
          }}
        >
          {labels[i]}
        </i>
      ))}
      {worded && <span className="soft ms-1">{unit === "kg" ? "" : `${unit} `}a side</span>}
    </span>
  );
}
