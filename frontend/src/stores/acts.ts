// Acts of the engine on the whole document: it answers with another one.
import { defineStore } from "pinia";
import { api, saidBy } from "@/api/client";
import type { LayerKind, Title } from "@/model/title";
import { text } from "@/text";
import { useChosen } from "./chosen";
import { useOpened } from "./opened";

export const useActs = defineStore("acts", () => {
  const opened = useOpened();
  const chosen = useChosen();

  /** Takes over the engine's answer; null, or what is wrong in one sentence. */
  async function adopt(asked: Promise<{ data?: Title; error?: unknown }>): Promise<string | null> {
    opened.asking += 1;
    try {
      const { data, error } = await asked;
      if (!data) return saidBy(error);
      opened.rewrite(data);
      return null;
    } catch {
      return text.error.network;
    } finally {
      opened.asking -= 1;
    }
  }
  async function swapWord(
    layer: string, to: { text?: string; font?: string; picture?: string },
  ): Promise<string | null> {
    return adopt(api.POST("/api/look/swap", { body: { document: opened.document, layer, ...to } }));
  }
  /** After other words: where they have outgrown the frame they are set smaller, look and all. */
  async function fitWord(id: string): Promise<void> {
    const before = opened.document.layers.find((each) => each.id === id);
    if (before?.kind !== "lettering") return;
    const body = { document: opened.document, layer: id };
    // Without a connection the word stays as it was typed.
    const { data } = await api.POST("/api/look/swap", { body }).catch(() => ({ data: undefined }));
    const after = data?.layers.find((each) => each.id === id);
    const smaller = after?.kind === "lettering" && JSON.stringify(after.source.size) !== JSON.stringify(before.source.size);
    if (data && smaller) opened.rewrite(data, "words");
    opened.endGesture();
  }
  async function resizeLook(layer: string, size: number): Promise<string | null> {
    return adopt(api.POST("/api/look/resize", { body: { document: opened.document, layer, size } }));
  }
  async function useFinish(finish: string, layers: string[]): Promise<string | null> {
    const fault = await adopt(api.POST("/api/look/finish", { body: { document: opened.document, layers, finish } }));
    if (fault === null && chosen.step === undefined) chosen.stepId = chosen.layer?.build[0]?.id ?? null; // the drawer stays
    return fault;
  }
  async function addStep(layer: string, step: string, at: number): Promise<string | null> {
    return adopt(api.POST("/api/look/step", { body: { document: opened.document, layer, step, at } }));
  }
  async function addLayer(kind: LayerKind, of: string[] = [], picture?: string): Promise<string | null> {
    return adopt(api.POST("/api/look/layer", { body: { document: opened.document, kind, of, picture } }));
  }
  async function useArrival(
    arrival: string, layer: string, at: number, length: number | null, runBack: boolean,
  ): Promise<string | null> {
    const body = { document: opened.document, layer, arrival, at, length, run_back: runBack };
    return adopt(api.POST("/api/look/arrival", { body }));
  }
  return { swapWord, fitWord, resizeLook, useFinish, addStep, addLayer, useArrival };
});
