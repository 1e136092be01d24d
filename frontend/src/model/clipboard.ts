// Steps as text, and back.
import { LAYER_PREFIX, withNewIds } from "./references";
import type { Step, StepEntry, Title } from "./title";

type EntryOf = (step: string) => StepEntry | undefined;

export function stepsAsText(steps: readonly Step[]): string {
  return JSON.stringify({ mabrel_steps: 1, steps }, null, 1);
}

/** Steps under new ids, fit for this title; or a word for why there are none. */
export function stepsFromText(words: string, title: Title, entryOf: EntryOf, newId: () => string): Step[] | "none" | "unknown" {
  const steps = parsed(words);
  if (!steps?.length) return "none";
  if (steps.some((step) => !entryOf(step.step))) return "unknown";
  return withNewIds(steps.map((step) => fitted(step, steps, title, entryOf)), newId);
}

function parsed(words: string): Step[] | null {
  try {
    const found = JSON.parse(words) as { mabrel_steps?: number; steps?: unknown[] };
    if (found?.mabrel_steps !== 1 || !Array.isArray(found.steps)) return null;
    return found.steps.filter(isStep).map((step) => ({ ...FRESH, ...step }));
  } catch {
    return null;
  }
}
const FRESH = { on: true, strength: 1, where: null };

function isStep(value: unknown): value is Step {
  const step = value as Step | null;
  return typeof step?.step === "string" && typeof step.settings === "object" && step.settings !== null;
}

/** What refers to a layer, light or step that is not there falls back to its default. */
function fitted(step: Step, together: readonly Step[], title: Title, entryOf: EntryOf): Step {
  const there: Record<string, (value: string) => boolean> = {
    image: (value) => !value.startsWith(LAYER_PREFIX) || hasLayer(title, value.slice(LAYER_PREFIX.length)),
    light: (value) => title.lights.some((light) => light.id === value),
    step: (value) => together.some((each) => each.id === value),
  };
  const kinds = new Map(entryOf(step.step)!.settings.map((setting) => [setting.name, setting.kind]));
  const settings = Object.entries(step.settings).filter(([name, value]) => {
    const check = there[kinds.get(name) ?? ""];
    return !check || typeof value !== "string" || !value || check(value);
  });
  const lost = step.where?.kind === "matte" && !hasLayer(title, step.where.layer);
  return { ...step, where: lost ? null : step.where, settings: Object.fromEntries(settings) };
}
function hasLayer(title: Title, id: string): boolean {
  return title.layers.some((layer) => layer.id === id);
}
