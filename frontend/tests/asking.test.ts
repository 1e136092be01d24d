// Asking the studio, files dropped on the page, strips of the shelf, lists that stay the same.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, nextTick, ref } from "vue";
import { stable } from "@/composables/stable";
import { useFileDrop } from "@/composables/useFileDrop";
import { useTitleStrip } from "@/composables/useTitleStrip";
import { useAsked } from "@/stores/asked";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

beforeEach(() => {
  setActivePinia(createPinia());
  vi.restoreAllMocks();
});

describe("asking", () => {
  it("gives what came back and says nothing", async () => {
    const { asked, went } = useAsked();
    expect(await asked(Promise.resolve({ data: 7 }))).toBe(7);
    expect(await went(Promise.resolve({}))).toBe(true);
    expect(useNotices().shown).toBeNull();
  });
  it("says what the studio refuses", async () => {
    const { asked, went } = useAsked();
    const refused = () => Promise.resolve({ error: { message: "no such font" } });
    expect(await asked(refused())).toBeUndefined();
    expect(await went(refused())).toBe(false);
    expect(useNotices().shown?.text).toBe("no such font");
  });
  it("says that nobody answers", async () => {
    const { asked, went } = useAsked();
    expect(await asked(Promise.reject(new TypeError()))).toBeUndefined();
    expect(await went(Promise.reject(new TypeError()))).toBe(false);
    expect(useNotices().shown?.text).toBe(text.error.network);
  });
});

describe("dropped files", () => {
  function drag(kind: string, files: File[], more: object = {}): Event {
    const event = new Event(kind, { cancelable: true });
    return Object.assign(event, { dataTransfer: { types: ["Files"], files }, ...more });
  }
  it("are taken, and shown while they are held", () => {
    const take = vi.fn();
    const scope = effectScope();
    const over = scope.run(() => useFileDrop(take))!;
    const held = drag("dragover", []);
    window.dispatchEvent(held);
    expect(held.defaultPrevented).toBe(true);
    expect(over.value).toBe(true);
    window.dispatchEvent(drag("dragleave", [], { relatedTarget: null }));
    expect(over.value).toBe(false);
    const file = new File(["x"], "x.png");
    window.dispatchEvent(drag("drop", [file]));
    window.dispatchEvent(drag("drop", []));
    expect(take.mock.calls).toEqual([[[file]]]);
    scope.stop();
  });
});

describe("the strip of a title", () => {
  it("is fetched once it is in sight, and given up on leaving", async () => {
    const signals: AbortSignal[] = [];
    vi.stubGlobal("fetch", (_: string, { signal }: { signal: AbortSignal }) => {
      signals.push(signal);
      return new Promise(() => undefined);
    });
    const address = ref<string | null>(null);
    const scope = effectScope();
    scope.run(() => useTitleStrip(address));
    await new Promise((done) => setTimeout(done, 5));
    expect(signals).toHaveLength(0);
    address.value = "/strip";
    await nextTick();
    await new Promise((done) => setTimeout(done, 5));
    expect(signals).toHaveLength(1);
    scope.stop();
    expect(signals[0]!.aborted).toBe(true);
    vi.unstubAllGlobals();
  });
});

describe("a stable list", () => {
  it("is the same one while what is in it is", () => {
    const source = ref([1, 2]);
    const list = stable(() => source.value.map((each) => ({ each })));
    const first = list.value;
    source.value = [1, 2];
    expect(list.value).toBe(first);
    source.value = [1, 3];
    expect(list.value).toEqual([{ each: 1 }, { each: 3 }]);
  });
});
