// Small pictures of a title that moves, made ahead while nothing else is to be done: a hand that
// opens the timing view and scrubs finds one that is near, or sees its own one soon.
import { onScopeDispose, watch } from "vue";
import { COARSEST } from "@/model/pace";
import { coarseFirst } from "@/model/time/coarseFirst";
import { useChosen } from "@/stores/chosen";
import { useFilm } from "@/stores/film";
import { NEAR, stripScale, useFrames, type Wish } from "@/stores/frames";
import { useMotion } from "@/stores/motion";
import { useProof } from "@/stores/proof";
import { useTimeline } from "@/stores/timeline";

const REST = 700; // milliseconds in which nothing has happened
const APART = 1.6 * NEAR; // seconds
const MOST = 24;

export function useStripAhead() {
  const chosen = useChosen();
  const film = useFilm();
  const frames = useFrames();
  const motion = useMotion();
  const proof = useProof();
  const timeline = useTimeline();

  function wishes(): Wish[] {
    if (!motion.lanes.length) return [];
    const count = Math.min(Math.ceil(timeline.duration / APART), MOST);
    const scale = stripScale(proof.frame.height);
    const every = (timeline.duration * frames.fps) / count;
    const numbers = Array.from({ length: count }, (_, i) => Math.floor((i + 0.5) * every));
    // With the first, the engine has what stands still at the scale of a hand's first picture
    const first = { number: numbers[0] ?? 0, scale: proof.sharp(proof.frame) * COARSEST };
    return [first, ...coarseFirst(numbers.map((number) => ({ number, scale })))];
  }
  let rest: ReturnType<typeof setTimeout> | undefined;
  function afresh(): void {
    clearTimeout(rest);
    film.ahead = [];
    if (film.may) rest = setTimeout(() => (film.ahead = wishes()), REST);
  }
  watch([() => film.may, () => chosen.shown], afresh, { immediate: true });
  onScopeDispose(() => {
    clearTimeout(rest);
    film.ahead = [];
  });
}
