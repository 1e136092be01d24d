// What the engine can do: steps, fonts, blend modes. Read once.
import { defineStore } from "pinia";
import { computed, shallowRef } from "vue";
import { api } from "@/api/client";
import type { components } from "@/api/schema";
import type { Setting, StepEntry } from "@/model/title";

type Catalogue = components["schemas"]["Catalogue"];

export const useCatalogue = defineStore("catalogue", () => {
  const all = shallowRef<Catalogue | null>(null);
  const finishes = shallowRef<components["schemas"]["FinishSummary"][]>([]);
  const byStep = computed(() => new Map(all.value?.steps.map((entry) => [entry.step, entry])));

  async function load(): Promise<void> {
    if (!all.value) await reload();
  }
  /** After the library got something new. */
  async function reload(): Promise<void> {
    all.value = (await api.GET("/api/catalogue")).data ?? all.value;
  }
  async function loadFinishes(): Promise<void> {
    finishes.value = (await api.GET("/api/finishes")).data ?? [];
  }
  /** The settings of a model that is no step, such as `placement`; none of one that is not known. */
  function model(name: string): readonly Setting[] {
    return all.value?.models[name] ?? [];
  }
  function entry(step: string): StepEntry | undefined {
    return byStep.value.get(step);
  }
  return { all, finishes, load, reload, loadFinishes, entry, model };
});
