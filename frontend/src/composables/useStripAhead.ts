// Small pictures of a title that moves, made ahead while nothing else is to be done: a hand that
// opens the timing view and scrubs finds one that is near.
import { onScopeDispose, watch } from "vue";
import { coarseFirst } from "@/model/time/coarseFirst";
import { useChosen } from "@/stores/chosen";
import { NEAR, stripScale, useFilm, type Wish } from "@/stores/film";
import { useMotion } from "@/stores/motion";
import { useProof } from "@/stores/proof";
import { useTimeline } from "@/stores/timeline";

const REST = 700; // milliseconds in which nothing has happened
const APART = 1.6 * NEAR; // seconds
const MOST = 24;

export function useStripAhead() {
  const chosen = useChosen();
  const film = useFilm();
  const motion = useMotion();
  const proof = useProof();
  const timeline = useTimeline();

  function wishes(): Wish[] {
    if (!motion.lanes.length) return [];
    const count = Math.min(Math.ceil(timeline.duration / APART), MOST);
    const scale = stripScale(proof.frame.height);
    const every = (timeline.duration * film.fps) / count;
    return coarseFirst(Array.from({ length: count }, (_, i) => ({ number: Math.floor((i + 0.5) * every), scale })));
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
