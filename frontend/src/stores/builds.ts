// Acts on the steps of the selected layer.
import { defineStore } from "pinia";
import { usersOfStep } from "@/model/references";
import { moved, newId, withBuild, withSetting, type Step } from "@/model/title";
import { text } from "@/text";
import { useActs } from "./acts";
import { useCatalogue } from "./catalogue";
import { useChosen } from "./chosen";
import { useNotices } from "./notices";
import { useOpened } from "./opened";

export const useBuilds = defineStore("builds", () => {
  const opened = useOpened();
  const chosen = useChosen();
  const acts = useActs();
  const catalogue = useCatalogue();
  const notices = useNotices();

  function set(name: string, value: unknown): void {
    const step = chosen.step;
    if (step) opened.change(withSetting(opened.title, step.id, name, value), `${step.id}.${name}`);
  }
  function put(build: Step[], selected: string | null): void {
    opened.change(withBuild(opened.title, chosen.layer!.id, build));
    chosen.selectStep(selected);
  }
  function labelOf(each: Step): string {
    return catalogue.entry(each.step)?.label ?? each.step;
  }
  /** A fresh step, its lengths fitted to the layer's letters by the engine. */
  async function addStep(kind: string, at: number): Promise<void> {
    if (!chosen.layer) return;
    const { id: layer, build } = chosen.layer;
    const before = new Set(build.map((each) => each.id));
    const fault = await acts.addStep(layer, kind, at);
    if (fault !== null) notices.fault(fault);
    const added = opened.title.layers.find((each) => each.id === layer)?.build.find((each) => !before.has(each.id));
    if (added) chosen.select(layer, added.id);
  }
  /** Steps from elsewhere, after the selected one or at the end. */
  function insertSteps(steps: Step[]): void {
    if (!chosen.layer || !steps.length) return;
    const build = [...chosen.layer.build];
    const at = build.findIndex((each) => each.id === chosen.stepId);
    build.splice(at < 0 ? build.length : at + 1, 0, ...steps);
    put(build, steps.at(-1)!.id);
  }
  function duplicateStep(id: string): void {
    const build = opened.document.layers.find((each) => each.id === chosen.layer?.id)?.build ?? [];
    const at = build.findIndex((each) => each.id === id);
    const original = build[at];
    if (!original) return;
    const copy = { ...original, id: newId() };
    put([...chosen.layer!.build.slice(0, at + 1), copy, ...chosen.layer!.build.slice(at + 1)], copy.id);
  }
  function removeStep(id: string): void {
    const build = chosen.layer?.build ?? [];
    const at = build.findIndex((each) => each.id === id);
    if (at < 0) return;
    const users = usersOfStep(build, id, catalogue.entry);
    if (users.length) {
      notices.fault(text.bench.used(labelOf(build[at]!), users.map(labelOf).join(", ")));
      return;
    }
    const left = build.filter((each) => each.id !== id);
    put(left, (left[at] ?? left[at - 1])?.id ?? null);
  }
  function moveStep(id: string, to: number): void {
    const build = chosen.layer?.build ?? [];
    const from = build.findIndex((each) => each.id === id);
    const end = Math.max(0, Math.min(to, build.length - 1));
    if (chosen.layer && from >= 0 && from !== end) {
      opened.change(withBuild(opened.title, chosen.layer.id, moved(build, from, end)));
    }
  }
  return { set, addStep, insertSteps, duplicateStep, removeStep, moveStep };
});
