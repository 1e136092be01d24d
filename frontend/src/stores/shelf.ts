// The titles on the shelf, and making new ones.
import { defineStore } from "pinia";
import { shallowRef } from "vue";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import type { Making } from "@/composables/useFinishPicture";
import { text } from "@/text";
import { useNotices } from "./notices";

type Summary = components["schemas"]["TitleSummary"];

export const useShelf = defineStore("shelf", () => {
  const titles = shallowRef<Summary[] | null>(null);
  const notices = useNotices();

  async function load(): Promise<void> {
    try {
      titles.value = (await api.GET("/api/titles")).data ?? [];
    } catch {
      notices.fault(text.error.network);
    }
  }
  /** Makes a title; its id, or null after saying what is wrong. */
  async function make(making: Making, finish: string): Promise<string | null> {
    const { data, error } = await api.POST("/api/titles", {
      body: { ...making, finish, transparent: false },
    });
    if (!data) notices.fault(saidBy(error));
    return data?.id ?? null;
  }
  async function duplicate(title: Summary): Promise<void> {
    await api.POST("/api/titles/{title_id}/duplicate", { params: { path: { title_id: title.id } } });
    await load();
  }
  async function remove(title: Summary): Promise<void> {
    const path = { title_id: title.id };
    await api.DELETE("/api/titles/{title_id}", { params: { path } });
    await load();
    notices.say({
      text: text.shelf.removed(title.name),
      act: {
        label: text.act.undo,
        run: () => void api.POST("/api/titles/{title_id}/restore", { params: { path } }).then(load),
      },
    });
  }
  async function rename(title: Summary, name: string): Promise<void> {
    const path = { title_id: title.id };
    const { data } = await api.GET("/api/titles/{title_id}", { params: { path } });
    if (!data) return;
    const body = { version: data.version, document: { ...data.document, name } };
    const { error, response } = await api.PUT("/api/titles/{title_id}", { params: { path }, body });
    if (error) notices.fault(response.status === 409 ? text.saved.conflict : saidBy(error));
    await load();
  }
  return { titles, load, make, duplicate, remove, rename };
});
