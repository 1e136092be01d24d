// Times as they are written: seconds, or seconds and frames.
import { calculate } from "@/model/arithmetic";

/** "2.10" */
export function inSeconds(time: number): string {
  return (Math.round(time * 1000) / 1000).toFixed(2).replace(/(\.\d\d)0+$/, "$1");
}
/** "2:03": seconds, and frames of the second that has begun. */
export function inFrames(time: number, fps: number): string {
  const rate = Math.round(fps);
  const frame = Math.round(time * fps);
  return `${Math.floor(frame / rate)}:${String(frame % rate).padStart(2, "0")}`;
}
/** Seconds that were typed: a sum, or seconds:frames; null where it is neither. */
export function readTime(words: string, fps: number): number | null {
  const parts = /^\s*(\d+)\s*:\s*(\d+)\s*$/.exec(words);
  if (parts) return (Number(parts[1]) * Math.round(fps) + Number(parts[2])) / fps;
  const value = calculate(words.replace(/s\s*$/, ""));
  return value === null || !Number.isFinite(value) ? null : value;
}
/** "25", "23.976" */
export function rateName(fps: number): string {
  return String(Math.round(fps * 1000) / 1000);
}

const STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1800, 3600];
export interface Tick {
  time: number;
  label: string | null;
}
/** The ticks of a ruler: named ones at least so many pixels apart, frames where there is room. */
export function ticks(start: number, end: number, perSecond: number, fps: number, room = 74): Tick[] {
  const frames = [1, 5, 10].map((count) => count / fps);
  const named = [...frames, ...STEPS].find((step) => step * perSecond >= room && step > 0) ?? 3600;
  const fine = named <= 10 / fps ? 1 / fps : named / 4;
  const found: Tick[] = [];
  for (let i = Math.floor(start / fine); i <= Math.ceil(end / fine); i += 1) {
    const time = i * fine;
    if (time < start - 1e-9 || time > end + 1e-9) continue;
    const whole = Math.abs(time / named - Math.round(time / named)) < 1e-6;
    found.push({ time, label: whole ? nameOf(time, named, fps) : null });
  }
  return found;
}
function nameOf(time: number, step: number, fps: number): string {
  if (step < 0.1 || step === 5 / fps || step === 10 / fps) return inFrames(time, fps);
  return `${Math.round(time * 100) / 100} s`;
}
