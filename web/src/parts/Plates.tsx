import { kg } from "./dates";

/** The plates of one side, from the inside out. The number is always on the plate. */
export function Plates({ perSide, scale = 1, worded = true }: { perSide: number[]; scale?: number; worded?: boolean }) {
  if (perSide.length === 0) return null;
  return (
    <span className="plates" role="img" aria-label={`${perSide.map(kg).join(" + ")} kg a side`}>
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
          {kg(mass)}
        </i>
      ))}
      {worded && <span className="soft ms-1">a side</span>}
    </span>
  );
}
