// How a value goes from one peg to the next: the engine's own (mabrel/title/easing.py) in the page.
export type Bezier = [number, number, number, number];
export type Ease = Bezier | "hold" | { steps: number } | { bounce: number } | { spring: number };

export const USUAL_EASE: Bezier = [0.42, 0, 0.58, 1];

/** Ready ones; those with a count may be counted otherwise. */
export const EASES = {
  even: [0, 0, 1, 1],
  softStart: [0.42, 0, 1, 1],
  softEnd: [0, 0, 0.58, 1],
  softBoth: USUAL_EASE,
  swingPast: [0.3, 0, 0.3, 1.55],
  bounce: { bounce: 3 },
  spring: { spring: 2 },
  hold: "hold",
  steps: { steps: 4 },
} satisfies Record<string, Ease>;
export type EaseName = keyof typeof EASES;
/** How many steps, bounces or swings there may be. */
export const COUNTS: Record<string, [number, number]> = { steps: [1, 240], bounce: [1, 8], spring: [1, 12] };

export function isEase(ease: unknown): ease is Ease {
  if (ease === "hold") return true;
  if (typeof ease !== "object" || ease === null) return false;
  if (Array.isArray(ease)) return ease.length === 4 && ease.every(Number.isFinite);
  const [[kind, count] = ["", 0], ...more] = Object.entries(ease) as [string, unknown][];
  const [low, high] = COUNTS[kind] ?? [1, 0];
  return !more.length && typeof count === "number" && count >= low && count <= high;
}

/** Progress, 0 to 1, at a share of the time; it may overshoot. */
export function eased(ease: Ease, share: number): number {
  if (ease === "hold") return 0;
  if (Array.isArray(ease)) return curved(ease, share);
  if ("steps" in ease) return Math.floor(share * ease.steps + 1e-9) / ease.steps;
  return "bounce" in ease ? bounced(ease.bounce, share) : sprung(ease.spring, share);
}

function curved([x1, y1, x2, y2]: Bezier, share: number): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i += 1) {
    const middle = (low + high) / 2;
    if (bezier(x1, x2, middle) < share) low = middle;
    else high = middle;
  }
  return bezier(y1, y2, (low + high) / 2);
}
function bezier(first: number, second: number, t: number): number {
  const s = 1 - t;
  return 3 * s * s * t * first + 3 * s * t * t * second + t * t * t;
}

const RESTITUTION = 0.5;
function bounced(times: number, share: number): number {
  let whole = 1;
  for (let k = 1; k <= times; k += 1) whole += 2 * RESTITUTION ** k;
  let place = share * whole;
  if (place < 1) return place * place;
  place -= 1;
  for (let k = 1; k <= times; k += 1) {
    const half = RESTITUTION ** k;
    if (place < 2 * half) return 1 - (half * half - (place - half) ** 2);
    place -= 2 * half;
  }
  return 1;
}

const DAMPING = 4;
function sprung(times: number, share: number): number {
  const turn = 2 * Math.PI * times;
  const away = Math.cos(turn * share) + (DAMPING / turn) * Math.sin(turn * share);
  return 1 - Math.exp(-DAMPING * share) * away * (1 - share * share);
}

/** The name of a ready easing; null for one of one's own. */
export function easeName(ease: Ease): EaseName | null {
  if (typeof ease === "object" && !Array.isArray(ease)) return Object.keys(ease)[0] as EaseName;
  const found = Object.entries(EASES).find(([, each]) => JSON.stringify(each) === JSON.stringify(ease));
  return (found?.[0] as EaseName | undefined) ?? null;
}
