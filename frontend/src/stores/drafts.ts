// What was not acknowledged yet lies in this browser: written a moment later, and by the browser's
// own store off the main thread; at once, as text, where the page is left.
import { del, get, set } from "idb-keyval";
import type { Title } from "@/model/title";

export interface Draft {
  version: number;
  document: Title;
}
const PAUSE = 200;

export function useDrafts(id: string) {
  const key = `mabrel.draft.${id}`;
  let pending: Draft | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  function keep(draft: Draft): void {
    pending = draft;
    timer ??= setTimeout(write, PAUSE);
    addEventListener("pagehide", leave);
  }
  function write(): void {
    timer = undefined;
    // A full store costs the safety net only; the save itself goes on.
    if (pending) set(key, pending).catch(() => undefined);
  }
  function leave(): void {
    if (!pending) return;
    try {
      localStorage.setItem(key, JSON.stringify(pending));
    } catch {
      // as above
    }
  }
  function drop(): void {
    pending = null;
    clearTimeout(timer);
    timer = undefined;
    removeEventListener("pagehide", leave);
    localStorage.removeItem(key);
    del(key).catch(() => undefined);
  }
  /** What was not acknowledged when this page was last left, if anything. */
  async function read(): Promise<Draft | null> {
    if (pending) return pending;
    const left = localStorage.getItem(key);
    if (left) return JSON.parse(left) as Draft;
    return (await get<Draft>(key).catch(() => undefined)) ?? null;
  }
  return { keep, drop, read };
}
