// Saving by itself: what is acknowledged is on disk, what is not lies in this browser.
import { ref, shallowRef } from "vue";
import { api } from "@/api/client";
import type { Title } from "@/model/title";
import { useDrafts } from "./drafts";

export type SaveState = "saved" | "waiting" | "saving" | "offline" | "conflict";
export interface Other {
  version: number;
  document: Title;
}

const PAUSE = 500;
const RETRY = 2500;

export function useSaving(id: string) {
  const drafts = useDrafts(id);
  const state = ref<SaveState>("saved");
  const fault = ref("");
  const version = ref(0);
  const other = shallowRef<Other | null>(null);
  let wanted: Title | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let busy = false;
  const more = () => state.value === "waiting";

  function want(document: Title): void {
    wanted = document;
    drafts.keep({ version: version.value, document });
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
      drafts.drop();
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
    drafts.drop();
    state.value = "saved";
  }

  function stop(): void {
    void save();
  }
  return { state, fault, version, other, draft: drafts.read, want, save, settle, yieldTo, stop };
}
