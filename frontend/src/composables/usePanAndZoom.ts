// Moving and enlarging the proof with wheel, pinch, pointer and keys; panes share one view.
import { useDevicePixelRatio, useEventListener } from "@vueuse/core";
import { startDrag } from "./useDrag";
import { useProof } from "@/stores/proof";

const STEP = 30; // pixels that an arrow key moves the picture

export function usePanAndZoom() {
  const proof = useProof();
  const { pixelRatio } = useDevicePixelRatio();

  function local(event: MouseEvent, pane: HTMLElement): { x: number; y: number } {
    const box = pane.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }
  function track(event: PointerEvent): void {
    const { x, y } = local(event, event.currentTarget as HTMLElement);
    proof.pointer = proof.toFrame(x, y);
  }
  /** A press that moves nothing leaves a fitted proof fitted. */
  function press(event: PointerEvent): void {
    if (event.button > 1) return;
    let last = { dx: 0, dy: 0 };
    startDrag(event, ({ dx, dy }) => {
      proof.panBy(dx - last.dx, dy - last.dy);
      last = { dx, dy };
    });
    (event.currentTarget as HTMLElement).focus();
  }
  function wheel(event: WheelEvent): void {
    const pane = (event.target as HTMLElement).closest<HTMLElement>(".pane");
    if (!pane) return;
    event.preventDefault();
    const { x, y } = local(event, pane);
    if (event.shiftKey) proof.panBy(-event.deltaY, 0);
    else proof.zoomTo(proof.scale * Math.exp(-event.deltaY * 0.0016), x, y);
  }
  function keys(event: KeyboardEvent): void {
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [STEP, 0], ArrowRight: [-STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP],
    };
    const pan = arrows[event.key];
    if (pan && event.target === event.currentTarget) proof.panBy(...pan);
    else if (event.key === "+" || event.key === "=") proof.zoomTo(proof.scale * 1.25);
    else if (event.key === "-") proof.zoomTo(proof.scale / 1.25);
    else if (event.key === "0") proof.fit();
    else if (event.key === "1") proof.zoomTo(1 / pixelRatio.value);
    else return;
    event.preventDefault();
  }
  // The browser's own wheel zoom must be kept away, which a passive listener can't.
  useEventListener("wheel", wheel, { passive: false });
  return { track, press, keys };
}
