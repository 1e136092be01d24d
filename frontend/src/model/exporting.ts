// What is to be exported, as the studio understands it, and how it is told.
import type { components } from "@/api/schema";
import type { Title } from "./title";

type Schemas = components["schemas"];
export type Order = Required<Schemas["Order"]>;
export type Forms = Schemas["Forms"];
export type Form = Schemas["Form"];
export type ExportState = Schemas["ExportState"];
export type Kind = Order["kind"];

export const KINDS: readonly Kind[] = ["picture", "layers", "parts", "clip", "frames"];

/** An order with all that it leaves out. */
export function wholeOrder(order: Partial<Schemas["Order"]> = {}): Order {
  return {
    kind: "picture", form: "png", depth: null, quality: 90, passes: "none", scale: 1, time: null, start: 0, end: null,
    rate: null, hidden: "cut", backdrop: true, plate: true, ground: "#000000", ...order,
  };
}
/** The formats in which a kind can be had. */
export function formsOf(kind: Kind, forms: Forms): Form[] {
  if (kind === "layers") return [];
  if (kind === "parts") return forms.parts;
  return kind === "clip" ? forms.clips : forms.stills;
}
export function formOf(order: Order, forms: Forms): Form | undefined {
  return formsOf(order.kind, forms).find(({ name }) => name === order.form);
}
/** The order with other settings; what doesn't fit them any more falls back to what is usual. */
export function withOrder(order: Order, changes: Partial<Order>, forms: Forms): Order {
  const next = { ...order, ...changes };
  if (next.kind === "layers") return { ...next, form: "ora", depth: null, passes: "none", hidden: "cut" };
  const there = formsOf(next.kind, forms);
  const form = there.find(({ name }) => name === next.form) ?? there[0];
  const depth = form?.depths.includes(next.depth ?? "") ? next.depth : (form?.depths[0] ?? null);
  const drawn = form?.scales === false;
  const [scale, hidden] = drawn ? [1, next.hidden] : [next.scale, "cut" as const];
  return { ...next, form: form?.name ?? next.form, depth, scale, hidden, passes: form?.name === "exr" ? next.passes : "none" };
}
export const isMoving = (order: Order) => order.kind === "clip" || order.kind === "frames";

/** How many frames it has. */
export function framesOf(order: Order, title: Title): number {
  if (!isMoving(order)) return 1;
  const rate = rateOf(order.rate) ?? title.frame.fps;
  return Math.max(Math.round(((order.end ?? title.frame.duration) - order.start) * rate), 1);
}
/** A rate that is written as a fraction or a number. */
export function rateOf(written: string | null): number | null {
  if (written === null) return null;
  const [above, below = "1"] = written.split("/");
  const rate = Number(above) / Number(below);
  return Number.isFinite(rate) && rate > 0 ? rate : null;
}

const UNITS = ["B", "kB", "MB", "GB", "TB"];
export function sizeTold(bytes: number): string {
  let [size, unit] = [bytes, 0];
  while (size >= 1000 && unit < UNITS.length - 1) [size, unit] = [size / 1000, unit + 1];
  return `${size < 10 && unit ? size.toFixed(1) : Math.round(size)} ${UNITS[unit]}`;
}
export function timeTold(seconds: number): string {
  if (seconds < 90) return `${Math.max(Math.round(seconds), 1)} s`;
  return seconds < 5400 ? `${Math.round(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`;
}

/** The title as an order shows it: without the backdrops and floors, or the plate, that it leaves out. */
export function asOrdered(title: Title, order: Pick<Order, "backdrop" | "plate">): Title {
  const leftOut = ({ kind }: Title["layers"][number]) =>
    kind === "plate" ? !order.plate : (kind === "backdrop" || kind === "floor") && !order.backdrop;
  return { ...title, layers: title.layers.map((layer) => (leftOut(layer) ? { ...layer, visible: false } : layer)) };
}
export const hasPlate = (title: Title) => title.layers.some(({ kind }) => kind === "plate");
export const hasBackdrop = (title: Title) => title.layers.some(({ kind }) => kind === "backdrop" || kind === "floor");
