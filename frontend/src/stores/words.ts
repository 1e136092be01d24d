// A list of words in the look of one title.
import { defineStore } from "pinia";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import type { Title } from "@/model/title";
import { text } from "@/text";

type Made = components["schemas"]["MadeTitle"];
type WordList = components["schemas"]["WordList"];

export const useWords = defineStore("words", () => {
  async function look(id: string): Promise<Title | null> {
    const { data } = await api
      .GET("/api/titles/{title_id}", { params: { path: { title_id: id } } })
      .catch(() => ({ data: undefined }));
    return data?.document ?? null;
  }
  async function made(ask: WordList, signal: AbortSignal): Promise<{ made: Made[]; fault: string }> {
    const { data, error } = await api.POST("/api/look/words", { body: ask, signal });
    return { made: data ?? [], fault: error ? saidBy(error) : "" };
  }
  /** Keeps them on the shelf; how many there are, or what is wrong in one sentence. */
  async function keep(documents: Title[], series: string): Promise<number | string> {
    try {
      const { data, error } = await api.POST("/api/titles/set", { body: { documents, series } });
      return data ? data.length : saidBy(error);
    } catch {
      return text.error.network;
    }
  }
  return { look, made, keep };
});
