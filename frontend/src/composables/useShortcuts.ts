// The keys of the bench.
import { useDevicePixelRatio, useEventListener } from "@vueuse/core";
import { actOf, type Act } from "@/model/shortcuts";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useMarks } from "@/stores/marks";
import { usePanels } from "@/stores/panels";
import { useFilm } from "@/stores/film";
import { useMotion } from "@/stores/motion";
import { useProof } from "@/stores/proof";
import { useTimeline } from "@/stores/timeline";
import { typing } from "./typing";

export function useShortcuts(): void {
  const opened = useOpened();
  const chosen = useChosen();
  const builds = useBuilds();
  const catalogue = useCatalogue();
  const marks = useMarks();
  const panels = usePanels();
  const proof = useProof();
  const film = useFilm();
  const motion = useMotion();
  const timeline = useTimeline();
  const { pixelRatio } = useDevicePixelRatio();

  function tapBy(by: number): void {
    const taps = catalogue.all?.taps ?? [];
    const next = taps[(taps.indexOf(proof.taps[0]) + by + taps.length) % Math.max(taps.length, 1)];
    if (next) proof.taps[0] = next;
  }
  function layerBy(by: number): void {
    const layers = opened.title.layers;
    const next = layers[layers.findIndex((each) => each.id === chosen.layer?.id) + by];
    if (next) chosen.select(next.id, next.build[0]?.id ?? null);
  }
  function whereToAdd(): number {
    const build = chosen.layer?.build ?? [];
    const stage = chosen.step?.step.split(".")[0];
    let at = build.findIndex((each) => each.id === chosen.stepId) + 1;
    while (build[at]?.step.split(".")[0] === stage && at < build.length) at += 1;
    return chosen.stepId === null ? 0 : at;
  }
  function goToPeg(way: 1 | -1): void {
    const time = motion.pegBeside(way);
    if (time !== null) timeline.goTo(time);
  }
  const ACTS: Record<Act, () => void> = {
    undo: () => opened.undo(),
    redo: () => opened.redo(),
    words: () => (panels.editingWords = true),
    finishes: () => panels.toggle("finishes"),
    marks: () => (panels.marks = true),
    setMark: () => void marks.set(),
    export: () => (panels.exporting = true),
    sheet: () => (panels.shortcuts = true),
    layerAbove: () => layerBy(1),
    layerBelow: () => layerBy(-1),
    add: () => (panels.adding = whereToAdd()),
    toggle: () => chosen.step && opened.setStep(chosen.step.id, { on: !chosen.step.on }),
    without: () => (chosen.without = chosen.step !== undefined),
    solo: () => chosen.step && chosen.toggleSolo(chosen.step.id),
    duplicate: () => chosen.step && builds.duplicateStep(chosen.step.id),
    nextTap: () => tapBy(1),
    previousTap: () => tapBy(-1),
    split: () => (proof.split = !proof.split),
    loupe: () => (proof.loupe = !proof.loupe),
    guides: () => (proof.guides.safe = !proof.guides.safe),
    fit: () => proof.fit(),
    oneToOne: () => proof.zoomTo(1 / pixelRatio.value),
    zoomIn: () => proof.zoomTo(proof.scale * 1.25),
    zoomOut: () => proof.zoomTo(proof.scale / 1.25),
    play: () => film.play(),
    timing: () => timeline.show(timeline.tab === "timing" ? "section" : "timing"),
    arrivals: () => panels.toggle("arrivals"),
    frameBack: () => timeline.stepBy(-1),
    frameOn: () => timeline.stepBy(1),
    tenBack: () => timeline.stepBy(-10),
    tenOn: () => timeline.stepBy(10),
    toStart: () => timeline.goTo(timeline.loop[0]),
    toEnd: () => timeline.goTo(timeline.loop[1] - motion.frame),
    pegBefore: () => goToPeg(-1),
    pegAfter: () => goToPeg(1),
  };

  useEventListener("keydown", (event: KeyboardEvent) => {
    const act = actOf(event);
    if (!act || typing(event) || !opened.ready || event.defaultPrevented) return;
    if (document.querySelector(".v-overlay--active[role='dialog'], .v-dialog.v-overlay--active")) return;
    if (event.repeat && act === "without") return;
    if (act === "play" && onControl(event)) return;
    event.preventDefault();
    ACTS[act]();
  });
  useEventListener("keyup", (event: KeyboardEvent) => {
    if (event.key.toLowerCase() === "w") chosen.without = false;
  });
  useEventListener("blur", () => (chosen.without = false));
}

/** The space bar presses what has the focus. */
function onControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return Boolean(target?.closest?.("button, a, summary, input, [role='button'], [role='slider']"));
}
