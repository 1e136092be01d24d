// The part of the frame that is in sight, and where its pixels lie in a picture of all of it.

/** Frame pixels from the frame's upper left corner. */
export interface Part {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Pixels of a picture: where a part of it begins, and how large the whole is. */
export type PixelPlace = Part;

interface Size {
  width: number;
  height: number;
}

const ROOM = 0.4; // of what is in sight, on each side: a small move needs no other picture

/** What to ask for so that `seen` is there: `before` while that holds it, or null for the whole frame. */
export function partFor(frame: Size, seen: Part, before: Part | null): Part | null {
  const right = Math.min(seen.left + seen.width, frame.width);
  const bottom = Math.min(seen.top + seen.height, frame.height);
  const left = Math.max(seen.left, 0);
  const top = Math.max(seen.top, 0);
  if (right <= left || bottom <= top || (right - left) * (bottom - top) > 0.7 * frame.width * frame.height) {
    return null;
  }
  if (before && holds(before, left, top, right, bottom)) return before;
  const [across, down] = [(right - left) * ROOM, (bottom - top) * ROOM];
  const x = Math.max(Math.floor(left - across), 0);
  const y = Math.max(Math.floor(top - down), 0);
  return {
    left: x,
    top: y,
    width: Math.min(Math.ceil(right + across), frame.width) - x,
    height: Math.min(Math.ceil(bottom + down), frame.height) - y,
  };
}

function holds(part: Part, left: number, top: number, right: number, bottom: number): boolean {
  const [wide, high] = [right - left, bottom - top];
  const inside =
    part.left <= left && part.top <= top && part.left + part.width >= right && part.top + part.height >= bottom;
  return inside && part.width * part.height <= 6 * wide * high;
}

/** As the engine counts pixels: from the frame's centre, halves to the even number. */
export function placeInFrame(frame: Size, scale: number, part: Part): PixelPlace {
  const begin = (at: number, size: number) => Math.floor((at - size / 2) * scale + 0.5);
  return {
    left: begin(part.left, frame.width) - begin(0, frame.width),
    top: begin(part.top, frame.height) - begin(0, frame.height),
    width: Math.max(halfEven(frame.width * scale), 1),
    height: Math.max(halfEven(frame.height * scale), 1),
  };
}

function halfEven(value: number): number {
  const rounded = Math.round(value);
  return rounded - value === 0.5 && rounded % 2 ? rounded - 1 : rounded;
}
