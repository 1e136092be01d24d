// Undo and redo.
import { describe, expect, it } from "vitest";
import { useHistory } from "@/stores/history";

describe("history", () => {
  it("goes back and forth", () => {
    const history = useHistory("a");
    history.push("b");
    history.push("c");
    history.undo();
    expect(history.now.value).toBe("b");
    history.undo();
    expect(history.now.value).toBe("a");
    expect(history.canUndo.value).toBe(false);
    history.redo();
    expect(history.now.value).toBe("b");
    expect(history.canRedo.value).toBe(true);
  });

  it("takes back a whole gesture at once", () => {
    const history = useHistory(0);
    for (const value of [1, 2, 3]) history.push(value, "slider");
    history.undo();
    expect(history.now.value).toBe(0);
  });

  it("parts two gestures on the same setting", () => {
    const history = useHistory(0);
    history.push(1, "slider");
    history.push(2, "slider");
    history.endGesture();
    history.push(3, "slider");
    history.undo();
    expect(history.now.value).toBe(2);
  });

  it("forgets what was undone once something else is done", () => {
    const history = useHistory("a");
    history.push("b");
    history.undo();
    history.push("c");
    expect(history.canRedo.value).toBe(false);
    history.undo();
    expect(history.now.value).toBe("a");
  });

  it("does nothing at either end", () => {
    const history = useHistory("a");
    history.undo();
    history.redo();
    expect(history.now.value).toBe("a");
  });

  it("keeps a bounded number of states and the newest of them", () => {
    const history = useHistory(0);
    for (let i = 1; i <= 400; i++) history.push(i);
    expect(history.now.value).toBe(400);
    for (let i = 0; i < 500; i++) history.undo();
    expect(history.now.value).toBe(101);
  });
});
