import Button from "react-bootstrap/Button";

import { useSound } from "./sound";

/** The one switch for all clocks of the page. */
export function SoundButton({ variant = "plain" }: { variant?: string }) {
  const [on, toggle] = useSound();
  return (
    <Button variant={variant} className="tap" aria-pressed={on} onClick={toggle}>
      {on ? "Sound on" : "Sound off"}
    </Button>
  );
}
