// The hand on the film or the ruler: the time goes where the pointer is.
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { stripScale, useFrames } from "@/stores/frames";
import { useProof } from "@/stores/proof";
import { EDGE, useTimeline } from "@/stores/timeline";
import { startDrag } from "./useDrag";

export function useScrubbing() {
  const clock = useClock();
  const film = useFilm();
  const frames = useFrames();
  const proof = useProof();
  const timeline = useTimeline();

  /** Tells which time a place on the screen stands for. */
  function timesOf(event: PointerEvent): (x: number) => number {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    return (x) => timeline.timeAt(Math.max(x - box.left, EDGE));
  }

  function press(event: PointerEvent): void {
    if (event.button !== 0) return;
    const timeAt = timesOf(event);
    const go = (x: number) => timeline.goTo(timeAt(x));
    go(event.clientX);
    clock.scrubbing = true;
    startDrag(event, ({ x }) => go(x), () => (clock.scrubbing = false));
  }
  /** A pointer that is not pressed yet: what it would show is made, unless something near is there. */
  function come(event: PointerEvent): void {
    if (event.buttons) return;
    const number = Math.round(timeline.momentOf(timesOf(event)(event.clientX)) * frames.fps);
    film.near = frames.nearest(number) ? null : { number, scale: stripScale(proof.frame.height) };
  }
  function leave(): void {
    film.near = null;
  }
  return { press, come, leave };
}
