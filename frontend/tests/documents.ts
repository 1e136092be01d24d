// Documents and what models tell of themselves, for the tests.
import type { Described } from "@/model/parts";
import type { Setting, StepEntry } from "@/model/title";
import models from "./fixtures/told.json";
import type { Step, Title } from "@/model/title";

/** One setting; what it leaves out is of no account. */
export function setting(name: string, kind: string, more: Partial<Setting> = {}): Setting {
  return {
    name, label: name, kind, unit: "", low: null, high: null, usual: null, default: "", choices: null, help: "",
    when: null, called: null, grip: null, group: "", moves: true, ...more,
  };
}
/** The models as the engine tells them, and the entries of these steps. */
export function told(entries: Record<string, Partial<StepEntry>> = {}): Described {
  return {
    model: (name) => (models as Record<string, unknown>)[name] as readonly Setting[] ?? [],
    entry: (name) => entries[name] as StepEntry | undefined,
  };
}
/** What the catalogue store holds of them. */
export const toldModels = models as unknown as Record<string, Setting[]>;

export function step(id: string, kind: string, settings: Record<string, unknown> = {}): Step {
  return { id, step: kind, on: true, strength: 1, where: null, settings };
}

export function title(): Title {
  const common = { visible: true, blend: "normal" as const, opacity: 1, matte_from: null };
  return {
    mabrel: 1,
    name: "Kelp",
    frame: { width: 320, height: 180, fps: 25, duration: 5, loops: false },
    lights: [
      { kind: "distant", id: "key", name: "Key", azimuth: 225, elevation: 45, colour: "#ffffff", strength: 1 },
    ],
    rig: { turn: 0, raised: 0, strength: 1 },
    camera: { distance: 2000, pan: 0, lift: 0, swing: 0, rise: 0 },
    blur: { angle: 0, samples: 16, by_motion: true },
    handles: [],
    layers: [
      { ...common, kind: "backdrop", id: "ground", name: "Ground", source: { colour: "#333333" }, build: [] },
      {
        ...common,
        kind: "lettering",
        id: "word",
        name: "KELP",
        face_opacity: 1,
        source: {
          text: "KELP", font: "Titan One", style: "", axes: {}, size: 60, letter_spacing: 0, line_spacing: 1, align: "centre",
          in_turn: null,
        },
        placement: { x: 0, y: 0, z: 0, turn_x: 0, turn_y: 0, turn_z: 0, scale: 1 },
        build: [
          step("inflate", "relief.inflate"),
          step("shade", "light.shade"),
          step("map", "tone.gradient_map"),
        ],
      },
    ],
  };
}
