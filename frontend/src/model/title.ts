// The title document as the API describes it, and changes to it that leave the old one alone.
import type { components } from "@/api/schema";
import { isVarying } from "./time/varying";

type Schemas = components["schemas"];
export type Title = Schemas["Title"];
export type Layer = Title["layers"][number];
export type Lettering = Schemas["Lettering"];
/** A layer on a card of its own. */
export type PlacedLayer = Extract<Layer, { placement: unknown }>;
export type Placement = Schemas["Placement"];
export type RigHandle = Schemas["Handle"];
export type Step = Schemas["Step"];
export type Light = Title["lights"][number];
export type DistantLight = Schemas["DistantLight"];
export type Where = NonNullable<Step["where"]>;
export type StepEntry = Schemas["StepEntry"];
export type Setting = Schemas["Setting"];
/** The same; a setting of a step. */
export type StepSetting = Setting;
export type LayerKind = Schemas["AddLayer"]["kind"];
export type FontEntry = Schemas["FontEntry"];

export interface Stop {
  place: number;
  colour: string;
  midpoint: number;
}
export interface Spot {
  x: number;
  y: number;
  colour: string;
}
export type CurvePoint = [number, number];

export { isVarying };

/** The value at the first peg, or the value itself: what a still shows at its start. */
export function constant(value: unknown): unknown {
  if (!isVarying(value)) return value;
  return value.pegs?.[0]?.value ?? value.value;
}

export function numberOf(value: unknown, otherwise = 0): number {
  const plain = constant(value);
  return typeof plain === "number" ? plain : otherwise;
}

/** What a lettering says, or which file a picture shows, where its title stands at a time. */
export function wordsOf(lettering: Lettering): string {
  return String(constant(lettering.source.text));
}
export function pictureOf(picture: Extract<Layer, { kind: "picture" | "plate" }>): string {
  return String(constant(picture.source.picture));
}

const CLIP = /\.(webm|mkv|mp4|mov|gif|apng|anim\.webp)$/i;
/** Whether a name stands for numbered pictures, such as wall.####.png. */
export function isNumbered(name: string): boolean {
  return name.split("/").at(-1)!.match(/#{2,9}/g)?.length === 1;
}
function valuesOf(value: unknown): unknown[] {
  return isVarying(value) ? (value.pegs ?? []).map((peg) => peg.value) : [value];
}
/** Whether a file is called as clips are (mabrel/title/playing.py). */
export function isClip(name: string): boolean {
  return CLIP.test(name) || isNumbered(name);
}
/** Whether a clip runs in a title. */
export function plays(title: Title): boolean {
  const named = title.layers.flatMap((layer) => [
    ...(layer.kind === "picture" || layer.kind === "plate" ? [layer.source.picture] : []),
    ...layer.build.flatMap((step) => Object.values(step.settings)),
  ]);
  return named.flatMap(valuesOf).some((name) => typeof name === "string" && isClip(name));
}

export function withLayer(title: Title, id: string, change: (layer: Layer) => Layer): Title {
  return { ...title, layers: title.layers.map((each) => (each.id === id ? change(each) : each)) };
}

export function withStep(title: Title, id: string, change: (step: Step) => Step): Title {
  return {
    ...title,
    layers: title.layers.map((layer) =>
      layer.build.some((step) => step.id === id)
        ? { ...layer, build: layer.build.map((step) => (step.id === id ? change(step) : step)) }
        : layer,
    ),
  };
}

export function withSetting(title: Title, step: string, name: string, value: unknown): Title {
  return withStep(title, step, (each) => ({ ...each, settings: { ...each.settings, [name]: value } }));
}

export function withBuild(title: Title, layer: string, build: Step[]): Title {
  return withLayer(title, layer, (each) => ({ ...each, build }));
}

export function withLight(title: Title, id: string, change: object): Title {
  return {
    ...title,
    lights: title.lights.map((light) => (light.id === id ? ({ ...light, ...change } as Light) : light)),
  };
}

export function settingOf(step: Step, setting: StepSetting): unknown {
  return step.settings[setting.name] ?? setting.default;
}

/** Whether a setting counts beside the others' values; several are parted by bars. */
export function counts(step: Step, entry: StepEntry, setting: Setting): boolean {
  return countsIn(step.settings, entry.settings, setting);
}
export function countsIn(
  values: Record<string, unknown>, settings: readonly Setting[], setting: Setting,
): boolean {
  return Object.entries(setting.when ?? {}).every(([name, value]) => {
    const other = settings.find((each) => each.name === name);
    return !other || value.split("|").includes(String(constant(values[name] ?? other.default)));
  });
}

/** A setting under the name that it has beside the others' values. */
export function calledIn(
  values: Record<string, unknown>, settings: readonly Setting[], setting: Setting,
): Setting {
  for (const [name, names] of Object.entries(setting.called ?? {})) {
    const other = settings.find((each) => each.name === name);
    const label = other && names[String(constant(values[name] ?? other.default))];
    if (label) return { ...setting, label };
  }
  return setting;
}

/** The size of a layer's letters in frame pixels, or how high its picture is; 0 for others. */
export function lettersOf(layer: Layer): number {
  if (layer.kind === "lettering") return numberOf(layer.source.size);
  return layer.kind === "picture" ? numberOf(layer.source.height) : 0;
}

export function newId(): string {
  return crypto.randomUUID().slice(0, 8);
}

export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const copy = [...list];
  copy.splice(to, 0, ...copy.splice(from, 1));
  return copy;
}

/** The lettering that is meant: the chosen layer, or else the front one. */
export function letteringOf(title: Title, chosen: Layer | undefined): Lettering | null {
  const front = [...title.layers].reverse().find((layer) => layer.kind === "lettering");
  const meant = chosen?.kind === "lettering" ? chosen : front;
  return meant?.kind === "lettering" ? meant : null;
}

export function frontLettering(title: Title): Layer | undefined {
  return [...title.layers].reverse().find((layer) => layer.kind === "lettering") ?? title.layers.at(-1);
}
