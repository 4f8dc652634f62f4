import { typedNumber } from "../logic/numbers";

interface Props extends React.InputHTMLAttributes<HTMLInputElement> {
  label: React.ReactNode;
  value: string | number;
  width?: number;
  isLarge?: boolean; // under a thumb on the floor
  isWhole?: boolean;
}

/** A number as a person types it, with a comma or a point, under its label; what is no number is marked while it is typed. */
export function NumberField({ label, value, width, isLarge, isWhole, className = "", ...input }: Props) {
  const isNumber = !Number.isNaN(typedNumber(String(value)));
  return (
    <label className={isLarge || !input.id ? "small" : "small d-block"}>
      {label}
      <input
        {...input}
        className={`form-control ${isLarge ? "tap num" : "form-control-sm"} ${className}`}
        style={{ width }}
        inputMode={isWhole ? "numeric" : "decimal"}
        autoComplete="off"
        value={value}
        aria-invalid={input["aria-invalid"] || !isNumber || undefined}
        title={isNumber ? undefined : "A number such as 62.5 or 62,5"}
      />
    </label>
  );
}
