// Pictures and clips of titles, for elsewhere.
import { defineStore } from "pinia";
import { api, blobOf, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import { give } from "@/model/files";
import type { Title } from "@/model/title";
import { text } from "@/text";

type Picture = components["schemas"]["ExportRequest"];
type Clip = components["schemas"]["ClipRequest"];
type Zip = components["schemas"]["ZipRequest"];

export const useExports = defineStore("exports", () => {
  /** Gives a PNG; null, or what is wrong in one sentence. */
  async function picture(of: Picture): Promise<string | null> {
    try {
      const answer = await api.POST("/api/export", { body: of, parseAs: "blob" });
      const made = blobOf(answer);
      if (!made) return saidBy(answer.error);
      give(made, `${of.document.name || "title"}.png`);
      return null;
    } catch {
      return text.error.network;
    }
  }
  const clip = (of: Clip) => api.POST("/api/clips", { body: of });
  const zip = (of: Zip) => api.POST("/api/zips", { body: of });
  /** A title that is saved anew beside another one of its kind; its id, or null. */
  async function copyOf(id: string, document: Title): Promise<string | null> {
    const made = await api.POST("/api/titles/{title_id}/duplicate", { params: { path: { title_id: id } } });
    if (!made.data) return null;
    const params = { path: { title_id: made.data.id } };
    await api.PUT("/api/titles/{title_id}", { params, body: { version: made.data.version, document } });
    return made.data.id;
  }
  return { picture, clip, zip, copyOf };
});
