// Painting parts: what a paint holds for, which part it falls on, how parts are walked and spread.
import { describe, expect, it } from "vitest";
import {
  addressOf, brushOf, canBePainted, ownerOf, scopeOf, SCOPES, spreadOf, towards, withBrush, withoutPaint, type BrokenPart,
} from "@/model/partPaints";

function part(name: string, changes: Partial<BrokenPart> = {}): BrokenPart {
  const [letter, kind, number] = name.split("-") as [string, BrokenPart["kind"], string];
  return {
    name, letter, kind, number: Number(number), facing: kind === "front" ? null : 0, place: [0.5, 0.5], middle: [0, 0], path: "M0 0Z",
    painted: null, colours: null, line: null, ...changes,
  };
}
const front = part("A1-front-1");
const side = part("A1-side-1", { facing: 90, place: [0.5, 1.2] });

describe("what a paint holds for", () => {
  it.each(SCOPES)("is told by its address: %s", (scope) => {
    expect(scopeOf(addressOf(side, scope))).toBe(scope);
  });
  it("is one part, its letter's, or all that face its way", () => {
    expect(addressOf(side, "part")).toEqual({ kind: "side", letter: "A1", facing: 90, place: [0.5, 1.2] });
    expect(addressOf(side, "letter")).toEqual({ kind: "side", letter: "A1", facing: 90 });
    expect(addressOf(side, "alike")).toEqual({ kind: "side", facing: 90 });
    expect(addressOf(side, "kind")).toEqual({ kind: "side" });
  });
  it("leaves shadows and backs alone", () => {
    expect([front, side, part("A1-back-1"), part("-shadow-1")].map(canBePainted)).toEqual([true, true, false, false]);
  });
});

describe("painting", () => {
  it("gives each part a paint of its own, without what is not said", () => {
    const paints = withBrush([], [front, side], "part", { colour: "#ff0000" });
    expect(paints).toEqual([
      { colour: "#ff0000", kind: "front", letter: "A1", place: [0.5, 0.5] },
      { colour: "#ff0000", kind: "side", letter: "A1", facing: 90, place: [0.5, 1.2] },
    ]);
    expect(brushOf(paints[1]!)).toEqual({ colour: "#ff0000" });
  });
  it("changes the paint that falls there, wherever it was made", () => {
    const made = [{ kind: "side" as const, letter: "A1", facing: 88, place: [0.48, 1.1] as [number, number], colour: "#111111" }];
    const moved = { ...side, painted: 0 };
    const next = withBrush(made, [moved], "part", { colour: "#222222" });
    expect(next).toEqual([{ ...made[0], colour: "#222222" }]);
  });
  it("adds one part's paint beside one that goes further", () => {
    const wide = [{ kind: "side" as const, colour: "#111111" }];
    const next = withBrush(wide, [{ ...side, painted: 0 }], "part", { colour: "#222222" });
    expect(next.map(scopeOf)).toEqual(["kind", "part"]);
    expect(withBrush(next, [{ ...side, painted: 0 }], "kind", { colour: "#333333" })[0]!.colour).toBe("#333333");
  });
  it("finds what was just painted before the engine has told of it", () => {
    const paints = withBrush([], [side], "part", {});
    expect(ownerOf(paints, side)).toBe(0);
    expect(ownerOf(paints, front)).toBe(-1);
    expect(ownerOf(paints, { ...front, painted: 0 })).toBe(-1); // answers that came too late
    expect(ownerOf(paints, part("B1-side-1", { facing: 90, place: [0, 0], painted: 0 }))).toBe(-1);
    expect(ownerOf(paints, part("A1-side-2", { facing: 270, place: [0, 0], painted: 0 }))).toBe(-1);
    expect(ownerOf(paints, part("A1-side-2", { facing: 100, place: [0, 0], painted: 0 }))).toBe(0);
  });
  it("takes paint away from what is picked alone", () => {
    const paints = withBrush([], [front, side], "part", {});
    expect(withoutPaint(paints, [side]).map((each) => each.kind)).toEqual(["front"]);
    expect(withoutPaint(paints, [part("B1-front-1")])).toHaveLength(2);
  });
  it("has no more than two thousand paints", () => {
    const full = Array.from({ length: 2000 }, (_, n) => ({ kind: "facet" as const, letter: `X${n}` }));
    expect(withBrush(full, [front], "part", {})).toHaveLength(2000);
  });
});

describe("walking and spreading", () => {
  const [left, right, below] = [part("A1-front-1"), part("B1-front-1", { middle: [100, 8] }), part("A1-side-1", { middle: [4, 60] })];
  const all = [left, right, below];
  it("goes to what lies nearest that way", () => {
    expect(towards(all, left, [1, 0])).toBe(right);
    expect(towards(all, left, [0, 1])).toBe(below);
    expect(towards(all, left, [-1, 0])).toBeNull();
    expect(towards(all, right, [-1, 0])).toBe(left);
  });
  it("moves nothing at 0, and letters away from one another beyond", () => {
    const none = spreadOf(all, 0);
    expect(none.size).toBe(1);
    expect(none.moves.every(({ x, y }) => x === 0 && y === 0)).toBe(true);
    const { moves, size } = spreadOf(all, 1);
    expect(moves[1]!.x).toBeGreaterThan(moves[0]!.x + 50);
    expect(moves[2]!.y).toBeGreaterThan(moves[0]!.y);
    expect(size).toBeLessThan(0.6);
  });
  it("lets what lies beneath all letters sink", () => {
    const shadow = part("-shadow-1", { letter: "" });
    expect(spreadOf([...all, shadow], 1).moves[3]!.y).toBeGreaterThan(0);
  });
});
