// Numbers with units: 0.1em, 25 %, 12px, 0.25turn, 1rad. Without one, the field's own.
import { calculate } from "./arithmetic";

const SUFFIX = /\s*(px|em|%|°|deg|rad|turn|×)\s*$/i;

/** The value in the field's unit (per cent for shares), or null where it is no number or does not
 * fit. `em` is the size of the letters; 0 where there are none. */
export function measured(words: string, unit: string, em = 0): number | null {
  const found = SUFFIX.exec(words);
  const value = calculate(found ? words.slice(0, found.index) : words);
  if (value === null || !found) return value;
  const typed = found[1]!.toLowerCase();
  if (typed === unit) return value;
  if (unit === "px" && typed === "em" && em > 0) return value * em;
  if (unit === "px" && typed === "%" && em > 0) return (value / 100) * em;
  if (unit === "°" && typed === "deg") return value;
  if (unit === "°" && typed === "rad") return (value * 180) / Math.PI;
  if (unit === "°" && typed === "turn") return value * 360;
  return null;
}
