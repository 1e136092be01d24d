// Dragging with the pointer, from press to release, wherever the pointer goes.

export interface DragStep {
  x: number;
  y: number;
  dx: number;
  dy: number;
  fine: boolean;
  coarse: boolean;
}

/** Follow a pressed pointer; `dx` and `dy` count from where it was pressed. */
export function startDrag(
  press: PointerEvent,
  onMove: (step: DragStep, event: PointerEvent) => void,
  onEnd: () => void = () => undefined,
): void {
  press.preventDefault();
  const x0 = press.clientX;
  const y0 = press.clientY;

  function move(event: PointerEvent) {
    onMove(
      {
        x: event.clientX,
        y: event.clientY,
        dx: event.clientX - x0,
        dy: event.clientY - y0,
        fine: event.shiftKey,
        coarse: event.ctrlKey || event.metaKey,
      },
      event,
    );
  }
  function end() {
    window.removeEventListener("pointermove", move);
    window.removeEventListener("pointerup", end);
    window.removeEventListener("pointercancel", end);
    onEnd();
  }
  window.addEventListener("pointermove", move);
  window.addEventListener("pointerup", end);
  window.addEventListener("pointercancel", end);
}
