// Exports: those that there are, asking for one, and watching them while any is on its way.
import { useLocalStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, saidBy, session } from "@/api/client";
import type { components } from "@/api/schema";
import { wholeOrder, type ExportState, type Forms, type Order } from "@/model/exporting";
import { give } from "@/model/files";
import type { Title } from "@/model/title";
import { text } from "@/text";
import { useAsked } from "./asked";
import { useNotices } from "./notices";

type Estimate = components["schemas"]["Estimate"];
const SOON = 500; // milliseconds, while something is made
const UNDERWAY = ["waiting", "running"];
const ENDED = ["stopped", "failed"];

export const useExports = defineStore("exports", () => {
  const { went } = useAsked();
  const notices = useNotices();
  const forms = shallowRef<Forms | null>(null);
  const all = shallowRef<ExportState[]>([]);
  /** The settings that were used last. */
  const last = useLocalStorage<Order>("mabrel.export", wholeOrder({ backdrop: false, plate: false }), { mergeDefaults: true });
  /** Those that were asked for in this page: each is given as soon as it is done. */
  const mine = new Set<string>();
  const watching = ref(false);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const underway = computed(() => all.value.filter(({ state }) => UNDERWAY.includes(state)).length);

  async function loadForms(): Promise<void> {
    forms.value = (await api.GET("/api/exports/forms").catch(() => null))?.data ?? forms.value;
  }
  async function load(): Promise<void> {
    clearTimeout(timer);
    all.value = (await api.GET("/api/exports").catch(() => null))?.data ?? all.value;
    for (const each of all.value) {
      if (each.state !== "done" || !mine.delete(each.id)) continue;
      fetch(each);
      if (!watching.value) notices.say({ text: text.exports.ready(`${each.name}${each.ending}`) });
    }
    for (const { id, state } of all.value) if (ENDED.includes(state)) mine.delete(id);
    if (watching.value || mine.size) timer = setTimeout(() => void load(), underway.value ? SOON : 6 * SOON);
  }
  function watchThem(on: boolean): void {
    watching.value = on;
    if (on) void load();
  }

  /** Begins one; null, or what is wrong in one sentence. */
  async function ask(document: Title, order: Order): Promise<string | null> {
    return begun(order, api.POST("/api/exports", { body: { document, order } }));
  }
  /** The same for many titles, which come in one zip. */
  async function askSet(documents: Title[], order: Order, sheet: boolean): Promise<string | null> {
    return begun(order, api.POST("/api/exports/set", { body: { documents, order, sheet } }));
  }
  async function begun(order: Order, asked: Promise<{ data?: ExportState; error?: unknown }>): Promise<string | null> {
    try {
      const { data, error } = await asked;
      if (!data) return saidBy(error);
      mine.add(data.id);
    } catch {
      return text.error.network;
    }
    last.value = order;
    await load();
    return null;
  }
  async function estimate(document: Title, order: Order, signal: AbortSignal): Promise<Estimate | undefined> {
    const answer = await api.POST("/api/exports/estimate", { body: { document, order, session }, signal });
    return answer.response.status === 200 ? answer.data : undefined;
  }
  const of = (id: string) => ({ params: { path: { export_id: id } } });
  async function stop(id: string): Promise<void> {
    if (await went(api.POST("/api/exports/{export_id}/stop", of(id)))) await load();
  }
  async function again(id: string): Promise<void> {
    if (!(await went(api.POST("/api/exports/{export_id}/again", of(id))))) return;
    mine.add(id);
    await load();
  }
  async function remove(id: string): Promise<void> {
    if (await went(api.DELETE("/api/exports/{export_id}", of(id)))) await load();
  }
  function fetch({ id, name, ending }: ExportState): void {
    give(`/api/exports/${id}/file`, `${name}${ending}`);
  }

  async function keepPreset(name: string, order: Order): Promise<void> {
    if (await went(api.POST("/api/exports/presets", { body: { name, order } }))) await loadForms();
  }
  async function forgetPreset(id: number): Promise<void> {
    const params = { path: { preset_id: id } };
    if (await went(api.DELETE("/api/exports/presets/{preset_id}", { params }))) await loadForms();
  }

  /** A title that is saved anew beside another one of its kind; its id, or null. */
  async function copyOf(id: string, document: Title): Promise<string | null> {
    const made = await api.POST("/api/titles/{title_id}/duplicate", { params: { path: { title_id: id } } });
    if (!made.data) return null;
    const params = { path: { title_id: made.data.id } };
    await api.PUT("/api/titles/{title_id}", { params, body: { version: made.data.version, document } });
    return made.data.id;
  }
  return {
    forms, all, last, underway, loadForms, load, watchThem, ask, askSet, estimate, stop, again, remove, fetch,
    keepPreset, forgetPreset, copyOf,
  };
});
