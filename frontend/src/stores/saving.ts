// Saving by itself: what is acknowledged is on disk, what is not lies in this browser.
import { ref, shallowRef } from "vue";
import { api } from "@/api/client";
import type { Title } from "@/model/title";

export type SaveState = "saved" | "waiting" | "saving" | "offline" | "conflict";
export interface Other {
  version: number;
  document: Title;
}

const PAUSE = 500;
const RETRY = 2500;

interface Draft {
  version: number;
  document: Title;
}

export function useSaving(id: string) {
  const key = `mabrel.draft.${id}`;
  const state = ref<SaveState>("saved");
  const fault = ref("");
  const version = ref(0);
  const other = shallowRef<Other | null>(null);
  let wanted: Title | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let busy = false;
  const more = () => state.value === "waiting";

  /** What was not acknowledged when this page was last left, if anything. */
  function draft(): Draft | null {
    const kept = localStorage.getItem(key);
    return kept ? (JSON.parse(kept) as Draft) : null;
  }

  function want(document: Title): void {
    wanted = document;
    try {
      localStorage.setItem(key, JSON.stringify({ version: version.value, document }));
    } catch {
      // A full store costs the safety net only; the save itself goes on.
    }
    if (state.value === "conflict") return;
    state.value = "waiting";
    clearTimeout(timer);
    timer = setTimeout(save, PAUSE);
  }

  async function save(): Promise<void> {
    clearTimeout(timer);
    if (busy || !wanted || state.value === "conflict") return;
    busy = true;
    state.value = "saving";
    const document = wanted;
    try {
      const answer = await api.PUT("/api/titles/{title_id}", {
        params: { path: { title_id: id } },
        body: { version: version.value, document },
      });
      if (answer.response.status === 409) {
        const told: unknown = answer.error;
        other.value = told as Other;
        state.value = "conflict";
      } else if (answer.data) {
        version.value = answer.data.version;
        acknowledged(document);
      } else {
        fault.value = String((answer.error as { message?: string })?.message ?? "");
        again();
      }
    } catch {
      again();
    } finally {
      busy = false;
    }
    if (more()) timer = setTimeout(save, PAUSE);
  }

  function acknowledged(document: Title): void {
    fault.value = "";
    if (wanted === document) {
      wanted = null;
      localStorage.removeItem(key);
      state.value = "saved";
    } else {
      state.value = "waiting";
    }
  }

  function again(): void {
    state.value = "offline";
    timer = setTimeout(save, RETRY);
  }

  /** Go on from the other window's version with this document. */
  async function settle(document: Title, on: number): Promise<void> {
    version.value = on;
    other.value = null;
    state.value = "saved";
    want(document);
    await save();
  }

  /** Give up what was not saved: the other window's state is taken. */
  function yieldTo(on: number): void {
    version.value = on;
    other.value = null;
    wanted = null;
    localStorage.removeItem(key);
    state.value = "saved";
  }

  function stop(): void {
    void save();
  }
  return { state, fault, version, other, draft, want, save, settle, yieldTo, stop };
}
