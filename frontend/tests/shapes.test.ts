import { describe, expect, it } from "vitest";
import { movedNode, onCurve, pathPoints, pulledNode, splitAfter, type Node } from "@/model/shapes";

const ARC: Node[] = [[0, 0, 0, 0, 0, -50], [100, 0, 0, -50, 0, 0]];

describe("drawn paths", () => {
  it("are the same curve with one place more", () => {
    const more = splitAfter(ARC, 0);
    expect(more).toHaveLength(3);
    for (const t of [0.1, 0.3, 0.5, 0.8, 1]) {
      const whole = onCurve(ARC[0]!, ARC[1]!, t);
      const part = t < 0.5 ? onCurve(more[0]!, more[1]!, t * 2) : onCurve(more[1]!, more[2]!, t * 2 - 1);
      expect(part.x).toBeCloseTo(whole.x, 0);
      expect(part.y).toBeCloseTo(whole.y, 0);
    }
  });
  it("keep handles opposite, unless one is broken off", () => {
    const node: Node = [10, 10, -20, 0, 40, 0];
    expect(pulledNode(node, "after", { x: 10, y: 40 }, false)).toEqual([10, 10, -0, -20, 0, 30]);
    expect(pulledNode(node, "before", { x: 10, y: 0 }, true)).toEqual([10, 10, 0, -10, 40, 0]);
    expect(movedNode(node, { x: 1.26, y: -3 })).toEqual([1.3, -3, -20, 0, 40, 0]);
  });
  it("run through their places, open or closed", () => {
    expect(pathPoints(ARC, false).at(-1)).toEqual({ x: 100, y: 0 });
    expect(pathPoints(ARC, true)).toHaveLength(32);
    expect(pathPoints(ARC, false)[0]).toEqual({ x: 0, y: 0 });
  });
});
