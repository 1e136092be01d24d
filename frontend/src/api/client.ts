// The studio's API. Types are generated from its OpenAPI document.
import createClient from "openapi-fetch";
import type { paths } from "./schema";

export const api = createClient<paths>({ baseUrl: "/" });

// In a studio that others can reach, a login may end while a page is open.
api.use({
  onResponse({ response }) {
    if (response.status === 401) location.assign(`/login?next=${encodeURIComponent(location.pathname)}`);
  },
});

/** Names this window to the render desk, where a newer request drops the older one. */
export const session = crypto.randomUUID();

/** What an answer holds that was asked for as a file; undefined where it holds none. */
export function blobOf(answer: { response: Response; data?: unknown }): Blob | undefined {
  return answer.response.status === 200 && answer.data instanceof Blob ? answer.data : undefined;
}
export function bytesOf(answer: { data?: unknown }): ArrayBuffer {
  return answer.data instanceof ArrayBuffer ? answer.data : new ArrayBuffer(0);
}

export interface Fault {
  message: string;
  place: string;
  rule: string;
}

/** What an answer says went wrong, in one sentence. */
export function saidBy(error: unknown): string {
  if (typeof error === "object" && error !== null && "message" in error) return String(error.message);
  return String(error);
}
