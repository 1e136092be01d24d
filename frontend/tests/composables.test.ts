// Small parts that others stand on: turns, the latest answer, drags.
import { effectScope, nextTick, ref } from "vue";
import { describe, expect, it, vi } from "vitest";
import { turns } from "@/composables/turns";
import { startDrag } from "@/composables/useDrag";
import { useLatest } from "@/composables/useLatest";

function later<T>() {
  let done!: (value: T) => void;
  const promise = new Promise<T>((resolve) => (done = resolve));
  return { promise, done };
}
const settle = () => new Promise((resolve) => setTimeout(resolve));

describe("turns", () => {
  it("lets only so many run at once, in the order in which they came", async () => {
    const { inTurn } = turns(2);
    const works = [later<number>(), later<number>(), later<number>()];
    const begun: number[] = [];
    const { signal } = new AbortController();
    const all = works.map((work, i) => inTurn(() => (begun.push(i), work.promise), signal));
    await settle();
    expect(begun).toEqual([0, 1]);
    works[1]!.done(1);
    await settle();
    expect(begun).toEqual([0, 1, 2]);
    works[0]!.done(0);
    works[2]!.done(2);
    expect(await Promise.all(all)).toEqual([0, 1, 2]);
  });
  it("does not begin what was given up meanwhile, and goes on after a failure", async () => {
    const { inTurn } = turns(1);
    const first = later<number>();
    const control = new AbortController();
    const work = vi.fn();
    const running = inTurn(() => first.promise, new AbortController().signal);
    const given = inTurn(work, control.signal);
    const failing = inTurn(() => Promise.reject(new Error("no")), new AbortController().signal);
    const last = inTurn(() => Promise.resolve(4), new AbortController().signal);
    control.abort();
    first.done(1);
    await running;
    expect(await given).toBeUndefined();
    expect(work).not.toHaveBeenCalled();
    await expect(failing).rejects.toThrow("no");
    expect(await last).toBe(4);
  });
});

describe("turns with places", () => {
  it("begin with the lowest of those that wait, the first of those that are alike", async () => {
    const { inTurn } = turns(1);
    const first = later<void>();
    const begun: string[] = [];
    const { signal } = new AbortController();
    const running = inTurn(() => first.promise, signal, 9);
    const rest = [["c", 3], ["a", 1], ["d", 3], ["b", 2]] as const;
    const all = rest.map(([name, place]) => inTurn(() => Promise.resolve(begun.push(name)), signal, place));
    first.done();
    await Promise.all([running, ...all]);
    expect(begun.join("")).toBe("abcd");
  });
});

describe("the latest answer", () => {
  it("is that of the latest question, however late others come", async () => {
    const question = ref<number | null>(1);
    const answers: Record<number, ReturnType<typeof later<string>>> = { 1: later(), 2: later() };
    const scope = effectScope();
    const { answer } = scope.run(() => useLatest(question, (n) => answers[n]!.promise))!;
    await settle();
    question.value = 2;
    await nextTick();
    await settle();
    answers[2]!.done("second");
    await settle();
    answers[1]!.done("first");
    await settle();
    expect(answer.value).toBe("second");
    question.value = null;
    await nextTick();
    await settle();
    expect(answer.value).toBe("second"); // nothing is asked for: the last answer stays
    scope.stop();
  });
  it("stays when the connection drops", async () => {
    const question = ref<number | null>(1);
    const ask = vi.fn().mockResolvedValueOnce("kept").mockRejectedValueOnce(new TypeError("offline"));
    const scope = effectScope();
    const { answer } = scope.run(() => useLatest(question, ask))!;
    await settle();
    question.value = 2;
    await nextTick();
    await settle();
    expect(ask).toHaveBeenCalledTimes(2);
    expect(answer.value).toBe("kept");
    scope.stop();
  });
  it("asks only once for a quick row of questions, and not at all when it is left", async () => {
    vi.useFakeTimers();
    const question = ref<number | null>(1);
    const ask = vi.fn().mockResolvedValue("x");
    const scope = effectScope();
    scope.run(() => useLatest(question, ask, 50));
    for (const n of [2, 3, 4]) {
      question.value = n;
      await nextTick();
      vi.advanceTimersByTime(20);
    }
    vi.advanceTimersByTime(60);
    expect(ask).toHaveBeenCalledTimes(1);
    expect(ask.mock.calls[0]![0]).toBe(4);
    question.value = 5;
    await nextTick();
    scope.stop();
    vi.advanceTimersByTime(100);
    expect(ask).toHaveBeenCalledTimes(1);
    vi.useRealTimers();
  });
});

describe("a drag", () => {
  const pointer = (type: string, x: number, y: number, shiftKey = false) =>
    new MouseEvent(type, { clientX: x, clientY: y, shiftKey, cancelable: true }) as PointerEvent;

  it("counts from where it was pressed until it is let go", () => {
    const move = vi.fn();
    const end = vi.fn();
    startDrag(pointer("pointerdown", 10, 20), move, end);
    window.dispatchEvent(pointer("pointermove", 13, 15, true));
    expect(move.mock.calls[0]![0]).toEqual({ x: 13, y: 15, dx: 3, dy: -5, fine: true, coarse: false });
    window.dispatchEvent(pointer("pointerup", 13, 15));
    window.dispatchEvent(pointer("pointermove", 50, 50));
    expect(move).toHaveBeenCalledTimes(1);
    expect(end).toHaveBeenCalledTimes(1);
  });
  it("ends when the pointer is taken away", () => {
    const end = vi.fn();
    startDrag(pointer("pointerdown", 0, 0), () => undefined, end);
    window.dispatchEvent(pointer("pointercancel", 0, 0));
    expect(end).toHaveBeenCalledTimes(1);
  });
});
