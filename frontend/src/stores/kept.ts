// What undo can go back to, kept in this browser: it survives a reload.
import { get, set } from "idb-keyval";
import type { Title } from "@/model/title";

const MOST = 120;
const PAUSE = 400;

export interface KeptHistory {
  /** The saved version that the state at `at` belongs to. */
  version: number;
  at: number;
  states: Title[];
}

/** What lies in the browser's store: documents as text, which is written without being walked. */
interface Stored {
  version: number;
  at: number;
  states: string[];
}
const texts = new WeakMap<Title, string>();
function textOf(state: Title): string {
  const known = texts.get(state) ?? JSON.stringify(state);
  texts.set(state, known);
  return known;
}

const key = (id: string) => `mabrel.history.${id}`;

export async function readHistory(id: string): Promise<KeptHistory | null> {
  try {
    const stored = await get<Stored>(key(id));
    return stored ? { ...stored, states: stored.states.map((text) => JSON.parse(text) as Title) } : null;
  } catch {
    return null; // a browser that keeps nothing still works
  }
}

/** Keeps what `now` gives, a moment after it was called last. */
export function historyKeeper(id: string, now: () => KeptHistory) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  async function write(): Promise<void> {
    clearTimeout(timer);
    timer = undefined;
    const { version, at, states } = now();
    const from = Math.max(0, at - MOST);
    const stored: Stored = { version, at: at - from, states: states.slice(from, from + 2 * MOST).map(textOf) };
    try {
      await set(key(id), stored);
    } catch {
      // A browser that keeps nothing still works; undo ends with the page.
    }
  }
  function later(): void {
    clearTimeout(timer);
    timer = setTimeout(() => void write(), PAUSE);
  }
  function stop(): void {
    if (timer !== undefined) void write();
  }
  return { later, stop };
}
