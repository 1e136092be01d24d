// The titles on the shelf, and what is done with one or several of them.
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import type { Making } from "@/composables/useFinishPicture";
import { give } from "@/model/files";
import { text } from "@/text";
import { takeBack } from "./library";
import { useAsked } from "./asked";
import { useNotices } from "./notices";

export type Summary = components["schemas"]["TitleSummary"];

export const useShelf = defineStore("shelf", () => {
  const titles = shallowRef<Summary[] | null>(null);
  const chosen = ref<string[]>([]);
  const notices = useNotices();
  const { asked } = useAsked();

  async function load(): Promise<void> {
    titles.value = (await asked(api.GET("/api/titles"))) ?? titles.value;
    chosen.value = chosen.value.filter((id) => titles.value?.some((title) => title.id === id));
  }
  /** Makes a title; its id, or null after saying what is wrong. */
  async function make(making: Making, finish: string): Promise<string | null> {
    const made = await asked(
      api.POST("/api/titles", { body: { ...making, finish, transparent: false, series: "" } }),
    );
    return made?.id ?? null;
  }
  async function duplicate(title: Summary): Promise<void> {
    await asked(api.POST("/api/titles/{title_id}/duplicate", { params: { path: { title_id: title.id } } }));
    await load();
  }
  async function removeAll(which: readonly Summary[]): Promise<void> {
    const path = (title: Summary) => ({ params: { path: { title_id: title.id } } });
    for (const title of which) await asked(api.DELETE("/api/titles/{title_id}", path(title)));
    await load();
    const restore = async () => {
      for (const title of which) await asked(api.POST("/api/titles/{title_id}/restore", path(title)));
      await load();
    };
    const name = which.length === 1 ? which[0]!.name : text.shelf.several(which.length);
    notices.say({ text: text.shelf.removed(name), act: { label: text.act.undo, run: () => void restore() } });
  }
  async function rename(title: Summary, name: string): Promise<void> {
    const path = { title_id: title.id };
    const found = await asked(api.GET("/api/titles/{title_id}", { params: { path } }));
    if (!found) return;
    const body = { version: found.version, document: { ...found.document, name } };
    try {
      const { error, response } = await api.PUT("/api/titles/{title_id}", { params: { path }, body });
      if (error) notices.fault(response.status === 409 ? text.saved.conflict : saidBy(error));
    } catch {
      notices.fault(text.error.network);
    }
    await load();
  }
  async function putInSeries(which: readonly Summary[], series: string): Promise<void> {
    for (const title of which) {
      await asked(api.PUT("/api/titles/{title_id}/series", { params: { path: { title_id: title.id } }, body: { series } }));
    }
    await load();
  }
  /** One finish on several titles; the notice takes it back. */
  async function useFinish(which: readonly Summary[], finish: string, label: string): Promise<void> {
    const changed = await asked(
      api.POST("/api/finishes/{name}/titles", {
        params: { path: { name: finish } }, body: { titles: which.map((title) => title.id) },
      }),
    );
    if (!changed) return;
    await load();
    notices.say({
      text: text.shelf.finished(changed.length, label),
      act: { label: text.act.undo, run: () => void takeBack(changed, notices).then(load) },
    });
  }
  /** As a file with all that it needs. */
  function giveFile(title: Summary): void {
    give(`/api/titles/${title.id}/file`, `${title.name}.mabrel`);
  }
  /** Titles from `*.mabrel` files. */
  async function take(files: Iterable<File>): Promise<void> {
    for (const file of files) {
      const body = new FormData();
      body.append("file", file);
      const made = await asked(
        fetch("/api/titles/import", { method: "POST", body }).then(async (answer) => {
          const said: unknown = await answer.json();
          return answer.ok ? { data: said as Summary } : { error: said };
        }),
      );
      if (made) notices.say({ text: text.shelf.taken(made.name) });
    }
    await load();
  }
  return { titles, chosen, load, make, duplicate, removeAll, rename, putInSeries, useFinish, giveFile, take };
});
