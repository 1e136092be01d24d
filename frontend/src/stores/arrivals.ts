// Arrivals and departures: those that there are, laying one, and keeping one's own.
import { defineStore } from "pinia";
import { shallowRef } from "vue";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import { give as giveFile } from "@/model/files";
import { text } from "@/text";
import { useActs } from "./acts";
import { useAsked } from "./asked";
import { useClock } from "./clock";
import { useNotices } from "./notices";
import { useOpened } from "./opened";
import { useTimeline } from "./timeline";

export type ArrivalEntry = components["schemas"]["ArrivalSummary"];
type Arrival = components["schemas"]["Arrival"];

export const useArrivals = defineStore("arrivals", () => {
  const opened = useOpened();
  const acts = useActs();
  const clock = useClock();
  const notices = useNotices();
  const timeline = useTimeline();
  const { went } = useAsked();
  const all = shallowRef<ArrivalEntry[]>([]);

  async function load(): Promise<void> {
    all.value = (await api.GET("/api/arrivals").catch(() => null))?.data ?? all.value;
  }
  /** The way that it goes: one that is run back goes the other. */
  function wayOf(entry: ArrivalEntry, runBack: boolean): ArrivalEntry["way"] {
    if (!runBack) return entry.way;
    return entry.way === "arrival" ? "departure" : "arrival";
  }
  /** When it begins: an arrival with the title, a departure so that it ends with it. */
  function startOf(entry: ArrivalEntry, runBack: boolean, length: number): number {
    return wayOf(entry, runBack) === "arrival" ? 0 : Math.max(timeline.duration - length, 0);
  }
  async function lay(entry: ArrivalEntry, layer: string, runBack: boolean): Promise<void> {
    const length = Math.min(entry.length, timeline.duration);
    const at = startOf(entry, runBack, length);
    const fault = await acts.useArrival(entry.name, layer, at, length, runBack);
    if (fault !== null) return notices.fault(fault);
    timeline.show("timing");
    clock.time = 0;
    notices.say({ text: text.arrivals.laid(entry.label), act: { label: text.act.undo, run: opened.undo } });
  }

  /** Keeps what of a layer moves in the loop; null, or what is wrong in one sentence. */
  async function keep(layer: string, label: string, way: ArrivalEntry["way"]): Promise<string | null> {
    const [start, end] = timeline.loop;
    try {
      const { error } = await api.POST("/api/arrivals", { body: { document: opened.document, layer, label, way, start, end } });
      if (error) return saidBy(error);
    } catch {
      return text.error.network;
    }
    await load();
    return null;
  }
  async function rename(name: string, label: string): Promise<void> {
    if (await went(api.PATCH("/api/arrivals/{name}", { params: { path: { name } }, body: { label } }))) await load();
  }
  async function remove(entry: ArrivalEntry): Promise<void> {
    const params = { path: { name: entry.name } };
    const kept = await api.GET("/api/arrivals/{name}/file", { params, parseAs: "json" }).catch(() => null);
    if (!(await went(api.DELETE("/api/arrivals/{name}", { params })))) return;
    await load();
    const body: unknown = kept?.data;
    const again = async () => {
      if (await went(api.POST("/api/arrivals/import", { body: body as Arrival }))) await load();
    };
    const act = body ? { act: { label: text.act.undo, run: () => void again() } } : {};
    notices.say({ text: text.shelf.removed(entry.label), ...act });
  }
  function give(name: string): void {
    giveFile(`/api/arrivals/${encodeURIComponent(name)}/file`, `${name}.arrival.json`);
  }
  async function take(file: File): Promise<void> {
    let body: Arrival;
    try {
      body = JSON.parse(await file.text()) as Arrival;
    } catch {
      notices.fault(text.arrivals.broken(file.name));
      return;
    }
    if (!(await went(api.POST("/api/arrivals/import", { body })))) return;
    await load();
    notices.say({ text: text.arrivals.kept(body.label) });
  }
  return { all, load, wayOf, lay, keep, rename, remove, give, take };
});
