// The keys of the bench.
import { useDevicePixelRatio, useEventListener } from "@vueuse/core";
import { actOf, type Act } from "@/model/shortcuts";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useMarks } from "@/stores/marks";
import { usePanels } from "@/stores/panels";
import { useProof } from "@/stores/proof";
import { typing } from "./typing";

export function useShortcuts(): void {
  const bench = useBench();
  const catalogue = useCatalogue();
  const marks = useMarks();
  const panels = usePanels();
  const proof = useProof();
  const { pixelRatio } = useDevicePixelRatio();

  function tapBy(by: number): void {
    const taps = catalogue.all?.taps ?? [];
    const next = taps[(taps.indexOf(proof.taps[0]) + by + taps.length) % Math.max(taps.length, 1)];
    if (next) proof.taps[0] = next;
  }
  function layerBy(by: number): void {
    const layers = bench.title.layers;
    const next = layers[layers.findIndex((each) => each.id === bench.layer?.id) + by];
    if (next) bench.select(next.id, next.build[0]?.id ?? null);
  }
  function whereToAdd(): number {
    const build = bench.layer?.build ?? [];
    const stage = bench.step?.step.split(".")[0];
    let at = build.findIndex((each) => each.id === bench.stepId) + 1;
    while (build[at]?.step.split(".")[0] === stage && at < build.length) at += 1;
    return bench.stepId === null ? 0 : at;
  }
  const ACTS: Record<Act, () => void> = {
    undo: () => bench.undo(),
    redo: () => bench.redo(),
    words: () => (panels.editingWords = true),
    finishes: () => (panels.finishes = !panels.finishes),
    marks: () => (panels.marks = true),
    setMark: () => void marks.set(),
    export: () => (panels.exporting = true),
    sheet: () => (panels.shortcuts = true),
    layerAbove: () => layerBy(1),
    layerBelow: () => layerBy(-1),
    add: () => (panels.adding = whereToAdd()),
    toggle: () => bench.step && bench.setStep(bench.step.id, { on: !bench.step.on }),
    without: () => (bench.without = bench.step !== undefined),
    solo: () => bench.step && bench.toggleSolo(bench.step.id),
    duplicate: () => bench.step && bench.duplicateStep(bench.step.id),
    nextTap: () => tapBy(1),
    previousTap: () => tapBy(-1),
    split: () => (proof.split = !proof.split),
    loupe: () => (proof.loupe = !proof.loupe),
    guides: () => (proof.guides.safe = !proof.guides.safe),
    fit: () => proof.fit(),
    oneToOne: () => proof.zoomTo(1 / pixelRatio.value),
    zoomIn: () => proof.zoomTo(proof.scale * 1.25),
    zoomOut: () => proof.zoomTo(proof.scale / 1.25),
  };

  useEventListener("keydown", (event: KeyboardEvent) => {
    const act = actOf(event);
    if (!act || typing(event) || !bench.ready || event.defaultPrevented) return;
    if (document.querySelector(".v-overlay--active[role='dialog'], .v-dialog.v-overlay--active")) return;
    if (event.repeat && act === "without") return;
    event.preventDefault();
    ACTS[act]();
  });
  useEventListener("keyup", (event: KeyboardEvent) => {
    if (event.key.toLowerCase() === "w") bench.without = false;
  });
  useEventListener("blur", () => (bench.without = false));
}
