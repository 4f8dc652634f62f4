/** One switch for all sound of the page, kept in the browser; a tone, and a shake where the device can. */
import { useSyncExternalStore } from "react";

const KEY = "jarvok.sound";
const watchers = new Set<() => void>();
let player: AudioContext | null = null;

const isOn = () => localStorage.getItem(KEY) !== "off";

export function useSound(): [boolean, () => void] {
  const on = useSyncExternalStore((watch) => {
    watchers.add(watch);
    return () => watchers.delete(watch);
  }, isOn);
  const toggle = () => {
    localStorage.setItem(KEY, on ? "off" : "on");
    watchers.forEach((watch) => watch());
  };
  return [on, toggle];
}

/** Sound the end of a part (high) or a beat, so many seconds from now. A browser keeps quiet until somebody has touched the page. */
export function beep(in_s: number, high: boolean): void {
  player ??= new AudioContext();
  if (player.state === "suspended") void player.resume();
  const tone = player.createOscillator();
  const gain = player.createGain();
  const at = player.currentTime + Math.max(0, in_s);
  tone.frequency.value = high ? 1100 : 660;
  gain.gain.setValueAtTime(0.35, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + 0.12);
  tone.connect(gain).connect(player.destination);
  tone.start(at);
  tone.stop(at + 0.13);
  if (high && typeof navigator.vibrate === "function") setTimeout(() => navigator.vibrate(120), Math.max(0, in_s * 1000));
}
