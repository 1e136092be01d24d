// Saving by itself: nothing acknowledged is lost, nothing unacknowledged is forgotten.
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import { useSaving } from "@/stores/saving";
import { title } from "./documents";

type Answer = { data?: unknown; error?: unknown; response: { status: number } };
const put = vi.spyOn(api, "PUT") as unknown as ReturnType<typeof vi.fn>;

const fine = (version: number): Answer => ({ data: { version }, response: { status: 200 } });
const named = (name: string) => ({ ...title(), name });

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  put.mockReset();
});
afterEach(() => vi.useRealTimers());

describe("saving", () => {
  it("waits for a pause and sends the newest state with its version", async () => {
    put.mockResolvedValue(fine(4));
    const saving = useSaving("t");
    saving.version.value = 3;
    saving.want(named("a"));
    saving.want(named("b"));
    expect(saving.state.value).toBe("waiting");
    expect(put).not.toHaveBeenCalled();
    await vi.runAllTimersAsync();
    expect(put).toHaveBeenCalledTimes(1);
    expect(put.mock.calls[0]![1].body).toMatchObject({ version: 3, document: { name: "b" } });
    expect(saving.state.value).toBe("saved");
    expect(saving.version.value).toBe(4);
  });

  it("keeps a draft until it is acknowledged", async () => {
    put.mockResolvedValue(fine(2));
    const saving = useSaving("t");
    saving.version.value = 1;
    saving.want(named("draft"));
    await vi.advanceTimersByTimeAsync(250);
    expect(await useSaving("t").draft()).toMatchObject({ version: 1, document: { name: "draft" } });
    await vi.runAllTimersAsync();
    expect(await useSaving("t").draft()).toBeNull();
  });

  it("saves again what changed while it was saving", async () => {
    let answer: (value: Answer) => void = () => undefined;
    put.mockReturnValueOnce(new Promise<Answer>((resolve) => (answer = resolve)));
    put.mockResolvedValueOnce(fine(3));
    const saving = useSaving("t");
    saving.version.value = 1;
    saving.want(named("first"));
    await vi.advanceTimersByTimeAsync(600);
    saving.want(named("second"));
    answer(fine(2));
    await vi.runAllTimersAsync();
    expect(put).toHaveBeenCalledTimes(2);
    expect(put.mock.calls[1]![1].body).toMatchObject({ version: 2, document: { name: "second" } });
    expect(saving.state.value).toBe("saved");
  });

  it("tries again while there is no connection", async () => {
    put.mockRejectedValueOnce(new TypeError("failed to fetch")).mockResolvedValueOnce(fine(2));
    const saving = useSaving("t");
    saving.want(named("a"));
    await vi.advanceTimersByTimeAsync(600);
    expect(saving.state.value).toBe("offline");
    expect(await saving.draft()).not.toBeNull();
    await vi.advanceTimersByTimeAsync(3000);
    expect(saving.state.value).toBe("saved");
  });

  it("says what the studio refused and keeps the draft", async () => {
    put.mockResolvedValue({ error: { message: "The disk is full." }, response: { status: 503 } });
    const saving = useSaving("t");
    saving.want(named("a"));
    await vi.advanceTimersByTimeAsync(600);
    expect(saving.fault.value).toBe("The disk is full.");
    expect(await saving.draft()).not.toBeNull();
  });

  it("stops on a stale save and offers the other state", async () => {
    const theirs = { id: "t", version: 5, document: named("theirs") };
    put.mockResolvedValueOnce({ error: theirs, response: { status: 409 } });
    const saving = useSaving("t");
    saving.version.value = 4;
    saving.want(named("mine"));
    await vi.runAllTimersAsync();
    expect(saving.state.value).toBe("conflict");
    expect(saving.other.value).toMatchObject({ version: 5, document: { name: "theirs" } });
    saving.want(named("mine, later"));
    await vi.runAllTimersAsync();
    expect(put).toHaveBeenCalledTimes(1); // nothing is overwritten meanwhile
    expect(await saving.draft()).toMatchObject({ document: { name: "mine, later" } });
  });

  it("goes on from the other version once one chose one's own", async () => {
    put.mockResolvedValueOnce({ error: { version: 5, document: named("theirs") }, response: { status: 409 } });
    put.mockResolvedValueOnce(fine(6));
    const saving = useSaving("t");
    saving.want(named("mine"));
    await vi.runAllTimersAsync();
    await saving.settle(named("mine"), 5);
    expect(put.mock.calls[1]![1].body).toMatchObject({ version: 5, document: { name: "mine" } });
    expect(saving.state.value).toBe("saved");
    expect(saving.version.value).toBe(6);
  });

  it("drops the draft once one took the other's", async () => {
    put.mockResolvedValueOnce({ error: { version: 5, document: named("theirs") }, response: { status: 409 } });
    const saving = useSaving("t");
    saving.want(named("mine"));
    await vi.runAllTimersAsync();
    saving.yieldTo(5);
    expect(await saving.draft()).toBeNull();
    expect(saving.version.value).toBe(5);
  });

  it("goes on where the browser's own store is full", async () => {
    put.mockResolvedValue(fine(2));
    const full = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    const saving = useSaving("t");
    saving.want(named("a"));
    await vi.runAllTimersAsync();
    expect(saving.state.value).toBe("saved");
    full.mockRestore();
  });
});
