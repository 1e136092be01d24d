// The hand on the film or the ruler: the time goes where the pointer is.
import { useClock } from "@/stores/clock";
import { EDGE, useTimeline } from "@/stores/timeline";
import { startDrag } from "./useDrag";

export function useScrubbing() {
  const clock = useClock();
  const timeline = useTimeline();
  return (event: PointerEvent) => {
    if (event.button !== 0) return;
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const go = (x: number) => timeline.goTo(timeline.timeAt(Math.max(x - box.left, EDGE)));
    go(event.clientX);
    clock.scrubbing = true;
    startDrag(event, ({ x }) => go(x), () => (clock.scrubbing = false));
  };
}
