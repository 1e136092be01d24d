import { describe, expect, it } from "vitest";
import { partFor, placeInFrame } from "@/model/part";

const FRAME = { width: 1920, height: 1080 };

describe("what of the frame is asked for", () => {
  it("is all of it while most of it is in sight", () => {
    expect(partFor(FRAME, { left: -20, top: -20, width: 1960, height: 1120 }, null)).toBeNull();
    expect(partFor(FRAME, { left: 100, top: 0, width: 1800, height: 1000 }, null)).toBeNull();
  });
  it("is what is in sight and some room around it, within the frame", () => {
    const part = partFor(FRAME, { left: 600, top: 300, width: 400, height: 200 }, null)!;
    expect(part).toEqual({ left: 440, top: 220, width: 720, height: 360 });
    const corner = partFor(FRAME, { left: -100, top: -50, width: 400, height: 200 }, null)!;
    expect([corner.left, corner.top]).toEqual([0, 0]);
  });
  it("stays the same for a small move, and follows a large one", () => {
    const part = partFor(FRAME, { left: 600, top: 300, width: 400, height: 200 }, null)!;
    expect(partFor(FRAME, { left: 640, top: 320, width: 400, height: 200 }, part)).toBe(part);
    expect(partFor(FRAME, { left: 900, top: 300, width: 400, height: 200 }, part)).not.toBe(part);
  });
  it("is made smaller where one has come much closer", () => {
    const part = partFor(FRAME, { left: 600, top: 300, width: 400, height: 200 }, null)!;
    const closer = partFor(FRAME, { left: 700, top: 350, width: 100, height: 50 }, part)!;
    expect(closer.width).toBeLessThan(part.width);
  });
  it("is all of it where nothing of it is in sight", () => {
    expect(partFor(FRAME, { left: 3000, top: 0, width: 100, height: 50 }, null)).toBeNull();
  });
});

describe("where a part's pixels lie", () => {
  it("follows from the frame's centre, as the engine counts", () => {
    expect(placeInFrame(FRAME, 0.5, { left: 440, top: 220, width: 720, height: 360 })).toEqual({
      left: 220, top: 110, width: 960, height: 540,
    });
    expect(placeInFrame({ width: 1501, height: 3 }, 0.5, { left: 1, top: 1, width: 9, height: 1 }).width).toBe(750);
  });
});
