// Finding steps by their name or by what somebody needs.
import type { StepEntry } from "./title";

/** Those that fit every typed word: by name first, then by need, then by what their help says; of
 * equals those of `stage` come first. */
export function foundSteps(steps: readonly StepEntry[], sought: string, stage = ""): StepEntry[] {
  const words = sought.trim().toLowerCase().split(/\s+/);
  const ranked = steps.flatMap((entry) => {
    const rank = Math.max(...words.map((word) => rankOf(entry, word)));
    return rank < 3 ? [{ entry, rank }] : [];
  });
  const far = (entry: StepEntry) => Number(entry.stage !== stage);
  return ranked.sort((a, b) => a.rank - b.rank || far(a.entry) - far(b.entry)).map(({ entry }) => entry);
}

function rankOf(entry: StepEntry, word: string): number {
  if (entry.label.toLowerCase().includes(word)) return 0;
  if (`${entry.words}, ${entry.stage}`.toLowerCase().includes(word)) return 1;
  return entry.help.toLowerCase().includes(word) ? 2 : 3;
}
