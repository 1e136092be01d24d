// Node has no IndexedDB: a map stands in for it, empty before each test.
import { beforeEach, vi } from "vitest";

const kept = vi.hoisted(() => new Map<unknown, unknown>());
vi.mock("idb-keyval", () => ({
  get: (key: unknown) => Promise.resolve(kept.get(key)),
  set: (key: unknown, value: unknown) => Promise.resolve(kept.set(key, value)),
  del: (key: unknown) => Promise.resolve(kept.delete(key)),
}));
beforeEach(() => kept.clear());
