// Where a step counts: fresh forms that fit the lettering.
import type { Where } from "./title";

export type WhereKind = "everywhere" | NonNullable<Where>["kind"];

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A form of this kind over the middle of the lettering; null is everywhere. */
export function freshWhere(kind: WhereKind, box: Box | undefined, layer: string): Where | null {
  const { left, top, right, bottom } = box ?? { left: -300, top: -100, right: 300, bottom: 100 };
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  const [width, height] = [Math.round((right - left) * 0.6), Math.round((bottom - top) * 0.9)];
  const common = { inverted: false };
  const feather = Math.max(Math.round(height * 0.15), 2);
  switch (kind) {
    case "everywhere":
      return null;
    case "ellipse":
    case "rectangle":
      return { ...common, kind, x: Math.round(x), y: Math.round(y), width, height, turn: 0, feather };
    case "half":
      return { ...common, kind, x: Math.round(x), y: Math.round(y), turn: 90, feather };
    case "outline":
      return { ...common, kind, grow: 0, feather: 1 };
    case "polygon": {
      const [a, b] = [width / 2, height / 2];
      const points: [number, number][] = [[x - a, y - b], [x + a, y - b], [x + a, y + b], [x - a, y + b]];
      return { ...common, kind, points, feather };
    }
    case "tones":
      return { ...common, kind, low: 0.5, high: 1, soft: 0.2 };
    case "matte":
      return { ...common, kind, layer };
  }
}
