// Only so many at once: a browser has six connections to a host, and a click must find one free.

export function turns(most: number) {
  const waiting: { place: number; start: () => void }[] = [];
  let running = 0;

  function next(): void {
    if (running >= most) return;
    const first = waiting.reduce((best, each, i) => (each.place < waiting[best]!.place ? i : best), 0);
    const [turn] = waiting.splice(first, 1);
    if (!turn) return;
    running += 1;
    turn.start();
  }
  /** Runs `work` when it is its turn, the lowest place first; what was given up is not begun. */
  async function inTurn<T>(work: () => Promise<T>, signal: AbortSignal, place = 0): Promise<T | undefined> {
    await new Promise<void>((start) => {
      waiting.push({ place, start });
      next();
    });
    try {
      return signal.aborted ? undefined : await work();
    } finally {
      running -= 1;
      next();
    }
  }
  return { inTurn };
}
