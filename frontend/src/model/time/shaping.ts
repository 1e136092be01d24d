// Shaping an easing by dragging the line between two pegs.
import { USUAL_EASE, type Bezier, type Ease } from "./easing";

const [LEAST, MOST] = [-4, 5];

/** The curve that goes through a place moved by (`across`, `up`), as shares of the piece; the place
 * stands at a `share` of its time. */
export function shaped(ease: Ease, share: number, across: number, up: number): Bezier {
  const [x1, y1, x2, y2] = Array.isArray(ease) ? ease : USUAL_EASE;
  const s = Math.min(Math.max(share, 0.05), 0.95);
  // How much each of the two handles weighs there; the least change of both does it.
  const [a, b] = [3 * s * (1 - s) ** 2, 3 * s * s * (1 - s)];
  const sum = a * a + b * b;
  const unit = (value: number) => Math.min(Math.max(value, 0), 1);
  const held = (value: number) => Math.min(Math.max(value, LEAST), MOST);
  const round = (value: number) => Math.round(value * 1000) / 1000;
  return [
    round(unit(x1 + (across * a) / sum)), round(held(y1 + (up * a) / sum)),
    round(unit(x2 + (across * b) / sum)), round(held(y2 + (up * b) / sum)),
  ];
}
