// The parts of a title that have settings: what each is, where it stands, and what may move in it.
import type { Place } from "./places";
import type { Layer, Setting, StepEntry, Title } from "./title";
import { isVarying, type Varying } from "./time/varying";

/** One model in a document, with the settings that it has. */
export interface Part {
  place: Place;
  settings: readonly Setting[];
  /** What it is called, and what it is a part of. */
  label: string;
  of: string;
  /** The stage whose colour it has. */
  stage: string;
}
/** A setting with its place. */
export interface Placed {
  place: Place;
  setting: Setting;
  part: Part;
}
export interface Described {
  entry(step: string): StepEntry | undefined;
  model(name: string): readonly Setting[];
}

export function* partsOf(title: Title, told: Described): Generator<Part> {
  yield { place: ["camera"], settings: told.model("camera"), label: "Camera", of: "", stage: "camera" };
  yield { place: ["rig"], settings: told.model("rig"), label: "All lights", of: "", stage: "light" };
  for (const light of title.lights) {
    yield {
      place: ["lights", light.id ?? ""], settings: told.model(`light.${light.kind ?? "distant"}`),
      label: light.name ?? "", of: "light", stage: "light",
    };
  }
  for (const handle of title.handles ?? []) {
    yield {
      place: ["handles", handle.id, "placement"], settings: told.model("placement"),
      label: handle.name ?? "", of: "handle", stage: "source",
    };
  }
  for (const layer of title.layers) yield* partsOfLayer(layer, told);
}

export function* partsOfLayer(layer: Layer, told: Described): Generator<Part> {
  const place: Place = ["layers", layer.id ?? ""];
  const label = layer.name || layer.kind;
  const part = (more: string[], model: string, of: string): Part => ({
    place: [...place, ...more], settings: told.model(model), label, of, stage: "source",
  });
  yield part([], `layer.${layer.kind}`, "layer");
  if ("source" in layer) yield part(["source"], `source.${layer.kind}`, layer.kind);
  if ("placement" in layer) yield part(["placement"], "placement", "placement");
  if (layer.kind === "lettering") {
    if (layer.source.along) yield part(["source", "along"], "along", "along a line");
    if (layer.source.in_turn) yield part(["source", "in_turn"], "in_turn", "letters in turn");
    for (const axis of Object.keys(layer.source.axes ?? {})) {
      const setting: Setting = {
        name: axis, label: axis, kind: "number", unit: "", low: null, high: null, usual: null, default: 0,
        choices: null, help: "", when: null, called: null, grip: null, group: "", moves: true,
      };
      yield { place: [...place, "source", "axes"], settings: [setting], label, of: "axis", stage: "source" };
    }
  }
  if (layer.kind === "shapes") {
    for (const shape of layer.source.shapes) {
      yield { ...part(["source", "shapes", shape.id ?? ""], "shape", "shapes"), label: shape.form ?? "rectangle", of: label };
    }
  }
  if (layer.kind === "picture" && layer.source.play) yield part(["source", "play"], "play", "clip");
  if (layer.kind === "picture" && layer.source.cut) {
    yield part(["source", "cut"], `cut.${layer.source.cut.kind}`, "cut-out");
  }
  for (const step of layer.build ?? []) {
    const entry = told.entry(step.step);
    const at = [...place, "build", step.id ?? ""];
    const [of, stage] = [label, entry?.stage ?? "tone"];
    yield { place: at, settings: told.model("step"), label: entry?.label ?? step.step, of, stage };
    yield {
      place: [...at, "settings"], settings: entry?.settings ?? [], label: entry?.label ?? step.step, of, stage,
    };
    if (step.where) {
      yield { place: [...at, "where"], settings: told.model(`where.${step.where.kind}`), label: "Where", of, stage };
    }
  }
}

/** What moves in a title. */
export function* movingIn(title: Title, told: Described): Generator<Placed & { value: Varying }> {
  for (const part of partsOf(title, told)) {
    const model = modelAt(title, part.place);
    for (const setting of part.settings) {
      const value = model?.[setting.name];
      if (isVarying(value)) yield { place: [...part.place, setting.name], setting, part, value };
    }
  }
}

function modelAt(title: Title, place: Place): Record<string, unknown> | undefined {
  let node: unknown = title;
  for (const name of place) {
    if (Array.isArray(node)) node = node.find((each) => (each as { id?: string }).id === name) as unknown;
    else node = (node as Record<string, unknown> | undefined)?.[name];
  }
  return node as Record<string, unknown> | undefined;
}
