// Finishes of one's own: renamed, deleted, given away and taken in; and finishes on many titles.
import { defineStore } from "pinia";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import { give as giveFile } from "@/model/files";
import type { Title } from "@/model/title";
import { text } from "@/text";
import { useAsked } from "./asked";
import { useCatalogue } from "./catalogue";
import { useNotices } from "./notices";

type Finish = components["schemas"]["Finish"];

export const useFinishes = defineStore("finishes", () => {
  const catalogue = useCatalogue();
  const notices = useNotices();
  const { went } = useAsked();

  /** Keeps a layer's look; null, or what is wrong in one sentence. */
  async function keep(document: Title, layer: string, label: string): Promise<string | null> {
    try {
      const { error } = await api.POST("/api/finishes", { body: { document, layer, label } });
      if (error) return saidBy(error);
    } catch {
      return text.error.network;
    }
    await catalogue.loadFinishes();
    return null;
  }
  async function rename(name: string, label: string): Promise<void> {
    const params = { path: { name } };
    if (await went(api.PATCH("/api/finishes/{name}", { params, body: { label } }))) await catalogue.loadFinishes();
  }
  async function remove(name: string): Promise<void> {
    const params = { path: { name } };
    const label = catalogue.finishes.find((each) => each.name === name)?.label ?? name;
    const kept = await api.GET("/api/finishes/{name}/file", { params, parseAs: "json" }).catch(() => null);
    if (!(await went(api.DELETE("/api/finishes/{name}", { params })))) return;
    await catalogue.loadFinishes();
    const body: unknown = kept?.data;
    const again = async () => {
      if (await went(api.POST("/api/finishes/import", { body: body as Finish }))) await catalogue.loadFinishes();
    };
    const act = body ? { act: { label: text.act.undo, run: () => void again() } } : {};
    notices.say({ text: text.shelf.removed(label), ...act });
  }
  function give(name: string): void {
    giveFile(`/api/finishes/${encodeURIComponent(name)}/file`, `${name}.finish.json`);
  }
  /** A finish from a file. */
  async function take(file: File): Promise<void> {
    let body: Finish;
    try {
      body = JSON.parse(await file.text()) as Finish;
    } catch {
      notices.fault(text.finishes.broken(file.name));
      return;
    }
    if (!(await went(api.POST("/api/finishes/import", { body })))) return;
    await catalogue.loadFinishes();
    notices.say({ text: text.finish.kept(body.label) });
  }
  return { keep, rename, remove, give, take };
});
