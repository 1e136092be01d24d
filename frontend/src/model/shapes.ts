// Shapes of one's own, and drawn paths: places with two handles each (mabrel/title/shapes.py).
import type { components } from "@/api/schema";
import type { Point } from "./card";

export type Shape = components["schemas"]["Shape"];
export type Form = NonNullable<Shape["form"]>;
/** x, y, and how far off the ends of the handle before and after it lie. */
export type Node = [number, number, number, number, number, number];

const tenth = (value: number) => Math.round(value * 10) / 10;

export function movedNode(node: Node, to: Point): Node {
  return [tenth(to.x), tenth(to.y), node[2], node[3], node[4], node[5]];
}
/** With the end of one handle there; the other one stays opposite, unless it is `broken` off. */
export function pulledNode(node: Node, which: "before" | "after", to: Point, broken: boolean): Node {
  const [dx, dy] = [tenth(to.x - node[0]), tenth(to.y - node[1])];
  const [x, y, bx, by, ax, ay] = node;
  if (which === "before") return [x, y, dx, dy, ...(broken ? [ax, ay] : opposite(dx, dy, ax, ay))] as Node;
  return [x, y, ...(broken ? [bx, by] : opposite(dx, dy, bx, by)), dx, dy] as Node;
}
/** As long as it was, on the other side. */
function opposite(dx: number, dy: number, x: number, y: number): [number, number] {
  const [long, was] = [Math.hypot(dx, dy), Math.hypot(x, y)];
  return long && was ? [tenth((-dx / long) * was), tenth((-dy / long) * was)] : [x, y];
}

/** A place on the curve between two nodes. */
export function onCurve(from: Node, to: Node, t: number): Point {
  const s = 1 - t;
  const at = (axis: 0 | 1) =>
    s ** 3 * from[axis] + 3 * s * s * t * (from[axis] + from[axis + 4]!) + 3 * s * t * t * (to[axis] + to[axis + 2]!) + t ** 3 * to[axis];
  return { x: at(0), y: at(1) };
}
/** The nodes with one more half way between two, the curve the same (de Casteljau). */
export function splitAfter(nodes: readonly Node[], index: number): Node[] {
  const [from, to] = [nodes[index]!, nodes[(index + 1) % nodes.length]!];
  const mid = (a: Point, b: Point) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const [p0, p3] = [{ x: from[0], y: from[1] }, { x: to[0], y: to[1] }];
  const [p1, p2] = [{ x: p0.x + from[4], y: p0.y + from[5] }, { x: p3.x + to[2], y: p3.y + to[3] }];
  const [a, b, c] = [mid(p0, p1), mid(p1, p2), mid(p2, p3)];
  const [d, e] = [mid(a, b), mid(b, c)];
  const m = mid(d, e);
  const changed = nodes.map((each) => [...each] as Node);
  const next = (index + 1) % nodes.length;
  [changed[index]![4], changed[index]![5]] = [tenth(a.x - p0.x), tenth(a.y - p0.y)];
  [changed[next]![2], changed[next]![3]] = [tenth(c.x - p3.x), tenth(c.y - p3.y)];
  const added = [m.x, m.y, d.x - m.x, d.y - m.y, e.x - m.x, e.y - m.y].map(tenth) as Node;
  return [...changed.slice(0, index + 1), added, ...changed.slice(index + 1)];
}
/** Places along the whole path, for a line over the picture. */
export function pathPoints(nodes: readonly Node[], closed: boolean, steps = 16): Point[] {
  const pairs = nodes.slice(0, closed ? undefined : -1).map((node, i) => [node, nodes[(i + 1) % nodes.length]!] as const);
  const points = pairs.flatMap(([from, to]) => Array.from({ length: steps }, (_, i) => onCurve(from, to, i / steps)));
  const last = nodes.at(-1)!;
  return closed ? points : [...points, { x: last[0], y: last[1] }];
}
