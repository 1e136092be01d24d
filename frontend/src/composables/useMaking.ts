// Something that the studio makes in the background: how far it is, fetched when it is done; it can
// be stopped.
import { computed, onScopeDispose, ref, shallowRef } from "vue";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import { give } from "@/model/files";
import { text } from "@/text";

type State = components["schemas"]["MakingState"];
type Answer = Promise<{ data?: State; error?: unknown }>;
const POLL = 500;

interface Sort {
  state(id: string): Answer;
  stop(id: string): Promise<unknown>;
  file(id: string): string;
}
export const ZIPS: Sort = {
  state: (id) => api.GET("/api/zips/{zip_id}", { params: { path: { zip_id: id } } }),
  stop: (id) => api.DELETE("/api/zips/{zip_id}", { params: { path: { zip_id: id } } }),
  file: (id) => `/api/zips/${id}/file`,
};

export function useMaking(sort: Sort, done: () => void) {
  const state = shallowRef<State | null>(null);
  const fault = ref("");
  let name = "";
  let timer: ReturnType<typeof setTimeout> | undefined;
  const working = computed(() => state.value !== null && !state.value.ready && !state.value.fault);
  const left = computed(() =>
    state.value?.remaining == null ? "" : text.words.left(Math.ceil(state.value.remaining)),
  );

  /** Begins; what is fetched will have this name. */
  async function start(asked: Answer, fileName: string): Promise<void> {
    fault.value = "";
    name = fileName;
    try {
      const { data, error } = await asked;
      if (!data) fault.value = saidBy(error);
      else follow(data);
    } catch {
      fault.value = text.error.network;
    }
  }
  function follow(now: State): void {
    state.value = now;
    if (now.ready) {
      give(sort.file(now.id), name);
      state.value = null;
      done();
    } else if (now.fault) fault.value = now.fault === "stopped" ? text.words.stopped : now.fault;
    else timer = setTimeout(() => void ask(now.id), POLL);
  }
  async function ask(id: string): Promise<void> {
    try {
      const { data } = await sort.state(id);
      if (data) follow(data);
      else fault.value = text.words.lost;
    } catch {
      timer = setTimeout(() => void ask(id), 4 * POLL); // the work goes on without us
    }
  }
  async function stop(): Promise<void> {
    if (state.value) await sort.stop(state.value.id).catch(() => null);
  }
  onScopeDispose(() => clearTimeout(timer));
  return { state, fault, working, left, start, stop };
}
