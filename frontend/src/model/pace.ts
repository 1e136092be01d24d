// How fine a picture may be so that it keeps up with a hand, by what others took.

/** The share of the full scale at which a hand that looks for a moment sees the first picture. */
export const COARSEST = 0.12;
const FIXED = 15; // milliseconds that any picture takes, however small
const KEPT = 0.4; // steps by which the last one may be off and stays

export interface Pace {
  /** Milliseconds that a picture may take while the hand moves. */
  readonly lag: number;
  /** Shares of the full scale, at least and at most. */
  readonly least: number;
  readonly most: number;
  /** Milliseconds that a picture at full scale took lately, of those that were asked for so. */
  full: number;
  /** Half octaves below the full scale of the last picture that was too slow at that. */
  step: number;
}

/** Under a hand that sets something, coarser ones help nobody; where it looks for a moment, a coarser
 * one at once is better than a finer one later, so it begins with one. There the first picture at a
 * new scale takes longer than those that come after it, and counts as much: so it may take less, and none is
 * full, however quick those were that the engine had already. */
export const newPaces = (): { setting: Pace; looking: Pace } => ({
  setting: { lag: 40, least: 0.3, most: 1, full: 0, step: 0 },
  looking: { lag: 30, least: COARSEST, most: Math.SQRT1_2 / 2, full: Infinity, step: Infinity },
});

/** The share of the full scale at which a picture keeps up. It goes by half octaves, and stays where
 * it was when in doubt: at the same scale the engine has all that the hand doesn't change. */
export function shareOf(pace: Pace): number {
  if (pace.full <= pace.lag) return pace.most;
  const wanted = -Math.log2((pace.lag - FIXED) / (pace.full - FIXED)); // half octaves, as areas double
  if (!(Math.abs(wanted - pace.step) < 0.5 + KEPT)) pace.step = Math.round(wanted);
  return Math.min(Math.max(2 ** (-pace.step / 2), pace.least), pace.most);
}

/** Learn from a picture at a share of the full scale. */
export function learn(pace: Pace, share: number, milliseconds: number): void {
  const atFull = FIXED + Math.max(milliseconds - FIXED, 1) / (share * share);
  pace.full = pace.full > 0 && isFinite(pace.full) ? 0.6 * pace.full + 0.4 * atFull : atFull;
}
