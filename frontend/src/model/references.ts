// What refers to what in a title: layers to layers, steps to earlier steps and to lights.
import type { Layer, Step, StepEntry, StepSetting, Title } from "./title";

export const LAYER_PREFIX = "layer:";
type EntryOf = (step: string) => StepEntry | undefined;

function* referencesOf(step: Step, kind: StepSetting["kind"], entryOf: EntryOf): Generator<string> {
  for (const setting of entryOf(step.step)?.settings ?? []) {
    const value = step.settings[setting.name] ?? setting.default;
    if (setting.kind === kind && typeof value === "string" && value) yield value;
  }
}

function needsLayer(layer: Layer, id: string, entryOf: EntryOf): boolean {
  if (layer.matte_from === id) return true;
  if (layer.kind === "copy" && layer.source.layer === id) return true;
  if (layer.kind === "group" && layer.source.layers.includes(id)) return true;
  if (layer.kind === "shapes" && layer.source.shapes.some((shape) => shape.around === id)) return true;
  if (layer.kind === "lettering" && layer.source.along?.layer === id) return true;
  return layer.build.some(
    (step) =>
      (step.where?.kind === "matte" && step.where.layer === id) ||
      [...referencesOf(step, "image", entryOf)].includes(LAYER_PREFIX + id),
  );
}

/** The other layers that show a layer or take its matte. */
export function usersOfLayer(title: Title, id: string, entryOf: EntryOf): Layer[] {
  return title.layers.filter((layer) => layer.id !== id && needsLayer(layer, id, entryOf));
}

/** The layers that a layer may show or take a matte from: none that needs it, and no floor, which
 * has no shape of its own. */
export function layersToShow(title: Title, id: string, entryOf: EntryOf): Choice[] {
  return title.layers
    .filter((each) => each.id !== id && each.kind !== "floor" && !needsLayer(each, id, entryOf))
    .map((each) => ({ value: each.id, title: each.name || each.kind }));
}

/** The steps that light what an earlier step added. */
export function usersOfStep(build: readonly Step[], id: string, entryOf: EntryOf): Step[] {
  return build.filter((step) => [...referencesOf(step, "step", entryOf)].includes(id));
}

/** The steps in a title that are lit by one light alone. */
export function usersOfLight(title: Title, id: string, entryOf: EntryOf): Step[] {
  const steps = title.layers.flatMap((layer) => layer.build);
  return steps.filter((step) => [...referencesOf(step, "light", entryOf)].includes(id));
}

export interface Choice {
  value: string;
  title: string;
}

/** What a setting that refers to something can be set to. */
export function choicesFor(
  setting: StepSetting, step: Step, layer: Layer, title: Title, pictures: readonly string[], entryOf: EntryOf,
): Choice[] {
  const none = { value: "", title: "–" };
  if (setting.kind === "light") {
    return [none, ...title.lights.map((light) => ({ value: light.id, title: light.name }))];
  }
  if (setting.kind === "step") {
    const at = layer.build.findIndex((each) => each.id === step.id);
    const earlier = layer.build.slice(0, Math.max(at, 0));
    return [none, ...earlier.map((each) => ({ value: each.id, title: entryOf(each.step)?.label ?? each.step }))];
  }
  return [
    none,
    ...pictures.map((name) => ({ value: name, title: name.replace(/^shipped\//, "") })),
    ...layersToShow(title, layer.id, entryOf).map((each) => ({
      value: LAYER_PREFIX + each.value, title: `▱ ${each.title}`,
    })),
  ];
}

/** The build under new ids; what refers to one of its steps follows. */
export function withNewIds(build: readonly Step[], newId: () => string): Step[] {
  const ids = new Map(build.map((step) => [step.id, newId()]));
  return build.map((step) => ({
    ...step,
    id: ids.get(step.id)!,
    settings: Object.fromEntries(
      Object.entries(step.settings).map(([name, value]) => [
        name, typeof value === "string" ? (ids.get(value) ?? value) : value,
      ]),
    ),
  }));
}
