// Where a layer's card is seen: the engine's own camera (mabrel/render/camera.py) in the page.
import { numberOf, type PlacedLayer, type Placement, type Title } from "./title";

export interface Point {
  x: number;
  y: number;
}
/** Row by row, 3 × 3. */
export type Matrix = number[];

/** From a layer's own pixels, from its centre, to frame pixels, from the frame's upper left. */
export interface Card {
  toFrame(point: Point): Point;
  /** The place on the card that is seen there; null where the card is edge on. */
  fromFrame(point: Point): Point | null;
}

export function cardOf(layer: PlacedLayer, title: Title): Card {
  const matrix = homography(layer, title);
  const back = inverted(matrix);
  const half = { x: title.frame.width / 2, y: title.frame.height / 2 };
  return {
    toFrame(point) {
      const seen = applied(matrix, point);
      return { x: seen.x + half.x, y: seen.y + half.y };
    },
    fromFrame(point) {
      return back && applied(back, { x: point.x - half.x, y: point.y - half.y });
    },
  };
}

/** Where something stands in the scene: its place, its turn and its scale. */
export interface Stand {
  place: [number, number, number];
  turn: Matrix;
  scale: number;
}

export function standOf(placement: Placement): Stand {
  return {
    place: [numberOf(placement.x), numberOf(placement.y), numberOf(placement.z)],
    turn: rotation(numberOf(placement.turn_x), numberOf(placement.turn_y), numberOf(placement.turn_z)),
    scale: numberOf(placement.scale, 1),
  };
}
/** A layer in the scene: measured in the axes of the handle that it hangs on. */
export function standing(layer: PlacedLayer, title: Title): Stand {
  const own = standOf(layer.placement);
  const handle = title.handles?.find((each) => each.id === layer.handle);
  if (!handle) return own;
  const base = standOf(handle.placement);
  const at = turned(base.turn, own.place);
  return {
    place: [0, 1, 2].map((axis) => base.place[axis]! + at[axis]! * base.scale) as Stand["place"],
    turn: times(base.turn, own.turn),
    scale: own.scale * base.scale,
  };
}
/** What the camera's way around the frame's centre does to all that has a place. */
export function swung({ camera }: Title): Matrix {
  return times(rotation(-numberOf(camera.rise), 0, 0), rotation(0, -numberOf(camera.swing), 0));
}
export function turned(m: Matrix, [x, y, z]: [number, number, number]): [number, number, number] {
  const row = (i: number) => m[i]! * x + m[i + 1]! * y + m[i + 2]! * z;
  return [row(0), row(3), row(6)];
}

function homography(layer: PlacedLayer, title: Title): Matrix {
  const { camera } = title;
  const [px, py, distance] = [numberOf(camera.pan), numberOf(camera.lift), numberOf(camera.distance, 2000)];
  const swing = swung(title);
  const { place: at, turn: own, scale } = standing(layer, title);
  const [x, y, z] = turned(swing, at);
  const turn = times(swing, own);
  const column = (i: number): [number, number, number] => {
    const [a, b, c] = [turn[i]! * scale, turn[3 + i]! * scale, turn[6 + i]! * scale];
    return [a * distance - px * c, b * distance - py * c, -c];
  };
  const [across, down] = [column(0), column(1)];
  const place = [x * distance - px * z, y * distance - py * z, distance - z];
  return [0, 1, 2].flatMap((row) => [across[row]!, down[row]!, place[row]!]);
}

/** Rx · Ry · Rz, as CSS chains them. */
function rotation(x: number, y: number, z: number): Matrix {
  const [sx, cx] = wave(x);
  const [sy, cy] = wave(y);
  const [sz, cz] = wave(z);
  return times(times([1, 0, 0, 0, cx, -sx, 0, sx, cx], [cy, 0, sy, 0, 1, 0, -sy, 0, cy]), [cz, -sz, 0, sz, cz, 0, 0, 0, 1]);
}
function wave(degrees: number): [number, number] {
  const turn = (degrees * Math.PI) / 180;
  return [Math.sin(turn), Math.cos(turn)];
}
function times(a: Matrix, b: Matrix): Matrix {
  return a.map((_, i) => {
    const [row, column] = [Math.floor(i / 3) * 3, i % 3];
    return a[row]! * b[column]! + a[row + 1]! * b[column + 3]! + a[row + 2]! * b[column + 6]!;
  });
}
function applied(m: Matrix, { x, y }: Point): Point {
  const w = m[6]! * x + m[7]! * y + m[8]!;
  return { x: (m[0]! * x + m[1]! * y + m[2]!) / w, y: (m[3]! * x + m[4]! * y + m[5]!) / w };
}
function inverted(m: Matrix): Matrix | null {
  const [a, b, c, d, e, f, g, h, i] = m as [number, number, number, number, number, number, number, number, number];
  const [A, B, C] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const determinant = a * A + b * B + c * C;
  if (Math.abs(determinant) < 1e-9) return null;
  const adjugate = [A, c * h - b * i, b * f - c * e, B, a * i - c * g, c * d - a * f, C, b * g - a * h, a * e - b * d];
  return adjugate.map((value) => value / determinant);
}
