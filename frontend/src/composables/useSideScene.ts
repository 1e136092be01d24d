// What the view from the side draws: cards at their depth, lights, floors and the viewer, each where
// it stands in a drawing of 180 by 120.
import { computed } from "vue";
import { useBoxes } from "./useBoxes";
import { standing } from "@/model/card";
import { directionVector } from "@/model/light";
import { numberOf, settingOf, type Light, type PlacedLayer } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";

export const WIDE = 180;
export const TALL = 120;
export const MIDDLE = { x: 112, y: 60 }; // where the frame's centre is drawn
export const FAR = 50; // drawn distance of a light that has no place
export const BOTTOM = TALL - 11;
const EYE = 14;

export function useSideScene() {
  const opened = useOpened();
  const chosen = useChosen();
  const catalogue = useCatalogue();
  const { layers: boxes } = useBoxes();

  const cards = computed(() =>
    opened.title.layers.filter((layer): layer is PlacedLayer => "placement" in layer && layer.visible),
  );
  /** Frame pixels for one that is drawn. */
  const unit = computed(() => {
    const depths = [
      ...cards.value.map((layer) => Math.abs(numberOf(layer.placement.z)) + depthOf(layer)),
      ...opened.title.lights.map((light) => (light.kind === "distant" ? 0 : Math.abs(numberOf(light.z)))),
    ];
    return Math.max(opened.title.frame.height / 84, Math.max(...depths, 0) / 62);
  });
  /** How far a layer's steps push it back. */
  function depthOf(layer: PlacedLayer): number {
    return layer.build
      .filter((step) => step.on && step.step.startsWith("depth."))
      .reduce((sum, step) => {
        const long = catalogue.entry(step.step)?.settings.find((each) => each.name === "length");
        return sum + (long ? numberOf(settingOf(step, long)) : 0);
      }, 0);
  }
  const drawn = computed(() =>
    cards.value.map((layer) => {
      const box = boxes.value.get(layer.id) ?? { top: -60, bottom: 60, left: 0, right: 0 };
      const { place, turn, scale: larger } = standing(layer, opened.title);
      const scale = larger / unit.value;
      const x = MIDDLE.x - place[2] / unit.value;
      const y = MIDDLE.y + place[1] / unit.value;
      // The card's own y axis, from the side.
      const at = (down: number) => ({ x: x - down * scale * turn[7]!, y: y + down * scale * turn[4]! });
      const [top, bottom] = [at(box.top), at(box.bottom)];
      const deep = depthOf(layer) / unit.value;
      return { layer, x, y, top, bottom, deep, chosen: layer.id === chosen.layer?.id && chosen.lightId === null };
    }),
  );

  const lamps = computed(() =>
    opened.title.lights.map((light) => {
      const at = placeOf(light);
      const behind = light.kind === "distant" ? numberOf(light.elevation) <= 0 : numberOf(light.z) <= 0;
      const drawnAt = {
        x: Math.min(Math.max(at.x, 6), WIDE - 6),
        y: Math.min(Math.max(at.y, 6), TALL - 14),
      };
      return { light, at: drawnAt, behind, chosen: light.id === chosen.lightId };
    }),
  );
  function placeOf(light: Light): { x: number; y: number } {
    if (light.kind !== "distant") {
      return { x: MIDDLE.x - numberOf(light.z) / unit.value, y: MIDDLE.y + numberOf(light.y) / unit.value };
    }
    const [, y, z] = directionVector({ azimuth: numberOf(light.azimuth), elevation: numberOf(light.elevation) });
    return { x: MIDDLE.x - z * FAR, y: MIDDLE.y + y * FAR };
  }

  /** Floors at their level; one that the letters set lies under the lowest of them. */
  const floors = computed(() =>
    opened.title.layers.flatMap((layer) => {
      if (layer.kind !== "floor" || !layer.visible) return [];
      const lowest = Math.max(...drawn.value.map((card) => Math.max(card.top.y, card.bottom.y)), MIDDLE.y);
      const y = layer.level === null ? lowest : MIDDLE.y + numberOf(layer.level) / unit.value;
      return [{ layer, y: Math.min(y, BOTTOM) }];
    }),
  );

  // The viewer is drawn beside the scene: its way to the cards is shortened, its height is not.
  const eye = computed(() => ({
    x: EYE,
    y: Math.min(Math.max(MIDDLE.y + numberOf(opened.title.camera.lift) / unit.value, 8), BOTTOM - 6),
  }));

  return { unit, drawn, lamps, floors, eye };
}
