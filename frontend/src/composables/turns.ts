// Only so many at once: a browser has six connections to a host, and a click must find one free.

export function turns(most: number) {
  const waiting: (() => void)[] = [];
  let running = 0;

  function next(): void {
    if (running >= most) return;
    const start = waiting.shift();
    if (!start) return;
    running += 1;
    start();
  }
  /** Runs `work` when it is its turn; what was given up meanwhile is not begun. */
  async function inTurn<T>(work: () => Promise<T>, signal: AbortSignal): Promise<T | undefined> {
    await new Promise<void>((start) => {
      waiting.push(start);
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
